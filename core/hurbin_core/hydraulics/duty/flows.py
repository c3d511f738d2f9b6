"""The flow by each way that is at hand: what it is, and what it can be off by."""

from __future__ import annotations

from ...base import Phrase, amount, exceeds, phrase
from ..formulas import flow_by_drop, flow_by_heat, flow_by_valve, velocity_head
from ..roots import meets
from .state import Duty, Way


def ways(d: Duty, still: float) -> tuple[list[Way], list[Phrase]]:
    """Every flow that can be had, the surest first; and what was typed but is not taken.

    still: head by pressures and heights alone, m. Seven ways; none is guessed where an input of it is
    missing.
    """
    out: list[Way] = []
    refused: list[Phrase] = []
    if d.running:
        for one in (_by_head(d, still, refused), _by_power(d, refused)):
            if one is not None:
                out.append(one)
    out += [
        w for w in (_meter(d, refused), _exchanger(d), _heat(d), _valve(d), _drawdown(d)) if w is not None
    ]
    return sorted(out, key=lambda w: w.u / max(w.q, 1e-9)), refused


def _share(d: Duty, limit: str, q: float, id: str) -> Way:
    return Way(id, q, q * d.limits.value(limit) / 100)


def _by_head(d: Duty, still: float, refused: list[Phrase]) -> Way | None:
    """Where the curve makes this head. Its error is that of head over the curve's slope."""
    curve = d.curve
    if curve is None or d.u_head is None or d.pump.indicative or d.pump.displaces:
        return None
    bores = (d.t.got.get("suction_bore"), d.t.got.get("discharge_bore"))

    def over(q: float) -> float:
        moving = velocity_head(q, bores[1]) - velocity_head(q, bores[0]) if bores[0] and bores[1] else 0.0
        return (curve.head.at(q) or 0.0) - still - moving

    q = meets(over, curve.low, curve.end)
    if q is None:
        refused.append(phrase("duty.off_curve", head=amount(still, "m_head")))
        return None
    slope = abs(curve.head.slope(q) or 0.0)
    if exceeds(d.limits.value("water.flat"), slope):
        refused.append(phrase("duty.flat"))
        return None
    u_curve = d.limits.value("water.u_curve") / 100 * still
    return Way("head", q, (d.u_head**2 + u_curve**2) ** 0.5 / slope)


def _by_power(d: Duty, refused: list[Phrase]) -> Way | None:
    """Where the curve takes this power: radial pumps only, on a part that rises throughout."""
    curve, shaft = d.curve, d.legs.shaft
    if curve is None or curve.power is None or shaft is None or not d.legs.whole:
        return None
    if d.pump.type != "radial":
        refused.append(phrase("duty.power_radial"))
        return None
    q = curve.flow_at_power(shaft)
    if q is None:
        refused.append(phrase("duty.off_power", power=amount(shaft, "kW")))
        return None
    slope = curve.power.slope(q) or 0.0
    if slope <= 0:
        return None
    return Way("power", q, d.legs.u / slope)


def _meter(d: Duty, refused: list[Phrase]) -> Way | None:
    q = d.t.got.get("meter")
    if q is None:
        return None
    if d.body.meter_air or not d.body.meter_straight:
        refused.append(phrase("duty.meter_air" if d.body.meter_air else "duty.meter_pipe"))
        return None
    return _share(d, "water.u_meter", q, "meter")


def _exchanger(d: Duty) -> Way | None:
    t = d.t
    if not t.has("exchanger_drop", "exchanger_drop_ref", "exchanger_flow_ref") or not d.body.exchanger_clean:
        return None
    if not t.got["exchanger_drop_ref"]:
        return None
    q = flow_by_drop(t.got["exchanger_flow_ref"], t.got["exchanger_drop_ref"], t.got["exchanger_drop"])
    return _share(d, "water.u_drop", q, "exchanger")


def _heat(d: Duty) -> Way | None:
    t, f = d.t, d.fluid
    if (
        not t.has("heat", "rise")
        or not t.got["rise"]
        or not d.body.heat_steady
        or f is None
        or f.heat is None
    ):
        return None
    return _share(d, "water.u_heat", flow_by_heat(t.got["heat"], t.got["rise"], f.rho, f.heat), "heat")


def _valve(d: Duty) -> Way | None:
    t = d.t
    if not t.has("valve_kv", "valve_drop") or d.fluid is None:
        return None
    q = flow_by_valve(t.got["valve_kv"], t.got["valve_drop"], d.fluid.rho)
    return _share(d, "water.u_drop", q, "valve")


def _drawdown(d: Duty) -> Way | None:
    q = d.t.got.get("drawdown")
    return _share(d, "water.u_drawdown", q, "drawdown") if q is not None else None
