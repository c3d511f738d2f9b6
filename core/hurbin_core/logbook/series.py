"""A series as it is drawn: its limits, what its trend says and where it is heading."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from datetime import UTC, datetime

from ..base import LIMITS, MEASURANDS, Bound, Limits, Model, Phrase, Quantity, amount, phrase
from ..plant import Plate
from .trend import Datum, Direction, Forecast, forecast


class SeriesLimit(Model):
    """A limit drawn with a series. The first one is what the forecast is held against."""

    label: str
    value: float


Plates = Mapping[str, Plate | None]
# Measurands whose limits come from a plate: the room that owns them says how.
OF_THE_PLATE: dict[str, Callable[[Plates, Limits], list[SeriesLimit]]] = {}


def series_limits(measurand: str, plates: Plates, limits: Limits) -> list[SeriesLimit]:
    """Which limits belong on the plot of this measurand on this set? Metric values; plates by slot."""
    own = OF_THE_PLATE.get(measurand)
    if own is not None:
        return own(plates, limits)
    used = [limits.get(name) for name in MEASURANDS[measurand].limits]
    return [SeriesLimit(label=u.label or LIMITS[u.id].does.value, value=u.value) for u in used]


def log_data(points: Sequence[tuple[float, float, Bound]]) -> list[Datum]:
    """(days, MΩ, bound) on the scale on which insulation falls along a line: log10. Readings of nothing are
    left out.
    """
    return [Datum.model_construct(t=t, value=math.log10(v), bound=b) for t, v, b in points if v > 0]


def days(value: float) -> Quantity:
    return amount(value, "d")


def forecast_words(f: Forecast) -> Phrase:
    """The forecast in a sentence: earliest, likely, or why there is none."""
    n = str(f.trend.n)
    direction = f.trend.direction
    if direction is Direction.TOO_FEW:
        return phrase("forecast.too_few", n=n)
    if direction is Direction.INCONCLUSIVE:
        return phrase("forecast.inconclusive", n=n)
    if direction is Direction.RISING:
        return phrase("forecast.rising", n=n)
    if direction is Direction.NO_TREND:
        return phrase("forecast.no_trend" if f.trend.slope is not None else "forecast.bounds", n=n)
    if f.crossing.likely is None and f.crossing.earliest is None:
        return phrase("forecast.far", span=days(f.span_days))
    likely = (
        days(f.crossing.likely) if f.crossing.likely is not None else amount(f.span_days, "d", Bound.AT_LEAST)
    )
    earliest = days(f.crossing.earliest if f.crossing.earliest is not None else f.crossing.likely or 0.0)
    return phrase("forecast.crossing", likely=likely, earliest=earliest)


def series_forecast(
    measurand: str, unit: str, points: Sequence[tuple[float, float, Bound]], limit: float | None
) -> tuple[Forecast, Phrase]:
    """What does this series do, and in what words? `points`: (days, metric value, bound), by time, since the
    last event.

    Resistance is held on log10, where it falls along a line, and is said with its crossing of the limit.
    """
    kind = MEASURANDS[measurand]
    if kind.log:
        f = forecast(log_data(points), math.log10(limit) if limit else None)
        return f, forecast_words(f)
    f = forecast([Datum.model_construct(t=t, value=v, bound=b) for t, v, b in points], limit)
    return f, phrase(f"trend.{f.trend.direction.value}", slope=amount(abs(f.trend.slope or 0) * 365.25, unit))


def path_values(measurand: str, f: Forecast) -> list[tuple[datetime, float, float, float]]:
    """The forecast's path in the series' own unit: (when, likely, low, high)."""
    log = MEASURANDS[measurand].log

    def back(v: float) -> float:
        return math.pow(10, v) if log else v

    return [
        (datetime.fromtimestamp(p.t * 86400, UTC), back(p.likely), back(p.low), back(p.high)) for p in f.path
    ]
