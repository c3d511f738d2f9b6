"""Sentences before they are written, and figures as they go into them."""

from __future__ import annotations

from pydantic import BaseModel

from .quantity import Bound, Quantity


class Phrase(BaseModel):
    """A sentence before it is written: a template's id and the typed figures (or sentences) that go in. `beside`: the limits
    that stand beside it, across which none of its figures is rounded."""

    template: str
    args: dict[str, Quantity | str | Phrase] = {}
    beside: list[Quantity] = []


def phrase(template: str, **args: Quantity | str | Phrase) -> Phrase:
    return Phrase.model_construct(template=template, args=args, beside=[])


def amount(value: float, unit: str, bound: Bound = Bound.EXACT, u: float = 0.0) -> Quantity:
    return Quantity.model_construct(value=value, unit=unit, bound=bound, u=u)
