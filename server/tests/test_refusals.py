"""Every refusal is a problem document that says what happened."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Any

import pytest
from conftest import SAVE, Api, Device
from django.test import Client
from test_sheets import append, reading, setup

from hurbin_server.api import api as described
from hurbin_server.base.models import User
from hurbin_server.logbook import set_state as state_of_set
from hurbin_server.logbook.models import Record
from hurbin_server.plant.models import PumpSet, Site

Door = Callable[[str], Api]


@pytest.fixture
def tia(people: dict[str, User], site: Site) -> Device:
    return Device(people["tia"])


def test_a_second_who_closes_a_shared_sheet_is_told_who_was_first(
    people: dict[str, User], pump_set: PumpSet
) -> None:
    tia, leo, key = Api(people["tia"]), Api(people["leo"]), str(uuid.uuid4())
    append(tia, pump_set, key, setup(), reading(30, "600"), reading(60, "900"))
    sent = {"set_id": pump_set.pk, "sheet": key, "entries": [reading(120, "950")]}
    assert tia("POST", "/benches/insulation/records", {**sent, "entries": []})[0] == 201
    status, told = leo("POST", "/benches/insulation/records", sent)
    assert (status, told["again"], told["by"], told["late"]) == (200, True, "Tia", 1)
    assert Record.objects.count() == 1
    other = str(uuid.uuid4())
    append(tia, pump_set, other, setup())
    assert tia("POST", f"/sheets/{other}/leave", {"reason": "rain"})[0] == 200
    status, told = leo("POST", f"/sheets/{other}/leave", {"reason": "called away"})
    assert (status, told["code"], told["current"]["by"]) == (409, "sheet_closed", "Tia")
    assert "“rain”" in told["detail"]


def test_refusals_are_problem_documents_and_files_have_their_own_kind(
    api: Door, people: dict[str, User], site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia").client
    gone = tia.get("/api/v1/sets/999999")
    assert gone["Content-Type"] == "application/problem+json"
    assert gone.json()["status"] == gone.status_code == 404
    assert gone.json()["type"] == "urn:hurbin:problem:not_found"
    assert tia.get("/api/sets/1")["Content-Type"] == "application/problem+json"
    large = tia.post(SAVE.join(["/api/v1", ""]), "x" * 9_000_000, content_type="application/json")
    assert (large.status_code, large.json()["code"]) == (413, "too_large")
    said = described.get_openapi_schema(path_prefix="/api/v1/")["paths"]
    csv = said["/api/v1/sites/{site_id}/vans.csv"]["get"]["responses"]
    assert list(csv[200]["content"]) == ["text/csv"]
    assert list(csv[404]["content"]) == ["application/problem+json"]
    assert list(said["/api/v1/pictures/{uuid}.jpg"]["get"]["responses"][200]["content"]) == ["image/jpeg"]


def test_what_nobody_foresaw_is_a_problem_document_too(
    people: dict[str, User], site: Site, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    def breaks(*_: Any) -> None:
        raise KeyError("nobody foresaw this")

    monkeypatch.setattr(state_of_set, "set_state", breaks)
    client = Client(raise_request_exception=False)
    client.force_login(people["tia"])
    got = client.get(f"/api/v1/sets/{pump_set.pk}/state")
    assert (got.status_code, got["Content-Type"]) == (500, "application/problem+json")
    assert got.json()["code"] == "failed"
    assert "nobody foresaw" not in got.content.decode()
