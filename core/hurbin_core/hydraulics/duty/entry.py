"""Where a pump runs, as typed: two gauges, what flow there is a way to know, what the motor takes."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from ...base import Entered, Kept, Model, entered_field, said_field
from ..fields import FluidFields, GaugeFields, LegFields, kept_figure

SurveyPoint = Literal["standing", "shut_off", "normal", "step_1", "step_2", "repeat", "uncoupled"]


def _read(label: str, dimension: str, high: float, unit: str = "") -> Any:
    return entered_field(label, dimension, unit=unit, high=high)


class SurveyRow(Model):
    """One place of a first survey: pressures, legs and turns of the valve there."""

    at: SurveyPoint = said_field("Place", "normal")
    suction: Entered | None = entered_field("Suction pressure", "pressure", unit="bar", low=-110, high=40000)
    discharge: Entered | None = entered_field(
        "Discharge pressure", "pressure", unit="bar", low=-110, high=40000
    )
    amps_1: Entered | None = _read("Current L1", "current", 5000)
    amps_2: Entered | None = _read("Current L2", "current", 5000)
    amps_3: Entered | None = _read("Current L3", "current", 5000)
    flow: Entered | None = _read("Flow", "flow", 50000)
    turns: Entered | None = _read("Valve, turns open", "turns", 500)


class DutyEntry(FluidFields, GaugeFields, LegFields):
    """One look at a running pump. Every field may be missing. try_at: where on the flow axis a what-if
    stands, 0 to 1; it is never kept.
    """

    state: Literal["running", "standing"] | None = said_field("Pump")
    valve: Literal["open", "throttled", "shut"] | None = said_field("Discharge valve")
    turns: Entered | None = entered_field("Valve, turns open", "turns", high=500)
    turns_full: Entered | None = kept_figure("Valve, turns in all", "turns", 500)
    settled: bool | None = said_field("Settled for 2 min at this valve")
    others: Literal["alone", "with"] | None = said_field("On its header", kept=Kept.SET)
    rpm: Entered | None = entered_field("Speed, measured", "speed", high=30000)
    hz: Entered | None = entered_field("Drive frequency", "frequency", high=400)
    meter: Entered | None = _read("Flow by meter", "flow", 50000)
    meter_straight: bool | None = said_field("Ten bores of straight pipe, full")
    meter_air: bool | None = said_field("Air in the water")
    exchanger_drop: Entered | None = _read("Exchanger, pressure drop", "pressure", 2000)
    exchanger_drop_ref: Entered | None = kept_figure("Exchanger, drop on its sheet", "pressure", 2000)
    exchanger_flow_ref: Entered | None = kept_figure("Exchanger, flow on its sheet", "flow", 50000)
    exchanger_clean: bool | None = said_field("Exchanger clean")
    heat: Entered | None = _read("Heat carried", "power", 100000)
    rise: Entered | None = _read("Temperature difference", "temperature_difference", 100)
    heat_steady: bool | None = said_field("Steady for 10 min")
    valve_kv: Entered | None = kept_figure("Balancing valve, Kv", "ratio", 20000)
    valve_drop: Entered | None = _read("Balancing valve, pressure drop", "pressure", 2000)
    drawdown: Entered | None = _read("Flow by drawdown", "flow", 50000)
    need: Entered | None = kept_figure("Flow the service needs", "flow", 50000)
    floor: Entered | None = kept_figure("Least flow allowed", "flow", 50000)
    floor_of: Literal["chiller", "boiler", "exchanger", "pump", "none"] | None = said_field(
        "Needed by", kept=Kept.SET
    )
    static: Entered | None = kept_figure("Static head", "head", 2000, -200)
    closed: bool | None = said_field("Closed loop", kept=Kept.SET)
    hours: Entered | None = kept_figure("Hours a year", "run_time", 8784)
    price: Entered | None = kept_figure("Price of a kWh", "ratio", 100)
    try_at: float | None = Field(default=None, ge=0, le=1, title="What-if flow, along the axis")
    survey: list[SurveyRow] = Field(default=[], max_length=20, title="First survey")
    note: str = said_field("Note", "", free=True, max_length=500)
