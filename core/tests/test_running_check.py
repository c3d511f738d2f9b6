"""The running check's judgement, question by question. Limits are those of its data files, named there."""

from __future__ import annotations

from datetime import timedelta
from itertools import permutations

import pytest
from conftest import KEY, NOW, e, entry, judge_check, past, plate, shown, verdicts
from hypothesis import given, settings, strategies as st

from hurbin_core.base import Override, Verdict, show
from hurbin_core.electrical import RunningCheckEntry
from hurbin_core.electrical.view import PlateView
from hurbin_core.logbook import Cut, PastSheet, Twin


def text_of(evaluation: object, question: str) -> str:
    return next(f.reason for f in shown(evaluation).findings if f.question == question)  # type: ignore[arg-type]


def test_a_healthy_set_is_good_throughout() -> None:
    said = judge_check(entry(), history=past([15, 15.1, 14.9, 15]))
    assert set(verdicts(said).values()) == {"good"}
    assert said.verdict is Verdict.GOOD
    assert not said.problems
    assert not said.missing


@pytest.mark.parametrize(
    ("amps", "verdict"),
    [
        ((20, 19.9, 20), "good"),
        ((22.9, 22.8, 23.0), "watch"),
        ((24, 24, 23.9), "act"),
        ((25, 24.9, 24.9), "act"),
        ((25.1, 25, 25), "stop"),
    ],
)
def test_load_steps(amps: tuple[float, ...], verdict: str) -> None:
    """Plate 20 A, service factor 1.15: up to 20 good, to 23 watch, to 25 act, above stop; a limit's own value
    passes.
    """
    assert verdicts(judge_check(entry(amps=amps)))["load"] == verdict


def test_service_factor_amps_of_the_plate_count_before_the_product() -> None:
    said = judge_check(entry(amps=(22, 22, 22.1)), motor=plate(sf_amps_low=e(21.5, "A")))
    assert verdicts(said)["load"] == "act"
    assert any("from nameplate" in n for f in shown(said).findings for n in f.notes)


@pytest.mark.parametrize(
    "context",
    [
        {"control_kind": "drive", "motor": plate()},
        {"altitude_m": 1200.0},
        {"motor": plate(service_factor=None)},
    ],
)
def test_where_the_service_factor_is_void(context: dict) -> None:
    body = entry(amps=(21, 21, 21.1), speed=e(50, "Hz"))
    assert verdicts(judge_check(body, **context))["load"] == "act"


def test_hot_room_and_drive_that_grants_it() -> None:
    assert verdicts(judge_check(entry(amps=(21, 21, 21.1), ambient=e(43, "degC"))))["load"] == "act"
    granted = judge_check(
        entry(amps=(21, 21, 21.1), speed=e(50, "Hz")), control_kind="drive", motor=plate(sf_on_drive=True)
    )
    assert verdicts(granted)["load"] == "watch"


def test_voltage_unbalance_steps_and_derating() -> None:
    for volts, verdict in (
        ((400, 404, 396), "good"),
        ((400, 406, 394), "watch"),
        ((400, 412, 388), "act"),
        ((400, 424, 376), "stop"),
    ):
        assert verdicts(judge_check(entry(volts=volts)))["voltage_unbalance"] == verdict
    said = shown(judge_check(entry(volts=(400, 412, 388))))
    assert any("88 %" in n for f in said.findings for n in f.notes)


def test_the_other_school_is_judged_by_its_own_limit() -> None:
    """A spread that the plain form calls good and the negative sequence does not."""
    volts = (400, 404, 396)
    chosen = Override(
        limit="school.voltage_unbalance", choice="true", reason="rotor heating", by="a lead", at=NOW
    )
    assert verdicts(judge_check(entry(volts=volts)))["voltage_unbalance"] == "good"
    said = judge_check(entry(volts=volts), overrides=[chosen])
    assert verdicts(said)["voltage_unbalance"] == "watch"
    assert {"voltage_unbalance", "voltage_unbalance_true"} <= said.values.keys()


@pytest.mark.parametrize(
    ("volts", "verdict"), [(400, "good"), (381, "good"), (361, "watch"), (355, "act"), (230, "stop")]
)
def test_line_volts_against_the_plate(volts: float, verdict: str) -> None:
    assert verdicts(judge_check(entry(volts=(volts, volts + 1, volts - 1))))["line_voltage"] == verdict


def test_nearly_ten_under_is_watch() -> None:
    """Handbook: a 230 V motor on a 208 V system stands at −9.6 %, with no room left."""
    said = judge_check(entry(volts=(208, 208, 207.9)), motor=plate(volts_low=e(230, "V")))
    assert verdicts(said)["line_voltage"] == "watch"
    assert "9.5" in text_of(said, "line_voltage") or "9.6" in text_of(said, "line_voltage")


@pytest.mark.parametrize(
    ("amps", "verdict"),
    [
        ((15, 15.7, 14.3), "good"),
        ((15, 16.4, 13.6), "watch"),
        ((15, 16.8, 13.2), "act"),
        ((18, 14, 14), "stop"),
        ((15.1, 15, 2), "unjudged"),
    ],
)
def test_current_unbalance(amps: tuple[float, ...], verdict: str) -> None:
    said = verdicts(judge_check(entry(amps=amps)))
    assert said.get("current_unbalance", "unjudged") == verdict


