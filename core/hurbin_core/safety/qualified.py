"""What a person is qualified for, and until when: without one in date live tests are not offered. The record
of what was seen always is.
"""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime

from pydantic import Field

from ..base import RULEBOOK, HurbinError, Limits, Model, Phrase, Verdict, amount, by_id, exceeds, phrase


class QualificationKind(Model):
    """One qualification as its data says it. acts: what is offered to whoever has it. signs: who has it may
    sign that no cause of a fault was found. months: how long it usually runs.
    """

    id: str
    title: str
    acts: list[str]
    signs: bool = False
    months: int


class _File(Model):
    qualification: list[QualificationKind]


_data = RULEBOOK.section("safety/qualifications.toml", _File)
QUALIFICATIONS: dict[str, QualificationKind] = by_id(_data.qualification)


class Qualification(Model):
    """A qualification of one person. until: from when on it no longer counts. ended: withdrawn before."""

    kind: str
    since: datetime
    until: datetime
    ended: datetime | None = None
    number: str = Field(default="", max_length=60)


def in_date(held: Qualification, at: datetime) -> bool:
    """Does this qualification count at this moment?

    >>> from datetime import UTC
    >>> first, last = datetime(2025, 1, 1, tzinfo=UTC), datetime(2026, 1, 1, tzinfo=UTC)
    >>> held = Qualification(kind="live_tests", since=first, until=last)
    >>> in_date(held, first), in_date(held, last)
    (True, False)
    """
    return held.since <= at < held.until and (held.ended is None or at < held.ended)


def qualified_for(held: Iterable[Qualification], at: datetime) -> list[str]:
    """For what is a person who has these qualified at this moment? By their kinds."""
    return sorted({q.kind for q in held if q.kind in QUALIFICATIONS and in_date(q, at)})


def acts_of(kinds: Iterable[str]) -> set[str]:
    """What is offered to whoever is qualified for these: nothing where nobody knows the kind."""
    return {a for k in kinds if k in QUALIFICATIONS for a in QUALIFICATIONS[k].acts}


class QualificationStands(Model):
    """How a qualification stands today; left: days until it runs out."""

    verdict: Verdict
    says: Phrase
    left: float


def qualification_stands(held: Qualification, at: datetime, limits: Limits) -> QualificationStands:
    """How does this qualification stand at this moment? Good only while it counts, and for longer than it
    takes to renew one.
    """
    left = (held.until - at).total_seconds() / 86400
    if held.ended is not None and held.ended <= at:
        return QualificationStands(verdict=Verdict.UNKNOWN, says=phrase("qualified.ended"), left=left)
    if at < held.since:
        ahead = amount((held.since - at).total_seconds() / 86400, "d")
        return QualificationStands(
            verdict=Verdict.UNKNOWN, says=phrase("qualified.ahead", ahead=ahead), left=left
        )
    if left <= 0:
        over = amount(max(1.0, -left), "d")
        return QualificationStands(verdict=Verdict.ACT, says=phrase("qualified.over", over=over), left=left)
    if exceeds(left, limits.value("qualified.soon")):
        says = phrase("qualified.in_date", left=amount(left, "d"))
        return QualificationStands(verdict=Verdict.GOOD, says=says, left=left)
    says = phrase("qualified.soon", left=amount(left, "d")) if left >= 1 else phrase("qualified.today")
    return QualificationStands(verdict=Verdict.WATCH, says=says, left=left)


def check_qualification(kind: str, since: datetime, until: datetime, at: datetime) -> None:
    """Can this be entered? Raises for a kind nobody knows, an end before its begin or over already, and one
    longer than any certificate runs.
    """
    if kind not in QUALIFICATIONS:
        raise HurbinError(
            "qualification_unknown",
            f"“{kind}” is not a qualification known here.",
            field="kind",
            value=kind,
            right=", ".join(QUALIFICATIONS),
        )
    if until <= since or until <= at:
        raise HurbinError(
            "until_wrong",
            "The expiry must be in the future, and after the day of issue.",
            field="until",
            value=until.date().isoformat(),
        )
    if exceeds((until - since).days, Limits().value("qualified.longest")):
        raise HurbinError(
            "until_far",
            "Check the expiry: no certificate runs that long.",
            field="until",
            value=until.date().isoformat(),
        )
