"""Series for plots: thinned, in the reader's unit, with limits, events and what the trend says."""

from __future__ import annotations

from datetime import datetime

from hurbin_core.base import MEASURANDS, UNITS, Bound, Limits, Prefs, Quantity, from_metric, show, write
from hurbin_core.logbook import (
    Conditions,
    Plates,
    SeriesLimit,
    downsample,
    path_values,
    series_forecast,
    series_limits,
)
from hurbin_server.base.errors import not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for
from hurbin_server.plant.models import Component, Event, Fitting, PumpSet
from hurbin_server.plant.services.parts import plate_of

from .models import Point, Series
from .querysets import event_out
from .schemas import EventOut, TrendLimit, TrendOut, TrendPath, TrendPoint, TrendTwin
from .services.casing import overrides_for
from .services.rolling import days_of

WIDE = 480
TAIL = 200


def points_of(
    series_id: int, since: datetime | None = None
) -> tuple[list[float], list[float], list[str], list[int]]:
    """The live points of a series, by time, from a time on: seconds, metric values, bounds, records."""
    found = Point.objects.filter(series_id=series_id, live=True)
    if since is not None:
        found = found.filter(taken_at__gte=since)
    rows = found.order_by("taken_at").values_list("taken_at", "value", "bound", "record_id")
    times, values, bounds, records = [], [], [], []
    for t, v, b, r in rows.iterator(chunk_size=5000):
        times.append(t.timestamp())
        values.append(v)
        bounds.append(b)
        records.append(r)
    return times, values, bounds, records


Thinned = tuple[list[tuple[float, float, str, int]], int, list[tuple[float, float, Bound]]]


def thinned(series_id: int, width: int, rolled: bool = False) -> Thinned:
    """The points a plot of this width needs, how many there are, and the last 200 for the trend. `rolled`:
    its days are kept in one row each; only the newest are read point by point.
    """
    older: list[tuple[float, float, str, int]] = []
    before, since = 0, None
    if rolled:
        newest = Point.objects.filter(series_id=series_id, live=True).order_by("-taken_at")
        last = list(newest.values_list("taken_at", flat=True)[:TAIL])
        if last:
            since = last[-1].replace(hour=0, minute=0, second=0, microsecond=0)
            older, before = days_of(series_id, since)
    times, values, bounds, records = points_of(series_id, since)
    tail = slice(max(0, len(times) - TAIL), None)
    data = [(t / 86400, v, Bound(b)) for t, v, b in zip(times[tail], values[tail], bounds[tail], strict=True)]
    every = [*older, *zip(times, values, bounds, records, strict=True)]
    keep = downsample([p[0] for p in every], [p[1] for p in every], width)
    return [every[i] for i in keep], len(times) + before, data


def trends(user: User, set_id: int, prefs: Prefs) -> list[TrendOut]:
    """What the set's series look like: the motor that stands there now with its own past, and the position's
    own.
    """
    row = set_for(user, set_id)
    motor = _motor(row)
    wanted = Series.objects.filter(pump_set=row) | Series.objects.filter(
        component=motor, component__isnull=False
    )
    events = [event_out(e) for e in Event.objects.filter(pump_set=row).select_related("by").order_by("at")]
    limits = Limits(overrides_for(row))
    plates: Plates = {"motor": plate_of(motor) if motor is not None else None}
    plotted = [m for m, kind in MEASURANDS.items() if kind.plot]
    order = {m: i for i, m in enumerate(plotted)}
    twin = _twin(row)
    out: list[TrendOut] = []
    for s in wanted.filter(measurand__in=plotted):
        shown, total, data = thinned(s.pk, WIDE, s.rolled)
        if shown:
            out.append(
                _trend(s, shown, total, data, events, series_limits(s.measurand, plates, limits), twin, prefs)
            )
    out.sort(key=lambda t: (order[t.measurand], -t.total, t.leg))
    first: dict[str, TrendOut] = {}
    for t in out:
        like = Conditions.parse(first.setdefault(t.measurand, t).conditions)
        t.differs = Conditions.parse(t.conditions).unlike(like)
    for t in out:
        t.conditions = Conditions.parse(t.conditions).words
    return out


