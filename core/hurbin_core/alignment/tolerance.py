"""How far a coupling may be out, by speed."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from importlib.resources import files
from itertools import pairwise

_TABLES: dict[str, list[list[float]]] = tomllib.loads(files(__package__).joinpath("tolerance.toml").read_text())
_ROWS = _TABLES["short"]
MIL = 0.0254


@dataclass(frozen=True, slots=True)
class Tolerance:
    """Offset in mm, angle in mm per 100 mm: excellent, and still acceptable."""

    offset_excellent: float
    offset_acceptable: float
    angle_excellent: float
    angle_acceptable: float


def by_speed(rpm: float) -> Tolerance | None:
    """What does a short coupling want at this speed? Straight lines over 1/rpm between the table's rows; under 600 its first
    row; over 3600 nothing is known (None).

    >>> round(by_speed(1800).offset_excellent, 4)
    0.0508
    """
    row = _row(_ROWS, rpm)
    return _tolerance(row) if row is not None else None


def spacer_by_speed(rpm: float) -> tuple[float, float] | None:
    """What angle, excellent and acceptable in mm per 100 mm, does a spacer coupling want at each of its planes at this speed?

    >>> spacer_by_speed(1800)
    (0.06, 0.1)
    """
    row = _row(_TABLES["spacer"], rpm)
    return (row[0], row[1]) if row is not None else None


def _row(table: list[list[float]], rpm: float) -> list[float] | None:
    if not 0 < rpm <= table[-1][0] * (1 + 1e-9):
        return None
    if rpm <= table[0][0]:
        return table[0][1:]
    for low, high in pairwise(table):
        if rpm == high[0]:
            return high[1:]
        if rpm <= high[0] * (1 + 1e-9):
            share = (1 / low[0] - 1 / rpm) / (1 / low[0] - 1 / high[0])
            return [a + share * (b - a) for a, b in zip(low[1:], high[1:], strict=True)]
    return None


def _tolerance(row: list[float]) -> Tolerance:
    # A mil in ten inches is a hundredth of a millimetre in a hundred.
    return Tolerance(row[0] * MIL, row[1] * MIL, row[2] / 100, row[3] / 100)
