"""A sentence for one reader, and every sentence of an answer kept as it was written."""

from __future__ import annotations

from typing import TypeVar

from pydantic import BaseModel

from .phrases import Phrase
from .quantity import Quantity
from .rulebook import RULEBOOK
from .show import SI, Prefs, show

M = TypeVar("M", bound=BaseModel)


def write(p: Phrase, prefs: Prefs = SI) -> str:
    """The sentence for this reader. A figure that stands beside a limit (`x__limit` in the arguments, or
    the phrase's own `beside`) is never rounded across it; a sentence within the sentence is written the
    same way. A sentence that was renamed is said by its new name; one that the rulebook no longer holds, or
    holds with other figures, is said as it was kept.
    """
    shown: dict[str, str] = {}
    for name, arg in p.args.items():
        if name.endswith("__limit"):
            continue
        if isinstance(arg, Phrase):
            shown[name] = write(arg, prefs)
        elif isinstance(arg, str):
            shown[name] = arg
        else:
            own = p.args.get(f"{name}__limit")
            near = [q.value for q in (*p.beside, own) if isinstance(q, Quantity) and q.unit == arg.unit]
            sign = "+" if name == "change" and arg.value > 0 else ""
            shown[name] = sign + show(arg, prefs, near)
    try:
        return RULEBOOK.texts[RULEBOOK.renamed.get(p.template, p.template)].form.format_map(shown)
    except KeyError:
        return p.written or f"({p.template})"


def kept(model: M) -> M:
    """The same answer with every sentence of it written down (in metric units), for the day on which it
    is called otherwise.
    """
    for name in type(model).model_fields:
        _keep(getattr(model, name))
    return model


def _keep(x: object) -> None:
    if isinstance(x, Phrase):
        x.written = write(x)
    elif isinstance(x, list | tuple):
        for item in x:
            _keep(item)
    elif isinstance(x, dict):
        for item in x.values():
            _keep(item)
    elif isinstance(x, BaseModel):
        kept(x)
