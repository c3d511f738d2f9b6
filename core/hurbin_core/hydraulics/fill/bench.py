"""Filling, purging and venting a loop: the steps, velocities and volumes they take, and the start gate."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

from ...base import (
    Bench,
    Evaluation,
    Finding,
    Limits,
    Missing,
    Model,
    Needs,
    Phrase,
    Quantity,
    SeriesPoint,
    Unknown,
    Verdict,
    amount,
    concluded,
    exceeds,
    phrase,
    read_fields,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...safety import guarded
from ..answering import answer, judged
from ..cushion import fills_l, water_change_l
from ..formulas import velocity
from ..friction import flow_for, litres_of, loss_m
from ..lasting import again
from ..loops import LOOP, Loop, least_standing, loop_of, of_register
from ..reading import Typed, typed_of
from ..vessel import precharged
from .entry import FillEntry, PurgeBranch
from .steps import FillStepView, ValveView, next_step, steps_told, valves_at


class PurgedView(Model):
    """One branch: what it holds, how fast it is purged, what it takes. fast: velocity over that wanted, 0
    to 1.
    """

    name: str
    litres: Quantity | None = None
    wanted: Quantity | None = None
    velocity: Quantity | None = None
    minutes: Quantity | None = None
    turns_in: Quantity | None = None
    loss: Quantity | None = None
    fast: float | None = None


class FillView(Model):
    """The whole. at: standing pressure, from nothing to the relief valve or twice the least, 0 to 1."""

    name: str = ""
    steps: list[FillStepView] = []
    valves: list[ValveView] = []
    branches: list[PurgedView] = []
    volume: Quantity | None = None
    least: Quantity | None = None
    fills_in: Quantity | None = None
    air: Quantity | None = None
    at: float | None = None
    least_at: float | None = None
    grows: Quantity | None = None
    takes: Quantity | None = None


@dataclass(slots=True)
class Fill:
    """A filling understood. volume: l, as summed, else of the register. purged: rows with their figures."""

    body: FillEntry
    t: Typed
    limits: Limits
    loop: Loop
    case: AnyCase
    volume: float | None = None
    summed: float = 0.0
    least: float | None = None
    purged: list[tuple[PurgeBranch, dict[str, float]]] = field(default_factory=list)


def replay(entries: Sequence[Entry[FillEntry]], case: AnyCase) -> Fill:
    """The newest word on this filling, read once."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else FillEntry()
    limits = Limits(case.context.overrides)
    f = Fill(body, typed_of(body, limits), limits, loop_of(case), case)
    for run in body.pipes:
        read, problems = read_fields(run)
        f.t.problems += problems
        if {"bore", "length"} <= read.keys():
            f.summed += litres_of(read["bore"].value, read["length"].value)
    f.summed += f.t.got.get("more", 0.0)
    f.volume = f.loop.got.get("volume") or (f.summed or None)
    for b in body.branches:
        read, problems = read_fields(b)
        f.t.problems += problems
        f.purged.append((b, {n: r.value for n, r in read.items()}))
    if "temperature" in f.t.got:
        f.least = least_standing(f.loop, f.t.got["temperature"], limits)
    return f


def judge(f: Fill, case: AnyCase) -> Evaluation[FillView]:
    """Was each branch purged fast and long enough, how much air is left, may a pump be started?

    kPa gauge, l, l/min, m/s. Steps are ticked by hand; none of them stands for a figure.
    """
    asked = (_volume(f), _precharge(f), _size(f), *_purge(f), _air(f), _gate(f))
    raw = [x for x in asked if x is not None]
    found, verdict, beside = concluded(raw, _lacking(f), f.t.problems)
    nxt = next_step(f.body.done)
    return Evaluation[FillView](
        bench="fill",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        values={"air": amount(air_l(f) or 0.0, "l")} if air_l(f) is not None else {},
        findings=found,
        cautions=[phrase("fill.caution")],
        waiting=[phrase("fill.next", title=nxt.title)] if nxt is not None and f.body.done else [],
        points=_points(f),
        due=again(case, "water.stands_short"),
        problems=f.t.problems,
        missing=[*of_register(f.loop), *_missing(f)],
        view=_drawn(f),
    )


def _volume(f: Fill) -> Finding | None:
    """The pipe as summed against the register: two figures of one loop."""
    told = f.loop.got.get("volume")
    if not told or not f.body.pipes or not f.summed:
        return None
    off = amount(100 * abs(f.summed / told - 1), "%")
    reason = phrase("fill.volume", summed=amount(f.summed, "l"), told=amount(told, "l"))
    return judged("loop_volume", off, f.limits, reason)


def _precharge(f: Fill) -> Finding | None:
    found = f.t.got.get("precharge_found")
    return None if found is None else precharged(f.loop, found, f.limits)


