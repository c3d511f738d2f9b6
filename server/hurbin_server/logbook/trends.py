"""Series for plots: thinned, in the reader's unit, with limits, events and what the trend says."""

from __future__ import annotations

from hurbin_core.base import UNITS, Bound, Limits, Prefs, Quantity, from_metric, show
from hurbin_core.logbook import Datum, Direction, assess, thin
from hurbin_core.plant import MotorPlate, motor_facts
from hurbin_server.base.errors import not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for
from hurbin_server.plant.models import Component, Event, Fitting

from .models import Point, Series
from .querysets import event_out
from .schemas import TrendLimit, TrendOut, TrendPoint
from .services.context import overrides_for

WIDE = 480
_TITLES = {
    "current_mean": "Mean amps", "load": "Load, worst leg of plate", "current_unbalance": "Current unbalance",
    "voltage_unbalance": "Voltage unbalance", "voltage_mean": "Mean volts",
}  # fmt: skip
_SAYS = {
    Direction.RISING: "rising, about {slope} a year",
    Direction.FALLING: "falling, about {slope} a year",
    Direction.NO_TREND: "no trend",
    Direction.INCONCLUSIVE: "inconclusive: fewer than eight points",
    Direction.TOO_FEW: "too few points for a trend",
}
_LIMITS = {
    "current_unbalance": ("current_unbalance.good", "current_unbalance.watch"),
    "voltage_unbalance": ("voltage_unbalance.good", "voltage_unbalance.watch"),
    "load": ("load.plate", "load.stop"),
}


def points_of(series_id: int) -> tuple[list[float], list[float], list[str], list[int]]:
    """All live points of a series, by time: seconds, metric values, bounds, records."""
    rows = Point.objects.filter(series_id=series_id, live=True).order_by("taken_at").values_list("taken_at", "value", "bound", "record_id")
    times, values, bounds, records = [], [], [], []
    for t, v, b, r in rows.iterator(chunk_size=5000):
        times.append(t.timestamp())
        values.append(v)
        bounds.append(b)
        records.append(r)
    return times, values, bounds, records


def thinned(series_id: int, width: int) -> tuple[list[tuple[float, float, str, int]], int, list[Datum]]:
    """The points a plot of this width needs, how many there are, and the last 200 for the trend."""
    times, values, bounds, records = points_of(series_id)
    keep = thin(times, values, width)
    tail = slice(max(0, len(times) - 200), None)
    data = [
        Datum.model_construct(t=t / 86400, value=v, bound=Bound(b))
        for t, v, b in zip(times[tail], values[tail], bounds[tail], strict=True)
    ]
    return [(times[i], values[i], bounds[i], records[i]) for i in keep], len(times), data


def trends(user: User, set_id: int, prefs: Prefs) -> list[TrendOut]:
    """What the set's series look like: the motor that stands there now with its own past, and the position's own."""
    row = set_for(user, set_id)
    motor = Fitting.objects.filter(pump_set=row, slot="motor", to_at=None).select_related("component").first()
    wanted = Series.objects.filter(pump_set=row) | Series.objects.filter(component=motor.component if motor else None, component__isnull=False)
    events = [event_out(e) for e in Event.objects.filter(pump_set=row).select_related("by").order_by("at")]
    limits = Limits(overrides_for(row))
    out = []
    for s in wanted.filter(measurand__in=_TITLES).order_by("measurand", "conditions"):
        shown, total, data = thinned(s.pk, WIDE)
        if not shown:
            continue
        code = prefs.units.get(UNITS[s.unit].dimension, s.unit)
        trend = assess(data)
        slope = Quantity(value=abs(trend.slope or 0) * 365.25, unit=s.unit)
        out.append(
            TrendOut(
                measurand=s.measurand, title=_TITLES[s.measurand], symbol=UNITS[code].symbol, leg=s.leg, conditions=said(s.conditions),
                part="motor" if s.component_id else "supply", total=total, events=events,
                points=[TrendPoint(t=t, value=from_metric(v, code), bound=b, shown=show(Quantity(value=v, unit=s.unit, bound=b), prefs), record=r)
                        for t, v, b, r in shown],
                limits=_limits(s, motor.component if motor else None, limits, code),
                says=_SAYS[trend.direction].format(slope=show(slope, prefs)),
            )
        )  # fmt: skip
    return sorted(out, key=lambda t: (list(_TITLES).index(t.measurand), -t.total))


def _limits(s: Series, motor: Component | None, limits: Limits, code: str) -> list[TrendLimit]:
    if s.measurand == "current_mean" and motor is not None:
        facts = motor_facts(MotorPlate.model_validate(motor.plate))
        found = [("plate", facts.amps_a), ("service factor", facts.sf_amps_a)]
        return [TrendLimit(label=label, value=from_metric(v, code)) for label, v in found if v is not None]
    used = [limits.get(name) for name in _LIMITS.get(s.measurand, ())]
    return [TrendLimit(label=u.label or u.title.split(", ")[-1], value=u.value) for u in used]


_STATE_WORDS = {
    "at=motor_leads": "at the motor leads", "at=starter": "at the starter", "at=drive_output": "at the drive's output",
    "at=drive_input": "at the drive's input", "coupled=yes": "coupled", "coupled=no": "uncoupled", "hz=line": "on the line",
    "valve=open": "valve open", "valve=shut": "valve shut", "valve=throttled": "valve throttled",
}  # fmt: skip


def said(conditions: str) -> str:
    """The state a series was read in, in words."""
    words = []
    for part in filter(None, conditions.split(";")):
        if part.startswith("hz=") and part != "hz=line":
            words.append(f"{part[3:]} Hz")
        elif part.startswith("valve=throttled "):
            words.append(f"valve {part[16:]} turns")
        else:
            words.append(_STATE_WORDS.get(part, part))
    return ", ".join(words)


def series_points(user: User, series_id: int, width: int) -> list[list[float]]:
    """One series for a plot: [seconds, metric value] pairs."""
    s = Series.objects.select_related("component").filter(pk=series_id).first()
    if s is None:
        raise not_found("That series")
    from hurbin_server.plant.access import require

    require(user, s.site_id)
    return [[t, v] for t, v, _, _ in thinned(series_id, width)[0]]
