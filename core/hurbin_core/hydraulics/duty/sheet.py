"""A sheet of duty once understood."""

from __future__ import annotations

from ...base import Limits, exceeds
from ...logbook import Context
from ...plant import motor_facts
from ..curve import System
from ..formulas import velocity_head
from ..pump import pump_of
from ..reading import fluid_typed, gauges_typed, legs_typed, typed_of
from .entry import DutyEntry
from .flows import ways
from .state import Duty


def understand(body: DutyEntry, context: Context) -> Duty:
    """What was typed, corrected once, and what follows of it without a verdict."""
    limits = Limits(context.overrides)
    t = typed_of(body, limits)
    motor = motor_facts(context.motor)
    d = Duty(
        body=body,
        t=t,
        limits=limits,
        motor=motor,
        pump=pump_of(context, limits),
        fluid=fluid_typed(t, body),
        gauges=gauges_typed(t, body, context.altitude_m),
        legs=legs_typed(t, body, motor),
    )
    _refuse(d)
    d.speed = _speed(d, context.control_kind == "drive")
    if d.pump.curve is not None and d.speed is not None:
        rho = d.fluid.rho if d.fluid else None
        d.curve = d.pump.curve.at(d.speed, rho)
        if d.fluid is not None and d.fluid.nu is not None:
            d.curve = d.curve.thick(d.fluid.nu)
    _head(d)
    return d


def _refuse(d: Duty) -> None:
    t, b = d.t, d.body
    if b.closed and t.got.get("static"):
        words = "A closed loop has no static head, however high it is. Clear one of the two."
        t.refuse("static", words, "0 for a closed loop", "loop_static")
    if t.has("turns", "turns_full") and exceeds(t.got["turns"], t.got["turns_full"]):
        t.refuse("turns", "More turns open than the valve has.", "turns open, of turns in all")
    if b.valve == "shut" and b.state == "running" and d.pump.displaces:
        words = "A displacement pump never runs against a shut valve. Open it, then read."
        t.refuse("discharge", words, "the discharge valve open", "shut_displacement")


def _speed(d: Duty, on_drive: bool) -> float | None:
    """Share of the curve's speed; None where it is not known."""
    curve = d.pump.curve
    if curve is None or not curve.rpm:
        return None
    if "rpm" in d.t.got:
        return d.t.got["rpm"] / curve.rpm or None
    if not d.motor.speed_rpm:
        return None
    if "hz" in d.t.got and d.motor.frequency_hz:
        return d.motor.speed_rpm * d.t.got["hz"] / d.motor.frequency_hz / curve.rpm or None
    return None if on_drive else d.motor.speed_rpm / curve.rpm


def _dv(d: Duty, q: float) -> float:
    """Velocity head that the gauges do not show, m; none where the bores are alike."""
    if not d.t.has("suction_bore", "discharge_bore"):
        return 0.0
    return velocity_head(q, d.t.got["discharge_bore"]) - velocity_head(q, d.t.got["suction_bore"])


def bores_known(d: Duty) -> bool:
    return d.t.has("suction_bore", "discharge_bore")


def _head(d: Duty) -> None:
    g = d.gauges
    if not g.both or d.fluid is None:
        return
    assert g.suction is not None
    assert g.discharge is not None
    per = d.fluid.kpa_per_m
    still = (g.discharge - g.suction) / per + (g.z_d - g.z_s)
    if g.u_kpa is not None:
        d.u_head = g.u_kpa / per
    d.ways, d.refused = ways(d, still)
    q = d.flow.q if d.flow is not None and d.running else 0.0
    d.parts = ((g.discharge - g.suction) / per, g.z_d - g.z_s, _dv(d, q))
    d.head = sum(d.parts)
    if d.flow is not None and (d.body.closed or "static" in d.t.got):
        d.system = System.through(d.flow.q, d.head, 0.0 if d.body.closed else d.t.got["static"])
