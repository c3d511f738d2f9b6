"""Which check of a set is due when."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from hurbin_core.catalogue import benches
from hurbin_core.logbook import due_next
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
