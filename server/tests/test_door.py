"""The one door: a parcel is done once, an act is whole or not at all, a read is of one moment."""

from __future__ import annotations

import json
import threading
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from conftest import SAVE, Api, sheet
from django.db import OperationalError, connection, connections
from django.test import Client
from test_sheets import append, reading, setup

from hurbin_server.api import api as described
from hurbin_server.base import door
from hurbin_server.base.clock import now
from hurbin_server.base.models import AuditEntry, Parcel, User, Version
from hurbin_server.logbook import plant_page, querysets
from hurbin_server.logbook.models import Entry, Record
from hurbin_server.plant.models import Event, PumpSet, Site

Door = Callable[[str], Api]


class Device:
    """Somebody's device: what it sends carries an id, and its clock's offset where it measured one."""

    def __init__(self, user: User) -> None:
        self.client = Client()
        self.client.force_login(user)

    def send(self, path: str, body: Any, key: str = "", off: str = "") -> tuple[int, Any]:
        head = {"Idempotency-Key": key or str(uuid.uuid4())} | ({"Device-Clock-Offset": off} if off else {})
        got = self.client.post(
            f"/api/v1{path}", json.dumps(body), content_type="application/json", headers=head
        )
        return got.status_code, json.loads(got.content)


@pytest.fixture
def tia(people: dict[str, User], site: Site) -> Device:
    return Device(people["tia"])


def happened(note: str = "wet to the terminals") -> dict[str, str]:
    return {"kind": "flood", "at": (now() - timedelta(hours=1)).isoformat(), "note": note}


def test_a_parcel_sent_again_is_done_once_and_answered_alike(tia: Device, pump_set: PumpSet) -> None:
    key, said = str(uuid.uuid4()), happened()
    first = tia.send(f"/sets/{pump_set.pk}/events", said, key)
    assert first[0] == 201
    assert tia.send(f"/sets/{pump_set.pk}/events", said, key) == first
    assert Event.objects.filter(kind="flood").count() == 1
    assert tia.send(f"/sets/{pump_set.pk}/events", said)[1] != first[1]


@pytest.mark.parametrize("path", ["/sites/{site}/components", "/sets/{set}/waivers", "/sets/{set}/events"])
def test_what_has_no_id_of_its_own_is_once_by_its_parcel(
    people: dict[str, User], site: Site, pump_set: PumpSet, path: str
) -> None:
    until = (now() + timedelta(hours=4)).isoformat()
    body = {
        "/sites/{site}/components": {"kind": "motor", "label": "spare"},
        "/sets/{set}/waivers": {"gate": "second_reset", "reason": "bench test", "until": until},
        "/sets/{set}/events": happened(),
    }[path]
    ada, key = Device(people["ada"]), str(uuid.uuid4())
    where = path.format(site=site.pk, set=pump_set.pk)
    before = AuditEntry.objects.count()
    first = ada.send(where, body, key)
    assert first[0] == 201, first
    assert ada.send(where, body, key) == first
    assert AuditEntry.objects.count() == before + 1


def test_other_content_under_the_same_id_is_refused_and_nothing_of_it_kept(
    tia: Device, pump_set: PumpSet
) -> None:
    key = str(uuid.uuid4())
    assert tia.send(f"/sets/{pump_set.pk}/events", happened(), key)[0] == 201
    status, told = tia.send(f"/sets/{pump_set.pk}/events", happened("dry after all"), key)
    assert (status, told["code"], told["title"]) == (409, "parcel_differs", "Stands against what is on file")
    assert list(Event.objects.filter(kind="flood").values_list("note", flat=True)) == ["wet to the terminals"]


def test_a_refused_parcel_may_be_mended_and_sent_again(tia: Device, pump_set: PumpSet) -> None:
    key = str(uuid.uuid4())
    assert tia.send(f"/sets/{pump_set.pk}/events", happened(""), key)[0] == 422
    assert not Parcel.objects.exists()
    assert tia.send(f"/sets/{pump_set.pk}/events", happened(), key)[0] == 201


