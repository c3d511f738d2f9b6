"""A neutral that is open or bad: the voltages between legs are right, those to the neutral are not, and all
of them are of one system.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...base import exceeds
from .entry import Walk
from .evidence import six_misfit_pct, told
from .network import GROUND
from .points import leg_of, rung_of
from .suspects import FIGURES, SIGNS, Probe, right_volts
from .wired import State


@dataclass(frozen=True, slots=True)
class Shifted:
    """Where the neutral was found to have moved: the rung, its readings by their places among those taken,
    and the lowest and the highest voltage to it, V.
    """

    rung: str
    places: tuple[int, ...]
    low: float
    high: float


def shifted(walk: Walk) -> Shifted | None:
    """Is there a rung at which the legs stand right against each other and not against the neutral?

    Only on a supply whose neutral or midpoint is tied to ground, on low impedance, in one state, all readings
    there. Two legs: both to the neutral, which make up the voltage between them. Three: each to the neutral,
    six points of one plane. The worst state in which this is said of a sound neutral: a supply that is not
    earthed as it was entered, which is as much to be looked at.
    """
    earthing, legs = walk.circuit.supply.earthing, walk.circuit.legs
    if earthing not in ("solid_wye", "midpoint"):
        return None
    for at in _groups(walk).values():
        lines = [(a, b) for a in legs for b in legs if a < b]
        grounds = [(0, leg) for leg in legs]
        if not all(p in at for p in (*lines, *grounds)):
            continue
        found = _moved(walk, at, lines, grounds)
        if found is not None:
            return found
    return None


def _groups(walk: Walk) -> dict[tuple[State, str], dict[tuple[int, int], int]]:
    out: dict[tuple[State, str], dict[tuple[int, int], int]] = {}
    for i, t in enumerate(walk.taken):
        rungs = {rung_of(x) for x in (t.pair.one, t.pair.two) if leg_of(x)}
        if t.what == "volts" and t.state.meter == "low" and len(rungs) == 1 and told(walk, t):
            a, b = sorted((leg_of(t.pair.one), leg_of(t.pair.two)))
            if a != b:
                out.setdefault((t.state, rungs.pop()), {})[a, b] = i
    return out


def _moved(
    walk: Walk,
    at: dict[tuple[int, int], int],
    lines: Sequence[tuple[int, int]],
    grounds: Sequence[tuple[int, int]],
) -> Shifted | None:
    volts = {p: walk.taken[at[p]].figure.value for p in (*lines, *grounds)}
    between, to_neutral = [volts[p] for p in lines], [volts[p] for p in grounds]
    right = [right_volts(walk.circuit, walk.taken[at[p]].pair) * walk.scale for p in lines]
    if any(100 * v < FIGURES.full * r for v, r in zip(between, right, strict=True)):
        return None
    mean = right_volts(walk.circuit, Probe(one=walk.taken[at[grounds[0]]].pair.one, two=GROUND)) * walk.scale
    low, high = min(to_neutral), max(to_neutral)
    if not exceeds(100 * (high - low) / mean, SIGNS.neutral):
        return None
    if len(lines) == 1:
        misfit = 100 * abs(sum(to_neutral) - between[0]) / between[0]
    else:
        by = dict(zip(lines, between, strict=True))
        misfit = six_misfit_pct([by[1, 2], by[2, 3], by[1, 3]], to_neutral)
    if exceeds(misfit, walk.limits.value("circuit.six_misfit")):
        return None
    place = walk.taken[at[grounds[0]]].pair.one
    return Shifted(rung_of(place), tuple(at[p] for p in grounds), low, high)
