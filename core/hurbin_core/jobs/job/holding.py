"""Which steps count as done: what each waits for, and whether a hold was met when it was confirmed."""

from __future__ import annotations

from datetime import datetime, timedelta

from ...base import Phrase, Quantity, Verdict, phrase
from ...safety import CHANGES
from ..anatomy import LOOKS
from ..compiling import JobStep
from ..known import BenchRecord, Moment
from .judged import figure_verdict
from .proving import proof_verdict, service_known
from .sheet import Change, Done, Job, Said, figure_of

_PASS = (Verdict.GOOD, Verdict.WATCH)


def count_steps(job: Job) -> None:
    """Go through what was ticked, in order: a step counts when everything it waits for was there then. What
    was ticked too early is told, never dropped silently; a step ticked twice counts once, by the first.
    """
    if job.compiled is None:
        return
    steps = {s.id: s for s in job.steps}
    for t in job.ticked:
        step = steps.get(t.body.step)
        if step is None:
            job.conflicts.append(phrase("job.no_such_step", by=t.by or "Somebody", step=t.body.step))
            continue
        before = job.done.get(step.id)
        if before is not None:
            if before.who != t.who:
                args = {"step": step.title, "first": before.by or "Somebody", "then": t.by or "Somebody"}
                job.conflicts.append(phrase("job.twice", **args))
            continue
        _count(job, step, t)
    _by_hand(job)
    job.waits = {s.id: waits_for(job, s) for s in job.steps if s.id not in job.done}


def _count(job: Job, step: JobStep, t: Said) -> None:
    figure = figure_of(job, step, t.body.figure)
    why = _cannot_skip(job, step, t) if t.body.kind == "skip" else _unmet(job, step, t, figure)
    if why is not None:
        job.conflicts.append(phrase("job.does_not_count", step=step.title, by=t.by or "Somebody", why=why))
        return
    skipped = t.body.why.strip() if t.body.kind == "skip" else ""
    job.done[step.id] = Done(t.by, t.who, t.at, t.entry, t.body.said.strip(), figure, skipped)
    if t.body.kind == "done":
        _effects(job, step, t)


def _effects(job: Job, step: JobStep, t: Said) -> None:
    for kind, place in step.hang:
        job.changes.append(Change(f"{step.id}/{kind}/{place}", kind, place, t.at, t.by))
    for c in job.changes:
        if c.off_at is None and c.change in step.restore:
            c.off_at = t.at


def _by_hand(job: Job) -> None:
    """Temporary changes that no step makes."""
    for x in job.of("change"):
        if x.body.change not in CHANGES or not x.body.place.strip():
            job.conflicts.append(phrase("job.change_unknown", by=x.by or "Somebody", what=x.body.change))
            continue
        open_ = [c for c in job.standing if (c.change, c.place) == (x.body.change, x.body.place)]
        if x.body.on and not open_:
            job.changes.append(Change(f"hand/{x.entry}", x.body.change, x.body.place, x.at, x.by))
        for c in open_ if not x.body.on else []:
            c.off_at = x.at


def earlier_holds(job: Job, step: JobStep) -> list[JobStep]:
    """The hold points before this step: no way on without them."""
    out = []
    for s in job.steps:
        if s.id == step.id:
            break
        if s.hold:
            out.append(s)
    return out


def _not_yet(job: Job, step: JobStep) -> Phrase | None:
    """What has to be done before this step can be, whatever else is true."""
    for s in earlier_holds(job, step):
        if s.id not in job.done:
            return phrase("job.hold_before", step=s.title)
    parts = job.tree.by_part if job.tree else {}
    off = _off_now(job)
    for p in step.off:
        lacking = [
            parts[n].title for n in parts[p].needs if n in parts and n not in off and n not in step.off
        ]
        taken = {x for s in job.steps for x in s.off}
        wanted = [x for x in lacking if any(parts[n].title == x for n in taken)]
        if wanted:
            return phrase("job.off_first", what=wanted[0], part=parts[p].title)
    for p in step.on:
        temporary = p in parts and parts[p].temporary
        if p not in off and p not in step.off and not temporary:
            return phrase("job.never_off", part=parts[p].title if p in parts else p)
    return None