def test_single_phasing_at_any_load() -> None:
    for amps in ((15, 15.1, 2.9), (1.5, 1.5, 0.2), (15, 15, 0)):
        said = judge_check(entry(amps=amps))
        assert verdicts(said)["single_phasing"] == "stop"
        assert said.view.advice[0].cause == "single_phasing"
    assert verdicts(judge_check(entry(amps=(15, 15, 3.1))))["single_phasing"] == "good"


def test_zero_volts_is_a_finding_not_a_gap() -> None:
    assert verdicts(judge_check(entry(volts=(400, 0, 0))))["single_phasing"] == "stop"
    dead = judge_check(entry(volts=(0, 0, 0), amps=(0, 0, 0)))
    assert verdicts(dead)["line_voltage"] == "act"
    assert "does not prove anything dead" in text_of(dead, "line_voltage")


def test_light_load_softens_act_only() -> None:
    light = (6, 6.7, 5.3)
    assert verdicts(judge_check(entry(amps=light)))["current_unbalance"] == "watch"
    assert verdicts(judge_check(entry(amps=light, volts=(400, 410, 390))))["current_unbalance"] == "act"
    assert verdicts(judge_check(entry(amps=(7.2, 5.6, 5.6))))["current_unbalance"] == "stop"


def test_missing_is_missing() -> None:
    said = judge_check(entry(amps=(15, 15, None)))
    assert verdicts(said)["current_unbalance"] == "unknown"
    assert verdicts(said)["load"] == "unknown"
    assert [m.field for m in said.missing] == ["amps_3"]
    over = judge_check(entry(amps=(24, 24, None)))
    assert verdicts(over)["load"] == "act"


def test_the_drawn_motor_carries_the_plate_of_the_connection_in_use() -> None:
    both = {
        "volts_low": e(230, "V"),
        "volts_high": e(400, "V"),
        "amps_low": e(34, "A"),
        "amps_high": e(20, "A"),
    }
    for connection, volts, amps in (("low", "230", "34"), ("high", "400", "20")):
        motor = plate(connection=connection, **both)
        got = judge_check(RunningCheckEntry(), motor=motor).view.plate
        assert (show(got.volts), show(got.amps)) == (f"{volts}\u00a0V", f"{amps}\u00a0A")
    assert judge_check(RunningCheckEntry(), motor=None).view.plate == PlateView()


def test_missing_plate_amps_is_named() -> None:
    said = judge_check(entry(), motor=plate(amps_low=None))
    assert verdicts(said)["load"] == "unknown"
    assert "Enter the nameplate current" in text_of(said, "load")
    assert said.verdict is Verdict.UNKNOWN


def test_a_drives_input_is_not_the_motors_current() -> None:
    said = judge_check(entry(read_at="drive_input", speed=e(45, "Hz")), control_kind="drive")
    assert verdicts(said)["load"] == "unknown"


def test_drive_volts_are_held_in_proportion() -> None:
    said = judge_check(
        entry(volts=(360, 361, 359), read_at="drive_output", speed=e(45, "Hz")), control_kind="drive"
    )
    assert verdicts(said)["line_voltage"] == "good"


@pytest.mark.parametrize(
    ("amps", "verdict"),
    [
        (15.0, "good"),
        (15.74, "good"),
        (15.9, "watch"),
        (16.4, "watch"),
        (16.6, "act"),
        (14.3, "good"),
        (14.1, "watch"),
    ],
)
def test_own_past(amps: float, verdict: str) -> None:
    said = judge_check(entry(amps=(amps, amps + 0.1, amps - 0.1)), history=past([15, 15.2, 14.8, 15, 14.9]))
    assert verdicts(said)["own_past"] == verdict


def test_own_past_wants_three_like_checks() -> None:
    two = judge_check(entry(), history=past([15, 15]))
    assert "own_past" not in verdicts(two)
    assert "2 of 3" in shown(two).waiting[0]
    for other in (past([15] * 4, conditions=KEY.replace("open", "shut")), past([15] * 4, volts=415)):
        assert "own_past" not in verdicts(judge_check(entry(), history=other))
    cut = Cut(at=NOW - timedelta(days=45), kind="motor_change")
    assert "own_past" not in verdicts(judge_check(entry(), history=past([15] * 5), cuts=[cut]))


def test_steady_rise_is_watch_below_plate() -> None:
    said = judge_check(entry(amps=(15.5, 15.5, 15.5)), history=past([15, 15, 15.1, 15.2, 15.35]))
    assert verdicts(said)["own_past"] == "watch"
    assert "up at each of the last four" in text_of(said, "own_past")


def test_unbalance_that_climbs() -> None:
    history = past([15] * 5, unbalance=[0.5, 0.5, 1.0, 1.6, 2.2])
    said = judge_check(entry(amps=(15, 15.5, 14.5)), history=history)
    assert verdicts(said)["own_unbalance"] == "watch"


