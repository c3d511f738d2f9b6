"""A lift station as it is measured: levels and times, amps at one level, hours and starts of a pair."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...base import Entered, Kept, Model, entered_field, said_field
from ..fields import kept_figure


class DrawRun(Model):
    """One pump-down: rise at rest before, fall while it pumps, rise after; from one start level."""

    start: Entered | None = entered_field("Start level", "head", low=-50, high=100)
    rise: Entered | None = entered_field("Rise at rest", "head", high=50)
    rise_s: Entered | None = entered_field("in", "duration", high=86400)
    fall: Entered | None = entered_field("Fall while pumping", "head", high=50)
    fall_s: Entered | None = entered_field("in", "duration", high=86400)
    after: Entered | None = entered_field("Rise after", "head", high=50)
    after_s: Entered | None = entered_field("in", "duration", high=86400)


class DrawdownEntry(Model):
    """One look at a lift pump and its well. Every field may be missing."""

    shape: Literal["round", "table"] | None = said_field("Well", kept=Kept.SET)
    diameter: Entered | None = kept_figure("Well diameter", "head", 50)
    bodies: Entered | None = kept_figure("Pump bodies standing in it", "ratio", 12)
    body_diameter: Entered | None = kept_figure("Diameter of a pump body", "head", 5)
    levels: str = said_field("Levels: level m; volume m³", "", kept=Kept.SET, free=True, max_length=2000)
    runs: list[DrawRun] = Field(default=[], max_length=6, title="Runs")
    sister: Literal["off", "on"] | None = said_field("The other pump")
    rain: Literal["no", "yes"] | None = said_field("Rain")
    amps_1: Entered | None = entered_field("Current L1", "current", high=2000)
    amps_2: Entered | None = entered_field("Current L2", "current", high=2000)
    amps_3: Entered | None = entered_field("Current L3", "current", high=2000)
    amps_mean: bool | None = said_field("Mean of 30 s, at the same level")
    idle_amps: Entered | None = kept_figure("No-load current", "current", 2000)
    main_bore: Entered | None = kept_figure("Force main, inside diameter", "length", 2000, 10)
    band: Entered | None = kept_figure("Volume between start and stop", "volume", 1e6)
    inflow: Entered | None = entered_field("Inflow", "flow", unit="l/s", high=50000)
    station: Entered | None = kept_figure("Pump flow, where no run was made", "flow", 50000, unit="l/s")
    allowed: Entered | None = kept_figure("Starts an hour allowed", "ratio", 60)
    alternates: Literal["yes", "no"] | None = said_field("Pumps alternate", kept=Kept.SET)
    hours_one: Entered | None = entered_field("Hours, this pump", "run_time", high=1e6)
    starts_one: Entered | None = entered_field("Starts, this pump", "ratio", high=1e7)
    hours_two: Entered | None = entered_field("Hours, the other", "run_time", high=1e6)
    starts_two: Entered | None = entered_field("Starts, the other", "ratio", high=1e7)
    both_idle: bool | None = said_field("Both stood on a high alarm")
    note: str = said_field("Note", "", free=True, max_length=500)
