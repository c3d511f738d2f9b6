"""A table of a data file: axes, columns, rows, and how it is read between them."""

from __future__ import annotations

from itertools import pairwise
from typing import Literal

from pydantic import model_validator

from .errors import HurbinError
from .units import to_metric, unit
from .written_rules import Source, Written

Cell = float | str


class Axis(Written):
    """One way into a table. word: the row that says it. upto: the first row that is not less. straight,
    inverse: between two rows along a straight line over the figure, or over one divided by it; before the
    first row the first holds, beyond the last one nothing is known.
    """

    name: str
    unit: str = ""
    read: Literal["word", "upto", "straight", "inverse"] = "word"


class Column(Written):
    """One answer of a table; without a unit it is a word."""

    name: str
    unit: str = ""


class Table(Source):
    """Figures that go together, as their source gives them. A row: a cell for each axis, then one for
    each column.
    """

    id: str
    title: str
    axes: list[Axis]
    columns: list[Column]
    rows: list[list[Cell]]
    why: str = ""

    @model_validator(mode="after")
    def _shaped(self) -> Table:
        width = len(self.axes) + len(self.columns)
        if not self.rows or any(len(r) != width for r in self.rows):
            raise ValueError(f"every row has {width} cells, and there is at least one")
        if any(a.read in ("straight", "inverse") for a in self.axes) and len(self.axes) > 1:
            raise ValueError("only a table with one axis is read between its rows")
        return self

    def check(self) -> None:
        """Raises for a unit nobody knows, and for a word where a figure stands."""
        parts = [(a.name, a.unit) for a in self.axes] + [(c.name, c.unit) for c in self.columns]
        for i, (name, code) in enumerate(parts):
            if code:
                unit(code)
            wrong = [r[i] for r in self.rows if isinstance(r[i], str) is bool(code)]
            if wrong:
                said = f"{self.id}: “{wrong[0]}” does not stand under {name}."
                raise HurbinError("cell_wrong", said, field=self.id, value=wrong[0])
        for a, b in pairwise(self.rows):
            if self.axes[0].read in ("straight", "inverse") and not _number(a[0]) < _number(b[0]):
                raise HurbinError(
                    "rows_out_of_order", f"{self.id}: rows rise along {self.axes[0].name}.", field=self.id
                )

    def at(self, *where: Cell) -> dict[str, float] | None:
        """The figures of the row for this place, metric; None where the table says nothing. `where`:
        metric.
        """
        cells = self.row(*where)
        if cells is None:
            return None
        named = zip(self.columns, cells, strict=True)
        return {c.name: to_metric(_number(v), c.unit) for c, v in named if c.unit}

    def word(self, *where: Cell) -> str | None:
        """The first column's word for this place; None where the table says nothing."""
        cells = self.row(*where)
        return str(cells[0]) if cells is not None else None

    def row(self, *where: Cell) -> list[Cell] | None:
        if self.axes[0].read in ("straight", "inverse"):
            return self._between(_number(where[0]))
        n = len(self.axes)
        for r in self.rows:
            if all(_fits(a, cell, w) for a, cell, w in zip(self.axes, r[:n], where, strict=True)):
                return r[n:]
        return None

    def _between(self, x: float) -> list[Cell] | None:
        places = [to_metric(_number(r[0]), self.axes[0].unit) for r in self.rows]
        inverse = self.axes[0].read == "inverse"
        if x <= places[0]:
            return self.rows[0][1:] if x > 0 or not inverse else None
        for (low, a), (high, b) in pairwise(zip(places, self.rows, strict=True)):
            if x == high:
                return b[1:]
            if x <= high * (1 + 1e-9):
                share = (1 / low - 1 / x) / (1 / low - 1 / high) if inverse else (x - low) / (high - low)
                return [
                    _number(p) + share * (_number(q) - _number(p)) for p, q in zip(a[1:], b[1:], strict=True)
                ]
        return None


def _number(cell: Cell) -> float:
    return float(cell)


def _fits(axis: Axis, cell: Cell, where: Cell) -> bool:
    if axis.read == "word":
        return cell == where
    return _number(where) <= to_metric(_number(cell), axis.unit) * (1 + 1e-9)
