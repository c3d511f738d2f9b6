"""A job as it is drawn: rail, parts in their order, reconnect list, pick list, proof."""

from __future__ import annotations

from datetime import datetime

from ...base import DIMENSIONS, worst
from ...logbook import AnyCase
from ...safety import CHANGES
from ..anatomy import LOOKS, TreePart
from ..compiling import JobStep
from ..procedure import PROCEDURES
from . import view as v
from .costing import cost_of, pair_of
from .holding import records_for
from .judged import fate_of, figure_finding, newest_looks
from .picking import picked
from .proving import prove
from .sheet import Job, look_signs
from .times import in_words, own, step_minutes


def drawn(job: Job, case: AnyCase) -> v.JobView:
    """Everything that the drawing shows of this job."""
    view = v.JobView(offered=_offered(case))
    c, p, o = job.compiled, job.procedure, job.opened
    if c is None or p is None or o is None:
        return view
    view.opened, view.procedure, view.version = True, p.id, o.body.version
    view.title, view.reason, view.refuses = p.title, o.body.because or p.reason, c.refuses
    view.asks = [v.AskView(field=k, says=says) for k, says in c.asks.items()]
    view.tree, view.posture = c.tree, job.tree.posture if job.tree else "flat"
    view.steps = _rail(job)
    view.now = next((s.id for s in view.steps if s.state == "now"), "")
    view.done, view.count = len(job.done), len(view.steps)
    view.left_out = [v.LeftOutView(id=x.id, title=x.title, why=x.why) for x in c.left_out]
    view.parts = _parts(job, view.now)
    view.reconnect, view.leads = _reconnect(job), _leads(job)
    view.changes = [
        v.ChangeView(title=CHANGES[x.change].title, place=x.place, since=x.at, by=x.by, key=x.key)
        for x in job.standing
        if x.change in CHANGES
    ]
    view.others = job.known.changes
    view.pick = picked(job, case)
    view.proof = _proof(job)
    view.shop = _shop(job, case.context.as_of)
    view.cost = cost_of(job)
    view.left = _left(job)
    view.state = state_words(job, view)
    view.owner = str(job.said("owner") or o.by)
    view.waits, view.expected = str(job.said("waits") or ""), job.said("expected")
    view.cause, view.root = str(job.said("cause") or ""), str(job.said("root") or "")
    view.pair = pair_of(job)
    view.restarts = str(job.said("restarts") or "")
    return view


def _offered(case: AnyCase) -> list[v.LeftOutView]:
    """The procedures that are for a set of this kind."""
    kind = case.context.kind
    return [
        v.LeftOutView(id=p.id, title=p.title, why=p.reason) for p in PROCEDURES.values() if kind in p.kinds
    ]


def _rail(job: Job) -> list[v.JobStepView]:
    out, found_now = [], False
    past = own(job.known.past, job.procedure.id if job.procedure else "", str(job.marks.get("kind")))
    asked = bool(job.compiled and (job.compiled.asks or job.compiled.refuses))
    for n, s in enumerate(job.steps, 1):
        d = job.done.get(s.id)
        waits = job.waits.get(s.id, [])
        state: v.StepState = "later"
        if d is not None:
            state = "skipped" if d.skipped else "done"
        elif not found_now and not asked:
            state, found_now = "now", True
        elif not waits:
            state = "open"
        mean, here = step_minutes(past, s.id, s.minutes)
        row = v.JobStepView(
            n=n,
            state=state,
            waits=waits,
            may_skip=not (s.proves or s.hang or s.restore or s.on)
            and s.meets not in ("isolated", "proved", "given_back"),
            mean=f"{in_words(mean)} here" if here else in_words(mean),
            looks=[_look(job, s, x) for x in s.inspects],
            figure=_figure(job, s),
            **{k: getattr(s, k) for k in _PLAIN},
        )
        if d is not None:
            row.by, row.at, row.said, row.skipped, row.entry = d.by, d.at, d.said, d.skipped, d.entry
        rows = records_for(job, s) if s.opens and s.opens != "make_safe" else []
        if rows:
            row.record_verdict, row.record_says = rows[-1].verdict, rows[-1].says
        out.append(row)
    return out


_PLAIN = (
    "id",
    "title",
    "do",
    "why",
    "mistake",
    "caution",
    "record",
    "found",
    "way",
    "hold",
    "meets",
    "second",
    "opens",
    "proves",
    "shop",
    "cause",
    "twin_asked",
    "off",
    "on",
    "renew",
)


def _look(job: Job, s: JobStep, look: str) -> v.LookView:
    told, seen = LOOKS[look], newest_looks(job).get((s.id, look))
    signs = look_signs(look)
    rows = [v.SignView(id=k, says=says, fate=k.split(".")[0]) for k, says in signs.items()]  # type: ignore[arg-type]
    chosen = list(seen.body.signs) if seen is not None else []
    return v.LookView(
        look=look,
        title=told.title,
        signs=rows,
        seen=chosen,
        fate=fate_of(look, chosen)[1] if seen is not None else "",
        pair=told.pair,
        never=told.never,
    )


def _figure(job: Job, s: JobStep) -> v.FigureView | None:
    f, d = s.figure, job.done.get(s.id)
    if f is None:
        return None
    read = d.figure if d is not None else None
    found = figure_finding(job, s, read) if read is not None else None
    return v.FigureView(
        label=f.label,
        units=[u.code for u in DIMENSIONS[f.dimension]],
        read=read,
        verdict=found.verdict if found is not None else None,
    )


