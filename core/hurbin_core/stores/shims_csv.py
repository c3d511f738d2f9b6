"""Van stock as a file in an open format: `van`, `thickness`, `unit`, `count`, `least`. `docs/formats.md`."""

from __future__ import annotations

from collections.abc import Iterable

from ..base import Entered, HurbinError, Model, Problem, find_unit, table, take_lines
from .shelf import MOST, size_of

COLUMNS = ("van", "thickness", "unit", "count", "least")


class ShelfRow(Model):
    """One line understood: which van, which size, how many, from how few on they are bought."""

    line: int
    van: str
    tenths: int
    count: int
    least: int = 0


def read_shelf(text: str) -> tuple[list[ShelfRow], list[Problem]]:
    """The lines of a stock file and what is wrong with the others, each with its line number as field. Comma,
    semicolon or tab; a decimal comma; columns in any order. Raises `header_wrong` when a column lacks.

    >>> read_shelf("van,thickness,unit,count,least\\nVan 1,0.25,mm,6,2")[0][0].tenths
    2500
    """
    rows: list[ShelfRow] = []
    seen: set[tuple[str, int]] = set()

    def take(number: int, held: dict[str, str]) -> None:
        row = _row(number, held)
        if (row.van, row.tenths) in seen:
            size = f"{held['thickness']} {held.get('unit', '')}"
            raise HurbinError("size_twice", f"{size} is listed twice for {row.van}.", field="thickness")
        seen.add((row.van, row.tenths))
        rows.append(row)

    problems = take_lines(text, COLUMNS, COLUMNS[:4], take)
    return rows, problems


def _row(line: int, held: dict[str, str]) -> ShelfRow:
    van = held.get("van", "").lstrip("'").strip()
    if not van or len(van) > 60:
        raise HurbinError(
            "van_missing",
            "No van in this line, or its name is over 60 characters.",
            field="van",
            value=van[:60],
        )
    unit = find_unit(held.get("unit", "") or "mm", "length")
    if unit is None:
        raise HurbinError(
            "unit_unknown",
            f"“{held.get('unit')}” is not a thickness unit.",
            field="unit",
            value=held.get("unit"),
            right="mm, mil or in",
        )
    return ShelfRow(
        line=line,
        van=van,
        tenths=size_of(Entered(text=held.get("thickness", "")[:40], unit=unit.code), "thickness"),
        count=_whole(held.get("count", ""), "count"),
        least=_whole(held.get("least", "") or "0", "least"),
    )


def _whole(text: str, field: str) -> int:
    if not text.isdigit() or int(text) > MOST:
        raise HurbinError(
            "count_wrong",
            f"“{text}” is not a count of shims.",
            field=field,
            value=text[:40],
            right=f"a whole number up to {MOST}",
        )
    return int(text)


def write_shelf(rows: Iterable[tuple[str, int, int, int]]) -> str:
    """(van, tenths, count, least) as a file of this format, in mm. Reads back to the same."""
    return table(
        COLUMNS,
        [
            [van, f"{tenths / 10000:.4f}".rstrip("0").rstrip("."), "mm", count, least]
            for van, tenths, count, least in rows
        ],
    )
