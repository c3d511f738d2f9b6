"""What is offered on a set that stands like this. The table is written by hand, not read from the gates' own
data.
"""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from cases import case
from test_making_safe import CASE, FACTS, LIST, T0, Story, source

from hurbin_core.base import RULES, HurbinError, Limits, Verdict, entry_of, write
from hurbin_core.catalogue import bench, benches
from hurbin_core.logbook import Entry, InterimLimit, Standing
from hurbin_core.plant import MotorPlate
from hurbin_core.safety import (
    COMPLAINTS,
    ENDS,
    OFFERS,
    ChangeState,
    DeferralIn,
    Isolation,
    SafetyFacts,
    SetFacts,
    StandingStop,
    Tag,
    TrialRun,
    TwinState,
    Waiver,
    age,
    ask,
    change_words,
    check_back_words,
    check_trial,
    check_waiver,
    fold,
    interim,
    leading,
    matter_words,
    read_out,
    standby_clock,
    stop_words,
    threat,
)


def standing(what: str) -> Isolation:
    s = Story()
    if what == "nothing":
        return Isolation()
    scope = {"coupling": "coupling", "wet": "wet_end"}.get(what, "motor_leads")
    locks = s.isolate(scope)
    if what in ("proved", "live", "worked", "coupling", "wet"):
        s.prove()
    if what == "live":
        s.add("volts_seen", live_volts={"text": "231", "unit": "V"})
    if what == "worked":
        s.add("work")
    if what == "half":
        s.add("unlock", lock=locks["Ada/supply"])
    return s.fold()


def drive_box(read: str | None) -> Isolation:
    s = Story()
    s.add(
        "open",
        scope="drive_box",
        sources=[
            *LIST,
            source("drive_bus", "waited"),
            {"id": "by", "kind": "bypass_starter", "absent": True},
        ],
    )
    for name in ("supply", "control_supply", "turning_by_flow", "drive_bus"):
        s.add("shut", source=name)
        s.add("lock", source=name)
    if read is not None:
        s.add("released", source="drive_bus", reading={"text": read, "unit": "V"})
    s.prove()
    return fold(s.entries, SetFacts(drive=True, partner="B-2"))


# act, how the set stands, is it offered
TABLE = [
    ("live_test", "nothing", True),
    ("running_test", "nothing", True),
    ("running_test", "isolated", False),
    ("live_test", "isolated", False),
    ("live_test", "proved", False),
    ("live_test", "live", False),
    ("live_test", "half", False),
    ("run", "nothing", True),
    ("run", "proved", False),
    ("energise", "half", False),
    ("energise", "coupling", False),
    ("insulation_test", "nothing", False),
    ("insulation_test", "isolated", False),
    ("insulation_test", "proved", True),
    ("insulation_test", "worked", False),
    ("insulation_test", "live", False),
    ("dead_test", "proved", True),
    ("dead_test", "half", False),
    ("dead_test", "coupling", False),
    ("open_leads", "isolated", False),
    ("open_leads", "proved", True),
    ("open_leads", "worked", False),
    ("hands_on_coupling", "nothing", False),
    ("hands_on_coupling", "proved", False),
    ("hands_on_coupling", "coupling", True),
    ("hands_on_coupling", "live", False),
    ("turn_by_hand", "coupling", True),
    ("turn_by_hand", "wet", False),
    ("open_wet_end", "wet", True),
    ("open_wet_end", "coupling", False),
    ("open_wet_end", "nothing", False),
    ("hands_on_coupling", "isolated", False),
    ("turn_by_hand", "isolated", False),
    ("replace_fuse", "isolated", False),
    ("open_drive_box", "proved", False),
    ("enter_well", "nothing", False),
    ("enter_well", "proved", False),
    ("close", "nothing", True),
]


@pytest.mark.parametrize(("act", "what", "offered"), TABLE)
def test_what_is_offered(act: Any, what: str, offered: bool) -> None:
    facts = SafetyFacts(isolation=standing(what), kind="base_mounted", worker="ada", qualified=["live_tests"])
    answer = ask(act, facts)
    assert answer.offered is offered
    assert all(s.asks for s in answer.shut)


