"""A rule as it is drawn: its limits along a line, what each part of the line says, a site's own beside."""

from __future__ import annotations

from itertools import pairwise

from .limits import Limits
from .model import Model
from .quantity import Quantity
from .verdict import Verdict
from .written_rules import Rule, Step


class DrawnStep(Model):
    """One limit on the line, from 0 at its left to 1. site: where and what the site has set instead."""

    limit: str
    at: float
    value: Quantity
    site_at: float | None = None
    site: Quantity | None = None


class DrawnRule(Model):
    """zones: what the line says from its left end to the first limit, between them, and beyond the last."""

    steps: list[DrawnStep]
    zones: list[Verdict]


def drawn_rule(rule: Rule, site: Limits) -> DrawnRule | None:
    """Where do this rule's limits stand, and what does it say between them? None for one without limits.

    The published limits stand at equal distances, so that one far off hides no other; a site's own stands
    between them by its figure. `site`: the limits with the site's own in force.
    """
    published = Limits()
    rows = [(s.times or s.limit, _value(s, published), _value(s, site)) for s in rule.steps]
    if not rows:
        return None
    says = [*(s.verdict for s in rule.steps), rule.beyond]
    order = sorted(rows, key=lambda r: r[1])
    if rule.floor:
        says = says[::-1]
    marks = [v for _, v, _ in order]
    unit = published.get(rule.steps[0].limit).unit
    steps = [
        DrawnStep(
            limit=name,
            at=_place(marks, value),
            value=Quantity(value=value, unit=unit),
            site_at=None if own == value else _place(marks, own),
            site=None if own == value else Quantity(value=own, unit=unit),
        )
        for name, value, own in order
    ]
    return DrawnRule(steps=steps, zones=says)


def _value(step: Step, limits: Limits) -> float:
    return limits.value(step.limit) * (limits.value(step.times) if step.times else 1.0)


def _place(marks: list[float], value: float) -> float:
    """Between which marks does this stand, and how far along?"""
    n = len(marks) + 1
    span = (marks[-1] - marks[0]) or abs(marks[0]) or 1.0
    ends = [min(0.0, marks[0] - span), *marks, marks[-1] + span]
    if value <= ends[0]:
        return 0.0
    for i, (low, high) in enumerate(pairwise(ends)):
        if value <= high and high > low:
            return (i + (value - low) / (high - low)) / n
    return 1.0
