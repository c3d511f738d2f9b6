"""A kit: what one job of one set, or of one kind of set, is done with; and whether it can be laid out
whole.
"""

from __future__ import annotations

from collections.abc import Sequence

from ..base import Limits, Model, Phrase, Verdict, phrase
from .levels import count_stands


class KitPart(Model):
    """One line. wanted: of this part; free: on all shelves and not reserved; None: it lies nowhere known.
    counted_days: since the oldest of its counts; None: some of it never was counted.
    """

    code: str
    wanted: int
    free: int | None = None
    counted_days: float | None = None


class KitState(Model):
    """whole: how many times it is there; None: nobody knows. short: what is missing for one."""

    whole: int | None
    short: dict[str, int] = {}
    verdict: Verdict
    says: Phrase


def kit_state(parts: Sequence[KitPart], limits: Limits) -> KitState:
    """Is this kit there? Good only where every line of it was counted not too long ago and is free at least
    once; the worst state in which it is still good is one taken out without a word since. In pieces; common
    practice, no source.

    >>> kit_state([KitPart(code="S-22", wanted=1, free=0)], Limits()).short
    {'S-22': 1}
    """
    uncounted = [p.code for p in parts if p.free is None or p.counted_days is None]
    old = [p.code for p in parts if not count_stands(p.counted_days, limits)]
    short = {p.code: p.wanted - p.free for p in parts if p.free is not None and p.free < p.wanted}
    if short:
        words = ", ".join(f"{n} × {code}" for code, n in short.items())
        return KitState(whole=0, short=short, verdict=Verdict.ACT, says=phrase("kit.short", what=words))
    if uncounted or not parts:
        words = ", ".join(uncounted) or "no part"
        return KitState(whole=None, verdict=Verdict.UNKNOWN, says=phrase("kit.uncounted", what=words))
    if old:
        words = ", ".join(old)
        return KitState(whole=None, verdict=Verdict.UNKNOWN, says=phrase("kit.old_count", what=words))
    whole = min((p.free or 0) // p.wanted for p in parts)
    return KitState(whole=whole, verdict=Verdict.GOOD, says=phrase("kit.whole", n=str(whole)))