def stops(*questions: str, **more: Any) -> list[StandingStop]:
    return [StandingStop(question=q, **more) for q in questions]


# Unsafe orders, each stopped: what is asked for, what is on record, the gate that says no.
UNSAFE = [
    ("run", {"changes": ["guard_off"]}, "guard"),
    ("energise", {"kind": "positive_displacement", "changes": ["valve_shut"]}, "positive_displacement"),
    ("run", {"stops": stops("insulation")}, "stop_standing"),
    ("replace_fuse", {"stops": stops("insulation_legs"), "checked_below_fuse": True}, "stop_standing"),
    ("run", {"stops": stops("load")}, "stop_standing"),
    ("energise", {"stops": stops("vibration_pump")}, "stop_standing"),
    ("reset_overload", {}, "second_reset"),
    ("replace_fuse", {"checked_below_fuse": True}, "prove_dead"),
    ("open_leads", {"isolation": standing("proved"), "worker": "ben"}, "own_lock"),
    ("insulation_test", {"isolation": standing("proved")}, "own_lock"),
    ("reset_overload", {"resets": 1}, "second_reset"),
    ("replace_fuse", {}, "fuse_below"),
    ("close", {"changes": ["jumper"]}, "temporary_change"),
    ("enter_well", {}, "confined_space"),
    ("insulation_test", {"electronics": True, "isolation": standing("proved")}, "electronics"),
    ("open_drive_box", {"isolation": drive_box(None)}, "drive_bus"),
    ("open_drive_box", {"isolation": drive_box("61")}, "drive_bus"),
]


@pytest.mark.parametrize(("act", "facts", "gate"), UNSAFE)
def test_an_unsafe_order_is_stopped(act: Any, facts: dict[str, Any], gate: str) -> None:
    assert gate in [s.gate for s in ask(act, SafetyFacts(**facts)).shut]


@pytest.mark.parametrize(
    ("act", "facts"),
    [
        ("run", {}),
        ("reset_overload", {"resets": 0}),
        ("energise", {"kind": "base_mounted", "changes": ["valve_shut"]}),
        ("reset_overload", {"resets": 1, "looked_at_since_reset": True}),
        ("replace_fuse", {"checked_below_fuse": True, "isolation": standing("proved"), "worker": "ada"}),
        ("open_drive_box", {"isolation": drive_box("12"), "worker": "ada"}),
    ],
)
def test_what_is_not_stopped(act: Any, facts: dict[str, Any]) -> None:
    assert ask(act, SafetyFacts(**facts)).offered


LIFE = [
    "prove_dead",
    "own_lock",
    "isolated_for_scope",
    "live_on_isolated",
    "drive_bus",
    "electronics",
    "pressure",
    "positive_displacement",
    "guard",
    "stop_standing",
    "confined_space",
]


def test_every_stop_names_what_ends_it() -> None:
    """A rule that can say stop says what ends it; the other definition of voltage unbalance answers
    the same question.
    """
    asked = {r.id for r in RULES.values() if Verdict.STOP in r.by}
    assert asked <= set(ENDS)
    never = {
        "insulation",
        "insulation_falling",
        "guard_while_running",
        "live_on_isolated",
        "hub_fixing",
    }
    assert not any(ENDS[q].trial for q in never)


def test_a_step_nobody_knows_is_not_offered() -> None:
    answer = ask("fly", SafetyFacts())  # type: ignore[arg-type]
    assert (answer.offered, answer.shut[0].life) == (False, True)


