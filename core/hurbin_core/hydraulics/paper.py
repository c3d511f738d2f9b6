"""The paper a curve is drawn on: one flow axis, head above, power below; places from 0 to 1, no pixels."""

from __future__ import annotations

import math
from collections.abc import Callable

from ..base import Model, Quantity, nominal
from .curve import Curve, System

Places = list[tuple[float, float]]
_POINTS = 48


class PaperTick(Model):
    at: float
    value: Quantity


class PaperAxis(Model):
    """end: the value at 1, metric."""

    end: float = 1.0
    ticks: list[PaperTick] = []


class PaperSpot(Model):
    """Where something stands on the paper. u: its error along the flow; kw: its place on the power's axis."""

    x: float
    y: float
    u: float = 0.0
    kw: float | None = None


class PumpPaper(Model):
    """The pump's curve as it is now, its preferred part, what the pipes ask for, where it runs. indicative: a
    shape by one point.
    """

    flow: PaperAxis = PaperAxis()
    head: PaperAxis = PaperAxis()
    power: PaperAxis | None = None
    pump: Places = []
    preferred: tuple[float, float] | None = None
    system: Places = []
    closed_in: Places = []
    slowed: Places = []
    kw: Places = []
    rated: float | None = None
    bep: float | None = None
    need: float | None = None
    floor: float | None = None
    point: PaperSpot | None = None
    tried: PaperSpot | None = None
    indicative: bool = False


def axis(end: float, unit: str, wanted: int = 5) -> PaperAxis:
    """Round figures along an axis that reaches `end`."""
    end = max(end, 1e-9)
    raw = end / wanted
    ten = 10.0 ** math.floor(math.log10(raw))
    step = next(m * ten for m in (1, 2, 5, 10) if m * ten >= raw * 0.999)
    n = int(end / step + 1e-9)
    places = max(0, -math.floor(math.log10(step) + 1e-9))
    return PaperAxis(
        end=end,
        ticks=[
            PaperTick(at=round(i * step / end, 5), value=nominal(i * step, unit, places))
            for i in range(n + 1)
        ],
    )


def traced(f: Callable[[float], float | None], low: float, high: float, across: float, up: float) -> Places:
    """A line on the paper, where it is known and within the paper."""
    out = []
    for i in range(_POINTS + 1):
        x = low + (high - low) * i / _POINTS
        y = f(x)
        if y is not None and -1e-9 <= y <= up * 1.0001:
            out.append((round(x / across, 5), round(y / up, 5)))
    return out


def paper(
    curve: Curve, system: System | None, least: float, most: float, rated_kw: float | None = None
) -> PumpPaper:
    """The curve and what it meets. least, most: the preferred range in percent of best-efficiency flow."""
    across, bep = curve.end * 1.06, curve.bep
    top = max(curve.head.at(curve.low) or 1.0, 1e-6) * 1.12
    view = PumpPaper(
        flow=axis(across, "m3/h"),
        head=axis(top, "m_head"),
        pump=traced(curve.head.at, curve.low, curve.end, across, top),
        bep=bep / across if bep else None,
        preferred=(least / 100 * bep / across, min(1.0, most / 100 * bep / across)) if bep else None,
        indicative=curve.how == "plate",
    )
    if system is not None:
        view.system = traced(system.head, 0.0, across, across, top)
    if curve.power is not None:
        line = curve.power
        high = max(*line.y, rated_kw or 0.0, 1e-6) * 1.12
        view.power = axis(high, "kW", 3)
        view.kw = traced(line.at, line.x[0], line.x[-1], across, high)
        view.rated = rated_kw / high if rated_kw else None
    return view


def spot(view: PumpPaper, q: float, h: float, u: float = 0.0, kw: float | None = None) -> PaperSpot:
    """A place on this paper."""
    high = view.power.end if view.power else None
    return PaperSpot(
        x=q / view.flow.end,
        y=h / view.head.end,
        u=u / view.flow.end,
        kw=kw / high if kw is not None and high else None,
    )
