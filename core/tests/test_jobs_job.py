"""The job of one set: holds that hold, two people, changes that stand, parts, proof, and what ends it."""

from __future__ import annotations

from datetime import timedelta
from random import Random
from typing import Any

import pytest
from job_cases import Told

from hurbin_core.base import DueDate, Evaluation, PartEvent, PartsBooked, TemporaryChange, Verdict, write
from hurbin_core.jobs.anatomy import LOOKS
from hurbin_core.jobs.job import JOB_BENCH
from hurbin_core.jobs.job.judged import fate_of
from hurbin_core.jobs.job.sheet import look_signs
from hurbin_core.jobs.job.times import past_job
from hurbin_core.jobs.procedure import PROCEDURES

EVERY = [(p.id, kind) for p in PROCEDURES.values() for kind in p.kinds]


def told(procedure: str, kind: str, **more: Any) -> Told:
    needs = PROCEDURES[procedure].needs
    return Told(procedure, kind, control="drive" if needs.get("drive") else "starter", **more)


def says(e: Evaluation[Any]) -> str:
    return " ".join(write(q) for q in e.questions)


def state(e: Evaluation[Any], step: str) -> str:
    return next(str(s.state) for s in e.view.steps if s.id == step)


@pytest.mark.parametrize(("procedure", "kind"), EVERY)
def test_every_procedure_runs_from_its_start_to_its_proof(procedure: str, kind: str) -> None:
    job = told(procedure, kind)
    before = job.to_end()
    assert before.missing, "the cause and the hours are wanted before it is done"
    assert before.finding("job_done") is None
    e = job.close()
    assert not e.missing
    assert not e.questions
    assert not e.view.changes
    assert all(p.state in ("on", "back", "renewed", "gone") for p in e.view.parts)
    done = e.finding("job_done")
    assert done is not None
    renews = any(x.never for s in e.view.steps for x in s.looks)
    # A head that only tells its own watts is held against nothing.
    alone = e.finding("proof_watts") is not None
    assert done.verdict is Verdict.GOOD or renews or alone


def test_a_hold_is_not_passed_by_its_tick() -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="I3")
    job.known["moments"] = []
    job.done("I3")
    job.done("I4")
    e = job.evaluate()
    assert state(e, "I3") != "done"
    assert "does not count: Prove it dead on the isolation sheet." in says(e) or "Isolate it" in says(e)
    assert "The hold point before it is open" in says(e)


def test_isolated_for_other_work_is_not_isolated_for_this() -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="I3")
    job.known["moments"][-1]["scopes"] = ["motor_leads"]
    job.done("I3")
    assert "Isolated, but not for: wet end." in says(job.evaluate())


def test_parts_come_off_only_while_it_is_proved_dead() -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="J05.1")
    job.moment("given_back")
    job.done("J05.1")
    e = job.evaluate()
    assert "Parts come off only while the set is isolated and proved dead." in says(e)
    assert state(e, "J05.1") == "now"


def test_one_step_ticked_by_two_people_counts_once_and_is_told() -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="I1")
    job.done("I1", "Ada")
    job.done("I1", "Ben")
    e = job.evaluate()
    assert "was confirmed twice: by Ada, then by Ben. The first counts." in says(e)
    assert next(s.by for s in e.view.steps if s.id == "I1") == "Ada"


def test_the_map_is_read_back_by_another_person() -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="R3")
    job.record("insulation")
    job.done("R3", "Ada")
    assert "It takes a second person" in says(job.evaluate())
    job.done("R3", "Ben")
    assert state(job.evaluate(), "R3") == "done"