def _parts(job: Job, now: str) -> list[v.PartView]:
    tree = job.tree
    if tree is None:
        return []
    hand = job.step(now)
    in_hand = {*(hand.off if hand else []), *(hand.on if hand else [])}
    state: dict[str, str] = {}
    laid: dict[str, int] = {}
    for s in job.steps:
        d = job.done.get(s.id)
        if d is None or d.skipped:
            continue
        for p in s.off:
            if p in tree.by_part and tree.by_part[p].temporary:
                state[p] = "gone"
            else:
                state[p], laid[p] = "off", len(laid) + 1
        for p in s.on:
            state[p] = "renewed" if p in s.renew else "back"
            laid.pop(p, None)
        for p in s.gone:
            state[p] = "gone"
            laid.pop(p, None)
    fates = {x.body.look: fate_of(x.body.look, list(x.body.signs))[1] for x in newest_looks(job).values()}
    return [
        v.PartView(
            id=p.id,
            title=p.title,
            does=p.does,
            wears=p.wears,
            drawn=p.drawn,
            state=state.get(p.id, "on"),  # type: ignore[arg-type]
            hand=p.id in in_hand,
            at_step=_next_step(job, p),
            laid=laid.get(p.id),
            fate=fates.get(p.judged, "") if p.judged else "",
        )
        for p in tree.part
    ]


def _next_step(job: Job, part: TreePart) -> str:
    """The step at which this part is next touched, as it is numbered on the rail."""
    for n, s in enumerate(job.steps, 1):
        if s.id not in job.done and part.id in (*s.off, *s.on):
            return str(n)
    return ""


def _reconnect(job: Job) -> list[v.BackView]:
    """The list that writes itself: what is off still, and what was found how."""
    out = [
        v.BackView(what=x.body.what or x.body.step, how=x.body.how, by=x.by, back=_as_left(job, x.body.what))
        for x in job.of("found")
    ]
    parts = job.tree.by_part if job.tree else {}
    off = [p for p in _parts(job, "") if p.state == "off"]
    out += [v.BackView(what=parts[p.id].title, how="off") for p in off if p.id in parts]
    for s in job.steps:
        d = job.done.get(s.id)
        if d is not None and d.said and s.record:
            out.append(v.BackView(what=s.record, how=d.said, by=d.by, back=_later_done(job, s)))
    return out


def _as_left(job: Job, what: str) -> bool:
    return any(x.body.what == what for x in job.of("left"))


def _later_done(job: Job, step: JobStep) -> bool:
    """Is everything of this step back where it was?"""
    wanted = {*step.off} - {*step.gone}
    put = {x for s in job.steps if s.id in job.done and not job.done[s.id].skipped for x in s.on}
    return wanted <= put if wanted else False


def _leads(job: Job) -> list[v.BackView]:
    rows: dict[str, v.BackView] = {}
    for x in job.of("lead"):
        lead = x.body.lead.strip()
        if x.body.back and lead in rows:
            rows[lead] = rows[lead].model_copy(update={"back": True})
        elif lead:
            how = x.body.conductor + (f", shares a nut with {x.body.shares}" if x.body.shares else "")
            rows[lead] = v.BackView(what=lead, how=how, by=x.by)
    return list(rows.values())


def _proof(job: Job) -> list[v.ProofView]:
    out = []
    for s in job.steps:
        if not s.proves:
            continue
        found = prove(job, s.proves)
        told = max(found, key=lambda f: f.verdict.rank, default=None)
        out.append(
            v.ProofView(
                step=s.id,
                title=s.title,
                verdict=worst([f.verdict for f in found])[0] if found else None,
                says=told.reason if told is not None else None,
                done=s.id in job.done,
            )
        )
    return out


def _shop(job: Job, as_of: datetime) -> v.ShopView | None:
    sent = job.of("sent")
    if not sent:
        return None
    s, back = sent[-1], job.of("accepted")
    told = back[-1] if back and back[-1].at >= s.at else None
    late = s.body.promised is not None and s.body.promised < as_of.date() and told is None
    return v.ShopView(
        what=s.body.what,
        shop=s.body.shop,
        sent=s.at,
        promised=s.body.promised,
        price=s.body.price.text if s.body.price else "",
        asked=[x for x in ASKED_BACK if x not in (told.body.wrote if told else [])],
        wrote=list(s.body.wrote),
        reported=list(told.body.wrote) if told else [],
        accepted=None if told is None or told.body.good is None else told.body.good == "yes",
        overdue=late,
    )


# What a shop reports: a bill is no report. Common practice, no source.
ASKED_BACK = (
    "clearances found and left",
    "run-outs",
    "bearing codes",
    "balance grade",
    "insulation",
    "test",
    "old parts",
)


def _left(job: Job) -> str:
    past = own(job.known.past, job.procedure.id if job.procedure else "", str(job.marks.get("kind")))
    left = sum(step_minutes(past, s.id, s.minutes)[0] for s in job.steps if s.id not in job.done)
    return in_words(left) if left else ""


def state_words(job: Job, view: v.JobView) -> str:
    """How the job stands, for whoever called: no figures, no names of parts."""
    if view.shop is not None and view.shop.accepted is None:
        return "at the shop"
    if job.said("waits"):
        return f"waiting for {job.said('waits')}"
    if view.asks:
        return "being prepared"
    if all(s.state in ("done", "skipped") for s in view.steps):
        return "running again, being closed"
    proving = any(s.id == "P2" and s.state == "done" for s in view.steps)
    if proving:
        return "running again, being proved"
    return "under repair" if view.done else "being prepared"
