"""From what a meter shows at the terminals to the windings behind them."""

from __future__ import annotations

import math


def to_25(ohms: float, temp_c: float, k: float) -> float:
    """What would this copper read at 25 °C? `k`: 234.5 (IEEE 112) or 235 (IEC 60034-1), both from memory.

    >>> round(to_25(1.84, 31.0, 234.5), 4)
    1.7984
    """
    return ohms * (k + 25.0) / (k + temp_c)


def wye_windings(p12: float, p23: float, p31: float) -> tuple[float, float, float]:
    """What ohms have the windings at terminals 1, 2 and 3 of a wye with these pairs? Arithmetic.

    >>> tuple(round(w, 2) for w in wye_windings(2.60, 2.60, 2.42))
    (1.21, 1.39, 1.21)
    """
    return (p12 + p31 - p23) / 2, (p12 + p23 - p31) / 2, (p23 + p31 - p12) / 2


def delta_windings(p12: float, p23: float, p31: float) -> tuple[float, float, float] | None:
    """What ohms have the windings across 1-2, 2-3 and 3-1 of a delta with these pairs? Arithmetic; None where
    no delta reads so.

    >>> tuple(round(w, 2) for w in delta_windings(2.60, 2.60, 2.42))
    (3.99, 3.99, 3.47)
    """
    u, v, w = wye_windings(p12, p23, p31)
    if min(u, v, w) <= 0:
        return None
    both = u * v + v * w + w * u
    return both / w, both / u, both / v


def furthest_pct(values: list[float]) -> tuple[float, int]:
    """How far is the one furthest from the mean off it, in percent of the mean, and which is it? Arithmetic.

    >>> furthest_pct([1.0, 1.0, 1.3])[1]
    2
    """
    mean = sum(values) / len(values)
    off = [100 * abs(v - mean) / mean for v in values]
    return max(off), off.index(max(off))


def unbalance_step_pct(step: float, mean: float) -> float:
    """By how many percentage points can the last digit of a meter move the unbalance of three readings? Each
    is rounded by half a step, the mean with it: at most two thirds of a step. Arithmetic.

    >>> round(unbalance_step_pct(0.01, 0.5), 2)
    1.33
    """
    return 100 * (2 / 3) * step / mean


def in_service_uf(amps: float, volts: float, hz: float) -> float:
    """Which capacitance draws this current at this voltage? Both as rms of one frequency. Arithmetic.

    >>> round(in_service_uf(4.1, 236.0, 50.0), 1)
    55.3
    """
    return 1e6 * amps / (2 * math.pi * hz * volts)


def bus_wait_s(first_v: float, then_v: float, between_s: float, down_to_v: float) -> float | None:
    """How long does a bus that fell from one voltage to another go on to `down_to_v`? Seconds from the second
    reading, by its own fall; None where it does not fall. Arithmetic of one capacitor and one resistor.

    >>> round(bus_wait_s(566.0, 208.2, 97.2, 50.0))
    139
    """
    if then_v <= down_to_v:
        return 0.0
    if then_v >= first_v or between_s <= 0:
        return None
    return between_s / math.log(first_v / then_v) * math.log(then_v / down_to_v)
