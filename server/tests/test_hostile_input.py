"""Values that no device of ours sends: each is refused by name, and none is the server's failure."""

from __future__ import annotations

import json
import threading
import uuid
from typing import Any

import pytest
from conftest import SAVE, Api, sheet
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from safe_sheets import Door
from test_attachments import photo

from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Attachment, Entry
from hurbin_server.plant.models import PumpSet, Site

# Beyond the years, without a zone, at the edge of what UTC can say, and no time at all.
TIMES = [
    "0001-01-01T00:00:00+14:00",
    "9999-12-31T23:59:59-14:00",
    "0000-01-01T00:00:00Z",
    "2026-05-04T10:00:00",
    "10000-01-01T00:00:00Z",
    "1e400",
    "NaN",
    "",
]
DIGITS = "9" * 5000
WORDS = ["x" * 300, "a\r\nSet-Cookie: x=1", "a\x00b", "\ud800", "\u202eabc", "' OR 1=1 --", "<svg onload=x>"]


def refused(got: tuple[int, Any]) -> None:
    assert 400 <= got[0] < 500, got
    assert got[1]["code"]


@pytest.mark.parametrize("at", TIMES)
def test_times_that_cannot_be_are_refused_wherever_they_stand(
    api: Door, site: Site, pump_set: PumpSet, at: str
) -> None:
    ada, tia = api("ada"), api("tia")
    entry = sheet(pump_set)["entries"][0] | {"taken_at": at}
    refused(tia("POST", SAVE, sheet(pump_set) | {"entries": [entry]}))
    refused(ada("POST", f"/sets/{pump_set.pk}/events", {"kind": "overhaul", "at": at, "note": "x"}))
    motor = pump_set.fittings.get(slot="motor").component_id
    refused(
        ada("POST", f"/sets/{pump_set.pk}/fittings", {"slot": "motor", "component_id": motor, "from_at": at})
    )
    refused(ada("POST", f"/sets/{pump_set.pk}/take-off", {"slot": "motor", "at": at}))
    call = {"uuid": str(uuid.uuid4()), "at": at, "complaint": "noise", "room": "cellar"}
    refused(tia("POST", f"/sites/{site.pk}/calls", call))
    change = {"uuid": str(uuid.uuid4()), "at": at, "kind": "jumper", "place": "panel"}
    refused(tia("POST", f"/sets/{pump_set.pk}/changes", change))
    if at:
        refused(tia("GET", f"/changes?since={at.replace('+', '%2B')}"))


@pytest.mark.parametrize(
    "typed", [DIGITS, "1e" + "9" * 400, "NaN", "Infinity", "-" + DIGITS, "1" + "," * 4000]
)
def test_figures_of_any_length_are_refused_or_asked_about(api: Door, pump_set: PumpSet, typed: str) -> None:
    refused(api("tia")("POST", SAVE, sheet(pump_set, amps=(typed, 9, 9))))
    body = sheet(pump_set, amps=(typed, 9, 9))
    seen = {"set_id": pump_set.pk, "entries": body["entries"]}
    status, told = api("tia")("POST", "/benches/running_check/evaluate", seen)
    assert status in (200, 422), told
    assert status == 422 or told["verdict"] != "good"


@pytest.mark.parametrize("value", ["NaN", "Infinity", "-Infinity", DIGITS, "1e999"])
def test_a_limit_is_a_figure(api: Door, pump_set: PumpSet, value: str) -> None:
    raw = f'{{"limit": "lift.wind", "value": {value}, "unit": "m/s", "reason": "x"}}'
    path = f"/api/v1/sites/{pump_set.site_id}/overrides"
    got = api("leo").client.post(path, raw, content_type="application/json")
    assert 400 <= got.status_code < 500, got.content


