"""One sheet of ohms as typed: what was measured on, how, and every figure of it."""

from __future__ import annotations

from typing import Any, Literal

from ...base import Entered, Model, entered_field, said_field

Of = Literal["winding", "single_phase", "contacts", "capacitor", "drive", "sensors"]
# What a meter shows of a path that is open.
OPEN = ("ol", "open")
PAIRS = ("pair_12", "pair_23", "pair_31")
GROUNDS = ("ground_1", "ground_2", "ground_3")
SINGLE = ("common_run", "common_start", "run_start")
POLES = ("pole_1", "pole_2", "pole_3")
SENSORS = ("thermistor", "moisture")
INPUT = ("r", "s", "t")
OUTPUT = ("u", "v", "w")
LEGS = (*INPUT, *OUTPUT)
LINES = ("line_rs", "line_st", "line_tr")


def _ohms(label: str, unit: str = "ohm", printed: bool = False) -> Any:
    return entered_field(label, "low_resistance", unit=unit, high=1e9, words=OPEN, printed=printed)


def _diode(label: str) -> Any:
    return entered_field(label, "diode_voltage", unit="V_diode", high=10, words=OPEN)


class OhmsEntry(Model):
    """Ohms of one thing, dead. Every field may be missing; only those of what was measured count."""

    of: Of | None = said_field("Measured on")
    at: Literal["motor", "starter"] | None = said_field("Measured at")
    joined: Literal["wye", "delta", "apart"] | None = said_field("Windings")
    lead_way: Literal["subtract", "zeroed", "four_wire"] | None = said_field("Test leads")
    leads: Entered | None = _ohms("Test leads together")
    winding: Entered | None = entered_field("Winding temperature", "temperature", low=-40, high=200)
    warm: Literal["cold", "hot"] | None = said_field("Motor to the touch")
    tone: bool | None = said_field("Continuity tone only")
    drive_off: bool | None = said_field("Drive and electronics disconnected")
    pair_12: Entered | None = _ohms("Resistance L1-L2")
    pair_23: Entered | None = _ohms("Resistance L2-L3")
    pair_31: Entered | None = _ohms("Resistance L3-L1")
    ground_1: Entered | None = _ohms("L1 to ground", "megohm")
    ground_2: Entered | None = _ohms("L2 to ground", "megohm")
    ground_3: Entered | None = _ohms("L3 to ground", "megohm")
    common_run: Entered | None = _ohms("Common to run")
    common_start: Entered | None = _ohms("Common to start")
    run_start: Entered | None = _ohms("Run to start")
    pole_1: Entered | None = _ohms("Pole 1, closed")
    pole_2: Entered | None = _ohms("Pole 2, closed")
    pole_3: Entered | None = _ohms("Pole 3, closed")
    role: Literal["run", "start"] | None = said_field("Capacitor")
    marked: Entered | None = entered_field(
        "Marked capacitance", "capacitance", low=0.1, high=5000, printed=True
    )
    band: Literal["6", "10"] | None = said_field("Marked tolerance, ±%")
    read_uf: Entered | None = entered_field("Measured capacitance", "capacitance", high=10000)
    cap_volts: Entered | None = entered_field("Voltage across it, in service", "voltage", high=1000)
    cap_amps: Entered | None = entered_field("Current through it, in service", "current", high=500)
    hertz: Literal["50", "60"] | None = said_field("Supply frequency, Hz")
    bleeder: Literal["none", "lifted", "on"] | None = said_field("Bleed resistor")
    looks: Literal["sound", "bulged", "oil"] | None = said_field("Case")
    bridge: Literal["diodes", "half"] | None = said_field("Input bridge")
    bus: Entered | None = entered_field("DC bus now", "voltage", high=2000)
    bus_first: Entered | None = entered_field("DC bus, earlier reading", "voltage", high=2000)
    bus_between: Entered | None = entered_field("Time between both", "duration", unit="s", high=86400)
    minus_r: Entered | None = _diode("DC− to R")
    minus_s: Entered | None = _diode("DC− to S")
    minus_t: Entered | None = _diode("DC− to T")
    plus_r: Entered | None = _diode("R to DC+")
    plus_s: Entered | None = _diode("S to DC+")
    plus_t: Entered | None = _diode("T to DC+")
    minus_u: Entered | None = _diode("DC− to U")
    minus_v: Entered | None = _diode("DC− to V")
    minus_w: Entered | None = _diode("DC− to W")
    plus_u: Entered | None = _diode("U to DC+")
    plus_v: Entered | None = _diode("V to DC+")
    plus_w: Entered | None = _diode("W to DC+")
    back_r: Literal["open", "not"] | None = said_field("R reversed, to both rails")
    back_s: Literal["open", "not"] | None = said_field("S reversed, to both rails")
    back_t: Literal["open", "not"] | None = said_field("T reversed, to both rails")
    back_u: Literal["open", "not"] | None = said_field("U reversed, to both rails")
    back_v: Literal["open", "not"] | None = said_field("V reversed, to both rails")
    back_w: Literal["open", "not"] | None = said_field("W reversed, to both rails")
    rails: Literal["climbs", "steady", "short"] | None = said_field("DC+ to DC−")
    earth: Literal["open", "fades", "steady"] | None = said_field("Terminals to ground")
    line_rs: Entered | None = _ohms("Resistance R-S", "kohm")
    line_st: Entered | None = _ohms("Resistance S-T", "kohm")
    line_tr: Entered | None = _ohms("Resistance T-R", "kohm")
    thermistor: Entered | None = _ohms("Thermistor string")
    in_series: Literal["1", "3", "6"] | None = said_field("Thermistors in series")
    low_test: bool | None = said_field("Ohmmeter tests with 2.5 V or less")
    moisture: Entered | None = _ohms("Moisture or seal probe", "kohm")
    moisture_least: Entered | None = _ohms("Manufacturer's minimum", "kohm", printed=True)
    probe_lead: Literal["whole", "not"] | None = said_field("Probe lead, bridged at the motor")
    relay_off: bool | None = said_field("Sensor leads disconnected from the relay")
    note: str = said_field("Note", "", max_length=500)
