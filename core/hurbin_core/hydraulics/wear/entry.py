"""Wear as it is measured: head at a known flow, a shut-off test, power, and a ring in the hand."""

from __future__ import annotations

from typing import Literal

from ...base import Entered, Kept, entered_field, said_field
from ..fields import FluidFields, GaugeFields, LegFields, kept_figure


class WearEntry(FluidFields, GaugeFields, LegFields):
    """One look at how worn a pump is. Every field may be missing."""

    valve: Literal["open", "throttled", "shut"] | None = said_field("Discharge valve")
    settled: bool | None = said_field("Settled for 2 min at this valve")
    others: Literal["alone", "with"] | None = said_field("On its header", kept=Kept.SET)
    rpm: Entered | None = entered_field("Speed, measured", "speed", high=30000)
    hz: Entered | None = entered_field("Drive frequency", "frequency", high=400)
    flow: Entered | None = entered_field("Flow, known without the curve", "flow", high=50000)
    flow_by: Literal["meter", "exchanger", "heat", "valve", "drawdown"] | None = said_field(
        "Flow known by", kept=Kept.SET
    )
    shut_suction: Entered | None = entered_field(
        "Suction, valve shut", "pressure", unit="bar", low=-110, high=40000
    )
    shut_discharge: Entered | None = entered_field(
        "Discharge, valve shut", "pressure", unit="bar", low=-110, high=40000
    )
    shut_seconds: Entered | None = entered_field("Shut for", "duration", high=600)
    shut_rpm: Entered | None = entered_field("Speed, valve shut", "speed", high=30000)
    vented: bool | None = said_field("Full and vented")
    rated: bool | None = said_field("Discharge side is rated for it")
    impeller: Literal["metal", "plastic"] | None = said_field("Impeller", kept=Kept.SET)
    volatile: Literal["no", "yes"] | None = said_field("Volatile liquid", kept=Kept.SET)
    sound_kw: Entered | None = kept_figure("Input power when sound, at this flow", "power", 20000)
    now_kw: Entered | None = entered_field("Input power now", "power", high=20000)
    hours: Entered | None = kept_figure("Hours a year", "run_time", 8784)
    price: Entered | None = kept_figure("Price of a kWh", "ratio", 100)
    ring_found: Entered | None = entered_field("Wear ring, diametral clearance found", "length", high=20)
    note: str = said_field("Note", "", free=True, max_length=500)