@pytest.mark.parametrize("words", WORDS)
def test_words_are_one_line_and_not_too_long(api: Door, site: Site, pump_set: PumpSet, words: str) -> None:
    ada = api("ada")
    for tag in (words, "T" * 60):
        body = {"tag": tag, "name": "n", "kind": "vacuum"}
        refused(ada("POST", f"/services/{pump_set.service_id}/sets", body))
    name = {"tag": "N-9", "name": words, "kind": "vacuum"}
    got = ada("POST", f"/services/{pump_set.service_id}/sets", name)
    plain = words in ("' OR 1=1 --", "<svg onload=x>")
    assert got[0] == 201 if plain else 400 <= got[0] < 500, got
    bad = ("T" * 60 + ",vacuum,n", "N-8,vacuum," + "n" * 300, '"a\rb",vacuum,n')
    rows = "service,tag,kind,name\n" + "".join(f"COLD,{x}\n" for x in bad)
    plan = ada("POST", f"/sites/{site.pk}/register.csv", {"text": rows})
    assert plan[0] == 200, plan
    assert (plan[1]["refused"], plan[1]["new"]) == (3, 0)
    assert not PumpSet.objects.filter(tag__startswith="TTT").exists()


def test_one_entry_id_twice_in_a_parcel_is_one_entry_or_refused(api: Door, pump_set: PumpSet) -> None:
    tia, body = api("tia"), sheet(pump_set)
    again = body | {"entries": body["entries"] * 2}
    status, _ = tia("POST", SAVE, again)
    assert status == 201
    assert Entry.objects.filter(uuid=body["entries"][0]["uuid"]).count() == 1
    other = sheet(pump_set)
    two = [
        other["entries"][0],
        {**sheet(pump_set, amps=(3, 3, 3))["entries"][0], "uuid": other["entries"][0]["uuid"]},
    ]
    assert tia("POST", SAVE, other | {"entries": two})[1]["code"] == "entry_twice"


@pytest.mark.parametrize(
    "raw",
    [
        "[" * 100_000,
        "{" * 100_000,
        '{"a":' * 50_000,
        "",
        "null",
        "[]",
        '"x"',
        "\xff\xfe",
        '{"set_id": 1e999}',
    ],
)
def test_a_body_that_is_none_is_refused(api: Door, pump_set: PumpSet, raw: str) -> None:
    for path in (SAVE, f"/sets/{pump_set.pk}/events", "/session"):
        got = api("ada").client.post(f"/api/v1{path}", raw.encode("latin-1"), content_type="application/json")
        assert 400 <= got.status_code < 500, (path, got.content)


@pytest.mark.parametrize("cells", ["x" * 140_000, "a\rb", '"a\rb'])
def test_a_cell_over_131_kb_and_a_return_in_one_are_told(api: Door, site: Site, cells: str) -> None:
    sends = [
        ("parts/file", "code,title,place,count\n"),
        ("vans/file", "van,size,count\n"),
        ("instruments/file", "label,kind\n"),
    ]
    for path, head in sends:
        file = SimpleUploadedFile("x.csv", (head + cells + ",1,2,3\n").encode(), "text/csv")
        got = api("leo").client.post(f"/api/v1/sites/{site.pk}/{path}", {"file": file})
        assert 400 <= got.status_code < 500, (path, got.content)
        assert json.loads(got.content)["code"]


@pytest.mark.django_db(transaction=True)
def test_one_picture_id_six_times_at_once_is_one_picture(pump_set: PumpSet, people: dict[str, User]) -> None:
    key, raw, codes = str(uuid.uuid4()), photo(), []

    def send(n: int) -> None:
        api = Api(people["tia"])
        file = SimpleUploadedFile("x.jpg", raw if n % 2 else photo(colour=10), "image/jpeg")
        path = f"/api/v1/sets/{pump_set.pk}/attachments"
        codes.append(api.client.post(path, {"uuid": key, "file": file}).status_code)
        connection.close()

    threads = [threading.Thread(target=send, args=(n,)) for n in range(6)]
    [t.start() for t in threads]
    [t.join() for t in threads]
    assert set(codes) <= {201, 409, 503}, codes
    assert 201 in codes
    assert Attachment.objects.count() == 1


def test_a_far_future_is_no_reading(api: Door, pump_set: PumpSet) -> None:
    entry = sheet(pump_set)["entries"][0] | {"taken_at": now().replace(year=2099).isoformat()}
    assert api("tia")("POST", SAVE, sheet(pump_set) | {"entries": [entry]})[1]["code"] == "taken_in_future"
