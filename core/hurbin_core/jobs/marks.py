"""What a set is like, as far as a job depends on it: each mark known, or not known and asked for."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..base import Model
from ..hydraulics import LOOP
from ..logbook import AnyCase
from ..plant import KINDS
from .anatomy import Mark

Marks = Mapping[str, Mark | None]
# What is asked of a set where nobody knows it, in the words of the question.
ASKED: dict[str, str] = {
    "phases": "Enter the motor nameplate: single phase or three.",
    "hot": "Enter whether it pumps anything over 50 °C.",
    "outside": "Enter whether it is outside.",
    "pit": "Enter whether it is in a pit or a well.",
    "roof": "Enter whether it is on a roof.",
    "header": "Enter whether it shares a header with another set.",
    "electronics": "Enter the motor nameplate: built-in electronics or not.",
    "drive": "Enter what starts it: starter or drive.",
    "starter": "Enter what starts it: starter or drive.",
}
_HOT = {"heat": True, "animals": False, "cooling": False, "sewage": False}


class SaidMarks(Model):
    """What only somebody who stands there can say."""

    hot: bool | None = None
    outside: bool | None = None
    pit: bool | None = None
    roof: bool | None = None
    header: bool | None = None


def marks_of(
    case: AnyCase, said: SaidMarks, *, pair: str = "", header: bool | None = None
) -> dict[str, Mark | None]:
    """The marks of this set: by its register and its nameplates, else as said. None: nobody knows."""
    context = case.context
    kind = KINDS.get(context.kind)
    motor, control = context.motor, context.control_kind
    plated = motor is not None and motor.built_in_electronics
    built_in = bool(kind and kind.built_in_electronics) or plated
    known: dict[str, Any] = {
        "kind": context.kind or None,
        "coupled": kind.coupled if kind else None,
        "phases": motor.phases if motor is not None else None,
        "electronics": built_in if built_in or motor is not None else None,
        "drive": control == "drive" if control else None,
        "starter": control in ("starter", "soft_starter") if control else None,
        "submerged": context.kind == "submersible" if context.kind else None,
        "twin": bool(pair),
        "loop": bool(case.extras.get(LOOP)),
        "hot": True if context.kind == "condensate_return" else _said(said.hot, _HOT.get(context.serves)),
        "outside": said.outside,
        "pit": said.pit,
        "roof": said.roof,
        "header": _said(said.header, header),
    }
    return known


def _said(said: bool | None, else_: bool | None) -> bool | None:
    return said if said is not None else else_
