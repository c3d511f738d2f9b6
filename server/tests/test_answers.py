"""What stands on a set: the newest answer to each question and subject, until something ends it."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

import pytest
from conftest import SAVE, sheet
from safe_sheets import Door, Safe, change, offered, safety
from test_sheets import SAVE as SAVE_INSULATION, reading, setup

from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Answer, Finding, Judgement, PartState
from hurbin_server.logbook.services.answers import answer
from hurbin_server.logbook.services.judging import rejudge_all
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.parts import fit, make_component, new_plate, take_off
from hurbin_server.plant.services.places import make_set
from hurbin_server.safety.models import TrialRun


def standing(row: PumpSet) -> dict[str, str]:
    return dict(Answer.objects.filter(pump_set=row).values_list("question", "verdict"))


def insulate(api: Door, row: PumpSet, ohms: str, minutes: int = 0) -> None:
    shift = timedelta(minutes=minutes)
    entries = [setup(), reading(60, ohms)]
    for e in entries:
        e["taken_at"] = (now() - timedelta(minutes=40) + shift).isoformat()
    status, said = api("tia")(
        "POST", SAVE_INSULATION, {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": entries}
    )
    assert status == 201, said


def event(api: Door, row: PumpSet, kind: str, minutes_ago: float = 0) -> int:
    body = {"kind": kind, "at": (now() - timedelta(minutes=minutes_ago)).isoformat(), "note": "done"}
    return api("tia")("POST", f"/sets/{row.pk}/events", body)[0]


def test_a_stop_never_vanishes_because_newer_findings_came(api: Door, pump_set: PumpSet) -> None:
    """Two hundred newer findings of another bench, and the stop on the insulation still leads its part."""
    insulate(api, pump_set, "3", minutes=-30)
    for n in range(45):
        assert api("tia")("POST", SAVE, sheet(pump_set, days_ago=-0.00001 * n))[0] == 201
    assert Finding.objects.filter(pump_set=pump_set, live=True).count() > 200
    assert standing(pump_set)["insulation"] == "stop"
    assert PartState.objects.get(pump_set=pump_set, part="motor").question == "insulation"
    assert not offered(api("tia"), pump_set, "run")


def test_answers_are_replaced_one_by_one_and_made_again_by_command(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    tia("POST", SAVE, sheet(pump_set, amps=(24, 24.1, 23.9), days_ago=2))
    assert standing(pump_set)["load"] == "act"
    tia("POST", SAVE, sheet(pump_set, days_ago=1))
    assert standing(pump_set)["load"] == "good"
    tia(
        "POST", SAVE, sheet(pump_set, amps=(24, 24.1, 23.9), days_ago=3)
    )  # an older one that comes late replaces nothing
    fields = (
        "question",
        "subject",
        "part",
        "verdict",
        "beside",
        "by",
        "unknown",
        "taken_at",
        "due",
        "finding_id",
    )
    before = sorted(Answer.objects.values_list(*fields))
    assert standing(pump_set)["load"] == "good"
    Answer.objects.all().delete()
    answer(PumpSet.objects.select_related("service").get(pk=pump_set.pk))
    assert sorted(Answer.objects.values_list(*fields)) == before


def test_what_a_later_check_settles_is_over_and_what_it_does_not_ask_is_not(
    api: Door, pump_set: PumpSet
) -> None:
    tia = api("tia")

    def check(days: float, **state: Any) -> None:
        body = sheet(pump_set, days_ago=days)
        body["entries"][0]["body"].update(state)
        if "valve" in state and state["valve"] is None:
            del body["entries"][0]["body"]["valve"]
        assert tia("POST", SAVE, body)[0] == 201

    check(3, valve="shut")
    assert standing(pump_set)["shut_valve"] == "watch"
    check(2, valve=None)  # nobody said where the valve stood: what was said before stands
    assert standing(pump_set)["shut_valve"] == "watch"
    assert standing(pump_set)["load"] == "unknown"
    check(1.5, valve="open", amps_1={"text": "0"}, amps_2={"text": "0"}, amps_3={"text": "0"})
    assert standing(pump_set)["shut_valve"] == "watch"  # a set that stands answers nothing of that
    check(1, valve="open")
    assert "shut_valve" not in standing(pump_set)


def test_two_limits_agreed_on_answer_each_for_itself(api: Door, pump_set: PumpSet) -> None:
    tia, key = api("tia"), str(uuid.uuid4())
    bounds = [
        {"measurand": "current", "leg": n, "value": {"text": v, "unit": "A"}, "does": "stop it"}
        for n, v in (("1", "14"), ("2", "18"))
    ]
    decision = {
        "part": "control",
        "what": "warm joint",
        "reason": "on order",
        "until": (now() + timedelta(days=6)).isoformat(),
        "standby": "runs",
        "changes_mind": "warmer",
        "limits": bounds,
    }
    assert tia("POST", f"/sets/{pump_set.pk}/deferrals/{key}", decision)[0] == 201
    assert tia("POST", SAVE, sheet(pump_set))[0] == 201
    kept = dict(Answer.objects.filter(question="interim_limit").values_list("subject", "verdict"))
    assert kept == {f"{key}/0": "stop", f"{key}/1": "good"}
    assert Answer.objects.get(subject=f"{key}/1").due == decision["until"] or Answer.objects.get(
        subject=f"{key}/1"
    ).due <= now() + timedelta(days=6)
    assert tia("POST", f"/deferrals/{key}/end", {"said": "lug renewed"})[0] == 200
    assert not Answer.objects.filter(question="interim_limit").exists()


def spare(people: dict[str, User], row: PumpSet) -> Any:
    made = make_component(people["ada"], row.site_id, "motor", "spare")
    new_plate(people["ada"], made.pk, 0, row.fittings.get(slot="motor").component.plate, "same")
    return made


def test_an_exchange_takes_every_answer_of_that_motor_with_it(
    api: Door, people: dict[str, User], pump_set: PumpSet
) -> None:
    """Its insulation, and its load, which hangs on the pump; the supply's answers stay."""
    insulate(api, pump_set, "3", minutes=-60)
    api("tia")("POST", SAVE, sheet(pump_set, amps=(21.5, 21.4, 21.6), days_ago=0.01))
    assert PartState.objects.get(pump_set=pump_set, part="pump").verdict == "watch"
    old = pump_set.fittings.get(slot="motor").component
    fit(
        people["ada"], pump_set.pk, "motor", spare(people, pump_set).pk, now() - timedelta(seconds=1), "burnt"
    )
    left = standing(pump_set)
    assert "insulation" not in left
    assert "load" not in left
    assert left["voltage_unbalance"] == "good"
    # A winding's past goes with the motor: where it is fitted next, its stop stands.
    other = make_set(
        people["ada"], pump_set.service_id, {"tag": "C-9", "name": "Cold 9", "kind": "base_mounted"}
    )
    take_off(people["ada"], other.pk, "motor", now() - timedelta(seconds=1)) if other.fittings.filter(
        slot="motor", to_at=None
    ).exists() else None
    fit(people["ada"], other.pk, "motor", old.pk, now(), "spare")
    assert standing(other) == {"insulation": "stop"}


