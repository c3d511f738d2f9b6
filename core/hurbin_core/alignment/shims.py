"""The shim plan: which pieces come out and go in under four feet, exact, from what lies there and what the
van holds.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..base import HurbinError, Limits

FEET = ("front_left", "rear_left", "front_right", "rear_right")
UNIT_MM = 0.0001  # every thickness in whole tenths of a micrometre: 0.0001 mm; 1 mil = 254
_LIMITS = Limits()
# Pieces in a pack: at most, and without being counted against it.
MOST, FREE = _LIMITS.count("alignment.pieces"), _LIMITS.count("alignment.pieces_free")
STEP = round(_LIMITS.value("alignment.plan_step") / UNIT_MM)

Pack = tuple[int, ...]
Key = tuple[int, int, int, int, int]


@dataclass(frozen=True, slots=True)
class Question:
    """What the plan is asked. Thickness and lengths in whole tenths of a micrometre, feet in the order of
    `FEET`.

    wanted: by how much each foot has to rise. packs: the pieces under each foot now. stock: the van's pieces,
    size to count. front, rear: from the measuring plane to the feet. diameter: of the coupling. offset: half
    the governing tolerance of the offset; rim: half that of the angle, times the diameter. rock: what a plan
    may leave between the diagonals.
    """

    wanted: tuple[int, int, int, int]
    packs: tuple[Pack, Pack, Pack, Pack]
    stock: Mapping[int, int]
    front: int
    rear: int
    diameter: int
    offset: int
    rim: int
    rock: int


@dataclass(frozen=True, slots=True)
class Plan:
    """One answer: the final packs, and how it stands in the order of what is best (steps over, pieces over
    three, feet disturbed, new pieces, pieces).
    """

    packs: tuple[Pack, Pack, Pack, Pack]
    key: Key

    @property
    def order(self) -> tuple[Key, tuple[Pack, ...]]:
        return self.key, self.packs


def tenths(mm: float) -> int:
    """A thickness in whole tenths of a micrometre.

    >>> tenths(0.0254), tenths(0.25)
    (254, 2500)
    """
    return round(mm / UNIT_MM)


def left_over(q: Question, packs: Sequence[Pack]) -> tuple[int, int, int, int]:
    """How much too high (negative: too low) does each foot stand with these packs?"""
    a, b, c, d = (sum(new) - sum(old) - want for new, old, want in zip(packs, q.packs, q.wanted, strict=True))
    return a, b, c, d


def leaves(q: Question, front: int, rear: int) -> tuple[float, float]:
    """Offset at the coupling, and angle times its diameter, that these two feet of one side leave; tenths of
    a micrometre.
    """
    slope = (rear - front) / (q.rear - q.front)
    return front - slope * q.front, slope * q.diameter


def steps_over(q: Question, packs: Sequence[Pack]) -> int:
    """By how many steps of 0.02 mm, rounded up, is the worse side's offset, or angle times diameter, left
    above half the governing tolerance, or the diagonals beyond a soft foot's limit? In whole numbers
    throughout.
    """
    fl, rl, fr, rr = left_over(q, packs)
    span = q.rear - q.front
    over = [0, -((q.rock - abs((rl - fl) - (rr - fr))) // STEP)]
    for f, r in ((fl, rl), (fr, rr)):
        over.append(-((q.offset * span - abs(f * q.rear - r * q.front)) // (STEP * span)))
        over.append(-((q.rim * span - abs(r - f) * q.diameter) // (STEP * span)))
    return max(over)


def key_of(q: Question, packs: Sequence[Pack]) -> Key:
    """Where do these packs stand in the order of what is best? Smaller is better."""
    found, used = Counter(x for p in q.packs for x in p), Counter(x for p in packs for x in p)
    return (
        steps_over(q, packs),
        sum(max(0, len(p) - FREE) for p in packs),
        sum(sorted(p) != sorted(old) for p, old in zip(packs, q.packs, strict=True)),
        sum((used - found).values()),
        sum(len(p) for p in packs),
    )


def check(q: Question) -> None:
    """Refuses what is no question: feet in front of the coupling, a base that would have to be machined."""
    if not 0 < q.front < q.rear:
        raise HurbinError(
            "feet_order",
            "The front feet must be behind the coupling, the rear feet behind the front feet.",
            field="x_front",
            right="both measured from the coupling",
        )
    if any(t <= 0 for t in q.stock if q.stock[t]) or any(t <= 0 for p in q.packs for t in p):
        raise HurbinError("thickness_zero", "A shim must have a thickness: measure it.", field="stock")
    if q.diameter <= 0:
        raise HurbinError("diameter_zero", "Coupling diameter must be above zero.", field="face_diameter")


def shortfall(q: Question) -> tuple[int, ...]:
    """By how much less than nothing would each foot need (base-bound)? Zeros when no foot does. Half the
    tolerance may be used up first.
    """
    return tuple(max(0, -(sum(old) + want)) for old, want in zip(q.packs, q.wanted, strict=True))