def test_a_watched_trial_run_after_a_recorded_repair() -> None:
    """Never for insulation or a guard; for amps and vibration once the
    repair is on record.
    """
    trial = TrialRun(
        questions=["load", "insulation", "guard_while_running"],
        limits="over 20 A on a leg",
        minutes=10,
        by="Lea",
        until=T0 + timedelta(hours=1),
    )
    for question, repaired, at, offered in (
        ("load", True, T0, True),
        ("load", False, T0, False),
        ("load", True, T0 + timedelta(hours=1), False),
        ("load", True, None, False),
        ("insulation", True, T0, False),
        ("guard_while_running", True, T0, False),
        ("vibration_pump", True, T0, False),
    ):
        facts = SafetyFacts(stops=stops(question, repaired=repaired), trials=[trial], as_of=at)
        assert ask("run", facts).offered is offered, (question, repaired, at)
    two = SafetyFacts(
        stops=[*stops("load", repaired=True), *stops("insulation", repaired=True)], trials=[trial], as_of=T0
    )
    assert not ask("run", two).offered
    assert check_trial(stops("load", "vibration_motor", repaired=True), 10, "over 20 A") == [
        "load",
        "vibration_motor",
    ]
    for standing_, minutes, limits, code in (
        ([], 10, "x", "no_stop"),
        (stops("insulation", repaired=True), 10, "x", "trial_never"),
        (stops("insulation", repaired=True), 10, "x", "trial_never"),
        (stops("load"), 10, "x", "repair_missing"),
        (stops("load", repaired=True), 0, "x", "minutes_wrong"),
        (stops("load", repaired=True), 61, "x", "minutes_wrong"),
        (stops("load", repaired=True), 10, " ", "limits_missing"),
    ):
        with pytest.raises(HurbinError) as refused:
            check_trial(standing_, minutes, limits)
        assert refused.value.code == code
    words = stop_words([*stops("insulation"), *stops("load"), *stops("never_heard_of")])
    assert [
        "insulation test" in words[0].ends,
        words[0].trial,
        words[1].trial,
        words[1].waits,
        words[2].trial,
    ] == [True, False, True, "a recorded repair", False]


@pytest.mark.parametrize("gate", LIFE)
def test_a_life_gate_is_never_set_aside(gate: str) -> None:
    with pytest.raises(HurbinError, match="a life depends on it"):
        check_waiver(gate, "in a hurry", T0 + timedelta(days=1), T0)
    sneaked = [Waiver(gate=gate, reason="x", by="x", until=T0 + timedelta(days=1))]
    for act, facts, shut in UNSAFE:
        if shut == gate:
            assert not ask(act, SafetyFacts(**facts, waivers=sneaked, as_of=T0)).offered  # type: ignore[arg-type]


def test_another_gate_is_set_aside_by_a_lead_with_reason_and_end() -> None:
    check_waiver("second_reset", "watched from the panel", T0 + timedelta(days=1), T0)
    for until, reason in ((T0, "x"), (T0 + timedelta(days=40), "x"), (T0 + timedelta(days=1), " ")):
        with pytest.raises(HurbinError):
            check_waiver("second_reset", reason, until, T0)
    waiver = Waiver(gate="second_reset", reason="watched", by="Lea", until=T0 + timedelta(hours=4))
    assert ask("reset_overload", SafetyFacts(resets=1, waivers=[waiver], as_of=T0)).waived == [waiver]
    assert not ask(
        "reset_overload", SafetyFacts(resets=1, waivers=[waiver], as_of=T0 + timedelta(hours=4))
    ).offered


# Volts on an isolated set, whatever bench they are entered on.
PLATE = MotorPlate.model_validate(
    {"volts_low": {"text": "400", "unit": "V"}, "amps_low": {"text": "20", "unit": "A"}}
)


def running(volts: str, amps: str = "15", **context: Any) -> Any:
    b = bench("running_check")
    body = entry_of(
        b.entry,
        {
            "read_at": "motor_leads",
            "valve": "open",
            "coupled": True,
            **{f"volts_{k}": {"text": volts, "unit": "V"} for k in ("12", "23", "31")},
            **{f"amps_{k}": {"text": amps, "unit": "A"} for k in "123"},
        },
    )
    return b.evaluate(case(T0, motor=PLATE, **context), [Entry[Any](uuid="12345678", taken_at=T0, body=body)])


