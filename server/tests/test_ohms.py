"""Ohms at the door: nothing good on a set that is not proved dead, energy revokes the proof, and who may."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

from conftest import Api
from safe_sheets import Safe

from hurbin_server.base.clock import now
from hurbin_server.plant.models import PumpSet

Door = Callable[[str], Api]
COIL = {
    "of": "winding",
    "at": "motor",
    "joined": "wye",
    "lead_way": "zeroed",
    "winding": {"text": "24", "unit": "degC"},
    "pair_12": {"text": "4.83", "unit": "ohm"},
    "pair_23": {"text": "4.85", "unit": "ohm"},
    "pair_31": {"text": "4.84", "unit": "ohm"},
    "ground_1": {"text": "OL", "unit": "megohm"},
}


def measured(api: Api, row: PumpSet, minutes_ago: float = 1, **body: Any) -> tuple[int, Any]:
    entry = {
        "uuid": str(uuid.uuid4()),
        "taken_at": (now() - timedelta(minutes=minutes_ago)).isoformat(),
        "device": "phone",
        "body": {**COIL, **body},
    }
    asked = {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": [entry]}
    return api("POST", "/benches/ohms/records", asked)


def verdicts(answer: Any) -> dict[str, str]:
    return {f["question"]: f["verdict"] for f in answer["evaluation"]["findings"]}


def test_even_pairs_are_good_only_while_the_set_is_proved_dead(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    status, answer = measured(tia, pump_set)
    assert status == 201
    assert verdicts(answer) == {"winding_ohms": "unknown", "ground_ohms": "unknown"}
    safe = Safe(tia, pump_set)
    safe.isolate()
    assert verdicts(measured(tia, pump_set)[1])["winding_ohms"] == "unknown"
    safe.prove()
    # What was read before on a set that was not proved dead is nothing to compare with.
    assert verdicts(measured(tia, pump_set)[1]) == {"winding_ohms": "good", "ground_ohms": "good"}


def test_the_sensors_in_the_motor_are_trended_and_never_good_through_their_relay(
    api: Door, pump_set: PumpSet
) -> None:
    tia = api("tia")
    safe = Safe(tia, pump_set)
    safe.isolate()
    safe.prove()
    ohm = {"unit": "ohm", "text": "212"}
    sensed = {"of": "sensors", "warm": "cold", "in_series": "3", "low_test": True, "thermistor": ohm}
    assert verdicts(measured(tia, pump_set, 2, **sensed)[1]) == {"thermistor": "unknown"}
    assert verdicts(measured(tia, pump_set, 1, **sensed, relay_off=True)[1]) == {"thermistor": "good"}
    trends = tia("GET", f"/sets/{pump_set.pk}/trends")[1]
    assert [len(t["points"]) for t in trends if t["measurand"] == "thermistor_ohms"] == [2]


def test_a_pair_that_moved_is_held_against_the_last_time(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    safe = Safe(tia, pump_set)
    safe.isolate()
    safe.prove()
    assert measured(tia, pump_set, minutes_ago=5)[0] == 201
    again = measured(tia, pump_set, pair_31={"text": "5.15", "unit": "ohm"})[1]
    assert verdicts(again)["winding_past"] == "act"
    trends = tia("GET", f"/sets/{pump_set.pk}/trends")[1]
    legs = {t["leg"] for t in trends if t["measurand"] == "winding_ohms"}
    assert legs == {"12", "23", "31"}


def test_who_may_measure_and_what_is_no_sheet_of_ohms(api: Door, pump_set: PumpSet) -> None:
    assert measured(api("vic"), pump_set)[0] == 403
    tia = api("tia")
    status, answer = measured(tia, pump_set, of="transformer")
    assert (status, answer["code"]) == (422, "input_wrong")
    status, answer = measured(tia, pump_set, of="drive")
    assert (status, answer["problems"][0]["code"]) == (422, "not_on_this_set")
    status, answer = measured(tia, pump_set, pair_12={"text": "4,8,3", "unit": "ohm"})
    assert (status, answer["problems"][0]["field"]) == (422, "pair_12")
