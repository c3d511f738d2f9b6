"""Is a service served, and by which of its sets?"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from ..base import MEASURANDS, UNITS, Bound, Limits, Phrase, Verdict, exceeds, phrase
from .matters import age


@dataclass(frozen=True, slots=True)
class Carrier:
    """One set of a service. pair: which of them stand in for one another; none: it stands alone. out: what
    speaks against its being run, in words; none: nothing is known to. seen: when its newest check read it
    running; none where there is no check, or the newest one found it standing.
    """

    tag: str
    standby: bool = False
    pair: str = ""
    out: str = ""
    seen: datetime | None = None


@dataclass(frozen=True, slots=True)
class Served:
    """How a service stands: good served, watch with nothing behind it, unknown, act not served."""

    verdict: Verdict
    says: list[Phrase]


def ran(points: Iterable[tuple[str, str, float, Bound]]) -> bool:
    """Did a check read this set running? `points`: what it read, by measurand, unit, value and bound. A
    current of a running circuit above what a clamp shows of its neighbours; voltage alone turns no shaft.
    """
    least = Limits().value("safety.dead_amps")
    return any(
        MEASURANDS[m].live
        and UNITS[unit].dimension == "current"
        and bound is not Bound.AT_MOST
        and exceeds(value, least)
        for m, unit, value, bound in points
        if m in MEASURANDS
    )


def served(carriers: Iterable[Carrier], within: timedelta, as_of: datetime) -> Served | None:
    """Who carries a service, at each place of it? None for one without a set.

    A place is a pair, or a set that stands alone. It counts as served only by a set against which nothing is
    known and which was read running within the time that the service asks for; a set nobody has read for
    longer carries nothing by its role alone. The worst state in which this still says served: the set was
    stopped after its last check and nobody has said so; therefore the age of that check is always said.
    Common practice, no source.
    """
    places: dict[str, list[Carrier]] = {}
    for c in sorted(carriers, key=lambda c: (c.standby, c.tag)):
        places.setdefault(c.pair or c.tag, []).append(c)
    if not places:
        return None
    verdict, by, says = Verdict.GOOD, list[Carrier](), list[Phrase]()
    for place in places.values():
        found, carrier, words = _place(place, within, as_of)
        verdict = max(verdict, found, key=lambda v: v.rank)
        says += words
        if carrier is not None:
            by.append(carrier)
    if by:
        longest = min(c.seen for c in by if c.seen is not None)
        tags = ", ".join(c.tag for c in by)
        says.append(phrase("serves.by", tags=tags, age=age(longest, as_of)))
    return Served(verdict=verdict, says=says)


def _place(
    place: list[Carrier], within: timedelta, as_of: datetime
) -> tuple[Verdict, Carrier | None, list[Phrase]]:
    """How one place stands, by which of its sets, and what is to be said of it."""
    able, out = [c for c in place if not c.out], [c for c in place if c.out]
    if not able:
        return Verdict.ACT, None, [phrase("serves.lost", out=_named(out))]
    fresh = [c for c in able if c.seen is not None and timedelta(0) <= as_of - c.seen <= within]
    if not fresh:
        tags = ", ".join(c.tag for c in able)
        says = [phrase("serves.unseen", tags=tags, days=str(within.days))]
        return Verdict.UNKNOWN, None, [*says, *([phrase("serves.out", out=_named(out))] if out else [])]
    if out:
        return Verdict.WATCH, fresh[0], [phrase("serves.alone", tag=fresh[0].tag, out=_named(out))]
    return Verdict.GOOD, fresh[0], []


def _named(out: list[Carrier]) -> str:
    return ", ".join(f"{c.tag} {c.out}" for c in out)
