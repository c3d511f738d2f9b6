"""Saving, correcting, judging again."""

from __future__ import annotations

import threading
from collections.abc import Callable
from datetime import timedelta
from io import StringIO
from unittest import mock

import pytest
from conftest import PLATE, SAVE, Api, sheet
from django.core.management import call_command
from django.db import OperationalError, connection

from hurbin_server.base.clock import now
from hurbin_server.base.models import AuditEntry, User
from hurbin_server.logbook.models import Finding, Judgement, PartState, Point, Record
from hurbin_server.logbook.services.answers import answer
from hurbin_server.logbook.services.judging import rejudge_all
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.parts import fit, make_component, new_plate

Door = Callable[[str], Api]


def save(api: Api, row: PumpSet, **more: object) -> dict:
    status, body = api("POST", SAVE, sheet(row, **more))  # type: ignore[arg-type]
    assert status == 201, body
    return body


def test_a_save_is_on_history_trend_and_plant(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    saved = save(tia, pump_set, amps=(21, 21.2, 21.1))
    assert saved["evaluation"]["verdict"] == "watch"
    assert tia("GET", f"/sets/{pump_set.pk}/history")[1]["records"][0]["id"] == saved["record"]
    trends = tia("GET", f"/sets/{pump_set.pk}/trends")[1]
    amps = next(t for t in trends if t["measurand"] == "current_mean")
    assert amps["points"][-1]["shown"] == "21.1\u00a0A"
    plant = tia("GET", f"/sites/{site.pk}/plant")[1]
    assert plant["services"][0]["sets"][0]["verdict"] == "watch"
    assert plant["first"][0]["set"] == pump_set.pk
    assert AuditEntry.objects.filter(action="record_saved").count() == 1


def test_saving_twice_is_saving_once(api: Door, pump_set: PumpSet) -> None:
    body = sheet(pump_set)
    tia = api("tia")
    first, second = tia("POST", SAVE, body), tia("POST", SAVE, body)
    assert (first[0], second[0]) == (201, 200)
    assert first[1]["record"] == second[1]["record"]
    assert second[1]["again"]
    assert Record.objects.count() == 1
    assert Point.objects.filter(live=True).count() == Point.objects.count()


@pytest.mark.django_db(transaction=True)
def test_two_devices_at_once_make_one_record(people: dict[str, User], pump_set: PumpSet) -> None:
    body = sheet(pump_set)
    answers: list[tuple[int, dict]] = []

    def send() -> None:
        answers.append(Api(people["tia"])("POST", SAVE, body))
        connection.close()

    threads = [threading.Thread(target=send) for _ in range(4)]
    [t.start() for t in threads]
    [t.join() for t in threads]
    assert sorted(a[0] for a in answers) == [200, 200, 200, 201]
    assert Record.objects.count() == 1


@pytest.mark.parametrize(
    ("amps", "code", "field"),
    [(("-3", 15, 15), "figures_refused", "amps_1"), (("x", 15, 15), "figures_refused", "amps_1")],
)
def test_impossible_figures_are_refused(
    api: Door, pump_set: PumpSet, amps: tuple, code: str, field: str
) -> None:
    status, body = api("tia")("POST", SAVE, sheet(pump_set, amps=amps))
    assert (status, body["code"], body["problems"][0]["field"]) == (422, code, field)
    assert Record.objects.count() == 0


def test_empty_and_future_sheets_are_refused(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    empty = sheet(pump_set)
    empty["entries"][0]["body"] = {"read_at": "starter"}
    assert tia("POST", SAVE, empty)[1]["code"] == "sheet_empty"
    assert tia("POST", SAVE, sheet(pump_set, days_ago=-2))[1]["code"] == "taken_in_future"
    assert tia("POST", SAVE, {**sheet(pump_set), "entries": []})[1]["code"] == "sheet_empty"


def test_who_may_save(api: Door, pump_set: PumpSet) -> None:
    for name, status in (("nobody", 401), ("stranger", 404), ("vic", 403), ("tia", 201), ("leo", 201)):
        assert api(name)("POST", SAVE, sheet(pump_set))[0] == status


def test_a_sheet_id_of_another_is_not_answered(api: Door, pump_set: PumpSet) -> None:
    body = sheet(pump_set)
    assert api("tia")("POST", SAVE, body)[0] == 201
    assert api("leo")("POST", SAVE, body)[1]["code"] == "sheet_id_used"


def test_a_difference_from_what_was_seen_is_told(api: Door, pump_set: PumpSet) -> None:
    assert api("tia")("POST", SAVE, sheet(pump_set, seen="act"))[1]["differs"] is True


def test_correction_supersedes_and_both_stay_readable(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    wrong = save(tia, pump_set, amps=(24, 24.1, 24))["record"]
    assert tia("POST", SAVE, sheet(pump_set, corrects=wrong))[1]["code"] == "reason_missing"
    right = save(tia, pump_set, amps=(14, 14.1, 14), corrects=wrong, reason="read the wrong set")["record"]
    assert tia("GET", f"/sites/{site.pk}/plant")[1]["services"][0]["sets"][0]["verdict"] == "good"
    old, new = tia("GET", f"/records/{wrong}")[1], tia("GET", f"/records/{right}")[1]
    assert (old["live"], old["superseded_by"], old["body"]["amps_1"]["text"]) == (False, right, "24")
    assert (new["supersedes"], new["reason"], new["taken_at"]) == (
        wrong,
        "read the wrong set",
        old["taken_at"],
    )
    points = next(
        t for t in tia("GET", f"/sets/{pump_set.pk}/trends")[1] if t["measurand"] == "current_mean"
    )["points"]
    assert [p["record"] for p in points] == [right]
    assert (
        tia("POST", SAVE, sheet(pump_set, corrects=wrong, reason="again"))[1]["code"] == "corrected_already"
    )


def test_database_gone_in_the_middle_leaves_nothing_half(api: Door, pump_set: PumpSet) -> None:
    body = sheet(pump_set)
    with mock.patch(
        "hurbin_server.logbook.services.saving.answer", side_effect=OperationalError(2006, "gone")
    ):
        status, said = api("tia")("POST", SAVE, body)
    assert (status, said["code"]) == (503, "database_gone")
    assert Record.objects.count() == Point.objects.count() == Finding.objects.count() == 0
    assert api("tia")("POST", SAVE, body)[0] == 201


def test_own_past_and_context_come_from_the_record(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    for days in (120, 90, 60, 30):
        save(tia, pump_set, days_ago=days)
    said = tia(
        "POST", "/benches/running_check/evaluate", {**sheet(pump_set, amps=(17, 17.1, 16.9)), "sheet": None}
    )[1]
    found = next(f for f in said["findings"] if f["question"] == "own_past")
    assert found["verdict"] == "act"
    assert "+13.3" in found["reason"]
    context = tia("GET", f"/benches/running_check/case/{pump_set.pk}")[1]["context"]
    assert len([p for p in context["history"] if p["measurand"] == "current_mean"]) == 4
    assert context["last"]["body"]["amps_1"]["text"] == "15"


def test_motor_swap_takes_the_history_along(
    api: Door, people: dict[str, User], site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    save(tia, pump_set, days_ago=40)
    spare = make_component(people["ada"], site.pk, "motor", "spare")
    new_plate(people["ada"], spare.pk, 0, PLATE, "first entry")
    old = pump_set.fittings.get(slot="motor").component
    fit(people["ada"], pump_set.pk, "motor", spare.pk, now() - timedelta(days=10))
    assert [t for t in tia("GET", f"/sets/{pump_set.pk}/trends")[1] if t["measurand"] == "current_mean"] == []
    save(tia, pump_set)
    assert Point.objects.filter(series__component=spare, series__measurand="current_mean").count() == 1
    assert (
        Point.objects.filter(series__component=old, series__measurand="current_mean", live=True).count() == 1
    )


def test_a_corrected_plate_judges_the_newest_record_again(
    api: Door, people: dict[str, User], pump_set: PumpSet
) -> None:
    save(api("tia"), pump_set, amps=(21, 21.1, 21))
    motor = pump_set.fittings.get(slot="motor").component
    new_plate(people["ada"], motor.pk, 1, {**PLATE, "amps_low": {"text": "28", "unit": "A"}}, "misread")
    assert Judgement.objects.filter(record__pump_set=pump_set).count() == 2
    assert set(PartState.objects.values_list("verdict", flat=True)) == {"good"}


def test_rejudge_by_command_lists_what_changed(api: Door, site: Site, pump_set: PumpSet) -> None:
    save(api("tia"), pump_set, amps=(21, 21.1, 21))
    assert rejudge_all() == (1, [])
    status, rules = api("leo")(
        "POST",
        f"/sites/{site.pk}/overrides",
        {"limit": "load.plate", "value": 110, "unit": "%", "reason": "cooled room"},
    )
    assert status == 201
    assert (
        next(x for x in rules["limits"] if x["id"] == "load.plate")["overrides"][0]["shown"] == "110\u00a0%"
    )
    out = StringIO()
    call_command("rejudge", stdout=out)
    assert "watch -> good" in out.getvalue()
    assert Judgement.objects.filter(newest=True).get().verdict == "good"
    assert Judgement.objects.count() == 2


def test_override_needs_a_lead_a_reason_and_its_order(api: Door, site: Site, pump_set: PumpSet) -> None:
    body = {"limit": "voltage_unbalance.watch", "value": 3, "unit": "%", "reason": "long feeder"}
    path = f"/sites/{site.pk}/overrides"
    assert api("tia")("POST", path, body)[0] == 403
    leo = api("leo")
    assert leo("POST", path, {**body, "reason": " "})[1]["code"] == "reason_missing"
    assert leo("POST", path, {**body, "value": 0.5})[1]["code"] == "limits_out_of_order"
    assert leo("POST", path, {**body, "unit": "V"})[1]["code"] == "unit_wrong"
    rules = leo("POST", path, body)[1]
    row = next(x for x in rules["limits"] if x["id"] == "voltage_unbalance.watch")["overrides"][0]
    said = leo("POST", "/benches/running_check/evaluate", sheet(pump_set))[1]
    used = next(f for f in said["findings"] if f["question"] == "voltage_unbalance")["limits"][1]
    assert used["override"]["reason"] == "long feeder"
    assert used["published"] == "2\u00a0%"
    after = leo("DELETE", f"{path}/{row['id']}")[1]
    assert next(x for x in after["limits"] if x["id"] == "voltage_unbalance.watch")["overrides"] == []


def test_rebuild_makes_the_same_states(api: Door, pump_set: PumpSet) -> None:
    save(api("tia"), pump_set, amps=(21, 21.1, 21))
    fields = ("part", "verdict", "question", "due")
    before = list(PartState.objects.values_list(*fields))
    PartState.objects.all().delete()
    answer(PumpSet.objects.select_related("service").get(pk=pump_set.pk))
    assert list(PartState.objects.values_list(*fields)) == before


def test_shown_figures_follow_the_reader(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert tia("PATCH", "/me", {"units": {"voltage": "kV"}, "locale": "de-DE"})[0] == 200
    said = tia("POST", "/benches/running_check/evaluate", sheet(pump_set))[1]
    assert said["values"]["voltage_mean"]["shown"] == "0,400\u00a0kV"
    assert said["values"]["voltage_mean"]["value"] == 400
    assert tia("PATCH", "/me", {"units": {"voltage": "psi"}})[0] == 422
