"""The lift station bench: flow by drawdown, ragging, the pair, starts against the well."""

from __future__ import annotations

from collections.abc import Sequence

from ...base import (
    Bench,
    Evaluation,
    Ghost,
    Missing,
    Model,
    Needs,
    Phrase,
    Quantity,
    Series,
    SeriesPoint,
    amount,
    concluded,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...safety import guarded
from ..lasting import again
from ..paper import Places
from .entry import DrawdownEntry
from .judging import findings
from .sheet import Draw, band_for, understand


class RunView(Model):
    """One run drawn as a level over time: places 0 to 1; what came in, what left, what the pump moved."""

    level: Places = []
    inflow: Quantity | None = None
    draw: Quantity | None = None
    pump: Quantity | None = None


class DrawdownView(Model):
    """The well and its runs. band: the volume between start and stop over that needed, 0 to 2."""

    area: Quantity | None = None
    runs: list[RunView] = []
    flow: Quantity | None = None
    best: Quantity | None = None
    share: float | None = None
    band: float | None = None
    needed: Quantity | None = None


def replay(entries: Sequence[Entry[DrawdownEntry]], case: AnyCase) -> Draw:
    """The newest word on this well, read once."""
    entry = newest(list(entries))
    return understand(entry.body if entry is not None else DrawdownEntry(), case)


def judge(d: Draw, case: AnyCase) -> Evaluation[DrawdownView]:
    """What does the pump move, is it ragging, does the pair share, do the starts fit the well?

    m, s, l/s inside; m³/h and l out. A first run has nothing to stand against: unknown, and the mark for
    later.
    """
    raw = findings(d)
    found, verdict, beside = concluded(raw, _lacking(d), d.t.problems)
    values = {"flow": amount(d.flow * 3.6, "m3/h")} if d.flow is not None else {}
    if d.runs:
        values["inflow"] = amount(d.runs[0].inflow * 3.6, "m3/h")
    return Evaluation[DrawdownView](
        bench="drawdown",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        values=values,
        findings=found,
        cautions=[phrase("drawdown.caution")],
        points=_points(d),
        ghosts=_ghosts(d, case),
        due=again(case, "water.stands_short"),
        problems=d.t.problems,
        missing=_missing(d),
        view=_drawn(d),
    )


def _lacking(d: Draw) -> dict[str, Phrase | None]:
    wanting = d.wanting | {"drawdown.alternates": d.body.alternates is None}
    return {n: None for n, lacks in wanting.items() if lacks}


def _points(d: Draw) -> list[SeriesPoint]:
    """Flow only of runs that count: no sister, no rain, one start level, within their spread."""
    off = d.spread is None or d.spread > d.limits.value("drawdown.spread")
    if d.flow is None or d.body.sister != "off" or d.body.rain != "no" or off or not d.one_start:
        return []
    out = [("drawdown_flow", d.flow * 3.6, "m3/h")]
    if d.amps is not None and d.body.amps_mean:
        out.append(("drawdown_amps", d.amps, "A"))
    return [SeriesPoint(measurand=m, part="pump", conditions="", value=v, unit=u) for m, v, u in out]


def _ghosts(d: Draw, case: AnyCase) -> list[Ghost]:
    rows = [p for p in case.context.history if p.measurand == "drawdown_amps"]
    if not rows:
        return []
    last = max(rows, key=lambda p: p.taken_at)
    return [
        Ghost(
            field="amps_1", whose="last", text=f"{last.value:g}", unit="A", taken_at=last.taken_at.isoformat()
        )
    ]


def _missing(d: Draw) -> list[Missing]:
    if not d.body.runs:
        return []
    out = []
    if d.area is None and d.table is None:
        words = "Enter the well's diameter, or its level table: without it a level is no volume."
        out.append(Missing(field="diameter", message=words))
    if not d.runs:
        words = "Enter rise and fall, each with its time; with a level table also the start level."
        out.append(Missing(field="runs", message=words))
    return out


def _drawn(d: Draw) -> DrawdownView:
    view = DrawdownView(
        area=amount(d.area, "1") if d.area is not None else None,
        runs=[_traced(d, n) for n in range(len(d.runs))],
        flow=amount(d.flow * 3.6, "m3/h") if d.flow is not None else None,
        best=amount(d.best * 3.6, "m3/h") if d.best is not None else None,
        share=min(1.5, d.flow / d.best) if d.flow is not None and d.best else None,
    )
    got = d.t.got
    pump = d.flow or (got["station"] / 3.6 if "station" in got else None)
    if got.get("band") and got.get("allowed") and pump:
        share = 2.0 if d.body.alternates == "yes" else 1.0
        need = band_for(got["allowed"] * share, pump)
        view.needed, view.band = amount(need, "l"), min(2.0, got["band"] / need)
    return view


def _traced(d: Draw, n: int) -> RunView:
    """Rise, fall and rise again on one time axis, by litres a second."""
    run = d.runs[n]
    spans = [("in", 1.0), ("out", 1.0), ("in", 1.0)]
    level, at, out = 0.0, 0.0, [(0.0, 0.5)]
    scale = max(run.draw, run.before, 1e-9)
    for way, span in spans:
        step = run.before if way == "in" else -run.draw
        level, at = level + 0.45 * step / scale, at + span / 3
        out.append((round(at, 4), round(0.5 + level / 2, 4)))
    return RunView(
        level=out,
        inflow=amount(run.inflow * 3.6, "m3/h"),
        draw=amount(run.draw * 3.6, "m3/h"),
        pump=amount(run.pump * 3.6, "m3/h"),
    )


DRAWDOWN = Bench(
    name="drawdown",
    title="Lift station",
    records="Lift station checks",
    one="a lift station check",
    offer="Measure flow by drawdown",
    key=",",
    does="measure flow by drawdown",
    place=36,
    part="pump",
    slot="pump",
    sets=("submersible",),
    entry=DrawdownEntry,
    view=DrawdownView,
    needs=Needs(
        plates=("motor", "pump"),
        series=(Series("drawdown_flow", 24, "pump"), Series("drawdown_amps", 24, "pump")),
    ),
    replay=replay,
    judge=guarded(judge),
    facts=newest_body,
    routine=False,
)