@pytest.mark.parametrize(
    ("state", "volts", "stopped"),
    [
        ("isolated", "400", True),
        ("proved", "400", True),
        ("proved", "12", True),
        ("live", "400", True),
        ("proved", "1", False),
        ("proved", "0", False),
        ("isolating", "400", False),
        ("giving_back", "400", False),
        ("", "400", False),
    ],
)
def test_volts_on_an_isolated_set_are_a_stop_whatever_else_was_read(
    state: str, volts: str, stopped: bool
) -> None:
    isolation = Standing(state=state, sheet="s", since=T0) if state else None
    e = running(volts, amps="0.1", isolation=isolation)
    said = [f for f in e.findings if f.question == "live_on_isolated"]
    assert bool(said) is stopped
    if stopped:
        assert e.findings[0] == said[0]
        assert e.verdict is Verdict.STOP
        assert "Treat as live, prove dead again" in write(said[0].reason)
        assert len(e.points) > 3  # what was seen is recorded as ever


@pytest.mark.parametrize(
    ("amps", "verdict"), [("17.9", Verdict.GOOD), ("18", Verdict.GOOD), ("18.1", Verdict.STOP)]
)
def test_a_repair_put_off_is_watched_by_later_records(amps: str, verdict: Verdict) -> None:
    limit = InterimLimit(
        measurand="current",
        leg="1",
        value=18,
        unit="A",
        does="stop it, start the twin",
        until=T0 + timedelta(days=5),
    )
    e = running("400", amps, interim=[limit])
    found = next(f for f in e.findings if f.question == "interim_limit")
    assert found.verdict is verdict
    assert ("stop it, start the twin" in write(found.reason)) == (verdict is Verdict.STOP)
    assert not [
        f
        for f in running(
            "400", amps, interim=[limit.model_copy(update={"measurand": "insulation_40"})]
        ).findings
        if f.question == "interim_limit"
    ]


def test_an_overdue_limit_never_holds_and_two_limits_answer_each_for_itself() -> None:
    one = InterimLimit(
        measurand="current", leg="1", value=18, unit="A", does="stop it", until=T0 - timedelta(days=1), id="a"
    )
    two = InterimLimit(
        measurand="current", leg="2", value=14, unit="A", does="stop it", until=T0 + timedelta(days=1), id="b"
    )
    told = {
        f.subject: f.verdict
        for f in running("400", "15", interim=[one, two]).findings
        if f.question == "interim_limit"
    }
    assert told == {"a": Verdict.ACT, "b": Verdict.STOP}


def deferral(**more: Any) -> DeferralIn:
    return DeferralIn.model_validate(
        {
            "part": "control",
            "what": "a warm joint",
            "reason": "part ordered",
            "until": T0 + timedelta(days=9),
            "standby": "runs",
            "changes_mind": "warmer than 20 K",
            "limits": [
                {"measurand": "current", "leg": "1", "value": {"text": "52", "unit": "A"}, "does": "stop it"}
            ],
            **more,
        }
    )


def test_deferring_is_a_decision_with_a_figure_and_a_day() -> None:
    assert interim(deferral(), T0)[0].value == 52
    low = interim(
        deferral(
            limits=[
                {
                    "measurand": "insulation_40",
                    "floor": True,
                    "value": {"text": "20", "unit": "MOhm"},
                    "does": "stop it",
                }
            ]
        ),
        T0,
    )[0]
    assert (low.floor, low.value) == (True, 20)
    for more, code in (
        ({"until": T0}, "until_past"),
        ({"limits": []}, "limit_missing"),
        ({"limits": [{"measurand": "mood", "value": {"text": "3"}, "does": "stop it"}]}, "figure_unknown"),
        (
            {"limits": [{"measurand": "current", "value": {"text": "much", "unit": "A"}, "does": "stop it"}]},
            "not_a_number",
        ),
        (
            {"limits": [{"measurand": "current", "value": {"text": "5", "unit": "V"}, "does": "stop it"}]},
            "unit_wrong",
        ),
    ):
        with pytest.raises(HurbinError) as refused:
            interim(deferral(**more), T0)
        assert refused.value.code == code