def test_a_part_taken_off_leaves_no_answer(api: Door, people: dict[str, User], pump_set: PumpSet) -> None:
    insulate(api, pump_set, "900", minutes=-60)
    take_off(people["ada"], pump_set.pk, "motor", now())
    assert "insulation" not in standing(pump_set)


@pytest.mark.parametrize(
    ("ohms", "was", "kind", "left"),
    [
        ("80", "watch", "coupling_repair", "watch"),
        ("80", "watch", "dried", None),
        ("80", "watch", "flood", None),
        ("30", "act", "flood", "act"),  # a flood mends nothing
        ("30", "act", "dried", None),
        ("3", "stop", "dried", "stop"),  # a repair is no proof
    ],
)
def test_an_event_ends_only_what_it_concerns(
    api: Door, pump_set: PumpSet, ohms: str, was: str, kind: str, left: str | None
) -> None:
    insulate(api, pump_set, ohms, minutes=-60)  # at 40 °C a quarter of it
    assert standing(pump_set)["insulation"] == was
    assert event(api, pump_set, kind) == 201
    assert standing(pump_set).get("insulation") == left


def test_overdue_of_any_answer_makes_its_part_unknown(api: Door, pump_set: PumpSet) -> None:
    """The earliest date among what is milder than act counts, not that of the answer that leads."""
    insulate(api, pump_set, "900")
    api("tia")("POST", SAVE, sheet(pump_set))
    state = PartState.objects.get(pump_set=pump_set, part="motor")
    dues = Answer.objects.filter(pump_set=pump_set, part="motor").values_list("due", flat=True)
    assert len(set(dues)) > 1
    assert state.due == min(dues)


def test_rejudging_sees_the_partner_and_the_changes_of_the_day(
    api: Door, pump_set: PumpSet, twin: PumpSet, site: Site
) -> None:
    tia = api("tia")
    put = change(tia, pump_set, at=(now() - timedelta(days=5)).isoformat(), kind="guard_off")[1]
    tia("POST", SAVE, sheet(pump_set, days_ago=4))
    assert standing(pump_set)["guard_while_running"] == "stop"
    assert tia("POST", f"/changes/{put['id']}/off", {"note": "guard on"})[0] == 200
    safe = Safe(tia, pump_set)
    safe.isolate()
    PumpSet.objects.filter(pk=pump_set.pk).update(pair="")
    Judgement.objects.update(rules_version="older")
    for j in Judgement.objects.all():
        j.evaluation = {**j.evaluation, "values": {}}
        j.save()
    rejudge_all()
    newest = Judgement.objects.get(record__bench="running_check", newest=True)
    assert newest.context["state"]["change_kinds"] == ["guard_off"]
    assert "isolation" not in newest.context
    assert standing(pump_set)["guard_while_running"] == "stop"


