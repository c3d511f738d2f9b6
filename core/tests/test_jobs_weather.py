"""When can work in the open begin? By a forecast that is of today and has every hour of it."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from job_cases import Told

from hurbin_core.base import HurbinError, Limits, Override, Verdict, write
from hurbin_core.jobs.weather import MOST, outlook_of, spell

NOON = datetime(2026, 5, 4, 12, tzinfo=UTC)


def file(rain: list[float], wind: list[float], made: datetime = NOON, start: datetime = NOON) -> str:
    hours = [
        {"at": (start + timedelta(hours=i)).isoformat(), "rain_percent": r, "wind_m_s": w}
        for i, (r, w) in enumerate(zip(rain, wind, strict=True))
    ]
    return json.dumps({"made_at": made.isoformat(), "source": "ours", "hours": hours})


def asked(text: str | None, minutes: float = 120, lift: bool = True, at: datetime = NOON, **more: Any) -> Any:
    outlook = outlook_of(text) if text is not None else None
    return spell(outlook, at, minutes, lift=lift, zone=more.pop("zone", "UTC"), limits=Limits(**more))


def test_it_begins_with_the_first_stretch_that_is_long_enough() -> None:
    found = asked(file([80, 10, 60, 10, 10, 10], [3, 3, 3, 3, 3, 3]))
    assert (found.verdict, found.start) == (Verdict.GOOD, NOON + timedelta(hours=3))
    assert (
        write(found.says).replace("\u202f", " ").replace("\xa0", " ")
        == "Dry and calm for 2.0 h from Mon 04 May, 15:00 (forecast of 04 May, 12:00)."
    )


def days(wet: set[int], n: int = 4) -> str:
    """Whole days from midnight on, some of them wet from morning to night."""
    midnight = NOON - timedelta(hours=12)
    rain = [90.0 if d in wet and 6 <= h < 20 else 10.0 for d in range(n) for h in range(24)]
    return file(rain, [3.0] * len(rain), start=midnight)


def test_a_job_longer_than_a_day_is_asked_day_by_day() -> None:
    found = asked(days(set()), minutes=20 * 60)
    assert (found.verdict, found.start) == (Verdict.GOOD, NOON + timedelta(hours=18)), "8 h are left today"
    assert "10.0 h on each of 2 days from Tue 05 May, 06:00" in write(found.says).replace("\xa0", " ")
    assert "overnight" in write(found.says)
    dry = asked(days({2}), minutes=20 * 60)
    assert dry.verdict is Verdict.ACT, "no two dry days follow each other: today is half gone"
    assert "No 2 days in a row" in write(dry.says)
    assert asked(days({1}), minutes=20 * 60).start == NOON + timedelta(hours=42)
    assert asked(days(set(), 3), minutes=40 * 60).verdict is Verdict.ACT, "the forecast ends before the third"


def test_wind_counts_where_something_is_lifted_only() -> None:
    windy = file([5, 5, 5], [4, 9.4, 4])
    assert asked(windy).verdict is Verdict.ACT
    assert asked(windy, lift=False).verdict is Verdict.GOOD
    own = Override(limit="lift.wind", value=10.0, unit="m/s", by="Ines", reason="hoist plate", at=NOON)
    assert asked(windy, overrides=[own]).verdict is Verdict.GOOD


@pytest.mark.parametrize(
    ("text", "at", "says"),
    [
        (None, NOON, "No forecast on file"),
        (file([0] * 6, [0] * 6), NOON + timedelta(hours=30), "says nothing of today"),
        (file([0] * 6, [0] * 6, made=NOON + timedelta(hours=5)), NOON, "says nothing of today"),
        (file([0, 0], [0, 0], start=NOON - timedelta(hours=9)), NOON, "says nothing of today"),
    ],
)
def test_without_a_forecast_of_today_nobody_knows(text: str | None, at: datetime, says: str) -> None:
    found = asked(text, at=at)
    assert (found.verdict, found.start) == (Verdict.UNKNOWN, None)
    assert says in write(found.says)


def test_an_hour_that_is_missing_breaks_a_stretch() -> None:
    held = json.loads(file([0] * 4, [0] * 4))
    del held["hours"][1]
    assert asked(json.dumps(held)).start == NOON + timedelta(hours=2)
    del held["hours"][1]
    assert asked(json.dumps(held)).verdict is Verdict.ACT


def test_nobody_is_sent_on_a_roof_at_night() -> None:
    night = file([0] * 5, [0] * 5, start=NOON + timedelta(hours=9))
    assert asked(night).verdict is Verdict.ACT
    assert asked(night, zone="Asia/Tokyo").verdict is Verdict.GOOD, "there it is morning"


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "no JSON file"),
        ("[" * 5000, "no JSON file"),
        ('{"made_at": "2026-05-04T06:00:00"}', "made_at"),
        (file([120], [3]), "hours, 1, rain_percent"),
        (file([1], [3]).replace("3}", "NaN}"), "wind_m_s"),
        (file([1] * (MOST + 1), [1] * (MOST + 1)), "hours"),
        (
            json.dumps({**json.loads(file([1], [1])), "hours": json.loads(file([1], [1]))["hours"] * 2}),
            "after",
        ),
    ],
)
def test_what_is_no_forecast_says_where(text: str, says: str) -> None:
    with pytest.raises(HurbinError, match="Forecast") as caught:
        outlook_of(text)
    assert says in caught.value.message


def test_a_job_on_a_roof_says_when_and_one_under_it_asks_no_weather() -> None:
    job = Told("J14", "close_coupled", roof="yes")
    pick = job.evaluate().view.pick
    assert pick is not None
    assert pick.weather is not None
    assert (pick.weather.verdict, pick.weather.wants[:9]) == (Verdict.UNKNOWN, "dry, calm")
    job.known["weather"] = json.loads(file([0] * 30, [2] * 30, made=job.at, start=job.at))
    pick = job.evaluate().view.pick
    assert pick is not None
    assert pick.weather is not None
    assert pick.weather.verdict in (Verdict.GOOD, Verdict.ACT)
    inside = Told("J05", "close_coupled").evaluate().view.pick
    assert inside is not None
    assert inside.weather is None