@pytest.mark.parametrize(
    ("complaint", "serves", "against", "single", "verdict", "words"),
    [
        ("noise", "animals", None, True, Verdict.STOP, "no circulation for the animals"),
        ("noise", "animals", "isolated", False, Verdict.STOP, "no standby available"),
        ("noise", "animals", "", False, Verdict.ACT, "nothing recorded against it"),
        ("will_not_start", "process", "", False, Verdict.WATCH, "nothing recorded against it"),
        ("will_not_start", "heat", None, True, Verdict.ACT, "no heat for people"),
        ("smoke", "other", "", False, Verdict.STOP, "nothing recorded against it"),
        ("water", "sewage", None, True, Verdict.STOP, "sewage backs up"),
    ],
)
def test_what_a_call_threatens(
    complaint: str, serves: str, against: str | None, single: bool, verdict: Verdict, words: str
) -> None:
    twins = [] if against is None else [TwinState(tag="B-2", against=against)]
    t = threat([complaint], serves, twins, single, "B-1")
    assert t.verdict is verdict
    assert words.lower() in " ".join(s if isinstance(s, str) else write(s) for s in t.says).lower()
    assert t.first[0] == COMPLAINTS[complaint].first
    assert ("Start B-2 in its place." in t.first) == (against == "")
    assert t.first[-1].startswith("Tell ")


def test_ages_changes_clocks_and_check_backs() -> None:
    assert [age(T0, T0 + timedelta(minutes=m)) for m in (0, 119, 120, 2879, 2880)] == [
        "0 min",
        "119 min",
        "2 h",
        "47 h",
        "2 days",
    ]
    for days, verdict in ((7, Verdict.WATCH), (7.1, Verdict.ACT)):
        said, words = change_words(
            ChangeState(kind="jumper", since=T0, by="Ada"), T0 + timedelta(days=days), Limits()
        )
        assert said is verdict
        assert write(words).startswith("Jumper, in place for 7 days, by Ada")
    for consequence, hours, verdict in (
        (3, 24, Verdict.WATCH),
        (3, 25, Verdict.ACT),
        (1, 25, Verdict.WATCH),
        (1, 24 * 15, Verdict.ACT),
    ):
        assert (
            standby_clock("B-2", "isolated", T0, consequence, T0 + timedelta(hours=hours), Limits())[0]
            is verdict
        )
    assert check_back_words(T0, "it was given back", T0)[0] is Verdict.ACT
    assert (
        write(check_back_words(T0 + timedelta(hours=3), "given back", T0)[1])
        == "Follow-up check in 3 h: given back."
    )
    assert matter_words([T0], T0) is None
    assert (
        write(matter_words([T0, T0], T0 + timedelta(hours=4)) or matter_words([T0, T0], T0))
        == "2 reports on this in 4 h."
    )  # type: ignore[arg-type]


def test_hand_over_reads_every_tag_out_once_worst_and_oldest_first() -> None:
    def tag(kind: Any, n: int, verdict: Verdict, days: int) -> Tag:
        return Tag(
            kind=kind, id=f"{kind}{n}", title=f"{kind} {n}", verdict=verdict, since=T0 - timedelta(days=days)
        )

    tags = [
        tag("checkback", 1, Verdict.WATCH, 1),
        tag("change", 1, Verdict.WATCH, 2),
        tag("change", 2, Verdict.ACT, 9),
        tag("change", 3, Verdict.ACT, 12),
        tag("live", 1, Verdict.STOP, 0),
    ]
    page = read_out(tags, T0)
    assert [c.title.split(":")[0] for c in page] == [
        "Not isolated",
        "Temporary changes in place",
        "Follow-up checks",
    ]
    assert [t.id for t in page[1].tags] == ["change3", "change2", "change1"]
    assert page[1].tags[0].age == "12 days"
    assert sum(len(c.tags) for c in page) == len(tags)
    assert read_out([], T0) == []
    assert [t.id for t in leading([*tags, tag("call", 1, Verdict.STOP, 1)])] == [
        "change2",
        "change3",
        "live1",
    ]


def test_a_stand_still_of_the_bench_names_what_the_rail_wants() -> None:
    e = bench("make_safe").evaluate(CASE, [])
    assert e.verdict is Verdict.UNKNOWN
    assert e.findings == []
    assert "Local codes" in write(e.cautions[0])
    assert SetFacts.of(CASE) == FACTS


def test_every_act_that_a_bench_waits_for_is_answered_on_the_set() -> None:
    """What nobody answers, no screen could keep back."""
    assert {b.act for b in benches() if b.act} <= set(OFFERS)