def _off_now(job: Job) -> set[str]:
    off: set[str] = set()
    for s in job.steps:
        d = job.done.get(s.id)
        if d is None or d.skipped:
            continue
        off |= set(s.off)
        off -= {*s.on, *s.gone}
    return off


def waits_for(job: Job, step: JobStep) -> list[Phrase]:
    """Everything this step still waits for, now."""
    out = []
    asked = job.compiled.asks if job.compiled else {}
    if asked:
        return [phrase("job.asked_first", what=next(iter(asked.values())))]
    before = _not_yet(job, step)
    if before is not None:
        out.append(before)
    if before is not None:
        return out
    if step.off and _energised(job, None):
        out.append(phrase("job.not_dead"))
    lacking = _unlooked(job, step)
    if lacking is None and step.hold and step.meets != "figure":
        lacking = _lacks(job, step, None, None)
    return [*out, lacking] if lacking is not None else out


def _cannot_skip(job: Job, step: JobStep, t: Said) -> Phrase | None:
    if not t.body.why.strip():
        return phrase("job.skip_why")
    if step.hold and step.meets in ("isolated", "proved", "given_back"):
        return phrase("job.never_skipped")
    if step.proves:
        return phrase("job.proof_skipped")
    if step.hang or step.restore or step.on:
        return phrase("job.skip_leaves")
    return _not_yet(job, step)


def _unmet(job: Job, step: JobStep, t: Said, figure: Quantity | None) -> Phrase | None:
    """Why does this confirmation not count? None: it does."""
    if job.compiled is not None and job.compiled.asks:
        return phrase("job.asked_first", what=next(iter(job.compiled.asks.values())))
    before = _not_yet(job, step)
    if before is not None:
        return before
    if step.off and _energised(job, t.at):
        return phrase("job.not_dead")
    if step.second and _same_hand(job, step, t):
        return phrase("job.second_person")
    lacking = _unseen(job, step, t)
    if lacking is not None:
        return lacking
    if step.figure is not None and step.meets == "figure" and figure is None:
        return phrase("job.figure_first", what=step.figure.label.lower())
    if not step.hold:
        return None
    return _lacks(job, step, t.at, figure)


def _unseen(job: Job, step: JobStep, t: Said) -> Phrase | None:
    """A part that was not looked at, or what was found and never entered: as found comes before as left."""
    lacking = _unlooked(job, step)
    if lacking is not None:
        return lacking
    if not step.found or step.meets == "leads" or t.body.said.strip():
        return None
    told = [x for x in job.of("found") if x.body.step == step.id and x.body.how.strip()]
    if told or (step.found == "leads" and job.of("lead")):
        return None
    return phrase("job.found_first", what=step.record or step.title.lower())


def _unlooked(job: Job, step: JobStep) -> Phrase | None:
    """A part of this step that nobody looked at yet."""
    seen = {x.body.look for x in job.of("look") if x.body.step == step.id}
    lacking = next((x for x in step.inspects if x not in seen), None)
    return phrase("job.look_first", what=LOOKS[lacking].title.lower()) if lacking is not None else None


def _energised(job: Job, at: datetime | None) -> bool:
    """Parts come off a set that is proved dead at that time (none: now), and no other."""
    stood = _stood(job, at)
    return stood is None or stood.state != "proved"


def _same_hand(job: Job, step: JobStep, t: Said) -> bool:
    """Is it confirmed by whoever did the step before?"""
    last = None
    for s in job.steps:
        if s.id == step.id:
            break
        if s.id in job.done and not job.done[s.id].skipped:
            last = job.done[s.id]
    return last is not None and last.who == t.who


