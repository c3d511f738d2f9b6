"""The circuit kept with a set, and the walk down it: described, read by two people, judged, on record."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from conftest import Api
from safe_sheets import Safe

from hurbin_server.base.clock import now
from hurbin_server.base.models import AuditEntry
from hurbin_server.electrical.models import CircuitVersion
from hurbin_server.logbook.models import Finding
from hurbin_server.plant.models import PumpSet, Site

Door = Callable[[str], Api]


def described(api: Api, row: PumpSet, **more: Any) -> dict[str, Any]:
    """The usual circuit of this set, confirmed with its earthing."""
    told = api("GET", f"/sets/{row.pk}/circuit")[1]
    circuit = {**told["circuit"], "taps_known": True, **more}
    circuit["supply"] = {**circuit["supply"], "earthing": "solid_wye"}
    status, kept = api(
        "PUT", f"/sets/{row.pk}/circuit", {"circuit": circuit, "expected_version": told["version"]}
    )
    assert status == 200, kept
    return dict(kept)


def reading(one: str, two: str, volts: float, minutes: float = 0, **stood: str) -> dict[str, Any]:
    state = {"contactor": "out", "motor": "standing", "leads": "on", "meter": "low", **stood}
    return {
        "uuid": str(uuid.uuid4()),
        "taken_at": (now() - timedelta(minutes=30 - minutes)).isoformat(),
        "device": "phone",
        "body": {
            "kind": "reading",
            "one": one,
            "two": two,
            "volts": {"text": f"{volts:g}", "unit": "V"},
            **state,
        },
    }


FUSE_2 = [
    ("F.in.1", "F.in.2", 400),
    ("F.in.2", "F.in.3", 399),
    ("F.out.1", "F.out.2", 0),
    ("F.out.2", "F.out.3", 1),
    ("F.out.3", "F.out.1", 401),
]


def fuse_2() -> list[dict[str, Any]]:
    return [reading(a, b, v, i) for i, (a, b, v) in enumerate(FUSE_2)]


def saved(api: Api, row: PumpSet, entries: list[dict[str, Any]]) -> tuple[int, Any]:
    body = {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": entries}
    return api("POST", "/benches/circuit/records", body)


def test_a_new_set_has_the_usual_circuit_of_its_starter_until_somebody_confirms_one(
    api: Door, pump_set: PumpSet
) -> None:
    tia = api("tia")
    told = tia("GET", f"/sets/{pump_set.pk}/circuit")[1]
    assert (told["version"], told["circuit"]["kind"], told["circuit"]["supply"]["volts"]) == (
        0,
        "direct",
        400,
    )
    assert told["circuit"]["supply"]["earthing"] == "unknown"
    assert len(told["usual"]) == 10
    kept = described(tia, pump_set)
    assert (kept["version"], kept["by"]) == (1, "Tia")
    assert AuditEntry.objects.filter(action="circuit_described").count() == 1
    case = tia("GET", f"/benches/circuit/case/{pump_set.pk}")[1]
    assert case["extras"]["circuit"][0]["version"] == 1


def test_an_edit_of_what_somebody_else_changed_shows_both(api: Door, pump_set: PumpSet) -> None:
    tia, leo = api("tia"), api("leo")
    mine = described(tia, pump_set)["circuit"]
    described(leo, pump_set, shared_by=1, taps_known=False)
    status, refused = tia("PUT", f"/sets/{pump_set.pk}/circuit", {"circuit": mine, "expected_version": 1})
    assert (status, refused["code"]) == (409, "stale")
    assert refused["current"]["version"] == 2
    assert CircuitVersion.objects.filter(pump_set=pump_set).count() == 2


def test_who_may_look_may_not_edit_and_a_stranger_sees_nothing(api: Door, pump_set: PumpSet) -> None:
    vic, path = api("vic"), f"/sets/{pump_set.pk}/circuit"
    told = vic("GET", path)[1]
    assert told["may"] is False
    body = {"circuit": told["circuit"], "expected_version": 0}
    assert vic("PUT", path, body)[0] == 403
    assert api("stranger")("GET", path)[0] == 404
    assert api("stranger")("PUT", path, body)[0] == 404
    assert Api(None)("GET", path)[0] == 401


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"elements": []}, "at least 2"),
        ({"elements": [{"id": "M", "kind": "motor"}, {"id": "S", "kind": "source"}]}, "from one source"),
        ({"conductors": 2}, "earthing does not go"),
        ({"supply": {"volts": -4}}, "greater than 0"),
        (
            {"paths": [{"leaves": "Q.out", "lands": "M.in", "elements": [{"id": "B", "kind": "fuse"}]}]},
            "place of the",
        ),
        ({"paths": [{"leaves": "F.out", "lands": "O.in", "elements": []}]}, "at least 1"),
        ({"shared_by": 10**9}, "less than or equal to 50"),
    ],
)
def test_what_is_no_circuit_is_refused_in_words(
    api: Door, pump_set: PumpSet, change: dict[str, Any], says: str
) -> None:
    tia = api("tia")
    circuit = described(tia, pump_set)["circuit"]
    status, refused = tia(
        "PUT", f"/sets/{pump_set.pk}/circuit", {"circuit": {**circuit, **change}, "expected_version": 1}
    )
    assert status == 422
    assert says in refused["detail"]
    assert not refused["detail"].startswith("Value error")
    assert CircuitVersion.objects.count() == 1


def test_it_goes_out_as_json_and_comes_in_as_it_went(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    described(tia, pump_set)
    status, out = tia("GET", f"/sets/{pump_set.pk}/circuit.json")
    assert status == 200
    assert out["supply"]["earthing"] == "solid_wye"
    again = tia("PUT", f"/sets/{pump_set.pk}/circuit", {"circuit": out, "expected_version": 1})[1]
    assert again["circuit"] == tia("GET", f"/sets/{pump_set.pk}/circuit")[1]["circuit"]


def test_a_blown_fuse_is_named_and_stands_as_a_stop_on_the_set(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    described(tia, pump_set)
    status, record = saved(tia, pump_set, fuse_2())
    assert status == 201, record
    found = Finding.objects.get(question="circuit_open", live=True)
    assert found.verdict == "stop"
    told = tia("GET", f"/sets/{pump_set.pk}/page")[1]
    assert "Fuses, L2" in str(told)
    seen = tia("GET", f"/records/{record['record']}")[1]
    assert seen["evaluation"]["view"]["headline"] == "between Fuses, line side and Fuses, load side, L2"
    assert len(seen["body"]["log"]) == 5


def test_two_people_read_one_circuit_and_what_differs_is_used_by_neither(
    api: Door, pump_set: PumpSet
) -> None:
    tia, leo, sheet = api("tia"), api("leo"), str(uuid.uuid4())
    described(tia, pump_set)
    for who, volts in ((tia, 400), (leo, 0)):
        entry = reading("K.in.1", "K.in.2", volts, 1 if who is tia else 2)
        status, _ = who(
            "POST", f"/benches/circuit/sheets/{sheet}/entries", {"set_id": pump_set.pk, "entries": [entry]}
        )
        assert status in (200, 201)
    body = {"set_id": pump_set.pk, "sheet": sheet, "entries": []}
    record = tia("POST", "/benches/circuit/records", body)[1]["record"]
    told = tia("GET", f"/records/{record}")[1]["evaluation"]
    readings = told["view"]["readings"]
    assert [r["used"] for r in readings] == [False, False]
    assert {r["by"] for r in readings} == {"Tia", "Leo"}
    assert any("was read twice" in f["reason"] for f in told["findings"])


def test_a_point_that_was_edited_away_is_named_and_the_reading_is_kept(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    circuit = described(tia, pump_set)["circuit"]
    entry = reading("D.in.1", "D.in.2", 400)
    asked = {"set_id": pump_set.pk, "entries": [entry]}
    assert tia("POST", "/benches/circuit/evaluate", asked)[1]["problems"] == []
    fewer = [e for e in circuit["elements"] if e["id"] != "D"]
    edit = {"circuit": {**circuit, "elements": fewer}, "expected_version": 1}
    assert tia("PUT", f"/sets/{pump_set.pk}/circuit", edit)[0] == 200
    told = tia("POST", "/benches/circuit/evaluate", asked)[1]
    assert "no point D.in.1" in told["problems"][0]["message"]
    assert told["verdict"] == "unknown"


def test_a_position_that_was_edited_away_is_named_and_the_reading_is_kept(
    api: Door, pump_set: PumpSet
) -> None:
    tia = api("tia")
    told = tia("GET", f"/sets/{pump_set.pk}/circuit")[1]
    ring = next(k["circuit"] for k in told["usual"] if k["id"] == "star_delta")
    status, kept = tia("PUT", f"/sets/{pump_set.pk}/circuit", {"circuit": ring, "expected_version": 0})
    assert (status, kept["circuit"]["paths"][0]["onto"]) == (200, [3, 1, 2])
    entries = [reading("K.in.1", "K.in.2", 401, contactor="delta", motor="running")]
    body = {"set_id": pump_set.pk, "entries": entries}
    assert tia("POST", "/benches/circuit/evaluate", body)[1]["problems"] == []
    back = {"circuit": told["circuit"], "expected_version": kept["version"]}
    assert tia("PUT", f"/sets/{pump_set.pk}/circuit", back)[0] == 200
    (problem,) = tia("POST", "/benches/circuit/evaluate", body)[1]["problems"]
    assert problem["code"] == "state_impossible"
    assert "no position “delta”" in problem["message"]


def test_volts_on_a_set_proved_dead_are_a_stop_and_revoke_its_proof(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    described(tia, pump_set)
    safe = Safe(tia, pump_set)
    safe.isolate()
    safe.prove()
    status, record = saved(tia, pump_set, [reading("F.in.1", "F.in.2", 400, 29)])
    assert status == 201, record
    assert Finding.objects.filter(question="live_on_isolated", live=True, verdict="stop").exists()
    assert tia("GET", f"/sets/{pump_set.pk}/safety")[1]["isolation"]["state"] == "live"


def test_a_walk_is_never_due(api: Door, pump_set: PumpSet) -> None:
    told = api("tia")("GET", f"/sets/{pump_set.pk}/state")[1]
    due = {d["bench"] for d in told["due"]}
    assert "running_check" in due
    assert "circuit" not in due


def test_the_register_file_carries_the_kind_of_circuit_and_takes_it_back(
    api: Door, pump_set: PumpSet, site: Site
) -> None:
    ada, path = api("ada"), f"/sites/{site.pk}/register.csv"
    text = ada("GET", path)[1]
    assert "circuit" in text.splitlines()[0].split(",")
    assert ada("POST", path, {"text": text, "write": False})[1]["same"] == 1
    row = f"service,tag,name,kind,circuit\nCOLD,{pump_set.tag},Cold 1,base_mounted,reversing\n"
    said = ada("POST", path, {"text": row, "write": True})[1]
    assert (said["changes"], said["rows"][0]["says"]) == (1, "circuit")
    told = ada("GET", f"/sets/{pump_set.pk}/circuit")[1]
    assert (told["version"], told["circuit"]["kind"]) == (1, "reversing")
    assert told["circuit"]["supply"]["volts"] == 400
    again = ada("GET", path)[1]
    assert ",reversing," in again
    assert ada("POST", path, {"text": again, "write": True})[1]["same"] == 1
    wrong = row.replace("reversing", "clockwork")
    status, refused = ada("POST", path, {"text": wrong, "write": True})
    assert (status, "clockwork" in str(refused["problems"])) == (422, True)
    assert CircuitVersion.objects.count() == 1


def test_a_new_set_of_a_file_has_the_circuit_that_its_row_says(
    api: Door, pump_set: PumpSet, site: Site
) -> None:
    ada, path = api("ada"), f"/sites/{site.pk}/register.csv"
    row = "service,tag,kind,circuit\nCOLD,C-9,wet_rotor,board_relay\n"
    assert ada("POST", path, {"text": row, "write": True})[1]["new"] == 1
    made = PumpSet.objects.get(tag="C-9")
    assert ada("GET", f"/sets/{made.pk}/circuit")[1]["circuit"]["kind"] == "board_relay"
