"""The walk down a set's circuit: read where you like, see what is left, go where it tells most."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from functools import lru_cache
from typing import Any

from ...base import (
    Bench,
    Evaluation,
    Needs,
    SeriesPoint,
    StoryLine,
    body_of,
    concluded,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Entry
from ...safety import guarded, live_evidence
from .drawn import drawn
from .entry import CircuitEntry, Walk, circuit_entry, fold
from .judging import findings, found_in, lacking
from .kinds import CIRCUIT, KeptCircuit, usual_circuit
from .naming import Search
from .view import LadderView
from .whole import Circuit
from .wired import State

Sheet = Sequence[Entry[Any]]


@lru_cache(maxsize=24)
def _search(circuit: str) -> Search:
    """The tables of a circuit are worked out once and serve every reading of it."""
    return Search(Circuit.model_validate_json(circuit), State())


def search_of(circuit: Circuit) -> Search:
    """The search of this circuit."""
    return _search(circuit.model_dump_json(exclude={"control"}))


def kept_circuit(case: AnyCase) -> KeptCircuit:
    """The circuit that is kept with the set; the usual one while nobody confirmed it."""
    rows = case.extra(CIRCUIT, KeptCircuit)
    context = case.context
    return rows[0] if rows else usual_circuit(context.kind, context.control_kind, context.motor)


def replay(entries: Sheet, case: AnyCase) -> Walk:
    """How does the walk stand after these entries?"""
    isolation = case.state.isolation
    dead = isolation is not None and isolation.state == "proved"
    return fold(entries, search_of(kept_circuit(case).circuit), case.context.overrides, dead)


def judge(walk: Walk, case: AnyCase) -> Evaluation[LadderView]:
    """What is open in this circuit, what is left, and where is measured next?

    Volts, amperes and ohms at pairs of points, each in its own state; any number of them, in any order. What
    is not known of the circuit widens what is left.
    """
    kept = kept_circuit(case)
    found = found_in(walk)
    told, verdict, beside = concluded(findings(found), lacking(found, kept), walk.problems)
    missing = found.lost and walk.taken[-1].state.closed if walk.taken else False
    cautions = [phrase("circuit.caution_missing")] if missing else []
    if not walk.taken:
        cautions = [phrase("caution.live"), phrase("circuit.proved"), phrase("safety.codes")]
    return Evaluation[LadderView](
        bench="circuit",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=told,
        points=_points(walk),
        cautions=cautions,
        problems=walk.problems,
        questions=walk.conflicts,
        waiting=[phrase("circuit.unconfirmed")] if kept.version == 0 else [],
        view=drawn(found, kept),
    )


def _points(walk: Walk) -> list[SeriesPoint]:
    """What was read of a live circuit: what revokes a proof when the set is recorded as isolated."""
    of = {"volts": ("circuit_voltage", "V"), "amps": ("circuit_current", "A")}
    return [
        SeriesPoint(
            measurand=of[t.what][0],
            part="",
            leg=f"{t.pair.one}:{t.pair.two}" if t.what == "volts" else t.pair.one,
            conditions=f"{t.state.contactor}:{t.state.motor}:{t.state.meter}",
            value=t.figure.value,
            unit=of[t.what][1],
            bound=t.figure.bound,
        )
        for t in walk.taken
        if t.what in of
    ]


def facts(entries: Sheet) -> dict[str, Any]:
    """What a record keeps: every entry that counts, when and by whom."""
    undone = {e.body.undoes for e in entries if e.body.kind == "undo"}
    ordered = sorted(entries, key=lambda e: (e.taken_at, e.uuid))
    log: list[dict[str, Any]] = [
        {"at": e.taken_at.isoformat(), "by": e.by, "body": body_of(e.body)}
        for e in ordered
        if not e.late and e.body.kind != "undo" and e.uuid not in undone
    ]
    notes = [e["body"]["note"] for e in log if e["body"].get("note")]
    return {"log": log, **({"note": notes[-1]} if notes else {})} if log else {}


def story(body: dict[str, Any]) -> list[StoryLine]:
    """A walk as what was read, line by line."""
    out: list[StoryLine] = []
    for x in body.get("log", []):
        b = circuit_entry(**x["body"])
        says = phrase("story.circuit_said")
        if b.kind == "reading":
            typed = b.volts or b.amps or b.ohms
            figure = f"{typed.text} {typed.unit}".strip() if typed is not None else ""
            where = b.one if not b.two or b.two == b.one else f"{b.one} – {b.two}"
            says = phrase("story.circuit_read", where=where, figure=figure)
        out.append(StoryLine(at=datetime.fromisoformat(x["at"]), by=x.get("by", ""), says=says))
    return out


CIRCUIT_BENCH = Bench(
    name="circuit",
    title="Circuit",
    records="Circuit walks",
    one="a circuit walk",
    offer="Find an open circuit",
    gated="Live readings in the circuit",
    seen="Enter readings already taken",
    key="w",
    does="walk down its circuit",
    place=80,
    part="supply",
    act="live_test",
    read_with=("voltage", "current", "low_resistance"),
    entry=CircuitEntry,
    view=LadderView,
    needs=Needs(plates=("motor", "control"), extras=(CIRCUIT,)),
    replay=replay,
    judge=guarded(judge),
    effects=live_evidence(judge),
    facts=facts,
    many=True,
    routine=False,
    story=story,
    files=None,
)

__all__ = ["CIRCUIT_BENCH", "kept_circuit", "search_of"]
