"""A loop's pressures once understood: which count, what would be there if it were tight, how much is gone."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from ...base import Limits, Phrase, amount, exceeds, phrase, read_fields
from ...logbook import AnyCase
from ..cushion import (
    compliance_l_per_kpa,
    gas_l,
    pipe_change_l,
    pressure_kpa,
    rigid_l_per_kpa,
    water_change_l,
)
from ..loops import Loop, least_standing, loop_of
from ..reading import Typed, typed_of
from .entry import LoopEntry, LoopReading


@dataclass(frozen=True, slots=True)
class Stood:
    """One pressure that counts: kPa gauge, °C. past: it was on record already."""

    at: datetime
    kpa: float
    temp: float
    past: bool = False


@dataclass(slots=True)
class Hold:
    """The hold test. used: what counts, by time. left_out: what does not, and why. expected: at the last
    reading if nothing were lost, kPa, with its error. lost: litres, with theirs. rate: l a day. wait: h.
    """

    body: LoopEntry
    t: Typed
    limits: Limits
    loop: Loop
    as_of: datetime
    used: list[Stood] = field(default_factory=list)
    left_out: list[Phrase] = field(default_factory=list)
    unwarm: bool = False
    expected: float | None = None
    u_expected: float = 0.0
    lost: float | None = None
    u_lost: float = 0.0
    plain: float | None = None
    step_l: float | None = None
    made_up: float = 0.0
    open_make_up: bool = False
    least: float | None = None

    @property
    def hours(self) -> float:
        """Between the first and the last reading that count."""
        return (self.used[-1].at - self.used[0].at).total_seconds() / 3600 if len(self.used) > 1 else 0.0

    @property
    def rate(self) -> float | None:
        """Litres a day, make-up counted as lost."""
        if self.lost is None or self.hours <= 0:
            return None
        return (self.lost + self.made_up) / self.hours * 24

    @property
    def u_rate(self) -> float:
        return self.u_lost / self.hours * 24 if self.hours > 0 else 0.0

    @property
    def wait_h(self) -> float | None:
        """The shortest wait that can tell a loss that matters: three steps of the gauge."""
        if self.step_l is None:
            return None
        return 3 * self.step_l / self.limits.value("loss.matters") * 24


def understand(body: LoopEntry, case: AnyCase) -> Hold:
    """Which readings count, and what they say; nothing is judged here."""
    limits = Limits(case.context.overrides)
    h = Hold(body, typed_of(body, limits), limits, loop_of(case), case.context.as_of)
    h.open_make_up = "make_up_open" in case.state.change_kinds
    _take(h)
    _make_up(h)
    if h.used:
        h.least = least_standing(h.loop, h.used[-1].temp, limits)
    if h.loop.whole and not h.loop.problems and len(h.used) > 1:
        _compare(h)
    return h


def _take(h: Hold) -> None:
    rows = [_stood(h, r, n) for n, r in enumerate(h.body.readings, 1)]
    past = h.loop.known.past if h.loop.known is not None and not h.body.alone else []
    first = min((r.at for r in rows if r is not None), default=h.as_of)
    days = h.limits.value("loop.past")
    older = [
        Stood(p.at, p.kpa, p.temp_c, past=True)
        for p in past
        if p.at < first and not exceeds((first - p.at).total_seconds() / 86400, days)
    ]
    h.used = sorted([*older, *(r for r in rows if r is not None)], key=lambda r: r.at)
    if any(a.at == b.at for a, b in zip(h.used, h.used[1:], strict=False)):
        h.t.refuse(
            "readings", "Two pressures at one moment: correct the time of one.", "two times", "same_time"
        )
        h.used = []


def _stood(h: Hold, r: LoopReading, n: int) -> Stood | None:
    read, problems = read_fields(r)
    h.t.problems += problems
    got = {k: v.value for k, v in read.items()}
    no = str(n)
    if "pressure" not in got:
        return None
    if r.at is None or r.at > h.as_of:
        h.left_out.append(phrase("loop.no_time", n=no))
        return None
    if exceeds(-h.loop.air, got["pressure"]):
        words = "Below a full vacuum. Check sign and unit, and whether it is gauge or absolute."
        h.t.refuse("readings", words, "gauge pressure", "absolute_taken")
        return None
    for wrong, template in ((r.hose == "on", "loop.hose"), (r.pump == "running", "loop.running")):
        if wrong:
            h.left_out.append(phrase(template, n=no))
            return None
    if r.make_up == "open" and not h.t.has("meter_start", "meter_end"):
        h.left_out.append(phrase("loop.make_up_open", n=no))
        return None
    if r.pump is None or r.hose is None or r.make_up is None:
        h.left_out.append(phrase("loop.no_state", n=no))
        return None
    if "temperature" not in got:
        h.unwarm = True
        plastic = h.loop.plate.pipe == "plastic"
        h.left_out.append(phrase("loop.no_temp_plastic" if plastic else "loop.no_temp", n=no))
        return None
    return Stood(r.at, got["pressure"], got["temperature"])


def _make_up(h: Hold) -> None:
    if not h.t.has("meter_start", "meter_end"):
        return
    more = h.t.got["meter_end"] - h.t.got["meter_start"]
    if more < 0:
        h.t.refuse("meter_end", "The meter counts up: it reads less now than before.", "the later reading")
        return
    h.made_up = more


def _cushion(h: Hold, kpa: float) -> float | None:
    """Litres for a kPa at this pressure; None where the vessel holds no water."""
    loop = h.loop
    if loop.rigid:
        return rigid_l_per_kpa(
            loop.got["volume"], loop.plate.pipe or "steel", loop.got["bore"], loop.got["wall"]
        )
    gas = gas_l(kpa, loop.got["precharge"], loop.got["vessel"], loop.air)
    return compliance_l_per_kpa(gas, kpa, loop.air) if gas < loop.got["vessel"] else None


def grown(h: Hold, before: float, now: float) -> float | None:
    """By how many litres does the water grow from one temperature to another?"""
    a, b = h.loop.liquid(before), h.loop.liquid(now)
    return water_change_l(h.loop.got["volume"], a.rho, b.rho) if a is not None and b is not None else None


def tight(h: Hold, one: Stood, temp: float) -> float | None:
    """Which pressure would stand at this temperature if nothing were lost since `one`, kPa?"""
    change = grown(h, one.temp, temp)
    if change is None:
        return None
    loop = h.loop
    if loop.rigid:
        pipe = pipe_change_l(loop.got["volume"], loop.plate.pipe or "steel", temp - one.temp)
        give = _cushion(h, one.kpa)
        return one.kpa + (change - pipe) / give if give else None
    pre, vessel = loop.got["precharge"], loop.got["vessel"]
    gas = gas_l(one.kpa, pre, vessel, loop.air) - change
    if gas <= 0.02 * vessel:
        return None
    return (
        max(pressure_kpa(gas, pre, vessel, loop.air), pre)
        if gas >= vessel
        else pressure_kpa(gas, pre, vessel, loop.air)
    )


def _compare(h: Hold) -> None:
    """First against last: what should stand, what stands, the litres between."""
    one, two = h.used[0], h.used[-1]
    h.expected = tight(h, one, two.temp)
    change, give = grown(h, one.temp, two.temp), _cushion(h, two.kpa)
    if h.expected is None or change is None or give is None or _cushion(h, one.kpa) is None:
        h.expected = None
        return
    step = h.loop.got.get("gauge_step")
    h.step_l = give * step if step else None
    loop = h.loop
    if loop.rigid:
        pipe = pipe_change_l(loop.got["volume"], loop.plate.pipe or "steel", two.temp - one.temp)
        h.plain = (one.kpa - two.kpa) * give
        h.lost = h.plain + change - pipe
    else:
        pre, vessel = loop.got["precharge"], loop.got["vessel"]
        h.plain = gas_l(two.kpa, pre, vessel, loop.air) - gas_l(one.kpa, pre, vessel, loop.air)
        h.lost = h.plain + change
    h.u_lost = _error(h, one, two, give)
    h.u_expected = h.u_lost / give


def _error(h: Hold, one: Stood, two: Stood, give: float) -> float:
    """What the litres can be off by: a kelvin of the loop's mean temperature, two readings of the gauge,
    and a pipe that shrinks with its water.
    """
    warm = grown(h, two.temp, two.temp + h.limits.value("loop.u_temp"))
    if warm is None:
        warm = -(grown(h, two.temp, two.temp - h.limits.value("loop.u_temp")) or 0.0)
    gauge = give * h.loop.got.get("gauge_step", 0.0) / math.sqrt(2)
    pipe = pipe_change_l(h.loop.got["volume"], h.loop.plate.pipe or "steel", two.temp - one.temp)
    return math.hypot(warm, gauge, 0.0 if h.loop.rigid else pipe)


def at_last_temperature(h: Hold) -> list[tuple[float, float]]:
    """The readings (h since the first, kPa) as they would stand at the last one's temperature."""
    last = h.used[-1].temp
    out = []
    for r in h.used:
        p = tight(h, r, last)
        if p is not None and p > 0:
            out.append(((r.at - h.used[0].at).total_seconds() / 3600, p))
    return out


