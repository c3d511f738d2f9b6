"""Tables of lines: columns in any order, each refused line with its number, nothing lost beside it."""

from __future__ import annotations

import pytest

from hurbin_core.base import HurbinError, take_lines

COLUMNS = ("code", "place", "count")


def taken(text: str) -> tuple[list[tuple[int, dict[str, str]]], list[tuple[str, str]]]:
    """What was handed over, and what was refused where."""
    got: list[tuple[int, dict[str, str]]] = []

    def take(number: int, held: dict[str, str]) -> None:
        if not held["count"].isdigit():
            raise HurbinError("count_wrong", f"“{held['count']}” is no count.", field="count")
        got.append((number, held))

    problems = take_lines(text, COLUMNS, COLUMNS[:2], take)
    return got, [(p.field, p.message) for p in problems]


def test_columns_stand_in_any_order_and_letters() -> None:
    got, wrong = taken("COUNT;Code;Place\n3;S-1;Shelf 1\n")
    assert got == [(2, {"count": "3", "code": "S-1", "place": "Shelf 1"})]
    assert wrong == []


def test_a_refused_line_is_named_by_its_number_and_the_others_are_read() -> None:
    got, wrong = taken("code,place,count\nS-1,A,2\nS-2,A,many\n\nS-3,B,1\n")
    assert [(n, held["code"]) for n, held in got] == [(2, "S-1"), (5, "S-3")]
    assert wrong == [("line 3", "“many” is no count.")]


@pytest.mark.parametrize(
    ("text", "lacks"),
    [("code,count\nS-1,2", "place"), ("a,b\n1,2", "code, place"), ("place\nShelf 1", "code")],
)
def test_a_header_that_lacks_a_column_says_which(text: str, lacks: str) -> None:
    with pytest.raises(HurbinError) as told:
        taken(text)
    assert (told.value.code, told.value.field) == ("header_wrong", "file")
    assert told.value.message == f"Missing columns in the header: {lacks}."
    assert told.value.right == "code, place, count"


def test_a_column_nobody_asked_for_is_handed_over_and_one_not_needed_may_lack() -> None:
    got, _ = taken("code,place,count,colour\nS-1,A,1,red")
    assert got[0][1]["colour"] == "red"
    with pytest.raises(KeyError):
        taken("code,place\nS-1,A")


def test_a_cell_that_a_spreadsheet_guarded_is_read_as_it_was_typed() -> None:
    got, _ = taken("code,place,count\n'=S-1,'+A,1")
    assert (got[0][1]["code"], got[0][1]["place"]) == ("=S-1", "+A")


def test_an_empty_table_hands_nothing_over() -> None:
    assert taken("code,place,count\n") == ([], [])
