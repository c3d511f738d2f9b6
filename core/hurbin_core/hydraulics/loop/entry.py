"""Standing pressures of a loop as read, make-up, which half fell, and whether a circulator moves anything."""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import Field

from ...base import Entered, Model, entered_field, said_field
from ...logbook import Moment


class LoopReading(Model):
    """One pressure at the loop's gauge, with the loop's own temperature."""

    at: Moment | None = said_field("When")
    pressure: Entered | None = entered_field("Pressure", "pressure", unit="bar", low=-110, high=4000)
    temperature: Entered | None = entered_field("Loop temperature", "temperature", low=-30, high=130)
    pump: Literal["standing", "running"] | None = said_field("Pump")
    hose: Literal["off", "on"] | None = said_field("Hose")
    make_up: Literal["shut", "open"] | None = said_field("Make-up")


class LoopEntry(Model):
    """One look at a loop. Every field may be missing."""

    readings: list[LoopReading] = Field(default=[], max_length=60, title="Pressures")
    alone: bool | None = said_field("Without the pressures on record")
    fresh: Literal["yes", "no"] | None = said_field("Filled or vented within the last day")
    make_up: Literal["shut", "open"] | None = said_field("Make-up as it is left")
    meter_start: Entered | None = entered_field("Make-up meter before", "volume", high=1e9)
    meter_end: Entered | None = entered_field("Make-up meter now", "volume", high=1e9)
    make_up_until: date | None = said_field("Make-up left open until")
    ground_fell: Literal["yes", "no"] | None = said_field("Field side, isolated, fell")
    machine_fell: Literal["yes", "no"] | None = said_field("Machine side, isolated, fell")
    precharge_found: Entered | None = entered_field(
        "Precharge, isolated and drained", "pressure", unit="bar", high=2000
    )
    vessel_drained: bool | None = said_field("Vessel isolated and drained")
    spits: Literal["yes", "no"] | None = said_field("Vessel's valve core spits water")
    topped: Entered | None = entered_field(
        "Water lost or topped up since glycol was read", "volume", high=1e6
    )
    tap_in: Entered | None = entered_field(
        "Before the circulator", "pressure", unit="bar", low=-110, high=4000
    )
    tap_out: Entered | None = entered_field(
        "Behind the circulator", "pressure", unit="bar", low=-110, high=4000
    )
    vent: Literal["water", "spits", "nothing"] | None = said_field("At its vent")
    shaft: Literal["turns", "still"] | None = said_field("Its shaft")
    twin: Literal["off", "on", "none"] | None = said_field("The other circulator")
    note: str = said_field("Note", "", free=True, max_length=500)
