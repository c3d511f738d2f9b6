"""Who is qualified for what on a site: entered and withdrawn by a lead, never by the person alone."""

from __future__ import annotations

from datetime import date, datetime, timedelta

from django.db import transaction

from hurbin_core.safety import (
    QUALIFICATIONS,
    Qualification as Held,
    check_qualification,
    in_date,
    qualified_for,
)
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.door import once
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.instruments.services.registering import day_start
from hurbin_server.plant.access import hold_site, require, site_for
from hurbin_server.plant.models import Membership

from ..models import Qualification


def held_of(row: Qualification) -> Held:
    """One row as the core has it."""
    return Held(kind=row.kind, since=row.since, until=row.until, ended=row.ended, number=row.number)


def _held(worker: str, site_id: int) -> list[Held]:
    """What this person (by sign-in) was ever qualified for on this site."""

    def ask_all() -> list[Held]:
        return [held_of(r) for r in Qualification.objects.filter(user__username=worker, site_id=site_id)]

    return once(("qualified", worker, site_id), ask_all)


def qualified_now(worker: str, site_id: int) -> list[str]:
    """For what is this person (by sign-in) qualified on this site today?"""
    return qualified_for(_held(worker, site_id), now())


def qualified_until(user: User, site_id: int) -> list[datetime]:
    """When what this person is qualified for today runs out."""
    return [q.until for q in _held(user.username, site_id) if in_date(q, now())]


def signs(user: User, site_id: int) -> bool:
    """May this person sign that no cause of a fault was found?"""
    return any(QUALIFICATIONS[k].signs for k in qualified_now(user.username, site_id))


def qualify(
    user: User, site_id: int, username: str, kind: str, since: date, until: date, number: str = ""
) -> Qualification:
    """A qualification on record, through its last day. Refused: nobody of that name here (404), oneself
    (403), what is none, over, or longer than any runs (422).
    """
    site = site_for(user, site_id, "lead")
    who = Membership.objects.select_related("user").filter(site=site, user__username=username).first()
    if who is None:
        raise not_found(f"{username[:60]} on this site")
    if who.user_id == user.pk and require(user, site_id) != "admin":
        raise Refused(403, "own_qualification", "Another lead or an admin enters your own qualification.")
    begins, ends = day_start(since, site), day_start(until + timedelta(days=1), site)
    check_qualification(kind, begins, ends, now())
    with transaction.atomic():
        hold_site(site.pk)
        row = Qualification.objects.create(
            user=who.user,
            site=site,
            kind=kind,
            number=number.strip(),
            since=begins,
            until=ends,
            by=user,
            at=now(),
        )
        after = {"kind": kind, "since": since.isoformat(), "until": until.isoformat(), "number": number}
        audit.note(user, "qualification_added", username, site_id=site.pk, after=after)
    return row


def withdraw(user: User, pk: int, because: str) -> Qualification:
    """It no longer counts from now on. Refused without a reason (422)."""
    row = Qualification.objects.select_related("user").filter(pk=pk).first()
    if row is None:
        raise not_found("Qualification")
    require(user, row.site_id, "lead")
    if not because.strip():
        raise Refused(
            422, "reason_missing", "Enter why it is withdrawn.", field="because", right="entered by mistake"
        )
    with transaction.atomic():
        hold_site(row.site_id)
        row.refresh_from_db()
        if row.ended is None:
            row.ended, row.ended_by, row.ended_because = now(), user, because.strip()
            row.save(update_fields=["ended", "ended_by", "ended_because"])
            audit.note(
                user,
                "qualification_withdrawn",
                row.user.username,
                site_id=row.site_id,
                after={"kind": row.kind, "because": because},
            )
    return row
