"""Two at once on one sheet: what was answered with a yes is in the record, or beside it as late. Never
neither.
"""

from __future__ import annotations

import threading
import uuid
from collections.abc import Callable
from typing import Any

import pytest
from conftest import SAVE as CHECKS, Api, sheet as check
from django.db import connection
from test_sheets import append, reading, setup

from hurbin_server.base.models import User
from hurbin_server.logbook.models import Entry, Record, Sheet
from hurbin_server.logbook.services import saving
from hurbin_server.logbook.signals import sheet_leaving
from hurbin_server.plant.models import PumpSet

Door = Callable[[str], Api]


class Meanwhile:
    """Something another device does while the first is in the middle of it."""

    def __init__(self, act: Callable[[], Any]) -> None:
        self.answers: list[Any] = []
        self.thread = threading.Thread(target=self._run, args=(act,))

    def _run(self, act: Callable[[], Any]) -> None:
        self.answers.append(act())
        connection.close()

    def begin(self, *_: Any, **__: Any) -> None:
        """Long enough for the other to be through, if nothing makes him wait."""
        if self.thread.ident is None:
            self.thread.start()
            self.thread.join(0.7)

    def end(self) -> Any:
        self.thread.join(20)
        return self.answers[0]


@pytest.mark.django_db(transaction=True)
def test_a_reading_that_comes_while_the_test_is_put_on_record_is_late_or_in_it(
    people: dict[str, User], pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    sheet, tia = str(uuid.uuid4()), Api(people["tia"])
    append(tia, pump_set, sheet, setup(), reading(30, "600"), reading(60, "900"))
    other = Meanwhile(lambda: append(Api(people["leo"]), pump_set, sheet, reading(120, "0.4", "two")))
    judged = saving.case_for
    monkeypatch.setattr(saving, "case_for", lambda *a, **k: (other.begin(), judged(*a, **k))[1])
    saved = tia("POST", "/benches/insulation/records", {"set_id": pump_set.pk, "sheet": sheet, "entries": []})
    assert saved[0] == 201
    assert other.end()[0] == 200
    kept = Record.objects.get().body["readings"]
    late = Entry.objects.filter(sheet_id=sheet, late=True).count()
    assert (len(kept), late) == (2, 1)


@pytest.mark.django_db(transaction=True)
def test_a_reading_that_comes_while_the_test_is_left_is_late(
    people: dict[str, User], pump_set: PumpSet
) -> None:
    sheet, tia = str(uuid.uuid4()), Api(people["tia"])
    append(tia, pump_set, sheet, setup(), reading(30, "600"))
    other = Meanwhile(lambda: append(Api(people["leo"]), pump_set, sheet, reading(120, "0.4", "two")))
    sheet_leaving.connect(other.begin)
    try:
        assert tia("POST", f"/sheets/{sheet}/leave", {"reason": "rain"})[0] == 200
    finally:
        sheet_leaving.disconnect(other.begin)
    assert other.end()[0] == 200
    assert Sheet.objects.get(pk=sheet).closed_at is not None
    assert Entry.objects.filter(sheet_id=sheet, late=True).count() == 1


def test_an_id_on_file_with_other_words_is_refused_and_the_same_again_is_no_second(
    api: Door, pump_set: PumpSet
) -> None:
    sheet, tia, first = str(uuid.uuid4()), api("tia"), reading(60, "900")
    assert append(tia, pump_set, sheet, setup(), first)[0] == 200
    assert append(tia, pump_set, sheet, first)[0] == 200
    other = {**first, "body": {**first["body"], "ohms": {"text": "0.4", "unit": "MOhm"}}}
    status, told = append(tia, pump_set, sheet, other)
    assert (status, told["code"]) == (409, "entry_differs")
    assert Entry.objects.get(pk=first["uuid"]).body["ohms"]["text"] == "900"
    assert Entry.objects.count() == 2


def test_a_check_sent_again_with_other_figures_is_told_that_the_first_stands(
    api: Door, pump_set: PumpSet
) -> None:
    tia, sent = api("tia"), check(pump_set, (15, 15.1, 14.9))
    assert tia("POST", CHECKS, sent)[0] == 201
    assert tia("POST", CHECKS, sent)[0] == 200
    again = check(pump_set, (24, 24.1, 23.9), sheet=sent["sheet"])
    status, told = tia("POST", CHECKS, again)
    assert (status, told["code"]) == (409, "on_record_already")
    assert Record.objects.count() == Entry.objects.count() == 1


def test_a_reading_sent_with_the_closing_of_a_test_on_record_is_kept_as_late(
    api: Door, pump_set: PumpSet
) -> None:
    tia, body = api("tia"), [setup(), reading(30, "600"), reading(60, "900")]
    sent = {"set_id": pump_set.pk, "sheet": str(uuid.uuid4()), "entries": body}
    assert tia("POST", "/benches/insulation/records", sent)[0] == 201
    more = {**sent, "entries": [*body, reading(120, "0.4")]}
    assert tia("POST", "/benches/insulation/records", more)[0] == 200
    assert list(Entry.objects.filter(late=True).values_list("body__ohms__text", flat=True)) == ["0.4"]
