"""Readings as a file: one row a sheet, in an open format that comes in as it went out.

First `tag` and `taken_at`, then a column per field with its unit after a bar (`volts_12|V`). A cell may carry a unit of its
own (`4.6|GOhm`). Comma, semicolon or tab; any order of columns; ISO or local dates; a decimal comma. `docs/formats.md`.
"""

from __future__ import annotations

import csv
import io
import re
import types
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any, Literal, Union, get_args, get_origin
from zoneinfo import ZoneInfo

from pydantic import BaseModel

from ..base import Bench, Entered, HurbinError, Problem, field_rules, find_unit
from .context import within_years

MOST_ROWS = 250_000
FIRST = ("tag", "taken_at")
_TIMED = re.compile(r"^(r|l1|l2|l3)_(\d+(?:\.\d+)?)s$")
_MORE = re.compile(r"^(?:(L[123])\s+)?(\d+(?:[.,]\d+)?)\s*s\s+(.+)$")
_FORMULA = ("=", "+", "@", "-")
_MAGIC = ((b"\x89PNG", "picture"), (b"\xff\xd8\xff", "picture"), (b"GIF8", "picture"), (b"PK\x03\x04", "spreadsheet"), (b"\xd0\xcf\x11\xe0", "spreadsheet"), (b"%PDF", "PDF"))


@dataclass(slots=True)
class FileRow:
    """One row understood: whose, when, the entry bodies it makes (each with its own time and author where the file says them); or why it is refused."""

    line: int
    tag: str
    taken_at: datetime | None = None
    bodies: list[dict[str, Any]] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)
    times: list[datetime] = field(default_factory=list)
    authors: list[str] = field(default_factory=list)


def decode(raw: bytes) -> str:
    """The text of an uploaded file. Raises a clear error for an empty file, a picture, a spreadsheet under the wrong name."""
    if not raw.strip():
        raise HurbinError("file_empty", "The file is empty.", field="file", right="a header line and a line per reading")
    for magic, what in _MAGIC:
        if raw.startswith(magic):
            hint = " Save it as CSV first." if what == "spreadsheet" else ""
            raise HurbinError("file_wrong_kind", f"This is a {what}, not a table of readings.{hint}", field="file", right="a CSV file")
    if b"\x00" in raw[:4096]:
        raise HurbinError("file_wrong_kind", "This is no text: it cannot be a table of readings.", field="file", right="a CSV file in UTF-8")
    try:
        return raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        return raw.decode("cp1252", errors="replace")


def _kinds(bench: Bench) -> dict[str, str]:
    """Each column of the bench's entry: a figure, a choice, yes or no, or words."""
    if bench.single:
        raise HurbinError("no_file", f"“{bench.title}” is not kept in files: it is written where it is done.", field="bench", value=bench.name, right="running_check, insulation")
    out: dict[str, str] = {}
    figures = field_rules(bench.entry)
    for name, info in bench.entry.model_fields.items():
        if name in figures:
            out[name] = "figure"
            continue
        options = get_args(info.annotation) if get_origin(info.annotation) in (Union, types.UnionType) else (info.annotation,)
        if any(get_origin(o) is Literal for o in options):
            out[name] = "choice"
        elif bool in options:
            out[name] = "yes"
        elif str in options:
            out[name] = "words"
    return {n: k for n, k in out.items() if n not in _NOT_COLUMNS}


_NOT_COLUMNS = ("kind", "leg", "undoes", "ohms", "seconds")


def _default_unit(bench: Bench, name: str) -> str:
    extra: Any = bench.entry.model_fields[name].json_schema_extra
    return str(extra["x-entered"]["unit"])


def template(bench: Bench, marks: tuple[int, ...] = ()) -> str:
    """A file with the header alone, every column with its usual unit."""
    return _line([*FIRST, *(_header(bench, n, k) for n, k in _kinds(bench).items()), *(f"R_{m}s|MOhm" for m in marks)])


def _header(bench: Bench, name: str, kind: str) -> str:
    return f"{name}|{_default_unit(bench, name)}" if kind == "figure" else name


def _line(cells: list[str]) -> str:
    out = io.StringIO()
    csv.writer(out, lineterminator="\r\n").writerow(cells)
    return out.getvalue()


