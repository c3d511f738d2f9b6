"""What the shim packs say by themselves: too many pieces, and a change that only rolls the motor."""

from __future__ import annotations

from ..base import By, Finding, Limits, Phrase, Verdict, amount, exceeds, phrase
from .planning import TITLES
from .shims import FEET, MOST
from .visit import FootShims, Move, Visit


def _rise(move: Move, foot: str) -> float | None:
    old, new = move.before[foot] or FootShims(), move.after[foot]
    if new is None or old.unmeasured or new.unmeasured:
        return None
    return (sum(new.pack) - sum(old.pack)) / 10000


def twist_of(move: Move) -> float:
    """By how much was one side raised more than the other at both ends alike, in mm? Nothing where the ends
    differ in sense, or a pack is not known: that is no roll."""
    unlike = []
    for end in ("front", "rear"):
        left, right = _rise(move, f"{end}_left"), _rise(move, f"{end}_right")
        if left is None or right is None:
            return 0.0
        unlike.append(left - right)
    return min(unlike, key=abs) if unlike[0] * unlike[1] > 0 else 0.0


def pack_findings(visit: Visit, limits: Limits) -> tuple[list[Finding], bool]:
    """The findings on the packs as they lie, and whether the question was settled with no."""
    said: list[Phrase] = []
    for foot in FEET:
        x = visit.lying[foot]
        n = len(x.pack) + x.unmeasured if x is not None else 0
        if n > MOST:
            said.append(phrase("packs.many", n=str(n), foot=TITLES[foot], most=str(MOST)))
    for move in visit.moves[-1:]:
        twist = twist_of(move)
        if exceeds(abs(twist), limits.value("alignment.twist")):
            said.append(phrase("packs.twist", twist=amount(abs(twist), "mm")))
    if not said:
        return [], all(visit.lying[f] is not None for f in FEET)
    return [
        Finding(
            question="shim_packs",
            part="motor",
            verdict=Verdict.WATCH,
            by=By.NEXT_STOP,
            rule="shim_packs",
            reason=said[0],
            notes=said[1:],
        )
    ], False