def _motor(row: PumpSet) -> Component | None:
    held = Fitting.objects.filter(pump_set=row, slot="motor", to_at=None).select_related("component").first()
    return held.component if held is not None else None


def _twin(row: PumpSet) -> tuple[str, Component | None] | None:
    other = (
        PumpSet.objects.filter(service_id=row.service_id, pair=row.pair)
        .exclude(pk=row.pk)
        .order_by("tag")
        .first()
        if row.pair
        else None
    )
    return (other.tag, _motor(other)) if other is not None else None


def _trend(
    s: Series,
    rows: list[tuple[float, float, str, int]],
    total: int,
    data: list[tuple[float, float, Bound]],
    events: list[EventOut],
    limits: list[SeriesLimit],
    twin: tuple[str, Component | None] | None,
    prefs: Prefs,
) -> TrendOut:
    kind, code = MEASURANDS[s.measurand], prefs.units.get(UNITS[s.unit].dimension, s.unit)
    cut = max((e.at.timestamp() / 86400 for e in events), default=None)
    since = [d for d in data if cut is None or d[0] >= cut]
    f, says = series_forecast(s.measurand, s.unit, since, limits[0].value if limits else None)
    path = path_values(s.measurand, f) if kind.floor else []
    return TrendOut(
        series=s.pk,
        measurand=s.measurand,
        title=kind.title,
        symbol=UNITS[code].symbol,
        leg=s.leg,
        conditions=s.conditions,
        differs="",
        part=kind.part,
        log=kind.log,
        floor=kind.floor,
        total=total,
        events=events,
        points=_shown(rows, s.unit, code, prefs),
        limits=[TrendLimit(label=x.label, value=from_metric(x.value, code)) for x in limits],
        says=write(says, prefs),
        path=[
            TrendPath(
                t=t.timestamp(),
                likely=from_metric(a, code),
                low=from_metric(b, code),
                high=from_metric(c, code),
            )
            for t, a, b, c in path
        ],
        twin=_beside(s, twin, code, prefs) if kind.floor else None,
    )


def _shown(rows: list[tuple[float, float, str, int]], unit: str, code: str, prefs: Prefs) -> list[TrendPoint]:
    return [
        TrendPoint(
            t=t,
            value=from_metric(v, code),
            bound=b,
            shown=show(Quantity(value=v, unit=unit, bound=b), prefs),
            record=r,
        )
        for t, v, b, r in rows
    ]


def _beside(
    s: Series, twin: tuple[str, Component | None] | None, code: str, prefs: Prefs
) -> TrendTwin | None:
    """The twin's points under the same conditions, or the word in which its own differ."""
    if twin is None or twin[1] is None:
        return None
    theirs = list(Series.objects.filter(component=twin[1], measurand=s.measurand, leg=s.leg))
    same = next((x for x in theirs if x.conditions == s.conditions), None)
    if same is not None:
        return TrendTwin(
            tag=twin[0],
            points=_shown(thinned(same.pk, WIDE, same.rolled)[0], s.unit, code, prefs),
            differs="",
        )
    return (
        TrendTwin(
            tag=twin[0],
            points=[],
            differs=Conditions.parse(theirs[0].conditions).unlike(Conditions.parse(s.conditions)),
        )
        if theirs
        else None
    )


def series_points(user: User, series_id: int, width: int) -> list[list[float]]:
    """One series for a plot: [seconds, metric value] pairs."""
    s = Series.objects.select_related("component").filter(pk=series_id).first()
    if s is None:
        raise not_found("That series")
    from hurbin_server.plant.access import require

    require(user, s.site_id)
    return [[t, v] for t, v, _, _ in thinned(series_id, width, s.rolled)[0]]
