"""How much of its nameplate power a motor may carry on unequal volts."""

from __future__ import annotations

from ..base import TABLES

# The highest unbalance that the table knows a share for, in percent.
DERATED_TO = float(TABLES["derating"].rows[-1][0])


def derating(unbalance: float) -> float | None:
    """What share of its nameplate power may the motor carry at this voltage unbalance (percent)?

    By the table of the rulebook: 1.00 up to its first row, straight between its points; None beyond the last:
    it is not run, and nothing is extrapolated. Source: NEMA MG 1 figure 14-1 (standard, from memory, ±0.01).

    >>> derating(2.5)
    0.915
    """
    found = TABLES["derating"].at(unbalance)
    return None if found is None else round(found["share"], 12)
