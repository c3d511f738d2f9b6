"""What every bench answers over HTTP: schema, context, judging without saving, and what is refused."""

from __future__ import annotations

import json
import uuid
from collections.abc import Callable, Iterator
from datetime import timedelta
from typing import Any

import pytest
from conftest import Api, sheet
from pydantic import BaseModel
from safe_sheets import LINES, Safe

from hurbin_core.catalogue import bench as find_bench, benches
from hurbin_server.api import api as api_of_all
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Entry, Record, Sheet
from hurbin_server.plant.models import Component, PumpSet, Site
from hurbin_server.plant.services.parts import new_plate

Door = Callable[[str], Api]
BENCHES = [b.name for b in benches()]


def body(row: PumpSet, **entry: Any) -> dict[str, Any]:
    return {
        "set_id": row.pk,
        "entries": [{"uuid": str(uuid.uuid4()), "taken_at": now().isoformat(), "device": "t", "body": entry}],
    }


def reading(ohms: str, unit: str = "MOhm") -> dict[str, Any]:
    return {"kind": "reading", "leg": "all", "seconds": 60, "ohms": {"text": ohms, "unit": unit}}


@pytest.mark.parametrize("bench", BENCHES)
def test_schema_and_case_for_every_bench(api: Door, pump_set: PumpSet, bench: str) -> None:
    vic = api("vic")
    status, schema = vic("GET", f"/benches/{bench}/schema")
    assert status == 200
    models = [schema, *schema.get("$defs", {}).values()]
    assert any("x-entered" in p for m in models for p in m.get("properties", {}).values())
    status, case = vic("GET", f"/benches/{bench}/case/{pump_set.pk}")
    assert (status, case["context"]["tag"]) == (200, "C-1")
    assert {a: o["offered"] for a, o in case["offers"].items()} != {} or not find_bench(bench).act
    assert vic("GET", f"/benches/{bench}/case/999999")[0] == 404
    assert api("stranger")("GET", f"/benches/{bench}/case/{pump_set.pk}")[0] == 404
    assert api("nobody")("GET", f"/benches/{bench}/schema")[0] == 401


@pytest.mark.parametrize("bench", BENCHES)
def test_a_viewer_may_try_figures_and_nothing_is_kept(api: Door, pump_set: PumpSet, bench: str) -> None:
    status, answer = api("vic")("POST", f"/benches/{bench}/evaluate", body(pump_set))
    assert status == 200
    assert answer["bench"] == bench
    assert answer["findings"] == []
    assert Sheet.objects.count() == Entry.objects.count() == Record.objects.count() == 0


@pytest.mark.parametrize("bench", BENCHES)
@pytest.mark.parametrize(
    "broken",
    [
        {},
        {"set_id": "x", "entries": []},
        {"set_id": 1},
        {"set_id": 1, "entries": [{}]},
        {"set_id": 1, "entries": [{"uuid": "short", "taken_at": "never", "body": {}}]},
    ],
)
def test_a_request_of_no_shape_is_told_the_field(
    api: Door, pump_set: PumpSet, bench: str, broken: dict[str, Any]
) -> None:
    status, answer = api("tia")("POST", f"/benches/{bench}/evaluate", broken)
    assert (status, answer["code"]) == (422, "input_wrong")
    assert all(p["field"] for p in answer["problems"])


@pytest.mark.parametrize("bench", BENCHES)
def test_an_empty_sheet_is_not_put_on_record(api: Door, pump_set: PumpSet, bench: str) -> None:
    request = {**body(pump_set), "sheet": str(uuid.uuid4())}
    status, answer = api("tia")("POST", f"/benches/{bench}/records", request)
    assert (status, answer["code"]) == (422, "sheet_empty")


