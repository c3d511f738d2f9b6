"""Plates and fittings: correct what is stamped, move what is fitted."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.db import transaction
from pydantic import ValidationError

from hurbin_core.base import Problem
from hurbin_core.plant import COMPONENT_KINDS, PARTS, Plate, check_plate, plate_model, slot_for
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User

from ..access import component_for, set_for, site_for
from ..models import Component, Event, Fitting, PlateVersion, PumpSet
from ..signals import AGAINST_FITTING, fitting_changed, plate_changed


def plate_of(component: Component) -> Plate:
    return plate_model(component.kind).model_validate(component.plate)


def read_plate_input(component_kind: str, raw: dict[str, Any]) -> Plate:
    """The plate as sent, refused field by field where it cannot be."""
    try:
        plate = plate_model(component_kind).model_validate(raw)
    except ValidationError as error:
        problems = [
            Problem(
                code="input_wrong",
                field=str(e["loc"][0]),
                value=str(e.get("input", ""))[:60],
                message=e["msg"],
            )
            for e in error.errors()
        ]
        raise Refused(422, "plate_refused", problems[0].message, problems=problems) from None
    problems, _ = check_plate(plate)
    if problems:
        raise Refused(422, "plate_refused", problems[0].message, problems=problems)
    return plate


def new_plate(user: User, component_id: int, expected: int, raw: dict[str, Any], reason: str) -> Component:
    """A new version of a plate, with its reason. A stale edit is refused and shows both."""
    component = component_for(user, component_id, "admin")
    plate = read_plate_input(component.kind, raw)
    if not reason.strip():
        raise Refused(
            422,
            "reason_missing",
            "Enter the reason for the change.",
            field="reason",
            right="read again, retyped, corrected",
        )
    with transaction.atomic():
        fresh = Component.objects.select_for_update().get(pk=component.pk)
        if fresh.plate_version != expected:
            raise Refused(
                409,
                "stale",
                f"Nameplate changed by someone else: now version {fresh.plate_version}, you edited version"
                f" {expected}. Both are shown.",
                current={"plate": fresh.plate, "version": fresh.plate_version},
            )
        before = fresh.plate
        fresh.plate = plate.model_dump(mode="json", exclude_defaults=True)
        fresh.plate_version += 1
        fresh.save()
        PlateVersion.objects.create(
            component=fresh,
            version=fresh.plate_version,
            plate=fresh.plate,
            reason=reason.strip(),
            by=user,
            at=now(),
        )
        audit.note(user, "plate_edited", fresh.label, site_id=fresh.site_id, before=before, after=fresh.plate)
        plate_changed.send(sender=Component, component=fresh)
    return fresh


def make_component(user: User, site_id: int, component_kind: str, label: str) -> Component:
    """A spare: a component fitted nowhere yet."""
    site = site_for(user, site_id, "admin")
    if component_kind not in COMPONENT_KINDS:
        raise Refused(
            422,
            "kind_unknown",
            f"Unknown part type “{component_kind[:40]}”.",
            field="kind",
            right=", ".join(COMPONENT_KINDS),
        )
    component = Component.objects.create(site=site, kind=component_kind, label=label.strip())
    audit.note(user, "component_made", label, site_id=site_id)
    return component


def fit(
    user: User,
    set_id: int,
    slot: str,
    component_id: int,
    from_at: datetime,
    note: str = "",
    although: bool = False,
) -> Fitting:
    """Fit a component from a time on. What stood there ends then; its history goes with it.

    Refused: a time in the future, a component that is fitted elsewhere at that time, a time before the
    present fitting began, a part that this place is not for (409 `fitting_stop`): with `although` it is
    recorded as it stands there all the same, and no start is offered.
    """
    row = set_for(user, set_id, "admin")
    component = component_for(user, component_id, "admin")
    if component.site_id != row.site_id:
        raise Refused(422, "other_site", "This part belongs to another site.", field="component_id")
    slot_for(row.kind, slot, component.kind)
    if from_at > now() + timedelta(minutes=5):
        raise Refused(
            422,
            "fitting_in_future",
            "Fitting date is in the future. Enter it after the part is fitted.",
            field="from_at",
            value=from_at.isoformat(),
            right="now or earlier",
        )
    against = [a for asked in AGAINST_FITTING if (a := asked(row, component))]
    if against and not although:
        raise Refused(
            409,
            "fitting_stop",
            against[0],
            field="component_id",
            value=component.label,
            right="a part whose nameplate includes this supply",
        )
    with transaction.atomic():
        PumpSet.objects.select_for_update().get(pk=row.pk)
        Component.objects.select_for_update().get(pk=component.pk)
        _refuse_overlap(component, row, slot, from_at)
        standing = Fitting.objects.filter(pump_set=row, slot=slot, to_at=None).first()
        if standing is not None:
            standing.to_at = from_at
            standing.save()
        fitting = Fitting.objects.create(component=component, pump_set=row, slot=slot, from_at=from_at)
        what = f"{component.label} fitted as {PARTS[slot].title.lower()} of {row.tag}"
        Event.objects.create(
            site=row.site,
            pump_set=row,
            component=component,
            kind=f"{slot}_change",
            at=from_at,
            note=" ".join(x for x in (note or what, *against) if x)[:300],
            by=user,
        )
        audit.note(
            user,
            "fitted",
            what,
            pump_set=row,
            before={"was": standing.component.label if standing else None},
        )
        fitting_changed.send(sender=Fitting, pump_set=row)
    return fitting


def _when(at: datetime, row: PumpSet) -> str:
    """By the clock of the site that it happened on."""
    return f"{at.astimezone(ZoneInfo(row.site.time_zone)):%d %b %Y, %H:%M}"


def _refuse_overlap(component: Component, row: PumpSet, slot: str, from_at: datetime) -> None:
    mine = Fitting.objects.select_related("pump_set").filter(component=component)
    for f in mine:
        if f.to_at is None or f.to_at > from_at:
            where = f.pump_set.tag
            until = "still" if f.to_at is None else f"until {_when(f.to_at, row)}"
            raise Refused(
                409,
                "fitting_overlaps",
                f"{component.label} is fitted at {where} since {_when(f.from_at, row)}, {until}. "
                "Remove it there first, or choose a later time.",
                field="from_at",
                value=from_at.isoformat(),
            )
    latest = Fitting.objects.filter(pump_set=row, slot=slot).order_by("-from_at").first()
    if latest is not None and (latest.from_at >= from_at or (latest.to_at and latest.to_at > from_at)):
        raise Refused(
            409,
            "fitting_overlaps",
            f"The {PARTS[slot].title.lower()} now at {row.tag} was fitted on"
            f" {_when(latest.from_at, row)}. Choose a later time.",
            field="from_at",
            value=from_at.isoformat(),
        )


def take_off(user: User, set_id: int, slot: str, at: datetime) -> Fitting:
    """Leave a place empty: the component becomes a spare."""
    row = set_for(user, set_id, "admin")
    if at > now() + timedelta(minutes=5):
        raise Refused(
            422,
            "fitting_in_future",
            "Removal date is in the future.",
            field="at",
            right="now or earlier",
        )
    with transaction.atomic():
        standing = (
            Fitting.objects.select_for_update()
            .select_related("component")
            .filter(pump_set=row, slot=slot, to_at=None)
            .first()
        )
        if standing is None:
            raise Refused(409, "nothing_fitted", "Nothing is fitted there.", field="slot", value=slot)
        if at <= standing.from_at:
            raise Refused(
                409,
                "fitting_overlaps",
                "Removal date is before the fitting date.",
                field="at",
                value=at.isoformat(),
            )
        standing.to_at = at
        standing.save()
        audit.note(user, "taken_off", standing.component.label, pump_set=row)
        fitting_changed.send(sender=Fitting, pump_set=row)
    return standing
