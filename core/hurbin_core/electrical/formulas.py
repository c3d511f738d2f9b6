"""Formulas of three legs: pure arithmetic, each with its question, units, validity and source."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ..base import HurbinError


def mean(legs: Sequence[float]) -> float:
    """The mean of the legs, in their own unit; one leg or more. Arithmetic.

    >>> mean((220, 215, 210))
    215.0
    """
    return math.fsum(legs) / len(legs)


def unbalance_pct(legs: Sequence[float]) -> tuple[float, int]:
    """NEMA unbalance of three magnitudes in percent, and which leg is furthest from the mean.

    Source: NEMA MG 1 14.36 (standard, from memory). Raises `no_legs` when the mean is zero.

    >>> round(unbalance_pct((220, 215, 210))[0], 2)
    2.33
    """
    m = mean(legs)
    if m <= 0:
        raise HurbinError("no_legs", "Unbalance needs readings above zero.", field="legs", value=list(legs))
    away = [abs(x - m) for x in legs]
    furthest = max(range(len(legs)), key=lambda i: away[i])
    return 100 * away[furthest] / m, furthest


def closes_triangle(a: float, b: float, c: float) -> bool:
    """Can these be three line-to-line volts? No leg may be longer than the other two together. Any one unit.

    Geometry: three phasors between three points close a triangle.

    >>> closes_triangle(400, 400, 800), closes_triangle(400, 400, 801)
    (True, False)
    """
    longest = max(a, b, c)
    return longest <= (a + b + c - longest) * (1 + 1e-9)


def true_unbalance_pct(a: float, b: float, c: float) -> float:
    """Negative-sequence factor in percent from three line-to-line magnitudes.

    β = Σv⁴/(Σv²)²; the root is clamped because rounding puts equal legs a hair outside β = 1/3.
    Source: the factor of IEC 61000-4-27 (standard, from memory). Raises `no_triangle`.

    >>> round(true_unbalance_pct(220, 215, 210), 2)
    2.69
    """
    if not closes_triangle(a, b, c) or a + b + c <= 0:
        raise HurbinError(
            "no_triangle", "These voltages do not fit together.", field="volts", value=(a, b, c)
        )
    squares = a * a + b * b + c * c
    beta = (a**4 + b**4 + c**4) / squares**2
    s = min(1.0, max(0.0, math.sqrt(max(0.0, 3 - 6 * beta))))
    return 100 * math.sqrt((1 - s) / (1 + s))


def extra_rise_pct(unbalance: float) -> float:
    """By how many percent does the winding's temperature rise grow at this voltage unbalance (percent)?

    About twice its square; told apart from nothing only up to 5 %. NEMA MG 1 14.36 note (from memory).

    >>> extra_rise_pct(3.0)
    18.0
    """
    return 2 * unbalance**2


def load_at_plate_volts_pct(load_pct: float, volts_share: float) -> float:
    """Load in percent of nameplate current as it would be at nameplate voltage; `volts_share`: measured over
    nameplate.

    On 4 % high voltage the same current means about 4 % more work. Within 10 % of nameplate voltage,
    indicative. Common practice, no source.

    >>> round(load_at_plate_volts_pct(90.0, 1.04), 1)
    93.6
    """
    return load_pct * volts_share
