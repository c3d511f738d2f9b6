"""Tables that mean no good: guarded when they go out, bounded and named when they come in."""

from __future__ import annotations

import time

import pytest
from hypothesis import given, strategies as st

from hurbin_core.base import HurbinError, delimiter_of, header_of, line, rows_of
from hurbin_core.base.dialect import guard
from hurbin_core.catalogue import bench
from hurbin_core.logbook import open_readings


@pytest.mark.parametrize("blank", ["", "\t", "\r", " ", "  ", " \t", "\n", "\xa0"])
@pytest.mark.parametrize("sign", ["=", "+", "-", "@"])
def test_a_formula_behind_any_blank_leaves_as_words(blank: str, sign: str) -> None:
    assert guard(f"{blank}{sign}cmd|' /C calc'!A0").startswith("'")


@pytest.mark.parametrize("cell", ["\tx", "\rx"])
def test_a_cell_that_begins_with_a_tab_or_a_return_is_guarded(cell: str) -> None:
    assert guard(cell) == f"'{cell}"


@given(st.text(alphabet="=+-@ \t'ab1", max_size=12))
def test_what_went_out_guarded_comes_in_as_it_was(cell: str) -> None:
    written = line(["head"]) + line([cell, "end"])
    rows = [cells for _, cells in rows_of(written, ",")]
    assert rows == [[cell.strip(), "end"]] or guard(cell) == cell, (cell, rows)


def test_a_header_of_a_million_commas_is_refused_at_once() -> None:
    begun = time.monotonic()
    for text in ("tag" + "," * 1_000_000, "tag,taken_at," + "x," * 5_000, "x" * 2_000_000):
        with pytest.raises(HurbinError) as caught:
            open_readings(text, bench("running_check"), "UTC")
        assert caught.value.code in ("header_too_long", "header_wrong")
    assert time.monotonic() - begun < 0.5


def test_columns_twice_are_found_without_counting_each_again() -> None:
    names = ",".join(["tag", "taken_at", *["volts_12|V"] * 1500])
    begun = time.monotonic()
    with pytest.raises(HurbinError, match="Columns twice in the header: volts_12"):
        open_readings(f"{names}\n", bench("running_check"), "UTC")
    assert time.monotonic() - begun < 0.5


@pytest.mark.parametrize(
    "row",
    ["x" * 140_000, '"' + "x" * 140_000 + '"', "a\rb,c", 'a,"b\r"c\rd'],
    ids=["long", "quoted", "cr", "cr2"],
)
def test_a_cell_over_131_kb_or_with_a_return_inside_is_no_server_s_fault(row: str) -> None:
    text = f"tag,place\n{row}\n"
    try:
        rows = list(rows_of(text))
    except HurbinError as error:
        assert error.code == "line_wrong"
        assert "Line 2" in error.message
    else:
        assert len(rows) == 1, "taken as one cell, not as two lines"


def test_the_first_line_is_found_behind_a_mark_and_blank_lines() -> None:
    assert header_of("\ufefftag;name\nA;B") == ["tag", "name"]
    assert delimiter_of("") == ";"
    assert header_of("") == []