@pytest.mark.parametrize(
    ("verdict", "counts"),
    [("good", True), ("watch", True), ("unknown", False), ("act", False), ("stop", False)],
)
def test_a_hold_on_a_bench_takes_its_newest_verdict(verdict: str, counts: bool) -> None:
    job = told("J05", "close_coupled")
    e = job.to_end(stop_at="J05.6")
    sound = [x.id for s in e.view.steps if s.id == "J05.6" for look in s.looks for x in look.signs]
    job.say(kind="look", step="J05.6", look="shaft_under_seal", signs=[x for x in sound if "reuse" in x])
    job.record("fits", verdict)
    job.done("J05.6")
    assert (state(job.evaluate(), "J05.6") == "done") is counts


def test_a_record_from_before_the_last_part_went_back_proves_nothing() -> None:
    job = told("J17", "close_coupled")
    job.to_end(stop_at="J17.5")
    job.done("J17.5")
    assert "No record of it since the last part went back." in says(job.evaluate())


def test_a_figure_past_its_limit_holds() -> None:
    job = told("J01", "inline_spring")
    job.to_end(stop_at="J01.5")
    job.done("J01.5", figure={"text": "0.3"})
    assert "past its limit" in says(job.evaluate())
    job.done("J01.5", figure={"text": "nonsense"})
    e = job.evaluate()
    assert [p.field for p in e.problems] == ["J01.5"]
    assert e.verdict is not Verdict.GOOD


def test_nothing_closes_while_a_change_stands() -> None:
    job = told("J05", "close_coupled")
    job.to_end()
    job.say(kind="change", change="jumper", place="terminal 14", on=True)
    e = job.close()
    assert [m.message for m in e.missing] == ["Still on: Jumper, terminal 14."]
    assert e.finding("job_done") is None
    job.say(kind="change", change="jumper", place="terminal 14", on=False)
    done = job.evaluate().finding("job_done")
    assert done is not None


def test_changes_hang_while_the_work_goes_on_and_the_reconnect_list_writes_itself() -> None:
    job = told("J05", "close_coupled")
    e = job.to_end(stop_at="J05.8")
    assert {(c.title, c.place) for c in e.view.changes} == {
        ("Valve shut", "suction valve"),
        ("Valve shut", "discharge valve"),
        ("Vent open", "drain and vent"),
        ("Lifted wire", "motor leads"),
    }
    assert {b.what for b in e.view.leads} == {"U1", "V1", "W1"}
    off = {b.what for b in e.view.reconnect if b.how == "off"}
    assert {"seat", "seal head", "bracket", "impeller"} <= off
    laid = sorted((p.laid, p.id) for p in e.view.parts if p.laid)
    assert [n for n, _ in laid] == list(range(1, len(laid) + 1)), "the tray keeps the order"
    assert {p.id for p in e.view.parts if p.hand} == {"seat"}


def test_a_skip_asks_why_and_never_leaves_something_behind() -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="I1")
    job.say(kind="skip", step="I1", why=" ")
    job.say(kind="skip", step="I3", why="no time")
    assert "Enter why it is skipped." in says(job.evaluate())
    assert "never skipped" in says(job.evaluate())
    job.to_end(stop_at="J05.3")
    job.say(kind="skip", step="J05.3", why="measured last week")
    job.to_end()
    e = job.close()
    done = e.finding("job_done")
    assert done is not None
    assert done.verdict is Verdict.UNKNOWN, "what was skipped is not known"
    assert "steps were skipped" in write(done.reason)


def test_a_part_not_looked_at_holds_its_step_and_one_open_look_keeps_the_job_from_good() -> None:
    job = told("J01", "inline_spring")
    job.to_end(stop_at="J01.7")
    job.done("J01.7", figure={"text": "0.5"})
    assert "Look at it and tick its signs: resilient mounts." in says(job.evaluate())
    job.say(kind="look", step="J01.7", look="mounts", signs=["reuse.0"])
    job.done("J01.7", figure={"text": "0.5"})
    e = job.evaluate()
    found = e.finding("part_looked", "J01.7/mounts")
    assert found is not None
    assert found.verdict is Verdict.UNKNOWN


