"""What is drawn of it: the dial's arc, the image's curve by tenfolds, the sizes, the hours of the log."""

from __future__ import annotations

import math

from ...base import amount
from .formulas import trip_s
from .overload import ceilings, due_of, heat_of, lost_times, multiple_of
from .sheet import Guard, lasting
from .short import KINDS, largest
from .starts import Log, allowed
from .view import CurveMark, CurveView, DialView, ProtectionView, SizeView

# The curve's corners: multiples of the dial across, seconds up.
_ACROSS, _UP = (1.0, 12.0), (1.0, 10000.0)
_TITLES = {"delay": "dual-element fuse", "fast": "non-time-delay fuse", "breaker": "breaker"}


def drawn(g: Guard, log: Log) -> ProtectionView:
    """Where the dial is and belongs, the curve, the sizes, the starts."""
    heat = heat_of(g)
    first, last = log.busiest
    span = log.span or 1.0
    one, two = g.got.get("ct_primary"), g.got.get("ct_secondary")
    table = g.got.get("table_amps")
    return ProtectionView(
        dial=_dial(g),
        loops=int(g.loops or 1),
        ratio=f"{one:g}/{two:g}" if one and two else "",
        inside_delta=bool(g.body.inside_delta),
        device=g.device,
        plate=amount(g.motor.amps_a, "A") if g.motor.amps_a else None,
        curve=_curve(g),
        share=amount(100 * heat[0], "%") if heat else None,
        wait=lasting(heat[1]) if heat and heat[1] is not None else None,
        sizes=[_size(g, kind, table) for kind in KINDS] if table and g.control_kind != "drive" else [],
        starts=[round(t / span, 5) for t in log.at],
        busiest=(round(log.at[first] / span, 5), round(log.at[last] / span, 5)) if log.at else None,
        allowed=allowed(g),
    )


def _size(g: Guard, kind: str, table: float) -> SizeView:
    share, least, most = largest(table, kind, g.limits)
    return SizeView(
        id=kind,
        title=_TITLES[kind],
        share=amount(share, "%"),
        sum=amount(least, "A"),
        size=amount(most, "A"),
        has=g.body.short == kind,
    )


def _dial(g: Guard) -> DialView:
    dial, plate = g.got.get("dial"), g.motor.amps_a
    if plate is None or not g.path_known or g.device in ("none", "inside"):
        return DialView(set=amount(dial, "A") if dial else None)
    due = due_of(g)
    low, top = 0.5 * due, max(2.0 * due, 1.1 * (dial or 0.0))

    def at(amps: float) -> float:
        return round(min(1.0, max(0.0, (amps - low) / (top - low))), 4)

    factor = g.multiplier or 1.0
    hard = bool(g.body.hard_start)
    steps = ceilings(g.motor, g.limits, high=g.high_ceiling, hard=hard, drive=g.device == "drive")
    ends = [at(due * s.value / 100 / factor) for s, _ in steps]
    return DialView(
        at=at(dial) if dial else None,
        due=at(due),
        least=at(due / factor),
        most=ends[0],
        hard=ends[-1] if len(ends) > 1 else None,
        set=amount(dial, "A") if dial else None,
        right=amount(due, "A"),
        trip=amount(g.in_line(dial * g.multiplier), "A") if dial and g.multiplier else None,
    )


def _place(value: float, ends: tuple[float, float]) -> float:
    low, high = (math.log(x) for x in ends)
    return round(min(1.0, max(0.0, (math.log(value) - low) / (high - low))), 4)


def _line(g: Guard, tau: float, before: float) -> list[tuple[float, float]]:
    edge = g.limits.value("overload.edge")
    out = []
    for k in range(61):
        many = edge * (1 + 0.002) * (_ACROSS[1] / edge / 1.002) ** (k / 60)
        seconds = trip_s(tau, many, before, edge)
        if seconds is not None and seconds > 0:
            out.append((_place(many, _ACROSS), _place(max(seconds, _UP[0]), _UP)))
    return out


def _curve(g: Guard) -> CurveView | None:
    if g.images is None:
        return None
    fast, slow = g.images
    return CurveView(
        cold=_line(g, slow, 0.0),
        hot=_line(g, slow, 1.0),
        fast=_line(g, fast, 0.0) if fast != slow else [],
        marks=_marks(g),
        across=[(_place(x, _ACROSS), f"{x:g}") for x in (1.0, 2.0, 3.0, 5.0, 7.2, 10.0)],
        up=[(_place(s, _UP), words) for s, words in _SECONDS],
    )


_SECONDS = ((1.0, "1 s"), (10.0, "10 s"), (60.0, "1 min"), (600.0, "10 min"), (3600.0, "1 h"))


def _marks(g: Guard) -> list[CurveMark]:
    out: list[CurveMark] = []
    edge = g.limits.value("overload.edge")
    amps, start, stall = (g.got.get(n) for n in ("start_amps", "start_seconds", "stall_seconds"))
    many = multiple_of(g, amps) if amps else None
    if many is not None and many > edge and g.images:
        cold = trip_s(g.images[1], many, 0.0, edge)
        hot = trip_s(g.images[1], many, 1.0, edge)
        times = {"cold": lasting(cold) if cold else None, "hot": lasting(hot) if hot else None}
        x = _place(many, _ACROSS)
        if start:
            out.append(CurveMark(id="start", title="start", x=x, until=_place(max(start, 1.0), _UP), **times))
        if stall:
            out.append(CurveMark(id="stall", title="locked", x=x, until=_place(max(stall, 1.0), _UP)))
    lost = lost_times(g)
    if lost is not None and g.dial_amps:
        x = _place(lost[0] / g.dial_amps, _ACROSS)
        out.append(
            CurveMark(id="lost", title="one leg lost", x=x, cold=lasting(lost[1]), hot=lasting(lost[2]))
        )
    return out
