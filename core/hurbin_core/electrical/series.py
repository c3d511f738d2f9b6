"""A series as it is drawn: its limits, what its trend says and where it is heading."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import UTC, datetime

from pydantic import BaseModel

from ..base import MEASURANDS, Bound, Limits, Phrase, amount, phrase
from ..logbook import Datum, Forecast, forecast
from ..plant import MotorPlate, motor_facts
from .insulation import forecast_words, log_data, minimum


class SeriesLimit(BaseModel):
    """A limit drawn with a series. The first one is what the forecast is held against."""

    label: str
    value: float


def series_limits(measurand: str, motor: MotorPlate | None, limits: Limits) -> list[SeriesLimit]:
    """Which limits belong on the plot of this measurand for this motor? Metric values."""
    facts = motor_facts(motor)
    if measurand == "current_mean":
        found = [("plate", facts.amps_a), ("service factor", facts.sf_amps_a)]
        return [SeriesLimit(label=label, value=v) for label, v in found if v is not None]
    if measurand in ("insulation_40", "insulation_raw"):
        plate = motor or MotorPlate()
        least = minimum(facts, plate.winding, plate.insulation_class, plate.year, limits)[0]
        return [SeriesLimit(label=least.label, value=least.value)]
    used = [limits.get(name) for name in MEASURANDS[measurand].limits]
    return [SeriesLimit(label=u.label or u.title.split(", ")[-1], value=u.value) for u in used]


def series_forecast(measurand: str, unit: str, points: Sequence[tuple[float, float, Bound]], limit: float | None) -> tuple[Forecast, Phrase]:
    """What does this series do, and in what words? `points`: (days, metric value, bound), by time, since the last event.

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

    return [(datetime.fromtimestamp(p.t * 86400, UTC), back(p.likely), back(p.low), back(p.high)) for p in f.path]
