"""What hangs on one set, open or over: in a read of one moment it is asked once, in an act every time.

Mostly nothing does: who did it is looked up only where something hangs.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from django.db.models import Model, prefetch_related_objects

from hurbin_server.base.asking import rows
from hurbin_server.base.clock import now
from hurbin_server.base.door import asked_already, once
from hurbin_server.logbook.models import Answer
from hurbin_server.plant.known import pair_of, rows_of
from hurbin_server.plant.models import PumpSet

from ..models import CheckBack, Deferral, GateWaiver, IsolationState, Matter, TemporaryChange

M = TypeVar("M", bound=Model)


def _ids(pump_set: PumpSet) -> list[int]:
    """The set and its pair: what hangs on the one decides what the other must do."""
    return [pump_set.pk, *(x.pk for x in pair_of(pump_set))]


def _near(name: str, pump_set: PumpSet, model: type[M], order: str, over: str, *with_: str) -> list[M]:
    """Everything of this set, and what is open on its pair."""

    def ask() -> list[M]:
        ids = _ids(pump_set)
        if len(ids) == 1:
            found = rows_of(model, pump_set, order)
        else:
            near = f"pump_set_id = %s OR (pump_set_id IN %s AND {over} IS NULL)"
            sql = f"SELECT * FROM {model._meta.db_table} WHERE {near} ORDER BY {order}"
            found = rows(model, sql, [pump_set.pk, tuple(ids[1:])])
        prefetch_related_objects(found, *with_)
        return found

    return once((name, pump_set.pk), ask)


def _own(name: str, pump_set: PumpSet, ask: Callable[[], list[M]]) -> list[M]:
    """The set's own, of what was asked already if it was."""
    near: list[Any] | None = asked_already((name, pump_set.pk))
    return ask() if near is None else [x for x in near if x.pump_set_id == pump_set.pk]


def matters_near(pump_set: PumpSet) -> list[Matter]:
    """What was called in, by when; on its pair what is open."""
    with_ = ("service", "ended_by", "calls__by")
    return _near("matters", pump_set, Matter, "opened_at", "ended_at", *with_)


def changes_near(pump_set: PumpSet) -> list[TemporaryChange]:
    """Temporary changes, by when they were put on; on its pair what is on."""
    return _near("changes", pump_set, TemporaryChange, "put_at", "off_at", "put_by", "off_by")


def changes_of(pump_set: PumpSet) -> list[TemporaryChange]:
    """The set's own temporary changes."""
    return _own("changes", pump_set, lambda: rows_of(TemporaryChange, pump_set, "put_at"))


def deferrals_near(pump_set: PumpSet) -> list[Deferral]:
    """Repairs put off, by when; on its pair those that are."""
    return _near("deferrals", pump_set, Deferral, "at", "ended_at", "by", "ended_by")


def deferrals_of(pump_set: PumpSet) -> list[Deferral]:
    """The set's own."""
    return _own("deferrals", pump_set, lambda: rows_of(Deferral, pump_set, "at"))


def checks_near(pump_set: PumpSet) -> list[CheckBack]:
    """What is to be looked at again, or was; on its pair what is."""
    return _near("checks", pump_set, CheckBack, "at", "read_at", "read_by")


def _waivers(ids: list[int]) -> list[GateWaiver]:
    sql = "SELECT * FROM safety_gatewaiver WHERE pump_set_id IN %s AND until > %s ORDER BY id"
    found = rows(GateWaiver, sql, [tuple(ids), now()])
    prefetch_related_objects(found, "by")
    return found


def waivers_near(pump_set: PumpSet) -> list[GateWaiver]:
    """Gates set aside now, on the set and on its pair."""
    return once(("waivers", pump_set.pk), lambda: _waivers(_ids(pump_set)))


def waivers_on(pump_set: PumpSet) -> list[GateWaiver]:
    """Those on the set itself."""
    return _own("waivers", pump_set, lambda: _waivers([pump_set.pk]))


def _stops(ids: list[int]) -> list[Answer]:
    sql = "SELECT * FROM logbook_answer WHERE verdict = 'stop' AND pump_set_id IN %s ORDER BY taken_at DESC"
    return rows(Answer, sql, [tuple(ids)])


def stops_near(pump_set: PumpSet) -> list[Answer]:
    """The stops that stand, the newest first, on the set and on its pair."""
    return once(("stops", pump_set.pk), lambda: _stops(_ids(pump_set)))


def stops_of(pump_set: PumpSet) -> list[Answer]:
    """Those on the set itself."""
    return _own("stops", pump_set, lambda: _stops([pump_set.pk]))


def states_near(pump_set: PumpSet) -> list[IsolationState]:
    """How the set and its pair stand, as written down."""
    sql = "SELECT * FROM safety_isolationstate WHERE pump_set_id IN %s"
    return rows(IsolationState, sql, [tuple(_ids(pump_set))])
