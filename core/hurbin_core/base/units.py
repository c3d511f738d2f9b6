"""Units at the edge. Inside the core every figure is metric, with its unit in the name."""

from __future__ import annotations

from dataclasses import dataclass

from .errors import HurbinError


@dataclass(frozen=True, slots=True)
class Unit:
    """`metric = text_value * factor + offset`; `decimals` is the most that is ever shown unasked."""

    code: str
    symbol: str
    dimension: str
    factor: float
    offset: float = 0.0
    decimals: int = 2
    aliases: tuple[str, ...] = ()


# Factors: exact by definition (inch, pound-force, US gallon, mechanical horsepower) or the
# conventional foot of water, 2.989067 kPa (NIST SP 811 appendix B.8).
_ALL = (
    Unit("mm", "mm", "length", 1.0, decimals=3),
    Unit("mil", "mil", "length", 0.0254, decimals=1, aliases=("thou",)),
    Unit("in", "in", "length", 25.4, decimals=4, aliases=("inch", '"')),
    Unit("mm/100mm", "mm per 100 mm", "slope", 1.0, decimals=3, aliases=("per 100",)),
    Unit("mil/in", "mil per in", "slope", 0.1, decimals=2),
    Unit("mrad", "mrad", "slope", 0.1, decimals=2),
    Unit("degC", "°C", "temperature", 1.0, decimals=1, aliases=("°c", "c")),
    Unit("degF", "°F", "temperature", 5 / 9, -160 / 9, decimals=1, aliases=("°f", "f")),
    Unit("K", "K", "temperature_difference", 1.0, decimals=1),
    Unit("degF_rise", "°F", "temperature_difference", 5 / 9, decimals=1),
    Unit("N·m", "N·m", "torque", 1.0, decimals=1, aliases=("nm",)),
    Unit("lbf·ft", "lbf·ft", "torque", 1.3558179483314004, decimals=1, aliases=("lbft", "ft-lb", "ftlb")),
    Unit("kg·m²", "kg·m²", "inertia", 1.0, decimals=3, aliases=("kgm2", "kg·m2", "kg m2")),
    Unit("lb·ft²", "lb·ft²", "inertia", 0.0421401101, decimals=1, aliases=("lbft2", "lb-ft2", "lb·ft2")),
    Unit("mm/s", "mm/s", "vibration", 1.0, decimals=2),
    Unit("in/s", "in/s", "vibration", 25.4, decimals=3, aliases=("ips",)),
    Unit("kPa", "kPa", "pressure", 1.0, decimals=1),
    Unit("bar", "bar", "pressure", 100.0, decimals=3),
    Unit("psi", "psi", "pressure", 6.894757293168361, decimals=1),
    Unit("ftH2O", "ft", "pressure", 2.989067, decimals=1, aliases=("ft", "feet")),
    Unit("m3/h", "m³/h", "flow", 1.0, decimals=1, aliases=("m3h", "cmh")),
    Unit("l/min", "l/min", "flow", 0.06, decimals=1, aliases=("lpm",)),
    Unit("l/s", "l/s", "flow", 3.6, aliases=("lps",)),
    Unit("gpm", "gpm", "flow", 0.22712470704, decimals=1),
    Unit("kW", "kW", "power", 1.0),
    Unit("hp", "hp", "power", 0.7456998715822702),
    Unit("MOhm", "MΩ", "resistance", 1.0, decimals=3, aliases=("m", "mω", "meg", "megohm")),
    Unit("Ohm", "Ω", "resistance", 1e-6, decimals=3, aliases=("ω", "ohms", "ohm")),
    Unit("kOhm", "kΩ", "resistance", 1e-3, decimals=3, aliases=("k", "kω", "kohm")),
    Unit("GOhm", "GΩ", "resistance", 1e3, decimals=3, aliases=("g", "gω", "gohm")),
    # Windings, leads and contacts: ohms as a meter shows them, never the megohms of an insulation test.
    Unit("ohm", "Ω", "low_resistance", 1.0, decimals=4, aliases=("ohms", "r")),
    Unit("mohm", "mΩ", "low_resistance", 1e-3, decimals=2),
    Unit("kohm", "kΩ", "low_resistance", 1e3, decimals=2, aliases=("k",)),
    Unit("megohm", "MΩ", "low_resistance", 1e6, decimals=2, aliases=("M", "meg")),
    Unit("uF", "µF", "capacitance", 1.0, decimals=1, aliases=("uf", "μf", "mfd")),
    Unit("mV_drop", "mV", "voltage_drop", 1.0, decimals=1),
    Unit("V_diode", "V", "diode_voltage", 1.0, decimals=3, aliases=("volt", "volts")),
    Unit("mV_diode", "mV", "diode_voltage", 1e-3, decimals=0),
    Unit("kA", "kA", "fault_current", 1.0, decimals=1),
    Unit("W", "W", "heat", 1.0, decimals=2),
    Unit("V", "V", "voltage", 1.0, decimals=1, aliases=("volt", "volts")),
    Unit("mV", "mV", "voltage", 1e-3, decimals=1),
    Unit("kV", "kV", "voltage", 1e3, decimals=3),
    Unit("A", "A", "current", 1.0, aliases=("amp", "amps")),
    Unit("mA", "mA", "current", 1e-3, decimals=1),
    Unit("Hz", "Hz", "frequency", 1.0, decimals=1),
    Unit("rpm", "rpm", "speed", 1.0, decimals=0),
    Unit("%", "%", "percent", 1.0),
    Unit("pp", "percentage points", "percent_points", 1.0),
    Unit("1", "", "ratio", 1.0, decimals=3),
    Unit("turns", "turns", "turns", 1.0, decimals=2, aliases=("turn",)),
    Unit("deg", "°", "angle", 1.0, decimals=0),
    Unit("d", "days", "time", 1.0, decimals=0, aliases=("day", "days")),
    Unit("s", "s", "duration", 1.0, decimals=1, aliases=("sec",)),
    Unit("min", "min", "duration", 60.0, decimals=1),
    Unit("h", "h", "run_time", 1.0, decimals=1, aliases=("hours",)),
    Unit("m_head", "m", "head", 1.0, decimals=2, aliases=("m",)),
    Unit("ft_head", "ft", "head", 0.3048, decimals=1, aliases=("ft", "feet")),
    Unit("mm_head", "mm", "head", 0.001, decimals=0, aliases=("mm",)),
    Unit("in_head", "in", "head", 0.0254, decimals=1, aliases=("in", "inch")),
    Unit("kg/m3", "kg/m³", "density", 1.0, decimals=1, aliases=("kg/m³",)),
    Unit("SG", "SG", "density", 1000.0, decimals=4, aliases=("sg",)),
    Unit("mm2/s", "mm²/s", "viscosity", 1.0, aliases=("cst", "mm2/s")),
    Unit("l", "l", "volume", 1.0, aliases=("litre", "litres")),
    Unit("m3", "m³", "volume", 1000.0, decimals=3, aliases=("m3",)),
    Unit("gal", "gal", "volume", 3.785411784, decimals=1, aliases=("gallon", "gallons")),
    Unit("l/d", "l a day", "loss", 1.0, decimals=2, aliases=("l/day",)),
    Unit("gal/d", "gal a day", "loss", 3.785411784, decimals=2, aliases=("gal/day",)),
    Unit("m/s", "m/s", "velocity", 1.0),
    Unit("ft/s", "ft/s", "velocity", 0.3048),
    Unit("kWh", "kWh", "energy", 1.0, decimals=0),
    Unit("Wh/m3", "Wh/m³", "specific_energy", 1.0, decimals=1),
    Unit("K/min", "K/min", "warming", 1.0, decimals=1),
    Unit("m", "m", "height", 1.0, decimals=0),
    Unit("um", "µm", "deviation", 1.0, decimals=1, aliases=("µm", "micron")),
    Unit("mil_fit", "mil", "deviation", 25.4, decimals=2, aliases=("mil", "thou")),
    Unit("kg", "kg", "mass", 1.0, decimals=0),
    Unit("lb", "lb", "mass", 0.45359237, decimals=0, aliases=("lbs",)),
    Unit("g", "g", "grease", 1.0, decimals=1, aliases=("grams",)),
    Unit("oz", "oz", "grease", 28.349523125, decimals=2),
    Unit("ft_height", "ft", "height", 0.3048, decimals=0, aliases=("ft",)),
)
UNITS: dict[str, Unit] = {u.code: u for u in _ALL}
DIMENSIONS: dict[str, tuple[Unit, ...]] = {}
for _u in _ALL:
    DIMENSIONS[_u.dimension] = (*DIMENSIONS.get(_u.dimension, ()), _u)


