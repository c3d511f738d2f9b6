"""Readings as a file: one row a sheet, in an open format that comes in as it went out.

First `tag` and `taken_at`, then a column per field with its unit after a bar (`volts_12|V`). A cell may carry
a unit of its own (`4.6|GOhm`). Comma, semicolon or tab; any order of columns; ISO or local dates; a decimal
comma. `docs/formats.md`.
"""

from __future__ import annotations

import re
import types
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any, Literal, Union, get_args, get_origin
from zoneinfo import ZoneInfo

from ..base import (
    UNITS,
    AnyBench,
    Entered,
    Filed,
    HurbinError,
    Problem,
    Timed,
    delimiter_of,
    field_rules,
    find_unit,
    header_of,
    line,
    members,
    rows_of,
    table,
)
from .dates import LOCAL, read_time

MOST_ROWS = 250_000
FIRST = ("tag", "taken_at")
READ_WITH = "instruments"


@dataclass(slots=True)
class FileRow:
    """One row understood: whose, when, the entry bodies it makes (each with its own time and author where the
    file says them); or why it is refused. instruments: what read it, by dimension, as the label says.
    """

    line: int
    tag: str
    taken_at: datetime | None = None
    bodies: list[dict[str, Any]] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)
    times: list[datetime] = field(default_factory=list)
    authors: list[str] = field(default_factory=list)
    instruments: dict[str, str] = field(default_factory=dict)


def filed(bench: AnyBench) -> Filed:
    """How this bench's records go to files. Raises `no_file` for one whose records do not."""
    if bench.files is None:
        message = f"“{bench.title}” cannot be imported from a file: enter it where it is done."
        raise HurbinError("no_file", message, field="bench", value=bench.name)
    return bench.files


def _kinds(bench: AnyBench) -> dict[str, str]:
    """Each column of the bench's entry: a figure, a choice, yes or no, or words. Of a union its first
    model.
    """
    filed(bench)
    out: dict[str, str] = {}
    figures = field_rules(bench.entry)
    for name, info in members(bench.entry)[0].model_fields.items():
        if name == "kind":
            continue
        if name in figures:
            out[name] = "figure"
            continue
        options = _options(info.annotation)
        if any(get_origin(o) is Literal for o in options):
            out[name] = "choice"
        elif bool in options:
            out[name] = "yes"
        elif str in options:
            out[name] = "words"
    return out


def _options(annotation: Any) -> tuple[Any, ...]:
    return get_args(annotation) if get_origin(annotation) in (Union, types.UnionType) else (annotation,)


def _default_unit(bench: AnyBench, name: str) -> str:
    extra: Any = members(bench.entry)[0].model_fields[name].json_schema_extra
    return str(extra["x-entered"]["unit"])


def template(bench: AnyBench) -> str:
    """A file with the header alone, every column with its usual unit."""
    timed = filed(bench).timed
    marks = [_mark(timed, next(iter(timed.places)), m) for m in timed.marks] if timed is not None else []
    return line([*FIRST, *(_header(bench, n, k) for n, k in _kinds(bench).items()), *marks])


def _mark(timed: Timed, prefix: str, second: float) -> str:
    return f"{prefix}_{second:g}s|{timed.unit}"


def _header(bench: AnyBench, name: str, kind: str) -> str:
    return f"{name}|{_default_unit(bench, name)}" if kind == "figure" else name


@dataclass(slots=True)
class _Column:
    name: str
    kind: str
    unit: str = ""
    place: str = ""
    seconds: float = 0.0


