"""How often one person, and one address, may ask for what costs much."""

from __future__ import annotations

from typing import Any

import pytest
from conftest import sheet
from django.test import RequestFactory
from safe_sheets import Door
from test_attachments import attach, photo

from hurbin_server.base import limiting
from hurbin_server.base.limiting import EVALUATE, MOST_SENDERS, UPLOAD, Limit
from hurbin_server.base.models import User
from hurbin_server.plant.models import PumpSet


@pytest.fixture(autouse=True)
def _begun_anew() -> Any:
    for limit in (EVALUATE, UPLOAD):
        limit.clear()
    yield
    for limit in (EVALUATE, UPLOAD):
        limit.clear()


class Clock:
    """Time as the test says."""

    def __init__(self, monkeypatch: pytest.MonkeyPatch) -> None:
        self.now = 1000.0
        monkeypatch.setattr(limiting.time, "monotonic", lambda: self.now)


def asks(limit: Limit, user: User, address: str = "10.0.0.1") -> bool:
    request = RequestFactory(REMOTE_ADDR=address).get("/")
    request.user = user
    return limit.allow_request(request)


def test_so_many_a_minute_and_then_as_they_come_back(
    people: dict[str, User], monkeypatch: pytest.MonkeyPatch
) -> None:
    clock, limit = Clock(monkeypatch), Limit(person=6, address=100)
    assert [asks(limit, people["tia"]) for _ in range(7)] == [True] * 6 + [False]
    assert limit.wait() == 10.0, "six a minute: one in ten seconds"
    assert asks(limit, people["leo"]), "another person at the same address"
    clock.now += 10
    assert [asks(limit, people["tia"]) for _ in range(2)] == [True, False]
    clock.now += 3600
    assert [asks(limit, people["tia"]) for _ in range(7)] == [True] * 6 + [False], "a minute's, no more"


def test_one_address_is_counted_over_its_people(
    people: dict[str, User], monkeypatch: pytest.MonkeyPatch
) -> None:
    Clock(monkeypatch)
    limit = Limit(person=100, address=3)
    assert [asks(limit, people[n]) for n in ("tia", "leo", "vic", "ada")] == [True, True, True, False]
    assert asks(limit, people["ada"], "10.0.0.2")


def test_senders_without_end_fill_no_memory(people: dict[str, User], monkeypatch: pytest.MonkeyPatch) -> None:
    Clock(monkeypatch)
    limit = Limit(person=10**6, address=5)
    for n in range(MOST_SENDERS + 500):
        asks(limit, people["tia"], f"10.{n // 65536}.{n // 256 % 256}.{n % 256}")
    assert len(limit._left) == MOST_SENDERS


def test_who_evaluates_too_often_is_told_when_to_come_again(
    api: Door, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    Clock(monkeypatch)
    monkeypatch.setitem(EVALUATE._rates, "person", 3)
    body = {"set_id": pump_set.pk, "entries": sheet(pump_set)["entries"]}
    got = [
        api("tia").client.post("/api/v1/benches/running_check/evaluate", body, "application/json")
        for _ in "1234"
    ]
    assert [g.status_code for g in got] == [200, 200, 200, 429]
    assert got[-1]["Retry-After"] == "20"
    assert got[-1].json()["code"] == "too_often"
    assert api("leo")("POST", "/benches/running_check/evaluate", body)[0] == 200


def test_who_sends_too_many_files_too(api: Door, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch) -> None:
    Clock(monkeypatch)
    monkeypatch.setitem(UPLOAD._rates, "person", 2)
    codes = [attach(api("tia"), pump_set, photo(60 + n, 40))[0] for n in range(3)]
    assert codes == [201, 201, 429]
