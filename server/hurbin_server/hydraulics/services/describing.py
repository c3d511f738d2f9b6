"""A loop is described: what it holds, what its vessel is, which sets are on it."""

from __future__ import annotations

from django.db import transaction

from hurbin_core.base import read_fields
from hurbin_core.hydraulics import LoopPlate, impossible
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import site_for
from hurbin_server.plant.models import PumpSet, Site

from ..models import Loop, LoopMember, LoopVersion


def keep_loop(
    user: User,
    site_id: int,
    name: str,
    plate: LoopPlate,
    set_ids: list[int],
    loop_id: int | None,
    expected: int,
) -> Loop:
    """Keep a loop as described from now on; a new one without an id. A lead's act.

    Refused where a figure of it cannot be (422), a name is taken or a set is on another loop (409), or
    somebody else changed it meanwhile (409, both are shown).
    """
    site_for(user, site_id, "lead")
    problems = [*read_fields(plate)[1], *impossible(plate)]
    if problems:
        raise Refused(422, "loop_refused", problems[0].message, problems=problems)
    said = name.strip()
    if not said:
        raise Refused(
            422, "name_missing", "Enter a name for the loop.", field="name", right="Palm house heating"
        )
    with transaction.atomic():
        Site.objects.select_for_update().get(pk=site_id)
        loop = _row(site_id, loop_id, said, expected)
        before = _told(loop)
        loop.name, loop.version = said, loop.version + 1
        loop.save()
        body = plate.model_dump(mode="json", exclude_defaults=True)
        LoopVersion.objects.create(loop=loop, version=loop.version, plate=body, by=user, at=now())
        touched = _members(loop, site_id, set_ids)
        for pk in touched:
            moved("set", pk, site_id)
        moved("site", site_id, site_id)
        audit.note(user, "loop_described", said, site_id=site_id, before=before, after=_told(loop))
    return loop


def _row(site_id: int, loop_id: int | None, name: str, expected: int) -> Loop:
    taken = Loop.objects.filter(site_id=site_id, name=name).exclude(pk=loop_id or 0)
    if taken.exists():
        message = f"There is a loop called “{name}” on this site."
        raise Refused(409, "name_taken", message, field="name", right="another name")
    if loop_id is None:
        return Loop(site_id=site_id, name=name)
    loop = Loop.objects.filter(site_id=site_id, pk=loop_id).first()
    if loop is None:
        raise not_found("Loop")
    if loop.version != expected:
        raise Refused(
            409,
            "stale",
            "Loop changed by someone else while you edited it. Both are shown: choose one.",
            current={"plate": _told(loop).get("plate", {}), "version": loop.version},
        )
    return loop


def _told(loop: Loop) -> dict[str, object]:
    if loop.pk is None:
        return {}
    last = LoopVersion.objects.filter(loop=loop).order_by("-version").first()
    tags = sorted(LoopMember.objects.filter(loop=loop).values_list("pump_set__tag", flat=True))
    return {"name": loop.name, "plate": last.plate if last is not None else {}, "sets": tags}


def _members(loop: Loop, site_id: int, set_ids: list[int]) -> set[int]:
    """Puts these sets on the loop, takes the others off; which sets it touched."""
    wanted = list(PumpSet.objects.filter(site_id=site_id, pk__in=set_ids))
    if len(wanted) != len(set(set_ids)):
        raise Refused(422, "set_unknown", "One of the sets is not on this site.", field="set_ids")
    elsewhere = (
        LoopMember.objects.filter(pump_set__in=wanted).exclude(loop=loop).select_related("pump_set", "loop")
    )
    for m in elsewhere:
        message = f"{m.pump_set.tag} is on “{m.loop.name}”. Take it off there first."
        raise Refused(409, "set_on_another_loop", message, field="set_ids", value=m.pump_set.tag)
    had = set(LoopMember.objects.filter(loop=loop).values_list("pump_set_id", flat=True))
    now_on = {x.pk for x in wanted}
    LoopMember.objects.filter(loop=loop, pump_set_id__in=had - now_on).delete()
    for pk in sorted(now_on - had):
        LoopMember.objects.create(loop=loop, pump_set_id=pk)
    return had | now_on
