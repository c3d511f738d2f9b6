"""Is what the leads are joined to a right way, for which voltage, and what is the shortest way to one?"""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import permutations, product

from ...base import Limits
from .solving import Driven, driven
from .windings import LINES, WINDINGS, Box, Nut, Use, Winding

_TURN = 2 * math.pi / 3
# Halves that differ by less than this share are alike: what is left over is arithmetic.
ALIKE = Limits().value("leads.alike") / 100


@dataclass(frozen=True, slots=True)
class Fit:
    """Halves alike in size and turned as the winding wants them. half: what each gets, of the supply; turns:
    1 with the lines, −1 against them.
    """

    half: float
    turns: int


def fit_of(winding: Winding, got: Driven) -> Fit | None:
    """Do all half windings get the same, at the angles of their phases? None where they do not: volts alone
    would pass two lines crossed on one half.
    """
    for turns in (1, -1):
        turned = [
            v * cmath.exp(turns * 1j * _TURN * p) for v, (*_, p) in zip(got.volts, winding.coils, strict=True)
        ]
        mean = sum(turned) / len(turned)
        if abs(mean) > ALIKE and all(abs(v - mean) <= ALIKE * abs(mean) for v in turned):
            return Fit(abs(mean), turns)
    return None


def half_of(winding: Winding, use: Use) -> float | None:
    """What each half gets of the supply on the right list for this voltage."""
    right = winding.right(use)
    fit = fit_of(winding, driven(winding, right.box)) if right is not None else None
    return fit.half if fit is not None else None


@dataclass(frozen=True, slots=True)
class Move:
    """A lead, and the nut that it belongs in: with whom it is there then."""

    lead: str
    to: Nut


@dataclass(frozen=True, slots=True)
class Repair:
    """Which leads go where for a right list. swap: two leads that change places."""

    moves: tuple[Move, ...]
    swap: bool


def repairs(winding: Winding, use: Use, box: Box) -> list[Repair]:
    """The shortest ways to a right list for this voltage; several where they are equally short."""
    found = [_moves(box, target) for target in _targets(winding, use)]
    least = min((len(m) for m in found), default=0)
    out: dict[tuple[Move, ...], Repair] = {}
    for moves in found:
        if len(moves) == least:
            out.setdefault(moves, Repair(moves, _swaps(box, moves)))
    return list(out.values()) if least else []


@lru_cache(maxsize=16)
def _right_boxes(winding_id: str, use: Use) -> tuple[tuple[Nut, ...], ...]:
    winding = WINDINGS[winding_id]
    right = winding.right(use)
    if right is None:
        return ()
    seen: dict[frozenset[Nut], tuple[Nut, ...]] = {}
    for names in _names(winding):
        for order in permutations(LINES):
            lines = dict(zip(LINES, order, strict=True))
            made = [frozenset({**names, **lines}.get(x, x) for x in nut) for nut in right.box]
            if frozenset(made) not in seen and fit_of(winding, driven(winding, made)) is not None:
                seen[frozenset(made)] = tuple(made)
    return tuple(seen.values())


def _targets(winding: Winding, use: Use) -> Iterator[Box]:
    for box in _right_boxes(winding.id, use):
        yield list(box)


def _names(winding: Winding) -> Iterator[dict[str, str]]:
    """Ways to call the leads otherwise that leave the winding what it is: both ends of every half exchanged,
    the two halves of a phase.
    """
    ends = [(a, b) for a, b, _ in winding.coils]
    free = all(x.isdigit() for pair in ends for x in pair) and winding.leads in (6, 12)
    if not free:
        yield {}
        return
    halves = winding.leads == 12
    for back, *swapped in product((False, True), *([(False, True)] * 3 if halves else [])):
        out: dict[str, str] = {}
        for k, (a, b) in enumerate(ends):
            other = ends[(k + 3) % 6] if halves and swapped[k % 3] else (a, b)
            to = other[::-1] if back else other
            out |= {a: to[0], b: to[1]}
        yield out


def _line(nut: Nut) -> str:
    return next((x for x in LINES if x in nut), "")


def _moves(box: Box, target: Box) -> tuple[Move, ...]:
    """Which leads are not where the target has them? Nuts on a line are that line's; the others are matched
    by the leads that they share.
    """
    at = {line: next((n for n in box if line in n), frozenset({line})) for line in LINES}
    free = [n for n in box if not _line(n)]
    pairs = {n: at[_line(n)] for n in target if _line(n)}
    wanted = [n for n in target if not _line(n)]
    shared = sorted(
        ((len(t & n), i, j) for i, t in enumerate(wanted) for j, n in enumerate(free)), reverse=True
    )
    taken: set[int] = set()
    for many, i, j in shared:
        if many and wanted[i] not in pairs and j not in taken:
            pairs[wanted[i]] = free[j]
            taken.add(j)
    moves = [Move(x, t) for t in target for x in t - pairs.get(t, frozenset()) if x not in LINES]
    return tuple(sorted(moves, key=lambda m: int(m.lead)))


def _swaps(box: Box, moves: tuple[Move, ...]) -> bool:
    if len(moves) != 2:
        return False
    one, two = moves
    was = {m.lead: next((n for n in box if m.lead in n), frozenset()) for m in moves}
    return bool((one.to - {one.lead}) & was[two.lead]) and bool((two.to - {two.lead}) & was[one.lead])