@dataclass(slots=True)
class _Column:
    name: str
    kind: str
    unit: str = ""
    leg: str = ""
    seconds: float = 0.0


@dataclass(slots=True)
class ReadingsFile:
    """A file opened: its columns, and its rows one by one."""

    bench: Bench
    columns: list[_Column]
    body: str
    delimiter: str
    zone: ZoneInfo
    day_first: bool | None
    total: int

    def rows(self) -> Iterator[FileRow]:
        """Every row that holds anything, in the file's order."""
        reader = csv.reader(io.StringIO(self.body), delimiter=self.delimiter)
        next(reader)
        for cells in reader:
            if any(c.strip() for c in cells):
                yield self._row(reader.line_num, cells)

    def _row(self, line: int, cells: list[str]) -> FileRow:
        row = FileRow(line, "")
        setup: dict[str, Any] = {}
        readings: list[dict[str, Any]] = []
        for column, raw in zip(self.columns, cells, strict=False):
            text = _unguard(raw.strip())
            if not text:
                continue
            try:
                self._cell(row, column, text, setup, readings)
            except HurbinError as error:
                row.problems.append(Problem.of(error))
        if len(cells) > len(self.columns):
            row.problems.append(Problem(code="row_too_long", field="row", value="", message=f"The row has {len(cells)} cells, the header {len(self.columns)}."))
        if not row.tag:
            row.problems.append(Problem(code="tag_missing", field="tag", value="", message="No tag in this row."))
        if row.taken_at is None and not row.problems:
            row.problems.append(Problem(code="time_missing", field="taken_at", value="", message="No date in this row."))
        row.bodies = [{"kind": "setup", **setup}, *readings] if self.bench.timed else [setup]
        return row

    def _cell(self, row: FileRow, c: _Column, text: str, setup: dict[str, Any], readings: list[dict[str, Any]]) -> None:
        if c.kind == "tag":
            row.tag = text
        elif c.kind == "time":
            row.taken_at = read_time(text, self.zone, self.day_first)
        elif c.kind == "figure":
            setup[c.name] = _entered(text, c.unit, c.name)
        elif c.kind == "timed":
            readings.append({"kind": "reading", "leg": c.leg, "seconds": c.seconds, "ohms": _entered(text, c.unit, c.name)})
        elif c.kind == "more":
            readings += _more(text, c.unit)
        elif c.kind == "yes":
            setup[c.name] = _yes(text, c.name)
        elif c.kind == "choice":
            allowed = _choices(self.bench.entry, c.name)
            if text.lower().replace(" ", "_") not in allowed:
                raise HurbinError("choice_unknown", f"“{text}” cannot stand in {c.name}.", field=c.name, value=text, right=", ".join(allowed))
            setup[c.name] = text.lower().replace(" ", "_")
        else:
            setup[c.name] = text


def _choices(model: type[BaseModel], name: str) -> list[str]:
    annotation = model.model_fields[name].annotation
    options = get_args(annotation) if get_origin(annotation) in (Union, types.UnionType) else (annotation,)
    return [str(v) for o in options if get_origin(o) is Literal for v in get_args(o)]


def _entered(text: str, unit: str, name: str) -> dict[str, str]:
    figure, bar, own = text.partition("|")
    if len(figure.strip()) > 40:
        raise HurbinError("not_a_number", f"“{figure[:20]}…” is not a figure.", field=name, value=figure[:40])
    return Entered(text=figure.strip(), unit=own.strip() if bar else unit).model_dump(exclude_defaults=True)


def _yes(text: str, name: str) -> bool:
    low = text.lower()
    if low in ("yes", "y", "true", "1"):
        return True
    if low in ("no", "n", "false", "0"):
        return False
    raise HurbinError("choice_unknown", f"“{text}” cannot stand in {name}.", field=name, value=text, right="yes or no")


def _more(text: str, unit: str) -> list[dict[str, Any]]:
    out = []
    for part in filter(None, (p.strip() for p in text.split(";"))):
        m = _MORE.match(part)
        if m is None:
            raise HurbinError("reading_wrong", f"“{part}” is no reading.", field="more_readings", value=part, right="67s 800|MOhm; L1 61s >10|GOhm")
        seconds = float(m[2].replace(",", "."))
        out.append({"kind": "reading", "leg": m[1] or "all", "seconds": seconds, "ohms": _entered(m[3], unit, "more_readings")})
    return out


