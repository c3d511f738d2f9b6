"""The usual control ladder, what of one the current goes through, and its places."""

from __future__ import annotations

from ...base import RULEBOOK, HurbinError, Model
from ..circuit.control import Control, ControlElement


class _File(Model):
    volts: float
    element: list[ControlElement]
    weight: dict[str, float]


_data = RULEBOOK.section("electrical/control/kinds.toml", _File)
WEIGHTS = _data.weight


def usual_control() -> Control:
    """The usual ladder of a pump starter, until somebody says how this one is."""
    return Control(volts=_data.volts, elements=_data.element)


def path(control: Control, selector: str | None) -> list[ControlElement]:
    """What does the current go through in this position of the selector? In hand no permissives."""
    return [e for e in control.elements if not (e.auto_only and selector == "hand")]


def known_element(control: Control, name: str) -> str:
    """A place of this ladder: an element's load side, or its source. Raises `element_unknown`."""
    there = ["source", *(e.id for e in control.elements)]
    if name not in there:
        raise HurbinError(
            "element_unknown",
            f"This control ladder has no element {name}.",
            field="at",
            value=name,
            right=", ".join(there),
        )
    return name