@dataclass(slots=True)
class ReadingsFile:
    """A file opened: its columns, and its rows one by one."""

    bench: AnyBench
    columns: list[_Column]
    body: str
    delimiter: str
    zone: ZoneInfo
    day_first: bool | None
    total: int

    @property
    def _timed(self) -> Timed:
        timed = filed(self.bench).timed
        assert timed is not None
        return timed

    def rows(self) -> Iterator[FileRow]:
        """Every row that holds anything, in the file's order."""
        for number, cells in rows_of(self.body, self.delimiter):
            yield self._row(number, cells)

    def _row(self, line: int, cells: list[str]) -> FileRow:
        row = FileRow(line, "")
        setup: dict[str, Any] = {}
        readings: list[dict[str, Any]] = []
        for column, text in zip(self.columns, cells, strict=False):
            if not text:
                continue
            try:
                self._cell(row, column, text, setup, readings)
            except HurbinError as error:
                row.problems.append(Problem.of(error))
        if len(cells) > len(self.columns):
            row.problems.append(
                Problem(
                    code="row_too_long",
                    field="row",
                    value="",
                    message=f"The row has {len(cells)} cells, the header {len(self.columns)}.",
                )
            )
        if not row.tag:
            row.problems.append(
                Problem(code="tag_missing", field="tag", value="", message="No tag in this row.")
            )
        if row.taken_at is None and not row.problems:
            row.problems.append(
                Problem(code="time_missing", field="taken_at", value="", message="No date in this row.")
            )
        row.bodies = [setup, *readings]
        return row

    def _cell(
        self, row: FileRow, c: _Column, text: str, setup: dict[str, Any], readings: list[dict[str, Any]]
    ) -> None:
        if c.kind == "tag":
            row.tag = text
        elif c.kind == "time":
            row.taken_at = read_time(text, self.zone, self.day_first)
        elif c.kind == "read_with":
            row.instruments = named_in(text, self.bench)
        elif c.kind == "figure":
            setup[c.name] = _entered(text, c.unit, c.name)
        elif c.kind == "timed":
            readings.append(self._timed.body(c.place, c.seconds, _entered(text, c.unit, c.name)))
        elif c.kind == "more":
            readings += _more(self._timed, text, c.unit)
        elif c.kind == "yes":
            setup[c.name] = _yes(text, c.name)
        elif c.kind == "choice":
            allowed = _choices(self.bench.entry, c.name)
            if text.lower().replace(" ", "_") not in allowed:
                raise HurbinError(
                    "choice_unknown",
                    f"“{text}” is not allowed in {c.name}.",
                    field=c.name,
                    value=text,
                    right=", ".join(allowed),
                )
            setup[c.name] = text.lower().replace(" ", "_")
        else:
            setup[c.name] = text


def named_in(text: str, bench: AnyBench) -> dict[str, str]:
    """Which instruments does a cell name, by what they read? `voltage=Meter 3; current=Clamp 2`."""
    out: dict[str, str] = {}
    for part in filter(None, (p.strip() for p in text.split(";"))):
        reads, _, label = (x.strip() for x in part.partition("="))
        if reads not in bench.read_with or not label or len(label) > 60 or reads in out:
            raise HurbinError(
                "instruments_wrong",
                f"“{part[:60]}” does not name an instrument for what is read here.",
                field=READ_WITH,
                value=part[:60],
                right="; ".join(f"{r}=Meter 3" for r in bench.read_with[:2]),
            )
        out[reads] = label
    return out


def _choices(entry: Any, name: str) -> list[str]:
    options = _options(members(entry)[0].model_fields[name].annotation)
    return [str(v) for o in options if get_origin(o) is Literal for v in get_args(o)]


def _entered(text: str, unit: str, name: str) -> dict[str, str]:
    figure, bar, own = text.partition("|")
    if len(figure.strip()) > 40:
        raise HurbinError("not_a_number", f"“{figure[:20]}…” is not a number.", field=name, value=figure[:40])
    return Entered(text=figure.strip(), unit=own.strip() if bar else unit).model_dump(exclude_defaults=True)


def _yes(text: str, name: str) -> bool:
    low = text.lower()
    if low in ("yes", "y", "true", "1"):
        return True
    if low in ("no", "n", "false", "0"):
        return False
    raise HurbinError(
        "choice_unknown", f"“{text}” is not allowed in {name}.", field=name, value=text, right="yes or no"
    )


