"""Sentences before they are written, and figures as they go into them."""

from __future__ import annotations

from pydantic import BaseModel

from .quantity import Bound, Quantity


class Phrase(BaseModel):
    """A sentence before it is written: a template's id and the typed figures that go in."""

    template: str
    args: dict[str, Quantity | str] = {}


def phrase(template: str, **args: Quantity | str) -> Phrase:
    return Phrase.model_construct(template=template, args=args)


def amount(value: float, unit: str, bound: Bound = Bound.EXACT) -> Quantity:
    return Quantity.model_construct(value=value, unit=unit, bound=bound)
