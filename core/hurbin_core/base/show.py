"""Every displayed figure is made here, for the caller's units and decimal mark."""

from __future__ import annotations

import math

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


def figure(quantity: Quantity, prefs: Prefs = SI, beside: float | None = None) -> str:
    """The digits alone, three that count. `beside` is a limit in the metric unit that they must not round across.

    >>> figure(Quantity(value=0.0504, unit="mm"), beside=0.05)
    '0.0504'
    """
    value, code = _edge(quantity, prefs)
    places = _places(value, UNITS[code].decimals)
    if beside is not None and not math.isclose(quantity.value, beside, rel_tol=1e-9, abs_tol=1e-12):
        limit = from_metric(beside, code)
        while places < 9 and (round(value, places) - round(limit, places)) * (value - limit) <= 0:
            places += 1
    return _SIGN[quantity.bound] + _write(value, places, prefs.decimal)


def show_limit(quantity: Quantity, prefs: Prefs = SI) -> str:
    """A limit as people write one: no zeros behind the figure that only say how it was stored.

    >>> show_limit(Quantity(value=5.0, unit="%"))
    '5\\xa0%'
    """
    digits, sign = figure(quantity, prefs), symbol(quantity, prefs)
    if prefs.decimal in digits:
        digits = digits.rstrip("0").rstrip(prefs.decimal)
    return f"{digits}\u00a0{sign}" if sign else digits


def symbol(quantity: Quantity, prefs: Prefs = SI) -> str:
    """The unit's sign as this caller reads it."""
    return UNITS[_edge(quantity, prefs)[1]].symbol


def show(quantity: Quantity, prefs: Prefs = SI, beside: float | None = None) -> str:
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
