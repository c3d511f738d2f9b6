"""Spares as a file in an open format: `code`, `title`, `place`, `count` and what else is known.
`docs/formats.md`.
"""

from __future__ import annotations

from collections.abc import Iterable

from ..base import HurbinError, Model, Problem, table, take_lines

COLUMNS = (
    "code",
    "title",
    "place",
    "count",
    "emergency",
    "lines",
    "fits",
    "per_year",
    "lead_days",
    "price",
    "day_cost",
    "least",
    "most",
)
NEEDED = COLUMNS[:4]
MOST = 99_999
_TEXT = {"code": 40, "title": 120, "place": 60}


class PartRow(Model):
    """One line understood. lines: the kit lines it fills; fits: kinds of set or tags; None: not said."""

    line: int
    code: str
    title: str
    place: str
    count: int
    emergency: int = 0
    lines: list[str] = []
    fits: list[str] = []
    per_year: float | None = None
    lead_days: float | None = None
    price: float | None = None
    day_cost: float | None = None
    least: int | None = None
    most: int | None = None


def read_parts(text: str) -> tuple[list[PartRow], list[Problem]]:
    """The lines of a parts file and what is wrong with the others, each with its line number as field. Raises
    `header_wrong` when a column lacks.

    >>> read_parts("code,title,place,count\\nS-1,Seal set,Shelf A,2")[0][0].count
    2
    """
    rows: list[PartRow] = []
    seen: set[tuple[str, str]] = set()

    def take(number: int, held: dict[str, str]) -> None:
        row = _row(number, held)
        if (row.code, row.place) in seen:
            raise HurbinError("part_twice", f"{row.code} is listed twice for {row.place}.", field="code")
        seen.add((row.code, row.place))
        rows.append(row)

    problems = take_lines(text, COLUMNS, NEEDED, take)
    return rows, problems


def _row(line: int, held: dict[str, str]) -> PartRow:
    words = {n: _words(held.get(n, ""), n, most) for n, most in _TEXT.items()}
    whole = {n: _whole(held.get(n, ""), n) for n in ("count", "emergency", "least", "most")}
    figures = {n: _figure(held.get(n, ""), n) for n in ("per_year", "lead_days", "price", "day_cost")}
    count = whole.pop("count")
    if count is None:
        raise HurbinError("count_missing", "Enter a count; 0 where there is none.", field="count")
    emergency = whole.pop("emergency")
    lists = {n: _list(held.get(n, "")) for n in ("lines", "fits")}
    told = {"line": line, "count": count, "emergency": emergency or 0}
    return PartRow.model_validate(told | words | lists | figures | whole)


def _words(text: str, name: str, most: int) -> str:
    said = " ".join(text.lstrip("'").split())
    if not said or len(said) > most:
        raise HurbinError(
            "word_wrong",
            f"No {name} in this line, or it is over {most} characters.",
            field=name,
            value=said[:60],
        )
    return said


def _whole(text: str, name: str) -> int | None:
    if not text.strip():
        return None
    if not text.isascii() or not text.isdigit() or len(text) > 5 or int(text) > MOST:
        right = f"a whole number up to {MOST}"
        raise HurbinError(
            "count_wrong", f"“{text[:40]}” is not a {name}.", field=name, value=text[:40], right=right
        )
    return int(text)


def _figure(text: str, name: str) -> float | None:
    if not text.strip():
        return None
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        value = -1.0
    if not 0 <= value <= 1e9 or len(text) > 20:
        raise HurbinError("figure_wrong", f"“{text[:40]}” is not a {name}.", field=name, value=text[:40])
    return value


def _list(text: str) -> list[str]:
    return [x.strip()[:40] for x in text.split("|") if x.strip()][:30]


def write_parts(rows: Iterable[PartRow]) -> str:
    """Parts as a file of this format. Reads back to the same."""
    return table(COLUMNS, [[_cell(getattr(r, c)) for c in COLUMNS] for r in rows])


def _cell(value: object) -> object:
    if isinstance(value, list):
        return "|".join(str(x) for x in value)
    return "" if value is None else f"{value:g}" if isinstance(value, float) else value
