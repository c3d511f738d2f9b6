"""Open sheets: entries from several devices, once each; closed to a record or left; late ones kept."""

from __future__ import annotations

import threading
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from conftest import Api
from django.db import connection

from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Entry, PartState, Point, Record, Sheet
from hurbin_server.plant.models import PumpSet
from hurbin_server.plant.services.parts import fit, make_component, new_plate

Door = Callable[[str], Api]
SAVE = "/benches/insulation/records"


def entry(after: float = 0, device: str = "phone", **body: Any) -> dict[str, Any]:
    at = now() - timedelta(minutes=30) + timedelta(seconds=after)
    return {"uuid": str(uuid.uuid4()), "taken_at": at.isoformat(), "device": device, "body": body}


def setup(**more: Any) -> dict[str, Any]:
    body = {
        "kind": "setup",
        "test_point": "motor",
        "links": "in",
        "phases": "together",
        "test_volts": {"text": "500", "unit": "V"},
        "arresters_off": True,
        "winding": {"text": "20", "unit": "degC"},
        "ambient": {"text": "20", "unit": "degC"},
        "humidity": {"text": "50", "unit": "%"},
    }
    return entry(-60, **{**body, **more})


def reading(seconds: float, ohms: str, device: str = "phone") -> dict[str, Any]:
    return entry(
        seconds, device, kind="reading", leg="all", seconds=seconds, ohms={"text": ohms, "unit": "MOhm"}
    )


def append(api: Api, row: PumpSet, sheet: str, *entries: dict[str, Any]) -> tuple[int, Any]:
    return api(
        "POST", f"/benches/insulation/sheets/{sheet}/entries", {"set_id": row.pk, "entries": list(entries)}
    )


def test_two_devices_fill_one_sheet_and_one_closes_it(api: Door, pump_set: PumpSet) -> None:
    sheet, tia, leo = str(uuid.uuid4()), api("tia"), api("leo")
    first = setup()
    assert append(tia, pump_set, sheet, first, reading(30, "600"))[0] == 200
    assert append(tia, pump_set, sheet, first)[0] == 200
    status, body = append(leo, pump_set, sheet, reading(60, "800", "tablet"))
    assert status == 200
    assert [e["by"] for e in body["entries"]] == ["Tia", "Tia", "Leo"]
    assert [s["uuid"] for s in leo("GET", f"/benches/insulation/sheets?set_id={pump_set.pk}")[1]] == [sheet]
    status, saved = tia("POST", SAVE, {"set_id": pump_set.pk, "sheet": sheet, "entries": []})
    assert status == 201, saved
    assert saved["evaluation"]["values"]["at40"]["shown"] == "200\u00a0MΩ"
    assert Record.objects.get().body["readings"][1] == {
        "leg": "all",
        "seconds": 60,
        "ohms": {"text": "800", "unit": "MOhm"},
    }
    assert leo("GET", f"/benches/insulation/sheets?set_id={pump_set.pk}")[1] == []
    assert tia("POST", SAVE, {"set_id": pump_set.pk, "sheet": sheet, "entries": []})[0] == 200


def test_late_entries_are_kept_beside_the_record_and_change_nothing(api: Door, pump_set: PumpSet) -> None:
    sheet, tia = str(uuid.uuid4()), api("tia")
    tia("POST", SAVE, {"set_id": pump_set.pk, "sheet": sheet, "entries": [setup(), reading(60, "800")]})
    status, body = append(tia, pump_set, sheet, reading(60, "3"))
    assert status == 200
    assert [e["late"] for e in body["entries"]] == [False, False, True]
    assert body["record"] == Record.objects.get().pk
    from hurbin_server.logbook.services.judging import rejudge_all

    assert rejudge_all()[1] == []


def test_leaving_a_sheet_needs_a_reason(api: Door, pump_set: PumpSet) -> None:
    sheet, tia = str(uuid.uuid4()), api("tia")
    append(tia, pump_set, sheet, setup())
    assert tia("POST", f"/sheets/{sheet}/leave", {"reason": " "})[0] == 422
    status, body = tia("POST", f"/sheets/{sheet}/leave", {"reason": "rain"})
    assert (status, body["left_because"], len(body["entries"])) == (200, "rain", 1)
    assert tia("POST", f"/sheets/{sheet}/leave", {"reason": "again"})[0] == 409
    assert tia("POST", SAVE, {"set_id": pump_set.pk, "sheet": sheet, "entries": [reading(60, "5")]})[0] == 409


def test_who_may_and_what_is_refused(api: Door, people: dict[str, User], pump_set: PumpSet) -> None:
    sheet = str(uuid.uuid4())
    assert append(api("vic"), pump_set, sheet, setup())[0] == 403
    assert append(api("stranger"), pump_set, sheet, setup())[0] == 404
    assert append(api("nobody"), pump_set, sheet, setup())[0] == 401
    assert append(api("tia"), pump_set, "short", setup())[0] == 422
    assert append(api("tia"), pump_set, sheet, entry(7200, kind="setup"))[0] == 422
    append(api("tia"), pump_set, sheet, setup())
    other = PumpSet.objects.create(
        site=pump_set.site, service=pump_set.service, tag="C-9", name="x", kind="base_mounted"
    )
    assert append(api("tia"), other, sheet, setup())[0] == 409
    assert api("stranger")("GET", f"/sheets/{sheet}")[0] == 404
    assert api("vic")("GET", f"/sheets/{sheet}")[0] == 200


