"""The bench for a control ladder: one probe on the common, the other walks down from the source."""

from __future__ import annotations

from collections.abc import Sequence

from ...base import (
    Bench,
    Effect,
    Evaluation,
    Limits,
    Missing,
    Needs,
    SeriesPoint,
    TemporaryChange,
    amount,
    concluded,
    nominal,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...safety import guarded, live_evidence
from ..circuit import CIRCUIT
from ..circuit.bench import kept_circuit
from .entry import ControlEntry
from .judging import control_findings, control_lacking
from .parts import usual_control
from .searching import Ladder, Left, next_place, search, stands, understand
from .view import ControlElementView, ControlView


def replay(entries: Sequence[Entry[ControlEntry]], case: AnyCase) -> Ladder:
    """The newest word on this control ladder, read once, on the ladder that is kept with the set."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else ControlEntry()
    kept = kept_circuit(case)
    control = kept.circuit.control
    confirmed = control is not None and kept.version > 0
    return understand(body, control or usual_control(), confirmed, Limits(case.context.overrides))


def judge(ladder: Ladder, case: AnyCase) -> Evaluation[ControlView]:
    """Where does the control voltage stop, is what is open there right to be, and has the coil its voltage?

    V against the common, V across an element, process values in the unit of their set point. Every field
    may be missing.
    """
    left = search(ladder)
    raw = control_findings(ladder, left)
    found, verdict, beside = concluded(raw, control_lacking(ladder), ladder.problems)
    return Evaluation[ControlView](
        bench="control",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=found,
        points=_points(ladder),
        cautions=[] if raw else [phrase("caution.live"), phrase("control.caution"), phrase("safety.codes")],
        waiting=[] if ladder.confirmed else [phrase("control.unconfirmed")],
        problems=ladder.problems,
        missing=[]
        if raw
        else [Missing(field="spots", message="Prove the common first, then read the source.")],
        view=_drawn(ladder, left),
    )


def _points(ladder: Ladder) -> list[SeriesPoint]:
    """The coil's voltage under load, and the highest voltage that was read: live, like any other."""

    def point(measurand: str, value: float) -> SeriesPoint:
        return SeriesPoint(measurand=measurand, part="", conditions="", value=value, unit="V")

    coil = next(e for e in ladder.control.elements if e.kind == "coil")
    out = [point("control_voltage", v) for v in [max(ladder.volts.values(), default=0.0)] if v > 0]
    if coil.id in ladder.across and ladder.body.pulled == "in":
        out.append(point("coil_voltage", ladder.across[coil.id]))
    return out


def _drawn(ladder: Ladder, left: Left) -> ControlView:
    inside = {e.id for e in ladder.path}
    at = next_place(ladder, left)
    return ControlView(
        volts=nominal(ladder.control.volts, "V"),
        confirmed=ladder.confirmed,
        source_reads=ladder.reads("source"),
        elements=[
            ControlElementView(
                id=e.id,
                kind=e.kind,
                name=e.name or e.id,
                reads=ladder.reads(e.id),
                volts=amount(ladder.volts[e.id], "V") if e.id in ladder.volts else None,
                share=round(left.shares.get(e.id, 0.0), 4) if ladder.volts or ladder.across else 0.0,
                named=left.named == e.id,
                stands=stands(ladder, e),
                set_point=f"{e.set_point:g} {e.unit}".strip() if e.set_point is not None else "",
                bypassed=e.id not in inside,
            )
            for e in ladder.control.elements
        ],
        next=at,
        why=phrase("control.why_source" if at == "source" else "control.why", n=str(len(left.shares)))
        if at
        else None,
        left=len(left.shares),
    )


def effects(ladder: Ladder, case: AnyCase, recorded: bool) -> list[Effect]:
    """A lifted wire, a jumper and a hand position are temporary changes by themselves."""
    at = case.context.as_of
    out: list[Effect] = [*live_evidence(judge)(ladder, case, recorded)]
    if recorded:
        said = (("lifted_wire", ladder.body.lifted), ("jumper", ladder.body.jumper))
        out += [
            TemporaryChange(key=change, change=change, place=place.strip(), on=True, at=at)
            for change, place in said
            if place.strip()
        ]
    return out


CONTROL_BENCH = Bench(
    name="control",
    title="Control circuit",
    records="Control circuit checks",
    one="a control circuit check",
    offer="Find an open control circuit",
    gated="Live readings in the control circuit",
    seen="Enter readings already taken",
    key="t",
    does="walk down its control circuit",
    place=60,
    part="control",
    act="live_test",
    read_with=("voltage",),
    routine=False,
    entry=ControlEntry,
    view=ControlView,
    needs=Needs(plates=("control",), extras=(CIRCUIT,)),
    replay=replay,
    judge=guarded(judge),
    effects=effects,
    facts=newest_body,
)
