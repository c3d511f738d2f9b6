"""Verdicts, their order, and how soon somebody has to act."""

from __future__ import annotations

from collections.abc import Iterable
from enum import StrEnum


class Verdict(StrEnum):
    GOOD = "good"
    WATCH = "watch"
    UNKNOWN = "unknown"
    ACT = "act"
    STOP = "stop"

    @property
    def rank(self) -> int:
        return _RANK[self]


_RANK = {v: i for i, v in enumerate(Verdict)}


class Unknown(StrEnum):
    """Why nothing can be said: an input is missing, or the test cannot tell."""

    INCOMPLETE = "incomplete"
    INCONCLUSIVE = "inconclusive"


class By(StrEnum):
    NOW = "now"
    THIS_SHIFT = "this_shift"
    THIS_WEEK = "this_week"
    NEXT_STOP = "next_stop"

    @property
    def rank(self) -> int:
        return _BY_RANK[self]


_BY_RANK = {b: i for i, b in enumerate(By)}


def worst(verdicts: Iterable[Verdict]) -> tuple[Verdict, Verdict | None]:
    """Which verdict stands for the whole, and what else must be shown beside it?

    The worst of the parts is the whole's (good < watch < unknown < act < stop). Where unknown
    and watch stand together neither may hide the other, so the second comes back as well.
    With nothing judged the answer is unknown: a missing input never passes.

    >>> worst([Verdict.GOOD, Verdict.WATCH, Verdict.UNKNOWN])
    (<Verdict.UNKNOWN: 'unknown'>, <Verdict.WATCH: 'watch'>)
    """
    seen = set(verdicts)
    if not seen:
        return Verdict.UNKNOWN, None
    top = max(seen, key=lambda v: v.rank)
    beside = Verdict.WATCH if top is Verdict.UNKNOWN and Verdict.WATCH in seen else None
    return top, beside
