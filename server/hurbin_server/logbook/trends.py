"""Series for plots: thinned, in the reader's unit, with limits, events and what the trend says."""

from __future__ import annotations

from datetime import datetime
from operator import itemgetter

from hurbin_core.base import (
    MEASURANDS,
    UNITS,
    Bound,
    Limits,
    Phrase,
    Prefs,
    Quantity,
    from_metric,
    rules_version,
    show,
    write,
)
from hurbin_core.logbook import (
    Conditions,
    Forecast,
    Plates,
    SeriesLimit,
    downsample,
    path_values,
    series_forecast,
    series_limits,
)
from hurbin_server.base.asking import ask, rows
from hurbin_server.base.errors import not_found
from hurbin_server.base.kept import Kept
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for
from hurbin_server.plant.known import events_of, fitted_now, pair_of
from hurbin_server.plant.models import Component, PumpSet
from hurbin_server.plant.services.parts import plate_of

from .models import Point, Series
from .querysets import event_out
from .schemas import EventOut, TrendLimit, TrendOut, TrendPath, TrendPoint, TrendTwin
from .services.casing import overrides_for
from .services.rolling import Shown, days_of

WIDE = 480
# As many of the newest points a trend is told from, and a set's page draws of each series: eight years of
# monthly checks. Common practice, no source.
NEWEST = 100


def points_of(
    series_id: int, since: datetime | None = None
) -> tuple[list[float], list[float], list[str], list[int]]:
    """The live points of a series, by time, from a time on: seconds, metric values, bounds, records."""
    found = Point.objects.filter(series_id=series_id, live=True)
    if since is not None:
        found = found.filter(taken_at__gte=since)
    every = found.order_by("taken_at").values_list("taken_at", "value", "bound", "record_id")
    times, values, bounds, records = [], [], [], []
    for t, v, b, r in every.iterator(chunk_size=5000):
        times.append(t.timestamp())
        values.append(v)
        bounds.append(b)
        records.append(r)
    return times, values, bounds, records


_BOUNDS = {b.value: b for b in Bound}
Thinned = tuple[list[Shown], int, list[tuple[float, float, Bound]]]


def thinned(series_id: int, width: int, rolled: bool = False) -> Thinned:
    """The points a plot of this width needs, how many there are, and the newest for the trend. `rolled`:
    its days are kept in one row each; only the newest are read point by point.
    """
    older: list[Shown] = []
    before, since = 0, None
    if rolled:
        newest = Point.objects.filter(series_id=series_id, live=True).order_by("-taken_at")
        last = list(newest.values_list("taken_at", flat=True)[:NEWEST])
        if last:
            since = last[-1].replace(hour=0, minute=0, second=0, microsecond=0)
            older, before = days_of(series_id, since)
    times, values, bounds, records = points_of(series_id, since)
    tail = slice(max(0, len(times) - NEWEST), None)
    data = [(t / 86400, v, Bound(b)) for t, v, b in zip(times[tail], values[tail], bounds[tail], strict=True)]
    every = [*older, *zip(times, values, bounds, records, strict=True)]
    keep = downsample([p[0] for p in every], [p[1] for p in every], width)
    return [every[i] for i in keep], len(times) + before, data


_TOTALS = {
    False: "SELECT series_id, COUNT(*) FROM logbook_point WHERE live = 1 AND series_id IN %s GROUP BY 1",
    True: "SELECT series_id, SUM(n) FROM logbook_dayroll WHERE series_id IN %s GROUP BY 1",
}
# So many from the end of each series' index, however long it is: as the ORM would write it, the database
# numbers every point of every series first.
_NEWEST = """(SELECT series_id, TIMESTAMPDIFF(MICROSECOND, '1970-01-01', taken_at) AS t, value, bound,
record_id FROM logbook_point WHERE live = 1 AND series_id = %s ORDER BY taken_at DESC LIMIT %s)"""


def _totals(series: list[Series]) -> dict[int, int]:
    """How many live points each has; of a long one, as its days say."""
    out: dict[int, int] = {}
    for rolled, sql in _TOTALS.items():
        wanted = tuple(s.pk for s in series if s.rolled is rolled)
        if wanted:
            out |= {pk: int(total) for pk, total in ask(sql, [wanted])}
    return out


def newest_of(series: list[Series]) -> dict[int, Thinned]:
    """What a set's page draws of each of these series: the newest live points, by time, as they are."""
    totals = _totals(series)
    if not totals:
        return {}
    sql = " UNION ALL ".join([_NEWEST] * len(totals))
    points: dict[int, list[Shown]] = {pk: [] for pk in totals}
    for of, t, value, bound, record in ask(sql, [x for pk in totals for x in (pk, NEWEST)]):
        points[of].append((t / 1e6, value, bound, record))
    out: dict[int, Thinned] = {}
    for pk, found in points.items():
        found.sort(key=itemgetter(0))
        data = [(t / 86400, v, _BOUNDS[b]) for t, v, b, _ in found]
        out[pk] = (found, totals[pk], data)
    return out


_OF_SET = "SELECT * FROM logbook_series WHERE (pump_set_id = %s OR component_id = %s) AND measurand IN %s"