def test_rejudging_keeps_the_twin_of_the_day(api: Door, pump_set: PumpSet, twin: PumpSet) -> None:
    """What stood behind the fields was the other set of that day, whoever is paired with it now."""
    tia = api("tia")
    assert tia("POST", SAVE, sheet(twin, days_ago=9))[0] == 201
    assert tia("POST", SAVE, sheet(pump_set, days_ago=4))[0] == 201
    mine = Judgement.objects.get(record__pump_set=pump_set)
    assert mine.context["context"]["twin"]["tag"] == "C-2"
    PumpSet.objects.filter(pk__in=(pump_set.pk, twin.pk)).update(pair="")
    mine.evaluation = {**mine.evaluation, "values": {}}
    mine.save()
    rejudge_all()
    assert (
        Judgement.objects.get(record__pump_set=pump_set, newest=True).context["context"]["twin"]["tag"]
        == "C-2"
    )
    assert Judgement.objects.filter(record__pump_set=pump_set).count() == 2


# A watched trial run.


def trial(api: Door, who: str, row: PumpSet, key: str = "", **more: Any) -> tuple[int, Any]:
    body = {"limits": "stop over 20 A on a leg, or smoke", "minutes": 10, **more}
    return api(who)("POST", f"/sets/{row.pk}/trials/{key or uuid.uuid4()}", body)


def test_a_lead_releases_one_watched_run_after_a_recorded_repair(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert trial(api, "leo", pump_set)[1]["code"] == "no_stop"
    tia("POST", SAVE, sheet(pump_set, amps=(26, 26.1, 25.9), days_ago=0.1))
    said = safety(tia, pump_set)["stops"]
    assert [(s["question"], s["trial"], s["waits"]) for s in said] == [("load", True, "a recorded repair")]
    assert "A running check within nameplate current closes it" in said[0]["ends"]
    assert not offered(tia, pump_set, "run")
    assert trial(api, "leo", pump_set)[1]["code"] == "repair_missing"
    assert event(api, pump_set, "pump_repair") == 201
    assert standing(pump_set)["load"] == "stop"  # a repair is no proof
    assert not offered(tia, pump_set, "run")
    assert trial(api, "tia", pump_set)[0] == 403
    assert trial(api, "leo", pump_set, minutes=90)[1]["code"] == "minutes_wrong"
    assert trial(api, "leo", pump_set, limits=" ")[1]["code"] == "limits_missing"
    key = str(uuid.uuid4())
    assert [trial(api, "leo", pump_set, key)[0] for _ in range(2)] == [201, 201]
    assert TrialRun.objects.count() == 1
    assert trial(api, "leo", pump_set)[1]["code"] == "trial_under_way"
    page = safety(tia, pump_set)
    run = next(o for o in page["offers"] if o["act"] == "run")
    assert (run["offered"], run["trial"]["minutes"], page["trials"][0]["by"]) == (True, 10, "Leo")
    tia(
        "POST", SAVE, sheet(pump_set, amps=(26, 26.1, 25.9))
    )  # it was not repaired after all: the one run is used up
    assert safety(tia, pump_set)["trials"] == []
    assert not offered(tia, pump_set, "run")


def test_insulation_is_never_tried_out(api: Door, pump_set: PumpSet) -> None:
    insulate(api, pump_set, "3", minutes=-60)
    assert event(api, pump_set, "dried") == 201
    assert trial(api, "leo", pump_set)[1]["code"] == "trial_never"
    assert not offered(api("tia"), pump_set, "run")
    assert (
        api("stranger")("POST", f"/sets/{pump_set.pk}/trials/{uuid.uuid4()}", {"limits": "x", "minutes": 5})[
            0
        ]
        == 404
    )


def test_nobody_is_offered_work_on_another_mans_lock(api: Door, pump_set: PumpSet) -> None:
    safe = Safe(api("tia"), pump_set)
    safe.isolate()
    safe.prove()
    assert offered(api("tia"), pump_set, "insulation_test")
    assert not offered(api("leo"), pump_set, "insulation_test")


def test_volts_on_a_set_that_is_not_proved_yet_stand_until_a_proof_after_them(
    api: Door, pump_set: PumpSet
) -> None:
    """Isolated, not proved, and volts on it: the stop stands at once, and the sheet's older entries do not
    end it."""
    tia = api("tia")
    safe = Safe(tia, pump_set)
    safe.isolate()
    volts = sheet(pump_set, amps=(0, 0, 0), days_ago=0.005)
    assert tia("POST", SAVE, volts)[0] == 201
    assert standing(pump_set)["live_on_isolated"] == "stop"
    safe.at = now() - timedelta(minutes=5)
    safe.prove()
    assert "live_on_isolated" not in standing(pump_set)
