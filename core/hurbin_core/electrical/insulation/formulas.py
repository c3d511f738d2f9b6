"""Formulas of insulation and air: pure arithmetic, each with its question, units, validity and source."""

from __future__ import annotations

import math

from ...base import HurbinError


def factor_thermosetting(winding_c: float) -> float:
    """By what is a reading on a thermosetting winding multiplied to stand at 40 °C? 10 to 85 °C.

    IEEE 43-2013 clause 6 (from memory). Raises `temperature_outside` elsewhere: no correction is known there.

    >>> round(factor_thermosetting(20.0), 3)
    0.762
    """
    _inside(winding_c)
    slope = 1245.0 if winding_c <= 40 else 4230.0
    return math.exp(-slope * (1 / (winding_c + 273) - 1 / 313))


def factor_thermoplastic(winding_c: float) -> float:
    """The same for older thermoplastic insulation: halving every 10 K (IEEE 43-2013 clause 6, from memory).
    10 to 85 °C.

    >>> factor_thermoplastic(20.0)
    0.25
    """
    _inside(winding_c)
    return math.exp2((winding_c - 40) / 10)


def _inside(winding_c: float) -> None:
    if not 10 <= winding_c <= 85:
        raise HurbinError(
            "temperature_outside",
            f"Insulation cannot be corrected at {winding_c:g} °C.",
            field="winding",
            value=winding_c,
            right="10 to 85 °C",
        )


def dew_point_c(air_c: float, humidity_pct: float) -> float:
    """At what temperature does this air wet a surface? °C in and out, humidity 1 to 100 %.

    Magnus formula with the constants of Alduchov and Eskridge 1996 (from memory); within 0.4 K from −40 to 50
    °C.

    >>> round(dew_point_c(25.0, 50.0), 1)
    13.9
    """
    if not 0 < humidity_pct <= 100:
        raise HurbinError(
            "humidity_outside",
            f"A humidity of {humidity_pct:g} % is not possible.",
            field="humidity",
            value=humidity_pct,
            right="1 to 100 %",
        )
    g = math.log(humidity_pct / 100) + 17.625 * air_c / (243.04 + air_c)
    return 243.04 * g / (17.625 - g)


def life_share(over_k: float, halves_k: float) -> float:
    """What share of its life does insulation keep when it runs this many kelvin over its class? 1 at and
    under it.

    Kelvin in, share out; `halves_k`: how many kelvin halve it. A rule of thumb (common handbooks, from
    memory); life tests on motors have shown about 15 K, so 10 K leans to the cautious side.

    >>> life_share(20.0, 10.0)
    0.25
    """
    return math.exp2(-max(0.0, over_k) / halves_k)