_MORE = re.compile(r"^(?:(\w+)\s+)?(\d+(?:[.,]\d+)?)\s*s\s+(.+)$")


def _more(timed: Timed, text: str, unit: str) -> list[dict[str, Any]]:
    out = []
    first = next(iter(timed.places.values()))
    for part in filter(None, (p.strip() for p in text.split(";"))):
        m = _MORE.match(part)
        if m is None or m[1] not in (None, *timed.places.values()):
            raise HurbinError(
                "reading_wrong",
                f"“{part}” is not a reading.",
                field="more_readings",
                value=part,
                right="67s 800|MOhm; L1 61s >10|GOhm",
            )
        typed = _entered(m[3], unit, "more_readings")
        out.append(timed.body(m[1] or first, float(m[2].replace(",", ".")), typed))
    return out


def open_readings(text: str, bench: AnyBench, zone: str, day_first: bool | None = None) -> ReadingsFile:
    """What is this file? Raises `header_wrong` naming the columns that lack or are strange, `file_too_long`
    past 250,000 rows.
    """
    delimiter, header = delimiter_of(text), header_of(text)
    kinds = _kinds(bench)
    columns, strange = [], []
    for cell in header:
        found = _column(cell.strip(), bench, kinds)
        columns.append(found or _Column(cell, "none"))
        if found is None:
            strange.append(cell.strip() or "(no name)")
    names = [c.name for c in columns]
    lacking = [n for n in FIRST if n not in names]
    twice = sorted(n for n, times in Counter(names).items() if times > 1)
    if lacking or strange or twice:
        said = (
            f"Missing columns in the header: {', '.join(lacking)}."
            if lacking
            else (
                f"Unknown columns in the header: {', '.join(strange[:6])}."
                if strange
                else f"Columns twice in the header: {', '.join(twice)}."
            )
        )
        raise HurbinError(
            "header_wrong", said, field="file", right=", ".join([*FIRST, *list(kinds)[:8]]) + ", …"
        )
    total = max(0, text.count("\n") + (not text.endswith("\n")) - 1)
    if total > MOST_ROWS:
        raise HurbinError(
            "file_too_long",
            f"The file has {total} rows. The maximum at a time is {MOST_ROWS}.",
            field="file",
            right="the file in parts",
        )
    if day_first is None:
        day_first = _guess_order(text, columns, delimiter)
    return ReadingsFile(bench, columns, text, delimiter, ZoneInfo(zone), day_first, total)


def _column(cell: str, bench: AnyBench, kinds: dict[str, str]) -> _Column | None:
    m = re.match(r"^\s*([\w.]+?)\s*(?:[|\[(]\s*([^\])]*?)\s*[\])]?)?\s*$", cell)
    if m is None:
        return None
    name, unit = m[1].lower(), (m[2] or "").strip()
    if name == "tag":
        return _Column("tag", "tag")
    if name == "taken_at":
        return _Column("taken_at", "time")
    if name == READ_WITH and bench.read_with:
        return _Column(READ_WITH, "read_with")
    timed = filed(bench).timed
    if timed is not None:
        at = re.match(r"^(\w+)_(\d+(?:\.\d+)?)s$", name)
        places = {prefix.lower(): place for prefix, place in timed.places.items()}
        if name == "more_readings" or (at and at[1] in places):
            code = _unit_code(unit or timed.unit, UNITS[timed.unit].dimension, cell)
            if at is None:
                return _Column(name, "more", code)
            return _Column(name, "timed", code, places[at[1]], float(at[2]))
    if name not in kinds:
        return None
    if kinds[name] != "figure":
        return _Column(name, kinds[name])
    rule = field_rules(bench.entry)[name]
    return _Column(name, "figure", _unit_code(unit or _default_unit(bench, name), rule.dimension, cell))


