"""What nearly every read asks of a set: in a read of one moment it is asked once, in an act every time."""

from __future__ import annotations

from datetime import datetime
from typing import TypeVar

from django.db.models import Model

from hurbin_server.base.door import once

from .models import Component, Event, Fitting, PumpSet

M = TypeVar("M", bound=Model)


def rows_of(model: type[M], pump_set: PumpSet, order: str) -> list[M]:
    """All rows of a set, in this order. Asked by every page and case, and mostly answered with none: put as
    it stands, it takes a third of the time that the ORM needs to build the question.
    """
    sql = f"SELECT * FROM {model._meta.db_table} WHERE pump_set_id = %s ORDER BY {order}"
    return list(model._default_manager.raw(sql, [pump_set.pk]))


def fittings_of(pump_set: PumpSet) -> list[Fitting]:
    """Whatever stood here, and since and until when, oldest first."""
    return once(("fittings", pump_set.pk), lambda: _fittings_of(pump_set))


def _fittings_of(pump_set: PumpSet) -> list[Fitting]:
    rows = Fitting.objects.filter(pump_set=pump_set).select_related("component").order_by("from_at")
    for f in rows:
        f.pump_set = pump_set
    return list(rows)


def fitted_now(pump_set: PumpSet) -> dict[str, Component]:
    """What stands here, by place."""
    return {f.slot: f.component for f in fittings_of(pump_set) if f.to_at is None}


def fitted_at(pump_set: PumpSet, at: datetime, slots: tuple[str, ...]) -> dict[str, Component]:
    """What stood at these places at that time. Before the first fitting the first one counts: the register
    may be younger than the readings."""
    rows = [f for f in fittings_of(pump_set) if f.slot in slots]
    out: dict[str, Component] = {}
    for f in rows:
        if (
            f.slot not in out and f.to_at is None and not any(x.slot == f.slot and x is not f for x in rows)
        ) or (f.from_at <= at and (f.to_at is None or at < f.to_at)):
            out[f.slot] = f.component
    for f in rows:
        out.setdefault(f.slot, f.component)
    return out


def events_around(pump_set: PumpSet, motor: Component | None) -> list[Event]:
    """What befell the set, and this motor wherever it stood, oldest first."""
    sql = "SELECT * FROM plant_event WHERE pump_set_id = %s OR component_id = %s ORDER BY at, id"
    rows = Event.objects.raw(sql, [pump_set.pk, motor.pk if motor is not None else None])
    return once(("events", pump_set.pk, motor.pk if motor else 0), lambda: list(rows.prefetch_related("by")))


def events_of(pump_set: PumpSet) -> list[Event]:
    """What befell the set, oldest first."""
    every = events_around(pump_set, fitted_now(pump_set).get("motor"))
    return [e for e in every if e.pump_set_id == pump_set.pk]


def pair_of(pump_set: PumpSet) -> list[PumpSet]:
    """The others of its pair, by tag."""
    if not pump_set.pair:
        return []
    return once(("pair", pump_set.pk), lambda: _pair_of(pump_set))


def _pair_of(pump_set: PumpSet) -> list[PumpSet]:
    pair = PumpSet.objects.filter(service_id=pump_set.service_id, pair=pump_set.pair).order_by("tag")
    rows = [x for x in pair if x.pk != pump_set.pk]
    for x in rows:
        x.service = pump_set.service
    return rows
