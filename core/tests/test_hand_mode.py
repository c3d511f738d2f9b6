"""Hand mode seen on a running check: what opens and closes the temporary change, and what is said of it."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from conftest import NOW, case, entry

from hurbin_core.base import SI, Effect, TemporaryChange, last_seen, present
from hurbin_core.catalogue import bench
from hurbin_core.electrical import RunningCheckEntry
from hurbin_core.logbook import AnyCase, Entry


def looked(standing: list[str], **said: Any) -> tuple[AnyCase, list[Entry[RunningCheckEntry]]]:
    found = case(NOW)
    state = found.state.model_copy(update={"change_kinds": standing})
    check = Entry[RunningCheckEntry](uuid="entry-0001", taken_at=NOW, body=entry(**said))
    return found.model_copy(update={"state": state}), [check]


def brought_about(recorded: bool = True, **said: Any) -> list[Effect]:
    return bench("running_check").performs(*looked([], **said), recorded)


def words(standing: list[str], **said: Any) -> str:
    return " ".join(present(bench("running_check").evaluate(*looked(standing, **said)), SI).waiting)


@pytest.mark.parametrize(("control", "on"), [("hand", True), ("automatic", False)])
def test_what_was_seen_opens_and_closes_the_change_of_the_set(control: str, on: bool) -> None:
    (made,) = brought_about(control=control)
    assert (made.change, made.on, made.of, made.at) == ("hand_mode", on, "set", NOW)  # type: ignore[union-attr]


def test_where_nobody_looked_nothing_is_opened_and_nothing_closed() -> None:
    """The worst of it would be a change closed on the word of nobody: without the word it says nothing."""
    assert brought_about() == []


def test_a_check_that_is_only_typed_brings_nothing_about() -> None:
    assert brought_about(recorded=False, control="hand") == []


@pytest.mark.parametrize(
    ("standing", "control", "says"),
    [
        ([], "hand", "open until automatic is seen"),
        (["hand_mode"], "hand", "Still running in hand"),
        (["hand_mode"], "automatic", "closes the temporary change"),
        (["hand_mode"], None, "enter how the control stands now"),
    ],
)
def test_what_is_said_of_it_while_it_is_typed(standing: list[str], control: str | None, says: str) -> None:
    assert says in words(standing, **({"control": control} if control else {}))


@pytest.mark.parametrize("control", ["automatic", None])
def test_nothing_is_said_of_a_set_in_automatic(control: str | None) -> None:
    said = words(["guard_off"], **({"control": control} if control else {}))
    assert "hand" not in said.lower()


def test_of_many_looks_the_last_run_counts_from_its_first() -> None:
    def look(day: int, on: bool, change: str = "hand_mode", of: Any = "set") -> TemporaryChange:
        at = NOW + timedelta(days=day)
        return TemporaryChange(key=change, change=change, place="switch", on=on, at=at, of=of)

    looks = [look(4, False), look(9, True), look(1, True), look(7, True), look(8, False, "guard_off")]
    hand, guard = sorted(last_seen([*looks, look(20, True, of="sheet")]), key=lambda x: x.change)[::-1]
    assert (hand.on, hand.at, hand.since) == (True, NOW + timedelta(days=9), NOW + timedelta(days=7))
    assert (guard.on, guard.since) == (False, NOW + timedelta(days=8))
    assert last_seen([]) == []