def _lacks(job: Job, step: JobStep, at: datetime | None, figure: Quantity | None) -> Phrase | None:
    """What is wanting for this hold at that time (none: now)? None: it is met."""
    match step.meets:
        case "isolated" | "proved":
            return _isolated(job, step, at)
        case "given_back":
            return _given_back(job, at)
        case "record":
            return _record(job, step, at)
        case "before":
            return _before(job, step)
        case "figure":
            told = figure_verdict(job, step, figure) if figure is not None else Verdict.UNKNOWN
            return None if told in _PASS else phrase("job.figure_fails")
        case "leads":
            want = 3 if job.marks.get("phases") == 3 else 2
            n = len({x.body.lead for x in job.of("lead") if x.body.lead.strip() and x.body.conductor.strip()})
            return None if n >= want else phrase("job.leads_lacking", n=str(n), want=str(want))
        case "proof":
            told = proof_verdict(job, step.proves)
            return None if told in _PASS else phrase("job.proof_lacking")
        case "service":
            if service_known(job) is False:
                return None
            return None if proof_verdict(job, "service") in _PASS else phrase("job.service_lacking")
        case "cause":
            return None if job.said("cause") else phrase("job.cause_lacking")
        case "sent":
            return None if job.of("sent") else phrase("job.not_sent")
        case "accepted":
            good = [x for x in job.of("accepted") if x.body.good == "yes"]
            return None if good else phrase("job.not_accepted")
        case _:
            return None


def _stood(job: Job, at: datetime | None) -> Moment | None:
    """How the isolation stood at that time; none: how it stands now."""
    if at is not None:
        return job.known.stood(at)
    return max(job.known.moments, key=lambda m: m.at, default=None)


def _isolated(job: Job, step: JobStep, at: datetime | None) -> Phrase | None:
    stood = _stood(job, at)
    wanted = ("proved",) if step.meets == "proved" else ("isolated", "proved")
    if stood is None or stood.state not in wanted:
        return phrase("job.prove_dead" if step.meets == "proved" else "job.isolate")
    scopes = set(job.procedure.scopes if job.procedure else [])
    lacking = scopes - set(stood.scopes)
    return phrase("job.scope_lacking", what=", ".join(sorted(lacking)).replace("_", " ")) if lacking else None


def _given_back(job: Job, at: datetime | None) -> Phrase | None:
    stood = _stood(job, at)
    if stood is None:
        return phrase("job.isolate")
    return None if stood.state in ("given_back", "nothing") else phrase("job.give_back")


def _since(job: Job, step: JobStep) -> datetime | None:
    """From when on does a record count for this hold? After the last part that was put back before it; else
    from the opening of the job.
    """
    at = job.opened.at if job.opened else None
    for s in job.steps:
        if s.id == step.id:
            break
        d = job.done.get(s.id)
        if d is not None and s.on and not d.skipped:
            at = max(at, d.at) if at is not None else d.at
    return at


def records_for(job: Job, step: JobStep) -> list[BenchRecord]:
    """The records of this step's bench that its hold may stand on, newest last."""
    since = _since(job, step)
    rows = [r for r in job.known.records if r.bench == step.opens and (since is None or r.taken_at >= since)]
    return sorted(rows, key=lambda r: r.taken_at)


def _record(job: Job, step: JobStep, at: datetime | None) -> Phrase | None:
    """The newest record has to pass now, and so did the newest one when it was confirmed: a step ticked on
    nothing, or on a bad record, is not made good by one that came after.
    """
    rows = records_for(job, step)
    for held in ([r for r in rows if at is None or r.taken_at <= at], rows):
        if not held:
            return phrase("job.no_record")
        if held[-1].verdict not in _PASS:
            return phrase("job.record_fails", verdict=held[-1].verdict.value)
    return None


def _before(job: Job, step: JobStep) -> Phrase | None:
    days = job.limits.value("job.before_days")
    opened = job.opened.at if job.opened else None
    rows = [
        r
        for r in job.known.records
        if r.bench == step.opens and (opened is None or r.taken_at >= opened - timedelta(days=days))
    ]
    return None if rows else phrase("job.no_before")
