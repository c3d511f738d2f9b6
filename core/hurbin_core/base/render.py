"""Any answer as one reader sees it: every figure carries its `shown` text, every phrase its sentence. Judges
nothing.

One walk for every model: `shown_type` makes the model that is sent, `render` fills it. A value goes with its
limit.
"""

from __future__ import annotations

import types
from collections.abc import Callable
from functools import lru_cache
from typing import Any, TypeVar, Union, cast, get_args, get_origin

from pydantic import BaseModel, create_model

from .evaluation import Evaluation, Finding
from .ground import whole
from .judging import MarginLine
from .limits import RULES
from .model import Model
from .phrases import Phrase
from .quantity import Quantity
from .show import Beside, Prefs, figure_and_symbol, show, show_error, show_limit
from .shown import ShownFinding, ShownLimit, ShownLine, ShownPart, ShownQuantity, ShownTick
from .units import UNITS
from .writing import write
from .written_rules import Certainty

Shown = Callable[[Any, Prefs], Any]
M = TypeVar("M", bound=Model)


def show_quantity(q: Quantity, prefs: Prefs, beside: Beside = None) -> ShownQuantity:
    """One figure with its unit as this reader has it. A nominal one is said as it is called."""
    digits, sign = figure_and_symbol(q, prefs, beside)
    return ShownQuantity.made(
        {
            "value": q.value,
            "unit": q.unit,
            "bound": q.bound,
            "figure": digits,
            "symbol": sign,
            "shown": f"{digits}\u00a0{sign}" if sign else digits,
            "error": show_error(q, prefs),
        }
    )


def _made(model: type[M], **parts: Any) -> M:
    return model.made(parts)


def show_line(line: MarginLine, prefs: Prefs, overridden: frozenset[str] = frozenset()) -> ShownLine:
    """The margin drawing with its words. A temperature's margin is a rise, not a temperature."""
    rise = UNITS[line.value.unit].dimension == "temperature"
    difference = show(Quantity(value=line.margin.value, unit="K") if rise else line.margin, prefs)
    return _made(
        ShownLine,
        value=show_quantity(line.value, prefs, [t.value.value for t in line.ticks]),
        value_at=line.value_at,
        limit_at=line.limit_at,
        bound=line.value.bound,
        margin=_margin(line, difference),
        over=line.over,
        floor=line.floor,
        ticks=[
            _made(
                ShownTick,
                limit=t.limit,
                label=t.label,
                shown=show_limit(t.value, prefs, line.value.value),
                at=t.at,
                governs=t.governs,
                overridden=t.limit in overridden,
            )
            for t in line.ticks
        ],
    )


def _margin(line: MarginLine, difference: str) -> str:
    if not line.over:
        return f"{difference} to limit"
    return f"{difference} below limit" if line.floor else f"{difference} over limit"


def show_finding(f: Finding, prefs: Prefs) -> ShownFinding:
    """A finding with its rule's words, its limits and their sources. A rule that is gone is called by its
    question.
    """
    rule = RULES.get(f.rule)
    overridden = frozenset(u.id for u in f.limits if u.override is not None)
    near = f.line.value if f.line is not None else None
    return _made(
        ShownFinding,
        **{n: getattr(f, n) for n in _PLAIN},
        title=rule.title if rule is not None else f.question.replace("_", " ").capitalize(),
        reason=write(f.reason, prefs),
        working=[write(p, prefs) for p in f.working],
        notes=[write(p, prefs) for p in f.notes],
        line=show_line(f.line, prefs, overridden) if f.line is not None else None,
        limits=[
            _made(
                ShownLimit,
                id=u.id,
                title=u.title,
                shown=show_limit(
                    Quantity(value=u.value, unit=u.unit),
                    prefs,
                    near.value if near is not None and near.unit == u.unit else None,
                ),
                published=show_limit(Quantity(value=u.standard_value, unit=u.unit), prefs),
                source=u.source,
                certainty=u.certainty,
                from_memory=u.from_memory,
                override=u.override,
            )
            for u in f.limits
        ],
        formula=rule.formula if rule is not None else "",
        why=rule.why if rule is not None else "",
        source=rule.source if rule is not None else "an earlier rulebook",
        certainty=rule.certainty if rule is not None else Certainty.PRACTICE,
        from_memory=rule.from_memory if rule is not None else False,
    )


_PLAIN = ("question", "part", "subject", "verdict", "beside", "lacks", "by", "unknown", "rule")
# What is not walked field by field: it is shown by the one function that knows how.
_OWN: dict[type, tuple[Any, Shown]] = {
    Quantity: (ShownQuantity, show_quantity),
    Phrase: (str, write),
    MarginLine: (ShownLine, show_line),
    Finding: (ShownFinding, show_finding),
}


@lru_cache(maxsize=256)
def shown_type(model: type[BaseModel]) -> type[BaseModel]:
    """The model that is sent for this one: figures as shown figures, phrases as sentences, all else as it
    is. A model without either is sent as it stands.
    """
    fields = {n: (_shown(i.annotation), i) for n, i in model.model_fields.items()}
    if all(told is i.annotation for told, i in fields.values()):
        return model
    more: dict[str, Any] = {"parts": (list[ShownPart], ...)} if issubclass(model, Evaluation) else {}
    name = "".join(w for w in f"Shown{model.__name__}".split("[") for w in [w.rstrip("]")])
    made: dict[str, Any] = {n: (told, ...) for n, (told, _) in fields.items()}
    return create_model(name, __doc__=model.__doc__, __base__=Model, **made, **more)


def _shown(annotation: Any) -> Any:
    if isinstance(annotation, type) and not get_args(annotation):
        if annotation in _OWN:
            return _OWN[annotation][0]
        return shown_type(annotation) if issubclass(annotation, BaseModel) else annotation
    origin, args = get_origin(annotation), get_args(annotation)
    if not args or (not isinstance(origin, type) and origin is not Union):
        return annotation
    told = tuple(_shown(a) for a in args)
    if told == args:
        return annotation
    return Union[told] if origin in (Union, types.UnionType) else origin[told]  # type: ignore[index]  # noqa: UP007


@lru_cache(maxsize=256)
def _plan(model: type[BaseModel]) -> tuple[type[Model], tuple[str, ...]]:
    return cast(type[Model], shown_type(model)), tuple(model.model_fields)


def render(x: Any, prefs: Prefs) -> Any:
    """Any value or model of an answer, for this reader's units and decimal mark."""
    kind = type(x)
    if kind in _OWN:
        return _OWN[kind][1](x, prefs)
    if kind is list:
        return [render(i, prefs) for i in x]
    if kind is dict:
        return {k: render(v, prefs) for k, v in x.items()}
    if isinstance(x, BaseModel):
        shown, names = _plan(kind)  # type: ignore[arg-type]
        if shown is kind:
            return x
        told = x.__dict__
        return shown.made({n: render(told[n], prefs) for n in names})
    return x


def present(e: Evaluation[Any], prefs: Prefs) -> Any:
    """The evaluation for this reader, with the worst of each part of the train that it speaks of."""
    out = render(e, prefs)
    names = dict.fromkeys(f.part for f in e.findings)
    out.parts = [
        ShownPart.model_construct(part=n, verdict=whole(f for f in e.findings if f.part == n)[0])
        for n in names
    ]
    return out
