"""A sentence for one reader, and every sentence of an answer kept as it was written."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import cache
from typing import Any, TypeVar, get_args

from pydantic import BaseModel

from .phrases import Phrase
from .quantity import Quantity
from .rulebook import RULEBOOK
from .show import SI, Prefs, show, show_error

M = TypeVar("M", bound=BaseModel)
Within = Callable[[Any], Iterable[Any]] | None


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
            if arg.u:
                shown[name] += f"\u00a0{show_error(arg, prefs)}"
    try:
        return RULEBOOK.texts[RULEBOOK.renamed.get(p.template, p.template)].form.format_map(shown)
    except KeyError:
        return p.written or f"({p.template})"


def kept(model: M) -> M:
    """The same answer with every sentence of it written down (in metric units), for the day on which it
    is called otherwise.
    """
    _keep_all(vars(model).values())
    return model


def _keep_all(values: Iterable[Any]) -> None:
    for x in values:
        within = _within(type(x))  # type: ignore[arg-type]  # a class is hashable
        if within is not None:
            _keep_all(within(x))
        elif isinstance(x, Phrase):
            x.written = write(x)


@cache
def _within(kind: type) -> Within:
    """How to come at what lies in a thing of this kind; None: nothing that could be a sentence."""
    if issubclass(kind, Phrase | Quantity):
        return None
    if issubclass(kind, list | tuple):
        return iter
    if issubclass(kind, dict):
        return dict.values
    return _fields(kind) if issubclass(kind, BaseModel) else None


def _fields(kind: type[BaseModel]) -> Within:
    """Only the fields of a model in which a sentence may lie, by what they are declared to hold."""
    names = [n for n, f in kind.model_fields.items() if _may_say(f.annotation, frozenset())]
    return (lambda model: [getattr(model, n) for n in names]) if names else None


def _may_say(kind: Any, within: frozenset[type]) -> bool:
    """May a thing declared so be a sentence, or hold one? What says nothing of itself may."""
    parts = get_args(kind)
    if parts:
        return any(_may_say(part, within) for part in parts)
    if not isinstance(kind, type):
        return kind is Any or isinstance(kind, TypeVar)
    if issubclass(kind, Phrase | Quantity):
        return issubclass(kind, Phrase)
    if issubclass(kind, BaseModel):
        inner = kind.model_fields.values()
        held = within | {kind}
        return not inner or (kind not in within and any(_may_say(f.annotation, held) for f in inner))
    return kind in (list, tuple, dict, object)
