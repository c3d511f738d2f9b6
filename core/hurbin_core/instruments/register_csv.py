"""The register of instruments as a file in an open format, one line for each thing an instrument measures.
`docs/formats.md`.
"""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date
from typing import get_args

from ..base import Entered, HurbinError, Model, Problem, find_unit, table, take_lines
from .register import Category, InstrumentSaid, SpanSaid, instrument_of, kind_of

COLUMNS = (
    "name",
    "kind",
    "category",
    "category_volts",
    "reads",
    "up_to",
    "resolution",
    "unit",
    "calibrated",
    "due",
)
_NEEDED = ("name", "kind", "reads", "up_to", "resolution", "unit")


class InstrumentRow(Model):
    """One instrument of a file: as entered, and the days of its last and of its next calibration."""

    line: int
    said: InstrumentSaid
    calibrated: date | None = None
    due: date | None = None


def read_register(text: str) -> tuple[list[InstrumentRow], list[Problem]]:
    """The instruments of a file, and what is wrong with its lines, each with its number as field. Lines of
    one name are one instrument; what it is stands on its first. Raises `header_wrong` when a column lacks.

    >>> head = "name,kind,reads,up_to,resolution,unit\\n"
    >>> rows, wrong = read_register(head + "Pen 1,vibration_meter,vibration,50,0.1,mm/s\\n")
    >>> rows[0].said.spans[0].top.text, wrong
    ('50', [])
    """
    rows: dict[str, InstrumentRow] = {}
    problems = take_lines(text, COLUMNS, _NEEDED, lambda number, held: _line(number, held, rows))
    for row in rows.values():
        try:
            instrument_of(row.said, id="file", since="2000-01-01T00:00:00Z")
        except HurbinError as error:
            problems.append(Problem.of(error).model_copy(update={"field": f"line {row.line}"}))
    return list(rows.values()), problems


def _line(number: int, held: dict[str, str], rows: dict[str, InstrumentRow]) -> None:
    name = held.get("name", "").lstrip("'")
    if not name or len(name) > 60:
        raise HurbinError("name_missing", "No name in this line, or one of over 60 characters.", field="name")
    span = _span(held)
    row = rows.get(name)
    if row is not None:
        row.said = row.said.model_copy(update={"spans": [*row.said.spans, span]})
        return
    written = held.get("category", "").upper().removeprefix("CAT").strip()
    category = next((c for c in get_args(Category) if c == written), None)
    if category is None:
        raise HurbinError(
            "category_unknown",
            f"“{held['category']}” is not a measurement category.",
            field="category",
            value=held["category"],
            right="II, III, IV, or nothing",
        )
    volts = held.get("category_volts", "")
    rows[name] = InstrumentRow(
        line=number,
        said=InstrumentSaid(
            name=name,
            kind=kind_of(held.get("kind", "")).id,
            spans=[span],
            category=category,
            category_volts=_entered(volts, "V") if volts else None,
        ),
        calibrated=_day(held, "calibrated"),
        due=_day(held, "due"),
    )


def _span(held: dict[str, str]) -> SpanSaid:
    reads = held.get("reads", "")
    found = find_unit(held.get("unit", ""), reads)
    if found is None:
        raise HurbinError(
            "unit_unknown",
            f"“{held.get('unit', '')}” is not a unit of “{reads}”.",
            field="unit",
            value=held.get("unit", ""),
        )
    return SpanSaid(
        reads=reads,
        top=_entered(held.get("up_to", ""), found.code),
        step=_entered(held.get("resolution", ""), found.code),
    )


def _entered(text: str, unit: str) -> Entered:
    """A cell; one in a unit of its own carries it behind a bar (`10|mA`)."""
    figure, bar, own = text.partition("|")
    return Entered(text=figure.strip()[:40], unit=own.strip()[:12] if bar else unit)


def _cell(typed: Entered | None, unit: str) -> str:
    if typed is None:
        return ""
    return typed.text if typed.unit == unit else f"{typed.text}|{typed.unit}"


def _day(held: dict[str, str], name: str) -> date | None:
    text = held.get(name, "")
    if not text:
        return None
    try:
        day = date.fromisoformat(text)
        if not 1990 <= day.year <= 2100:
            raise ValueError
        return day
    except ValueError:
        raise HurbinError(
            "date_wrong", f"“{text}” is not a date.", field=name, value=text, right="2026-05-04"
        ) from None


def write_register(rows: Iterable[InstrumentRow]) -> str:
    """The register as a file of this format. Reads back to the same."""
    lines: list[list[object]] = []
    for row in rows:
        said = row.said
        for span in said.spans:
            lines.append(
                [
                    said.name,
                    said.kind,
                    said.category,
                    _cell(said.category_volts, "V"),
                    span.reads,
                    _cell(span.top, span.top.unit),
                    _cell(span.step, span.top.unit),
                    span.top.unit,
                    row.calibrated.isoformat() if row.calibrated is not None else "",
                    row.due.isoformat() if row.due is not None else "",
                ]
            )
    return table(COLUMNS, lines)
