"""Ready to energise: no line counts that is missing, older than the fault or the last work, or bad."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from hurbin_core.base import Verdict
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
        "fault_at": FAULT,
        "kind": "base_mounted",
        "control_kind": "starter",
        "answers": answered(),
        "fields": OVERLOAD,
    }
    return ReadyFacts(**{**given, **more})


def wanting(f: ReadyFacts) -> set[str]:
    return {x.id for x in ready(f) if not x.done}


def test_without_a_fault_nothing_is_asked_and_with_everything_nothing_is_wanting() -> None:
    assert ready(facts(fault_at=None, answers={})) == []
    assert wanting(facts()) == set()
    assert {x.id for x in ready(facts())} == {"fuses", "ohms", "insulation", "shaft", "overload", "covers"}


@pytest.mark.parametrize("line", [r for r in READY.values() if r.questions], ids=lambda r: r.id)
def test_each_answer_that_is_missing_old_or_bad_keeps_its_line_open(line: Any) -> None:
    set_like = {
        "phases": 1 if line.when == "single_phase" else 3,
        "control_kind": "drive" if line.when == "drive" else "starter",
    }
    whole = answered()
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
