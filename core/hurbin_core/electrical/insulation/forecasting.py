"""Where the insulation is heading, and when the next test is wanted."""

from __future__ import annotations

import math
from datetime import timedelta

from ...base import RULES, By, Due, Finding, Limits, Phrase, Verdict, exceeds, phrase
from ...logbook import (
    Context,
    Direction,
    Forecast,
    HistoryPoint,
    days,
    forecast,
    forecast_words,
    log_data,
)
from .worked import Worked

_MOST = 60


def forecast_of(w: Worked, past: list[HistoryPoint], context: Context) -> Forecast | None:
    """The forecast of the worst leg's series with this test in it; None when this test belongs to no
    series.
    """
    worst = w.worst
    if worst is None or worst.at40 is None or w.blocked or not w.comparable:
        return None
    points = [(p.taken_at.timestamp() / 86400, p.value, p.bound) for p in past[-_MOST:]]
    points.append((context.as_of.timestamp() / 86400, worst.at40.value, worst.at40.bound))
    data = log_data(points)
    return forecast(data, math.log10(w.least.value)) if data else None


def forecast_finding(f: Forecast | None, limits: Limits) -> tuple[Finding | None, list[Phrase]]:
    """A fall towards the minimum is a finding; everything else about the trend is said beside."""
    if f is None:
        return None, []
    words = forecast_words(f)
    soon = f.crossing.earliest if f.crossing.earliest is not None else f.crossing.likely
    if f.trend.direction is not Direction.FALLING or soon is None:
        return None, [words]
    base = limits.get("insulation.base_interval")
    close = not exceeds(soon, base.value)
    verdict = Verdict.ACT if close else Verdict.WATCH
    return (
        Finding(
            question="insulation_forecast",
            part="motor",
            verdict=verdict,
            by=By.THIS_WEEK if close else RULES["insulation_forecast"].by.get(verdict),
            rule="insulation_forecast",
            reason=words,
            limits=[base],
        ),
        [],
    )


def next_test(f: Forecast | None, verdict: Verdict, context: Context, limits: Limits) -> Due:
    """When is the next test wanted? Half of the way to the earliest crossing, never later than the base
    interval, never sooner than a test tells anything; a test that could not be judged is made again at once.
    """
    base, least = limits.value("insulation.base_interval"), limits.value("insulation.least_interval")

    def on(d: float, template: str) -> Due:
        return Due(at=context.as_of + timedelta(days=d), reason=phrase(template, days=days(d)))

    if verdict in (Verdict.UNKNOWN, Verdict.STOP):
        return on(least, "next.again")
    if f is not None and f.crossing.earliest is not None:
        half = f.crossing.earliest / 2
        if not exceeds(half, base):
            return on(max(half, least), "next.half" if exceeds(half, least) else "next.soon")
    return on(base, "next.base")
