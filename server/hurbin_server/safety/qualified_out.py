"""The qualifications of a site's people, as they stand today."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from pydantic import BaseModel, ConfigDict, Field

from hurbin_core.base import Limits, Prefs, Verdict, write
from hurbin_core.safety import QUALIFICATIONS, qualification_stands
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.instruments.schemas import Day
from hurbin_server.plant.access import require
from hurbin_server.plant.models import Membership, Site

from .models import Qualification
from .services.qualifying import held_of


class QualifyIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    username: str = Field(max_length=150)
    kind: str = Field(max_length=30)
    since: Day
    until: Day
    number: str = Field(default="", max_length=60)


class WithdrawIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    because: str = Field(max_length=200)


class QualificationOut(BaseModel):
    """One qualification as it stands today. since, until: its first and its last day."""

    id: int
    kind: str
    title: str
    number: str
    since: date
    until: date
    ended: datetime | None
    ended_because: str
    verdict: Verdict
    says: str
    left: float


class QualifiedOut(BaseModel):
    """A person of the site and what he or she is qualified for. live: may be offered live tests today."""

    username: str
    full_name: str
    role: str
    live: bool
    held: list[QualificationOut]


class QualificationKindOut(BaseModel):
    id: str
    title: str
    months: int


class QualificationsOut(BaseModel):
    people: list[QualifiedOut]
    kinds: list[QualificationKindOut]
    may: bool


def qualifications(user: User, site_id: int, prefs: Prefs) -> QualificationsOut:
    """Everybody on this site with their qualifications, the one that ends last first; whoever does not lead
    sees only his or her own.
    """
    role = require(user, site_id)
    site, at = Site.objects.get(pk=site_id), now()
    zone = ZoneInfo(site.time_zone)
    held: dict[int, list[QualificationOut]] = {}
    live: set[int] = set()
    for row in Qualification.objects.filter(site=site).order_by("-until", "pk"):
        told = _out(row, zone, at, prefs)
        held.setdefault(row.user_id, []).append(told)
        counts = told.verdict in (Verdict.GOOD, Verdict.WATCH)
        if counts and "live_test" in QUALIFICATIONS[row.kind].acts:
            live.add(row.user_id)
    may = role in ("lead", "admin")
    people = Membership.objects.filter(site=site, active=True).select_related("user")
    if not may:
        people = people.filter(user=user)
    return QualificationsOut(
        people=[
            QualifiedOut(
                username=m.user.username,
                full_name=m.user.full_name,
                role=m.role,
                live=m.user_id in live,
                held=held.get(m.user_id, []),
            )
            for m in people.order_by("user__full_name")
        ],
        kinds=[
            QualificationKindOut(id=k.id, title=k.title, months=k.months) for k in QUALIFICATIONS.values()
        ],
        may=may,
    )


def _out(row: Qualification, zone: ZoneInfo, at: datetime, prefs: Prefs) -> QualificationOut:
    told = qualification_stands(held_of(row), at, Limits())
    return QualificationOut(
        id=row.pk,
        kind=row.kind,
        title=QUALIFICATIONS[row.kind].title,
        number=row.number,
        since=row.since.astimezone(zone).date(),
        until=(row.until - timedelta(seconds=1)).astimezone(zone).date(),
        ended=row.ended,
        ended_because=row.ended_because,
        verdict=told.verdict,
        says=write(told.says, prefs),
        left=told.left,
    )
