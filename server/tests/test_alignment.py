"""Alignments kept, trended, corrected, and brought in and out as files."""

from __future__ import annotations

import json
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

from conftest import Api
from django.core.files.uploadedfile import SimpleUploadedFile

from hurbin_server.base.clock import now
from hurbin_server.logbook.models import PartState, Point, Record
from hurbin_server.logbook.services import importing
from hurbin_server.plant.models import PumpSet, Site

Door = Callable[[str], Api]
SAVE = "/benches/alignment/records"


def mm(text: str) -> dict[str, str]:
    return {"text": text, "unit": "mm"}


def sheet(row: PumpSet, up: str = "0.02", days_ago: float = 0, **more: Any) -> dict[str, Any]:
    body: dict[str, Any] = {
        "method": "straightedge",
        "near_ambient": True,
        "speed": {"text": "1475", "unit": "rpm"},
        "face_diameter": mm("150"),
        "x_front": mm("200"),
        "x_rear": mm("500"),
    }
    body |= {"step_12": mm(up), "step_6": mm(f"-{up}"), "step_3": mm("0"), "step_9": mm("0")} | {
        f"gap_{k}": mm("3.1") for k in (12, 3, 6, 9)
    }
    entry = {
        "uuid": str(uuid.uuid4()),
        "taken_at": (now() - timedelta(days=days_ago)).isoformat(),
        "device": "test",
        "body": {**body, **more.pop("body", {})},
    }
    return {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": [entry], **more}


def test_visits_are_trended_as_found_against_as_found(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    for days, up in ((700, "0.02"), (400, "0.06"), (100, "0.11")):
        status, saved = tia("POST", SAVE, sheet(pump_set, up, days))
        assert status == 201, saved
    assert (
        tia(
            "POST",
            SAVE,
            sheet(
                pump_set,
                "0.00",
                99,
                body={"taken": "as_left", "tight": True, "step_12": mm("0"), "step_6": mm("0")},
            ),
        )[0]
        == 201
    )
    trends = {(t["measurand"], t["conditions"]): t for t in tia("GET", f"/sets/{pump_set.pk}/trends")[1]}
    offsets = [t for (m, _), t in trends.items() if m == "align_offset_v"]
    assert len(offsets) == 2
    assert sorted(
        Point.objects.filter(
            series__measurand="align_offset_v", series__conditions__contains="taken=as_found"
        ).values_list("value", flat=True)
    ) == [0.02, 0.06, 0.11]
    assert PartState.objects.get(pump_set=pump_set, part="coupling").verdict in ("good", "watch")


def test_a_pass_that_cannot_be_is_refused_and_one_is_corrected(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    status, said = tia("POST", SAVE, sheet(pump_set, body={"x_rear": mm("150")}))
    assert (status, said["problems"][0]["field"], said["problems"][0]["code"]) == (
        422,
        "x_rear",
        "feet_in_front",
    )
    assert api("vic")("POST", SAVE, sheet(pump_set))[0] == 403
    assert api("stranger")("POST", SAVE, sheet(pump_set))[0] == 404
    first = tia("POST", SAVE, sheet(pump_set, "0.20", 3))[1]
    assert first["evaluation"]["verdict"] == "act"
    assert {s["view"]: s["known"] for s in first["evaluation"]["view"]["shafts"]} == {
        "side": True,
        "top": True,
    }
    again = tia(
        "POST",
        SAVE,
        sheet(pump_set, "0.02", corrects=first["record"], reason="thousandths read as hundredths"),
    )
    assert again[0] == 201
    assert Record.objects.filter(live=True).count() == 1
    answer = tia.client.get(f"/api/v1/records/{again[1]['record']}/certificate.pdf")
    assert answer.status_code == 200
    assert answer.content.startswith(b"%PDF")


def test_old_alignments_go_out_and_come_in_as_a_file(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    tia("POST", SAVE, sheet(pump_set, "0.05", 30))
    text = tia.client.get(f"/api/v1/sets/{pump_set.pk}/readings/alignment.csv").content
    assert b"step_12" in text
    Record.objects.all().update(live=False)
    Point.objects.all().delete()
    head = (
        "tag,taken_at,method,speed|rpm,face_diameter|mm,"
        "step_12|mm,step_3|mm,step_6|mm,step_9|mm,gap_12|mm,gap_3|mm,gap_6|mm,gap_9|mm\n"
    )
    row = "C-1,2024-02-03T10:00:00Z,straightedge,1475,150,0.05,flush,-0.05,0,3.1,3.1,3.1,3.1\n"
    sent = tia.client.post(
        f"/api/v1/sites/{site.pk}/readings/imports",
        {"bench": "alignment", "file": SimpleUploadedFile("old.csv", (head + row).encode())},
    )
    assert sent.status_code == 201, sent.content
    job = sent.json()["id"]
    importing.run(job)
    assert tia("GET", f"/readings/imports/{job}")[1]["taken"] == 1
    tia("POST", f"/readings/imports/{job}/write")
    importing.run(job)
    assert (
        Point.objects.filter(series__measurand="align_offset_v").values_list("value", flat=True).get() == 0.05
    )


def test_a_file_signs_for_nobody_but_its_sender(api: Door, site: Site, pump_set: PumpSet) -> None:
    """What Tia measured, sent by Leo as a file of records: it is named as the file's word."""
    found = sheet(pump_set, "0.05")["entries"][0]["body"]
    left = {**found, "taken": "as_left", "tight": True, "step_12": mm("0"), "step_6": mm("0")}
    log = [
        {"at": f"2024-02-03T10:{n}0:00+00:00", "by": "Tia", "body": b} for n, b in enumerate((found, left))
    ]
    told = {"tag": "C-1", "bench": "alignment", "taken_at": "2024-02-03T10:00:00Z", "facts": {"log": log}}
    raw = json.dumps([told])

    def bring(raw: str) -> dict[str, Any]:
        leo = api("leo")
        file = SimpleUploadedFile("old.json", raw.encode())
        path = f"/api/v1/sites/{site.pk}/readings/imports"
        job = leo.client.post(path, {"bench": "alignment", "file": file}).json()["id"]
        importing.run(job)
        leo("POST", f"/readings/imports/{job}/write")
        importing.run(job)
        told: dict[str, Any] = leo("GET", f"/readings/imports/{job}")[1]
        return told

    assert bring(raw)["taken"] == 1
    brought = Record.objects.get()
    said = json.dumps(brought.body)
    assert "Tia (by a file)" in said
    assert '"Tia"' not in said
    assert brought.by.full_name == "Leo"
    assert bring(raw)["there"] == 1, "the same file again is the same record"
