"""What several benches of this room are told alike: the liquid, two gauges, three legs."""

from __future__ import annotations

from typing import Any, Literal

from ..base import Entered, Kept, Model, entered_field, said_field
from .fluid import Kind


def kept_figure(label: str, dimension: str, high: float, low: float | None = None, unit: str = "") -> Any:
    """A figure that stands with the set from one visit to the next."""
    return entered_field(label, dimension, low=low, high=high, unit=unit, kept=Kept.SET, printed=True)


class FluidFields(Model):
    """The liquid. Its density counts as measured where it is entered."""

    fluid: Kind | None = said_field("Liquid", kept=Kept.SET)
    temperature: Entered | None = entered_field("Liquid temperature", "temperature", low=-30, high=130)
    glycol: Entered | None = kept_figure("Glycol", "percent", 100)
    glycol_by: Literal["mass", "volume"] | None = said_field("Percent by mass or by volume", kept=Kept.SET)
    density: Entered | None = entered_field("Density, measured", "density", low=500, high=2000)


class GaugeFields(Model):
    """Two gauges, each at its height over the pump's centre, in its bore."""

    suction: Entered | None = entered_field("Suction pressure", "pressure", unit="bar", low=-110, high=40000)
    discharge: Entered | None = entered_field(
        "Discharge pressure", "pressure", unit="bar", low=-110, high=40000
    )
    pressures: Literal["gauge", "absolute"] = said_field("Gauge or absolute pressure", "gauge", kept=Kept.SET)
    heights: Literal["own", "centre"] | None = said_field("Gauges read", kept=Kept.SET)
    suction_z: Entered | None = kept_figure("Suction gauge above pump centre", "head", 60, -60)
    discharge_z: Entered | None = kept_figure("Discharge gauge above pump centre", "head", 60, -60)
    suction_bore: Entered | None = kept_figure("Bore at the suction gauge", "length", 2000, 5)
    discharge_bore: Entered | None = kept_figure("Bore at the discharge gauge", "length", 2000, 5)
    suction_top: Entered | None = kept_figure("Suction gauge, full scale", "pressure", 40000, unit="bar")
    discharge_top: Entered | None = kept_figure("Discharge gauge, full scale", "pressure", 40000, unit="bar")
    gauge_class: Literal["0.6", "1", "1.6", "2.5"] | None = said_field("Gauge class", kept=Kept.SET)


class LegFields(Model):
    """What the motor takes."""

    amps_1: Entered | None = entered_field("Current L1", "current", high=5000)
    amps_2: Entered | None = entered_field("Current L2", "current", high=5000)
    amps_3: Entered | None = entered_field("Current L3", "current", high=5000)
    volts: Entered | None = entered_field("Voltage, line to line", "voltage", high=15000)
    pf: Entered | None = entered_field("Power factor", "ratio", low=0.05, high=1)
    idle_amps: Entered | None = kept_figure("No-load current, uncoupled", "current", 5000)
    motor_eff: Entered | None = kept_figure("Motor efficiency at this load", "percent", 100, 10)
