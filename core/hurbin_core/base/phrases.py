"""Sentences before they are written, and figures as they go into them."""

from __future__ import annotations

from .errors import HurbinError
from .model import Model
from .quantity import Bound, Quantity
from .rulebook import RULEBOOK


class Phrase(Model):
    """A sentence before it is written: a template's id and the typed figures (or sentences) that go in.
    `beside`: the limits that stand beside it, across which none of its figures is rounded. `written`: the
    sentence as it was when it was kept, for the day on which its template is called otherwise.
    """

    template: str
    args: dict[str, Quantity | str | Phrase] = {}
    beside: list[Quantity] = []
    written: str = ""


Args = Quantity | str | Phrase


def phrase(template: str, **args: Args) -> Phrase:
    """A sentence of the rulebook. Raises for a template that is not there, and for a figure that it lacks."""
    text = RULEBOOK.texts.get(template)
    if text is None:
        raise HurbinError("text_unknown", f"There is no sentence {template}.", field=template)
    if not text.takes.keys() <= args.keys():
        lacking = ", ".join(text.takes.keys() - args.keys())
        raise HurbinError("argument_missing", f"{template} wants {lacking}.", field=template)
    return Phrase.made({"template": template, "args": args, "beside": [], "written": ""})


def amount(value: float, unit: str, bound: Bound = Bound.EXACT, u: float = 0.0) -> Quantity:
    return Quantity.made({"value": value, "unit": unit, "bound": bound, "u": u, "nominal": None})


def nominal(value: float, unit: str, places: int = 0) -> Quantity:
    """A figure that is a name as much as a figure: the mark of an axis, the size of a shim."""
    return Quantity.made({"value": value, "unit": unit, "bound": Bound.EXACT, "u": 0.0, "nominal": places})
