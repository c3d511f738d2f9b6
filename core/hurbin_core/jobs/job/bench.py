"""The job of one set as a bench: one open at a time, many hands, put on record when it is proved."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from ...base import (
    Bench,
    By,
    DueDate,
    Effect,
    Evaluation,
    Finding,
    Missing,
    Needs,
    PartEvent,
    PartsBooked,
    Phrase,
    StoryLine,
    TemporaryChange,
    Unknown,
    Verdict,
    amount,
    body_of,
    concluded,
    phrase,
    rules_version,
)
from ...hydraulics import LOOP
from ...logbook import AnyCase, in_order
from ...plant import EVENT_KINDS, PARTS
from ...safety import guarded
from ..compiling import JobStep
from ..known import JOB
from .drawn import drawn
from .entry import JobEntry
from .folding import fold
from .judged import figure_finding, look_finding, newest_looks, renewed_since
from .proving import prove
from .sheet import E_, Job
from .view import JobView

ABOUT = (
    "weight",
    "seal_kind",
    "hot",
    "outside",
    "pit",
    "roof",
    "header",
    "sizes",
    "service",
    "service_low",
    "service_high",
    "service_minutes",
    "restarts",
    "no_service",
)


def replay(entries: Sequence[E_], case: AnyCase) -> Job:
    """How does the job stand after these entries?"""
    return fold(entries, case)


def judge(job: Job, case: AnyCase) -> Evaluation[JobView]:
    """What is done, what is next, what was found, and is the proof whole?

    A job without its proof is unfinished, never done: the finding that says how it ended comes only when
    every step is done or skipped with its reason, no temporary change is on, and everything that was touched
    is proved.
    """
    view = drawn(job, case)
    wanting = _wanting(job, view)
    raw = [*_figures(job), *_looked(job), *_proofs(job)]
    if job.compiled is not None and not wanting:
        raw.append(_ended(job))
    found, verdict, beside = concluded(raw, _lacking(job), job.problems)
    if wanting and verdict.rank < Verdict.UNKNOWN.rank:
        verdict, beside = Verdict.UNKNOWN, beside or (verdict if verdict is Verdict.WATCH else None)
    now = job.step(view.now)
    return Evaluation[JobView](
        bench="job",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=found,
        questions=job.conflicts,
        cautions=_cautions(job, now),
        problems=job.problems,
        missing=wanting,
        view=view,
    )


def _cautions(job: Job, now: JobStep | None) -> list[Phrase]:
    """That of the step in hand; and what was exchanged on the set while the job was open."""
    out = [phrase("job.caution", says=now.caution)] if now is not None and now.caution else []
    opened = job.opened.at if job.opened is not None else None
    for slot, at in sorted(job.known.fitted.items()):
        if opened is not None and at > opened and slot in PARTS:
            out.append(phrase("job.exchanged", part=PARTS[slot].title, when=f"{at:%d %b, %H:%M}"))
    for slot, at in sorted(job.known.bare.items()):
        if opened is not None and at > opened and slot in PARTS:
            out.append(phrase("job.bare", part=PARTS[slot].title, when=f"{at:%d %b, %H:%M}"))
    return out


def _figures(job: Job) -> list[Finding]:
    out = []
    for s in job.steps:
        d = job.done.get(s.id)
        if d is not None and d.figure is not None and not renewed_since(job, s):
            found = figure_finding(job, s, d.figure)
            out += [found] if found is not None else []
    return out


def _looked(job: Job) -> list[Finding]:
    return [look_finding(job, x) for x in newest_looks(job).values()]


def _proofs(job: Job) -> list[Finding]:
    named = list(dict.fromkeys(s.proves for s in job.steps if s.proves))
    return [f for what in named for f in prove(job, what)]


def _wanting(job: Job, view: JobView) -> list[Missing]:
    """What stands between this job and its record."""
    if job.compiled is None:
        return [Missing(field="procedure", message="Choose a procedure.")]
    out = [Missing(field=k, message=says) for k, says in job.compiled.asks.items()]
    out += [Missing(field="procedure", message=says) for says in job.compiled.refuses]
    open_ = [s for s in view.steps if s.state not in ("done", "skipped")]
    if open_:
        first = open_[0]
        message = f"Step {first.n} of {view.count}: {first.title}."
        out.append(
            Missing(field=first.id, message=message if len(open_) == 1 else f"{message} {len(open_)} left.")
        )
    out += [Missing(field="changes", message=f"Still on: {c.title}, {c.place}.") for c in view.changes]
    if not open_ and not job.said("cause"):
        out.append(
            Missing(field="cause", message="Enter the cause: the next job on this set begins with it.")
        )
    if not open_ and not job.of("hours"):
        out.append(Missing(field="hours", message="Enter the hours worked."))
    return out


def _lacking(job: Job) -> dict[str, Phrase | None]:
    """Which proofs a job that touched them has not got."""
    skipped = [d for d in job.done.values() if d.skipped]
    return {"job.steps": phrase("job.skipped", n=amount(len(skipped), "1"))} if skipped else {}


def _ended(job: Job) -> Finding:
    """How it ended: good only when everything proved and every figure read is good, nothing is skipped, and
    no part waits for the shop.
    """
    worst_ = max((f.verdict.rank for f in [*_proofs(job), *_looked(job), *_figures(job)]), default=0)
    if worst_ > Verdict.UNKNOWN.rank:
        verdict, words = Verdict.ACT, phrase("job.ended_act")
    elif worst_ > Verdict.GOOD.rank:
        verdict, words = Verdict.WATCH, phrase("job.ended_watch")
    else:
        verdict, words = Verdict.GOOD, phrase("job.ended", cause=str(job.said("cause")))
    return Finding(
        question="job_done",
        part=job.procedure.part if job.procedure else "pump",
        verdict=verdict,
        by=By.THIS_WEEK if verdict is not Verdict.GOOD else None,
        unknown=Unknown.INCOMPLETE if verdict is Verdict.UNKNOWN else None,
        rule="job_done",
        reason=words,
    )


def effects(job: Job, case: AnyCase, recorded: bool) -> list[Effect]:
    """Temporary changes as they stand, parts as they were taken; on record also what is looked at again, and
    what befell the parts.
    """
    out: list[Effect] = [
        TemporaryChange(
            key=c.key, change=c.change, place=c.place, note="overhaul", on=c.off_at is None, at=c.at
        )
        for c in job.changes
    ]
    out += _booked(job, recorded)
    out += [] if recorded else _promised(job)
    if recorded and job.opened is not None:
        out += _afterwards(job, case)
    return out


def _promised(job: Job) -> list[Effect]:
    """What is at the shop stands on Plant until it is back and accepted: overdue once its day is over."""
    sent, back = job.of("sent"), job.of("accepted")
    if not sent or sent[-1].body.promised is None or (back and back[-1].at >= sent[-1].at):
        return []
    s = sent[-1].body
    over = datetime.combine(s.promised + timedelta(days=1), time.min, ZoneInfo(job.known.zone))
    why = f"{s.what or 'what was sent'} back from {s.shop or 'the shop'}, promised for {s.promised:%d %b}"
    return [DueDate(key=f"shop.{s.promised}", what="check_back", at=over, why=why[:200], waited=True)]


def _booked(job: Job, recorded: bool) -> list[Effect]:
    newest = {(x.body.code, x.body.place): x for x in job.of("part") if x.body.code and x.body.place}
    return [
        PartsBooked(
            key=f"{code}/{place}",
            part=code,
            place=place,
            used=x.body.used,
            reserved=0 if recorded else max(0, x.body.reserved - x.body.used),
            emergency=1 if x.body.emergency else 0,
        )
        for (code, place), x in newest.items()
    ]


def _afterwards(job: Job, case: AnyCase) -> list[Effect]:
    """Looked at again after an hour, a day, a week and a month, each for what was touched; the event cuts the
    series of what was renewed, and of nothing else. What this set never had, nothing befell.
    """
    at = case.context.as_of
    touched = set(job.procedure.touches if job.procedure else [])
    looks = [
        ("check.hour", "leak, heat, current"),
        ("check.day", "bolts of coupling and soft gaskets, dust, level"),
        ("check.week", "current, vibration, drips"),
        ("check.month", "line hot, insulation if it was wet, trend"),
    ]
    out: list[Effect] = []
    for limit, what in looks:
        due = at + timedelta(hours=job.limits.value(limit))
        out.append(
            DueDate(
                key=limit,
                what="check_back",
                at=due,
                why=f"after {job.procedure.title if job.procedure else 'the job'}: {what}",
            )
        )
    events = {"bearings": "motor_repair", "coupling": "coupling_repair", "control": "control_repair"}
    wet = {"seal", "impeller"} & touched
    kinds = {e for t, e in events.items() if t in touched}
    if job.procedure is not None and job.procedure.part == "pump" and "bearings" in touched:
        kinds.discard("motor_repair")
    if wet:
        kinds.add(
            "pump_repair"
            if "impeller" in touched and job.procedure and job.procedure.part == "pump"
            else "seal_repair"
        )
    out += [
        PartEvent(key=k, event=k, at=at, note=job.procedure.title if job.procedure else "")
        for k in sorted(kinds)
        if not PARTS[EVENT_KINDS[k].part].holds or EVENT_KINDS[k].part in case.context.parts
    ]
    return out


def facts(entries: Sequence[E_]) -> dict[str, Any]:
    """What a record keeps: everything that was said and done, in order, as entered; and what the set is known
    by from now on.
    """
    rows = in_order(entries)
    undone = {e.body.undoes for e in rows if e.body.kind == "undo"}
    about: dict[str, Any] = {}
    for e in rows:
        if e.body.kind == "about" and e.uuid not in undone:
            said = body_of(e.body)
            about |= {k: said[k] for k in ABOUT if said.get(k) not in (None, "")}
    told = [{"at": e.taken_at.isoformat(), "by": e.by, "id": e.uuid, **body_of(e.body)} for e in rows]
    opened = next((e.body for e in rows if e.body.kind == "open"), None)
    return {
        "procedure": opened.procedure if opened is not None else "",
        "version": opened.version if opened is not None else 0,
        "about": about,
        "entries": told,
    }


def story(body: dict[str, Any]) -> list[StoryLine]:
    """What happened in a job, one line for each thing that was done."""
    out = []
    for e in body.get("entries", []):
        line = _line(e)
        if line is not None:
            out.append(StoryLine(at=datetime.fromisoformat(e["at"]), by=e.get("by", ""), says=line))
    return out


def _line(e: dict[str, Any]) -> Phrase | None:
    kind = e.get("kind", "open")
    if kind == "open":
        return phrase(
            "story.job_open", procedure=e.get("procedure", ""), because=e.get("because", "") or "by hand"
        )
    if kind == "done":
        return phrase("story.job_done", step=e.get("step", ""), said=e.get("said", "") or "confirmed")
    if kind == "skip":
        return phrase("story.job_skip", step=e.get("step", ""), why=e.get("why", ""))
    if kind == "part" and e.get("used"):
        return phrase("story.job_part", n=str(e["used"]), code=e.get("code", ""), place=e.get("place", ""))
    if kind == "cause":
        return phrase("story.job_cause", cause=e.get("cause", ""), root=e.get("root", "") or "not found")
    if kind == "sent":
        return phrase("story.job_sent", what=e.get("what", ""), shop=e.get("shop", ""))
    if kind == "lead" and not e.get("back"):
        return phrase("story.job_lead", lead=e.get("lead", ""), conductor=e.get("conductor", ""))
    return None


JOB_BENCH = Bench(
    name="job",
    title="Overhaul",
    records="Overhauls",
    one="an overhaul",
    offer="Overhaul",
    key=";",
    does="open the job of this set",
    place=55,
    part="pump",
    entry=JobEntry,
    view=JobView,
    needs=Needs(plates=("motor", "control", "pump"), extras=(JOB, LOOP)),
    replay=replay,
    judge=guarded(judge),
    effects=effects,
    facts=facts,
    lasting=False,
    many=True,
    single=True,
    routine=False,
    story=story,
    files=None,
)