def grows_l(f: Fill) -> float | None:
    """By how much does the loop's water grow from its coldest to its hottest, l?"""
    got = f.loop.got
    if f.volume is None or not {"coldest", "hottest"} <= got.keys():
        return None
    cold, hot = f.loop.liquid(got["coldest"]), f.loop.liquid(got["hottest"])
    return water_change_l(f.volume, cold.rho, hot.rho) if cold is not None and hot is not None else None


def takes_l(f: Fill) -> float | None:
    """How much does the vessel take between standing and just under the relief valve, l?"""
    got = f.loop.got
    if f.least is None or f.loop.rigid is not False or not {"precharge", "relief"} <= got.keys():
        return None
    high = got["relief"] * (1 - f.limits.value("vessel.under_relief") / 100)
    if high <= f.least:
        return None
    return fills_l(got["precharge"], got["vessel"], max(f.least, got["precharge"]), high, f.loop.air)


def _size(f: Fill) -> Finding | None:
    grows, takes = grows_l(f), takes_l(f)
    if grows is None or takes is None or grows <= 0:
        return None
    pct = amount(100 * takes / grows, "%")
    reason = phrase("fill.size", takes=amount(takes, "l"), grows=amount(grows, "l"))
    return judged("vessel_size", pct, f.limits, reason)


def _purge(f: Fill) -> list[Finding]:
    out = []
    names: set[str] = set()
    for n, (b, got) in enumerate(f.purged, 1):
        name = b.name.strip() or f"branch {n}"
        if name in names:
            f.t.refuse("branches", f"Two branches are called {name}.", "a name each", "branch_twice")
            continue
        names.add(name)
        if not {"bore", "flow"} <= got.keys():
            continue
        fast = amount(velocity(got["flow"], got["bore"]), "m/s")
        reason = phrase("fill.purged", name=name, fast=fast, wanted=amount(_wanted(f, got["bore"]), "m3/h"))
        found = judged("purge", fast, f.limits, reason, subject=name)
        wants = _purge_lacks(f, b, got)
        if wants is not None and found.verdict is Verdict.GOOD:
            found = answer("purge", Verdict.UNKNOWN, wants, subject=name)
        out.append(found)
    return out


def _wanted(f: Fill, bore: float) -> float:
    return flow_for(f.limits.value("purge.fast"), bore)


def _purge_lacks(f: Fill, b: PurgeBranch, got: dict[str, float]) -> Phrase | None:
    """Fast is not enough: both ways, and three volumes."""
    if not b.both:
        return phrase("fill.both_ways")
    if "length" not in got or "minutes" not in got:
        return phrase("fill.how_long")
    wanted = f.limits.value("purge.volumes") * litres_of(got["bore"], got["length"])
    went = got["flow"] / 0.06 * got["minutes"] / 60
    if exceeds(wanted, went):
        return phrase("fill.too_little", went=amount(went, "l"), wanted=amount(wanted, "l"))
    return None


def air_l(f: Fill) -> float | None:
    """How much air is in it, l at the lower pressure: ΔV/(1 − p₁/p₂), absolute (Boyle; handbook)."""
    got = f.t.got
    if not f.t.has("drum", "drop", "air_low", "air_high"):
        return None
    one, two = got["air_low"] + f.loop.air, got["air_high"] + f.loop.air
    if two <= one or one <= 0:
        return None
    litres = math.pi * got["drum"] ** 2 / 4 * got["drop"]
    return litres / (1 - one / two)


def _air(f: Fill) -> Finding | None:
    if not f.t.has("drum", "drop", "air_low", "air_high"):
        return None
    air = air_l(f)
    if air is None:
        f.t.refuse(
            "air_high", "The air test raises pressure: the second one is the higher.", "above the first"
        )
        return None
    if f.volume is None:
        return answer("loop_air", Verdict.UNKNOWN, phrase("fill.no_volume", air=amount(air, "l")))
    pct = amount(100 * air / f.volume, "%")
    return judged("loop_air", pct, f.limits, phrase("fill.air", air=amount(air, "l"), pct=pct))


def _gate(f: Fill) -> Finding | None:
    """May a pump of this loop be started? Never good while one of the three is not on this sheet."""
    if "standing" not in f.t.got:
        return None
    now = f.t.got["standing"]
    if f.body.hose_on == "on":
        return answer("start_gate", Verdict.UNKNOWN, phrase("fill.hose_on"), unknown=Unknown.INCONCLUSIVE)
    if f.least is None:
        return answer("start_gate", Verdict.UNKNOWN, phrase("loop.no_least", now=amount(now, "kPa")))
    if exceeds(f.least, now):
        reason = phrase("loop.standing", now=amount(now, "kPa"), least=amount(f.least, "kPa"))
        return answer("start_gate", Verdict.STOP, phrase("fill.no_start", said=reason))
    if f.body.vented is False:
        return answer("start_gate", Verdict.STOP, phrase("fill.not_vented"))
    if f.body.turned is None:
        return answer("start_gate", Verdict.UNKNOWN, phrase("fill.turned"))
    idle = (f.case.context.as_of.date() - f.body.turned).days
    if idle < 0:
        f.t.refuse("turned", "The day it was turned is in the future.", "today or before")
        return answer("start_gate", Verdict.UNKNOWN, phrase("fill.turned"))
    most = f.limits.value("fill.idle")
    if exceeds(idle, most):
        return answer(
            "start_gate", Verdict.STOP, phrase("fill.idle", idle=amount(idle, "d"), most=amount(most, "d"))
        )
    reason = phrase("loop.standing", now=amount(now, "kPa"), least=amount(f.least, "kPa"))
    return answer("start_gate", Verdict.GOOD, phrase("fill.start", said=reason))