@dataclass(frozen=True, slots=True)
class Law:
    """One way for the pressure to go on: weep ln p, hole √p, drip p. hours: from the first reading until the
    least standing pressure; path: kPa by hour.
    """

    id: str
    hours: float | None
    path: list[tuple[float, float]]


_LAWS: dict[str, tuple[Callable[[float], float], Callable[[float], float]]] = {
    "drip": (lambda p: p, lambda y: y),
    "hole": (math.sqrt, lambda y: y * y),
    "weep": (math.log, math.exp),
}


def laws(points: Sequence[tuple[float, float]], floor: float) -> list[Law]:
    """When does it reach the floor, by three laws? Each by its least-squares slope, on from the last reading.
    Hours from the first point. Common practice, no source.

    >>> [(x.id, round(x.hours, 1)) for x in laws([(0, 152), (1/3, 143), (2/3, 136), (1, 129)], 80)]
    [('drip', 3.1), ('hole', 3.5), ('weep', 3.9)]
    """
    out = []
    for id, (up, down) in _LAWS.items():
        n = len(points)
        mt = sum(t for t, _ in points) / n
        my = sum(up(p) for _, p in points) / n
        den = sum((t - mt) ** 2 for t, _ in points)
        if den == 0 or floor <= 0:
            continue
        slope = sum((t - mt) * (up(p) - my) for t, p in points) / den
        last, now = points[-1]
        hours = last + (up(floor) - up(now)) / slope if slope < 0 else None
        end = hours if hours is not None and hours > last else last
        path = [
            (t, down(max(0.0 if id != "weep" else -50.0, up(now) + slope * (t - last))))
            for t in (last + (end - last) * i / 12 for i in range(13))
        ]
        out.append(Law(id, hours, path))
    return out


def figure_lost(h: Hold) -> Phrase:
    """What of the fall is cooling, and what is not."""
    assert h.lost is not None
    assert h.plain is not None
    return phrase("loop.apart", lost=amount(h.lost, "l", u=h.u_lost), plain=amount(h.plain, "l"))
