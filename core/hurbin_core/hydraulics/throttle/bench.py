"""The throttle adviser: over nameplate current on three legs alike; what a valve would do, and what it
costs.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ...base import (
    Bench,
    Effect,
    Evaluation,
    Ghost,
    Missing,
    Model,
    Needs,
    Phrase,
    Quantity,
    Series,
    SeriesPoint,
    TemporaryChange,
    amount,
    concluded,
    exceeds,
    phrase,
    read_fields,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...safety import guarded
from ..curve import System
from ..lasting import again
from ..paper import PumpPaper, paper, spot, traced
from ..pump import of_plate
from ..reading import fluid_lacks
from ..whatif import RunOption, as_it_runs, slowed, throttled, wasted_kw
from .entry import ThrottleEntry
from .judging import advice, as_left, left_of
from .sheet import Throttle, understand
from .year import YearView, year

CHANGE = "valve_throttled"


class ValveStepView(Model):
    """The valve at one place. share: how far open, 0 to 1; over: the worst leg is above nameplate."""

    turns: Quantity
    share: float | None = None
    amps: list[Quantity] = []
    over: bool = False


class ThrottleView(Model):
    """The curve, the three ways beside each other, what the valve eats, the valve by its turns."""

    curve: PumpPaper | None = None
    options: list[RunOption] = []
    says: list[Phrase] = []
    refused: list[Phrase] = []
    steps: list[ValveStepView] = []
    year: YearView | None = None
    plate: Quantity | None = None


def replay(entries: Sequence[Entry[ThrottleEntry]], case: AnyCase) -> Throttle:
    """The newest word on it, read once."""
    entry = newest(list(entries))
    return understand(entry.body if entry is not None else ThrottleEntry(), case.context)


def judge(s: Throttle, case: AnyCase) -> Evaluation[ThrottleView]:
    """What brings the worst leg to nameplate current, what is lost by it, and was it left so?

    A, V, kW, m³/h, m. A refusal is an answer; a sum alone is never endorsed.
    """
    left = left_of(s)
    asked = (advice(s), as_left(s, left, case.context.as_of.date()))
    raw = [f for f in asked if f is not None]
    found, verdict, beside = concluded(raw, _lacking(s), s.t.problems)
    return Evaluation[ThrottleView](
        bench="throttle",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        values={"over": amount(s.over, "%")} if s.over is not None else {},
        findings=found,
        waiting=s.pump.notes,
        cautions=[phrase("throttle.caution")],
        points=_points(s),
        ghosts=_ghosts(case),
        due=again(case, "water.stands_short"),
        problems=s.t.problems,
        missing=[*of_plate(s.pump), *_missing(s)],
        view=_drawn(s),
    )


def _lacking(s: Throttle) -> dict[str, Phrase | None]:
    b = s.body
    wanting = {
        "throttle.where": b.where is None,
        "throttle.type": not s.pump.type,
        "throttle.volts": "volts" not in s.t.got or s.motor.volts_v is None,
        "throttle.need": "need" not in s.t.got,
        "throttle.floor": s.floor is None and b.floor_of != "none",
        "throttle.bep": s.now is not None and s.now.curve.bep is None,
        "water.liquid": s.fluid is None,
    }
    return {n: None for n, lacks in wanting.items() if lacks}


def _points(s: Throttle) -> list[SeriesPoint]:
    """The currents that were read on it: what a set recorded as isolated is held against."""
    got = ((n, s.t.got.get(f"amps_{n}")) for n in (1, 2, 3))
    return [
        SeriesPoint(
            measurand="current", part="motor", leg=f"L{n}", conditions="with=throttle", value=a, unit="A"
        )
        for n, a in got
        if a is not None
    ]


def _ghosts(case: AnyCase) -> list[Ghost]:
    """The legs of the last running check behind the fields."""
    rows = [p for p in case.context.history if p.measurand == "current" and p.conditions.startswith("at=")]
    out = []
    for n in (1, 2, 3):
        mine = [p for p in rows if p.leg == f"L{n}"]
        if mine:
            last = max(mine, key=lambda p: p.taken_at)
            at = last.taken_at.isoformat()
            out.append(Ghost(field=f"amps_{n}", whose="last", text=f"{last.value:g}", unit="A", taken_at=at))
    return out


def _missing(s: Throttle) -> list[Missing]:
    if s.legs.worst is None:
        return [Missing(field="amps_1", message="Enter the current of three legs, valve as it is.")]
    out = []
    if "idle_amps" not in s.t.got:
        words = "Enter the no-load current, read uncoupled: without it current says nothing of shaft power."
        out.append(Missing(field="idle_amps", message=words))
    if fluid_lacks(s.body, s.t):
        out.append(Missing(field=fluid_lacks(s.body, s.t), message="Enter liquid and temperature."))
    if not s.body.closed and "static" not in s.t.got:
        words = "Enter the static head, or that it is a closed loop: it decides what speed or trim leaves."
        out.append(Missing(field="static", message=words))
    return out


def _drawn(s: Throttle) -> ThrottleView:
    view = ThrottleView(refused=s.refused, plate=amount(s.motor.amps_a, "A") if s.motor.amps_a else None)
    curve = s.now.curve if s.now is not None else s.pump.curve
    if curve is not None:
        system = s.now.system if s.now is not None else None
        least, most = s.limits.value("duty.least"), s.limits.value("duty.most")
        view.curve = paper(curve, system, least, most, s.motor.power_kw)
        _marks(s, view.curve)
    view.steps, view.year = _steps(s), year(s)
    if s.now is None or view.curve is None:
        return view
    now = s.now
    view.curve.point = spot(view.curve, now.q, now.system.head(now.q), 0.0, now.kw)
    tried, slow = s.left, s.instead
    if s.body.try_at is not None:
        q = s.body.try_at * view.curve.flow.end
        tried = throttled(now, q)
        slow = slowed(now, q) if tried is not None else None
        if tried is None:
            view.says.append(phrase("duty.try_outside"))
    view.options = [o for o in (as_it_runs(now), tried, slow) if o is not None]
    if tried is not None:
        _draw_tried(s, view, tried, slow)
    return view


def _draw_tried(s: Throttle, view: ThrottleView, tried: RunOption, slow: RunOption | None) -> None:
    assert s.now is not None
    assert view.curve is not None
    now, q, h = s.now, tried.flow.value, tried.head.value
    view.curve.tried = spot(view.curve, q, h, tried.flow.u, tried.power.value if tried.power else None)
    closed = System.through(q, h, now.system.static)
    if closed is not None:
        end = view.curve.flow.end
        view.curve.closed_in = traced(closed.head, 0.0, end, end, view.curve.head.end)
    loss = tried.loss or amount(0.0, "m_head")
    view.says.append(phrase("duty.eats", loss=loss, power=amount(wasted_kw(tried, now.curve.rho), "kW")))
    same = s.body.try_at is not None
    if same and slow is not None and slow.energy is not None and tried.energy is not None:
        more = amount(tried.energy.value - slow.energy.value, "kWh")
        view.says.append(phrase("duty.costs_more", more=more))


def _marks(s: Throttle, view: PumpPaper) -> None:
    need, floor = s.t.got.get("need"), s.floor
    if need and need <= view.flow.end:
        view.need = need / view.flow.end
    if floor is not None and floor[0] <= view.flow.end:
        view.floor = floor[0] / view.flow.end


def _steps(s: Throttle) -> list[ValveStepView]:
    out = []
    full, plate = s.t.got.get("turns_full"), s.motor.amps_a
    for row in s.body.steps:
        got = {n: r.value for n, r in read_fields(row)[0].items()}
        if "turns" not in got:
            continue
        amps = [got[n] for n in ("amps_1", "amps_2", "amps_3") if n in got]
        over = bool(plate and amps and exceeds(max(amps), plate))
        share = min(1.0, got["turns"] / full) if full else None
        shown = [amount(a, "A") for a in amps]
        out.append(ValveStepView(turns=amount(got["turns"], "turns"), share=share, amps=shown, over=over))
    return out


def effects(s: Throttle, case: AnyCase, recorded: bool) -> list[Effect]:
    """A valve left closed in is a temporary change; opened fully again it is over."""
    left = left_of(s)
    full = s.t.got.get("turns_full")
    if not recorded or left is None or left.turns is None or full is None:
        return []
    until = f", until {s.body.until.isoformat()}" if s.body.until is not None else ""
    cure = f"; then {CURES[s.body.cure]}" if s.body.cure else ""
    return [
        TemporaryChange(
            key=CHANGE,
            change=CHANGE,
            place="discharge valve",
            note=f"{left.turns:g} of {full:g} turns open{until}{cure}",
            on=left.turns < full,
            at=case.context.as_of,
            of="set",
        )
    ]


CURES = {
    "balance": "balance the branches",
    "trim": "trim the impeller",
    "speed": "lower the speed",
    "motor": "fit the right motor",
}


def facts(entries: Sequence[Any]) -> dict[str, Any]:
    """What a record keeps: everything but the what-if."""
    return {k: v for k, v in newest_body(entries).items() if k != "try_at"}


THROTTLE = Bench(
    name="throttle",
    title="Throttling",
    records="Throttlings",
    one="a throttling",
    offer="Bring the current down by the valve",
    key="7",
    does="see what closing the valve would do",
    place=32,
    part="pump",
    slot="pump",
    entry=ThrottleEntry,
    view=ThrottleView,
    needs=Needs(plates=("motor", "control", "pump"), series=(Series("current", 6),)),
    replay=replay,
    judge=guarded(judge),
    effects=effects,
    facts=facts,
    routine=False,
)