def test_causes_say_what_a_repair_leaves() -> None:
    high = judge_check(entry(amps=(21.5, 21.4, 21.6)))
    assert high.view.advice[0].cause == "balanced_high"
    assert next(f for f in high.findings if f.question == "load").part == "pump"
    supply = judge_check(entry(volts=(400, 404, 396), amps=(15, 16.2, 13.8)))
    assert supply.view.advice[0].cause == "supply"
    both = judge_check(entry(amps=(21, 24.4, 21)))
    assert "stay two" in shown(both).view.advice[0].leaves[-1]
    low = judge_check(entry(volts=(372, 371, 373), amps=(21.5, 21.4, 21.6)))
    assert low.view.advice[0].cause == "low_volts"


def test_voltage_adjusted_load() -> None:
    """Common practice: on 4 % high volts the same amps mean about 4 % more load."""
    said = judge_check(entry(volts=(416, 416, 416), amps=(15, 15, 15.0)))
    assert said.values["load_adjusted"].value == pytest.approx(75 * 1.04)


def test_questions_for_the_odd() -> None:
    same = shown(judge_check(entry(amps=(15, 15, 15))))
    assert any("exactly equal" in q for q in same.questions)
    odd_sf = shown(judge_check(entry(), motor=plate(service_factor=e(1.2))))
    assert any("unusual" in q for q in odd_sf.questions)
    assert any("same with a service factor" in n for f in odd_sf.findings for n in f.notes)


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        ({"volts_12": e(4000, "V")}, "volts_12", "not possible"),
        ({"amps_2": e(-3, "A")}, "amps_2", "negative"),
        ({"volts_31": e(900, "V")}, "volts_31", "do not fit together"),
        ({"amps_1": e("1,234", "A")}, "amps_1", "two ways"),
        ({"amps_1": e("OL", "A")}, "amps_1", "range"),
        ({"amps_1": e("abc", "A")}, "amps_1", "not a number"),
        ({"valve": "throttled", "valve_turns": e(9), "valve_turns_full": e(6)}, "valve_turns", "6 turns"),
        ({"amps_3": e(500, "A")}, "amps_3", "stall"),
    ],
)
def test_impossible_is_refused_by_field(change: dict, field: str, words: str) -> None:
    said = judge_check(entry(**change))
    problem = next(p for p in said.problems if p.field == field)
    assert words in problem.message
    assert problem.value == change[field].text


def test_twin_and_last_stand_behind_and_are_crossed_out() -> None:
    body = {"amps_1": {"text": "14.2", "unit": "A"}}
    twin = Twin(tag="B-2", last=PastSheet(taken_at=NOW, body=body, conditions=KEY.replace("open", "shut")))
    said = judge_check(entry(), last=PastSheet(taken_at=NOW, body=body, conditions=KEY), twin=twin)
    assert {(g.whose, g.differs) for g in said.ghosts} == {("last", ""), ("B-2", "other valve")}


def test_override_shows_where_it_is_used() -> None:
    own = Override(limit="own_past.rise_watch", value=8, unit="%", reason="tide", by="a lead", at=NOW)
    said = judge_check(entry(amps=(16, 16, 16.1)), history=past([15] * 5), overrides=[own])
    found = next(f for f in said.findings if f.question == "own_past")
    assert found.verdict is Verdict.GOOD
    assert found.limits[0].override is not None
    assert found.limits[0].standard_value == 5


def test_nothing_typed_is_judged_as_nothing() -> None:
    said = judge_check(RunningCheckEntry())
    assert said.findings == []
    assert said.points == []
    assert said.verdict is Verdict.UNKNOWN


@settings(max_examples=40, deadline=None)
@given(st.tuples(*[st.floats(380, 420)] * 3), st.tuples(*[st.floats(1, 30)] * 3))
def test_permuting_legs_permutes_the_answer(volts: tuple[float, ...], amps: tuple[float, ...]) -> None:
    base = verdicts(judge_check(entry(volts=volts, amps=amps)))
    for order in permutations(range(3)):
        turned = entry(volts=tuple(volts[i] for i in order), amps=tuple(amps[i] for i in order))
        assert verdicts(judge_check(turned)) == base


def test_a_leg_is_drawn_no_better_than_its_load_is_judged() -> None:
    said = judge_check(entry(valve=None))
    assert {m.verdict for m in said.view.marks if m.name.startswith("amps")} == {Verdict.UNKNOWN}
    over = judge_check(entry(amps=(26, 26, 26.1), valve=None))
    assert {m.verdict for m in over.view.marks if m.name.startswith("amps")} == {Verdict.STOP}


def test_single_phase_has_no_unbalance() -> None:
    body = entry(volts=(230,), amps=(2.1,))
    said = judge_check(body, motor=plate(phases=1, volts_low=e(230, "V"), amps_low=e(2.5, "A")))
    assert set(verdicts(said)) == {"line_voltage", "load"}
    assert said.missing == []


def test_every_point_has_its_measurand() -> None:
    from hurbin_core.base import MEASURANDS

    assert {p.measurand for p in judge_check(entry()).points} <= set(MEASURANDS)
