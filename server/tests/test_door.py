"""Every change goes through one door, and a page is read in one moment."""

from __future__ import annotations

import io
import threading
from collections.abc import Callable
from typing import Any

import pytest
from conftest import SAVE, Api, sheet
from django.core.management import CommandError, call_command
from django.db import OperationalError, connection, connections

from hurbin_server.api import api as described
from hurbin_server.base import door
from hurbin_server.base.models import User, Version
from hurbin_server.logbook import plant_page, set_state as state_of_set
from hurbin_server.logbook.models import Answer, Entry, Judgement, Record
from hurbin_server.logbook.services.judging import rejudge_live
from hurbin_server.plant.models import PumpSet, Site

Door = Callable[[str], Api]


@pytest.mark.parametrize("code", [1213, 1205, 1020])
def test_an_act_that_was_broken_off_is_done_again_from_its_start(
    api: Door, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch, code: int
) -> None:
    broken: list[str] = []

    def breaks(execute: Any, sql: str, params: Any, many: bool, context: Any) -> Any:
        if "INSERT INTO `logbook_judgement`" in sql and len(broken) < 2:
            broken.append(sql)
            raise OperationalError(code, "failed three times")
        return execute(sql, params, many, context)

    with connection.execute_wrapper(breaks):
        status, told = api("tia")("POST", SAVE, sheet(pump_set))
    assert (status, len(broken)) == (201, 2), told
    assert Record.objects.count() == Entry.objects.count() == 1


@pytest.mark.parametrize(
    ("word", "sql"),
    [("rejudge", "INSERT INTO `logbook_judgement`"), ("rebuild", "INSERT INTO `logbook_answer`")],
)
def test_a_command_that_was_broken_off_goes_on_where_it_was(
    api: Door, pump_set: PumpSet, word: str, sql: str
) -> None:
    assert api("tia")("POST", SAVE, sheet(pump_set))[0] == 201
    Judgement.objects.update(evaluation={"findings": []})
    Answer.objects.all().delete()
    number = Version.objects.get(kind="set", ref=pump_set.pk).n
    broken: list[str] = []

    def breaks(execute: Any, asked: str, params: Any, many: bool, context: Any) -> Any:
        if sql in asked and not broken:
            broken.append(asked)
            raise OperationalError(1213, "deadlock")
        return execute(asked, params, many, context)

    with connection.execute_wrapper(breaks):
        call_command(word, stdout=io.StringIO())
    assert len(broken) == 1
    assert Answer.objects.filter(pump_set=pump_set).exists()
    assert Judgement.objects.count() == (2 if word == "rejudge" else 1)
    assert Version.objects.get(kind="set", ref=pump_set.pk).n > number


def test_one_set_is_judged_again_and_one_that_there_is_not_is_named(
    api: Door, pump_set: PumpSet, twin: PumpSet
) -> None:
    for row in (pump_set, twin):
        assert api("tia")("POST", SAVE, sheet(row))[0] == 201
    said = io.StringIO()
    call_command("rejudge", "--tag", "C-2", stdout=said)
    assert said.getvalue().startswith("1 record evaluated")
    call_command("rejudge", stdout=said)
    assert "\n2 records evaluated" in said.getvalue()
    with pytest.raises(CommandError, match="no set C-9"):
        call_command("rejudge", "--tag", "C-9", "--tag", "C-1", stdout=said)


def test_a_record_that_is_corrected_meanwhile_is_not_judged_again(api: Door, pump_set: PumpSet) -> None:
    assert api("tia")("POST", SAVE, sheet(pump_set))[0] == 201
    Judgement.objects.update(evaluation={"findings": []})
    record = Record.objects.get()
    Record.objects.update(live=False)
    assert record.live
    assert door.act(lambda: rejudge_live(record)) is None
    assert Judgement.objects.count() == 1
    Record.objects.update(live=True)
    assert door.act(lambda: rejudge_live(record)) is not None


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

    monkeypatch.setattr(state_of_set, "set_state", writes)
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
    own = {"change_password", "end_other_sessions", "set_pin", "set_preferences"}
    assert set(outside) == own | {"come_in_by_pin", "show_again", "sign_in", "sign_out"}


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
