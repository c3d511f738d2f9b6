"""Every displayed figure is made here, for the caller's units and decimal mark."""

from __future__ import annotations

import math
from collections.abc import Sequence

from pydantic import BaseModel, Field

from .quantity import Bound, Quantity
from .units import UNITS, from_metric


class Prefs(BaseModel):
    """How one person wants figures: a unit per dimension, and the decimal mark of their locale."""

    units: dict[str, str] = Field(default_factory=dict)
    decimal: str = "."


SI = Prefs()
_SIGN = {Bound.EXACT: "", Bound.AT_LEAST: "≥ ", Bound.AT_MOST: "≤ "}


def _places(value: float, most: int) -> int:
    if value == 0:
        return 0
    return max(0, min(most, 2 - math.floor(math.log10(abs(value)))))


def _write(value: float, places: int, decimal: str) -> str:
    text = f"{value:.{places}f}"
    if float(text) == 0:
        text = text.lstrip("-")
    return text.replace("-", "−").replace(".", decimal)


def _edge(quantity: Quantity, prefs: Prefs) -> tuple[float, str]:
    dimension = UNITS[quantity.unit].dimension
    code = prefs.units.get(dimension, quantity.unit)
    if dimension == "resistance" and dimension not in prefs.units:
        code = _decade(quantity.value)
    if code == quantity.unit:
        return quantity.value, code
    return from_metric(quantity.value, code), code


def _decade(megohm: float) -> str:
    """Resistance unasked: the unit in which a person would say it."""
    if megohm >= 1000:
        return "GOhm"
    return "MOhm" if megohm >= 0.1 or megohm == 0 else "kOhm" if megohm >= 1e-3 else "Ohm"


def _exactly(value: float) -> int:
    """In how many places does a limit say itself? As its source does; four figures for one that was converted or reckoned."""
    for places in range(7):
        if math.isclose(round(value, places), value, rel_tol=1e-7, abs_tol=1e-12):
            return places
    return max(0, min(9, 3 - math.floor(math.log10(abs(value)))))


def _apart(value: float, limit: float, places: int) -> int:
    """From how many places on do a value and a limit show on which side of the other they stand?"""
    if math.isclose(value, limit, rel_tol=1e-9, abs_tol=1e-12):
        return _exactly(limit)
    while places < 12 and (round(value, places) - round(limit, places)) * (value - limit) <= 0:
        places += 1
    return places


Beside = float | Sequence[float] | None


def _others(beside: Beside, code: str) -> list[float]:
    values = [] if beside is None else [beside] if isinstance(beside, float | int) else list(beside)
    return [from_metric(v, code) for v in values]


def figure(quantity: Quantity, prefs: Prefs = SI, beside: Beside = None) -> str:
    """The digits alone, three that count. `beside`: limits in the metric unit that they must not round across.

    >>> figure(Quantity(value=0.0504, unit="mm"), beside=0.05)
    '0.0504'
    >>> figure(Quantity(value=124.9, unit="%"), beside=(100.0, 125.0))
    '124.9'
    """
    value, code = _edge(quantity, prefs)
    least = _places(value, UNITS[code].decimals)
    same = [x for x in _others(beside, code) if math.isclose(value, x, rel_tol=1e-9, abs_tol=1e-12)]
    if same:  # the limit itself, said as the limit is
        return _SIGN[quantity.bound] + _write(value, _exactly(same[0]), prefs.decimal)
    places = max((_apart(value, limit, least) for limit in _others(beside, code)), default=least)
    return _SIGN[quantity.bound] + _write(value, places, prefs.decimal)


def show_limit(quantity: Quantity, prefs: Prefs = SI, beside: Beside = None) -> str:
    """A limit as people write one: as its source says it, no zeros behind, never rounded across the value beside it.

    >>> show_limit(Quantity(value=5.0, unit="%"))
    '5\\xa0%'
    >>> show_limit(Quantity(value=0.0508, unit="mm"))
    '0.0508\\xa0mm'
    """
    value, code = _edge(quantity, prefs)
    places = _exactly(value)
    if not math.isclose(round(value, places), value, rel_tol=1e-7, abs_tol=1e-12):
        places = max((_apart(v, value, places) for v in _others(beside, code)), default=places)
    digits = _SIGN[quantity.bound] + _write(value, places, prefs.decimal)
    sign = UNITS[code].symbol
    return f"{digits}\u00a0{sign}" if sign else digits


def symbol(quantity: Quantity, prefs: Prefs = SI) -> str:
    """The unit's sign as this caller reads it."""
    return UNITS[_edge(quantity, prefs)[1]].symbol


def show(quantity: Quantity, prefs: Prefs = SI, beside: Beside = None) -> str:
    """Digits and unit.

    >>> show(Quantity(value=31.87, unit="A"))
    '31.9\xa0A'
    """
    sign = symbol(quantity, prefs)
    digits = figure(quantity, prefs, beside)
    return f"{digits}\u00a0{sign}" if sign else digits


def show_number(value: float, unit: str, prefs: Prefs = SI) -> str:
    """`show` for a bare metric number."""
    return show(Quantity(value=value, unit=unit), prefs)
