"""What is drawn of a sheet of duty."""

from __future__ import annotations

from ...base import Phrase, Quantity, amount, phrase
from ..curve import System
from ..paper import PumpPaper, paper, spot, traced
from ..reading import with_error
from ..whatif import Now, RunOption, as_it_runs, slowed, throttled, wasted_kw
from .state import Duty
from .survey import MUST, ORDER, Survey
from .view import DutyView, SurveyPlaceView, WayView


def drawn(d: Duty, s: Survey) -> DutyView:
    """The paper, the ways, the what-if and the survey's places."""
    view = DutyView(
        curve=_paper(d),
        ways=[
            WayView(
                id=w.id,
                says=phrase(f"duty.way_{w.id}"),
                flow=with_error(w.q, "m3/h", w.u),
                apart=not w.agrees(d.ways[0]),
            )
            for w in d.ways
        ],
        refused=d.refused,
        parts=[amount(p, "m_head") for p in d.parts] if d.parts and d.running else [],
        density=amount(d.fluid.rho, "kg/m3") if d.fluid else None,
        survey=_places(d, s),
    )
    _try(d, view)
    return view


def _range(d: Duty) -> tuple[float, float]:
    return d.limits.value("duty.least"), d.limits.value("duty.most")


def _paper(d: Duty) -> PumpPaper | None:
    curve = d.curve or d.pump.curve
    if curve is None:
        return None
    view = paper(curve, d.system, *_range(d), d.motor.power_kw)
    across = view.flow.end
    for name in ("need", "floor"):
        value = d.t.got.get(name)
        if value and value <= across:
            setattr(view, name, value / across)
    if d.flow is not None and d.head is not None and d.flow.q <= across:
        view.point = spot(view, d.flow.q, d.head, d.flow.u, d.legs.shaft)
    return view


def now_of(d: Duty) -> Now | None:
    """As it runs, for a what-if; None where the curve, the system or the power is not known."""
    if d.curve is None or d.flow is None or d.apart is not None or d.system is None or d.curve.power is None:
        return None
    kw = d.legs.shaft if d.legs.shaft is not None else d.curve.power.at(d.flow.q)
    head = d.curve.head.at(d.flow.q)
    if kw is None or head is None or d.pump.indicative:
        return None
    # The what-if runs along the curve: the point is put on it, the pipes through that point.
    system = System.through(d.flow.q, head, d.system.static)
    if system is None:
        return None
    return Now(
        curve=d.curve,
        system=system,
        q=d.flow.q,
        kw=kw,
        amps=d.legs.worst,
        idle=d.t.got.get("idle_amps"),
        rated=d.motor.amps_a,
        rated_kw=d.motor.power_kw,
        efficiency=d.t.got["motor_eff"] / 100 if "motor_eff" in d.t.got else None,
        hours=d.t.got.get("hours"),
        price=d.t.got.get("price"),
        u_share=d.flow.u / d.flow.q,
    )


def _try(d: Duty, view: DutyView) -> None:
    now = now_of(d)
    if now is None or view.curve is None:
        return
    view.options = [as_it_runs(now)]
    if d.body.try_at is None:
        return
    q = d.body.try_at * view.curve.flow.end
    valve = throttled(now, q)
    if valve is None:
        view.says = [phrase("duty.try_outside")]
        return
    slow = slowed(now, q)
    view.options += [o for o in (valve, slow) if o is not None]
    view.says = _says(now, valve, slow)
    _draw_try(now, valve, slow, view.curve)


def _says(now: Now, valve: RunOption, slow: RunOption | None) -> list[Phrase]:
    eaten = wasted_kw(valve, now.curve.rho)
    out = [phrase("duty.eats", loss=valve.loss or amount(0.0, "m_head"), power=amount(eaten, "kW"))]
    if slow is not None and valve.energy is not None and slow.energy is not None:
        more: Quantity = amount(valve.energy.value - slow.energy.value, "kWh")
        out.append(phrase("duty.costs_more", more=more))
    return out


def _draw_try(now: Now, valve: RunOption, slow: RunOption | None, view: PumpPaper) -> None:
    q, h = valve.flow.value, valve.head.value
    view.tried = spot(view, q, h, valve.flow.u, valve.power.value if valve.power else None)
    closed = System.through(q, h, now.system.static)
    if closed is not None:
        view.closed_in = traced(closed.head, 0.0, view.flow.end, view.flow.end, view.head.end)
    if slow is not None and slow.speed is not None:
        slower = now.curve.at(slow.speed.value / 100)
        view.slowed = traced(slower.head.at, slower.low, slower.end, view.flow.end, view.head.end)


def _places(d: Duty, s: Survey) -> list[SurveyPlaceView]:
    out = []
    for at in ORDER:
        place = s.places.get(at)
        state = "done" if s.done(at) else "next" if at == s.next else "open" if at in MUST else "chance"
        head = place.rise if place is not None else None
        out.append(
            SurveyPlaceView(
                id=at,
                title=phrase(f"survey.at_{at}"),
                how=phrase(f"survey.how_{at}"),
                state=state,
                head=_head(d, head),
                amps=amount(place.amps, "A") if place is not None and place.amps is not None else None,
            )
        )
    return out


def _head(d: Duty, rise: float | None) -> Quantity | None:
    if rise is None or d.fluid is None:
        return None
    return amount(rise / d.fluid.kpa_per_m + d.gauges.z_d - d.gauges.z_s, "m_head")


__all__ = ["drawn", "now_of"]
