"""One engine folds every sheet: order, what was taken back, two words on one field, what came too late."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any, Literal

import pytest

from hurbin_core.base import Entered, Kept, Model, entered_field, entry_union, said_field, write
from hurbin_core.logbook import Entry, SheetState, replay, replay as replay_name

AT = datetime(2026, 4, 1, 8, 0, tzinfo=UTC)


class Said(Model):
    kind: Literal["said"] = "said"
    tank: str | None = said_field("Tank", kept=Kept.VISIT)
    level: Entered | None = entered_field("Level", "length", high=5000, kept=Kept.VISIT)
    note: str = said_field("Note", "", kept=Kept.VISIT, free=True)


class Dip(Model):
    kind: Literal["dip"]
    depth: Entered | None = entered_field("Depth", "length", high=5000)


class Back(Model):
    kind: Literal["undo"]
    undoes: str | None = said_field("Entry taken back")


SHEET = entry_union(Said, Dip, Back)


@dataclass(slots=True)
class Tank(SheetState):
    dips: list[str] = field(default_factory=list)


def at(minute: int, body: Model, id_: str = "", device: str = "one", late: bool = False) -> Entry[Any]:
    uuid = id_ or f"entry-{minute:04d}"
    return Entry[Any](uuid=uuid, taken_at=AT + timedelta(minutes=minute), device=device, late=late, body=body)


def mm(text: str) -> Entered:
    return Entered(text=text, unit="mm")


def fold(entries: list[Entry[Any]], **more: Any) -> Tank:
    def dip(tank: Tank, e: Entry[Any]) -> None:
        tank.dips.append(e.body.depth.text)

    return replay(entries, Tank(), {"dip": dip}, entry=SHEET, **more)


def dips(*texts: str) -> list[Entry[Any]]:
    return [at(n, Dip(kind="dip", depth=mm(t))) for n, t in enumerate(texts)]


def orders(entries: list[Entry[Any]]) -> Iterator[list[Entry[Any]]]:
    chance = random.Random(7)
    for _ in range(12):
        yield chance.sample(entries, len(entries))


def test_any_order_of_arrival_gives_the_same_sheet_and_each_entry_counts_once() -> None:
    rows = [*dips("10", "20", "30"), at(9, Said(tank="A")), at(10, Said(tank="B"))]
    for order in orders(rows):
        tank = fold([*order, *order])
        assert (tank.dips, tank.said("tank")) == (["10", "20", "30"], "B")


def test_of_one_second_the_id_decides() -> None:
    rows = [at(1, Said(tank="B"), "entry-bbbb"), at(1, Said(tank="A"), "entry-aaaa")]
    assert {fold(order).said("tank") for order in orders(rows)} == {"B"}


def test_what_was_taken_back_counts_no_more_whenever_the_taking_back_arrives() -> None:
    rows = [*dips("10", "20"), at(5, Back(kind="undo", undoes="entry-0001"))]
    for order in orders(rows):
        tank = fold(order)
        assert tank.dips == ["10"]
        assert [e.body.kind for e in tank.entries] == ["dip"]


def test_a_kind_that_may_not_be_taken_back_stays() -> None:
    rows = [*dips("10", "20"), at(5, Back(kind="undo", undoes="entry-0001"))]
    assert fold(rows, undoable={"said"}).dips == ["10", "20"]


def test_two_devices_that_say_different_things_are_told_and_the_later_counts() -> None:
    rows = [
        at(1, Said(tank="A", level=mm("40")), device="one"),
        at(2, Said(tank="B", level=mm("40")), device="two"),
    ]
    for order in orders(rows):
        tank = fold(order)
        assert (tank.said("tank"), len(tank.conflicts)) == ("B", 1)
        told = write(tank.conflicts[0])
        assert "Tank" in told
        assert "A" in told
        assert "B" in told


@pytest.mark.parametrize(
    ("first", "second", "device"),
    [
        (Said(tank="A"), Said(tank="B"), "one"),  # one's own second thought
        (Said(tank="A"), Said(tank="A"), "two"),  # the same word
        (Said(note="a"), Said(note="b"), "two"),  # free words are no difference
    ],
)
def test_no_difference_is_told_where_there_is_none(first: Said, second: Said, device: str) -> None:
    assert fold([at(1, first), at(2, second, device=device)]).conflicts == []


def test_an_empty_word_takes_nothing_away() -> None:
    tank = fold([at(1, Said(tank="A", level=mm("40"))), at(2, Said(tank="", level=mm(" ")))])
    assert (tank.said("tank"), tank.figure("level")) == ("A", 40.0)


def test_what_came_after_the_record_is_kept_apart_and_changes_nothing() -> None:
    rows = [*dips("10"), at(3, Dip(kind="dip", depth=mm("99")), late=True), at(4, Said(tank="C"), late=True)]
    tank = fold(rows)
    assert (tank.dips, tank.said("tank")) == (["10"], None)
    assert [e.uuid for e in tank.late] == ["entry-0003", "entry-0004"]


def test_a_figure_is_read_once_by_its_newest_word(monkeypatch: pytest.MonkeyPatch) -> None:
    import sys

    module = sys.modules[replay_name.__module__]
    read, calls = module.read, []
    monkeypatch.setattr(module, "read", lambda *a: calls.append(a) or read(*a))  # type: ignore[attr-defined]
    rows = [at(n, Said(level=mm(str(n)))) for n in range(1, 9)]
    assert fold(rows).figure("level") == 8.0
    assert len(calls) == 1


def test_a_figure_that_is_none_is_a_problem_and_no_value() -> None:
    tank = fold([at(1, Said(level=mm("deep"))), at(2, Said(tank="A"))])
    assert [(p.field, p.value) for p in tank.problems] == [("level", "deep")]
    assert tank.figure("level") is None
    assert tank.said("level").text == "deep"
    again = fold([at(1, Said(level=mm("deep"))), at(2, Said(level=mm("12")))])
    assert (again.problems, again.figure("level")) == ([], 12.0)


def test_words_that_are_only_tried_are_not_kept() -> None:
    tank = fold([at(1, Said(tank="A"))], pencil={"said"})
    assert tank.said("tank") is None
    assert len(tank.entries) == 1


def test_the_state_is_begun_when_every_word_is_known_and_before_the_first_handler() -> None:
    seen: list[tuple[Any, int]] = []
    rows = [*dips("10"), at(8, Said(tank="Z"))]
    fold(rows, begun=lambda tank: seen.append((tank.said("tank"), len(tank.dips))))
    assert seen == [("Z", 0)]
