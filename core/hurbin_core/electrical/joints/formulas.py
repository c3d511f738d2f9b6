"""Heat of a joint: what its current explains, what it comes to at full load, and what bare metal hides."""

from __future__ import annotations

import math


def expected_rise_k(twin_rise_k: float, amps: float, twin_amps: float) -> float:
    """Which rise would a like joint have at this current? Heat goes with its square. Arithmetic.

    >>> round(expected_rise_k(44.0, 63.0, 61.0), 1)
    46.9
    """
    return float(twin_rise_k * (amps / twin_amps) ** 2)


def at_full_load_k(rise_k: float, share: float, n: float) -> float:
    """What does a rise come to at full load, read at this share of it? `n`: 2 is the cautious choice, 1.6 was
    measured in practice. Common practice, no source.

    >>> round(at_full_load_k(6.2, 0.58, 2.0), 1), round(at_full_load_k(6.2, 0.58, 1.6), 1)
    (18.4, 14.8)
    """
    return float(rise_k / share**n)


def spot_mm(distance_mm: float, ratio: float) -> float:
    """How wide is the spot that the meter averages at this distance? Arithmetic.

    >>> round(spot_mm(550.0, 12.0))
    46
    """
    return distance_mm / ratio


def watts(millivolts: float, amps: float) -> float:
    """How much heat is made by this drop at this current, in W? Arithmetic.

    >>> round(watts(61.0, 42.0), 1)
    2.6
    """
    return millivolts * amps / 1000.0


_SHORT_UM, _LONG_UM, _STEPS = 8.0, 14.0, 60
# hc/k in µm·K: the exact constants of the SI.
_C2 = 14387.768775


def band_radiance(temp_c: float) -> float:
    """How much does a black body at this temperature radiate between 8 and 14 µm, in units of its own?
    Planck's law, by Simpson's rule.

    >>> band_radiance(96.0) > band_radiance(90.0)
    True
    """
    t = temp_c + 273.15
    h = (_LONG_UM - _SHORT_UM) / _STEPS

    def at(um: float) -> float:
        return 1.0 / (um**5 * math.expm1(_C2 / (um * t)))

    inner = sum((4 if i % 2 else 2) * at(_SHORT_UM + i * h) for i in range(1, _STEPS))
    return float(h / 3 * (at(_SHORT_UM) + inner + at(_LONG_UM)))


def temperature_of(radiance: float) -> float:
    """Which temperature has a black body that radiates so between 8 and 14 µm, in °C? By halving.

    >>> round(temperature_of(band_radiance(96.0)), 3)
    96.0
    """
    low, high = -60.0, 1500.0
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if band_radiance(middle) < radiance else (low, middle)
    return (low + high) / 2


def true_c(seen_c: float, emissivity: float, setting: float, around_c: float) -> float:
    """How hot is a surface of this emissivity that a meter set to `setting` shows as `seen_c`? What it does
    not radiate itself it mirrors of its surroundings. Planck's law between 8 and 14 µm.

    >>> round(true_c(74.2, 0.6, 0.95, 27.0))
    96
    """
    around = band_radiance(around_c)
    received = setting * band_radiance(seen_c) + (1 - setting) * around
    return temperature_of((received - (1 - emissivity) * around) / emissivity)
