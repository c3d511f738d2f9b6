"""What goes in and out of the circuits."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel, ConfigDict, Field

from hurbin_core.base import Problem
from hurbin_core.electrical.circuit import Circuit
from hurbin_core.electrical.circuit.control import Control
from hurbin_core.plant import OneLine


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


class DriveAddressIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    host: str = Field(max_length=60, title="IP address")
    port: int = Field(title="Port")
    unit: int = Field(title="Unit number")
    family: OneLine = Field(max_length=40, title="Family of the drive")


class DriveAddressOut(BaseModel):
    """Where the drive of a set answers."""

    set_id: int
    tag: str
    host: str
    port: int
    unit: int
    family: str
    by: str
    at: datetime


class FamilyOut(BaseModel):
    """A family of drives whose registers are known."""

    id: str
    title: str


class DrivesOut(BaseModel):
    """The drives of a site that are read, and the families there are."""

    drives: list[DriveAddressOut]
    families: list[FamilyOut]


class DriveReadingOut(BaseModel):
    """One time that a drive was asked. state: waiting, read, or failed; code, failed: why not; settings: as
    they would be typed, by parameter; problems: what it answered and cannot be.
    """

    id: int
    at: datetime
    by: str
    family: str
    state: str
    code: str
    failed: str
    settings: dict[str, str]
    problems: list[Problem]


class DriveOut(BaseModel):
    """How a set's drive can be read: its family on the list, none where it is not on it; the last reading."""

    listed: bool
    family: str
    last: DriveReadingOut | None


class SettingsOut(BaseModel):
    """Settings out of a file, as they would be typed, and the lines that were not taken."""

    settings: dict[str, str]
    problems: list[Problem]


class SettingsFile(BaseModel):
    """Settings as a table."""

    text: str


class SettingsIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    settings: dict[str, str] = Field(max_length=120)
