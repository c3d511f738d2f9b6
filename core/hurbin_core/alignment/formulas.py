"""Formulas of shafts, dials and metal: pure arithmetic, each with its question, units, validity and
source.
"""

from __future__ import annotations

from collections.abc import Mapping

from ..base import HurbinError

Clock = Mapping[int, float | None]


def positive(name: str, value: float, words: str) -> float:
    """Is this a figure to divide by? It comes back as it is, in its own unit; raises `diameter_zero` where it
    is none.

    >>> positive("face_diameter", 150.0, "Face diameter")
    150.0
    """
    if not value > 0:
        raise HurbinError(
            "diameter_zero",
            f"{words} must be above zero.",
            field=name,
            value=value,
            right="the measured figure",
        )
    return value


def half_difference(c: Clock, plus: int, minus: int) -> float | None:
    """What is half the difference of two opposite readings? In their own unit; None while one is missing.

    It cancels what is alike on both sides: unequal hubs, a dial's zero. Geometry.

    >>> half_difference({12: 0.20, 6: -0.20}, 12, 6)
    0.2
    """
    a, b = c.get(plus), c.get(minus)
    return None if a is None or b is None else (a - b) / 2


def without_sag(readings: Clock, sag: float) -> dict[int, float | None]:
    """What does a dial read, zeroed at 12, without the sag of what carries it? All of it at 6, half at 3 and
    9.

    mm in, mm out. Geometry: the carrier bends under its own weight, twice as far from top to bottom as to the
    side.

    >>> without_sag({12: 0.0, 6: 0.10}, -0.06)[6]
    0.16
    """
    share = {12: 0.0, 3: 0.5, 6: 1.0, 9: 0.5}
    return {k: None if v is None else round(v - sag * share[k], 12) for k, v in readings.items()}


def flange_lift(
    gaps: Clock, diameter: float, distance: float, pitch: float | None = None
) -> tuple[float, float | None] | None:
    """By how much is the support of a motor on an adapter raised (positive), from the gaps at 12 and 6? Also
    in turns of its nut.

    Wider at 12: the far end is low. A check of the support's height, no proof of shaft alignment. All in mm.
    Geometry.

    >>> flange_lift({12: 0.5, 6: 0.2}, 300, 450, 1.5)
    (0.45, 0.3)
    """
    half = half_difference(gaps, 12, 6)
    if half is None:
        return None
    lift = 2 * half / positive("face_diameter", diameter, "Flange diameter") * distance
    return lift, lift / pitch if pitch else None


def expansion_mm(height_mm: float, per_kelvin: float, cold_c: float, working_c: float) -> float:
    """By how many mm does this much metal grow (negative: shrink) from cold to working?

    Height in mm, growth per kelvin, mean temperatures of the metal in °C (not the water's). Linear expansion,
    between about −40 and 150 °C. Common engineering handbooks.

    >>> round(expansion_mm(280, 10.4e-6, 20, 82), 2)
    0.18
    """
    return per_kelvin * height_mm * (working_c - cold_c)


def cold_target_mm(pump_growth: float, motor_growth: float) -> float:
    """Where does the motor's axis stand cold so that both are level at work? mm; positive is motor high.
    Geometry.

    >>> round(cold_target_mm(0.18, 0.07), 2)
    0.11
    """
    return pump_growth - motor_growth