def test_a_worn_part_is_good_again_once_it_was_put_back_new() -> None:
    job = told("J01", "inline_spring")
    job.to_end(stop_at="J01.7")
    job.say(kind="look", step="J01.7", look="mounts", signs=["mend.0"])
    job.done("J01.7", figure={"text": "2.4"})
    e = job.evaluate()
    sag = e.finding("job_mount_sag", "J01.7")
    assert sag is not None
    assert sag.verdict is Verdict.ACT
    job.to_end()
    e = job.close()
    found, sag = e.finding("part_looked", "J01.7/mounts"), e.finding("job_mount_sag", "J01.7")
    assert found is not None
    assert (found.verdict, sag) == (Verdict.GOOD, None)


@pytest.mark.parametrize("look", LOOKS)
def test_reuse_needs_every_good_sign_and_one_bad_sign_decides(look: str) -> None:
    signs = look_signs(look)
    sound = [s for s in signs if s.startswith("reuse")]
    for n in range(len(sound)):
        assert fate_of(look, sound[:n])[1] == "open"
    if sound:
        assert fate_of(look, sound) == (Verdict.GOOD, "reuse")
    for bad in (s for s in signs if not s.startswith("reuse")):
        assert fate_of(look, [*sound, bad])[0] in (Verdict.WATCH, Verdict.ACT)
    assert fate_of(look, ["nonsense"])[0] is Verdict.UNKNOWN


PROOF = [
    ("drip", [{"minute": "4 min", "drops": "3"}, {"minute": "31 min", "drops": "0"}], "proof_seal", "good"),
    ("drip", [{"minute": "4 min", "drops": "3"}, {"minute": "12 min", "drops": "1"}], "proof_seal", "act"),
    (
        "drip",
        [{"minute": "2 min", "drops": "0"}, {"minute": "20 min", "drops": "0"}],
        "proof_seal",
        "unknown",
    ),
    ("drip", [{"minute": "31 min", "drops": "0"}], "proof_seal", "unknown"),
    ("drip", [{"minute": "40 min", "drops": "50", "packing": "yes"}], "proof_seal", "good"),
    ("drip", [{"minute": "40 min", "drops": "5", "packing": "yes"}], "proof_seal", "act"),
    ("head", [{"before": "24", "after": "24.9", "sign": "meter", "valve": "same"}], "proof_head", "good"),
    ("head", [{"before": "24", "after": "21", "sign": "meter", "valve": "same"}], "proof_head", "act"),
    ("head", [{"before": "24", "after": "24", "valve": "same"}], "proof_head", "unknown"),
    ("head", [{"before": "24", "after": "24", "sign": "meter", "valve": "other"}], "proof_head", "unknown"),
    ("head", [{"after": "24", "sign": "meter", "valve": "same"}], "proof_head", "unknown"),
]


def _typed(body: dict[str, str]) -> dict[str, Any]:
    words = ("packing", "sign", "valve", "right")
    return {k: v if k in words else {"text": v} for k, v in body.items()}


@pytest.mark.parametrize(("kind", "bodies", "rule", "verdict"), PROOF)
def test_what_a_proof_says(kind: str, bodies: list[dict[str, str]], rule: str, verdict: str) -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="P6")
    job.passes(60)
    for body in bodies:
        job.say(kind=kind, **_typed(body))
    found = job.evaluate().finding(rule)
    assert found is not None
    assert found.verdict.value == verdict


def test_a_bearing_at_74_in_31_air_is_act_though_under_82() -> None:
    job = told("J13", "close_coupled")
    job.to_end(stop_at="P8")
    job.passes(60)
    for minute in ("40 min", "50 min"):
        job.say(kind="heat", **_typed({"minute": minute, "bearing": "74", "ambient": "31"}))
    e = job.evaluate()
    rise, most, stands = (
        e.finding(*k)
        for k in (("proof_heat", "rise"), ("proof_heat_most", "most"), ("proof_stands", "stands"))
    )
    assert rise is not None
    assert most is not None
    assert stands is not None
    assert (rise.verdict, most.verdict, stands.verdict) == (Verdict.ACT, Verdict.GOOD, Verdict.GOOD)


