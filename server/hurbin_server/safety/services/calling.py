"""A call comes in: one matter for all the calls on one thing, ended with what was found and done."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.db import transaction

from hurbin_core.safety import COMPLAINTS
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import hold_set, hold_site, require
from hurbin_server.plant.models import PumpSet, Service

from ..models import Call, Matter
from .pictures import own_picture
from .repeated import done_before, the_same


def report(
    user: User,
    site_id: int,
    uuid: str,
    at: datetime,
    *,
    complaint: str,
    set_id: int | None = None,
    service_id: int | None = None,
    room: str = "",
    note: str = "",
    picture: str = "",
) -> Call:
    """Report a complaint; anybody of the site may. Sent twice it is one call; a second call on an open matter
    joins it.

    Refused: a stranger (404), nowhere or a place of another site (422), an unknown complaint (422), a time
    ahead (422).
    """
    require(user, site_id)
    if complaint not in COMPLAINTS:
        raise Refused(
            422,
            "complaint_unknown",
            f"Unknown symptom “{complaint}”.",
            field="complaint",
            right=", ".join(COMPLAINTS),
        )
    if at > now() + timedelta(minutes=10):
        raise Refused(
            422, "taken_in_future", "Time is in the future. Check the clock of this device.", field="at"
        )
    where = _where(site_id, set_id, service_id, room)
    with transaction.atomic():
        hold_site(site_id)  # two people who call at once make one matter; nobody ends it meanwhile
        held = Call.objects.select_related("matter").filter(pk=uuid).first()
        if held is not None:
            there = {k: getattr(held.matter, k) for k in where}
            if held.matter.site_id != site_id or there != where:
                raise Refused(409, "call_differs", "A call of another place is on file under this id.")
            the_same("call", held, {"complaint": complaint, "at": at, "by_id": user.pk})
            return held
        matter = Matter.objects.filter(
            site_id=site_id, ended_at=None, **where
        ).first() or Matter.objects.create(site_id=site_id, opened_at=at, **where)
        call = Call.objects.create(
            uuid=uuid,
            matter=matter,
            complaint=complaint,
            note=note.strip(),
            picture=own_picture(site_id, picture),
            by=user,
            at=at,
        )
        if matter.pump_set_id is not None:
            moved("set", matter.pump_set_id, site_id)
        audit.note(
            user,
            "call_reported",
            complaint,
            site_id=site_id,
            after={"matter": matter.pk, **{k: str(v) for k, v in where.items()}},
        )
    return call


def _where(site_id: int, set_id: int | None, service_id: int | None, room: str) -> dict[str, Any]:
    if set_id is not None:
        if not PumpSet.objects.filter(pk=set_id, site_id=site_id).exists():
            raise not_found("Pump set")
        return {"pump_set_id": set_id}
    if service_id is not None:
        if not Service.objects.filter(pk=service_id, site_id=site_id).exists():
            raise not_found("Service")
        return {"pump_set": None, "service_id": service_id}
    if not room.strip():
        raise Refused(
            422, "where_missing", "Choose where it is: a pump set, a service or a room.", field="room"
        )
    return {"pump_set": None, "service": None, "room": room.strip()}


def add_to_call(user: User, uuid: str, note: str, picture: str) -> Call:
    """Words and a picture after the two taps. Only by the caller, while the matter is open."""
    site_id = Call.objects.filter(pk=uuid).values_list("matter__site_id", flat=True).first()
    if site_id is None:
        raise not_found("Call")
    require(user, site_id)
    with transaction.atomic():
        hold_site(site_id)
        call = Call.objects.select_related("matter").get(pk=uuid)
        if call.by_id != user.pk:
            raise Refused(403, "forbidden", "Someone else reported this. Make a new call.")
        if call.matter.ended_at is not None:
            raise Refused(
                409,
                "matter_ended",
                "This call is already closed. If the fault is still there, make a new call.",
            )
        if note.strip():
            call.note = note.strip()
        call.picture = own_picture(site_id, picture) or call.picture
        call.save(update_fields=["note", "picture"])
        told = {"note": call.note, "picture": call.picture_id}
        audit.note(user, "call_added_to", uuid, site_id=site_id, after=told)
        moved("site", site_id, site_id)
    return call


def end_matter(user: User, matter_id: int, found: str, done: str) -> Matter:
    """End a matter with what was found and what was done. A technician's doing; nothing closes while a
    temporary change stands.

    Refused: no words (422), a gate (409), ended by somebody else meanwhile (409, with what he wrote).
    """
    site_id = Matter.objects.filter(pk=matter_id).values_list("site_id", flat=True).first()
    if site_id is None:
        raise not_found("Call")
    require(user, site_id, "technician")
    for field, words in (("found", found), ("done", done)):
        if not words.strip():
            raise Refused(
                422,
                f"{field}_missing",
                f"Enter what was {field}.",
                field=field,
                right="“none” if there was nothing",
            )
    found, done = found.strip()[:500], done.strip()[:500]
    with transaction.atomic():
        hold_site(site_id)  # two who end it come one after the other, and no call joins meanwhile
        matter = Matter.objects.select_related("pump_set", "ended_by").get(pk=matter_id)
        if matter.ended_at is not None:
            there = f"found: {matter.found}; done: {matter.done}"
            said = f"found: {found}; done: {done}"
            done_before(user, "ended it", matter.ended_by, matter.ended_at, there, said)
            return matter
        if matter.pump_set is not None:
            from .gating import require_act

            hold_set(matter.pump_set.pk)
            require_act(matter.pump_set, "close")
        matter.ended_at, matter.ended_by, matter.found, matter.done = now(), user, found, done
        matter.save()
        audit.note(
            user,
            "matter_ended",
            matter.pump_set.tag if matter.pump_set else matter.room,
            site_id=site_id,
            after={"found": found, "done": done},
        )
        if matter.pump_set is not None:
            moved("set", matter.pump_set.pk, site_id)
    return matter
