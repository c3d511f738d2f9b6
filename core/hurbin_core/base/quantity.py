"""Figures: as typed, as read, as kept. A bound is never a value."""

import math
import re
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from .entries import Kept, members
from .errors import HurbinError, Problem
from .model import Model
from .units import DIMENSIONS, UNITS, find_unit, metric_of, to_metric, unit


class Bound(StrEnum):
    EXACT = "exact"
    AT_LEAST = "at_least"
    AT_MOST = "at_most"


class Quantity(Model):
    """One figure in the core's own unit, exact or a bound; `u` is what it can be off by, up or down, in the
    same unit. `nominal`: it is a name as much as a figure (a shim of 0.50), said without zeros behind but for
    so many places.
    """

    model_config = ConfigDict(frozen=True)
    value: float
    unit: str
    bound: Bound = Bound.EXACT
    u: float = 0.0
    nominal: int | None = None


class Entered(Model):
    """What a person typed, kept as typed, with the unit chosen at the field."""

    model_config = ConfigDict(frozen=True)
    text: str = Field(max_length=40)
    unit: str = Field(default="", max_length=12)


@dataclass(frozen=True, slots=True)
class Read:
    """A typed figure once understood: metric value, bound, the word if a word was typed."""

    value: float
    unit: str
    bound: Bound = Bound.EXACT
    word: str = ""

    @property
    def quantity(self) -> Quantity:
        return Quantity(value=self.value, unit=self.unit, bound=self.bound)


@dataclass(frozen=True, slots=True)
class FieldRule:
    """What a field takes: its dimension, hard bounds in metric, and the words it understands."""

    name: str
    label: str
    dimension: str
    low: float | None = None
    high: float | None = None
    words: tuple[str, ...] = ()
    bounds_allowed: bool = False


def entered_field(
    label: str,
    dimension: str,
    *,
    unit: str = "",
    low: float | None = None,
    high: float | None = None,
    words: tuple[str, ...] = (),
    bounds_allowed: bool = False,
    help: str = "",
    kept: Kept = Kept.ENTRY,
    said_in: str = "",
    printed: bool = False,
) -> Any:
    """A pydantic field for one typed figure; the label, units and bounds travel in the schema. said_in: as
    for `said_field`. printed: it stands on a plate or in a book, no instrument reads it.
    """
    if low is None and dimension not in ("temperature", "temperature_difference", "length"):
        low = 0.0
    extra: dict[str, Any] = {
        "label": label,
        "dimension": dimension,
        "units": [u.code for u in DIMENSIONS[dimension]],
        "unit": unit or metric_of(dimension).code,
        "low": low,
        "high": high,
        "words": list(words),
        "bounds_allowed": bounds_allowed,
        "help": help,
    }
    more: dict[str, Any] = {"x-said-in": said_in} if said_in else {}
    if printed:
        more["x-printed"] = True
    return Field(
        default=None,
        title=label,
        description=help or None,
        json_schema_extra={"x-entered": extra, "x-kept": kept.value, **more},
    )


@lru_cache(maxsize=64)
def field_rules(entry: Any) -> dict[str, FieldRule]:
    """The typed-figure fields of a model, or of every model of a union, by name. Not to be changed by who
    asks.
    """
    out: dict[str, FieldRule] = {}
    for name, info in (pair for model in members(entry) for pair in model.model_fields.items()):
        extra = info.json_schema_extra
        if isinstance(extra, dict) and isinstance(extra.get("x-entered"), dict):
            e: Any = extra["x-entered"]
            out[name] = FieldRule(
                name, e["label"], e["dimension"], e["low"], e["high"], tuple(e["words"]), e["bounds_allowed"]
            )
    return out


def read_fields(typed: BaseModel) -> tuple[dict[str, Read], list[Problem]]:
    """Every typed figure of a model, each in its own unit, and a problem for each that cannot be."""
    out: dict[str, Read] = {}
    problems: list[Problem] = []
    for name, rule in field_rules(type(typed)).items():
        try:
            got = read(getattr(typed, name), rule)
        except HurbinError as error:
            problems.append(Problem.of(error))
            continue
        if got is not None:
            out[name] = got
    return out, problems


_FIGURE = re.compile(
    r"^(?P<sign>[><≥≤]=?)?\s*(?P<number>[+\-−]?[\d.,\u00a0\u202f' ]*\d[.,]?)\s*(?P<unit>[^\d\s].*)?$"
)


# No gaps and no groups, or groups of three throughout: 1 234,5 and 1.234,5 and 1,234.5, never 31 9 or 1.2,3.
_GROUPED = re.compile(
    r"^[+-]? ?(\d+([.,]\d*)?|[.,]\d+|\d{1,3}("
    r" \d{3})+([.,]\d*)?|\d{1,3}(\.\d{3})+,\d*|\d{1,3}(,\d{3})+\.\d*|\d{1,3}(\.\d{3}){2,}|\d{1,3}(,\d{3})"
    r"{2,})$",
    re.ASCII,
)


