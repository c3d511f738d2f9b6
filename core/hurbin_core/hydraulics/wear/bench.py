"""The bench for wear: what a pump has lost, what it costs, how long until its limit."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime

from ...base import (
    RULES,
    Bench,
    Evaluation,
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
from ...logbook import AnyCase, Entry, forecast, newest, newest_body, since_cut
from ...logbook.trend import Datum
from ...safety import guarded
from ..lasting import again
from ..paper import Places, PumpPaper, paper, spot
from ..pump import of_plate
from ..reading import fluid_lacks, heights_known
from .entry import WearEntry
from .judging import extra_cost, findings
from .sheet import Wear, efficiency, understand


class RingView(Model):
    """The ring drawn: its clearance new, pointed at and found, each of the largest; 0 to 1."""

    new: float | None = None
    points_at: float | None = None
    found: float | None = None
    said: Quantity | None = None


class WearView(Model):
    """The curve with the reading beside it, the past of it as a strip, the ring. offered: may a shut-off test
    be run here; refused: why not.
    """

    curve: PumpPaper | None = None
    expected: tuple[float, float] | None = None
    past: Places = []
    path: Places = []
    limits: list[float] = []
    ring: RingView | None = None
    offered: bool = True
    refused: list[Phrase] = []


def replay(entries: Sequence[Entry[WearEntry]], case: AnyCase) -> Wear:
    """The newest word on this pump's wear, read once."""
    entry = newest(list(entries))
    return understand(entry.body if entry is not None else WearEntry(), case.context)


def judge(w: Wear, case: AnyCase) -> Evaluation[WearView]:
    """How much head is lost at a known flow and at shut-off, what does it cost, when does it reach its limit?

    m, m³/h, kW, mm; head and flow brought to the curve's speed and density. Without a known flow or a curve
    of the manufacturer's points: unknown.
    """
    raw = findings(w)
    found, verdict, beside = concluded(raw, _lacking(w), w.t.problems)
    words, strip = _past(w, case)
    return Evaluation[WearView](
        bench="wear",
        rules_version=rules_version(),
        conditions=w.key,
        verdict=verdict,
        beside=beside,
        values=_values(w),
        findings=found,
        waiting=[*w.pump.notes, *words],
        cautions=[phrase("wear.caution")],
        points=_points(w),
        due=again(case),
        problems=w.t.problems,
        missing=[*of_plate(w.pump), *_missing(w)],
        view=_drawn(w, strip),
    )


def _lacking(w: Wear) -> dict[str, Phrase | None]:
    b = w.body
    wanting = {
        "water.settled": not b.settled,
        "water.heights": not heights_known(w.t, b),
        "water.gauge_error": w.gauges.u_kpa is None,
        "water.bores": not w.t.has("suction_bore", "discharge_bore"),
        "water.header": b.others != "alone",
        "water.speed": w.pump.curve is not None and w.speed is None,
        "water.curve": w.pump.indicative,
        "wear.flow_by": b.flow_by is None,
        "wear.vented": not b.vented,
        "wear.rated": not b.rated,
        "wear.type": not w.pump.type,
        "wear.impeller": b.impeller is None,
        "wear.volatile": b.volatile is None,
        "wear.seconds": "shut_seconds" not in w.t.got,
        "wear.shut_rpm": not ({"shut_rpm", "rpm"} & w.t.got.keys()),
        "wear.legs": w.legs.shaft is not None and not w.legs.whole,
    }
    return {n: None for n, lacks in wanting.items() if lacks}


def _values(w: Wear) -> dict[str, Quantity]:
    out: dict[str, Quantity] = {}
    if w.head is not None:
        out["head"] = amount(w.head, "m_head", u=w.u_head or 0.0)
    if w.at is not None:
        out["flow_at_speed"], out["head_at_speed"] = amount(w.at[0], "m3/h"), amount(w.at[1], "m_head")
    if w.lost is not None:
        out["ratio"] = amount(100 * w.lost.ratio, "%", u=100 * w.lost.u)
    got = efficiency(w)
    if got is not None:
        out["efficiency"] = amount(got[0], "%")
    cost = extra_cost(w)
    if cost is not None:
        out["extra_energy"], out["extra_cost"] = amount(cost[0], "kWh"), amount(cost[1], "1")
    return out


def _points(w: Wear) -> list[SeriesPoint]:
    out = []
    if w.lost is not None and w.body.settled and heights_known(w.t, w.body):
        out.append(("head_at_flow", 100 * w.lost.ratio, "%"))
    got = efficiency(w)
    if got is not None and w.body.settled:
        out.append(("pump_efficiency", got[0], "%"))
    if w.shut is not None and w.body.vented:
        out.append(("shut_off_ratio", 100 * w.shut[0], "%"))
    if w.t.got.get("ring_found"):
        out.append(("ring_clearance", w.t.got["ring_found"], "mm"))
    return [SeriesPoint(measurand=m, part="pump", conditions="", value=v, unit=u) for m, v, u in out]