def _unguard(text: str) -> str:
    return text[1:] if text[:1] == "'" and text[1:].startswith(_FORMULA) else text


def _guard(text: str) -> str:
    return f"'{text}" if text.startswith(_FORMULA) else text


_ISO = re.compile(r"^\d{4}-\d{2}-\d{2}([T ]\d{2}:\d{2}(:\d{2}(\.\d+)?)?)?\s*(Z|[+-]\d{2}:?\d{2})?$")
_LOCAL = re.compile(r"^(\d{1,2})([./-])(\d{1,2})\2(\d{2}|\d{4})(?:[ T,]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$")


def read_time(text: str, zone: ZoneInfo, day_first: bool | None) -> datetime:
    """A date as people write it, as UTC: ISO, or day and month in the order of the place. Without a time: noon there.

    `day_first` None: a date with points is day first; one with strokes that can be read two ways is refused.
    """
    if _ISO.match(text):
        try:
            found = datetime.fromisoformat(text.replace(" ", "T", 1).replace(" ", "").replace("Z", "+00:00"))
        except ValueError:
            raise _no_date(text) from None
        if len(text) == 10:
            found = found.replace(hour=12)
        return _utc(found if found.tzinfo else found.replace(tzinfo=zone), text)
    m = _LOCAL.match(text)
    if m is None:
        raise HurbinError("time_wrong", f"“{text}” is no date that is understood.", field="taken_at", value=text, right="2024-03-02 09:15")
    a, stroke, b, year = int(m[1]), m[2], int(m[3]), int(m[4])
    first = True if stroke == "." else day_first
    if first is None:
        if a <= 12 and b <= 12 and a != b:
            raise HurbinError("time_two_ways", f"“{text}” can be read two ways: say whether the day or the month stands first.", field="taken_at",
                              value=text, right="2024-03-02 09:15")  # fmt: skip
        first = a > 12 or b <= 12
    day, month = (a, b) if first else (b, a)
    try:
        local = datetime(year + (2000 if year < 70 else 1900) if year < 100 else year, month, day, int(m[5] or 12), int(m[6] or 0), int(m[7] or 0), tzinfo=zone)
    except ValueError:
        raise _no_date(text) from None
    return _utc(local, text)


def _no_date(text: str) -> HurbinError:
    return HurbinError("time_wrong", f"“{text}” is not a date.", field="taken_at", value=text, right="2024-03-02 09:15")


def _utc(at: datetime, text: str) -> datetime:
    try:
        return within_years(at).astimezone(UTC)
    except (ValueError, OverflowError):
        message = f"“{text}” is not a time that this plant can have had."
        raise HurbinError("time_outside", message, field="taken_at", value=text, right="1900 to 2100") from None


def open_readings(text: str, bench: Bench, zone: str, day_first: bool | None = None) -> ReadingsFile:
    """What is this file? Raises `header_wrong` naming the columns that lack or are strange, `file_too_long` past 250,000 rows."""
    first = text.splitlines()[0] if text.strip() else ""
    delimiter = max((";", "\t", ","), key=first.count)
    header = next(csv.reader([first], delimiter=delimiter), [])
    kinds = _kinds(bench)
    columns, strange = [], []
    for cell in header:
        found = _column(cell.strip(), bench, kinds)
        columns.append(found or _Column(cell, "none"))
        if found is None:
            strange.append(cell.strip() or "(no name)")
    names = [c.name for c in columns]
    lacking = [n for n in FIRST if n not in names]
    twice = sorted({n for n in names if names.count(n) > 1})
    if lacking or strange or twice:
        said = f"The header lacks {', '.join(lacking)}." if lacking else f"The header has unknown columns: {', '.join(strange[:6])}." if strange else f"The header names {', '.join(twice)} twice."
        raise HurbinError("header_wrong", said, field="file", right=", ".join([*FIRST, *list(kinds)[:8]]) + ", …")
    total = max(0, text.count("\n") + (not text.endswith("\n")) - 1)
    if total > MOST_ROWS:
        raise HurbinError("file_too_long", f"The file has {total} rows; {MOST_ROWS} are taken at a time.", field="file", right="a file in parts")
    if day_first is None:
        day_first = _guess_order(text, columns, delimiter)
    return ReadingsFile(bench, columns, text, delimiter, ZoneInfo(zone), day_first, total)


