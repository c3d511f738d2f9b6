"""Where the insulation is heading, and when the next test is wanted."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import timedelta

from ...base import RULES, Bound, By, Due, Finding, Limits, Phrase, Quantity, Verdict, amount, phrase, reaches
from ...logbook import Context, Datum, Direction, Forecast, HistoryPoint, forecast
from .judging import Worked

_MOST = 60


def log_data(points: Sequence[tuple[float, float, Bound]]) -> list[Datum]:
    """(days, MΩ, bound) on the scale on which insulation falls along a line: log10. Readings of nothing are left out."""
    return [Datum.model_construct(t=t, value=math.log10(v), bound=b) for t, v, b in points if v > 0]


def heading(w: Worked, past: list[HistoryPoint], context: Context) -> Forecast | None:
    """The forecast of the worst leg's series with this test in it; None when this test belongs to no series."""
    worst = w.worst
    if worst is None or worst.at40 is None or w.blocked or not w.comparable:
        return None
    points = [(p.taken_at.timestamp() / 86400, p.value, p.bound) for p in past[-_MOST:]]
    points.append((context.as_of.timestamp() / 86400, worst.at40.value, worst.at40.bound))
    data = log_data(points)
    return forecast(data, math.log10(w.least.value)) if data else None


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
    likely = days(f.crossing.likely) if f.crossing.likely is not None else amount(f.span_days, "d", Bound.AT_LEAST)
    earliest = days(f.crossing.earliest if f.crossing.earliest is not None else f.crossing.likely or 0.0)
    return phrase("forecast.crossing", likely=likely, earliest=earliest)


def heading_finding(f: Forecast | None, limits: Limits) -> tuple[Finding | None, list[Phrase]]:
    """A fall towards the minimum is a finding; everything else about the trend is said beside."""
    if f is None:
        return None, []
    words = forecast_words(f)
    soon = f.crossing.earliest if f.crossing.earliest is not None else f.crossing.likely
    if f.trend.direction is not Direction.FALLING or soon is None:
        return None, [words]
    base = limits.get("insulation.base_interval")
    close = not reaches(soon, base.value)
    verdict = Verdict.ACT if close else Verdict.WATCH
    return Finding(
        question="insulation_forecast", part="motor", verdict=verdict, by=By.THIS_WEEK if close else RULES["insulation_forecast"].by.get(verdict),
        rule="insulation_forecast", reason=words, limits=[base],
    ), []  # fmt: skip


def next_test(f: Forecast | None, verdict: Verdict, context: Context, limits: Limits) -> Due:
    """When is the next test wanted? Half of the way to the earliest crossing, never later than the base interval, never
    sooner than a test tells anything; a test that could not be judged is made again at once."""
    base, least = limits.value("insulation.base_interval"), limits.value("insulation.least_interval")

    def on(d: float, template: str) -> Due:
        return Due(at=context.as_of + timedelta(days=d), reason=phrase(template, days=days(d)))

    if verdict in (Verdict.UNKNOWN, Verdict.STOP):
        return on(least, "next.again")
    if f is not None and f.crossing.earliest is not None:
        half = f.crossing.earliest / 2
        if not reaches(half, base):
            return on(max(half, least), "next.half" if reaches(half, least) else "next.soon")
    return on(base, "next.base")
