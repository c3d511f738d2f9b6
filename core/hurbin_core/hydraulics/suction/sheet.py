"""The suction side once understood: what is there, what is asked for, how hot or how low it still passes."""

from __future__ import annotations

from dataclasses import dataclass

from ...base import Limits, exceeds
from ...logbook import Context
from ..curve import Curve
from ..fluid import Fluid, air_kpa, fluid_of
from ..formulas import npsh_by_gauge, npsh_by_level, velocity_head
from ..pump import Pump, pump_of
from ..reading import Typed, fluid_typed, typed_of
from ..roots import meets
from .entry import SuctionEntry


@dataclass(slots=True)
class Suction:
    """available: NPSH at the eye, m, with u. required: by the curve at this flow, or as typed; near:
    whether it holds at this flow. parts: surface, level, friction (or gauge, velocity, height), vapour,
    each m.
    """

    body: SuctionEntry
    t: Typed
    limits: Limits
    pump: Pump
    fluid: Fluid | None
    air: float | None
    available: float | None = None
    u: float | None = None
    parts: tuple[tuple[str, float], ...] = ()
    required: float | None = None
    near: bool = True
    from_curve: bool = False
    hottest: float | None = None
    lowest: float | None = None

    @property
    def wanted(self) -> float | None:
        """Required, and the margin over it."""
        if self.required is None:
            return None
        least = self.limits.value("npsh.margin")
        return self.required + max(least, self.limits.value("npsh.share") / 100 * self.required)


def understand(body: SuctionEntry, context: Context) -> Suction:
    """What was typed, summed; nothing is judged here."""
    limits = Limits(context.overrides)
    t = typed_of(body, limits)
    height = t.got.get("altitude", context.altitude_m)
    s = Suction(
        body=body,
        t=t,
        limits=limits,
        pump=pump_of(context, limits),
        fluid=fluid_typed(t, body),
        air=air_kpa(height) if height is not None else None,
    )
    _required(s, context)
    if body.npsh_by == "gauge":
        _by_gauge(s)
    elif body.npsh_by == "level":
        _by_level(s)
    return s


def _required(s: Suction, context: Context) -> None:
    q = s.t.got.get("flow")
    curve: Curve | None = s.pump.curve
    at = curve.npshr.at(q) if curve is not None and curve.npshr is not None and q is not None else None
    if at is not None:
        s.required, s.from_curve = at, True
        return
    s.required = s.t.got.get("npshr")
    at_flow = s.t.got.get("npshr_flow")
    if s.required is None:
        return
    if q is None or at_flow is None:
        s.near = False
        return
    # It grows with flow: read at a larger flow it is on the careful side.
    most = s.limits.value("npsh.near")
    s.near = not exceeds(100 * (q / at_flow - 1), most) if at_flow else False


def _gauge_kpa(s: Suction, name: str) -> float | None:
    p = s.t.got.get(name)
    if p is None or s.air is None:
        return None
    if name == "suction" and s.body.pressures == "absolute":
        if p < 0:
            words = "An absolute pressure is never below zero: this gauge reads from the atmosphere."
            s.t.refuse(name, words, "choose gauge pressure", "absolute_taken")
            return None
        return p - s.air
    if p < -s.air:
        words = "Below a full vacuum. Check sign and unit, and whether it is gauge or absolute."
        s.t.refuse(name, words, f"above {-s.air / 100:.2f} bar gauge", "absolute_taken")
        return None
    return p


def _by_gauge(s: Suction) -> None:
    t, f = s.t, s.fluid
    p = _gauge_kpa(s, "suction")
    if (
        p is None
        or f is None
        or f.p_v is None
        or s.air is None
        or not t.has("flow", "suction_bore", "suction_z")
    ):
        return
    q, bore, z = t.got["flow"], t.got["suction_bore"], t.got["suction_z"]
    s.available = npsh_by_gauge(p, s.air, f.p_v, f.rho, q, bore, z)
    per = f.kpa_per_m
    s.parts = (
        ("air", s.air / per),
        ("gauge", p / per),
        ("velocity", velocity_head(q, bore)),
        ("height", z),
        ("vapour", -f.p_v / per),
    )
    if s.body.gauge_class is not None and "suction_top" in t.got:
        s.u = float(s.body.gauge_class) / 100 * t.got["suction_top"] / per


def _by_level(s: Suction) -> None:
    t, f = s.t, s.fluid
    if f is None or f.p_v is None or s.air is None or not t.has("level", "loss") or s.body.surface is None:
        return
    surface = s.air
    if s.body.surface == "closed":
        over = _gauge_kpa(s, "surface_pressure")
        if over is None:
            return
        surface += over
    level, loss = t.got["level"], t.got["loss"]
    s.available = npsh_by_level(surface, f.p_v, f.rho, level, loss)
    per = f.kpa_per_m
    s.parts = (("air", surface / per), ("level", level), ("loss", -loss), ("vapour", -f.p_v / per))
    s.u = t.got.get("level_u")
    if s.wanted is None:
        return
    s.lowest = level - (s.available - s.wanted)
    s.hottest = _hottest(s, surface, level, loss, s.wanted)


def _hottest(s: Suction, surface: float, level: float, loss: float, wanted: float) -> float | None:
    """At which temperature is the margin used up? None where that is not between 0 and 120 °C, and for what
    is no water.
    """
    if s.fluid is None or s.fluid.kind != "water":
        return None

    def over(t_c: float) -> float:
        f = fluid_of("water", t_c)
        assert f is not None
        assert f.p_v is not None
        return npsh_by_level(surface, f.p_v, f.rho, level, loss) - wanted

    return meets(over, 0.01, 119.99, 1e-7)
