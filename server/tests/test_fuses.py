"""A blown fuse at the door: no start before everything is on record, and who signs after the second one."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

from conftest import Api
from safe_sheets import Safe, offered
from test_ohms import measured
from test_shaft import turned

from hurbin_server.base.clock import now
from hurbin_server.plant.models import PumpSet

Door = Callable[[str], Api]
MARKS = {
    f"{what}_{n}": value
    for n in (1, 2, 3)
    for what, value in (
        ("class", "J"),
        ("delay", "delay"),
        ("clip", "tight"),
        ("amps", {"text": "40", "unit": "A"}),
        ("volts", {"text": "600", "unit": "V"}),
        ("ohms", {"text": "0.02", "unit": "ohm"}),
    )
}


def checked(api: Api, row: PumpSet, minutes_ago: float = 0, **more: Any) -> tuple[int, Any]:
    body = {"when": "fitted", "out": True, "alone": True, "covers": True, **MARKS}
    body |= {"fault_ka": {"text": "18", "unit": "kA"}, **more}
    entry = {
        "uuid": str(uuid.uuid4()),
        "taken_at": (now() - timedelta(minutes=minutes_ago)).isoformat(),
        "device": "phone",
        "body": body,
    }
    asked = {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": [entry]}
    return api("POST", "/benches/fuses/records", asked)


def blown(api: Api, row: PumpSet, minutes_ago: float = 0, **more: Any) -> tuple[int, Any]:
    return checked(api, row, minutes_ago, when="found", ohms_2={"text": "OL"}, covers=None, **more)


def lines(api: Api, row: PumpSet) -> dict[str, bool]:
    told = api("GET", f"/sets/{row.pk}/safety")[1]
    return {x["id"]: x["done"] for x in told["ready"]}


def starter_plate(api: Api, row: PumpSet) -> None:
    control = row.fittings.get(slot="control").component
    plate = {
        "overload_setting": {"text": "19", "unit": "A"},
        "overload_multiplier": {"text": "1.15", "unit": "1"},
        "fuse_class": "J",
        "fuse_delay": "delay",
        "fuse_amps": {"text": "40", "unit": "A"},
        "fuse_volts": {"text": "600", "unit": "V"},
    }
    status, answer = api(
        "POST",
        f"/components/{control.pk}/plates",
        {"plate": plate, "expected_version": 0, "reason": "first entry"},
    )
    assert status in (200, 201), answer


def test_power_waits_for_every_line_and_for_nothing_else(api: Door, pump_set: PumpSet) -> None:
    ada, tia = api("ada"), api("tia")
    starter_plate(ada, pump_set)
    assert offered(tia, pump_set, "run")
    assert lines(tia, pump_set) == {}
    assert blown(tia, pump_set, minutes_ago=50)[0] == 201
    assert set(lines(tia, pump_set)) == {"fuses", "ohms", "insulation", "shaft", "overload", "covers"}
    assert not offered(tia, pump_set, "run")
    safe = Safe(tia, pump_set, minutes_ago=45)
    safe.isolate()
    safe.prove()
    assert measured(tia, pump_set, minutes_ago=30)[0] == 201
    assert lines(tia, pump_set)["ohms"]
    assert turned(tia, pump_set)[0] == 201
    assert checked(tia, pump_set, minutes_ago=1)[0] == 201
    open_still = {k for k, done in lines(tia, pump_set).items() if not done}
    assert open_still == {"insulation"}
    told = tia("GET", f"/sets/{pump_set.pk}/safety")[1]["offers"]
    run = next(o for o in told if o["act"] == "run")
    assert "ready_to_energise" in [s["gate"] for s in run["shut"]]


def test_the_second_one_without_a_cause_ends_by_a_leads_entry_of_a_signature(
    api: Door, pump_set: PumpSet
) -> None:
    leo, tia = api("leo"), api("tia")
    assert blown(tia, pump_set, minutes_ago=3000)[0] == 201
    status, answer = blown(tia, pump_set, minutes_ago=40)
    told = {f["question"]: f["verdict"] for f in answer["evaluation"]["findings"]}
    assert told["fuse_cause"] == "stop"
    stops = tia("GET", f"/sets/{pump_set.pk}/safety")[1]["stops"]
    assert "fuse_cause" in [s["question"] for s in stops]
    signed = {"signed": "R. Okabe", "signed_as": "licensed"}
    assert checked(tia, pump_set, **signed)[0] == 403
    status, answer = checked(leo, pump_set, **signed)
    assert status == 201, answer
    told = {f["question"]: f["verdict"] for f in answer["evaluation"]["findings"]}
    assert told["fuse_cause"] == "watch"
    safety = tia("GET", f"/sets/{pump_set.pk}/safety")[1]
    assert "fuse_cause" not in [s["question"] for s in safety["stops"]]


def test_fuses_are_a_part_with_a_nameplate_and_new_ones_mend_nothing(api: Door, pump_set: PumpSet) -> None:
    ada, tia = api("ada"), api("tia")
    plate = {
        "fuse_class": "J",
        "fuse_delay": "delay",
        "fuse_amps": {"text": "40", "unit": "A"},
        "fuse_volts": {"text": "600", "unit": "V"},
        "clip": "rejecting",
    }

    def fitted(label: str, minutes_ago: float) -> None:
        made = ada("POST", f"/sites/{pump_set.site_id}/components", {"kind": "fuses", "label": label})[1]
        at = (now() - timedelta(minutes=minutes_ago)).isoformat()
        said = {"slot": "supply", "component_id": made["id"], "from_at": at, "note": ""}
        assert ada("POST", f"/sets/{pump_set.pk}/fittings", said)[0] == 201
        stamped = {"expected_version": 0, "plate": plate, "reason": "as fitted"}
        assert ada("POST", f"/components/{made['id']}/plates", stamped)[0] == 201

    def stops() -> list[str]:
        return [s["question"] for s in tia("GET", f"/sets/{pump_set.pk}/safety")[1]["stops"]]

    fitted("F7, first set", 30)
    status, answer = blown(tia, pump_set, 20)
    assert status == 201
    assert "J" in answer["evaluation"]["view"]["wanted"]
    assert "fuse_blown" in stops()
    fitted("F7, second set", 10)
    assert "fuse_blown" in stops(), "an exchange of fuses ends nothing that was found there"
    parts = tia("GET", f"/sets/{pump_set.pk}")[1]["components"]
    assert [c["label"] for c in parts if c["slot"] == "supply"] == ["F7, second set"]