def test_current_after_against_before_at_the_same_valve() -> None:
    """18.2 before, 18.9 after is +3.8 %: good."""
    job = told("J05", "close_coupled")
    job.known["records"][0]["reads"] = [
        {"measurand": "current", "leg": n, "value": 18.2, "unit": "A"} for n in "123"
    ]
    job.to_end(stop_at="P4")
    job.record("running_check", reads=[("current", n, 18.9, "A") for n in "123"])
    found = job.evaluate().finding("proof_amps")
    assert found is not None
    assert found.line is not None
    assert found.verdict is Verdict.GOOD
    assert found.line.value.value == pytest.approx(3.846, abs=0.001)
    job.record("running_check", reads=[("current", n, 18.9, "A") for n in "12"])
    found = job.evaluate().finding("proof_amps")
    assert found is not None
    assert found.verdict is Verdict.UNKNOWN, "one conductor was not read"


def test_a_service_is_proved_inside_its_range_for_its_minutes() -> None:
    about = {"service": "tank flow", "no_service": "no", "service_low": {"text": "40"}}
    job = told("J07", "base_mounted", **about, service_minutes={"text": "10 min"})
    job.to_end(stop_at="P9")
    job.passes(60)
    for minute, value, verdict in (
        ("2 min", "45", "unknown"),
        ("10 min", "45", "good"),
        ("11 min", "39", "act"),
    ):
        job.say(kind="service", **_typed({"minute": minute, "value": value}))
        found = job.evaluate().finding("proof_service")
        assert found is not None
        assert found.verdict.value == verdict


def test_what_the_set_lacks_is_asked_before_the_first_step() -> None:
    job = told("J05", "close_coupled", seal_kind="", pit=None)
    e = job.evaluate()
    assert {a.field for a in e.view.asks} == {"pit", "seal_kind"}
    job.done("I1")
    assert "does not count: Enter whether it is in a pit or a well." in says(job.evaluate())


def test_a_set_that_became_another_kind_is_told() -> None:
    job = told("J05", "close_coupled")
    job.kind = "wet_rotor"
    e = job.evaluate()
    assert [p.code for p in e.problems] == ["set_changed"]
    assert e.view.refuses
    assert e.verdict is Verdict.UNKNOWN


def test_the_order_of_arrival_says_nothing() -> None:
    job = told("J05", "close_coupled")
    job.to_end()
    whole = job.close()
    Random(4).shuffle(job.entries)
    assert job.evaluate() == whole


def test_what_a_closed_job_brings_about() -> None:
    job = told("J05", "close_coupled")
    job.to_end()
    job.say(kind="part", code="S-11", place="store", reserved=1, used=1, emergency=True)
    job.close()
    told_ = job.case()
    told_.context.parts["seal"] = told_.context.parts["motor"].model_copy(update={"kind": "seal"})
    out = JOB_BENCH.performs(told_, job.entries, True)
    dues = [x.at - told_.context.as_of for x in out if isinstance(x, DueDate)]
    assert dues == [timedelta(hours=1), timedelta(days=1), timedelta(days=7), timedelta(days=30)]
    assert [(x.part, x.used, x.reserved, x.emergency) for x in out if isinstance(x, PartsBooked)] == [
        ("S-11", 1, 0, 1)
    ]
    assert [x.event for x in out if isinstance(x, PartEvent)] == ["seal_repair"], (
        "the seal's past, not the motor's"
    )
    assert not any(x.on for x in out if isinstance(x, TemporaryChange))


