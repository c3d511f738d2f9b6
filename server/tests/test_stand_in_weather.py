"""The demo's own weather: a file like any other, that knows nothing of what it is read for."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta
from itertools import pairwise

import pytest

from hurbin_core.base import Limits, Verdict
from hurbin_core.jobs.weather import HOUR, outlook_of, spell
from hurbin_server.simulator.weather import HOURS, forecast

MADE = datetime(2026, 5, 4, 6, 20, tzinfo=UTC)


def test_it_is_a_forecast_by_the_hour_that_begins_now() -> None:
    told = outlook_of(forecast(MADE, "one"))
    assert (len(told.hours), told.made_at) == (HOURS, MADE)
    assert told.hours[0].at <= MADE < told.hours[0].at + HOUR
    assert all(b.at - a.at == HOUR for a, b in pairwise(told.hours))


def test_the_same_seed_is_the_same_weather_and_another_is_not() -> None:
    assert forecast(MADE, "one") == forecast(MADE, "one")
    assert forecast(MADE, "one") != forecast(MADE, "two")


def test_wet_hours_come_in_spells_and_the_wind_with_the_day() -> None:
    wet, calm, noon, night = 0, 0, list[float](), list[float]()
    changes = 0
    for seed in range(60):
        hours = json.loads(forecast(MADE, str(seed)))["hours"]
        rain = [h["rain_percent"] > 40 for h in hours]
        wet, calm = wet + sum(rain), calm + len(rain) - sum(rain)
        changes += sum(a != b for a, b in pairwise(rain))
        for h in hours:
            hour = datetime.fromisoformat(h["at"]).hour
            (noon if 11 <= hour <= 13 else night if hour <= 2 else []).append(h["wind_m_s"])
    assert 0.1 < wet / (wet + calm) < 0.5
    assert changes < 0.25 * (wet + calm), "rain stays a while"
    assert sum(noon) / len(noon) > sum(night) / len(night)


@pytest.mark.parametrize("lift", [False, True])
def test_over_many_days_it_brings_about_every_answer(lift: bool) -> None:
    seen = set()
    for seed in range(80):
        outlook = outlook_of(forecast(MADE, str(seed)))
        for hours in (3, 13, 14):
            seen.add(spell(outlook, MADE, hours * 60, lift=lift, zone="UTC", limits=Limits()).verdict)
        late = spell(outlook, MADE + timedelta(hours=30), 60, lift=lift, zone="UTC", limits=Limits())
        assert late.verdict is Verdict.UNKNOWN, "an old one says nothing"
    assert {Verdict.GOOD, Verdict.ACT} <= seen