def _unit_code(text: str, dimension: str, cell: str) -> str:
    found = find_unit(text, dimension)
    if found is None:
        raise HurbinError(
            "unit_wrong",
            f"Header “{cell}”: “{text}” is not a unit for this column.",
            field="file",
            value=cell,
        )
    return found.code


def _guess_order(text: str, columns: list[_Column], delimiter: str) -> bool | None:
    """From dates that can be read only one way, how the others of the file are meant; None when none
    tells.
    """
    at = next((i for i, c in enumerate(columns) if c.kind == "time"), None)
    if at is None:
        return None
    days = months = False
    for _, cells in rows_of(text, delimiter):
        m = LOCAL.match(cells[at]) if len(cells) > at else None
        if m is not None and m[2] != ".":
            days, months = days or int(m[1]) > 12, months or int(m[3]) > 12
    return None if days == months else days


def write_readings(
    bench: AnyBench,
    records: list[tuple[str, datetime, dict[str, Any]]],
    instruments: Sequence[dict[str, str]] = (),
) -> str:
    """(tag, UTC time, facts) as a file of this format; texts, units and bounds as typed. Reads back to the
    same facts. instruments: what read each of them, in the same order; none: nothing named any.
    """
    kinds, files = _kinds(bench), filed(bench)
    timed = files.timed
    marked = _marked(timed, records) if timed is not None else []
    places = {place: prefix for prefix, place in timed.places.items()} if timed is not None else {}
    more = timed is not None and any(_rest(timed, f, marked) for _, _, f in records)
    header = [
        *FIRST,
        *(_header(bench, n, k) for n, k in kinds.items()),
        *(_mark(timed, places[place], m) for place, m in marked if timed is not None),
        *([f"more_readings|{timed.unit}"] if timed is not None and more else []),
        *([READ_WITH] if any(instruments) else []),
    ]
    lines = [
        (tag, *row, instruments[i] if any(instruments) else {})
        for i, (tag, when, whole) in enumerate(records)
        for row in (files.rows(whole, when) if files.rows is not None else [(when, whole)])
    ]
    rows = []
    for tag, at, facts, named in lines:
        body = facts.get(timed.setup, {}) if timed is not None else facts
        cells = [tag, at.astimezone(UTC).isoformat().replace("+00:00", "Z")]
        for n, k in kinds.items():
            cells.append(_write(body.get(n), k, _default_unit(bench, n) if k == "figure" else ""))
        if timed is not None:
            cells += [_write(timed.value_at(facts, place, m), "figure", timed.unit) for place, m in marked]
            if more:
                cells.append("; ".join(_more_words(timed, r) for r in _rest(timed, facts, marked)))
        if any(instruments):
            cells.append("; ".join(f"{reads}={label}" for reads, label in named.items()))
        rows.append(cells)
    return table(header, rows)


Marked = list[tuple[str, float]]


def _marked(timed: Timed, records: list[tuple[str, datetime, dict[str, Any]]]) -> Marked:
    """Which marks does any of these records hold, place by place?"""
    every = [(place, float(m)) for place in timed.places.values() for m in timed.marks]
    return [x for x in every if any(timed.value_at(f, *x) for _, _, f in records)]


def _rest(timed: Timed, facts: dict[str, Any], marked: Marked) -> list[dict[str, Any]]:
    return [r for r in facts.get(timed.readings, []) if (r[timed.place], r[timed.second]) not in marked]


def _more_words(timed: Timed, r: dict[str, Any]) -> str:
    place = "" if r[timed.place] == next(iter(timed.places.values())) else f"{r[timed.place]} "
    return f"{place}{r[timed.second]:g}s {_write(r[timed.value], 'figure', timed.unit)}"


def _write(value: Any, kind: str, unit: str) -> str:
    if value is None:
        return ""
    if kind == "figure":
        own = value.get("unit", "")
        return str(value["text"]) if own == unit else f"{value['text']}|{own}"
    return {True: "yes", False: "no"}[value] if kind == "yes" else str(value)
