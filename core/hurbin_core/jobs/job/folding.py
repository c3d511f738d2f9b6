"""From a job's entries to how it stands."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ...base import Entered, FieldRule, HurbinError, Limits, Problem, phrase, read
from ...logbook import AnyCase, replay
from ..anatomy import TREES, tree_for
from ..compiling import compile_job
from ..known import known_of
from ..marks import SaidMarks, marks_of
from .entry import JobEntry
from .holding import count_steps
from .sheet import E_, Job, Said


def yes(value: Any) -> bool | None:
    return None if value is None else value == "yes"


def fold(entries: Sequence[E_], case: AnyCase) -> Job:
    """How does this job stand? The first opening counts; a step is counted when what it waits for was
    there.
    """
    job = Job(known=known_of(case), limits=Limits(case.context.overrides))
    replay(entries, job, _HANDLERS, entry=JobEntry)
    _opened(job, case)
    count_steps(job)
    return job


def _opened(job: Job, case: AnyCase) -> None:
    if job.opened is None:
        return
    o = job.opened.body
    job.procedure = job.known.procedure(o.procedure, o.version)
    if job.procedure is None and not o.procedure:
        return
    if job.procedure is None:
        message = f"There is no procedure “{o.procedure}” in version {o.version}."
        job.problems.append(
            Problem(code="procedure_unknown", field="procedure", value=o.procedure, message=message, right="")
        )
        return
    carried = case.context.last.body.get("about", {}) if case.context.last else {}
    told = {n: yes(job.said(n) or carried.get(n)) for n in ("hot", "outside", "pit", "roof", "header")}
    marks = marks_of(case, SaidMarks(**told), pair=job.known.pair, header=job.known.header)
    if o.set_kind and o.set_kind != case.context.kind:
        message = "This set is of another kind than when the job was opened: given away or rebuilt. Close it."
        job.problems.append(
            Problem(
                code="set_changed",
                field="set_kind",
                value=o.set_kind,
                message=message,
                right=case.context.kind,
            )
        )
    job.marks = marks
    job.compiled = compile_job(job.procedure, marks, job.limits, weight(job, carried))
    job.tree = tree_for(TREES[job.compiled.tree], marks)
    _asks(job, carried)


def weight(job: Job, carried: dict[str, Any]) -> float | None:
    """What the heaviest part weighs, kg; as said now, else as known from an earlier job."""
    now = job.figure("weight")
    if now is not None or not carried.get("weight"):
        return now
    try:
        got = read(
            Entered.model_validate(carried["weight"]), FieldRule("weight", "Weight", "mass", 0.1, 100000)
        )
    except HurbinError:
        return None
    return got.value if got is not None else None


def _asks(job: Job, carried: dict[str, Any]) -> None:
    """What the procedure itself asks of the set, besides its marks."""
    c, p = job.compiled, job.procedure
    if c is None or p is None:
        return
    if "weight" in p.asks and weight(job, carried) is None:
        c.asks["weight"] = "Enter the weight of the heaviest part: people and lifting gear go by it."
    if "seal_kind" in p.asks and not (job.said("seal_kind") or carried.get("seal_kind")):
        c.asks["seal_kind"] = "Enter the seal kind or its kit number."
    told = [job.said(n) or carried.get(n) for n in ("service", "no_service")]
    if not any(told):
        c.asks["service"] = "Enter what the service is judged by, or that it names nothing."


def _keep(job: Job, e: E_) -> None:
    job.more.setdefault(e.body.kind, []).append(Said(e.body, e.by, e.who, e.taken_at, e.uuid))


def _open(job: Job, e: E_) -> None:
    if job.opened is None:
        job.opened = Said(e.body, e.by, e.who, e.taken_at, e.uuid)
    elif (e.body.procedure, e.body.version) != (job.opened.body.procedure, job.opened.body.version):
        words = phrase("job.opened_twice", by=e.by or "Somebody", first=job.opened.body.procedure)
        job.conflicts.append(words)


def _tick(job: Job, e: E_) -> None:
    job.ticked.append(Said(e.body, e.by, e.who, e.taken_at, e.uuid))


_HANDLERS = {
    "open": _open,
    "done": _tick,
    "skip": _tick,
    **dict.fromkeys(("look", "found", "left", "lead", "change", "part", "sent", "accepted"), _keep),
    **dict.fromkeys(("drip", "heat", "head", "service", "arrow", "hours", "cause", "about"), _keep),
}
