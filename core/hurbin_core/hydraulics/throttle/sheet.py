"""A throttling sheet once understood: is it hydraulics at all, and what would a valve leave?"""

from __future__ import annotations

from dataclasses import dataclass

from ...base import Limits, Phrase, amount, exceeds, phrase
from ...logbook import Context
from ...plant import MotorFacts, motor_facts
from ..curve import System
from ..fluid import STANDARD_AIR_KPA, Fluid, air_kpa, boils_at_c
from ..formulas import share_by_amps
from ..pump import Pump, pump_of
from ..reading import Legs, Typed, fluid_typed, legs_typed, typed_of
from ..whatif import Now, RunOption, flow_at_power, power_at_amps, slowed, speed_at_power, throttled
from .entry import ThrottleEntry

_NEVER = ("displacement", "regenerative", "axial", "mixed", "vortex")


@dataclass(slots=True)
class Throttle:
    """refused: why no valve is closed here, the gravest first; empty: nothing speaks against it. now: as it
    runs. left: the valve closed to nameplate current; instead: the same current by speed or trim.
    """

    body: ThrottleEntry
    t: Typed
    limits: Limits
    motor: MotorFacts
    pump: Pump
    fluid: Fluid | None
    legs: Legs
    refused: list[Phrase]
    now: Now | None = None
    left: RunOption | None = None
    instead: RunOption | None = None

    @property
    def over(self) -> float | None:
        """The worst leg, percent of nameplate."""
        worst, plate = self.legs.worst, self.motor.amps_a
        return 100 * worst / plate if worst is not None and plate else None

    @property
    def floor(self) -> tuple[float, str] | None:
        """The least flow allowed, and what asks for it; the pump's own where its nameplate gives more."""
        asked, own = self.t.got.get("floor"), self.pump.got.get("min_flow")
        if own and (asked is None or own > asked):
            return own, "pump"
        return (asked, self.body.floor_of or "pump") if asked is not None else None


def understand(body: ThrottleEntry, context: Context) -> Throttle:
    """What was typed, what refuses a valve, and what one would do."""
    limits = Limits(context.overrides)
    t = typed_of(body, limits)
    motor = motor_facts(context.motor)
    s = Throttle(
        body=body,
        t=t,
        limits=limits,
        motor=motor,
        pump=pump_of(context, limits),
        fluid=fluid_typed(t, body),
        legs=legs_typed(t, body, motor),
        refused=[],
    )
    if body.closed and t.got.get("static"):
        words = "A closed loop has no static head, however high it is. Clear one of the two."
        t.refuse("static", words, "0 for a closed loop", "loop_static")
    s.refused = _refusals(s, context.altitude_m)
    s.now = _now(s)
    if s.now is not None:
        _valve(s, s.now)
    return s


def _refusals(s: Throttle, altitude: float | None) -> list[Phrase]:
    """What speaks against any valve here, whatever the sums say."""
    out: list[Phrase] = []
    if s.pump.type in _NEVER:
        out.append(phrase("throttle.kind", kind=phrase(f"throttle.is_{s.pump.type}")))
    if s.body.where == "suction":
        out.append(phrase("throttle.suction"))
    mean = sum(s.legs.amps) / len(s.legs.amps) if s.legs.amps else 0.0
    if mean and s.legs.worst is not None and s.legs.whole:
        off = 100 * max(abs(a - mean) for a in s.legs.amps) / mean
        if exceeds(off, s.limits.value("throttle.alike")):
            out.append(phrase("throttle.one_leg", off=amount(off, "%")))
    volts, plate = s.t.got.get("volts"), s.motor.volts_v
    if volts and plate and exceeds(s.limits.value("throttle.volts"), 100 * volts / plate):
        out.append(phrase("throttle.volts", pct=amount(100 * volts / plate, "%")))
    near = _boiling(s, altitude)
    if near is not None:
        out.append(near)
    return out


def _boiling(s: Throttle, altitude: float | None) -> Phrase | None:
    if s.fluid is None:
        return None
    air = air_kpa(altitude) if altitude is not None else STANDARD_AIR_KPA
    # Without a suction pressure the surface is taken as open: the lower boiling point.
    boils = boils_at_c(air + s.t.got.get("suction", 0.0))
    if boils is None:
        return None
    room = boils - s.fluid.t_c
    if not exceeds(s.limits.value("throttle.boiling"), room):
        return None
    return phrase("throttle.boils", room=amount(room, "K"))


def _now(s: Throttle) -> Now | None:
    """As it runs, by its worst leg; None where curve, no-load current, nameplate or the pipes are missing."""
    curve, worst, idle = s.pump.curve, s.legs.worst, s.t.got.get("idle_amps")
    plate, kw = s.motor.amps_a, s.motor.power_kw
    if curve is None or curve.power is None or s.pump.indicative or not s.legs.whole:
        return None
    if worst is None or not idle or not plate or not kw or s.fluid is None:
        return None
    speed = s.motor.speed_rpm / curve.rpm if s.motor.speed_rpm and curve.rpm else None
    share = share_by_amps(worst, idle, plate)
    if speed is None or share is None:
        return None
    curve = curve.at(speed, s.fluid.rho)
    if s.fluid.nu is not None:
        curve = curve.thick(s.fluid.nu)
    q = s.t.got.get("flow") or curve.flow_at_power(share * kw)
    head = curve.head.at(q) if q else None
    static = 0.0 if s.body.closed else s.t.got.get("static")
    if not q or head is None or static is None:
        return None
    system = System.through(q, head, static)
    if system is None:
        return None
    eff = s.t.got.get("motor_eff")
    return Now(
        curve=curve,
        system=system,
        q=q,
        kw=share * kw,
        amps=worst,
        idle=idle,
        rated=plate,
        rated_kw=kw,
        efficiency=eff / 100 if eff else None,
        hours=s.t.got.get("hours"),
        price=s.t.got.get("price"),
        u_share=_u_share(s, (curve.power.slope(q) if curve.power else 0.0) or 0.0, share * kw, q),
    )


def _u_share(s: Throttle, slope: float, kw: float, q: float) -> float:
    """What the change of power can be off by, as a share of flow."""
    return s.limits.value("throttle.u_power") / 100 * kw / slope / q if slope > 0 else 1.0


def _valve(s: Throttle, now: Now) -> None:
    plate = s.motor.amps_a
    target = power_at_amps(now, plate) if plate else None
    if target is None or target >= now.kw:
        return
    q = flow_at_power(now, target)
    if q is None:
        s.refused.append(phrase("throttle.no_valve"))
    else:
        s.left = throttled(now, q)
    slow = speed_at_power(now, target)
    if slow is not None:
        s.instead = slowed(now, slow[1])
