"""A scan of joints as typed: a temperature or a drop at each place, the load, and how it was looked at."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...base import Entered, Model, entered_field, said_field
from ..circuit.parts import Position
from .grid import Picture


class JointSpot(Model):
    """One place of the circuit. at: a point ("F.in.1") for a temperature, a span ("F.1") for a drop across
    it. x, y: where it is in the thermal picture, 0 to 1.
    """

    at: str = said_field("Place", "", max_length=40)
    temp: Entered | None = entered_field("Joint temperature", "temperature", low=-40, high=1000)
    drop: Entered | None = entered_field("Voltage drop across it", "voltage_drop", high=5000)
    bare: bool | None = said_field("Bare metal")
    x: float | None = said_field("Place in the picture, across", ge=0, le=1)
    y: float | None = said_field("Place in the picture, down", ge=0, le=1)


class JointsEntry(Model):
    """One scan of a set's joints under load. Every field may be missing."""

    spots: list[JointSpot] = Field(default=[], max_length=160, title="Places read")
    amps_1: Entered | None = entered_field("Current L1", "current", high=5000)
    amps_2: Entered | None = entered_field("Current L2", "current", high=5000)
    amps_3: Entered | None = entered_field("Current L3", "current", high=5000)
    ambient: Entered | None = entered_field("Ambient in the enclosure", "temperature", low=-40, high=90)
    steady: Literal["yes", "no"] | None = said_field("Load steady for 30 min")
    surface: Literal["tape", "paint", "bare"] | None = said_field("Surface that was read")
    rating: Literal["60", "75", "90"] | None = said_field("Lowest terminal rating, °C")
    reader: Literal["camera", "spot"] | None = said_field("Read with")
    distance: Entered | None = entered_field("Distance", "length", unit="mm", low=10, high=20000)
    ratio: Entered | None = entered_field("Distance to spot, to 1", "ratio", low=1, high=1000)
    width: Entered | None = entered_field("Joint width", "length", unit="mm", low=1, high=500)
    seen: Literal["nothing", "charred", "climbing", "smell"] | None = said_field("Seen at the joints")
    contactor: Position | None = said_field("Contactors in")
    picture: Picture | None = said_field("Thermal picture", reads="temperature")
    note: str = said_field("Note", "", max_length=500)
