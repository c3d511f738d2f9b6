"""Is there a stretch of weather long enough for work in the open? Read from a forecast file; without one,
with an old one, or where hours are missing in it, nobody knows.
"""

from __future__ import annotations

import json
import math
from collections.abc import Iterator, Sequence
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from pydantic import AwareDatetime, Field, ValidationError

from ..base import HurbinError, Limits, Model, Phrase, Quantity, Verdict, amount, phrase

HOUR = timedelta(hours=1)
# A forecast is made anew several times a day; one of the day before yesterday says nothing of tomorrow.
# Common practice, no source.
OLD = timedelta(hours=24)
# A clock that goes ahead by less is only a clock.
AHEAD = timedelta(minutes=15)
# When people work on a roof, by the clock of the site. Common practice, no source.
DAY = (6, 20)
# Longer files than this nobody forecasts.
MOST = 400


class Hour(Model):
    """One hour from `at` on: the chance of rain in percent, the wind in metres a second."""

    at: AwareDatetime
    rain_percent: float = Field(ge=0, le=100, allow_inf_nan=False)
    wind_m_s: float = Field(ge=0, le=90, allow_inf_nan=False)


class Outlook(Model):
    """A forecast as its file has it: who made it, when, and its hours in order."""

    source: str = Field("", max_length=80)
    made_at: AwareDatetime
    hours: list[Hour] = Field(min_length=1, max_length=MOST)


class Spell(Model):
    """What the forecast says of a job in the open. start: when it can begin; None: at no time, or unknown."""

    verdict: Verdict
    says: Phrase
    start: datetime | None = None


def outlook_of(text: str) -> Outlook:
    """The forecast in this file. Raises `weather_not_read` with the place that cannot be read.

    >>> text = '{"made_at": "2026-05-04T06:00:00Z", "hours": [{"at": "2026-05-04T06:00:00Z", '
    >>> outlook_of(text + '"rain_percent": 10, "wind_m_s": 4}]}').hours[0].wind_m_s
    4.0
    """
    try:
        found = Outlook.model_validate(json.loads(text))
    except ValidationError as error:
        first = error.errors()[0]
        where = ", ".join(str(x + 1) if isinstance(x, int) else x for x in first["loc"])
        raise _refused(f"{where}: {first['msg']}.") from error
    except (ValueError, RecursionError) as error:
        raise _refused("this is no JSON file.") from error
    for a, b in zip(found.hours, found.hours[1:], strict=False):
        if b.at <= a.at:
            raise _refused(f"the hour {b.at:%d %b %H:%M} does not come after the one before it.")
    return found


def _refused(says: str) -> HurbinError:
    right = '{"made_at": "…", "hours": [{"at": "…", "rain_percent": 10, "wind_m_s": 4}]}'
    return HurbinError("weather_not_read", f"Forecast, {says}", field="file", right=right)


def spell(
    outlook: Outlook | None, as_of: datetime, minutes: float, *, lift: bool, zone: str, limits: Limits
) -> Spell:
    """When is it dry, and calm where something is lifted, for so many minutes, by day?

    lift: the wind counts too. zone: of the site. Good only by a forecast not older than a day whose every
    hour of the stretch is there and inside the limits; the worst state in which it is still good is a shower
    or a gust that the forecast did not have: wind is read again at the hook. minutes: of work; what one day
    has no hours for is shared evenly over the fewest days that follow each other: the nights between are not
    asked, what stands open is covered. Source: common practice, no source; by the limits `job.rain` (%) and
    `lift.wind` (m/s).
    """
    if outlook is None:
        return Spell(verdict=Verdict.UNKNOWN, says=phrase("weather.none"))
    made = f"{outlook.made_at.astimezone(ZoneInfo(zone)):%d %b, %H:%M}"
    if not timedelta(0) <= as_of - outlook.made_at + AHEAD <= OLD + AHEAD:
        return Spell(verdict=Verdict.UNKNOWN, says=phrase("weather.old", made=made))
    rain, wind = limits.value("job.rain"), limits.value("lift.wind")
    fit = [
        h
        for h in outlook.hours
        if h.at + HOUR > as_of and h.rain_percent < rain and (not lift or h.wind_m_s <= wind)
    ]
    whole = ZoneInfo(zone)
    by_day = [h for h in fit if DAY[0] <= h.at.astimezone(whole).hour < DAY[1]]
    days = max(1, math.ceil(minutes / 60 / (DAY[1] - DAY[0])))
    length = timedelta(minutes=minutes / days)
    told: dict[str, Quantity | str] = {"length": amount(float(max(1, math.ceil(length / HOUR))), "h")}
    told |= {"made": made} | ({"days": str(days)} if days > 1 else {})
    start = _first(_starts(by_day, as_of, length, whole), days)
    if start is not None:
        at = f"{start.astimezone(whole):%a %d %b, %H:%M}"
        words = phrase(_FITS[lift, days > 1], begins=at, **told)
        return Spell(verdict=Verdict.GOOD, says=words, start=start)
    end = f"{(outlook.hours[-1].at + HOUR).astimezone(whole):%a %d %b, %H:%M}"
    if outlook.hours[-1].at + HOUR <= as_of:
        return Spell(verdict=Verdict.UNKNOWN, says=phrase("weather.old", made=made))
    unfit = "weather.unfit_days" if days > 1 else "weather.unfit"
    return Spell(verdict=Verdict.ACT, says=phrase(unfit, until=end, **told))


# By whether something is lifted, and whether it takes more than one day.
_FITS = {
    (False, False): "weather.fit",
    (False, True): "weather.fit_days",
    (True, False): "weather.fit_calm",
    (True, True): "weather.fit_calm_days",
}


def _starts(
    hours: Sequence[Hour], as_of: datetime, length: timedelta, zone: ZoneInfo
) -> dict[date, datetime]:
    """On each day of the site with a stretch of this length: when the first one begins."""
    out: dict[date, datetime] = {}
    for run in _runs(hours):
        start = max(run[0].at, as_of)
        if run[-1].at + HOUR - start >= length:
            out.setdefault(start.astimezone(zone).date(), start)
    return out


def _first(starts: dict[date, datetime], days: int) -> datetime | None:
    """The first begin that is followed by one on each of the next days."""
    for day, start in sorted(starts.items()):
        if all(day + timedelta(days=n) in starts for n in range(1, days)):
            return start
    return None


def _runs(hours: Sequence[Hour]) -> Iterator[list[Hour]]:
    """Stretches of hours without one missing between."""
    run: list[Hour] = []
    for h in hours:
        if run and h.at - run[-1].at != HOUR:
            yield run
            run = []
        run.append(h)
    if run:
        yield run
