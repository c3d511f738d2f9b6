"""How far a coupling may be out, by speed: the rulebook's tables."""

from __future__ import annotations

from dataclasses import dataclass

from ..base import TABLES


@dataclass(frozen=True, slots=True)
class Tolerance:
    """Offset in mm, angle in mm per 100 mm: excellent, and still acceptable."""

    offset_excellent: float
    offset_acceptable: float
    angle_excellent: float
    angle_acceptable: float


def by_speed(rpm: float) -> Tolerance | None:
    """What does a short coupling want at this speed? Straight lines over 1/rpm between the table's rows;
    under 600 its first row; over 3600 nothing is known (None).

    >>> round(by_speed(1800).offset_excellent, 4)
    0.0508
    """
    row = TABLES["tolerance.short"].at(rpm)
    return Tolerance(**row) if row is not None else None


def spacer_by_speed(rpm: float) -> tuple[float, float] | None:
    """What angle, excellent and acceptable in mm per 100 mm, does a spacer coupling want at each of its
    planes at this speed?

    >>> spacer_by_speed(1800)
    (0.06, 0.1)
    """
    row = TABLES["tolerance.spacer"].at(rpm)
    return (row["angle_excellent"], row["angle_acceptable"]) if row is not None else None
