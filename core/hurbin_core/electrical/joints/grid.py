"""A thermal picture as a table of temperatures: an open form that every camera's software writes.

One line per row of the picture, one cell per point, all lines alike; comma, semicolon or tab between them, a
decimal point, or a decimal comma where semicolon or tab part the cells. Lines that begin with # are notes;
`# unit: degF` says that the figures are in °F, else they are in °C.
"""

from __future__ import annotations

import base64
import math

from pydantic import Field, model_validator

from ...base import HurbinError, Limits, Model, decode, to_metric

_WIDE, _HIGH = 64, 48


class Picture(Model):
    """A thermal picture made small: the hottest point of each of its cells, in tenths of °C, row by row, two
    bytes each, the low one first. low, high: the lowest and the highest of them, °C.
    """

    width: int = Field(ge=1, le=_WIDE)
    height: int = Field(ge=1, le=_HIGH)
    low: float = Field(ge=-100, le=2000)
    high: float = Field(ge=-100, le=2000)
    cells: str = Field(max_length=8 * _WIDE * _HIGH // 3 + 8)

    @model_validator(mode="after")
    def _whole(self) -> Picture:
        try:
            cells = base64.b64decode(self.cells, validate=True)
        except ValueError:
            raise ValueError("The picture is damaged: read the file again.") from None
        if len(cells) != 2 * self.width * self.height or self.high < self.low:
            raise ValueError("The picture is not whole: read the file again.")
        return self

    def at(self, x: float, y: float) -> float:
        """What does it show at this place (0 to 1, across and down), in °C?"""
        cells = base64.b64decode(self.cells)
        column, row = min(self.width - 1, int(x * self.width)), min(self.height - 1, int(y * self.height))
        place = 2 * (row * self.width + column)
        return int.from_bytes(cells[place : place + 2], "little", signed=True) / 10


class Grid(Model):
    """A thermal picture as read, and how many points its file has."""

    picture: Picture
    columns: int
    rows: int


def read_grid(raw: bytes) -> Grid:
    """What picture is in this file? Raises what is wrong with it, with the line: no figures, lines of unlike
    length, a figure that is none, more cells than any camera has.
    """
    most = Limits().count("joints.cells")
    if raw.count(b",") + raw.count(b";") + raw.count(b"\t") > most + raw.count(b"\n"):
        raise _too_many(most)
    lines, unit = _lines(decode(raw))
    rows = _rows(lines, unit, most)
    width, height = len(rows[0]), len(rows)
    per = max(1, math.ceil(width / _WIDE), math.ceil(height / _HIGH))
    small = [
        [max(v for row in rows[y : y + per] for v in row[x : x + per]) for x in range(0, width, per)]
        for y in range(0, height, per)
    ]
    tenths = [round(10 * v) for row in small for v in row]
    picture = Picture(
        width=len(small[0]),
        height=len(small),
        low=min(tenths) / 10,
        high=max(tenths) / 10,
        cells=base64.b64encode(b"".join(t.to_bytes(2, "little", signed=True) for t in tenths)).decode(),
    )
    return Grid(picture=picture, columns=width, rows=height)


def _too_many(most: int) -> HurbinError:
    return HurbinError(
        "grid_too_large",
        f"This grid has more than {most} cells. Export it in the camera's own resolution.",
        field="file",
        right=f"up to {most} cells",
    )


def _lines(text: str) -> tuple[list[tuple[int, str]], str]:
    """The lines that hold figures, with their numbers, and the unit that a note names."""
    unit, out = "degC", []
    for n, line in enumerate(text.splitlines(), 1):
        if line.startswith("#"):
            said = line[1:].replace(" ", "").lower()
            if said.startswith("unit:"):
                unit = {"degf": "degF", "°f": "degF", "f": "degF"}.get(said[5:], "degC")
        elif line.strip():
            out.append((n, line))
    return out, unit


def _rows(lines: list[tuple[int, str]], unit: str, most: int) -> list[list[float]]:
    if len(lines) < 2:
        raise HurbinError(
            "grid_empty",
            "There is no grid of temperatures in this file.",
            field="file",
            right="a line of figures per row of the picture",
        )
    # A decimal comma may stand in every cell: what parts them then is the other one.
    first = lines[0][1]
    delimiter = next((d for d in (";", "\t") if d in first), ",")
    rows: list[list[float]] = []
    for n, line in lines:
        cells = line.rstrip(delimiter + " ").split(delimiter)
        if rows and len(cells) != len(rows[0]):
            raise HurbinError(
                "grid_uneven",
                f"Line {n} has {len(cells)} cells, the first has {len(rows[0])}.",
                field="file",
                value=str(n),
                right="lines of one length",
            )
        rows.append([_cell(c, n, delimiter, unit) for c in cells])
        if len(rows) * len(rows[0]) > most:
            raise _too_many(most)
    return rows


def _cell(text: str, n: int, delimiter: str, unit: str) -> float:
    plain = text.strip().replace(",", ".") if delimiter != "," else text.strip()
    try:
        value = to_metric(float(plain), unit)
    except ValueError:
        value = math.nan
    if not -100 <= value <= 2000:
        raise HurbinError(
            "grid_cell",
            f"Line {n}: “{text.strip()[:20]}” is not a temperature.",
            field="file",
            value=str(n),
            right="48.3",
        )
    return value
