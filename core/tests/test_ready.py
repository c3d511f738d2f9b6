"""Ready to energise: no line counts that is missing, older than the fault or the last work, or bad."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from hurbin_core.base import Entered, Limits, Verdict, write
from hurbin_core.electrical import against_supply
from hurbin_core.plant import MotorPlate
from hurbin_core.safety import READY, Answered, Isolation, ReadyFacts, SafetyFacts, ask, ready

FAULT = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
OVERLOAD = ["overload_setting", "overload_multiplier"]


def answered(after: float = 1, verdict: Verdict = Verdict.GOOD) -> dict[str, Answered]:
    """Every question of the list, answered so many hours after the fault."""
    questions = {q for line in READY.values() for q in line.questions}
    at = FAULT + timedelta(hours=after)
    return {q: Answered(verdict=verdict, taken_at=at, record=7) for q in questions}


def facts(**more: Any) -> ReadyFacts:
    given: dict[str, Any] = {
        "begun": {"fault": FAULT},
        "kind": "base_mounted",
        "control_kind": "starter",
        "answers": answered(),
        "fields": OVERLOAD,
    }
    return ReadyFacts(**{**given, **more})


def wanting(f: ReadyFacts) -> set[str]:
    return {x.id for x in ready(f) if not x.done}


def test_without_a_fault_nothing_is_asked_and_with_everything_nothing_is_wanting() -> None:
    assert ready(facts(begun={}, answers={})) == []
    assert wanting(facts()) == set()
    assert {x.id for x in ready(facts())} == {"fuses", "ohms", "insulation", "shaft", "overload", "covers"}


@pytest.mark.parametrize("line", [r for r in READY.values() if r.questions], ids=lambda r: r.id)
def test_each_answer_that_is_missing_old_or_bad_keeps_its_line_open(line: Any) -> None:
    set_like = {
        "phases": 1 if line.when == "single_phase" else 3,
        "control_kind": "drive" if line.when == "drive" else "starter",
    }
    whole = answered()
    set_like["begun"] = {line.lists[0]: FAULT}
    assert line.id not in wanting(facts(answers=whole, **set_like))
    for q in line.questions:
        without = {k: a for k, a in whole.items() if k != q}
        assert line.id in wanting(facts(answers=without, **set_like))
        before = whole | {q: Answered(verdict=Verdict.GOOD, taken_at=FAULT - timedelta(minutes=1))}
        assert line.id in wanting(facts(answers=before, **set_like))
        for bad in (Verdict.UNKNOWN, Verdict.ACT, Verdict.STOP):
            worse = whole | {q: Answered(verdict=bad, taken_at=FAULT + timedelta(hours=1))}
            assert line.id in wanting(facts(answers=worse, **set_like))


def test_what_was_tested_before_the_last_work_is_tested_again() -> None:
    worked = facts(work_at=FAULT + timedelta(hours=2))
    assert wanting(worked) == {"ohms", "insulation", "shaft", "covers"}
    assert wanting(facts(work_at=FAULT + timedelta(hours=2), answers=answered(after=3))) == set()


def test_the_overload_is_on_the_nameplate_whole() -> None:
    assert "overload" in wanting(facts(fields=["overload_setting"]))
    drive = facts(control_kind="drive", fields=[])
    assert "overload" not in {x.id for x in ready(drive)}
    assert "drive" in {x.id for x in ready(drive)}


def test_no_start_is_offered_while_a_line_is_open() -> None:
    def shut(lines: Any, act: Any) -> list[str]:
        told = SafetyFacts(isolation=Isolation(state="nothing"), ready=lines, as_of=FAULT)
        return [s.gate for s in ask(act, told).shut]

    for act in ("run", "energise"):
        assert "ready_to_energise" in shut(ready(facts(answers={})), act)
        assert "ready_to_energise" not in shut(ready(facts()), act)
    assert "ready_to_energise" not in shut(ready(facts(answers={})), "dead_test")


def first(**more: Any) -> ReadyFacts:
    return facts(begun={"first_start": FAULT}, **more)


def test_a_first_start_asks_for_leads_tests_protection_direction_and_a_free_turn() -> None:
    asked = {x.id for x in ready(first())}
    assert asked == {"leads", "ohms", "insulation", "protection", "direction", "shaft"}
    assert wanting(first()) == set()
    assert {x.id for x in ready(first(phases=1))} == {"ohms_single", "insulation", "protection", "shaft"}
    both = ready(facts(begun={"fault": FAULT, "first_start": FAULT}))
    assert {(x.list, x.id) for x in both} >= {("fault", "ohms"), ("first_start", "ohms")}


def test_a_motor_of_another_voltage_is_never_ready() -> None:
    wrong = first(against=["Stop. Not for this supply."])
    assert wanting(wrong) == {"supply"}
    assert ready(wrong)[0].heading


def test_a_first_start_waits_for_all_and_its_bump_for_all_but_the_direction() -> None:
    def shut(f: ReadyFacts, act: Any) -> bool:
        told = SafetyFacts(isolation=Isolation(state="nothing"), ready=ready(f), as_of=FAULT)
        return "first_start" in [s.gate for s in ask(act, told).shut]

    unproved = {q: a for q, a in answered().items() if q != "direction"}
    assert shut(first(answers=unproved), "run")
    assert not shut(first(answers=unproved), "bump")
    unjoined = {q: a for q, a in answered().items() if q != "lead_list"}
    for act in ("run", "energise", "bump"):
        assert shut(first(answers=unjoined), act)
        assert not shut(first(), act)
    assert not shut(first(answers={}), "dead_test")


@pytest.mark.parametrize(
    ("low", "high", "volts", "fits"),
    [
        ("400 V", None, 403, True),
        ("230 V", "400 V", 398, True),
        ("230 V", "460 V", 575, False),
        ("230 V", None, 400, False),
        (None, None, 400, True),
        ("400 V", None, 441, False),
    ],
)
def test_a_motor_is_for_a_supply_that_one_of_its_voltages_is_near(
    low: str | None, high: str | None, volts: float, fits: bool
) -> None:
    typed = {n: Entered(text=t) for n, t in (("volts_low", low), ("volts_high", high)) if t}
    said = against_supply(MotorPlate(**typed), volts, Limits())
    assert (said is None) is fits
    assert fits or "do not connect it" in write(said)


def test_what_ran_without_its_list_is_due_and_blocks_no_more() -> None:
    due = first(answers={}, ran=["first_start"])
    assert len(wanting(due)) == 6
    told = SafetyFacts(isolation=Isolation(state="nothing"), ready=ready(due), as_of=FAULT)
    assert "first_start" not in [s.gate for s in ask("run", told).shut]
    assert {x.heading for x in ready(due)} == {"This motor ran before everything was on record"}
