"""What goes in and out of the circuits."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel, ConfigDict, Field

from hurbin_core.electrical.circuit import Circuit
from hurbin_core.electrical.circuit.control import Control


class CircuitIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    circuit: Circuit
    expected_version: int = Field(ge=0, title="Version that was edited")


class UsualCircuit(BaseModel):
    """One of the usual circuits, at this set's voltage: where an edit may begin."""

    id: str
    title: str
    below: str
    circuit: Circuit


class CircuitOut(BaseModel):
    """The circuit kept with a set. version 0: nobody confirmed one, this is the usual one for its starter."""

    circuit: Circuit
    version: int
    at: datetime | None
    by: str
    may: bool
    usual: list[UsualCircuit]
    usual_control: Control
