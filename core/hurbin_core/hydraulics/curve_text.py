"""A curve as it is typed or pasted: rows of flow, head and what else the manufacturer gives."""

from __future__ import annotations

import itertools
import re
from dataclasses import dataclass, field

from ..base import HurbinError, delimiter_of, find_unit, to_metric

_COLUMNS = ("flow", "head", "power", "npshr", "efficiency")
_WORDS = {
    "flow": ("flow", "q"),
    "head": ("head", "h"),
    "power": ("power", "p2", "p", "shaft"),
    "npshr": ("npshr", "npsh"),
    "efficiency": ("efficiency", "eff", "eta", "η"),
}
_UNITS = {"flow": "m3/h", "head": "m_head", "power": "kW", "npshr": "m_head", "efficiency": "%"}
_DIMENSIONS = {"flow": "flow", "head": "head", "power": "power", "npshr": "head", "efficiency": "percent"}
MOST_ROWS = 60


@dataclass(slots=True)
class Points:
    """The rows by rising flow, metric: m³/h, m, kW, m, %. None where a column is not there."""

    rows: list[dict[str, float]] = field(default_factory=list)

    def column(self, name: str) -> list[tuple[float, float]]:
        """(flow, value) where this column was given."""
        return [(r["flow"], r[name]) for r in self.rows if name in r]


def _wrong(message: str, value: str, right: str = "flow; head, a line each: 12; 31.5") -> HurbinError:
    return HurbinError("curve_wrong", message, field="curve", value=value[:60], right=right)


def _cells(text: str) -> list[str]:
    parts = delimiter_of(text) if any(d in text for d in ";\t") else "," if ", " in text else ""
    return [c.strip() for c in (text.split(parts) if parts else text.split())]


def _number(text: str) -> float:
    """A cell's figure; a decimal comma is one."""
    if not re.fullmatch(r"[0-9]{1,7}([.,][0-9]{1,6})?", text):
        raise _wrong(f"Curve: “{text[:20]}” is not a number.", text)
    return float(text.replace(",", "."))


def _header(cells: list[str]) -> list[tuple[str, str]]:
    """Which column is which, and its unit: "Flow (l/s)", "Head ft"."""
    out = []
    for cell in cells:
        match = re.match(r"\s*([^\W\d_]+\d?)[^\w%²³/·]*([^\s()\[\]]*)", cell)
        word, said = (match[1].lower(), match[2]) if match else ("", "")
        name = next((n for n in _COLUMNS if word in _WORDS[n]), "")
        if not name:
            right = "flow; head; power; NPSHr; efficiency"
            raise _wrong(f"Curve: “{cell[:20]}” is not a column known here.", cell, right)
        unit = find_unit(said, _DIMENSIONS[name]) if said and said.lower() not in ("required", "r") else None
        if said and unit is None and said.lower() not in ("required", "r"):
            raise _wrong(f"Curve: “{said[:12]}” is not a unit of {name}.", cell, _UNITS[name])
        out.append((name, unit.code if unit else _UNITS[name]))
    return out


def read_points(text: str) -> Points:
    """Which points does this text hold? Rows by line or by “|”; the first line may name columns and units;
    else they are flow m³/h, head m, power kW, NPSH required m. Raises `curve_wrong` naming the row.
    """
    lines = [x.strip() for x in re.split(r"[\n|]", text) if x.strip()]
    if not lines:
        return Points()
    columns = [(n, _UNITS[n]) for n in _COLUMNS[:4]]
    if not re.match(r"[0-9.,+-]", lines[0]):
        columns, lines = _header(_cells(lines[0])), lines[1:]
    names = [n for n, _ in columns]
    if len(set(names)) != len(names) or not {"flow", "head"} <= set(names):
        raise _wrong("Curve: it takes one column of flow and one of head.", ", ".join(names))
    if len(lines) > MOST_ROWS:
        raise _wrong(f"Curve: {len(lines)} rows; {MOST_ROWS} at most.", str(len(lines)))
    rows = []
    for line in lines:
        cells = _cells(line)
        if not 2 <= len(cells) <= len(columns):
            raise _wrong(f"Curve: row “{line[:30]}” has {len(cells)} figures.", line)
        pairs = zip(columns, cells, strict=False)
        rows.append({n: to_metric(_number(c), unit) for (n, unit), c in pairs if c})
        if not {"flow", "head"} <= rows[-1].keys():
            raise _wrong(f"Curve: row “{line[:30]}” lacks flow or head.", line)
    rows.sort(key=lambda r: r["flow"])
    for a, b in itertools.pairwise(rows):
        if b["flow"] <= a["flow"]:
            raise _wrong(f"Curve: two rows at {a['flow']:g} m³/h.", f"{a['flow']:g}")
    return Points(rows)