@pytest.mark.django_db(transaction=True)
def test_four_devices_at_once_lose_nothing(people: dict[str, User], pump_set: PumpSet) -> None:
    sheet, said = str(uuid.uuid4()), []

    def send(n: int) -> None:
        said.append(append(Api(people["tia"]), pump_set, sheet, reading(10 + n, str(500 + n), f"d{n}"))[0])
        connection.close()

    threads = [threading.Thread(target=send, args=(n,)) for n in range(4)]
    [t.start() for t in threads]
    [t.join() for t in threads]
    assert said == [200] * 4
    assert Entry.objects.filter(sheet_id=sheet).count() == 4


def test_running_strip_until_the_discharge_is_done(api: Door, pump_set: PumpSet) -> None:
    sheet, tia = str(uuid.uuid4()), api("tia")
    append(tia, pump_set, sheet, setup(), entry(0, kind="start", leg="all"))
    clock = tia("GET", "/sheets/running")[1][0]["clocks"][0]
    assert clock["ended_at"] is None
    assert [m["second"] for m in clock["marks"][:4]] == [15, 30, 45, 60]
    append(tia, pump_set, sheet, entry(65, kind="end", leg="all"))
    assert tia("GET", "/sheets/running")[1][0]["clocks"][0]["discharge_until"] is not None
    append(tia, pump_set, sheet, entry(400, kind="discharged", leg="all"))
    assert tia("GET", "/sheets/running")[1] == []
    assert api("vic")("GET", "/sheets/running")[1] == []


def test_next_test_date_makes_the_part_overdue_and_a_swap_closes_it(
    api: Door, people: dict[str, User], pump_set: PumpSet
) -> None:
    tia = api("tia")
    body = [setup(), reading(30, "600"), reading(60, "900")]
    tia("POST", SAVE, {"set_id": pump_set.pk, "sheet": str(uuid.uuid4()), "entries": body})
    state = PartState.objects.get(pump_set=pump_set, part="motor")
    assert state.verdict == "good"
    assert (state.due - state.taken_at).days == 365  # type: ignore[operator]
    spare = make_component(people["ada"], pump_set.site_id, "motor", "spare")
    new_plate(people["ada"], spare.pk, 0, pump_set.fittings.get(slot="motor").component.plate, "same")
    fit(people["ada"], pump_set.pk, "motor", spare.pk, now() - timedelta(seconds=1), "burnt")
    assert not PartState.objects.filter(pump_set=pump_set, part="motor").exists()
    assert Point.objects.filter(series__component=spare).count() == 0
    assert Sheet.objects.count() == 1


def test_a_rewind_parts_the_series_and_leaves_a_stop_until_it_is_tested(api: Door, pump_set: PumpSet) -> None:
    tia, where = api("tia"), f"/sets/{pump_set.pk}/events"
    tia(
        "POST",
        SAVE,
        {"set_id": pump_set.pk, "sheet": str(uuid.uuid4()), "entries": [setup(), reading(60, "3")]},
    )
    assert PartState.objects.get(pump_set=pump_set, part="motor").verdict == "stop"
    body = {"kind": "rewind", "at": now().isoformat(), "note": "rewound"}
    assert api("vic")("POST", where, body)[0] == 403
    assert tia("POST", where, {**body, "kind": "magic"})[1]["code"] == "event_unknown"
    assert tia("POST", where, {**body, "note": " "})[1]["code"] == "note_missing"
    assert (
        tia("POST", where, {**body, "at": (now() + timedelta(days=1)).isoformat()})[1]["code"]
        == "event_in_future"
    )
    assert tia("POST", where, body)[0] == 201
    assert PartState.objects.get(pump_set=pump_set, part="motor").verdict == "stop"  # a repair is no proof
    tested = [{**e, "taken_at": now().isoformat()} for e in (setup(), reading(60, "900"))]
    assert tia("POST", SAVE, {"set_id": pump_set.pk, "sheet": str(uuid.uuid4()), "entries": tested})[0] == 201
    assert PartState.objects.get(pump_set=pump_set, part="motor").verdict == "good"
    assert tia("GET", f"/sets/{pump_set.pk}/history")[1]["events"][0]["kind"] == "rewind"
    case = tia("GET", f"/benches/insulation/case/{pump_set.pk}")[1]
    assert [c["kind"] for c in case["context"]["cuts"]] == ["rewind"]


def test_trend_of_insulation_has_its_log_axis_floor_and_forecast(
    api: Door, people: dict[str, User], pump_set: PumpSet
) -> None:
    from hurbin_server.logbook.services.saving import save_record

    for n, ohms in enumerate((">10000", "6000", "3000", "1400", "700", "300", "140")):
        at = now() - timedelta(days=360 - 50 * n)
        rows = [{**setup(), "taken_at": at}, {**reading(60, ohms), "taken_at": at}]
        if n == 3:
            rows[0]["body"]["test_volts"] = {"text": "250", "unit": "V"}
        save_record(people["tia"], pump_set.pk, "insulation", str(uuid.uuid4()), rows)
    found = [
        t for t in api("tia")("GET", f"/sets/{pump_set.pk}/trends")[1] if t["measurand"] == "insulation_40"
    ]
    main, apart = found
    assert (main["log"], main["floor"], main["total"]) == (True, True, 6)
    assert main["limits"] == [{"label": "minimum", "value": 5.0}]
    assert main["points"][0]["bound"] == "at_least"
    assert "Falling" in main["says"]
    assert len(main["path"]) == 5
    assert apart["differs"] == "250 V"
