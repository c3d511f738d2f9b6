"""What nearly every read asks of a set: in a read of one moment it is asked once, in an act every time."""

from __future__ import annotations

from datetime import datetime
from typing import TypeVar

from django.db.models import Model, prefetch_related_objects

from hurbin_server.base.asking import by_id, rows
from hurbin_server.base.door import once

from .models import Component, Event, Fitting, PumpSet, Service, Site

M = TypeVar("M", bound=Model)


def rows_of(model: type[M], pump_set: PumpSet, order: str) -> list[M]:
    """All rows of a set, in this order."""
    sql = f"SELECT * FROM {model._meta.db_table} WHERE pump_set_id = %s ORDER BY {order}"
    return rows(model, sql, [pump_set.pk])


def known_set(pk: int) -> PumpSet | None:
    """A set with its site and its service."""
    return once(("set", pk), lambda: _known_set(pk))


def _known_set(pk: int) -> PumpSet | None:
    found = by_id(PumpSet, pk)
    if found is not None:
        site_id, service_id = found.site_id, found.service_id
        site = once(("site", site_id), lambda: by_id(Site, site_id))
        service = once(("service", service_id), lambda: by_id(Service, service_id))
        assert site is not None
        assert service is not None
        found.site, found.service = site, service
    return found


def fittings_of(pump_set: PumpSet) -> list[Fitting]:
    """Whatever stood here, and since and until when, oldest first."""
    return once(("fittings", pump_set.pk), lambda: _fittings_of(pump_set))


def _fittings_of(pump_set: PumpSet) -> list[Fitting]:
    found = rows_of(Fitting, pump_set, "from_at")
    if found:
        sql = "SELECT * FROM plant_component WHERE id IN %s"
        parts = {c.pk: c for c in rows(Component, sql, [tuple({f.component_id for f in found})])}
        for f in found:
            f.pump_set, f.component = pump_set, parts[f.component_id]
    return found


def fitted_now(pump_set: PumpSet) -> dict[str, Component]:
    """What stands here, by place."""
    return {f.slot: f.component for f in fittings_of(pump_set) if f.to_at is None}


def fitted_at(pump_set: PumpSet, at: datetime, slots: tuple[str, ...]) -> dict[str, Component]:
    """What stood at these places at that time. Before the first fitting the first one counts: the register
    may be younger than the readings."""
    stood = [f for f in fittings_of(pump_set) if f.slot in slots]
    out: dict[str, Component] = {}
    for f in stood:
        if (
            f.slot not in out and f.to_at is None and not any(x.slot == f.slot and x is not f for x in stood)
        ) or (f.from_at <= at and (f.to_at is None or at < f.to_at)):
            out[f.slot] = f.component
    for f in stood:
        out.setdefault(f.slot, f.component)
    return out


def events_around(pump_set: PumpSet, motor: Component | None) -> list[Event]:
    """What befell the set, and this motor wherever it stood, oldest first."""
    sql = "SELECT * FROM plant_event WHERE pump_set_id = %s OR component_id = %s ORDER BY at, id"
    with_motor = motor.pk if motor is not None else 0

    def ask() -> list[Event]:
        found = rows(Event, sql, [pump_set.pk, with_motor])
        prefetch_related_objects(found, "by")
        return found

    return once(("events", pump_set.pk, with_motor), ask)


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
    sql = "SELECT * FROM plant_pumpset WHERE service_id = %s AND pair = %s AND id <> %s ORDER BY tag"
    found = rows(PumpSet, sql, [pump_set.service_id, pump_set.pair, pump_set.pk])
    for x in found:
        x.service = pump_set.service
    return found
