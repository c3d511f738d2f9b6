"""The one comparison with a limit that the core has: an interval held against a rule's steps."""

import math
from collections.abc import Sequence
from enum import StrEnum

from .limits import RULES, Limits, UsedLimit
from .model import Model
from .quantity import Bound, Quantity
from .units import UNITS
from .verdict import By, Verdict
from .written_rules import Rule


class Compared(StrEnum):
    WITHIN = "within"
    OVER = "over"
    CANNOT_TELL = "cannot_tell"


def _beyond(value: float, limit: float, floor: bool) -> bool:
    if math.isinf(value):
        return (value < 0) is floor
    slack = 1e-9 * max(abs(limit), abs(value))
    return value < limit - slack if floor else value > limit + slack


def compare(quantity: Quantity, limit: float, floor: bool = False) -> Compared:
    """Is the quantity on the good side of a limit (`floor`: of a lower one)? The limit's own value passes
    (relative 1e-9).

    A bound answers only what it can: “at least 10” is over 5, and says nothing against 20.
    """
    beyond = _beyond(_open_end(quantity), limit, floor)
    if quantity.bound is Bound.EXACT:
        return Compared.OVER if beyond else Compared.WITHIN
    if quantity.bound is (Bound.AT_MOST if floor else Bound.AT_LEAST):
        return Compared.OVER if beyond else Compared.CANNOT_TELL
    return Compared.CANNOT_TELL if beyond else Compared.WITHIN


def _open_end(quantity: Quantity) -> float:
    """The end of a bound is open: “<10” is never 10 itself. An exact value is its own end."""
    if quantity.bound is Bound.EXACT:
        return quantity.value
    return quantity.value + (1e-8 if quantity.bound is Bound.AT_LEAST else -1e-8) * abs(quantity.value)


def exceeds(value: float, limit: float) -> bool:
    """Is an exact value beyond the limit?"""
    return _beyond(value, limit, False)


class Tick(Model):
    """One limit on the dimension line; `at` is its place along it, 0 to 1."""

    limit: str
    label: str
    value: Quantity
    at: float
    governs: bool


class MarginLine(Model):
    """The one drawing of a verdict: value, governing limit, the way between them. Geometry, not pixels."""

    value: Quantity
    value_at: float
    limit: Quantity
    limit_at: float
    margin: Quantity
    over: bool
    floor: bool = False
    ticks: list[Tick]


class Judged(Model):
    """What a rule says. `certain`: the whole interval lies in one step; otherwise the verdict is the mildest
    still possible, or unknown where that one is milder than unknown."""

    verdict: Verdict
    by: By | None
    line: MarginLine
    limits: list[UsedLimit]
    certain: bool = True


def judge(rule_id: str, quantity: Quantity, limits: Limits) -> Judged:
    """What does this rule say of this quantity, by the limits in force?"""
    rule = RULES[rule_id]
    return judge_steps(rule, quantity, limits.steps(rule_id), rule.beyond)


def interval(quantity: Quantity, floor: bool) -> tuple[float, float]:
    """The mildest and the worst value this quantity can have: its bound and its uncertainty taken together.

    A magnitude does not fall below zero by its uncertainty alone; a temperature may.
    """
    end = _open_end(quantity)
    low, high = end - quantity.u, end + quantity.u
    if quantity.u and quantity.value >= 0 and UNITS[quantity.unit].dimension != "temperature":
        low = max(0.0, low)
    if quantity.bound is Bound.AT_LEAST:
        high = math.inf
    elif quantity.bound is Bound.AT_MOST:
        low = -math.inf
    return (high, low) if floor else (low, high)


def _step(value: float, steps: Sequence[tuple[UsedLimit, Verdict]], floor: bool) -> int:
    """In which step does an exact value lie? The last one is beyond every limit."""
    return next(
        (i for i, (limit, _) in enumerate(steps) if not _beyond(value, limit.value, floor)), len(steps)
    )


def judge_steps(
    rule: Rule, quantity: Quantity, steps: Sequence[tuple[UsedLimit, Verdict]], beyond: Verdict
) -> Judged:
    """`judge` for steps that come from a plate: each (limit, verdict up to and at it), from the best on, then
    `beyond`.

    Certain when the whole interval lies in one step. Otherwise the answer is at least the mildest verdict
    still possible, and unknown only where that one is milder than unknown: “<10” against act under 10 and
    stop under 5 is at least act.
    """
    said = [*(v for _, v in steps), beyond]
    mild, worst = (_step(v, steps, rule.floor) for v in interval(quantity, rule.floor))
    certain = said[mild] is said[worst]
    verdict = said[mild] if certain or said[mild].rank > Verdict.UNKNOWN.rank else Verdict.UNKNOWN
    at = (
        mild
        if verdict is not Verdict.UNKNOWN
        else next(i for i in range(mild, worst + 1) if said[i] is not said[mild])
        if not certain
        else mild
    )
    governing = steps[max(0, at - 1)][0]
    return Judged(
        verdict=verdict,
        by=rule.by.get(verdict),
        line=_line(quantity, governing, [s for s, _ in steps], rule.floor),
        limits=[s for s, _ in steps],
        certain=certain,
    )


def _line(quantity: Quantity, governing: UsedLimit, ticks: Sequence[UsedLimit], floor: bool) -> MarginLine:
    # Resistances run over decades: their line is drawn by tenfolds, and a reading of nothing stands at its
    # left end.
    tenfold = UNITS[quantity.unit].dimension == "resistance"
    least = min(t.value for t in ticks) / 100
    scale = (lambda v: math.log10(max(v, least))) if tenfold else (lambda v: v)
    places = [scale(v) for v in (quantity.value, *(t.value for t in ticks))]
    low, high = min(places), max(places)
    span = (high - low) or abs(high) or 1.0
    start = 0.0 if not tenfold and 0 <= low < 0.6 * high else low - 0.3 * span
    end = high + 0.18 * span

    def at(v: float) -> float:
        return round((scale(v) - start) / (end - start), 4)

    def q(v: float, bound: Bound = Bound.EXACT) -> Quantity:
        return Quantity.made({"value": v, "unit": quantity.unit, "bound": bound, "u": 0.0, "nominal": None})

    over = compare(quantity, governing.value, floor) is Compared.OVER
    return MarginLine(
        value=quantity,
        value_at=at(quantity.value),
        limit=q(governing.value),
        limit_at=at(governing.value),
        margin=q(abs(quantity.value - governing.value), Bound.EXACT if over else quantity.bound),
        over=over,
        floor=floor,
        ticks=[
            Tick(limit=t.id, label=t.label, value=q(t.value), at=at(t.value), governs=t.id == governing.id)
            for t in ticks
        ],
    )
