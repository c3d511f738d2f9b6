"""What was typed of liquid, gauges and legs, once understood. kPa gauge, m, kg/m³, A, kW; each with what it
can be off by.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from ..base import Entered, HurbinError, Limits, Model, Problem, Quantity, Read, amount, read_fields
from ..plant import MotorFacts
from .fields import FluidFields, GaugeFields, LegFields
from .fluid import STANDARD_AIR_KPA, Fluid, air_kpa, by_mass, fluid_of
from .formulas import motor_kw, share_by_amps

ROOT = math.hypot


@dataclass(slots=True)
class Typed:
    """A body's figures by field, metric; what of it cannot be."""

    body: Model
    limits: Limits
    got: dict[str, float] = field(default_factory=dict)
    read: dict[str, Read] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)

    def has(self, *names: str) -> bool:
        return all(n in self.got for n in names)

    def refuse(self, name: str, message: str, right: str, code: str = "water_wrong") -> None:
        """This figure cannot be: it counts as not entered, and says why."""
        typed = getattr(self.body, name, None)
        self.got.pop(name, None)
        text = typed.text if isinstance(typed, Entered) else str(typed or "")
        self.problems.append(Problem(code=code, field=name, value=text, message=message, right=right))


def typed_of(body: Model, limits: Limits) -> Typed:
    """Every figure of a body, once."""
    read, problems = read_fields(body)
    return Typed(body, limits, {n: r.value for n, r in read.items()}, read, list(problems))


def fluid_typed(t: Typed, body: FluidFields) -> Fluid | None:
    """Which liquid, at which temperature? None where something of it is missing or cannot be."""
    temp = t.got.get("temperature")
    if body.fluid is None or temp is None:
        return None
    w = t.got.get("glycol")
    if body.fluid in ("propylene", "ethylene") and w is not None:
        if body.glycol_by is None:
            return None
        w = w / 100 if body.glycol_by == "mass" else by_mass(body.fluid, w / 100)  # type: ignore[arg-type]
    try:
        return fluid_of(body.fluid, temp, w=w, density=t.got.get("density"))
    except HurbinError as error:
        t.refuse(error.field or "temperature", error.message, error.right, error.code)
        return None


def fluid_lacks(body: FluidFields, t: Typed) -> str:
    """Which field does the liquid still wait for? Empty: none."""
    if body.fluid is None:
        return "fluid"
    if "temperature" not in t.got:
        return "temperature"
    if body.fluid in ("propylene", "ethylene"):
        return "glycol" if "glycol" not in t.got else "" if body.glycol_by else "glycol_by"
    return "density" if body.fluid in ("seawater", "other") and "density" not in t.got else ""


@dataclass(slots=True)
class Gauges:
    """Both pressures as gauge pressures at the pump's centre would need them. u: m of this liquid."""

    suction: float | None = None
    discharge: float | None = None
    z_s: float = 0.0
    z_d: float = 0.0
    u_kpa: float | None = None

    @property
    def both(self) -> bool:
        return self.suction is not None and self.discharge is not None


def gauges_typed(t: Typed, body: GaugeFields, altitude_m: float | None) -> Gauges:
    """Two pressures, corrected once: at their own heights, or brought to the pump's centre already."""
    air = air_kpa(altitude_m) if altitude_m is not None else STANDARD_AIR_KPA
    out = Gauges()
    for name in ("suction", "discharge"):
        p = t.got.get(name)
        if p is None:
            continue
        if body.pressures == "absolute":
            if p < 0:
                words = "An absolute pressure is never below zero: this gauge reads from the atmosphere."
                t.refuse(name, words, "choose gauge pressure", "absolute_taken")
                continue
            p -= air
        elif p < -air:
            words = "Below a full vacuum. Check sign and unit, and whether it is gauge or absolute."
            t.refuse(name, words, f"above {-air / 100:.2f} bar gauge", "absolute_taken")
            continue
        setattr(out, name, p)
    if body.heights == "centre" and any(t.got.get(n) for n in ("suction_z", "discharge_z")):
        words = (
            "Corrected twice: the pressures are entered as brought to the pump centre, and heights of "
            "the gauges are"
            " entered as well. Use one of the two."
        )
        t.refuse(
            "discharge_z" if t.got.get("discharge_z") else "suction_z",
            words,
            "one correction",
            "corrected_twice",
        )
    elif body.heights == "own":
        out.z_s, out.z_d = t.got.get("suction_z", 0.0), t.got.get("discharge_z", 0.0)
    out.u_kpa = _gauge_error(t, body)
    return out


def heights_known(t: Typed, body: GaugeFields) -> bool:
    """Is it known how high the gauges read?"""
    return body.heights == "centre" or (body.heights == "own" and t.has("suction_z", "discharge_z"))


def _gauge_error(t: Typed, body: GaugeFields) -> float | None:
    """A class is a share of full scale, anywhere on the dial; the two taken together."""
    if body.gauge_class is None or not t.has("suction_top", "discharge_top"):
        return None
    share = float(body.gauge_class) / 100
    return ROOT(share * t.got["suction_top"], share * t.got["discharge_top"])


@dataclass(slots=True)
class Legs:
    """Currents of the motor and the shaft power that they say. u: kW. how: by which sum."""

    amps: list[float] = field(default_factory=list)
    kw_in: float | None = None
    shaft: float | None = None
    u: float = 0.0
    how: str = ""

    @property
    def worst(self) -> float | None:
        return max(self.amps, default=None)

    @property
    def whole(self) -> bool:
        """Every leg that the motor has was read."""
        return len(self.amps) > 0 and self._all

    _all: bool = False


def legs_typed(t: Typed, body: LegFields, motor: MotorFacts) -> Legs:
    """Shaft power from what the motor takes: by power factor and efficiency, else by current over no-load."""
    names = [f"amps_{n}" for n in (1, 2, 3)][: 3 if motor.phases == 3 else 1]
    out = Legs(amps=[t.got[n] for n in names if n in t.got])
    out._all = len(out.amps) == len(names)
    if not out.amps:
        return out
    mean = sum(out.amps) / len(out.amps)
    if t.has("volts", "pf"):
        out.kw_in = motor_kw(t.got["volts"], mean, t.got["pf"], motor.phases)
    if out.kw_in is not None and t.has("motor_eff"):
        out.shaft = out.kw_in * t.got["motor_eff"] / 100
        out.u, out.how = out.shaft * t.limits.value("water.u_power") / 100, "pf"
        return out
    idle = t.got.get("idle_amps")
    if idle and motor.amps_a and motor.power_kw:
        share = share_by_amps(mean, idle, motor.amps_a)
        if share is not None:
            out.shaft = share * motor.power_kw
            out.u, out.how = out.shaft * t.limits.value("water.u_amps") / 100, "idle"
    return out


def with_error(value: float, unit: str, u: float) -> Quantity:
    """A figure and what it can be off by."""
    return amount(value, unit, u=u)
