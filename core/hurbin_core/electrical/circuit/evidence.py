"""What the readings of a walk are to the search: which of them say something, and which contradict by
themselves.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import combinations

from ...base import Bound, Limits, Phrase, exceeds, phrase
from ..formulas import closes_triangle
from .entry import Taken, Walk
from .naming import Reading
from .points import leg_of, run_rungs, rung_of, spans
from .suspects import FIGURES
from .wired import State


def evidence(walk: Walk) -> list[tuple[int, Reading]]:
    """Which readings say something of what is open, by their place among those taken?"""
    out: list[tuple[int, Reading]] = []
    for i, t in enumerate(walk.taken):
        found = {"volts": _volts, "amps": _amps, "ohms": _ohms}[t.what](walk, t)
        if found is not None:
            out.append((i, found))
    return out


def told(walk: Walk, t: Taken) -> bool:
    """Does a meter tell anything there? Not where electronics feed, at another frequency or by leaking."""
    return not walk.ladder.untold(t.state) & {t.pair.one, t.pair.two}


def _volts(walk: Walk, t: Taken) -> Reading | None:
    if not told(walk, t):
        return None
    return Reading(probe=t.pair, volts=t.figure.value / walk.scale, state=t.state)


def _amps(walk: Walk, t: Taken) -> Reading | None:
    """Against the highest leg of the same state; one leg alone says nothing when it carries none."""
    if not told(walk, t):
        return None
    same = [x for x in walk.taken if x.what == "amps" and x.state == t.state]
    top = max(x.figure.value for x in same)
    if not exceeds(top, walk.limits.value("safety.dead_amps")):
        return None
    share = walk.limits.value("single_phasing.share")
    carries = not exceeds(share, 100 * t.figure.value / top)
    return Reading(probe=t.pair, volts=1.0 if carries else 0.0, state=t.state, what="carries")


def _ohms(walk: Walk, t: Taken) -> Reading | None:
    if contactor_between(walk, t) or between_open_and_closed(t, walk.limits):
        return None
    closed = not exceeds(t.figure.value, walk.limits.value("circuit.closed_to"))
    return Reading(probe=t.pair, volts=1.0 if closed else 0.0, state=t.state, what="closed")


def contactor_between(walk: Walk, t: Taken) -> bool:
    """Is a contactor on the way that is out anyway?"""
    path = set(walk.ladder.path(t.pair, t.state.contactor))
    out = {e.id for e in walk.circuit.every if e.switched and not e.is_in(t.state.contactor)}
    return any(s.id in path and s.within in out for s in spans(walk.circuit))


def between_open_and_closed(t: Taken, limits: Limits) -> bool:
    """Neither open nor closed: another path lies beside it, or a joint is bad. A bound may be either."""
    low, high = limits.value("circuit.closed_to"), limits.value("circuit.open_from")
    if t.figure.bound is Bound.AT_LEAST:
        return exceeds(high, t.figure.value)
    if t.figure.bound is Bound.AT_MOST:
        return exceeds(t.figure.value, low)
    return exceeds(t.figure.value, low) and exceeds(high, t.figure.value)


Clash = tuple[tuple[int, ...], Phrase]


def _compared(walk: Walk, t: Taken) -> bool:
    """Is it a voltage that is what it is, whatever the meter?"""
    return t.what == "volts" and t.state.meter == "low" and told(walk, t)


def clashes(walk: Walk) -> list[Clash]:
    """Readings at one rung, in one state, that no voltages can have together: by their places, and why.

    A point that floats is moved by the meter that touches it: where next to nothing was read, nothing is
    compared.
    """
    groups: dict[tuple[State, str], dict[tuple[int, int], int]] = {}
    for i, t in enumerate(walk.taken):
        rungs = {rung_of(x) for x in (t.pair.one, t.pair.two) if leg_of(x)}
        floats = t.what == "volts" and 100 * t.figure.value < FIGURES.zero * right_of(walk, t)
        if _compared(walk, t) and len(rungs) == 1 and not floats:
            legs = sorted((leg_of(t.pair.one), leg_of(t.pair.two)))
            groups.setdefault((t.state, rungs.pop()), {})[legs[0], legs[1]] = i
    out: list[Clash] = []
    for at in groups.values():
        found = _triangle(walk, at) or _six(walk, at)
        if found is not None:
            out.append(found)
    return out


def right_of(walk: Walk, t: Taken) -> float:
    """What is right where this voltage was read, V."""
    return walk.ladder.right[t.pair.one, t.pair.two]


def _of(walk: Walk, at: dict[tuple[int, int], int], pairs: Sequence[tuple[int, int]]) -> list[float]:
    return [walk.taken[at[p]].figure.value for p in pairs]


_LINES = ((1, 2), (2, 3), (1, 3))
_GROUNDS = ((0, 1), (0, 2), (0, 3))


def _triangle(walk: Walk, at: dict[tuple[int, int], int]) -> Clash | None:
    if not all(p in at for p in _LINES):
        return None
    a, b, c = _of(walk, at, _LINES)
    if max(a, b, c) <= 0 or closes_triangle(a, b, c):
        return None
    figures = {n: walk.taken[at[p]].figure for n, p in zip("abc", _LINES, strict=True)}
    return tuple(at[p] for p in _LINES), phrase("circuit.no_triangle", **figures)


def _six(walk: Walk, at: dict[tuple[int, int], int]) -> Clash | None:
    if not all(p in at for p in (*_LINES, *_GROUNDS)):
        return None
    misfit = six_misfit_pct(_of(walk, at, _LINES), _of(walk, at, _GROUNDS))
    if not exceeds(misfit, walk.limits.value("circuit.six_misfit")):
        return None
    return tuple(at[p] for p in (*_LINES, *_GROUNDS)), phrase("circuit.six")


def six_misfit_pct(lines: Sequence[float], grounds: Sequence[float]) -> float:
    """How far do three voltages between legs (1-2, 2-3, 1-3) and three to ground miss being four points of a
    plane, in percent of the largest? Six phasors of one frequency are four points.

    The ground point is put where its worst miss is smallest. Common practice, no source.

    >>> round(six_misfit_pct((402, 398, 400), (236, 228, 231)), 1) < 0.5
    True
    """
    d12, d23, d13 = lines
    top = max(*lines, *grounds)
    if top <= 0:
        return 0.0
    x = (d12**2 + d13**2 - d23**2) / (2 * d12) if d12 > 0 else 0.0
    corners = [(0.0, 0.0), (d12, 0.0), (x, math.sqrt(max(0.0, d13**2 - x**2)))]
    middle = (sum(c[0] for c in corners) / 3, sum(c[1] for c in corners) / 3)

    def worst(px: float, py: float) -> float:
        return max(
            abs(math.hypot(px - cx, py - cy) - d) for (cx, cy), d in zip(corners, grounds, strict=True)
        )

    return 100 * min(_least(worst, c, top) for c in (middle, *corners)) / top


_WAYS = [(math.cos(k * math.pi / 12), math.sin(k * math.pi / 12)) for k in range(24)]


def _least(worst: Callable[[float, float], float], start: tuple[float, float], scale: float) -> float:
    """The smallest value near this start: steps in every direction, halved where none of them helps."""
    (px, py), held, step = start, worst(*start), scale / 2
    while step > 1e-5 * scale:
        found = min((worst(px + step * x, py + step * y), x, y) for x, y in _WAYS)
        if found[0] < held:
            held, px, py = found[0], px + step * found[1], py + step * found[2]
        else:
            step /= 2
    return held


def climbs(walk: Walk) -> list[Clash]:
    """Voltages that rise on the way down, in one state between the same legs: a wrong rung was noted, or the
    supply moved. Only full ones are compared, on the ladder itself, above what a winding or a path beside it
    makes another.
    """
    order = {r: i for i, r in enumerate(_trunk(walk))}
    limit = walk.limits.value("circuit.rises")
    out: list[Clash] = []
    volts = [(i, t) for i, t in enumerate(walk.taken) if _compared(walk, t) and rung_of(t.pair.one) in order]
    for (i, a), (j, b) in combinations(volts, 2):
        backwards = a.state.contactor == "reverse"
        if a.state != b.state or backwards or _legs(a) != _legs(b) or 0 in _legs(a):
            continue
        rungs = [rung_of(a.pair.one), rung_of(b.pair.one)]
        if len({*_legs(a)}) < 2 or rungs[0] == rungs[1]:
            continue
        (up, down) = (a, b) if order[rungs[0]] < order[rungs[1]] else (b, a)
        half = walk.circuit.supply.volts / 2
        if up.figure.value > half and exceeds(100 * (down.figure.value / up.figure.value - 1), limit):
            figures = {"up": up.figure, "down": down.figure}
            out.append(((i, j), phrase("circuit.climbs", **figures)))
    return out


def _trunk(walk: Walk) -> list[str]:
    """The rungs of the ladder from the source down to its motor, or to what passes no mains frequency."""
    out: list[str] = []
    ends = {s.within for s in spans(walk.circuit) if not s.conducts}
    for rung in run_rungs(walk.circuit.elements):
        out.append(rung)
        if rung.split(".")[0] in ends:
            break
    return out


def _legs(t: Taken) -> tuple[int, int]:
    a, b = sorted((leg_of(t.pair.one), leg_of(t.pair.two)))
    return a, b