def trends(user: User, set_id: int, prefs: Prefs, *, whole: bool = True) -> list[TrendOut]:
    """What the set's series look like: the motor that stands there now with its own past, and the position's
    own. `whole`: all their years, thinned; else the newest points of each.
    """
    row = set_for(user, set_id)
    motor = fitted_now(row).get("motor")
    plotted = [m for m, kind in MEASURANDS.items() if kind.plot]
    wanted = rows(Series, _OF_SET, [row.pk, motor.pk if motor is not None else 0, tuple(plotted)])
    drawn = {s.pk: thinned(s.pk, WIDE, s.rolled) for s in wanted} if whole else newest_of(wanted)
    events = [event_out(e) for e in events_of(row)]
    limits = Limits(overrides_for(row))
    plates: Plates = {"motor": plate_of(motor) if motor is not None else None}
    order = {m: i for i, m in enumerate(plotted)}
    twin = _twin(row)
    out = [
        _trend(s, drawn[s.pk], events, series_limits(s.measurand, plates, limits), twin, prefs, whole)
        for s in wanted
        if s.pk in drawn and drawn[s.pk][0]
    ]
    out.sort(key=lambda t: (order[t.measurand], -t.total, t.leg))
    first: dict[str, TrendOut] = {}
    for t in out:
        like = Conditions.parse(first.setdefault(t.measurand, t).conditions)
        t.differs = Conditions.parse(t.conditions).unlike(like)
        t.partial = not whole and len(t.points) < t.total
    for t in out:
        t.conditions = Conditions.parse(t.conditions).words
    return out


def _twin(row: PumpSet) -> tuple[str, Component | None] | None:
    other = next(iter(pair_of(row)), None)
    return (other.tag, fitted_now(other).get("motor")) if other is not None else None


def _trend(
    s: Series,
    drawn: Thinned,
    events: list[EventOut],
    limits: list[SeriesLimit],
    twin: tuple[str, Component | None] | None,
    prefs: Prefs,
    whole: bool,
) -> TrendOut:
    drawn_points, total, data = drawn
    kind, code = MEASURANDS[s.measurand], prefs.units.get(UNITS[s.unit].dimension, s.unit)
    cut = max((e.at.timestamp() / 86400 for e in events), default=None)
    since = [d for d in data if cut is None or d[0] >= cut]
    f, says = _forecast(s, since, limits[0].value if limits else None)
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
        partial=False,
        events=events,
        points=_drawn(s, drawn_points, code, prefs, whole),
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
        twin=_beside(s, twin, code, prefs, whole) if kind.floor else None,
    )


# What a series does is worked out from its points alone, pair by pair: kept for as long as they are the same.
forecasts: Kept[tuple[Forecast, Phrase]] = Kept(4096)


def _forecast(
    s: Series, since: list[tuple[float, float, Bound]], limit: float | None
) -> tuple[Forecast, Phrase]:
    stamp = f"{rules_version()} {hash((tuple(since), limit))}"
    found = forecasts.good(s.pk, stamp)
    if found is None:
        found = series_forecast(s.measurand, s.unit, since, limit)
        forecasts.put(s.pk, stamp, None, found)
    return found


# The newest points as one reader has them written, for as long as they are the same.
written: Kept[list[TrendPoint]] = Kept(1024)


def _drawn(s: Series, points: list[Shown], code: str, prefs: Prefs, whole: bool) -> list[TrendPoint]:
    if whole:
        return _shown(points, s.unit, code, prefs)
    asked = prefs.units.get(UNITS[s.unit].dimension)
    key, stamp = (s.pk, asked, prefs.decimal), f"{rules_version()} {hash(tuple(points))}"
    found = written.good(key, stamp)
    if found is None:
        found = _shown(points, s.unit, code, prefs)
        written.put(key, stamp, None, found)
    return found


def _shown(points: list[Shown], unit: str, code: str, prefs: Prefs) -> list[TrendPoint]:
    return [
        TrendPoint(
            t=t,
            value=from_metric(v, code),
            bound=b,
            shown=show(Quantity(value=v, unit=unit, bound=b), prefs),
            record=r,
        )
        for t, v, b, r in points
    ]


def _beside(
    s: Series, twin: tuple[str, Component | None] | None, code: str, prefs: Prefs, whole: bool
) -> TrendTwin | None:
    """The twin's points under the same conditions, or the word in which its own differ."""
    if twin is None or twin[1] is None:
        return None
    theirs = list(Series.objects.filter(component=twin[1], measurand=s.measurand, leg=s.leg))
    same = next((x for x in theirs if x.conditions == s.conditions), None)
    if same is not None:
        drawn = {same.pk: thinned(same.pk, WIDE, same.rolled)} if whole else newest_of([same])
        theirs_drawn = drawn[same.pk][0] if same.pk in drawn else []
        return TrendTwin(tag=twin[0], points=_drawn(same, theirs_drawn, code, prefs, whole), differs="")
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
        raise not_found("Series")
    from hurbin_server.plant.access import require

    require(user, s.site_id)
    return [[t, v] for t, v, _, _ in thinned(series_id, width, s.rolled)[0]]
