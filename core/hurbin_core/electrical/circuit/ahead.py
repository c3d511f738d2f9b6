"""Where to measure next: the pair of points, and the state, that tell most for the time they take."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from types import MappingProxyType

from ...base import Model
from .naming import WEIGHING, Left, Search
from .points import rung_of
from .suspects import Class, Outcome, Probe
from .wired import State


class Branch(Model):
    """One answer that the probe can give, and who is left then, the likeliest first."""

    reads: Class
    percent: float
    share: float
    leaves: list[str]


class Next(Model):
    """The probe that tells most, in which state, what it may read, and how many suspects are left on average
    once it was read.
    """

    probe: Probe
    state: State
    bits: float
    left: float
    minutes: float
    branches: list[Branch] = []


def next_probe(
    search: Search,
    left: Left,
    states: Sequence[State] = (),
    allowed: Sequence[Probe] | None = None,
    minutes: Mapping[str, float] = MappingProxyType({}),
    change: float = 1.0,
    done: Collection[tuple[State, str, str]] = (),
) -> Next | None:
    """Which of the allowed probes tells most per minute? None where none is allowed.

    states: those that may be brought about; the first is the one it stands in, each other takes `change`
    minutes. minutes: of a rung, where it takes longer than one. done: what was read in a state already.
    """
    best: tuple[float, Next] | None = None
    now = _unsure_now(left)
    for i, state in enumerate(states or [search.state]):
        for p in search.probes if allowed is None else allowed:
            if (state, p.one, p.two) in done:
                continue
            branches = _branches(search, left, state, p)
            wanted, after = _unsure(branches)
            bits = now - wanted
            takes = max(minutes.get(rung_of(x), 1.0) for x in (p.one, p.two)) + (change if i else 0.0)
            if best is None or bits / takes > best[0] + 1e-12:
                found = Next(probe=p, state=state, bits=bits, left=after, minutes=takes)
                best = (bits / takes, found)
    if best is None:
        return None
    found = best[1]
    return found.model_copy(update={"branches": _named(search, left, found)})


# Parts that are no further apart than this are one answer, percent.
_STEP = 2 * WEIGHING.part_apart
Group = dict[str, float]
Branches = dict[tuple[Class, int], Group]


def _branches(search: Search, left: Left, state: State, p: Probe) -> Branches:
    """Who would be left by each answer, with the share that each then holds. What may be read as either of
    two stands with both.
    """
    out: Branches = {}
    where = (p.one, p.two)
    tables = search.tables(state)
    for s in search.suspects:
        if left.shares[s.id] < WEIGHING.misses:
            continue
        for v, share in enumerate(left.ways.get(s.id) or [left.shares[s.id]]):
            expected = tables[v][s.id][where]
            keys = _read_as(expected, _STEP)
            for key in keys:
                group = out.setdefault(key, {})
                group[s.id] = group.get(s.id, 0.0) + share / len(keys)
    return out


def _read_as(expected: Outcome, step: float) -> list[tuple[Class, int]]:
    """As what can a reading of this be taken? A ghost as nothing or a part, a part that is nearly all of it
    as full too; what electronics feed as itself alone, whatever is open.
    """
    if expected.reads == "ghost":
        return [("zero", 0), ("part", 2)]
    if expected.reads != "part":
        return [(expected.reads, 0)]
    out: list[tuple[Class, int]] = [("part", round(expected.percent / step))]
    if expected.percent >= 100 - WEIGHING.part_apart:
        out.append(("full", 0))
    if expected.percent <= WEIGHING.part_apart:
        out.append(("zero", 0))
    return out


def _unsure(branches: Branches) -> tuple[float, float]:
    """How many bits are still wanted once this was read, and how many suspects remain, on average."""
    total = bits = remain = 0.0
    for g in branches.values():
        held = sum(g.values())
        total += held
        remain += held * len(g)
        bits += _wanted(held) - sum(_wanted(x) for x in g.values())
    return (bits / total, remain / total) if total else (0.0, 0.0)


def _wanted(x: float) -> float:
    return x * math.log2(x) if x > 0 else 0.0


def _unsure_now(left: Left) -> float:
    """How many bits are wanted to know which it is."""
    shares = [x for x in left.shares.values() if x >= WEIGHING.misses]
    total = sum(shares)
    return math.log2(total) - sum(_wanted(x) for x in shares) / total


def _named(search: Search, left: Left, found: Next) -> list[Branch]:
    branches = _branches(search, left, found.state, found.probe)
    where = (found.probe.one, found.probe.two)
    tables = search.tables(found.state)
    rank = {"full": 0, "part": 1, "zero": 2, "ghost": 3, "untold": 4}
    total = math.fsum(x for g in branches.values() for x in g.values()) or 1.0

    def about(key: tuple[Class, int], of: Group) -> float:
        """What would be read, on average, by those of them that read as this."""
        if key[0] != "part":
            return 100.0 if key[0] == "full" else 0.0
        rows = [(x / len(tables), t[k][where]) for k, x in of.items() for t in tables]
        parts = [(x, o.percent) for x, o in rows if o.reads == "part" and key in _read_as(o, _STEP)]
        weight = math.fsum(x for x, _ in parts)
        return math.fsum(x * percent for x, percent in parts) / weight if weight else key[1] * _STEP

    out = [
        Branch(
            reads=key[0],
            percent=about(key, g),
            share=math.fsum(g.values()) / total,
            leaves=sorted(g, key=lambda k: -g[k]),
        )
        for key, g in branches.items()
    ]
    return sorted((b for b in out if b.share > WEIGHING.misses), key=lambda b: (rank[b.reads], -b.percent))


__all__ = ["Branch", "Next", "next_probe"]
