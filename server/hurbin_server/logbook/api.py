"""Plant as it stands, history, trends, rules."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import Query, Status

from hurbin_core.base import (
    LIMITS,
    RULEBOOK,
    RULES,
    SCHOOLS,
    TABLES,
    UNITS,
    DrawnStep,
    Limits,
    Prefs,
    Quantity,
    Table,
    drawn_rule,
    rules_version,
    show_limit,
    to_metric,
)
from hurbin_server.base.door import DoorRouter, judges_only
from hurbin_server.base.errors import ERRORS
from hurbin_server.base.kept import page
from hurbin_server.base.models import User
from hurbin_server.base.prefs import prefs_of, reader
from hurbin_server.plant.access import require, role_and_state

from . import querysets as q, set_state as state, trends as t
from .models import LimitOverride
from .plant_page import plant as whole_plant
from .schemas import (
    HistoryOut,
    LimitRow,
    OverrideIn,
    OverrideRow,
    PlantOut,
    RecordOut,
    RuleRow,
    RulesOut,
    RuleTick,
    SchoolRow,
    SetStateOut,
    TableRow,
    TrendOut,
)
from .services.casing import override_of
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
    return _rules(request.user, site_id)


@router.post("/sites/{site_id}/overrides", response={201: RulesOut, **ERRORS}, operation_id="override_limit")
def override(request: HttpRequest, site_id: int, body: OverrideIn) -> Status:
    override_limit(
        request.user, site_id, body.limit, body.value, body.unit, body.choice, body.reason, body.set_id
    )
    return Status(201, _rules(request.user, site_id))


@router.delete(
    "/sites/{site_id}/overrides/{override_id}",
    response={200: RulesOut, **ERRORS},
    operation_id="withdraw_override",
)
def withdraw_override(request: HttpRequest, site_id: int, override_id: int) -> RulesOut:
    withdraw(request.user, override_id)
    return _rules(request.user, site_id)


def _table(table: Table, prefs: Prefs) -> TableRow:
    parts = [(f"{a.name} up to" if a.read == "upto" else a.name, a.unit) for a in table.axes]
    parts += [(c.name, c.unit) for c in table.columns]
    heads = [", ".join(x for x in (n.replace("_", " "), UNITS[u].symbol if u else "") if x) for n, u in parts]

    def cell(value: float | str) -> str:
        if isinstance(value, str):
            return value.replace("_", " ")
        return "any" if value >= 1e9 else f"{value:g}".replace("-", "−").replace(".", prefs.decimal)

    return TableRow(
        id=table.id,
        title=table.title,
        columns=heads,
        rows=[[cell(c) for c in r] for r in table.rows],
        source=table.source,
        certainty=table.certainty,
        from_memory=table.from_memory,
        why=table.why,
    )


def _tick(step: DrawnStep, prefs: Prefs) -> RuleTick:
    return RuleTick(
        limit=step.limit,
        at=step.at,
        shown=show_limit(step.value, prefs),
        site_at=step.site_at,
        site=show_limit(step.site, prefs) if step.site is not None else "",
    )


def _rules(user: User, site_id: int) -> RulesOut:
    role = require(user, site_id)
    prefs = prefs_of(user)
    standing: dict[str, list[OverrideRow]] = {}
    for r in LimitOverride.objects.filter(site_id=site_id, ended_at=None).select_related("by", "pump_set"):
        shown = SCHOOLS[r.limit].options[r.choice] if r.limit in SCHOOLS else ""
        if r.limit in LIMITS and r.value is not None:
            code = LIMITS[r.limit].unit
            shown = show_limit(
                Quantity(value=to_metric(r.value, r.unit or code), unit=Limits().get(r.limit).unit), prefs
            )
        row = OverrideRow(
            id=r.pk, set_tag=r.pump_set.tag if r.pump_set else "", override=override_of(r), shown=shown
        )
        standing.setdefault(r.limit, []).append(row)
    published = Limits()
    everywhere = [o.override for rows in standing.values() for o in rows if not o.set_tag]
    own = Limits(everywhere)
    limits = []
    for found in LIMITS.values():
        used = published.get(found.id)
        limits.append(
            LimitRow(
                id=found.id,
                title=found.title,
                topic=RULEBOOK.topic("limit", found.id),
                shown=show_limit(Quantity(value=used.value, unit=used.unit), prefs),
                unit=found.unit,
                symbol=UNITS[found.unit].symbol,
                source=found.source,
                certainty=found.certainty,
                from_memory=found.from_memory,
                why=found.why,
                fixed=found.fixed,
                overrides=standing.get(found.id, []),
            )
        )
    return RulesOut(
        rules_version=rules_version(),
        role=role,
        limits=limits,
        tables=[_table(t, prefs) for t in TABLES.values()],
        rules=[
            RuleRow(
                id=r.id,
                title=r.title,
                topic=RULEBOOK.topic("rule", r.id),
                ticks=[_tick(s, prefs) for s in drawn.steps] if (drawn := drawn_rule(r, own)) else [],
                zones=drawn.zones if drawn else [],
                formula=r.formula,
                why=r.why,
                source=r.source,
                certainty=r.certainty,
                from_memory=r.from_memory,
                limits=[s.limit for s in r.steps],
            )
            for r in RULES.values()
        ],
        schools=[
            SchoolRow(
                id=s.id,
                title=s.title,
                options=s.options,
                default=s.default,
                why=s.why,
                overrides=standing.get(s.id, []),
            )
            for s in SCHOOLS.values()
        ],
    )
