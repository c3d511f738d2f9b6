"""The suction side as typed: by a gauge or by levels, what the pump asks for, and what the noise is like."""

from __future__ import annotations

from typing import Literal

from ...base import Entered, Kept, entered_field, said_field
from ..fields import FluidFields, kept_figure


class SuctionEntry(FluidFields):
    """One look at the suction side. Every field may be missing."""

    npsh_by: Literal["gauge", "level"] | None = said_field("NPSH available by", kept=Kept.SET)
    suction: Entered | None = entered_field("Suction pressure", "pressure", unit="bar", low=-110, high=40000)
    pressures: Literal["gauge", "absolute"] = said_field("Gauge or absolute pressure", "gauge", kept=Kept.SET)
    suction_z: Entered | None = kept_figure("Suction gauge above pump centre", "head", 60, -60)
    suction_bore: Entered | None = kept_figure("Bore at the suction gauge", "length", 2000, 5)
    suction_top: Entered | None = kept_figure("Suction gauge, full scale", "pressure", 40000, unit="bar")
    gauge_class: Literal["0.6", "1", "1.6", "2.5"] | None = said_field("Gauge class", kept=Kept.SET)
    surface: Literal["open", "closed"] | None = said_field("Surface of the supply", kept=Kept.SET)
    surface_pressure: Entered | None = entered_field(
        "Pressure on the surface", "pressure", unit="bar", low=-110, high=40000
    )
    level: Entered | None = entered_field("Level over pump centre", "head", low=-60, high=500)
    level_u: Entered | None = kept_figure("Level and friction known within", "head", 20)
    loss: Entered | None = entered_field("Friction in the suction", "head", high=100)
    altitude: Entered | None = kept_figure("Altitude", "height", 5000, -450)
    flow: Entered | None = entered_field("Flow", "flow", high=50000)
    npshr: Entered | None = entered_field("NPSH required", "head", high=100, printed=True)
    npshr_flow: Entered | None = entered_field("at a flow of", "flow", high=50000, printed=True)
    strainer_drop: Entered | None = entered_field("Strainer, pressure drop", "pressure", high=2000)
    strainer_clean: Entered | None = kept_figure("Strainer, drop when clean", "pressure", 2000)
    strainer_flow: Literal["same", "other"] | None = said_field("Flow as when it was clean")
    bell: Entered | None = kept_figure("Bell, diameter", "head", 10)
    submerged: Entered | None = entered_field("Water over the bell", "head", high=50)
    water_seen: Literal["seen", "none"] | None = said_field("Level or loop pressure")
    sound: Literal["gravel", "hiss", "rumble", "roar", "squeal"] | None = said_field("It sounds")
    suction_is: Literal["low", "swings", "jumpy", "steady"] | None = said_field("Suction gauge")
    discharge_is: Literal["down", "swings", "shut_off", "low", "normal"] | None = said_field(
        "Discharge gauge"
    )
    amps_is: Literal["slightly_down", "swinging", "low", "high", "normal"] | None = said_field("Current")
    opening: Literal["worse", "quiets", "same"] | None = said_field("Opening the discharge")
    closing: Literal["quiets", "worse", "same"] | None = said_field("Closing it a little")
    cooler: Literal["quiets", "same"] | None = said_field("More level, or cooler water")
    note: str = said_field("Note", "", free=True, max_length=500)