def test_one_persons_id_is_not_anothers(people: dict[str, User], tia: Device, pump_set: PumpSet) -> None:
    key, leo = str(uuid.uuid4()), Device(people["leo"])
    assert tia.send(f"/sets/{pump_set.pk}/events", happened(), key)[0] == 201
    assert leo.send(f"/sets/{pump_set.pk}/events", happened("by Leo"), key)[0] == 201


def test_a_new_password_is_told_once_and_kept_nowhere(people: dict[str, User], site: Site) -> None:
    ada, key = Device(people["ada"]), str(uuid.uuid4())
    body = {"username": "mo", "full_name": "Mo", "role": "viewer", "password": ""}
    status, told = ada.send(f"/sites/{site.pk}/people", body, key)
    assert status == 201
    assert told["password"]
    again = ada.send(f"/sites/{site.pk}/people", body, key)[1]
    assert (again["username"], again.get("password")) == ("mo", None)


@pytest.mark.django_db(transaction=True)
def test_the_same_parcel_twice_at_once_is_done_once(people: dict[str, User], pump_set: PumpSet) -> None:
    key, said, answers = str(uuid.uuid4()), happened(), []

    def send() -> None:
        answers.append(Device(people["tia"]).send(f"/sets/{pump_set.pk}/events", said, key))
        connection.close()

    threads = [threading.Thread(target=send) for _ in range(4)]
    [t.start() for t in threads]
    [t.join() for t in threads]
    assert answers == [answers[0]] * 4
    assert answers[0][0] == 201
    assert Event.objects.filter(kind="flood").count() == 1


@pytest.mark.parametrize("code", [1213, 1205, 1020])
def test_an_act_that_was_broken_off_is_done_again_from_its_start(
    api: Door, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch, code: int
) -> None:
    broken: list[str] = []

    def breaks(execute: Any, sql: str, params: Any, many: bool, context: Any) -> Any:
        if "INSERT INTO `logbook_judgement`" in sql and len(broken) < 2:
            broken.append(sql)
            raise OperationalError(code, "broken off")
        return execute(sql, params, many, context)

    with connection.execute_wrapper(breaks):
        status, told = api("tia")("POST", SAVE, sheet(pump_set))
    assert (status, len(broken)) == (201, 2), told
    assert Record.objects.count() == Entry.objects.count() == 1


