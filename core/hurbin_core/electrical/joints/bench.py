"""The bench for hot joints: a scan and millivolts under load, on the ladder of the set's own circuit."""

from __future__ import annotations

from collections.abc import Sequence

from ...base import (
    Bench,
    Evaluation,
    Finding,
    Limits,
    Missing,
    Needs,
    Phrase,
    SeriesPoint,
    Verdict,
    amount,
    concluded,
    exceeds,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...plant import motor_facts
from ...safety import guarded, live_evidence
from ..circuit import CIRCUIT, CIRCUIT_KINDS
from ..circuit.bench import kept_circuit
from ..circuit.drawn import drawn_elements, drawn_paths, drawn_rung
from ..circuit.points import leg_of, rung_of, rungs, spans
from ..circuit.view import SpanView
from ..circuit.wired import State
from ..circuit.words import element_of, leg_word, name_of
from .drops import drawn_drops, drop_findings
from .entry import JointsEntry
from .judging import compared, joint_findings
from .reading import AMPS, Scan, understand
from .view import JointsView, JointView


def replay(entries: Sequence[Entry[JointsEntry]], case: AnyCase) -> Scan:
    """The newest scan, read once, on the circuit that is kept with the set."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else JointsEntry()
    context = case.context
    return understand(body, kept_circuit(case), motor_facts(context.motor), Limits(context.overrides))


def judge(scan: Scan, case: AnyCase) -> Evaluation[JointsView]:
    """Which joint is hot, by how much at full load, and how much of it its own current explains?

    °C, K, A, mV. Every field may be missing; bare metal, a light load, an unsteady one, a spot wider than the
    joint are never good.
    """
    raw = [*joint_findings(scan), *drop_findings(scan)]
    found, verdict, beside = concluded(raw, {}, scan.problems)
    return Evaluation[JointsView](
        bench="joints",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=found,
        settled=["joint_seen"] if scan.body.seen == "nothing" and _judged_well(found) else [],
        points=_points(scan),
        cautions=[] if raw else [phrase("joints.caution"), phrase("safety.codes")],
        waiting=_beside(scan, case, found),
        problems=scan.problems,
        missing=_missing(scan, raw),
        view=_drawn(scan, found),
    )


def _judged_well(found: list[Finding]) -> bool:
    """Was a place judged on its ground, at a load that shows something? Only then is nothing seen a word."""
    told = [f for f in found if f.question == "hot_joint" and not f.lacks]
    return any(f.verdict in (Verdict.GOOD, Verdict.WATCH) for f in told)


def _points(scan: Scan) -> list[SeriesPoint]:
    """The worst joint scaled to full load, each temperature, each drop at nameplate current, each current."""
    key = "" if scan.load is None else f"load={round(100 * scan.load, -1):.0f}"

    def point(measurand: str, leg: str, value: float, unit: str, conditions: str = "") -> SeriesPoint:
        return SeriesPoint(
            measurand=measurand, part="", leg=leg, conditions=conditions, value=value, unit=unit
        )

    out = [point("joint_current", str(leg), a, "A") for leg, a in scan.amps.items()]
    full = [
        c.full_k for r in scan.rungs_read() if (c := compared(scan, r)) is not None and c.full_k is not None
    ]
    if full:
        out.append(point("joint_rise", "", max(0.0, *full), "K"))
    out += [point("joint_temperature", p, t, "degC", key) for p, t in scan.temps.items()]
    plate = scan.motor.amps_a
    for span, mv in scan.drops.items():
        amps = scan.amps_of(leg_of(span))
        if amps and plate:
            name = name_of(element_of(scan.circuit, rung_of(span)))
            where = f"{name}, {leg_word(scan.circuit, leg_of(span))}"
            out.append(point("pole_drop", where, mv * plate / amps, "mV_drop"))
    return out


def _beside(scan: Scan, case: AnyCase, found: list[Finding]) -> list[Phrase]:
    """What the running check says of the same starter is a question of its own."""
    hot = any(f.question == "hot_joint" and f.verdict.rank >= Verdict.ACT.rank for f in found)
    past = [p for p in case.context.history if p.measurand == "current_unbalance"]
    last = max(past, key=lambda p: p.taken_at, default=None)
    if hot and last is not None and exceeds(last.value, scan.limits.value("current_unbalance.good")):
        return [phrase("joints.beside", pct=amount(last.value, "%"))]
    return []


def _missing(scan: Scan, raw: list[Finding]) -> list[Missing]:
    out: list[Missing] = []
    if not raw:
        out.append(Missing(field="spots", message="Tap a place of the circuit and enter its temperature."))
    if raw and not scan.amps:
        message = "Enter the current of each leg: heat goes with its square."
        out.append(Missing(field=AMPS[0], message=message))
    return out


def _drawn(scan: Scan, found: list[Finding]) -> JointsView:
    circuit = scan.circuit
    kind = CIRCUIT_KINDS.get(circuit.kind)
    now = State(contactor=scan.body.contactor or (circuit.positions[1:] or ["in"])[0])
    load = scan.load
    return JointsView(
        title=kind.title if kind is not None else "",
        confirmed=scan.kept.version > 0,
        legs=[leg_word(circuit, leg) for leg in circuit.legs],
        elements=drawn_elements(circuit, now),
        rungs=[drawn_rung(circuit, r) for r in rungs(circuit)],
        spans=[
            SpanView(
                id=s.id,
                leg=s.leg,
                upper=s.upper,
                lower=s.lower,
                within=s.within,
                through=s.kind == "through",
                share=0.0,
            )
            for s in spans(circuit)
        ],
        paths=drawn_paths(circuit),
        positions=list(circuit.positions) if circuit.has_contactor else [],
        joints=_joints(scan, found),
        drops=drawn_drops(scan, found),
        load=amount(100 * load, "%") if load is not None else None,
        spot=amount(scan.spot, "mm") if scan.spot is not None else None,
    )


def _joints(scan: Scan, found: list[Finding]) -> list[JointView]:
    """Each joint; of a rung only the leg that stands out carries more than the rest of it."""
    verdicts = {f.subject: f.verdict for f in found if f.question == "hot_joint"}
    out = []
    for p, t in scan.temps.items():
        rung = rung_of(p)
        c, verdict = compared(scan, rung), verdicts[rung]
        mine = c is None or c.leg == leg_of(p)
        over = c.full_k if c is not None and mine and c.full_k is not None else None
        shown = verdict if mine or verdict.rank <= Verdict.UNKNOWN.rank else Verdict.UNKNOWN
        out.append(
            JointView(
                at=p,
                temp=amount(t, "degC"),
                over=None if over is None else amount(max(0.0, over), "K"),
                verdict=shown.value,
                bare=p in scan.bare,
            )
        )
    return out


JOINTS = Bench(
    name="joints",
    title="Hot joints",
    records="Joint scans",
    one="a joint scan",
    offer="Scan the joints under load",
    gated="Scan under load",
    seen="Enter readings already taken",
    key="j",
    does="scan its joints",
    place=70,
    part="control",
    act="live_test",
    read_with=("temperature", "voltage_drop", "current"),
    routine=False,
    entry=JointsEntry,
    view=JointsView,
    needs=Needs(plates=("motor", "control"), extras=(CIRCUIT,)),
    replay=replay,
    judge=guarded(judge),
    effects=live_evidence(judge),
    facts=newest_body,
)