def _number(text: str, field: str) -> float:
    """A number as people write it: 31.9, 31,9, 1 234,5. What can be read two ways, or is grouped wrong, is
    refused.
    """
    plain = re.sub(r"[\u00a0\u202f' ]", " ", text).strip().replace("−", "-")
    if not _GROUPED.match(plain):
        raise HurbinError(
            "not_a_number",
            f"“{text}” is not one number: digits are grouped by threes.",
            field=field,
            value=text,
            right="31.9, or 1 234",
        )
    raw = plain.replace(" ", "")
    if "," in raw and "." in raw:
        thousands = "," if raw.rfind(".") > raw.rfind(",") else "."
        raw = raw.replace(thousands, "").replace(",", ".")
    elif re.fullmatch(r"[+-]?[1-9]\d{0,2},\d{3}", raw):
        plain = raw.replace(",", "")
        raise HurbinError(
            "number_two_ways",
            f"“{text}” can be read two ways: {plain} or {raw.replace(',', '.')}. Write it without the comma.",
            field=field,
            value=text,
            right=f"{plain} or {raw.replace(',', '.')}",
        )
    else:
        raw = raw.replace(",", ".")
    try:
        number = float(raw)
    except ValueError:
        raise HurbinError(
            "not_a_number",
            f"“{text}” is not a number.",
            field=field,
            value=text,
            right="a number such as 31.9",
        ) from None
    if not math.isfinite(number):
        raise HurbinError(
            "not_a_number", f"“{text}” is not a number.", field=field, value=text, right="a number"
        )
    return number


def read(entered: Entered | None, rule: FieldRule, ceiling: Read | None = None) -> Read | None:
    """What figure did the person type? None when the field is empty: missing, never zero.

    Understands bounds (“>10 G”), a unit typed with the number, a decimal comma and the field's words.
    “OL” on a field that takes bounds is at least the meter's `ceiling`, the figure it reads up to.
    Raises `HurbinError` with the field, in the user's words; never changes a figure silently.

    >>> round(read(Entered(text="0,09 in", unit="mm"), FieldRule("gap", "Gap", "length")).value, 6)
    2.286
    """
    if entered is None or not entered.text.strip():
        return None
    text = entered.text.strip()
    metric = metric_of(rule.dimension).code
    if text.lower() in rule.words:
        return Read(0.0, metric, word=text.lower())
    if text.upper() in ("OL", "O.L", "O.L."):
        if rule.bounds_allowed:
            if ceiling is not None:
                return Read(ceiling.value, metric, Bound.AT_LEAST, word="OL")
            raise HurbinError(
                "ceiling_missing",
                f"{rule.label}: “OL” only means over range. Enter the top of the tester's range, or type it"
                " (>10 G).",
                field=rule.name,
                value=text,
                right=">10 G",
            )
        raise HurbinError(
            "over_range",
            f"{rule.label}: “OL” means over range, not a reading. Select a higher range and read again.",
            field=rule.name,
            value=text,
            right="the reading on a higher range",
        )
    match = _FIGURE.match(text)
    if match is None:
        raise HurbinError(
            "not_a_number",
            f"{rule.label}: “{text}” is not a number.",
            field=rule.name,
            value=text,
            right="31.9",
        )
    used = unit(entered.unit) if entered.unit else metric_of(rule.dimension)
    if match["unit"]:
        typed = find_unit(match["unit"], rule.dimension)
        if typed is None:
            choices = ", ".join(u.symbol for u in DIMENSIONS[rule.dimension])
            raise HurbinError(
                "unit_wrong",
                f"{rule.label}: unit “{match['unit']}” is not one of {choices}.",
                field=rule.name,
                value=text,
                right=choices,
            )
        used = typed
    if used.dimension != rule.dimension:
        raise HurbinError(
            "unit_wrong",
            f"{rule.label} is not measured in {used.symbol}.",
            field=rule.name,
            value=text,
            right=metric,
        )
    bound = Bound.EXACT
    if match["sign"]:
        bound = Bound.AT_LEAST if match["sign"][0] in ">≥" else Bound.AT_MOST
        if not rule.bounds_allowed:
            raise HurbinError(
                "bound_not_taken",
                f"{rule.label}: “{text}” is only a bound. Enter the reading itself.",
                field=rule.name,
                value=text,
                right="the reading itself",
            )
    value = to_metric(_number(match["number"], rule.name), used.code)
    _refuse_outside(value, text, used.code, rule)
    return Read(value, metric, bound)


def _refuse_outside(value: float, text: str, code: str, rule: FieldRule) -> None:
    symbol = UNITS[code].symbol
    shown = text if text.endswith(symbol) else f"{text} {symbol}"
    if rule.low is not None and value < rule.low:
        message = f"{rule.label}: {shown} is not possible."
        if rule.low == 0:
            message = f"{rule.label} cannot be negative. Entered: {text}."
        raise HurbinError("too_low", message, field=rule.name, value=text, right=f"{rule.low:g} or more")
    if rule.high is not None and value > rule.high:
        raise HurbinError(
            "too_high",
            f"{rule.label}: {shown} is not possible. The maximum accepted here is "
            f"{rule.high:g} {metric_of(rule.dimension).symbol}.",
            field=rule.name,
            value=text,
            right=f"{rule.high:g} or less",
        )