def _column(cell: str, bench: Bench, kinds: dict[str, str]) -> _Column | None:
    m = re.match(r"^\s*([\w.]+?)\s*(?:[|\[(]\s*([^\])]*?)\s*[\])]?)?\s*$", cell)
    if m is None:
        return None
    name, unit = m[1].lower(), (m[2] or "").strip()
    if name == "tag":
        return _Column("tag", "tag")
    if name == "taken_at":
        return _Column("taken_at", "time")
    timed = _TIMED.match(name)
    if bench.timed and (timed or name == "more_readings"):
        code = _unit_code(unit or "MOhm", "resistance", cell)
        if timed is None:
            return _Column(name, "more", code)
        return _Column(name, "timed", code, "all" if timed[1] == "r" else timed[1].upper(), float(timed[2]))
    if name not in kinds:
        return None
    if kinds[name] != "figure":
        return _Column(name, kinds[name])
    rule = field_rules(bench.entry)[name]
    return _Column(name, "figure", _unit_code(unit or _default_unit(bench, name), rule.dimension, cell))


def _unit_code(text: str, dimension: str, cell: str) -> str:
    found = find_unit(text, dimension)
    if found is None:
        raise HurbinError("unit_wrong", f"The header's “{cell}”: “{text}” is no unit for this column.", field="file", value=cell)
    return found.code


def _guess_order(text: str, columns: list[_Column], delimiter: str) -> bool | None:
    """From dates that can be read only one way, how the others of the file are meant; None when none tells."""
    at = next((i for i, c in enumerate(columns) if c.kind == "time"), None)
    if at is None:
        return None
    days = months = False
    for cells in csv.reader(io.StringIO(text), delimiter=delimiter):
        m = _LOCAL.match(cells[at].strip()) if len(cells) > at else None
        if m is not None and m[2] != ".":
            days, months = days or int(m[1]) > 12, months or int(m[3]) > 12
    return None if days == months else days


def write_readings(bench: Bench, records: list[tuple[str, datetime, dict[str, Any]]], marks: tuple[int, ...] = ()) -> str:
    """(tag, UTC time, facts) as a file of this format; texts, units and bounds as typed. Reads back to the same facts."""
    kinds = _kinds(bench)
    timed = [(leg, m) for leg in ("all", "L1", "L2", "L3") for m in marks if any(_at(f, leg, m) for _, _, f in records)]
    more = bench.timed and any((r["leg"], r["seconds"]) not in timed for _, _, f in records for r in f.get("readings", []))
    names = [f"{'R' if leg == 'all' else leg}_{m}s|MOhm" for leg, m in timed]
    out = [_line([*FIRST, *(_header(bench, n, k) for n, k in kinds.items()), *names, *(["more_readings|MOhm"] if more else [])])]
    lines = [(tag, *line) for tag, when, whole in records for line in (bench.rows(whole, when) if bench.rows is not None else [(when, whole)])]
    for tag, at, facts in lines:
        body = facts.get("setup", {}) if bench.timed else facts
        cells = [tag, at.astimezone(UTC).isoformat().replace("+00:00", "Z"), *(_write(body.get(n), k, _default_unit(bench, n) if k == "figure" else "") for n, k in kinds.items())]
        cells += [_write(_at(facts, leg, m), "figure", "MOhm") for leg, m in timed]
        if more:
            rest = [r for r in facts.get("readings", []) if (r["leg"], r["seconds"]) not in timed]
            cells.append("; ".join(f"{'' if r['leg'] == 'all' else r['leg'] + ' '}{r['seconds']:g}s {_write(r['ohms'], 'figure', 'MOhm')}" for r in rest))
        out.append(_line([_guard(c) for c in cells]))
    return "".join(out)


def _at(facts: dict[str, Any], leg: str, second: float) -> Any:
    return next((r["ohms"] for r in facts.get("readings", []) if r["leg"] == leg and r["seconds"] == second), None)


def _write(value: Any, kind: str, unit: str) -> str:
    if value is None:
        return ""
    if kind == "figure":
        own = value.get("unit", "")
        return str(value["text"]) if own == unit else f"{value['text']}|{own}"
    return {True: "yes", False: "no"}[value] if kind == "yes" else str(value)
