"""Long series are plotted from their days, and show the same as their points would."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from conftest import SAVE, Api, sheet

from hurbin_server.logbook.models import DayRoll, Point, Record, Series
from hurbin_server.logbook.services.rolling import days_of, roll_long
from hurbin_server.logbook.trends import NEWEST, thinned
from hurbin_server.plant.models import PumpSet

Door = Callable[[str], Api]
START = datetime(2020, 1, 1, tzinfo=UTC)


@pytest.fixture
def series(api: Door, pump_set: PumpSet) -> Series:
    """Two years of six readings a day, with one that sticks out each way."""
    assert api("tia")("POST", SAVE, sheet(pump_set))[0] == 201
    held = Point.objects.first()
    assert held is not None
    made = Series.objects.create(
        key="long", site=pump_set.site, pump_set=pump_set, measurand="voltage_mean", unit="V"
    )
    values = [300 + (i * 7919 % 101) / 10 for i in range(4400)]
    values[1234], values[2345] = 999.0, 1.0
    Point.objects.bulk_create(
        Point(
            series=made,
            taken_at=START + timedelta(hours=4 * i),
            value=v,
            judgement_id=held.judgement_id,
            record_id=held.record_id,
        )
        for i, v in enumerate(values)
    )
    return made


def of(trends: list[Any], series: Series) -> Any:
    return next(t for t in trends if t["series"] == series.pk)


def test_a_page_draws_the_newest_points_and_the_trends_have_all(
    api: Door, pump_set: PumpSet, series: Series
) -> None:
    tia = api("tia")
    newest = of(tia("GET", f"/sets/{pump_set.pk}/page")[1]["trends"], series)
    assert (newest["partial"], len(newest["points"]), newest["total"]) == (True, NEWEST, 4400)
    assert newest == of(tia("GET", f"/sets/{pump_set.pk}/trends/newest")[1], series)
    every = of(tia("GET", f"/sets/{pump_set.pk}/trends")[1], series)
    assert (every["partial"], every["total"]) == (False, 4400)
    assert every["points"][0]["t"] == START.timestamp() < newest["points"][0]["t"]
    assert every["points"][-1] == newest["points"][-1]
    assert [p["t"] for p in newest["points"]] == sorted(p["t"] for p in newest["points"])
    # One trend, whoever asks: what is drawn of it changes nothing of what it says.
    assert (every["says"], every["path"]) == (newest["says"], newest["path"])


def test_a_page_draws_no_more_of_the_twin_than_of_the_set(
    api: Door, pump_set: PumpSet, twin: PumpSet, series: Series
) -> None:
    held = Point.objects.filter(series__component__isnull=False).first()
    assert held is not None
    for row in (pump_set, twin):
        motor = row.fittings.get(slot="motor").component
        made = Series.objects.create(
            key=f"r{row.pk}", site=row.site, component=motor, measurand="insulation_40", unit="MOhm"
        )
        Point.objects.bulk_create(
            Point(
                series=made,
                taken_at=START + timedelta(days=i),
                value=500.0 + i,
                judgement_id=held.judgement_id,
                record_id=held.record_id,
            )
            for i in range(NEWEST + 50)
        )
    for path, many in (("/trends/newest", NEWEST), ("/trends", NEWEST + 50)):
        told = api("tia")("GET", f"/sets/{pump_set.pk}{path}")[1]
        mine = next(t for t in told if t["measurand"] == "insulation_40")
        assert (len(mine["points"]), len(mine["twin"]["points"])) == (many, many)
        assert mine["twin"]["points"][-1]["value"] == 500.0 + NEWEST + 49


def test_a_trend_is_told_anew_when_a_point_of_it_goes(api: Door, pump_set: PumpSet, series: Series) -> None:
    tia = api("tia")
    before = of(tia("GET", f"/sets/{pump_set.pk}/trends")[1], series)["says"]
    last = Point.objects.filter(series=series).order_by("-taken_at").values_list("pk", flat=True)[:60]
    Point.objects.filter(pk__in=list(last)).update(value=900.0)
    assert of(tia("GET", f"/sets/{pump_set.pk}/trends")[1], series)["says"] != before


def test_a_long_series_shows_the_same_from_its_days(series: Series) -> None:
    plain, total, tail = thinned(series.pk, 480)
    assert roll_long(4000) == 1
    series.refresh_from_db()
    assert series.rolled
    short, of_days, data = thinned(series.pk, 480, rolled=True)
    assert (of_days, data) == (total, tail)
    assert len(short) <= 480
    for pick in (max, min):
        assert pick(v for _, v, _, _ in short) == pick(v for _, v, _, _ in plain)
    assert short[-1] == plain[-1]
    assert short == sorted(short)
    on_file = {(p.taken_at.timestamp(), p.value) for p in Point.objects.filter(series=series)}
    assert {(t, v) for t, v, _, _ in short} <= on_file
    assert roll_long(4000) == 0
    assert roll_long(0) > 0  # the short ones of the check, when short is long enough


def test_a_save_and_a_correction_make_their_day_again(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    at = {"days_ago": 40.0}
    first = tia("POST", SAVE, sheet(pump_set, (15, 15.1, 14.9), **at))[1]["record"]
    roll_long(0)
    amps = Series.objects.get(measurand="current_mean")

    def day() -> Any:
        return list(DayRoll.objects.filter(series=amps).order_by("day").values_list("n", "high"))

    before = day()
    assert len(before) == 1
    again = sheet(pump_set, (18, 18.1, 17.9), corrects=first, reason="misread")
    taken = Record.objects.get(pk=first).taken_at.isoformat()
    again["entries"][0]["taken_at"] = taken
    assert tia("POST", SAVE, again)[0] == 201
    assert day() == [(1, pytest.approx(18.0))]
    assert tia("POST", SAVE, sheet(pump_set, (16, 16.1, 15.9), days_ago=2))[0] == 201
    assert [n for n, _ in day()] == [1, 1]
    shown, total = days_of(amps.pk, datetime.now(UTC) + timedelta(days=1))
    assert (len(shown), total) == (2, 2)
