"""The same again under one id, and two who do one thing: once, and whoever comes second is told."""

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
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.safety.models import Call, CheckBack, Deferral, Matter, TemporaryChange
from hurbin_server.safety.services import calling

Door = Callable[[str], Api]
ENDED = {"found": "a dry seal", "done": "seal exchanged"}


def call(api: Api, site: Site, row: PumpSet, **more: Any) -> tuple[int, Any]:
    body = {"uuid": str(uuid.uuid4()), "at": now().isoformat(), "complaint": "water", "set_id": row.pk}
    return api("POST", f"/sites/{site.pk}/calls", body | more)


def at_once(*acts: Callable[[], tuple[int, Any]]) -> list[tuple[int, Any]]:
    answers: list[tuple[int, Any]] = []

    def run(act: Callable[[], tuple[int, Any]]) -> None:
        answers.append(act())
        connection.close()

    threads = [threading.Thread(target=run, args=(a,)) for a in acts]
    [t.start() for t in threads]
    [t.join() for t in threads]
    return answers


@pytest.mark.django_db(transaction=True)
def test_of_two_who_end_one_incident_one_is_told(
    people: dict[str, User], site: Site, pump_set: PumpSet
) -> None:
    assert call(Api(people["vic"]), site, pump_set)[0] == 201
    path = f"/matters/{Matter.objects.get().pk}/end"
    tia, leo = Api(people["tia"]), Api(people["leo"])
    mine, his = ENDED, {"found": "a loose gland", "done": "tightened"}
    told = sorted(
        at_once(lambda: tia("POST", path, mine), lambda: leo("POST", path, his)), key=lambda t: t[0]
    )
    assert [t[0] for t in told] == [200, 409]
    kept = Matter.objects.get()
    assert kept.ended_by is not None
    assert told[1][1]["current"]["by"] == kept.ended_by.full_name
    assert kept.found in told[1][1]["detail"]
    again = tia if kept.ended_by == people["tia"] else leo
    assert again("POST", path, {"found": kept.found, "done": kept.done})[0] == 200


@pytest.mark.django_db(transaction=True)
def test_a_call_never_joins_an_incident_that_is_being_ended(
    people: dict[str, User], site: Site, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert call(Api(people["vic"]), site, pump_set)[0] == 201
    first = Matter.objects.get()
    answers: list[tuple[int, Any]] = []
    other = threading.Thread(
        target=lambda: (answers.append(call(Api(people["leo"]), site, pump_set)), connection.close())
    )
    note = calling.audit.note

    def meanwhile(*args: Any, **kwargs: Any) -> None:
        if other.ident is None:
            other.start()
            other.join(0.7)
        note(*args, **kwargs)

    monkeypatch.setattr(calling.audit, "note", meanwhile)
    assert Api(people["tia"])("POST", f"/matters/{first.pk}/end", ENDED)[0] == 200
    other.join(20)
    assert answers[0][0] == 201
    joined = Call.objects.exclude(matter=first).get()
    assert joined.matter.ended_at is None
    assert Call.objects.filter(matter=first).count() == 1


def test_a_change_under_the_same_id_with_other_words_is_refused(api: Door, pump_set: PumpSet) -> None:
    path = f"/sets/{pump_set.pk}/changes"
    said = {"uuid": str(uuid.uuid4()), "kind": "jumper", "place": "terminal 14", "at": now().isoformat()}
    tia = api("tia")
    first = tia("POST", path, said)
    assert first[0] == 201, first
    assert tia("POST", path, said)[0] == 201
    for other in ({"place": "terminal 15"}, {"note": "and more"}):
        assert tia("POST", path, said | other)[1]["code"] == "change_differs"
    assert api("leo")("POST", path, said)[0] == 409
    assert TemporaryChange.objects.get().place == "terminal 14"


def test_who_takes_a_change_off_second_is_told(api: Door, pump_set: PumpSet) -> None:
    said = {"uuid": str(uuid.uuid4()), "kind": "jumper", "place": "terminal 14", "at": now().isoformat()}
    assert api("tia")("POST", f"/sets/{pump_set.pk}/changes", said)[0] == 201
    path = f"/changes/{said['uuid']}/off"
    assert api("tia")("POST", path, {"note": "restored"})[0] == 200
    assert api("tia")("POST", path, {"note": "restored"})[0] == 200
    status, told = api("leo")("POST", path, {"note": "restored"})
    assert (status, told["code"], told["current"]["by"]) == (409, "done_before", "Tia")


def test_a_decision_under_the_same_id_is_the_same_or_refused(api: Door, pump_set: PumpSet) -> None:
    decided = {
        "part": "motor",
        "what": "bearing hums",
        "reason": "no spare",
        "until": (now() + timedelta(days=9)).isoformat(),
        "standby": "none",
        "changes_mind": "more noise",
        "limits": [
            {"measurand": "current", "leg": "1", "value": {"text": "16", "unit": "A"}, "does": "stop it"}
        ],
    }
    path, tia = f"/sets/{pump_set.pk}/deferrals/{uuid.uuid4()}", api("tia")
    first = tia("POST", path, decided)
    assert first[0] == 201, first
    assert tia("POST", path, decided)[0] == 201
    assert tia("POST", path, decided | {"what": "bearing is gone"})[1]["code"] == "deferral_differs"
    assert Deferral.objects.get().what == "bearing hums"


def test_a_check_back_that_was_read_says_by_whom(
    api: Door, people: dict[str, User], pump_set: PumpSet
) -> None:
    due = now() + timedelta(hours=2)
    row = CheckBack.objects.create(pump_set=pump_set, sheet="s-1", at=now(), due=due, why="after a seal")
    path = f"/check-backs/{row.pk}/read"
    assert api("tia")("POST", path, {"said": "dry"})[0] == 200
    status, told = api("leo")("POST", path, {"said": "wet"})
    assert (status, told["current"]["said"]) == (409, "dry")
