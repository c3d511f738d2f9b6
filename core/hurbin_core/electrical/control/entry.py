"""A walk down a control ladder as typed: volts against the common, drops, what each interlock is about."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...base import Entered, Model, entered_field, said_field


class ControlSpot(Model):
    """One place: an element's load side (or the source) to the common, across it, its process value."""

    at: str = said_field("Place", "", max_length=40)
    volts: Entered | None = entered_field("Voltage to the common", "voltage", high=1000)
    across: Entered | None = entered_field("Voltage across it", "voltage", high=1000)
    value: Entered | None = entered_field("Process value", "ratio", low=-1e6, high=1e6)


class ControlEntry(Model):
    """One control ladder as it was read. Every field may be missing."""

    spots: list[ControlSpot] = Field(default=[], max_length=60, title="Places read")
    selector: Literal["hand", "off", "auto"] | None = said_field("Selector")
    called: bool | None = said_field("Called to run")
    pulled: Literal["in", "out", "chatters"] | None = said_field("Contactor")
    proved: bool | None = said_field("Meter proved before and after")
    other_coil: Entered | None = entered_field("Voltage at the other coil", "voltage", high=1000)
    stays: bool | None = said_field("Stays in with its contact open")
    cable_m: Entered | None = entered_field("Control cable, one way", "height", unit="m", low=0, high=5000)
    area: Entered | None = entered_field("Conductor, mm²", "ratio", low=0.2, high=50)
    inrush: Entered | None = entered_field("Coil inrush, VA", "ratio", low=0.1, high=5000)
    hertz: Literal["50", "60"] | None = said_field("Supply frequency, Hz")
    wires: Literal["two", "three"] | None = said_field("After a power cut")
    lifted: str = said_field("Wire lifted at", "", max_length=80)
    jumper: str = said_field("Jumper fitted at", "", max_length=80)
    note: str = said_field("Note", "", max_length=500)
