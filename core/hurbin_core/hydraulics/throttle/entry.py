"""A pump over its nameplate current, and a valve: what is known of it, and what was done by turns."""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import Field

from ...base import Entered, Kept, Model, entered_field, said_field
from ..fields import FluidFields, LegFields, kept_figure


class ValveStep(Model):
    """The valve at one place: turns open, three legs after the wait."""

    turns: Entered | None = entered_field("Turns open", "turns", high=500)
    amps_1: Entered | None = entered_field("Current L1", "current", high=5000)
    amps_2: Entered | None = entered_field("Current L2", "current", high=5000)
    amps_3: Entered | None = entered_field("Current L3", "current", high=5000)
    waited: bool | None = said_field("Waited 2 min")


class Load(Model):
    """So many hours of the year at this share of the flow."""

    hours: Entered | None = entered_field("Hours", "run_time", high=8784)
    share: Entered | None = entered_field("Flow, of full", "percent", high=100)


class ThrottleEntry(FluidFields, LegFields):
    """What the adviser is told. Every field may be missing. try_at: where on the flow axis a what-if
    stands.
    """

    where: Literal["discharge", "suction"] | None = said_field("Valve that would be closed")
    suction: Entered | None = entered_field("Suction pressure", "pressure", unit="bar", low=-110, high=40000)
    flow: Entered | None = entered_field("Flow, known otherwise", "flow", high=50000)
    need: Entered | None = kept_figure("Flow the service needs", "flow", 50000)
    floor: Entered | None = kept_figure("Least flow allowed", "flow", 50000)
    floor_of: Literal["chiller", "boiler", "exchanger", "pump", "none"] | None = said_field(
        "Needed by", kept=Kept.SET
    )
    static: Entered | None = kept_figure("Static head", "head", 2000, -200)
    closed: bool | None = said_field("Closed loop", kept=Kept.SET)
    hours: Entered | None = kept_figure("Hours a year", "run_time", 8784)
    price: Entered | None = kept_figure("Price of a kWh", "ratio", 100)
    turns_full: Entered | None = kept_figure("Valve, turns in all", "turns", 500)
    try_at: float | None = Field(default=None, ge=0, le=1, title="What-if flow, along the axis")
    profile: list[Load] = Field(default=[], max_length=24, title="Load over the year")
    steps: list[ValveStep] = Field(default=[], max_length=40, title="Closed by steps")
    until: date | None = said_field("Left so until")
    cure: Literal["balance", "trim", "speed", "motor"] | None = said_field("Lasting cure")
    note: str = said_field("Note", "", free=True, max_length=500)
