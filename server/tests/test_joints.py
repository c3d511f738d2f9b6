"""Scans at the door: kept place by place, a thermal picture read, findings that stay apart."""

from __future__ import annotations

import json
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

from conftest import Api
from django.core.files.uploadedfile import SimpleUploadedFile
from safe_sheets import Safe, safety

from hurbin_server.base.clock import now
from hurbin_server.logbook.models import Answer
from hurbin_server.plant.models import PumpSet

Door = Callable[[str], Api]


SAID: dict[str, Any] = {
    "seen": "nothing",
    "steady": "yes",
    "surface": "tape",
    "rating": "75",
    "ambient": {"text": "30", "unit": "degC"},
    "distance": {"text": "150", "unit": "mm"},
    "ratio": {"text": "12", "unit": "1"},
    "width": {"text": "16", "unit": "mm"},
}


def _spots(**temps: tuple[float, float, float]) -> list[dict[str, Any]]:
    return [
        {"at": f"{rung.replace('_', '.')}.{leg}", "temp": {"text": str(t), "unit": "degC"}}
        for rung, three in temps.items()
        for leg, t in enumerate(three, 1)
    ]


def scanned(api: Api, row: PumpSet, spots: list[dict[str, Any]], minutes_ago: float = 1, **more: Any) -> Any:
    body = {**SAID, "spots": spots, **{f"amps_{n}": {"text": "15"} for n in (1, 2, 3)}, **more}
    entry = {
        "uuid": str(uuid.uuid4()),
        "taken_at": (now() - timedelta(minutes=minutes_ago)).isoformat(),
        "device": "phone",
        "body": body,
    }
    asked = {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": [entry]}
    return api("POST", "/benches/joints/records", asked)


def test_a_later_scan_of_one_place_leaves_the_other_finding_standing(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    usual = tia("GET", f"/sets/{pump_set.pk}/circuit")[1]["circuit"]
    assert tia("PUT", f"/sets/{pump_set.pk}/circuit", {"circuit": usual, "expected_version": 0})[0] == 200
    hot = _spots(F_in=(40, 60, 40), K_in=(40, 40, 61))
    assert scanned(tia, pump_set, hot, minutes_ago=30)[0] == 201
    status, answer = scanned(tia, pump_set, _spots(F_in=(40, 40, 40)), minutes_ago=0)
    assert status == 201
    told = {(f["question"], f["subject"]) for f in answer["evaluation"]["findings"]}
    assert ("hot_joint", "F.in") in told
    live = Answer.objects.filter(pump_set=pump_set, question="hot_joint")
    assert {(f.subject, f.verdict) for f in live} == {("F.in", "good"), ("K.in", "act")}


def test_a_load_on_a_set_recorded_as_dead_revokes_the_proof(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    safe = Safe(tia, pump_set)
    safe.isolate()
    safe.prove()
    assert scanned(tia, pump_set, _spots(F_in=(40, 40, 40)))[0] == 201
    assert safety(tia, pump_set)["isolation"]["state"] == "live"


def test_a_place_that_is_none_is_refused_by_its_name(api: Door, pump_set: PumpSet) -> None:
    status, answer = scanned(api("tia"), pump_set, _spots(Q_in=(40, 40, 40)))
    assert (status, answer["problems"][0]["field"]) == (422, "temp:Q.in.1")
    assert "This circuit has no point Q.in.1" in answer["detail"]


def test_a_thermal_picture_is_read_and_what_is_none_is_refused(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")

    def sent(raw: bytes) -> tuple[int, Any]:
        file = SimpleUploadedFile("scan.csv", raw, content_type="text/csv")
        got = tia.client.post("/api/v1/joints/grid", {"file": file})
        return got.status_code, json.loads(got.content)

    status, answer = sent(b"30,1;30,2\n30,3;71,4")
    assert status == 200, answer
    assert answer["picture"]["high"] == 71.4
    assert (answer["columns"], answer["rows"]) == (2, 2)
    status, answer = sent(b"30.1,warm\n30.2,30.3")
    assert (status, answer["code"]) == (422, "grid_cell")
    assert "Line 1" in answer["detail"]
