"""A wear sheet once understood: head brought to the curve's speed, the shut-off test, the ring it points
at.
"""

from __future__ import annotations

from dataclasses import dataclass

from ...base import Limits, Phrase, amount, exceeds, phrase
from ...logbook import Conditions, Context
from ...plant import MotorFacts, motor_facts
from ..curve import Curve
from ..fluid import Fluid
from ..formulas import head_parts, water_kw
from ..pump import Pump, pump_of
from ..reading import Gauges, Legs, Typed, fluid_typed, gauges_typed, legs_typed, typed_of
from ..worn import Lost, clearance_for, lost_head
from .entry import WearEntry

_SHARES = {"meter": "water.u_meter", "exchanger": "water.u_drop", "heat": "water.u_heat"} | {
    "valve": "water.u_drop",
    "drawdown": "water.u_drawdown",
}


@dataclass(slots=True)
class Wear:
    """curve: at the speed and density of now. at: flow and head brought to the curve's own speed. lost:
    against the curve. shut: head at shut-off over expected, its error, both of 1. refused: why no shut-off
    test is offered here; empty: it may be offered. clearance: what would leak so, mm.
    """

    body: WearEntry
    t: Typed
    limits: Limits
    motor: MotorFacts
    pump: Pump
    fluid: Fluid | None
    gauges: Gauges
    legs: Legs
    refused: list[Phrase]
    speed: float | None = None
    curve: Curve | None = None
    head: float | None = None
    u_head: float | None = None
    u_q: float = 0.0
    at: tuple[float, float] | None = None
    lost: Lost | None = None
    shut: tuple[float, float, float, float] | None = None
    clearance: float | None = None

    @property
    def key(self) -> str:
        return Conditions.of(by=f"flow_{self.body.flow_by}" if self.body.flow_by else None).key


def understand(body: WearEntry, context: Context) -> Wear:
    """What was typed, brought to one speed and one liquid."""
    limits = Limits(context.overrides)
    t = typed_of(body, limits)
    motor = motor_facts(context.motor)
    w = Wear(
        body=body,
        t=t,
        limits=limits,
        motor=motor,
        pump=pump_of(context, limits),
        fluid=fluid_typed(t, body),
        gauges=gauges_typed(t, body, context.altitude_m),
        legs=legs_typed(t, body, motor),
        refused=[],
    )
    w.refused = refusals(w)
    w.speed = _speed(w, t.got.get("rpm"), context.control_kind == "drive")
    if w.pump.curve is not None and w.speed is not None and not w.pump.indicative:
        w.curve = w.pump.curve.at(w.speed, w.fluid.rho if w.fluid else None)
        if w.fluid is not None and w.fluid.nu is not None:
            w.curve = w.curve.thick(w.fluid.nu)
    _at_flow(w)
    _shut(w, context.control_kind == "drive")
    return w


def refusals(w: Wear) -> list[Phrase]:
    """Why this pump is not to be run against a shut valve, the gravest first."""
    out = []
    if w.pump.type in ("displacement", "regenerative", "axial", "mixed"):
        out.append(phrase(f"wear.never_{w.pump.type}"))
    if w.body.impeller == "plastic":
        out.append(phrase("wear.never_plastic"))
    if w.body.volatile == "yes":
        out.append(phrase("wear.never_volatile"))
    if w.fluid is not None and exceeds(w.fluid.t_c, w.limits.value("shut_off.hot")):
        out.append(phrase("wear.never_hot", temp=amount(w.fluid.t_c, "degC")))
    if w.body.rated is False:
        out.append(phrase("wear.never_rated"))
    return out


def _speed(w: Wear, rpm: float | None, on_drive: bool) -> float | None:
    curve = w.pump.curve
    if curve is None or not curve.rpm:
        return None
    if rpm is not None:
        return rpm / curve.rpm or None
    if not w.motor.speed_rpm:
        return None
    if "hz" in w.t.got and w.motor.frequency_hz:
        return w.motor.speed_rpm * w.t.got["hz"] / w.motor.frequency_hz / curve.rpm or None
    return None if on_drive else w.motor.speed_rpm / curve.rpm


def _at_flow(w: Wear) -> None:
    g, t = w.gauges, w.t
    if not g.both or w.fluid is None or "flow" not in t.got:
        return
    assert g.suction is not None
    assert g.discharge is not None
    q = t.got["flow"]
    if t.has("suction_bore", "discharge_bore"):
        bores = (t.got["suction_bore"], t.got["discharge_bore"])
        w.head = sum(head_parts(g.suction, g.discharge, g.z_s, g.z_d, w.fluid.rho, q, *bores))
    else:
        w.head = (g.discharge - g.suction) / w.fluid.kpa_per_m + g.z_d - g.z_s
    w.u_head = g.u_kpa / w.fluid.kpa_per_m if g.u_kpa is not None else None
    share = _SHARES.get(w.body.flow_by or "")
    w.u_q = q * w.limits.value(share) / 100 if share else 0.0
    if w.curve is None or w.speed is None:
        return
    w.at = (q / w.speed, w.head / w.speed**2)
    w.lost = lost_head(w.curve, q, w.u_q, w.head, w.u_head or 0.0, 0.0)
    _ring(w)


def _ring(w: Wear) -> None:
    got = w.pump.got
    if w.lost is None or not w.lost.inner or w.head is None:
        return
    if not {"ring_diameter", "ring_length", "ring_new"} <= got.keys():
        return
    nu = w.fluid.nu if w.fluid is not None and w.fluid.nu else 1.0
    most = w.limits.value("ring.most")
    size = (got["ring_diameter"], got["ring_length"], got["ring_new"])
    w.clearance = clearance_for(w.lost.inner, *size, w.head, nu, most)


def _shut(w: Wear, on_drive: bool) -> None:
    """Ratio, its error, head read and expected at shut-off; None where it may not be run, or is not known."""
    t, curve = w.t, w.pump.curve
    if w.refused or not t.has("shut_suction", "shut_discharge") or w.fluid is None or curve is None:
        return
    s = _speed(w, t.got.get("shut_rpm", t.got.get("rpm")), on_drive)
    if s is None or curve.shut_off is None or w.pump.indicative:
        return
    expected = curve.shut_off * s * s
    rise = (t.got["shut_discharge"] - t.got["shut_suction"]) / w.fluid.kpa_per_m
    head = rise + w.gauges.z_d - w.gauges.z_s
    u = w.gauges.u_kpa / w.fluid.kpa_per_m if w.gauges.u_kpa is not None else 0.0
    w.shut = (head / expected, u / expected, head, expected)


def efficiency(w: Wear) -> tuple[float, float | None] | None:
    """Efficiency of the pump now and of its curve at this flow, percent; None without shaft power."""
    if w.head is None or w.legs.shaft is None or w.fluid is None or w.curve is None or not w.legs.whole:
        return None
    q = w.t.got["flow"]
    now = 100 * water_kw(w.fluid.rho, q, w.head) / w.legs.shaft
    was = w.curve.efficiency(q)
    return now, 100 * was if was else None


def plausible_impeller(w: Wear) -> float | None:
    """Which share of the diameter would make this shut-off head?"""
    return w.shut[0] ** 0.5 if w.shut is not None and w.shut[0] > 0 else None