def _past(w: Wear, case: AnyCase) -> tuple[list[Phrase], tuple[Places, Places]]:
    """The head at flow over its records since the last overhaul, this one included, and where it is
    heading.
    """
    context = case.context
    rows = [p for p in context.history if p.measurand == "head_at_flow" and p.taken_at < context.as_of]
    rows = since_cut(rows, context.cuts, RULES["head_at_flow"].concerns)
    points = [(_days(p.taken_at), p.value) for p in sorted(rows, key=lambda p: p.taken_at)]
    if w.lost is not None:
        points.append((_days(context.as_of), 100 * w.lost.ratio))
    if len(points) < 2:
        return [], ([], [])
    first, already = points[0][0], points[-1][1] <= w.limits.value("worn.act")
    told = forecast([Datum(t=t, value=v) for t, v in points], w.limits.value("worn.act"))
    path = [] if already else told.path
    words = []
    if not already and told.crossing.likely is not None:
        early = told.crossing.earliest if told.crossing.earliest is not None else told.crossing.likely
        words.append(
            phrase("wear.forecast", likely=amount(told.crossing.likely, "d"), earliest=amount(early, "d"))
        )
    elif already:
        words.append(phrase("wear.already"))
    elif len(points) >= w.limits.count("trend.few"):
        words.append(phrase("wear.no_forecast", n=str(len(points))))
    last = max([points[-1][0], *(p.t for p in path)])
    span = max(last - first, 1.0)
    strip = [_on_strip((t - first) / span, v) for t, v in points]
    return words, (strip, [_on_strip((p.t - first) / span, p.likely) for p in path])


def _on_strip(x: float, value: float) -> tuple[float, float]:
    return round(x, 4), round((value - _LOW) / (_TOP - _LOW), 4)


# The strip's floor and top, percent of the curve's head.
_LOW, _TOP = 80.0, 110.0


def _days(at: datetime) -> float:
    return at.astimezone(UTC).timestamp() / 86400


def _missing(w: Wear) -> list[Missing]:
    if not w.t.has("suction") and not w.t.has("discharge"):
        return []
    out = []
    if not w.gauges.both:
        name = "discharge" if w.gauges.discharge is None else "suction"
        out.append(Missing(field=name, message="Enter both pressures: head is the difference."))
    if "flow" not in w.t.got:
        words = "Enter a flow that is known without the curve: by meter, exchanger, heat, valve or drawdown."
        out.append(Missing(field="flow", message=words))
    if fluid_lacks(w.body, w.t):
        out.append(Missing(field=fluid_lacks(w.body, w.t), message="Enter liquid and temperature."))
    if w.pump.curve is None or w.pump.indicative:
        words = "Enter the manufacturer's points on the nameplate of the wet end: nothing to hold it against."
        out.append(Missing(field="curve", message=words))
    return out


def _drawn(w: Wear, strip: tuple[Places, Places]) -> WearView:
    view = WearView(offered=not w.refused, refused=w.refused, past=strip[0], path=strip[1])
    view.limits = [(w.limits.value(n) - _LOW) / (_TOP - _LOW) for n in ("worn.watch", "worn.act")]
    curve = w.curve or w.pump.curve
    if curve is not None:
        view.curve = paper(curve, None, w.limits.value("duty.least"), w.limits.value("duty.most"))
        q = w.t.got.get("flow")
        if w.head is not None and q is not None and q <= view.curve.flow.end:
            view.curve.point = spot(view.curve, q, min(w.head, view.curve.head.end), w.u_q)
            if w.lost is not None:
                here = spot(view.curve, q, w.lost.expected)
                view.expected = (here.x, here.y)
    view.ring = _ring(w)
    return view


def _ring(w: Wear) -> RingView | None:
    new, found = w.pump.got.get("ring_new"), w.t.got.get("ring_found")
    if not new:
        return None
    most = max(v for v in (new, w.clearance, found) if v) * 1.15
    return RingView(
        new=new / most,
        points_at=w.clearance / most if w.clearance else None,
        found=found / most if found else None,
        said=amount(w.clearance, "mm") if w.clearance else None,
    )


WEAR = Bench(
    name="wear",
    title="Wear",
    records="Wear checks",
    one="a wear check",
    offer="See how worn it is",
    key="8",
    does="see how worn the pump is",
    place=33,
    part="pump",
    slot="pump",
    entry=WearEntry,
    view=WearView,
    needs=Needs(plates=("motor", "control", "pump"), series=(Series("head_at_flow", 24, "pump"),)),
    replay=replay,
    judge=guarded(judge),
    facts=newest_body,
    routine=False,
)
