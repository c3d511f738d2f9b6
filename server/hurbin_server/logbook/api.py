"""Plant as it stands, history, trends, rules."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import Query, Status

from hurbin_server.base.door import DoorRouter, judges_only
from hurbin_server.base.errors import ERRORS
from hurbin_server.base.kept import page
from hurbin_server.base.prefs import prefs_of, reader
from hurbin_server.plant.access import role_and_state

from . import querysets as q, set_state as state, trends as t
from .plant_page import plant as whole_plant
from .rules_page import rules as whole_rules
from .rules_schemas import OverrideIn, RulesOut
from .schemas import (
    HistoryOut,
    PlantOut,
    RecordOut,
    SetStateOut,
    TrendOut,
)
from .services.overriding import override_limit, withdraw

router = DoorRouter(tags=["logbook"])


@router.get("/sites/{site_id}/plant", response={200: PlantOut, **ERRORS}, operation_id="plant")
@judges_only
def plant(request: HttpRequest, site_id: int) -> HttpResponse:
    user = request.user
    role, state = role_and_state(user, site_id)
    key = ("plant", site_id, role, reader(user))
    return page(request, key, state, lambda: whole_plant(user, site_id, prefs_of(user)))


@router.get("/sets/{set_id}/state", response={200: SetStateOut, **ERRORS}, operation_id="set_state")
def set_state(request: HttpRequest, set_id: int) -> SetStateOut:
    return state.set_state(request.user, set_id, prefs_of(request.user))


@router.get("/sets/{set_id}/history", response={200: HistoryOut, **ERRORS}, operation_id="history")
def history(request: HttpRequest, set_id: int, before: str = Query("", max_length=60)) -> HistoryOut:
    return q.history(request.user, set_id, prefs_of(request.user), before)


@router.get(
    "/sets/{set_id}/trends/newest", response={200: list[TrendOut], **ERRORS}, operation_id="newest_trends"
)
def newest_trends(request: HttpRequest, set_id: int) -> list[TrendOut]:
    """The newest points of each series, as a set's page draws them."""
    return t.trends(request.user, set_id, prefs_of(request.user), whole=False)


@router.get("/sets/{set_id}/trends", response={200: list[TrendOut], **ERRORS}, operation_id="trends")
def trends(request: HttpRequest, set_id: int) -> list[TrendOut]:
    return t.trends(request.user, set_id, prefs_of(request.user))


@router.get(
    "/series/{series_id}/points", response={200: list[list[float]], **ERRORS}, operation_id="series_points"
)
def series_points(
    request: HttpRequest, series_id: int, width: int = Query(480, ge=10, le=4000)
) -> list[list[float]]:
    return t.series_points(request.user, series_id, width)


@router.get("/records/{record_id}", response={200: RecordOut, **ERRORS}, operation_id="record")
def record(request: HttpRequest, record_id: int) -> RecordOut:
    return q.record(request.user, record_id, prefs_of(request.user))


@router.get("/sites/{site_id}/rules", response={200: RulesOut, **ERRORS}, operation_id="rules")
def rules(request: HttpRequest, site_id: int) -> RulesOut:
    return whole_rules(request.user, site_id)


@router.post("/sites/{site_id}/overrides", response={201: RulesOut, **ERRORS}, operation_id="override_limit")
def override(request: HttpRequest, site_id: int, body: OverrideIn) -> Status:
    override_limit(
        request.user, site_id, body.limit, body.value, body.unit, body.choice, body.reason, body.set_id
    )
    return Status(201, whole_rules(request.user, site_id))


@router.delete(
    "/sites/{site_id}/overrides/{override_id}",
    response={200: RulesOut, **ERRORS},
    operation_id="withdraw_override",
)
def withdraw_override(request: HttpRequest, site_id: int, override_id: int) -> RulesOut:
    withdraw(request.user, override_id)
    return whole_rules(request.user, site_id)
