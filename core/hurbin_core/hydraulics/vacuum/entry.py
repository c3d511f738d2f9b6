"""Condensate, vacuum and displacement as measured: each has its own few figures on one sheet."""

from __future__ import annotations

from datetime import date
from typing import Any, Literal

from ...base import Entered, Kept, Model, entered_field, said_field
from ..fields import kept_figure


def _pressure(label: str, high: float = 5000, low: float = -110) -> Any:
    return entered_field(label, "pressure", unit="kPa", low=low, high=high)


class VacuumEntry(Model):
    """One look at a condensate, vacuum or displacement pump. Every field may be missing."""

    what: Literal["condensate", "vacuum", "displacement"] | None = said_field("Pump", kept=Kept.SET)
    altitude: Entered | None = kept_figure("Altitude", "height", 5000, -450)
    # Condensate
    steam: Entered | None = entered_field(
        "Steam pressure before the traps", "pressure", unit="bar", high=1190
    )
    vent: Entered | None = entered_field(
        "Pressure in the receiver (0: vented)", "pressure", unit="bar", high=500
    )
    temperature: Entered | None = entered_field("Condensate temperature", "temperature", low=0, high=120)
    level: Entered | None = kept_figure("Level over the eye", "head", 30, -10)
    loss: Entered | None = kept_figure("Friction to the eye", "head", 20)
    level_u: Entered | None = kept_figure("Level and friction known within", "head", 10)
    npshr: Entered | None = kept_figure("NPSH required", "head", 30)
    band: Entered | None = kept_figure("Receiver, volume between start and stop", "volume", 1e5)
    pump_flow: Entered | None = kept_figure("Pump flow", "flow", 5000, unit="l/s")
    inflow: Entered | None = entered_field("Return flow", "flow", unit="l/s", high=5000)
    starts: Entered | None = entered_field("Starts an hour, counted", "ratio", high=600)
    # Vacuum
    pressures: Literal["absolute", "gauge"] | None = said_field("Pressures are", kept=Kept.SET)
    volume: Entered | None = kept_figure("Volume evacuated", "volume", 1e6, unit="m3")
    start: Entered | None = _pressure("Pull-down, from")
    reached: Entered | None = _pressure("to")
    seconds: Entered | None = entered_field("in", "duration", high=86400)
    ultimate: Entered | None = kept_figure("Ultimate pressure, absolute", "pressure", 110)
    plate_flow: Entered | None = kept_figure("Suction flow, nameplate", "flow", 20000)
    blanked: Entered | None = _pressure("Blanked off, reaches")
    seal_temp: Entered | None = entered_field("Seal water temperature", "temperature", low=0, high=90)
    rise_from: Entered | None = _pressure("Isolated, rises from")
    rise_to: Entered | None = _pressure("to")
    rise_s: Entered | None = entered_field("in", "duration", high=864000)
    rise_shape: Literal["straight", "flattens"] | None = said_field("It rises")
    # Displacement
    per_rev: Entered | None = kept_figure("Displacement a turn", "volume", 1000)
    rpm: Entered | None = entered_field("Speed", "speed", high=10000)
    flow: Entered | None = entered_field("Flow measured", "flow", high=5000)
    at_pressure: Entered | None = entered_field("at a difference of", "pressure", unit="bar", high=40000)
    slip_new: Entered | None = kept_figure("Slip when new, at that pressure", "percent", 90)
    same_liquid: Literal["yes", "no"] | None = said_field("Liquid as when new, same temperature")
    discharge: Literal["open", "shut"] | None = said_field("Discharge valve")
    relief: Entered | None = kept_figure("Relief valve set at", "pressure", 40000, unit="bar")
    weakest: Entered | None = kept_figure("Weakest part holds", "pressure", 40000, unit="bar")
    relief_full: Literal["yes", "no"] | None = said_field("Relief sized for full flow", kept=Kept.SET)
    relief_to: Literal["tank", "suction"] | None = said_field("Relief returns to", kept=Kept.SET)
    relief_tested: date | None = said_field("Relief last tested", kept=Kept.SET)
    note: str = said_field("Note", "", free=True, max_length=500)