def test_insulation_is_judged_while_typed_and_in_the_readers_units(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    request = body(pump_set, kind="setup", test_point="motor", winding={"text": "104", "unit": "degF"})
    request["entries"] += body(pump_set, **reading("500"))["entries"]
    answer = tia("POST", "/benches/insulation/evaluate", request)[1]
    assert answer["values"]["at40"]["shown"] == "500\u00a0MΩ"
    assert {m["field"] for m in answer["missing"]} >= {"links", "phases", "test_volts", "ambient", "humidity"}
    assert answer["view"]["paper"]["curves"][0]["points"][0]["value"]["shown"] == "500\u00a0MΩ"
    assert answer["parts"] == [{"part": "motor", "verdict": answer["verdict"]}]
    assert answer["due"]["reason"].startswith("Test again within")  # how it was tested was not entered
    assert {"ins.links", "ins.phases", "ins.test_volts", "ins.arresters"} <= set(
        answer["findings"][0]["lacks"]
    )
    tia("PATCH", "/me", {"units": {"temperature": "degF"}})
    working = tia("POST", "/benches/insulation/evaluate", request)[1]["findings"][0]["working"][0]
    assert "104\u00a0°F" in working


@pytest.mark.parametrize(
    ("entry", "code", "field"),
    [
        ({"kind": "setup", "winding": {"text": "400", "unit": "degC"}}, "too_high", "winding"),
        ({"kind": "setup", "humidity": {"text": "130", "unit": "%"}}, "too_high", "humidity"),
        ({"kind": "setup", "test_volts": {"text": "5", "unit": "V"}}, "too_low", "test_volts"),
        ({"kind": "setup", "drive_off": False}, "drive_connected", "drive_off"),
    ],
)
def test_a_setup_that_cannot_be_is_refused_by_field(
    api: Door, pump_set: PumpSet, entry: dict[str, Any], code: str, field: str
) -> None:
    tia, sheet_id = api("tia"), str(uuid.uuid4())
    request = body(pump_set, **entry)
    request["entries"] += body(pump_set, **reading("500"))["entries"]
    told = tia("POST", "/benches/insulation/evaluate", request)[1]["problems"]
    assert [(p["code"], p["field"]) for p in told] == [(code, field)]
    assert (
        tia("POST", "/benches/insulation/records", {**request, "sheet": sheet_id})[1]["code"]
        == "figures_refused"
    )
    assert Record.objects.count() == 0


def test_built_in_electronics_on_the_plate_refuse_the_test(
    api: Door, people: dict[str, User], pump_set: PumpSet
) -> None:
    motor = pump_set.fittings.get(slot="motor").component
    new_plate(
        people["ada"],
        motor.pk,
        motor.plate_version,
        {**motor.plate, "built_in_electronics": True},
        "looked again",
    )
    status, answer = api("tia")(
        "POST",
        "/benches/insulation/records",
        {**body(pump_set, **reading("900")), "sheet": str(uuid.uuid4())},
    )
    assert (status, answer["problems"][0]["code"]) == (422, "built_in_electronics")


def test_a_corrected_insulation_test_keeps_its_time_and_both_stay(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    first = {**body(pump_set, **reading("9")), "sheet": str(uuid.uuid4())}
    first["entries"][0]["taken_at"] = (now() - timedelta(days=9)).isoformat()
    old = tia("POST", "/benches/insulation/records", first)[1]["record"]
    second = {**body(pump_set, **reading("900")), "sheet": str(uuid.uuid4()), "corrects": old, "reason": ""}
    assert tia("POST", "/benches/insulation/records", second)[1]["code"] == "reason_missing"
    new = tia("POST", "/benches/insulation/records", {**second, "reason": "wrong range"})[1]["record"]
    before, after = Record.objects.get(pk=old), Record.objects.get(pk=new)
    assert (before.live, after.live, after.taken_at) == (False, True, before.taken_at)
    assert tia("GET", f"/records/{old}")[1]["superseded_by"] == new
    assert tia("GET", f"/records/{new}")[1]["body"]["readings"][0]["ohms"]["text"] == "900"
    assert (
        tia("POST", "/benches/insulation/records", {**second, "sheet": str(uuid.uuid4()), "reason": "again"})[
            0
        ]
        == 409
    )


def test_a_record_of_another_bench_is_neither_corrected_nor_answered_for(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    """Else a stop of one bench would end by a good of another."""
    tia, check = api("tia"), sheet(pump_set, amps=(24, 24.1, 24))
    old = tia("POST", "/benches/running_check/records", check)[1]["record"]
    good = {**body(pump_set, **reading("900")), "sheet": str(uuid.uuid4()), "corrects": old, "reason": "no"}
    assert tia("POST", "/benches/insulation/records", good)[1]["code"] == "not_found"
    assert Record.objects.get(pk=old).live
    assert tia("GET", f"/sites/{site.pk}/plant")[1]["services"][0]["sets"][0]["verdict"] != "good"
    under = {**body(pump_set, **reading("900")), "sheet": check["sheet"]}
    assert tia("POST", "/benches/insulation/records", under)[1]["code"] == "sheet_id_used"
    assert Record.objects.count() == 1


@pytest.mark.parametrize("bench", sorted(b.name for b in benches()))
def test_an_open_sheet_of_another_bench_is_not_put_on_record_by_this_one(
    api: Door, pump_set: PumpSet, bench: str
) -> None:
    tia, open_ = api("tia"), Safe(api("tia"), pump_set)
    open_.do("open", scope="motor_leads", sources=LINES)
    request = {"set_id": pump_set.pk, "sheet": open_.sheet, "entries": []}
    status, told = tia("POST", f"/benches/{bench}/records", request)
    if bench == "make_safe":
        assert status == 422, "its own is asked for what is wanting"
    else:
        assert (status, told["code"]) == (409, "sheet_id_used")
    assert Sheet.objects.get(pk=open_.sheet).closed_at is None


def test_one_entry_belongs_to_one_sheet(api: Door, pump_set: PumpSet) -> None:
    tia, entry = api("tia"), body(pump_set, **reading("900"))["entries"][0]
    a, b = str(uuid.uuid4()), str(uuid.uuid4())
    assert (
        tia("POST", f"/benches/insulation/sheets/{a}/entries", {"set_id": pump_set.pk, "entries": [entry]})[0]
        == 200
    )
    status, answer = tia(
        "POST", f"/benches/insulation/sheets/{b}/entries", {"set_id": pump_set.pk, "entries": [entry]}
    )
    assert (status, answer["code"]) == (409, "entry_id_used")
    assert not Sheet.objects.filter(pk=b).exists()


def test_rules_and_limits_of_every_bench_are_on_the_rules_page(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    told = api("vic")("GET", f"/sites/{site.pk}/rules")[1]
    limits = {x["id"]: x for x in told["limits"]}
    assert limits["insulation.minimum_low_volt"]["shown"] == "5\u00a0MΩ"
    assert limits["insulation.minimum_low_volt"]["source"] == "IEEE 43-2013 table 3"
    assert limits["insulation.minimum_low_volt"]["from_memory"]
    assert any(s["id"] == "insulation.correction" for s in told["schools"])
    table = next(t for t in told["tables"] if t["id"] == "insulation.test_volts")
    assert table["columns"] == ["nameplate voltage up to, V", "from, V", "to, V"]
    assert table["rows"][0] == ["999", "500", "500"]
    assert table["rows"][-1][0] == "any"
    assert (table["source"], table["from_memory"]) == ("IEEE 43-2013 table 1", True)
    assert {r["id"] for r in told["rules"]} >= {
        "insulation",
        "insulation_past",
        "absorption",
        "polarisation",
        "dew_point",
        "load",
    }
    # Every row is under a topic of the list; a rule that uses a limit twice names it once.
    topics = {t["key"] for t in told["topics"]}
    rows = [r for rows in ("rules", "limits", "tables", "schools") for r in told[rows]]
    assert {r["topic"] for r in rows} == topics
    assert (table["topic"], limits["trend.chance"]["topic"]) == ("electrical/insulation", "logbook")
    assert [r["id"] for r in told["rules"] if len(set(r["limits"])) != len(r["limits"])] == []
    winding = next(r for r in told["rules"] if r["id"] == "insulation")
    assert winding["limits"] == ["insulation.minimum_low_volt", "insulation.near_times"]
    assert [t["shown"] for t in winding["ticks"]] == ["5\u00a0MΩ", "15\u00a0MΩ"]


def test_a_lead_moves_the_minimum_and_it_shows_where_it_is_used(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    leo = api("leo")
    made = {"limit": "insulation.minimum_low_volt", "value": 20, "unit": "MOhm", "reason": "sea air"}
    assert api("tia")("POST", f"/sites/{site.pk}/overrides", made)[0] == 403
    assert leo("POST", f"/sites/{site.pk}/overrides", made)[0] == 201
    request = body(pump_set, kind="setup", winding={"text": "40", "unit": "degC"})
    request["entries"] += body(pump_set, **reading("15"))["entries"]
    finding = next(
        f
        for f in leo("POST", "/benches/insulation/evaluate", request)[1]["findings"]
        if f["question"] == "insulation"
    )
    assert finding["verdict"] == "stop"
    told = next(x for x in finding["limits"] if x["id"] == "insulation.minimum_low_volt")
    assert (told["shown"], told["published"], told["override"]["reason"]) == (
        "20\u00a0MΩ",
        "5\u00a0MΩ",
        "sea air",
    )


def test_a_drives_set_wants_its_drive_off(api: Door, people: dict[str, User], pump_set: PumpSet) -> None:
    control = pump_set.fittings.get(slot="control").component
    Component.objects.filter(pk=control.pk).update(kind="drive")
    tia = api("tia")
    request = body(pump_set, **reading("900"))
    assert tia("POST", "/benches/insulation/evaluate", request)[1]["problems"][0]["code"] == "drive_connected"
    request["entries"] += body(pump_set, kind="setup", drive_off=True)["entries"]
    assert tia("POST", "/benches/insulation/evaluate", request)[1]["problems"] == []


def test_two_entries_under_one_id_are_refused_and_one_sent_twice_is_one(api: Door, pump_set: PumpSet) -> None:
    tia, at = api("tia"), f"/benches/insulation/sheets/{uuid.uuid4()}/entries"
    first = body(pump_set, **reading("900"))
    other = {**first["entries"][0], "body": reading("0.4")}
    both = {**first, "entries": [*first["entries"], other], "sheet": str(uuid.uuid4())}
    for path in ("/benches/insulation/evaluate", "/benches/insulation/records", at):
        status, told = tia("POST", path, both)
        assert (status, told["code"]) == (422, "entry_twice"), path
    assert Entry.objects.count() == 0
    twice = {**first, "entries": [*first["entries"], *first["entries"]]}
    assert tia("POST", at, twice)[0] == 200
    assert Entry.objects.count() == 1


def test_no_client_says_of_its_own_reading_that_it_came_too_late(api: Door, pump_set: PumpSet) -> None:
    """It would stay out of the judgement of the save, and count in every later one."""
    tia = api("tia")
    over = sheet(pump_set, (24, 24.1, 23.9))
    over["entries"][0] |= {"late": True, "by": "Somebody Else", "who": "leo"}
    assert tia("POST", "/benches/running_check/evaluate", {**over, "sheet": None})[1]["verdict"] == "act"
    assert tia("POST", "/benches/running_check/records", over)[1]["evaluation"]["verdict"] == "act"
    request = {**body(pump_set, **reading("900")), "sheet": str(uuid.uuid4())}
    request["entries"] += body(pump_set, **{**reading("0.4"), "seconds": 120})["entries"]
    request["entries"][1]["late"] = True
    fell = tia("POST", "/benches/insulation/evaluate", request)[1]
    saved = tia("POST", "/benches/insulation/records", request)[1]["evaluation"]
    assert fell["verdict"] == saved["verdict"] != "good"
    kept = Record.objects.latest("pk").body["readings"]
    assert [r["seconds"] for r in kept] == [60, 120]
    assert set(Entry.objects.values_list("by__username", "late")) == {("tia", False)}


def test_a_running_check_is_still_one_entry(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert (
        tia(
            "POST",
            f"/benches/running_check/sheets/{uuid.uuid4()}/entries",
            {"set_id": pump_set.pk, "entries": []},
        )[0]
        == 404
    )
    saved = tia("POST", "/benches/running_check/records", sheet(pump_set))[1]
    assert set(saved["evaluation"]["view"]) == {"marks", "advice", "plate"}


def _shapes() -> Iterator[tuple[str, str]]:
    """Every shape that an operation takes or gives, by its name, as it is described."""
    for _, router in api_of_all._routers:
        for view in router.path_operations.values():
            for operation in view.operations:
                models = [*operation.models, *filter(None, operation.response_models.values())]
                for model in (m for m in models if isinstance(m, type) and issubclass(m, BaseModel)):
                    told = model.model_json_schema(mode="serialization")
                    yield from ((n, json.dumps(d, sort_keys=True)) for n, d in told.get("$defs", {}).items())


def test_no_two_shapes_of_the_api_share_a_name() -> None:
    """In the description of the API a shape goes by its name alone: of two, one takes the other's place."""
    told: dict[str, set[str]] = {}
    for name, shape in _shapes():
        told.setdefault(name, set()).add(shape)
    assert len(told) > 100
    assert sorted(n for n, shapes in told.items() if len(shapes) > 1) == []
