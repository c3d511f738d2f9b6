"""Every displayed figure is made here, for the caller's units and decimal mark."""

from __future__ import annotations

import math
from collections.abc import Sequence

from pydantic import Field

from .model import Model
from .quantity import Bound, Quantity
from .units import UNITS, from_metric


class Prefs(Model):
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
    if dimension == "pressure" and dimension not in prefs.units:
        code = "bar"
    if dimension == "low_resistance" and dimension not in prefs.units:
        code = _ohms(quantity.value)
    if code == quantity.unit:
        return quantity.value, code
    return from_metric(quantity.value, code), code


def _decade(megohm: float) -> str:
    """Resistance unasked: the unit in which a person would say it."""
    if megohm >= 1000:
        return "GOhm"
    return "MOhm" if megohm >= 0.1 or megohm == 0 else "kOhm" if megohm >= 1e-3 else "Ohm"


def _ohms(ohm: float) -> str:
    """Ohms of a meter: in ohms while a person would say them so."""
    return "megohm" if ohm >= 1e7 else "kohm" if ohm >= 1e4 else "ohm"


def _exactly(value: float) -> int:
    """In how many places does a limit say itself? As its source does; four figures for one that was converted
    or reckoned.
    """
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
    if beside is None:
        return []
    values = [beside] if isinstance(beside, float | int) else beside
    u = UNITS[code]
    return [(v - u.offset) / u.factor for v in values]


def _digits(quantity: Quantity, prefs: Prefs, beside: Beside) -> tuple[str, str]:
    """The digits, three that count, and the unit's code as this reader has it."""
    value, code = _edge(quantity, prefs)
    places, others = _places(value, UNITS[code].decimals), _others(beside, code)
    if others:
        same = next((x for x in others if math.isclose(value, x, rel_tol=1e-9, abs_tol=1e-12)), None)
        apart = (_apart(value, limit, places) for limit in others)
        # The limit itself is said as the limit is.
        places = max(apart) if same is None else _exactly(same)
    return _SIGN[quantity.bound] + _write(value, places, prefs.decimal), code


def figure(quantity: Quantity, prefs: Prefs = SI, beside: Beside = None) -> str:
    """The digits alone, three that count. `beside`: limits in the metric unit that they must not round
    across.

    >>> figure(Quantity(value=0.0504, unit="mm"), beside=0.05)
    '0.0504'
    >>> figure(Quantity(value=124.9, unit="%"), beside=(100.0, 125.0))
    '124.9'
    """
    return _digits(quantity, prefs, beside)[0]


def _sign(code: str, digits: str) -> str:
    """A unit's sign beside this figure: a word that is one has no plural."""
    return "percentage point" if code == "pp" and digits in ("1", "−1") else UNITS[code].symbol


def figure_and_symbol(quantity: Quantity, prefs: Prefs = SI, beside: Beside = None) -> tuple[str, str]:
    """`figure`, and the unit's sign as this reader has it. A nominal one is said as it is called."""
    digits, code = _digits(quantity, prefs, beside)
    if quantity.nominal is not None:
        digits = show_nominal(quantity, prefs)
    return digits, _sign(code, digits)


def show_limit(quantity: Quantity, prefs: Prefs = SI, beside: Beside = None) -> str:
    """A limit as people write one: as its source says it, no zeros behind, never rounded across the value
    beside it.

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
    sign = _sign(code, digits)
    return f"{digits}\u00a0{sign}" if sign else digits


def show_nominal(quantity: Quantity, prefs: Prefs = SI) -> str:
    """A figure that is a name as much as a figure, as people call it: no zeros behind but for the places that
    its own unit is called by.

    >>> show_nominal(Quantity(value=0.5, unit="mm", nominal=2))
    '0.50'
    """
    digits = figure(quantity, prefs)
    head, point, tail = digits.partition(prefs.decimal)
    least = (quantity.nominal or 0) if _edge(quantity, prefs)[1] == quantity.unit else 0
    while len(tail) > least and tail.endswith("0"):
        tail = tail[:-1]
    return f"{head}{point}{tail}" if tail else head


def show_error(quantity: Quantity, prefs: Prefs = SI) -> str:
    """What a figure can be off by, in its reader's unit, two digits that count; empty where nothing is known.

    >>> show_error(Quantity(value=16.2, unit="m_head", u=0.4812))
    '± 0.48'
    """
    if quantity.u <= 0:
        return ""
    _, code = _edge(quantity, prefs)
    u = quantity.u * UNITS[quantity.unit].factor / UNITS[code].factor
    places = max(0, min(UNITS[code].decimals, 1 - math.floor(math.log10(u))))
    return f"± {_write(u, places, prefs.decimal)}"


def show(quantity: Quantity, prefs: Prefs = SI, beside: Beside = None) -> str:
    """Digits and unit.

    >>> show(Quantity(value=31.87, unit="A"))
    '31.9\xa0A'
    """
    digits, sign = figure_and_symbol(quantity, prefs, beside)
    return f"{digits}\u00a0{sign}" if sign else digits
