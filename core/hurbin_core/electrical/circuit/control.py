"""What a set's control ladder is made of: elements in series from its source to the common."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from ...base import Model

ControlKind = Literal[
    "fuse", "estop", "stop", "start", "selector", "interlock", "trip", "overload", "coil", "other_coil"
]


class ControlElement(Model):
    """One thing in series. opens: an interlock opens above or below its set point; within `band` either is
    right. unit: of the set point, in words. auto_only: in hand it is bypassed.
    """

    id: str = Field(min_length=1, max_length=20, pattern=r"^[A-Za-z][A-Za-z0-9]*$")
    kind: ControlKind
    name: str = Field(default="", max_length=40)
    auto_only: bool = False
    opens: Literal["", "above", "below"] = ""
    set_point: float | None = None
    band: float = Field(default=0.0, ge=0)
    unit: str = Field(default="", max_length=12)


class Control(Model):
    """A control ladder: its voltage, and every element in the order of the current. It has one coil."""

    volts: float = Field(default=110.0, gt=0, le=690)
    dc: bool = False
    elements: list[ControlElement] = Field(min_length=1, max_length=24)

    @model_validator(mode="after")
    def _whole(self) -> Control:
        ids = [e.id for e in self.elements]
        if len(set(ids)) < len(ids):
            raise ValueError("Two elements have the same id.")
        if sum(e.kind == "coil" for e in self.elements) != 1:
            raise ValueError("A control ladder has one coil.")
        return self
