"""From readings to what is left: each suspect's share, what contradicts what, and what else fits."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from itertools import combinations
from typing import Literal

from ...base import RULEBOOK, HurbinError, Model
from .parts import Element, Position, Tap
from .points import joints, known_point, tied
from .suspects import Outcome, Probe, Suspect, Table, probes, right_volts, suspects, table
from .whole import Circuit
from .wired import State, carrying, loops, untold

What = Literal["volts", "carries", "closed"]


class Reading(Model):
    """What was read at a pair of points, in a state (none said: that of the search).

    what: volts between the two; whether a leg carries current (`volts` 1 or 0); whether a dead path between
    them is closed (1) or open (0).
    """

    probe: Probe
    volts: float
    state: State | None = None
    what: What = "volts"


class _Weighing(Model):
    apart: float
    part_apart: float
    misses: float
    named: float
    held: float
    source: str
    certainty: str


class _File(Model):
    weighing: _Weighing


WEIGHING = RULEBOOK.section("electrical/circuit/suspects.toml", _File).weighing
# A suspect in one of the ways in which the circuit may be: what hangs on it is not always known.
Way = tuple[str, int]


class Left(Model):
    """What the readings leave.

    shares: of each suspect, together 1. ways: the same, apart for each way in which the circuit may be. fit:
    those that fit everything that is used. named: the one that holds nearly all of it. pairs: where no single
    one fits, those two together that do, the likeliest first. against: pairs of readings, by their place in
    what was read, that cannot both be true; none of them is used. unexplained: nothing known fits what was
    used.
    """

    shares: dict[str, float]
    ways: dict[str, list[float]] = {}
    fit: list[str] = []
    named: str = ""
    pairs: list[tuple[str, str]] = []
    against: list[tuple[int, int]] = []
    unexplained: bool = False


def fits(expected: Outcome, percent: float) -> bool:
    """Can this reading be, where this was worked out? Percent of what is right there. A ghost is anything up
    to a half and more: it says nothing; nor does what electronics feed.
    """
    if expected.reads == "untold":
        return True
    if expected.reads == "ghost":
        return percent < 75
    apart = WEIGHING.part_apart if expected.reads == "part" else WEIGHING.apart
    return abs(percent - expected.percent) <= apart


def ways(circuit: Circuit) -> list[Circuit]:
    """The ways in which this circuit may be: where nobody said what hangs beneath its fuses, a control
    transformer may, on any two legs; another set on them may be connected or not.
    """
    if any(t.what == "second_set" for e in circuit.every for t in e.taps):
        return [circuit, _without_others(circuit)]
    fused = [i for i, e in enumerate(circuit.elements) if e.kind in ("fuse", "breaker")]
    if circuit.taps_known or circuit.conductors == 2 or not fused or any(e.taps for e in circuit.elements):
        return [circuit]
    at, out = fused[-1], [circuit]
    for legs in ((1, 2), (2, 3), (1, 3)):
        tap = Tap(id="unsaid", legs=legs, what="control_transformer")
        elements = list(circuit.elements)
        elements[at] = elements[at].model_copy(update={"taps": [tap]})
        out.append(circuit.model_copy(update={"elements": elements}))
    return out


def _without_others(circuit: Circuit) -> Circuit:
    """The same with no other set connected."""

    def alone(run: list[Element]) -> list[Element]:
        kept = {e.id: [t for t in e.taps if t.what != "second_set"] for e in run}
        return [e.model_copy(update={"taps": kept[e.id]}) for e in run]

    paths = [p.model_copy(update={"elements": alone(p.elements)}) for p in circuit.paths]
    return circuit.model_copy(update={"elements": alone(circuit.elements), "paths": paths})


# What says nothing is alike only to what says as little.
_MUTE = {"ghost": -1.0, "untold": -2.0}


class Search:
    """One circuit, in whichever states it was read; `state`: the one that is meant where none is said."""

    def __init__(self, circuit: Circuit, state: State) -> None:
        self.circuit, self.state = circuit, state
        self.suspects = suspects(circuit)
        self.probes = probes(circuit)
        self.ways = ways(circuit)
        self.right = {(p.one, p.two): right_volts(circuit, p) for p in self.probes}
        self._known: dict[State, list[Table]] = {}
        self._carry: dict[State, dict[str, frozenset[str]]] = {}
        self._untold: dict[State, frozenset[str]] = {}
        self._loops: dict[State, frozenset[str]] = {}
        self._opens = {s.id: set(s.open) for s in self.suspects}
        self._all = {(s.id, v) for s in self.suspects for v in range(len(self.ways))}

    @property
    def table(self) -> Table:
        """What each probe reads for each suspect in the state that is meant, the circuit as it is drawn."""
        return self.tables(self.state)[0]

    def tables(self, state: State) -> list[Table]:
        """The same for each way in which the circuit may be."""
        if state not in self._known:
            self._known[state] = [table(c, state, self.suspects, self.probes) for c in self.ways]
        return self._known[state]

    def percent(self, reading: Reading) -> float:
        """A reading in percent of what is right there. Raises `point_unknown`, `probe_unknown`."""
        p = self.pair(reading.probe)
        return 100 * abs(reading.volts) / self.right[p.one, p.two]

    def pair(self, p: Probe) -> Probe:
        """The pair of points as the search knows it, whichever tip is where. Raises `point_unknown`,
        `probe_unknown`.
        """
        for name in (p.one, p.two):
            known_point(self.circuit, name)
        for one, two in ((p.one, p.two), (p.two, p.one)):
            if (one, two) in self.right:
                return Probe(one=one, two=two)
        raise HurbinError(
            "probe_unknown",
            f"A reading from {p.one} to {p.two} tells nothing in this circuit.",
            field="probe",
            value=f"{p.one} to {p.two}",
            right="two legs at one rung, a leg to ground, or across one element",
        )

    def left(self, readings: Sequence[Reading]) -> Left:
        """What is left after these readings, in any order? Readings of one pair in one state that differ are
        never used; where no single suspect fits the rest, two together are tried, and where no two fit, the
        readings that no one and no two explain together are named and left out.
        """
        alone = [self._fitting(r) for r in readings]
        same = [(r.state, r.what, r.probe if r.what != "volts" else self.pair(r.probe)) for r in readings]
        against = [
            (i, j)
            for i, j in combinations(range(len(readings)), 2)
            if same[i] == same[j] and not alone[i] & alone[j]
        ]
        used = _without(against, len(readings))
        if not used or _common(alone, used):
            return self._told(alone, used, against)
        volts = [i for i in used if readings[i].what == "volts"]
        double = self._fitting_two({i: readings[i] for i in volts})
        found = _common(double, volts)
        if found:
            weight = {s.id: s.weight for s in self.suspects}
            pairs = sorted(
                ((a, b) for a, b in map(_two, found)), key=lambda p: (-weight[p[0]] * weight[p[1]], p)
            )
            return self._told(alone, [], against).model_copy(update={"pairs": pairs})
        against += [
            (i, j)
            for i, j in combinations(used, 2)
            if not alone[i] & alone[j] and not double.get(i, set()) & double.get(j, set())
        ]
        used = _without(against, len(readings))
        told = self._told(alone, used, against)
        return told.model_copy(update={"unexplained": bool(used) and not _common(alone, used)})

    def _fitting(self, r: Reading) -> set[Way]:
        if r.what == "carries":
            return self._carrying(r)
        if r.what == "closed":
            return self._on_path(r)
        p, percent = self.pair(r.probe), self.percent(r)
        return {
            (name, v)
            for v, of in enumerate(self.tables(r.state or self.state))
            for name, row in of.items()
            if fits(row[p.one, p.two], percent)
        }

    def untold(self, state: State) -> frozenset[str]:
        """The points of which a meter tells nothing in this state."""
        if state not in self._untold:
            self._untold[state] = untold(self.circuit, state)
        return self._untold[state]

    def _carrying(self, r: Reading) -> set[Way]:
        """Through what carries current nothing is open; what carries none is open, or nothing runs at all.
        Of two ways beside each other nothing is said.
        """
        at, state = known_point(self.circuit, r.probe.one), r.state or self.state
        if state not in self._loops:
            self._loops[state] = loops(self.circuit, state)
        if at in self.untold(state) | self._loops[state]:
            return self._all
        if state not in self._carry:
            self._carry[state] = {s.id: carrying(self.circuit, state, s.open) for s in self.suspects}
        carries = self._carry[state]
        return {w for w in self._all if (at in carries[w[0]]) is bool(r.volts)}

    def _on_path(self, r: Reading) -> set[Way]:
        """What was read dead between two points: closed, nothing on the way is open."""
        between = set(self.path(r.probe, (r.state or self.state).contactor))
        return {w for w in self._all if bool(between & self._opens[w[0]]) is not bool(r.volts)}

    def path(self, p: Probe, contactor: Position) -> list[str]:
        """The spans between two points along what conducts in this position; where nothing does, in another,
        for what stands between is then a contactor. Raises `point_unknown`, and `path_unknown` for points
        that no one way joins.
        """
        one, two = (known_point(self.circuit, x) for x in (p.one, p.two))
        order = sorted(self.circuit.positions, key=lambda position: position != contactor)
        ways = (self._between(one, two, position) for position in order)
        found = next((w for w in ways if w is not None), None) if one != two else None
        if not found:
            raise HurbinError(
                "path_unknown",
                "Read ohms along one leg: from one of its points to another."
                if found is None
                else "Two ways join these points: read ohms along one of them.",
                field="probe",
                value=f"{one} to {two}",
                right="both probes on the same leg",
            )
        return found

    def _between(self, one: str, two: str, position: Position) -> list[str] | None:
        """The spans between two points in this position; none where it does not join them, an empty list
        where two ways do.
        """
        ways = {(a, b): s for a, b, s in joints(self.circuit, position)}
        came = tied(one, [*ways])
        if two not in came:
            return None
        found, at = [], two
        while came[at]:
            found.append(ways.get((came[at], at)) or ways.get((at, came[at])) or "")
            at = came[at]
        around = tied(one, [k for k, s in ways.items() if s not in found])
        return [] if two in around else [s for s in found if s]

    def _fitting_two(self, readings: Mapping[int, Reading]) -> dict[int, set[str]]:
        """Which two that are open at once fit each of these readings?

        Spans that read alike wherever it was read stand for one another: of each such group the likeliest is
        tried.
        """
        asked = {i: (r.state or self.state, self.pair(r.probe), self.percent(r)) for i, r in readings.items()}
        alike: dict[tuple[float, ...], Suspect] = {}
        for s in self.suspects:
            if len(s.open) == 1:
                reads = (self.tables(state)[0][s.id][p.one, p.two] for state, p, _ in asked.values())
                key = tuple(_MUTE.get(o.reads, round(o.percent)) for o in reads)
                if key not in alike or s.weight > alike[key].weight:
                    alike[key] = s
        both = [
            Suspect(id=f"{a.id} & {b.id}", open=[*a.open, *b.open], weight=a.weight * b.weight)
            for a, b in combinations(alike.values(), 2)
        ]
        states = {state for state, _, _ in asked.values()}
        where = list({(p.one, p.two): p for _, p, _ in asked.values()}.values())
        tables = {state: table(self.circuit, state, both, where) for state in states}
        return {
            i: {x.id for x in both if fits(tables[state][x.id][p.one, p.two], percent)}
            for i, (state, p, percent) in asked.items()
        }

    def _told(self, alone: Sequence[set[Way]], used: Sequence[int], against: list[tuple[int, int]]) -> Left:
        n = len(self.ways)
        weight = {
            s.id: [
                s.weight / n * math.prod(1.0 if (s.id, v) in alone[i] else WEIGHING.misses for i in used)
                for v in range(n)
            ]
            for s in self.suspects
        }
        total = math.fsum(x for row in weight.values() for x in row)
        apart = {k: [x / total for x in row] for k, row in weight.items()}
        shares = {k: math.fsum(row) for k, row in apart.items()}
        common = _common(alone, used)
        fit = [s.id for s in self.suspects if any((s.id, v) in common for v in range(n))]
        top = max(shares, key=lambda k: shares[k])
        named = top if shares[top] > WEIGHING.named and top in fit else ""
        return Left(shares=shares, ways=apart, fit=fit, named=named, against=against)


def _without(against: Sequence[tuple[int, int]], count: int) -> list[int]:
    out = {i for pair in against for i in pair}
    return [i for i in range(count) if i not in out]


def _common(fitting: Sequence[set[Way]] | dict[int, set[str]], used: Sequence[int]) -> set:  # type: ignore[type-arg]
    """Those that fit every reading that is used; of no reading there is nothing to fit."""
    return set.intersection(*(fitting[i] for i in used)) if used else set()  # type: ignore[arg-type]


def _two(name: str) -> tuple[str, str]:
    a, _, b = name.partition(" & ")
    return a, b
