"""The bench for where a pump runs: two gauges, flow, power; and what a valve, a speed or a trim would do."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ...base import (
    Bench,
    Evaluation,
    Missing,
    Needs,
    Phrase,
    Quantity,
    SeriesPoint,
    amount,
    concluded,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...safety import guarded
from ..formulas import water_kw
from ..lasting import again
from ..pump import of_plate
from ..reading import fluid_lacks, heights_known, with_error
from .drawn import drawn
from .entry import DutyEntry
from .judging import findings, lost_here, told
from .sheet import understand
from .state import Duty
from .survey import survey_finding, survey_of, survey_points
from .view import DutyView


def replay(entries: Sequence[Entry[DutyEntry]], case: AnyCase) -> Duty:
    """The newest word on this pump's duty, read once; no-load current from its survey where none is typed."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else DutyEntry()
    return understand(body, case.context)


def judge(d: Duty, case: AnyCase) -> Evaluation[DutyView]:
    """Where on its curve does it run, is that enough, do the ways to know it agree, is head lost?

    kPa gauge, m of the pumped liquid, m³/h, kW, A. Every field may be missing: what hangs on it is unknown.
    """
    survey = survey_of(d)
    surveyed = survey_finding(d, survey)
    raw = [*findings(d), *([surveyed] if surveyed is not None else [])]
    found, verdict, beside = concluded(raw, _lacking(d, case), d.t.problems)
    return Evaluation[DutyView](
        bench="duty",
        rules_version=rules_version(),
        conditions=d.key,
        verdict=verdict,
        beside=beside,
        values=_values(d),
        findings=found,
        waiting=[*d.pump.notes, *told(d)],
        cautions=[] if raw else [phrase("duty.caution")],
        points=[*_points(d), *survey_points(d, survey, surveyed)],
        due=again(case),
        problems=d.t.problems,
        missing=[*of_plate(d.pump), *_missing(d)],
        view=drawn(d, survey),
    )


def _lacking(d: Duty, case: AnyCase) -> dict[str, Phrase | None]:
    b = d.body
    on_drive = d.pump.curve is not None and d.speed is None
    wanting = {
        "water.settled": not b.settled,
        "water.state": b.state is None,
        "water.valve": b.valve is None,
        "water.valve_differs": b.valve == "open" and bool(_CLOSED & {*case.state.change_kinds}),
        "water.heights": not heights_known(d.t, b),
        "water.gauge_error": d.u_head is None and d.head is not None,
        "water.bores": not d.t.has("suction_bore", "discharge_bore"),
        "water.header": b.others != "alone",
        "water.speed": on_drive,
        "water.curve": d.pump.indicative,
        "water.off_curve": any(r.template == "duty.off_curve" for r in d.refused),
    }
    return {n: None for n, lacks in wanting.items() if lacks}


# What stands on a set whose valve is not open.
_CLOSED = {"valve_throttled", "valve_shut"}


def _values(d: Duty) -> dict[str, Quantity]:
    out: dict[str, Quantity] = {}
    if d.head is not None:
        out["head"] = with_error(d.head, "m_head", d.u_head or 0.0)
    flow = d.flow if d.apart is None else None
    if flow is not None:
        out["flow"] = with_error(flow.q, "m3/h", flow.u)
    if d.legs.shaft is not None:
        out["shaft"] = with_error(d.legs.shaft, "kW", d.legs.u)
    if d.legs.kw_in is not None:
        out["input"] = amount(d.legs.kw_in, "kW")
    if flow is None or d.head is None or d.fluid is None:
        return out
    water = water_kw(d.fluid.rho, flow.q, d.head)
    u = (
        water * ((flow.u / flow.q) ** 2 + ((d.u_head or 0.0) / d.head) ** 2) ** 0.5
        if d.head and flow.q
        else 0.0
    )
    out["water"] = with_error(water, "kW", u)
    if d.legs.shaft:
        share = water / d.legs.shaft
        out["efficiency"] = with_error(100 * share, "%", 100 * share * (u / water if water else 0.0))
    if d.legs.kw_in:
        out["wire_to_water"] = amount(100 * water / d.legs.kw_in, "%")
        out["specific_energy"] = amount(1000 * d.legs.kw_in / flow.q, "Wh/m3")
    return out


def _points(d: Duty) -> list[SeriesPoint]:
    """Figures with their state. Only a settled reading whose state is whole is kept as a point."""
    b = d.body
    if b.state is None or b.valve is None or d.gauges.both is False:
        return []
    key = d.key
    out = []
    for name, value in (("suction_pressure", d.gauges.suction), ("discharge_pressure", d.gauges.discharge)):
        if value is not None:
            out.append(SeriesPoint(measurand=name, part="pump", conditions=key, value=value, unit="kPa"))
    if not d.running or not b.settled:
        return out
    got = _values(d)
    units = {"head": "m_head", "flow": "m3/h", "wire_to_water": "%", "specific_energy": "Wh/m3"}
    for name, unit in units.items():
        if name in got:
            measurand = f"pump_{name}"
            out.append(
                SeriesPoint(
                    measurand=measurand, part="pump", conditions=key, value=got[name].value, unit=unit
                )
            )
    lost = lost_here(d)
    if lost is not None:
        ratio = 100 * lost[1].ratio
        out.append(SeriesPoint(measurand="head_at_flow", part="pump", conditions="", value=ratio, unit="%"))
    for n in (1, 2, 3):
        amps = d.t.got.get(f"amps_{n}")
        if amps is not None:
            out.append(
                SeriesPoint(
                    measurand="current",
                    part="motor",
                    leg=f"L{n}",
                    conditions=f"with=duty;{key}",
                    value=amps,
                    unit="A",
                )
            )
    return out


def _missing(d: Duty) -> list[Missing]:
    if not any(n in d.t.got for n in ("suction", "discharge", *(f"amps_{n}" for n in (1, 2, 3)))):
        return []
    out = []
    if not d.gauges.both:
        name = "discharge" if d.gauges.discharge is None else "suction"
        out.append(Missing(field=name, message="Enter both pressures: head is the difference."))
    lacks = fluid_lacks(d.body, d.t)
    if lacks:
        out.append(Missing(field=lacks, message=LIQUID[lacks]))
    if d.pump.curve is None and not d.pump.problems:
        words = (
            "Enter the pump's curve on the nameplate of its wet end: without it flow cannot be read off head."
        )
        out.append(Missing(field="curve", message=words))
    return out


LIQUID = {
    "fluid": "Choose the liquid: its density turns pressure into head.",
    "temperature": "Enter the liquid's temperature: density and vapour pressure follow from it.",
    "glycol": "Enter how much glycol it holds.",
    "glycol_by": "Choose whether the percentage is by mass or by volume: it differs by one to two points.",
    "density": "Enter the density, measured: no fit here holds for this liquid.",
}


def facts(entries: Sequence[Any]) -> dict[str, Any]:
    """What a record keeps: everything but the what-if."""
    return {k: v for k, v in newest_body(entries).items() if k != "try_at"}


DUTY = Bench(
    name="duty",
    title="Duty",
    records="Duty checks",
    one="a duty check",
    offer="Check where it runs",
    key="5",
    does="check where on its curve it runs",
    place=30,
    part="pump",
    slot="pump",
    entry=DutyEntry,
    view=DutyView,
    needs=Needs(plates=("motor", "control", "pump")),
    replay=replay,
    judge=guarded(judge),
    facts=facts,
    routine=False,
)
