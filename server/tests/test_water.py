"""Loops and what a bench is told of them, curves on nameplates, what a throttled valve leaves behind."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from conftest import Api

from hurbin_server.base.clock import now
from hurbin_server.hydraulics.models import Loop, LoopMember, LoopVersion
from hurbin_server.hydraulics.querysets import loop_of
from hurbin_server.logbook.models import Point
from hurbin_server.plant.models import Fitting, PumpSet, Site
from hurbin_server.simulator.water_life import WaterLife

Door = Callable[[str], Api]
SITE_ALTITUDE = 12.0


def figure(text: str, unit: str) -> dict[str, str]:
    return {"text": text, "unit": unit}


PLATE = {
    "volume": figure("620", "l"),
    "vessel": figure("35", "l"),
    "precharge": figure("1.2", "bar"),
    "high_point": figure("6", "m_head"),
    "gauge_step": figure("0.01", "bar"),
    "fluid": "water",
    "pipe": "steel",
}
CURVE = "flow; head; power\n0; 34; 2.9\n36; 30.2; 4.45\n54; 25.6; 4.97\n66; 21.5; 5.12\n78; 16.9; 5.22"


def described(api: Api, site: Site, *sets: PumpSet, name: str = "East", **more: Any) -> tuple[int, Any]:
    plate = {**PLATE, **more}
    return api(
        "POST", f"/sites/{site.pk}/loops", {"name": name, "plate": plate, "set_ids": [s.pk for s in sets]}
    )


def put(api: Api, row: PumpSet, bench: str, hours_ago: float = 0.1, **body: Any) -> tuple[int, Any]:
    entry = {
        "uuid": str(uuid.uuid4()),
        "taken_at": (now() - timedelta(hours=hours_ago)).isoformat(),
        "device": "phone",
        "body": body,
    }
    return api(
        "POST",
        f"/benches/{bench}/records",
        {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": [entry]},
    )


def pressure(hours_ago: float, bar: str, temp: str) -> dict[str, Any]:
    at = (now() - timedelta(hours=hours_ago)).isoformat()
    stood = {"pump": "standing", "hose": "off", "make_up": "shut"}
    return {"at": at, "pressure": figure(bar, "bar"), "temperature": figure(temp, "degC"), **stood}


def high(site: Site) -> None:
    Site.objects.filter(pk=site.pk).update(altitude_m=SITE_ALTITUDE)


def findings(told: Any) -> dict[str, tuple[str, str]]:
    return {f["question"]: (f["verdict"], f["reason"]) for f in told["evaluation"]["findings"]}


def test_who_may_describe_a_loop_and_what_is_no_loop(api: Door, site: Site, pump_set: PumpSet) -> None:
    for who, status in (("nobody", 401), ("stranger", 404), ("vic", 403), ("tia", 403)):
        assert described(api(who), site, pump_set)[0] == status
    status, refused = described(api("leo"), site, pump_set, vessel=figure("900", "l"))
    assert status == 422
    assert "larger than the whole loop" in refused["detail"]
    assert described(api("leo"), site, pump_set, volume=figure("lots", "l"))[0] == 422
    assert described(api("leo"), site, pump_set, name="  ")[0] == 422
    assert not Loop.objects.exists()
    status, made = described(api("leo"), site, pump_set)
    assert (status, made["tags"], made["version"]) == (201, ["C-1"], 1)
    assert api("vic")("GET", f"/sites/{site.pk}/loops")[1]["may"] is False
    assert api("stranger")("GET", f"/sites/{site.pk}/loops")[0] == 404


def test_two_leads_at_one_loop_and_a_set_on_two(
    api: Door, site: Site, pump_set: PumpSet, twin: PumpSet
) -> None:
    made = described(api("leo"), site, pump_set)[1]
    assert described(api("leo"), site)[0] == 409, "the name is taken"
    assert described(api("leo"), site, pump_set, name="West")[0] == 409, "the set is on another"
    path = f"/sites/{site.pk}/loops/{made['id']}"
    told = {"name": "East", "plate": PLATE, "set_ids": [pump_set.pk, twin.pk], "expected_version": 1}
    assert api("ada")("PUT", path, told)[1]["tags"] == ["C-1", "C-2"]
    status, stale = api("leo")("PUT", path, told)
    assert (status, stale["code"]) == (409, "stale")
    assert stale["current"]["version"] == 2
    assert LoopVersion.objects.filter(loop_id=made["id"]).count() == 2
    off = {**told, "set_ids": [twin.pk], "expected_version": 2}
    assert api("leo")("PUT", path, off)[1]["tags"] == ["C-2"]
    assert not LoopMember.objects.filter(pump_set=pump_set).exists()
    elsewhere = {**told, "set_ids": [pump_set.pk + 500], "expected_version": 3}
    assert api("leo")("PUT", path, elsewhere)[0] == 422


def test_a_pressure_on_one_set_is_known_on_the_other(
    api: Door, site: Site, pump_set: PumpSet, twin: PumpSet
) -> None:
    high(site)
    described(api("leo"), site, pump_set, twin)
    status, first = put(api("tia"), pump_set, "loop", 40, readings=[pressure(40, "1.86", "41")], fresh="no")
    assert status == 201
    assert findings(first)["loop_loss"][0] == "unknown"
    case = api("tia")("GET", f"/benches/loop/case/{twin.pk}")
    assert case[0] == 200, case
    past = case[1]["extras"]["loop"][0]["past"]
    assert [(p["kpa"], p["temp_c"], p["tag"]) for p in past] == [(186.0, 41.0, "C-1")]
    _, told = put(api("tia"), twin, "loop", 1, readings=[pressure(1, "1.30", "26")], fresh="no")
    verdict, reason = findings(told)["loop_loss"]
    assert verdict == "act"
    assert "A leak, not only cooling" in reason
    known = loop_of(pump_set, now())
    assert known is not None
    assert [p.tag for p in known.past] == ["C-1", "C-2"]


def test_make_up_left_open_stands_as_a_temporary_change_until_it_is_shut(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    described(api("leo"), site, pump_set)
    until = (now() + timedelta(days=3)).date().isoformat()
    meter = {"meter_start": figure("1200", "l"), "meter_end": figure("1203", "l")}
    status, told = put(api("tia"), pump_set, "loop", 2, make_up="open", make_up_until=until, **meter)
    assert status == 201, told
    tags = api("tia")("GET", f"/sets/{pump_set.pk}/safety")[1]["tags"]
    assert [t["title"] for t in tags] == ["Make-up open"]
    assert "meter at 1203 l" in str(tags)
    status, told = put(api("tia"), pump_set, "loop", 1, make_up="shut")
    assert status == 201, told
    assert api("tia")("GET", f"/sets/{pump_set.pk}/safety")[1]["tags"] == []


def test_a_valve_left_closed_in_is_a_temporary_change_with_its_turns(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    amps = {f"amps_{n}": figure("18.9", "A") for n in (1, 2, 3)}
    until = (now() + timedelta(days=5)).date().isoformat()
    step = {"turns": figure("3", "turns"), "waited": True, **amps}
    told = {"steps": [step], "turns_full": figure("9", "turns"), "until": until, "cure": "trim", **amps}
    status, saved = put(api("tia"), pump_set, "throttle", 2, **told)
    assert status == 201
    assert findings(saved)["throttle_left"][0] == "good"
    tags = api("tia")("GET", f"/sets/{pump_set.pk}/safety")[1]["tags"]
    assert [t["title"] for t in tags] == ["Valve throttled"]
    assert "3 of 9 turns open" in str(tags)
    step["turns"] = figure("9", "turns")
    put(api("tia"), pump_set, "throttle", 1, **told)
    assert api("tia")("GET", f"/sets/{pump_set.pk}/safety")[1]["tags"] == []


def test_a_curve_that_cannot_be_is_refused_where_it_is_typed(api: Door, pump_set: PumpSet) -> None:
    end = Fitting.objects.get(pump_set=pump_set, slot="pump", to_at=None).component
    path = f"/components/{end.pk}/plates"

    def keep(curve: str, **more: Any) -> tuple[int, Any]:
        plate = {"type": "radial", "curve": curve, **more}
        return api("ada")("POST", path, {"plate": plate, "expected_version": 0, "reason": "sheet"})

    for curve, words in (
        ("0; 24\n10; 25.1\n30; 20\n60; 9", "head rises"),
        ("0; 34\n36; 20\n66; 18", "do not bend down"),
        ("0; 34\n36; 30", "three points or more"),
        ("flow furlongs; head m\n0; 34\n36; 30\n60; 20", "is not a unit of flow"),
        ("0; 34\n36; thirty\n60; 20", "is not a number"),
        ("0; 34\n0; 33\n60; 20", "two rows at"),
    ):
        status, refused = keep(curve)
        assert (status, refused["code"]) == (422, "plate_refused"), curve
        assert words in refused["problems"][0]["message"]
    assert keep(CURVE, impeller=figure("160", "mm"), curve_impeller=figure("200", "mm"))[0] == 422
    assert keep(CURVE)[0] == 201


def test_a_duty_keeps_its_points_by_state_and_never_the_what_if(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    high(site)
    end = Fitting.objects.get(pump_set=pump_set, slot="pump", to_at=None).component
    plate = {
        "type": "radial",
        "curve": CURVE,
        "curve_speed": figure("1465", "rpm"),
        "bep_flow": figure("58", "m3/h"),
    }
    api("ada")(
        "POST", f"/components/{end.pk}/plates", {"plate": plate, "expected_version": 0, "reason": "sheet"}
    )
    body = {
        "fluid": "water",
        "temperature": figure("20", "degC"),
        "suction": figure("0.42", "bar"),
        "discharge": figure("2.8", "bar"),
        "heights": "centre",
        "gauge_class": "0.6",
        "suction_top": figure("4", "bar"),
        "discharge_top": figure("6", "bar"),
        "suction_bore": figure("100", "mm"),
        "discharge_bore": figure("80", "mm"),
        "state": "running",
        "valve": "open",
        "settled": True,
        "others": "alone",
        "rpm": figure("1465", "rpm"),
        "try_at": 0.4,
    }
    status, saved = put(api("tia"), pump_set, "duty", 1, **body)
    assert status == 201
    assert findings(saved)["duty_point"][0] == "good"
    record = api("tia")("GET", f"/records/{saved['record']}")[1]
    assert "try_at" not in record["body"]
    kept = set(
        Point.objects.filter(record_id=saved["record"]).values_list("series__measurand", "series__conditions")
    )
    assert ("pump_head", "header=alone;hz=line;pump=running;valve=open") in kept
    assert {m for m, _ in kept} >= {"suction_pressure", "discharge_pressure", "pump_flow"}


@pytest.mark.django_db
def test_the_demo_of_water_comes_in_by_the_front_door(
    people: dict[str, Any], site: Site, pump_set: PumpSet
) -> None:
    """A loop of the demo on a set of this site: described, read seven times, and found out."""
    high(site)
    named = {"teodor": people["leo"], "ines": people["ada"], "jun": people["tia"], "saskia": people["tia"]}
    life = WaterLife(now(), named, {"PALM-41": pump_set}, {u.username: {} for u in people.values()})
    life.happen()
    known = loop_of(pump_set, now())
    assert known is not None
    assert known.name == "Palm house heating"
    assert len(known.past) == 7