def test_what_was_seen_before_the_last_part_went_back_proves_nothing() -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="J05.8")
    job.say(kind="arrow", right="yes")
    for minute in ("4 min", "31 min"):
        job.say(kind="drip", **_typed({"minute": minute, "drops": "0"}))
    e = job.to_end(stop_at="P3")
    assert e.finding("proof_direction") is None
    assert e.finding("proof_seal") is None
    job.say(kind="arrow", right="yes")
    found = job.evaluate().finding("proof_direction")
    assert found is not None
    assert found.verdict is Verdict.GOOD


def test_a_hold_ticked_before_its_record_is_not_met_by_a_later_one() -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="R3")
    job.done("R3", "Ben")
    job.record("insulation")
    e = job.evaluate()
    assert next(s.state for s in e.view.steps if s.id == "R3") == "now"
    assert "does not count" in says(e)
    job.done("R3", "Ben")
    assert next(s.state for s in job.evaluate().view.steps if s.id == "R3") == "done"


def test_a_check_to_watch_proves_no_good_current_and_no_good_voltage() -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="P4")
    job.record("running_check", "watch")
    e = job.evaluate()
    for rule in ("proof_amps", "proof_volts"):
        found = e.finding(rule)
        assert found is not None
        assert found.verdict is Verdict.WATCH


def test_nothing_befalls_a_part_that_this_set_never_had() -> None:
    """J14 frees a coupling where there is one; a close-coupled set has none."""
    job = told("J14", "close_coupled")
    job.to_end()
    job.close()
    case_ = job.case()
    assert "coupling" not in case_.context.parts
    events = {x.event for x in JOB_BENCH.performs(case_, job.entries, True) if isinstance(x, PartEvent)}
    assert "coupling_repair" not in events
    assert "coupling" in PROCEDURES["J14"].touches


def test_a_job_left_over_night_did_not_take_the_night() -> None:
    ticks = [("08:10:00", "I1"), ("08:40:00", "I2")]
    told = [{"kind": "done", "step": s, "by": "Ada", "at": f"2026-03-02T{at}+00:00"} for at, s in ticks]
    morning = {"kind": "done", "step": "I3", "by": "Ben", "at": "2026-03-03T08:40:00+00:00"}
    opened = {"kind": "open", "at": "2026-03-02T08:00:00+00:00"}
    past = past_job({"procedure": "J05", "entries": [opened, *told, morning]}, "close_coupled")
    assert past.steps == {"I1": 10.0, "I2": 30.0}
    assert (past.minutes, past.people) == (40.0, 2)


def test_minutes_count_from_when_the_set_was_given_back() -> None:
    """Parts that lay on the set over night have not run over night."""
    job = told("J05", "close_coupled")
    job.to_end(stop_at="P2")
    job.passes(15 * 60)
    job.to_end(stop_at="P6")
    for minute in ("4 min", "31 min"):
        job.say(kind="drip", **_typed({"minute": minute, "drops": "0"}))
    found = job.evaluate().finding("proof_seal")
    assert found is not None
    assert found.verdict is Verdict.UNKNOWN
    assert "after the set was returned to service" in write(found.reason)


def test_a_minute_that_has_not_come_proves_nothing() -> None:
    job = told("J05", "close_coupled")
    job.to_end(stop_at="P6")
    for minute, drops in (("4 min", "0"), ("500 min", "0")):
        job.say(kind="drip", **_typed({"minute": minute, "drops": drops}))
    e = job.evaluate()
    found = e.finding("proof_seal")
    assert found is not None
    assert found.verdict is Verdict.UNKNOWN
    assert "that minute had not come" in write(found.reason)
    job.done("P6")
    assert next(s.state for s in job.evaluate().view.steps if s.id == "P6") == "now"
    job.say(kind="drip", **_typed({"minute": "501 min", "drops": "9"}))
    found = job.evaluate().finding("proof_seal")
    assert found is not None
    assert found.verdict is Verdict.ACT, "a leak is a leak at any minute"
