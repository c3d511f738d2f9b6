"""A motor that came in: nothing starts it before leads, tests, overload and direction are on record."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from conftest import PLATE, Api, sheet
from safe_sheets import offered
from test_shaft import turned

from hurbin_server.base.clock import now
from hurbin_server.logbook.models import Answer
from hurbin_server.plant.models import PumpSet, Site

Door = Callable[[str], Api]


def put(api: Api, row: PumpSet, bench: str, seconds_ago: float = 20, **body: Any) -> Any:
    entry = {
        "uuid": str(uuid.uuid4()),
        "taken_at": (now() - timedelta(seconds=seconds_ago)).isoformat(),
        "device": "phone",
        "body": body,
    }
    asked = {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": [entry]}
    status, told = api("POST", f"/benches/{bench}/records", asked)
    assert status == 201, told
    return told


def spare(api: Api, site: Site, **plate: Any) -> int:
    status, made = api("POST", f"/sites/{site.pk}/components", {"kind": "motor", "label": "Motor B"})
    assert status == 201, made
    told = {"plate": {**PLATE, **plate}, "expected_version": 0, "reason": "read at the motor"}
    status, told = api("POST", f"/components/{made['id']}/plates", told)
    assert status == 201, told
    return int(made["id"])


def fitted(api: Api, row: PumpSet, component: int, **more: Any) -> tuple[int, Any]:
    at = (now() - timedelta(minutes=2)).isoformat()
    asked = {"slot": "motor", "component_id": component, "from_at": at, "note": "", "although": False}
    return api("POST", f"/sets/{row.pk}/fittings", {**asked, **more})


def lines(api: Api, row: PumpSet) -> dict[str, bool]:
    told = api("GET", f"/sets/{row.pk}/safety")[1]
    return {x["id"]: x["done"] for x in told["ready"] if x["list"] == "first_start"}


OVERLOAD = {
    "overload": "thermal",
    "transformer": "none",
    "loops": {"text": "1", "unit": ""},
    "dial": {"text": "20", "unit": "A"},
    "multiplier": {"text": "1.15", "unit": ""},
}
BUMP = {
    "threaded": "no",
    "one_way": "no",
    "coupled": "yes",
    "turned": True,
    "guard": True,
    "clear": True,
    "passed": True,
    "filled": True,
    "arrow": "cw",
    "seen_from": "drive_end",
    "proof": "bump",
    "bumped": True,
    "now_in": "with",
    "turns_back": "no",
}


def test_a_new_motor_waits_for_every_line_and_each_record_closes_its_own(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia, ada = api("tia"), api("ada")
    put(tia, pump_set, "protection", seconds_ago=600, **OVERLOAD)
    assert lines(tia, pump_set) == {}
    assert offered(tia, pump_set, "run")
    assert fitted(ada, pump_set, spare(ada, site))[0] == 201
    open_ = {"leads", "ohms", "insulation", "protection", "direction", "shaft"}
    assert {k for k, done in lines(tia, pump_set).items() if not done} == open_
    assert not offered(tia, pump_set, "run")
    assert not Answer.objects.filter(pump_set=pump_set, question="overload_setting").exists()
    put(tia, pump_set, "protection", **OVERLOAD)
    put(tia, pump_set, "direction", **BUMP)
    assert turned(tia, pump_set)[0] == 201
    done = {k for k, is_done in lines(tia, pump_set).items() if is_done}
    assert done >= {"protection", "direction"}
    assert not offered(tia, pump_set, "run")


def test_once_it_ran_what_is_wanting_stays_due_and_blocks_no_more(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia, ada = api("tia"), api("ada")
    assert fitted(ada, pump_set, spare(ada, site))[0] == 201
    assert lines(tia, pump_set) != {}
    assert not offered(tia, pump_set, "run")
    assert tia("POST", "/benches/running_check/records", sheet(pump_set))[0] == 201
    assert lines(tia, pump_set)["leads"] is False
    told = tia("GET", f"/sets/{pump_set.pk}/safety")[1]["ready"]
    assert {(x["blocks"], x["heading"]) for x in told} == {
        (False, "This motor ran before everything was on record")
    }
    assert offered(tia, pump_set, "run")


def test_a_motor_for_another_voltage_is_a_stop_at_the_fitting_and_no_start_is_offered(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia, ada = api("tia"), api("ada")
    assert tia("POST", "/benches/running_check/records", sheet(pump_set, days_ago=3))[0] == 201
    other = spare(ada, site, volts_low={"text": "230", "unit": "V"})
    status, told = fitted(ada, pump_set, other)
    assert (status, told["code"]) == (409, "fitting_stop")
    assert "the motor is made for 230" in told["detail"]
    assert pump_set.fittings.get(slot="motor", to_at=None).component_id != other
    assert fitted(ada, pump_set, other, although=True)[0] == 201
    assert lines(tia, pump_set)["supply"] is False
    note = pump_set.events.get(kind="motor_change").note
    assert "do not connect it" in note
    assert not offered(tia, pump_set, "run")


@pytest.mark.parametrize("volts", ["400", "415", ""])
def test_a_motor_for_this_supply_or_without_a_plate_is_fitted(
    api: Door, site: Site, pump_set: PumpSet, volts: str
) -> None:
    tia, ada = api("tia"), api("ada")
    assert tia("POST", "/benches/running_check/records", sheet(pump_set, days_ago=3))[0] == 201
    plate = {"volts_low": {"text": volts, "unit": "V"}} if volts else {"volts_low": None}
    assert fitted(ada, pump_set, spare(ada, site, **plate))[0] == 201
    assert "supply" not in lines(tia, pump_set)


def test_only_an_admin_fits(api: Door, site: Site, pump_set: PumpSet) -> None:
    made = spare(api("ada"), site)
    assert fitted(api("tia"), pump_set, made, although=True)[0] == 403