def unit(code: str) -> Unit:
    """Which unit is meant by this code? Raises `unit_unknown`."""
    found = UNITS.get(code)
    if found is None:
        raise HurbinError("unit_unknown", f"Unknown unit “{code}”.", value=code, right=", ".join(UNITS))
    return found


def metric_of(dimension: str) -> Unit:
    """The unit in which the core keeps this dimension: the first one listed."""
    return DIMENSIONS[dimension][0]


def to_metric(value: float, code: str) -> float:
    """`value` in `code` as the core keeps it.

    >>> to_metric(50.0, "degF")
    10.0
    """
    u = unit(code)
    return value * u.factor + u.offset


def from_metric(value: float, code: str) -> float:
    """A metric `value` in the caller's unit."""
    u = unit(code)
    return (value - u.offset) / u.factor


def find_unit(text: str, dimension: str) -> Unit | None:
    """The unit of `dimension` that a person wrote, or None. Case counts only where it must (mΩ is not MΩ)."""
    wanted = text.strip()
    choices = DIMENSIONS.get(dimension, ())
    for u in choices:
        if wanted in (u.code, u.symbol):
            return u
    low = wanted.lower()
    if dimension == "resistance" and wanted in ("m", "mΩ", "mω", "mOhm", "mohm"):
        return None
    for u in choices:
        if wanted in u.aliases:
            return u
    for u in choices:
        if low in (u.code.lower(), u.symbol.lower(), *u.aliases):
            return u
    return None
