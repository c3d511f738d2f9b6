"""Sums of a motor's protection: what the dial should be, where it trips, how warm its image is."""

from __future__ import annotations

import math

# A device of any class is asked for its time at this multiple of its setting (IEC 60947-4-1, from memory).
CLASS_AT = 7.2


def line_amps(setting: float, ratio: float, loops: float, inside_delta: bool) -> float:
    """How many amps in the line does a setting stand for? A, A.

    ratio: of the current transformer, primary ÷ secondary, 1 without one; loops: passes of a lead through it.
    A relay inside a delta carries the line's current ÷ √3. Arithmetic.

    >>> round(line_amps(13.6 * 1.2, 1, 4, False), 2)
    4.08
    """
    return setting * ratio / loops * (math.sqrt(3) if inside_delta else 1.0)


def dial_for(plate: float, ratio: float, loops: float, inside_delta: bool) -> float:
    """What does the dial stand at for this nameplate current? A, A. Arithmetic, `line_amps` the other way.

    >>> round(dial_for(118, 30, 2, False), 2)
    7.87
    """
    return plate / line_amps(1.0, ratio, loops, inside_delta)


def time_constant_s(seconds: float, edge: float) -> float:
    """Which time constant has an image that trips after so many seconds at 7.2 × its setting, from cold?

    seconds: s; edge: the multiple at which it trips in the end. First-order image, the published form.

    >>> round(time_constant_s(16, 1.15))
    619
    """
    return seconds / math.log(CLASS_AT**2 / (CLASS_AT**2 - edge**2))


def trip_s(tau: float, multiple: float, before: float, edge: float) -> float | None:
    """After how many seconds at this multiple does the image trip, loaded like this before? None: never.

    tau: s; multiple, before, edge: current ÷ setting. First-order image, the published form; it holds for
    a steady current, and for balanced legs only as far as its heaters stand for the windings.

    >>> round(trip_s(619.1, 2.03, 0, 1.15)), round(trip_s(619.1, 2.03, 1, 1.15))
    (240, 68)
    """
    if multiple <= edge:
        return None
    return tau * math.log((multiple**2 - before**2) / (multiple**2 - edge**2)) if before < edge else 0.0


def start_share(tau: float, multiple: float, seconds: float, edge: float) -> float:
    """Which share of the heat of a trip does one start from cold take? 0 to 1 and beyond.

    >>> round(start_share(619.1, 5.7, 6, 1.15), 2)
    0.24
    """
    return (multiple / edge) ** 2 * (1 - math.exp(-seconds / tau))


def wait_s(tau: float, share: float, slower: float) -> float | None:
    """After how many seconds at rest does one more start fit that takes this share? None: it never does.

    slower: how many times longer a motor takes to cool standing than to warm running.

    >>> round(wait_s(619.1, 0.2370, 3) / 60, 1)
    8.4
    """
    return slower * tau * math.log(1 / (1 - share)) if share < 1 else None


def starts_allowed(a: float, b: float, load_inertia: float) -> int:
    """How many starts an hour does a table of starts allow? Whole ones.

    a: starts an hour; b: starts × load inertia and load_inertia in one unit (kg·m²). NEMA MG 10, from memory.

    >>> starts_allowed(9.6, 99, 22)
    4
    """
    most = a if load_inertia <= 0 else min(a, b / load_inertia)
    return math.floor(most * (1 + 1e-9))
