"""Which check of a set is due when, and what is past its date."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from hurbin_core.base import By, Verdict, phrase
from hurbin_core.catalogue import benches
from hurbin_core.logbook import PartVerdict, due_next, never_checked, overdue, worst_part_first
from hurbin_core.plant import kind

NOW = datetime(2026, 11, 14, 9, tzinfo=UTC)
SLOTS = kind("base_mounted").slots


def days(n: int) -> datetime:
    return NOW + timedelta(days=n)


def test_the_longest_overdue_comes_first_and_what_was_never_done_last() -> None:
    answers = [("insulation", days(90)), ("running_check", days(-3)), ("alignment", days(-40))]
    found = due_next(benches(), SLOTS, answers, NOW)
    assert [(d.bench.name, d.overdue) for d in found] == [
        ("alignment", True),
        ("running_check", True),
        ("insulation", False),
        ("vibration", False),
    ]
    assert found[-1].at is None


def test_the_first_answer_that_runs_out_decides() -> None:
    answers = [("running_check", days(30)), ("running_check", days(2)), ("running_check", days(9))]
    assert due_next(benches(), SLOTS, answers, NOW)[0].at == days(2)


def test_on_its_day_it_is_due_and_not_overdue() -> None:
    assert not due_next(benches(), SLOTS, [("insulation", NOW)], NOW)[0].overdue


def test_work_is_never_due_and_neither_is_what_the_set_cannot_have() -> None:
    names = {d.bench.name for d in due_next(benches(), kind("submersible").slots, [], NOW)}
    assert "make_safe" not in names
    assert "alignment" not in names
    assert "insulation" in names


def part(name: str, verdict: Verdict, by: By | None = None) -> PartVerdict:
    reason = phrase("overdue.never")
    return PartVerdict(part=name, verdict=verdict, by=by, question="load", reason=reason)


def test_what_is_past_its_date_says_that_nothing_of_it_counts() -> None:
    held = part("motor", Verdict.WATCH)
    assert not overdue(held, days(0), NOW).stale
    late = overdue(held, days(-1), NOW)
    assert (late.verdict, late.beside, late.stale) == (Verdict.UNKNOWN, Verdict.WATCH, True)
    assert not overdue(part("motor", Verdict.ACT), days(-1), NOW).stale, "an act stands, however old"
    assert never_checked(NOW).stale


def test_parts_are_read_from_the_worst_the_soonest_and_along_the_train() -> None:
    parts = [
        part("pump", Verdict.GOOD),
        part("supply", Verdict.GOOD),
        part("seal", Verdict.ACT, By.THIS_WEEK),
        part("pump", Verdict.ACT, By.THIS_SHIFT),
        part("motor", Verdict.STOP, By.NOW),
    ]
    order = [(p.part, p.verdict) for p in sorted(parts, key=worst_part_first)]
    assert [name for name, _ in order] == ["motor", "pump", "seal", "supply", "pump"]