@pytest.mark.django_db(transaction=True)
def test_an_act_that_was_broken_off_at_its_commit_is_done_again(
    people: dict[str, User], pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    host = type(connections["default"])
    commit, broken = host._commit, []

    def breaks(self: Any) -> None:
        if not broken and Record.objects.exists():
            broken.append(1)
            raise OperationalError(1213, "certification failed")
        commit(self)

    monkeypatch.setattr(host, "_commit", breaks)
    status, told = Api(people["tia"])("POST", SAVE, sheet(pump_set))
    assert (status, broken) == (201, [1]), told
    assert Record.objects.count() == Entry.objects.count() == 1


def test_an_act_broken_off_every_time_is_no_answer_and_writes_nothing(
    api: Door, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(door.time, "sleep", lambda _: None)

    def breaks(execute: Any, sql: str, params: Any, many: bool, context: Any) -> Any:
        if "INSERT INTO `logbook_judgement`" in sql:
            raise OperationalError(1213, "deadlock")
        return execute(sql, params, many, context)

    with connection.execute_wrapper(breaks):
        status, told = api("tia")("POST", SAVE, sheet(pump_set))
    assert (status, told["code"]) == (503, "database_gone")
    assert not Record.objects.exists()


def test_an_act_that_moves_nothing_but_writes_is_an_error(pump_set: PumpSet) -> None:
    with pytest.raises(RuntimeError, match="plant_pumpset"):
        door.act(lambda: PumpSet.objects.filter(pk=pump_set.pk).update(name="x"))
    pump_set.refresh_from_db()
    assert pump_set.name == "Cold 1"


def test_a_read_that_writes_is_an_error(
    api: Door, site: Site, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    def writes(*_: Any) -> None:
        PumpSet.objects.filter(pk=pump_set.pk).update(name="x")

    monkeypatch.setattr(querysets, "set_state", writes)
    with pytest.raises(RuntimeError, match="A read writes plant_pumpset"):
        api("tia")("GET", f"/sets/{pump_set.pk}/state")


def test_every_change_goes_through_the_door() -> None:
    outside = []
    for _, router in described._routers:
        for view in router.path_operations.values():
            for op in view.operations:
                if op.methods != ["GET"] and not isinstance(router, door.DoorRouter):
                    outside.append(op.operation_id)
    # Signing in and out changes a session and nothing else; a person's own settings are an act of their own.
    assert sorted(outside) == ["set_preferences", "sign_in", "sign_out"]


def test_a_change_raises_the_number_of_what_it_changed_and_no_other(
    api: Door, site: Site, pump_set: PumpSet, twin: PumpSet
) -> None:
    def number(row: PumpSet) -> int:
        return Version.objects.filter(kind="set", ref=row.pk).values_list("n", flat=True).first() or 0

    before = number(pump_set), number(twin)
    assert api("tia")("POST", SAVE, sheet(pump_set))[0] == 201
    assert number(pump_set) > before[0]
    assert number(twin) == before[1]


@pytest.mark.django_db(transaction=True)
def test_a_page_is_read_in_one_moment_whoever_saves_meanwhile(
    people: dict[str, User], site: Site, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    made: list[int] = []

    def meanwhile() -> None:
        made.append(Api(people["tia"])("POST", SAVE, sheet(pump_set, (24, 24.2, 24.1)))[0])
        connection.close()

    services = plant_page.Service.objects

    class Slow:
        """After the first question another device saves, and is through."""

        def filter(self, **kwargs: Any) -> Any:
            found = services.filter(**kwargs)
            len(found)
            if not made:
                other = threading.Thread(target=meanwhile)
                other.start()
                other.join(20)
            return found

    class Looked:
        objects = Slow()

    monkeypatch.setattr(plant_page, "Service", Looked)
    tia = Api(people["tia"])
    told = tia("GET", f"/sites/{site.pk}/plant")[1]
    assert made == [201]
    assert told["services"][0]["sets"][0]["verdict"] == "unknown"  # nothing on record, as it stood then
    assert tia("GET", f"/sites/{site.pk}/plant")[1]["services"][0]["sets"][0]["verdict"] != "unknown"


def test_a_wrong_clock_is_set_right_its_own_time_kept_and_told(tia: Device, pump_set: PumpSet) -> None:
    at, key = (now() - timedelta(minutes=1)).replace(microsecond=0), str(uuid.uuid4())
    test = [setup(), reading(30, "600"), reading(60, "900")]
    for e in test:
        e["taken_at"] = at.isoformat()
    saved = tia.send(
        "/benches/insulation/records",
        {"set_id": pump_set.pk, "sheet": key, "entries": test},
        off=str(10 * 60_000),
    )
    assert saved[0] == 201, saved
    held = Entry.objects.get(pk=test[1]["uuid"])
    assert (held.taken_at, held.device_at) == (at, at - timedelta(minutes=10))
    record = tia.client.get(f"/api/v1/records/{saved[1]['record']}").json()
    assert len(record["clocks"]) == 1
    assert "10.0\u00a0min behind" in record["clocks"][0]


def test_a_clock_a_minute_off_is_set_right_without_a_word(tia: Device, pump_set: PumpSet) -> None:
    saved = tia.send(SAVE, sheet(pump_set), off="-60000")
    assert tia.client.get(f"/api/v1/records/{saved[1]['record']}").json()["clocks"] == []
    assert Entry.objects.get().clock_off_ms is not None


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

    monkeypatch.setattr(querysets, "set_state", breaks)
    client = Client(raise_request_exception=False)
    client.force_login(people["tia"])
    got = client.get(f"/api/v1/sets/{pump_set.pk}/state")
    assert (got.status_code, got["Content-Type"]) == (500, "application/problem+json")
    assert got.json()["code"] == "failed"
    assert "nobody foresaw" not in got.content.decode()
