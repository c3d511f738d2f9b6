"""Rows that cannot be: each is named, and the rest goes on."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from conftest import Api
from django.core.files.uploadedfile import SimpleUploadedFile

from hurbin_server.logbook.models import Record
from hurbin_server.logbook.services import importing
from hurbin_server.plant.models import PumpSet, Site

Door = Callable[[str], Api]
HEAD = "tag,taken_at,read_at,valve,coupled,volts_12|V,amps_1|A,note\n"


def line(tag: str = "C-1", at: str = "2024-03-02T09:00:00Z", amps: str = "15", note: str = "") -> str:
    return f"{tag},{at},motor_leads,open,yes,400,{amps},{note}\n"


def brought(api: Api, site: Site, text: str | bytes, name: str = "old.csv") -> tuple[Any, dict[int, Any]]:
    raw = text if isinstance(text, bytes) else text.encode()
    status = api.client.post(
        f"/api/v1/sites/{site.pk}/readings/imports",
        {"bench": "running_check", "file": SimpleUploadedFile(name, raw)},
    )
    assert status.status_code == 201, status.content
    job = status.json()
    importing.run(job["id"])
    told = api("GET", f"/readings/imports/{job['id']}")[1]
    rows = api("GET", f"/readings/imports/{job['id']}/rows")[1]["rows"]
    return told, {r["line"]: r for r in rows}


def written(api: Api, job: Any) -> str:
    assert api("POST", f"/readings/imports/{job['id']}/write")[0] == 200
    return importing.run(job["id"])


@pytest.mark.parametrize(
    ("bad", "says"),
    [
        (line(at="2024-13-45"), "2024-13-45"),
        (line(at="0001-01-01T00:00:00Z"), "0001"),
        (line(at="9999-12-31T23:59:59Z"), "9999"),
        (line(note="x" * 5000), "note"),
        (line(amps="15|bar"), "bar"),
        (line(amps="15|furlong"), "furlong"),
        (line(amps="1e400"), "e400"),
    ],
)
def test_a_row_that_cannot_be_is_named_and_the_rest_goes_on(
    api: Door, site: Site, pump_set: PumpSet, bad: str, says: str
) -> None:
    tia = api("tia")
    good = line(at="2024-03-03T09:00:00Z") + line(at="2024-03-04T09:00:00Z", amps="15.2")
    job, rows = brought(tia, site, HEAD + bad + good)
    assert (job["state"], job["refused"], job["taken"] + job["questioned"]) == ("checked", 1, 2), rows
    assert rows[2]["outcome"] == "refused"
    assert says in rows[2]["says"]
    assert written(tia, job) == "written"
    assert Record.objects.count() == 2


def test_half_a_character_in_a_json_file_is_named(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    facts = {"read_at": "motor_leads", "amps_1": {"text": "15", "unit": "A"}}
    rows = [
        {"tag": "C-1", "taken_at": "2024-03-02T09:00:00Z", "facts": facts | {"note": "half: \ud800"}},
        {"tag": "C-1", "taken_at": "2024-03-03T09:00:00Z", "facts": facts},
        {"tag": "\udfff", "taken_at": "2024-03-04T09:00:00Z", "facts": facts},
        {"tag": "C-1", "taken_at": "2024-13-45", "facts": facts},
    ]
    job, told = brought(tia, site, json.dumps(rows), "old.json")
    assert job["state"] == "checked", job
    assert [told[n]["outcome"] for n in (1, 3, 4)] == ["refused"] * 3
    assert written(tia, job) == "written"
    assert Record.objects.count() == 1


def test_a_corrected_file_of_the_same_rows_is_refused_row_by_row(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    first = HEAD + line() + line(at="2024-03-03T09:00:00Z")
    assert written(tia, brought(tia, site, first)[0]) == "written"
    mended = line(amps="16") + line(at="2024-03-03T09:00:00Z") + line(at="2024-03-04")
    again, rows = brought(tia, site, HEAD + mended)
    assert (again["refused"], again["there"], again["taken"] + again["questioned"]) == (1, 1, 1)
    assert "correct that record" in rows[2]["says"]
    assert written(tia, again) == "written"
    kept = Record.objects.filter(pump_set=pump_set).order_by("taken_at")
    assert [r.body["amps_1"]["text"] for r in kept] == ["15", "15", "15"]


def test_a_register_with_a_refused_row_changes_none_of_its_neighbours(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    text = "service,tag,kind,name\nCOLD,C-1,vacuum,other kind\nCOLD,C-7,base_mounted,new one\n"
    status, told = api("ada")("POST", f"/sites/{site.pk}/register.csv", {"text": text, "write": True})
    assert (status, told["code"]) == (422, "rows_refused")
    assert told["problems"][0]["value"] == "C-1"
    assert not PumpSet.objects.filter(tag="C-7").exists()
    looked = api("ada")("POST", f"/sites/{site.pk}/register.csv", {"text": text, "write": False})[1]
    assert {r["tag"]: r["does"] for r in looked["rows"]} == {"C-1": "refused", "C-7": "new"}
