"""Tables as text, in and out: the one dialect of every file here.

Comma, semicolon or tab; with or without a byte-order mark; a cell that a spreadsheet would take for a formula
carries an apostrophe, and loses it when it comes in.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Iterator, Sequence

from .errors import HurbinError, Problem

_FORMULA = ("=", "+", "@", "-")
# What a spreadsheet passes over before it looks for a formula.
_BLANK = " \t\r\n\x0b\x0c\xa0"
# The widest of our tables has some hundred columns, of some forty letters each.
MOST_COLUMNS, MOST_HEADER = 2000, 100_000
_MAGIC = (
    (b"\x89PNG", "picture"),
    (b"\xff\xd8\xff", "picture"),
    (b"GIF8", "picture"),
    (b"PK\x03\x04", "spreadsheet"),
    (b"\xd0\xcf\x11\xe0", "spreadsheet"),
    (b"%PDF", "PDF"),
)


def decode(raw: bytes) -> str:
    """The text of an uploaded file. Raises a clear error for an empty file, a picture, a spreadsheet under
    the wrong name.
    """
    if not raw.strip():
        right = "a header line and a line per reading"
        raise HurbinError("file_empty", "The file is empty.", field="file", right=right)
    for magic, what in _MAGIC:
        if raw.startswith(magic):
            hint = " Save it as CSV first." if what == "spreadsheet" else ""
            message = f"This is a {what}, not a table of readings.{hint}"
            raise HurbinError("file_wrong_kind", message, field="file", right="a CSV file")
    if b"\x00" in raw[:4096]:
        message = "This is not a text file, so it cannot be a table of readings."
        raise HurbinError("file_wrong_kind", message, field="file", right="a CSV file in UTF-8")
    try:
        return raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        return raw.decode("cp1252", errors="replace")


def plain(text: str) -> str:
    """The text without its byte-order mark."""
    return text.lstrip("\ufeff")


def delimiter_of(text: str) -> str:
    """What parts the cells: of semicolon, tab and comma the one that its first line holds most of.

    >>> delimiter_of("tag;name;place")
    ';'
    """
    first = _first(text)
    return max((";", "\t", ","), key=first.count)


def header_of(text: str) -> list[str]:
    """The cells of the first line. Raises `header_too_long`: more of them, or longer ones, than any table of
    ours has.
    """
    first, mark = _first(text), delimiter_of(text)
    if len(first) > MOST_HEADER or first.count(mark) >= MOST_COLUMNS:
        said = f"The first line is too long for a header: {MOST_COLUMNS} columns are taken."
        raise HurbinError("header_too_long", said, field="file", right="names of columns")
    return [h.strip() for h in next(csv.reader([first], delimiter=mark), [])]


def _first(text: str) -> str:
    """The first line, found without parting the rest; none of a text that holds nothing."""
    head = text[: MOST_HEADER + 1].lstrip("\ufeff")
    return head.splitlines()[0] if head.strip() else ""


def rows_of(text: str, delimiter: str = "") -> Iterator[tuple[int, list[str]]]:
    """Every line after the first that holds anything, with its number in the file. Raises `line_wrong` for
    one that is no line of cells.
    """
    reader = csv.reader(io.StringIO(text), delimiter=delimiter or delimiter_of(text))
    try:
        next(reader, None)
        for cells in reader:
            if any(c.strip() for c in cells):
                yield reader.line_num, [unguard(c.lstrip()).strip() for c in cells]
    except csv.Error as error:
        said = f"Line {reader.line_num} cannot be read: a cell is too long, or a line ends inside of it."
        raise HurbinError("line_wrong", said, field="file", right="one line a row") from error


def take_lines(
    text: str, columns: Sequence[str], needed: Sequence[str], take: Callable[[int, dict[str, str]], None]
) -> list[Problem]:
    """Hand every line to `take`, its cells by their columns in whatever order they stand; what it refuses
    comes back, each with its line number as field. Raises `header_wrong` when a needed column lacks.
    """
    header = [c.lower() for c in header_of(text)]
    lacking = [c for c in needed if c not in header]
    if lacking:
        message = f"Missing columns in the header: {', '.join(lacking)}."
        raise HurbinError("header_wrong", message, field="file", right=", ".join(columns))
    problems: list[Problem] = []
    for number, cells in rows_of(text):
        try:
            take(number, dict(zip(header, cells, strict=False)))
        except HurbinError as error:
            problems.append(Problem.of(error).model_copy(update={"field": f"line {number}"}))
    return problems


def unguard(text: str) -> str:
    """Take off the apostrophe that keeps a spreadsheet from reading a cell as a formula."""
    return text[1:] if text[:1] == "'" and _would_run(text[1:]) else text


def guard(text: str) -> str:
    """With an apostrophe before what a spreadsheet would take for a formula, also behind blanks."""
    return f"'{text}" if _would_run(text) else text


def _would_run(text: str) -> bool:
    return text.startswith(("\t", "\r")) or text.lstrip(_BLANK).startswith(_FORMULA)


def line(cells: Sequence[object]) -> str:
    """One line of a file, guarded."""
    out = io.StringIO()
    csv.writer(out, lineterminator="\r\n").writerow([guard(str(c)) for c in cells])
    return out.getvalue()


def table(header: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """A whole file: its header, then a line a row."""
    return line(header) + "".join(line(r) for r in rows)
