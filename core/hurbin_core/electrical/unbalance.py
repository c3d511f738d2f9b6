"""Three legs: how far apart are they, and what does that cost the motor?"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from ..base import HurbinError

# NEMA MG 1 figure 14-1, read off the curve from memory, ±0.01: unbalance in percent, share of plate power.
_DERATING = ((1.0, 1.00), (2.0, 0.95), (3.0, 0.88), (4.0, 0.82), (5.0, 0.75))


def mean(legs: Sequence[float]) -> float:
    return math.fsum(legs) / len(legs)


def unbalance_pct(legs: Sequence[float]) -> tuple[float, int]:
    """NEMA unbalance of three magnitudes in percent, and which leg is furthest from the mean.

    Source: NEMA MG 1 14.36 (standard, from memory). Raises `no_legs` when the mean is zero.

    >>> round(unbalance_pct((220, 215, 210))[0], 2)
    2.33
    """
    m = mean(legs)
    if m <= 0:
        raise HurbinError("no_legs", "Unbalance needs legs above zero.", field="legs", value=list(legs))
    away = [abs(x - m) for x in legs]
    furthest = max(range(len(legs)), key=lambda i: away[i])
    return 100 * away[furthest] / m, furthest


def closes_triangle(a: float, b: float, c: float) -> bool:
    """Can these be three line-to-line volts? No leg may be longer than the other two together."""
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
        raise HurbinError("no_triangle", "These volts close no triangle.", field="volts", value=(a, b, c))
    squares = a * a + b * b + c * c
    beta = (a**4 + b**4 + c**4) / squares**2
    s = min(1.0, max(0.0, math.sqrt(max(0.0, 3 - 6 * beta))))
    return 100 * math.sqrt((1 - s) / (1 + s))


def derating(unbalance: float) -> float | None:
    """What share of its plate power may the motor carry at this voltage unbalance (percent)?

    1.00 up to 1 %, then between the curve's points; None over 5 %: it is not run, and nothing is extrapolated.
    Source: NEMA MG 1 figure 14-1 (standard, from memory, ±0.01).

    >>> derating(2.5)
    0.915
    """
    if unbalance <= _DERATING[0][0]:
        return 1.0
    for (x0, y0), (x1, y1) in pairwise(_DERATING):
        if unbalance <= x1 * (1 + 1e-9):
            return round(y0 + (y1 - y0) * (unbalance - x0) / (x1 - x0), 12)
    return None


def extra_rise_pct(unbalance: float) -> float:
    """By how many percent does the winding's temperature rise grow? About 2 × (unbalance)² (common practice)."""
    return 2 * unbalance**2