def _lacking(f: Fill) -> dict[str, Phrase | None]:
    wanting = {
        "fill.vented": not f.body.vented,
        "fill.hose": f.body.hose_on is None,
        "fill.drained": "precharge" not in f.body.done,
        "loop.altitude": not f.loop.air_known,
    }
    return {n: None for n, lacks in wanting.items() if lacks}


def _points(f: Fill) -> list[SeriesPoint]:
    """Final standing pressure and temperature: only with the hose off."""
    if f.body.hose_on != "off" or not f.t.has("standing", "temperature"):
        return []
    pairs = (
        ("loop_pressure", f.t.got["standing"], "kPa"),
        ("loop_temperature", f.t.got["temperature"], "degC"),
    )
    return [
        SeriesPoint(measurand=m, part="", conditions="pump=standing", value=v, unit=u) for m, v, u in pairs
    ]


def _missing(f: Fill) -> list[Missing]:
    out = []
    if f.loop.known is None:
        words = "This set is on no loop of the register. Add the loop there: volume, vessel, highest point."
        out.append(Missing(field="loop", message=words))
    if "temperature" not in f.t.got:
        out.append(Missing(field="temperature", message="Enter the temperature of the fill water."))
    return out


def _drawn(f: Fill) -> FillView:
    grows, takes, air = grows_l(f), takes_l(f), air_l(f)
    view = FillView(
        name=f.loop.known.name if f.loop.known else "",
        steps=steps_told(f.body.done),
        valves=valves_at(f.body.done),
        branches=[_branch(f, n, b, got) for n, (b, got) in enumerate(f.purged, 1)],
        volume=amount(f.volume, "l") if f.volume else None,
        least=amount(f.least, "kPa") if f.least is not None else None,
        air=amount(air, "l") if air is not None else None,
        grows=amount(grows, "l") if grows is not None else None,
        takes=amount(takes, "l") if takes is not None else None,
    )
    hose = f.t.got.get("hose")
    if hose and f.volume:
        view.fills_in = amount(f.volume / (hose / 0.06), "min")
    top = f.loop.got.get("relief") or (2 * f.least if f.least else None)
    if top and f.least is not None:
        view.least_at = min(1.0, max(0.0, f.least / top))
        now = f.t.got.get("standing")
        view.at = min(1.0, max(0.0, now / top)) if now is not None else None
    return view


def _branch(f: Fill, n: int, b: PurgeBranch, got: dict[str, float]) -> PurgedView:
    out = PurgedView(name=b.name.strip() or f"branch {n}")
    bore, length, flow = got.get("bore"), got.get("length"), got.get("flow")
    if bore is None:
        return out
    out.wanted = amount(_wanted(f, bore), "m3/h")
    litres = litres_of(bore, length) if length else None
    if litres is not None:
        out.litres = amount(litres, "l")
    if not flow:
        return out
    v = velocity(flow, bore)
    out.velocity, out.fast = amount(v, "m/s"), min(1.0, v / f.limits.value("purge.fast"))
    if litres is None or length is None:
        return out
    out.turns_in = amount(litres / (flow / 3.6), "s")
    out.minutes = amount(f.limits.value("purge.volumes") * litres / (flow / 0.06), "min")
    liquid = f.loop.liquid(f.t.got["temperature"]) if "temperature" in f.t.got else None
    if liquid is not None and liquid.nu is not None:
        rough = f.limits.value("pipe.rough_plastic" if f.loop.plate.pipe == "plastic" else "pipe.rough")
        out.loss = amount(loss_m(flow, bore, length, liquid.nu, rough), "m_head")
    return out


FILL = Bench(
    name="fill",
    title="Fill and purge",
    records="Fillings",
    one="a filling",
    offer="Fill, purge and vent",
    key="0",
    does="fill, purge and vent the loop",
    place=35,
    part="pump",
    slot="pump",
    entry=FillEntry,
    view=FillView,
    needs=Needs(extras=(LOOP,)),
    replay=replay,
    judge=guarded(judge),
    facts=newest_body,
    routine=False,
)
