"""From readings to what is left: each suspect's share, what contradicts what, and where to measure next."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import cached_property
from itertools import combinations
from types import MappingProxyType

from ...base import RULEBOOK, HurbinError, Model
from .parts import Circuit, known_point
from .suspects import Outcome, Probe, State, Suspect, Table, probes, right_volts, suspects, table


class Reading(Model):
    """What a meter showed between two points, V."""

    probe: Probe
    volts: float


class _Weighing(Model):
    apart: float
    part_apart: float
    misses: float
    named: float
    source: str
    certainty: str


class _File(Model):
    weighing: _Weighing


WEIGHING = RULEBOOK.section("electrical/circuit/suspects.toml", _File).weighing


class Left(Model):
    """What the readings leave.

    shares: of each suspect, together 1. named: the one that holds nearly all of it. pairs: where no single
    one fits, those two together that do, the likeliest first. against: pairs of readings, by their place in
    what was read, that cannot both be true; none of them is used. unexplained: nothing known fits what was
    used.
    """

    shares: dict[str, float]
    named: str = ""
    pairs: list[tuple[str, str]] = []
    against: list[tuple[int, int]] = []
    unexplained: bool = False


class Next(Model):
    """The probe that tells most, and how many suspects are left, on average, once it was read."""

    probe: Probe
    bits: float
    left: float


def fits(expected: Outcome, percent: float) -> bool:
    """Can this reading be, where this was worked out? Percent of what is right there. A ghost is anything up
    to a half and more: it says nothing.
    """
    if expected.reads == "ghost":
        return percent < 75
    apart = WEIGHING.part_apart if expected.reads == "part" else WEIGHING.apart
    return abs(percent - expected.percent) <= apart


class Search:
    """One circuit in one state, with what was read of it."""

    def __init__(self, circuit: Circuit, state: State) -> None:
        self.circuit, self.state = circuit, state
        self.suspects = suspects(circuit)
        self.probes = probes(circuit)
        self.table: Table = table(circuit, state, self.suspects, self.probes)
        self.right = {(p.one, p.two): right_volts(circuit, p) for p in self.probes}

    def percent(self, reading: Reading) -> float:
        """A reading in percent of what is right there. Raises `point_unknown`, `probe_unknown`."""
        p = reading.probe
        for name in (p.one, p.two):
            known_point(self.circuit, name)
        right = self.right.get((p.one, p.two))
        if right is None:
            raise HurbinError(
                "probe_unknown",
                f"{p.one} to {p.two} tells nothing in this circuit.",
                field="probe",
                value=f"{p.one} to {p.two}",
            )
        return 100 * abs(reading.volts) / right

    def left(self, readings: Sequence[Reading]) -> Left:
        """What is left after these readings, in any order? Readings of one pair that differ are never used;
        where no single suspect fits the rest, two together are tried, and where no two fit, the readings that
        no one and no two explain together are named and left out.
        """
        said = [((r.probe.one, r.probe.two), self.percent(r)) for r in readings]
        alone = [self._fitting(self.table, x) for x in said]
        against = [
            (i, j)
            for i, j in combinations(range(len(said)), 2)
            if said[i][0] == said[j][0] and not alone[i] & alone[j]
        ]
        used = _without(against, len(said))
        if not used or _common(alone, used):
            return self._told(alone, used, against)
        double = [self._fitting(self._pairs, x) for x in said]
        found = _common(double, used)
        if found:
            weight = {s.id: s.weight for s in self.suspects}
            pairs = sorted(((a, b) for a, b in map(_two, found)), key=lambda p: -weight[p[0]] * weight[p[1]])
            return self._told(alone, [], against).model_copy(update={"pairs": pairs})
        against += [
            (i, j) for i, j in combinations(used, 2) if not alone[i] & alone[j] and not double[i] & double[j]
        ]
        used = _without(against, len(said))
        told = self._told(alone, used, against)
        return told.model_copy(update={"unexplained": not _common(alone, used)})

    def _fitting(self, of: Table, said: tuple[tuple[str, str], float]) -> set[str]:
        where, percent = said
        return {name for name, row in of.items() if fits(row[where], percent)}

    def _told(self, alone: Sequence[set[str]], used: Sequence[int], against: list[tuple[int, int]]) -> Left:
        weight = {
            s.id: s.weight * math.prod(1.0 if s.id in alone[i] else WEIGHING.misses for i in used)
            for s in self.suspects
        }
        total = math.fsum(weight.values())
        shares = {k: w / total for k, w in weight.items()}
        top = max(shares, key=lambda k: shares[k])
        fits_all = top in _common(alone, used) if used else False
        named = top if shares[top] > WEIGHING.named and fits_all else ""
        return Left(shares=shares, named=named, against=against)

    @cached_property
    def _pairs(self) -> Table:
        """What each probe reads where two are open at once."""
        single = [s for s in self.suspects if s.open and len(s.open) == 1]
        both = [
            Suspect(id=f"{a.id} & {b.id}", open=[*a.open, *b.open], weight=a.weight * b.weight)
            for a, b in combinations(single, 2)
        ]
        return table(self.circuit, self.state, both, self.probes)

    def next(
        self,
        left: Left,
        allowed: Sequence[Probe] | None = None,
        minutes: Mapping[str, float] = MappingProxyType({}),
    ) -> Next:
        """Which of the allowed probes tells most per minute? `minutes`: of a rung, where it takes longer than
        one. Raises ValueError where nothing is allowed.
        """
        best: tuple[float, Next] | None = None
        for p in self.probes if allowed is None else allowed:
            bits, after = self._tells((p.one, p.two), left.shares)
            takes = max(minutes.get(x.rpartition(".")[0], 1.0) for x in (p.one, p.two))
            found = Next(probe=p, bits=bits, left=after)
            if best is None or bits / takes > best[0] + 1e-12:
                best = (bits / takes, found)
        if best is None:
            raise ValueError("no probe is allowed")
        return best[1]

    def _tells(self, where: tuple[str, str], shares: Mapping[str, float]) -> tuple[float, float]:
        """How many bits this probe is expected to take off, and how many suspects remain on average."""
        groups: dict[str, list[float]] = {}
        for s in self.suspects:
            share = shares[s.id]
            if share < WEIGHING.misses:
                continue
            expected = self.table[s.id][where]
            if expected.reads == "ghost":
                # It may read as nothing or as part of it: it stands with both.
                for key in ("zero", "part"):
                    groups.setdefault(key, []).append(share / 2)
            else:
                step = 2 * WEIGHING.part_apart
                key = f"part{round(expected.percent / step)}" if expected.reads == "part" else expected.reads
                groups.setdefault(key, []).append(share)
        total = math.fsum(x for g in groups.values() for x in g)
        before = _entropy([x / total for g in groups.values() for x in g])
        after = math.fsum(
            math.fsum(g) / total * _entropy([x / math.fsum(g) for x in g]) for g in groups.values()
        )
        remain = math.fsum(math.fsum(g) / total * len(g) for g in groups.values())
        return before - after, remain


def _without(against: Sequence[tuple[int, int]], count: int) -> list[int]:
    out = {i for pair in against for i in pair}
    return [i for i in range(count) if i not in out]


def _common(fitting: Sequence[set[str]], used: Sequence[int]) -> set[str]:
    """Those that fit every reading that is used; of no reading there is nothing to fit."""
    return set.intersection(*(fitting[i] for i in used)) if used else set()


def _two(name: str) -> tuple[str, str]:
    a, _, b = name.partition(" & ")
    return a, b


def _entropy(shares: Sequence[float]) -> float:
    return -math.fsum(x * math.log2(x) for x in shares if x > 0)
