"""Reads of the loops."""

from __future__ import annotations

from datetime import datetime, timedelta

from hurbin_core.base import Limits
from hurbin_core.hydraulics import LoopKnown, LoopPlate, PastPressure
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Point
from hurbin_server.plant.access import require
from hurbin_server.plant.models import PumpSet

from . import schemas as s
from .models import Loop, LoopVersion

# Pressures and temperatures of one record stand beside each other; more are never looked back to.
MOST_PAST = 80


def loop_of(pump_set: PumpSet, as_of: datetime) -> LoopKnown | None:
    """The loop that this set is on, as it stood then, with its standing pressures on record."""
    loop = Loop.objects.filter(members__pump_set=pump_set).first()
    if loop is None:
        return None
    row = version_at(loop, as_of)
    sets = list(PumpSet.objects.filter(on_loop__loop=loop).order_by("tag"))
    return LoopKnown(
        name=loop.name,
        plate=LoopPlate.model_validate(row.plate if row is not None else {}),
        tags=[x.tag for x in sets],
        past=_past(sets, as_of),
    )


def version_at(loop: Loop, as_of: datetime) -> LoopVersion | None:
    """Its plate at a time; the first one for what was read before anybody described it."""
    rows = LoopVersion.objects.filter(loop=loop)
    return rows.filter(at__lte=as_of).order_by("-version").first() or rows.order_by("version").first()


def _past(sets: list[PumpSet], as_of: datetime) -> list[PastPressure]:
    """The standing pressures of every set on the loop, each with the temperature of its own record."""
    since = as_of - timedelta(days=2 * Limits().value("loop.past"))
    rows = (
        Point.objects.filter(
            series__pump_set__in=sets,
            series__measurand__in=("loop_pressure", "loop_temperature"),
            live=True,
            taken_at__lt=as_of,
            taken_at__gte=since,
        )
        .select_related("series")
        .order_by("-taken_at")[:MOST_PAST]
    )
    by_record: dict[int, dict[str, Point]] = {}
    for p in rows:
        by_record.setdefault(p.record_id, {})[p.series.measurand] = p
    tags = {x.pk: x.tag for x in sets}
    out = [
        PastPressure(
            at=got["loop_pressure"].taken_at,
            kpa=got["loop_pressure"].value,
            temp_c=got["loop_temperature"].value,
            tag=tags.get(got["loop_pressure"].series.pump_set_id, ""),
        )
        for got in by_record.values()
        if {"loop_pressure", "loop_temperature"} <= got.keys()
    ]
    return sorted(out, key=lambda p: p.at)


def loops_of_site(user: User, site_id: int) -> s.LoopsOut:
    """The loops of a site, for whoever may look at it."""
    role = require(user, site_id)
    rows = (
        Loop.objects.filter(site_id=site_id)
        .order_by("name")
        .prefetch_related("members__pump_set", "versions__by")
    )
    return s.LoopsOut(loops=[loop_out(x) for x in rows], may=role in ("lead", "admin"))


def loop_out(loop: Loop) -> s.LoopOut:
    last = max(loop.versions.all(), key=lambda v: v.version, default=None)
    return s.LoopOut(
        id=loop.pk,
        name=loop.name,
        version=loop.version,
        plate=LoopPlate.model_validate(last.plate if last is not None else {}),
        set_ids=[m.pump_set_id for m in loop.members.all()],
        tags=sorted(m.pump_set.tag for m in loop.members.all()),
        by=last.by.full_name if last is not None else "",
        at=last.at if last is not None else None,
    )
