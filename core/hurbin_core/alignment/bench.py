"""The alignment of a coupling as a bench: one visit folded, judged after its last pass, planned, and told as what happened."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from ..base import (
    Bench,
    Due,
    Evaluation,
    Finding,
    Ghost,
    Limits,
    Missing,
    Needs,
    Phrase,
    PlanView,
    Problem,
    Quantity,
    SeriesPoint,
    StoryLine,
    Verdict,
    amount,
    concluded,
    phrase,
    register,
    rule_title,
    rules_version,
)  # fmt: skip
from ..logbook import Context
from ..plant import motor_facts
from ..safety import SetFacts, guarded
from .before import before_findings, not_looked_at
from .bolts import bolt_view
from .drawing import feet_ask, shaft_views
from .entry import AlignmentEntry, Taken
from .fit import fit_findings
from .job import MEASURES, Job, Pass, Sheet, fold
from .judging import Held, flange_findings, held_to, pose_findings
from .packing import pack_findings
from .packs import parse_pack, write_pack
from .passes import entries_of, log_of, pass_values, pass_views, target_for, wander_finding
from .planning import TITLES, plan_view
from .poses import Pose, closure_miss
from .reading import FIELDS, PER_100, WORDS, Typed, check_gaps
from .shims import FEET
from .standing import lacking, of_pass
from .tolerance import by_speed


def evaluate(entries: Sheet, context: Context) -> Evaluation:
    """Where does the motor stand against the pump, is that good enough for this speed, and which shims bring it there?

    Many entries a visit, folded by (taken_at, uuid); the last pass is judged. Lengths in mm, angles in mm per 100 mm. Offset is
    held against offset, angle against angle; the verdict is on the difference to the cold target. Good only if value and
    uncertainty together pass; inconclusive while the limit lies within the uncertainty. A flange's gaps are judged as a
    difference and prove no alignment. Every field may be missing. Sources: rules.toml, limits.toml, tolerance.toml.
    """
    job, limits = fold(entries, context), Limits(context.overrides)
    if not SetFacts.of(context).coupled and context.kind:
        job.problems.append(Problem(code="no_coupling", field="method", value="", message="This kind of set has no coupling to align.", right="a set with a coupling"))
    last = job.last
    pose = last.pose if last is not None and not any(p.code == "no_coupling" for p in job.problems) else None
    rpm = job.typed.value("speed") or motor_facts(context.motor).speed_rpm
    spacer = job.typed.value("plane_distance") if job.measures.get("coupling") == "spacer" else None
    held = held_to(job.typed, job.measures.get("coupling") == "spacer", rpm)
    target, grown = target_for(job)
    front, rear = job.typed.value("x_front"), job.typed.value("x_rear")
    raw, values, waiting = _judge(job, pose, held, target, grown, spacer, limits, context)
    views, asks = pass_views(job, target, grown, held, spacer, lambda p: of_pass(p, job, rpm, grown, context))
    fitted, fit_asks = fit_findings(job, context)
    packed, even = pack_findings(job)
    before = before_findings(job, limits)
    found, verdict, beside = concluded([*raw, *before, *fitted, *packed], lacking(job, rpm, grown, context), job.problems)
    flange = last is not None and last.body.method == "flange"
    return Evaluation(
        bench="alignment",
        rules_version=rules_version(),
        conditions=f"taken={last.body.taken}" if last is not None else "",
        verdict=verdict,
        beside=beside,
        values=values | (_values(pose, target, grown, front, rear) if pose is not None else {}),
        findings=found,
        settled=_settled(job, even),
        questions=[*_questions(job, last, pose, target, front, rear), *asks, *fit_asks, *job.conflicts],
        waiting=[*waiting, *([] if last is None or pose is None else _waiting(job, last, held, rpm, grown))],
        points=_points(job),
        ghosts=_ghosts(context, last.body if last is not None else AlignmentEntry()),
        due=_again(last, context) if found and last is not None else None,
        shafts=shaft_views(pose, target, front, rear),
        passes=views,
        bolts=bolt_view(int(job.measures.get("bolts") or 4), job.typed.value("torque")),
        plan=None if flange else _plan(job, pose, target, held, before, context),
        defaults={"taken": job.next_taken},
        cautions=_cautions(job, pose),
        problems=job.problems,
        missing=_missing(job, last, pose, rpm),
    )


def _judge(job: Job, pose: Pose | None, held: Held, target: float, grown: bool, spacer: float | None, limits: Limits,
           context: Context) -> tuple[list[Finding], dict[str, Quantity], list[Phrase]]:  # fmt: skip
    last = job.last
    if last is not None and last.body.method == "flange":
        before = len(last.typed.problems)
        check_gaps(last.typed)
        job.problems += last.typed.problems[before:]
        if last.typed.value("face_diameter") == 0:
            return [], {}, []
        found, values = flange_findings(last.typed, limits)
        return found, values, [phrase("flange.joint")] if found else []
    if pose is None:
        return [], {}, []
    wander, differs = wander_finding(job, held, context)
    return [*pose_findings(pose, held, target, grown, spacer), *([wander] if wander else [])], {}, differs


def _settled(job: Job, even_packs: bool) -> list[str]:
    """What this visit looked at and found not to be so."""
    fixed = job.fit.get("floating_shaft") is False or (
        job.fit.get("screws_pump") == "floating" and job.fit.get("screws_motor") == "fixed"
    )
    seen = {"shim_packs": even_packs, "hub_fixing": fixed, "coupling_signs": job.before.get("signs") == []}
    return [question for question, no in seen.items() if no]


def _plan(
    job: Job, pose: Pose | None, target: float, held: Held, before: list[Finding], context: Context
) -> PlanView | None:
    if pose is None or (job.last is not None and job.last.typed.problems):
        return None
    first = [f for f in before if f.verdict.rank >= Verdict.ACT.rank]
    if first:
        return PlanView(waits=[phrase("plan.before", what=", ".join(rule_title(f.rule).lower() for f in first))])
    if job.last is not None and len(job.moves) > job.last.moves:
        return PlanView(waits=[phrase("plan.read_again")])
    return plan_view(job, pose, target, held, context)


def _cautions(job: Job, pose: Pose | None) -> list[Phrase]:
    if pose is None and not job.moves:
        return [phrase("caution.coupling")]
    return [phrase("caution.guard")] if any(p.body.taken == "as_left" for p in job.passes) and not job.fit.get("guard_on") else []


def _again(last: Pass, context: Context) -> Due:
    """When is this coupling looked at again, if nothing moved it before?"""
    days = Limits(context.overrides).value("alignment.again_days")
    return Due(at=last.entry.taken_at + timedelta(days=days), reason=phrase("align.again"))


def _waiting(job: Job, last: Pass, held: Held, rpm: float | None, grown: bool) -> list[Phrase]:
    out: list[Phrase] = list(held.shown)
    if any(x.word in WORDS for x in last.typed.got.values()):
        out.append(phrase("align.words"))
    if rpm is not None and by_speed(rpm) is None:
        out.append(phrase("align.no_speed"))
    if last.body.method == "laser":
        out.append(phrase("align.laser"))
    if last.body.method in ("rim_face", "reverse") and last.typed.value("sag") is None:
        out.append(phrase("align.sag"))
    if last.body.temperature == "hot":
        out.append(phrase("align.hot"))
    elif not grown and not job.measures.get("near_ambient"):
        out.append(phrase("align.no_growth"))
    left = not_looked_at(job)
    if left and last.body.taken == "as_found":
        out.append(phrase("before.left", what=", ".join(left)))
    return out


def _missing(job: Job, last: Pass | None, pose: Pose | None, rpm: float | None) -> list[Missing]:
    got = job.typed.got
    method = last.body.method if last is not None else "straightedge"
    wanted: list[tuple[str, str]] = []
    if method in ("straightedge", "rim_face", "flange") and "face_diameter" not in got:
        wanted.append(("face_diameter", "The diameter over the faces: without it a gap is no angle."))
    if (method == "reverse" or job.measures.get("coupling") == "spacer") and "plane_distance" not in got:
        wanted.append(("plane_distance", "The distance between the two planes: without it two offsets are no angle."))
    if method == "flange":
        if "support_distance" not in got:
            wanted.append(("support_distance", "Flange to support: without it the lift is not known."))
    else:
        wanted += [(n, f"{FIELDS[n].label}: without it no foot can be told what it asks for.") for n in ("x_front", "x_rear") if n not in got]
    if rpm is None and method != "flange":
        wanted.append(("speed", "The speed: what is close enough depends on it."))
    flange_read = last is not None and method == "flange" and any(n.startswith("gap_") for n in last.typed.got)
    if pose is None and not flange_read:
        wanted.append(("method", "No reading yet."))
    if last is not None and last.body.taken == "as_left" and last.body.tight is None and not last.tightened:
        wanted.append(("tight", "Say whether this was read after the last tightening."))
    if last is not None and len(job.moves) > last.moves:
        wanted.append(("method", "It was moved and not read again."))
    return [Missing(field=n, message=m) for n, m in wanted]


def _values(pose: Pose, target: float, grown: bool, front: float | None, rear: float | None) -> dict[str, Quantity]:
    out = pass_values(pose)
    for tail, plane, aim in (("v", pose.vertical, target), ("h", pose.horizontal, 0.0)):
        for name, asked in zip(("front", "rear"), feet_ask(plane, aim, front, rear), strict=True):
            if asked is not None:
                out[f"{name}_{tail}"] = amount(asked, "mm")
    if grown:
        out["target"] = amount(target, "mm")
    return out


def _questions(job: Job, last: Pass | None, pose: Pose | None, target: float, front: float | None, rear: float | None) -> list[Phrase]:
    out: list[Phrase] = []
    if pose is None or last is None:
        return out
    a, b = feet_ask(pose.vertical, target, front, rear)
    slope = pose.vertical.slope
    if a is not None and b is not None and slope is not None and abs(a - b) < 1e-9 and abs(slope) > 1e-9:
        out.append(phrase("align.four_alike"))
    if last.body.method == "straightedge" and _like_dial(last.typed):
        out.append(phrase("align.like_dial"))
    return out


def _like_dial(r: Typed) -> bool:
    """Steps that stand at zero at 12, close and are large: a dial's readings typed as a feeler's."""
    steps = r.clock("step", False)
    return all(v is not None for v in steps.values()) and steps[12] == 0 and closure_miss(steps) == 0 and any(abs(v or 0) > 0.2 for v in steps.values())


def _points(job: Job) -> list[SeriesPoint]:
    """The first pass as found and the last as left: what is trended; every pass of another kind once, its last."""
    kept: dict[Taken, Pass] = {}
    for p in job.passes:
        if p.pose is not None and p.body.taken is not None and not (p.body.taken == "as_found" and "as_found" in kept):
            kept[p.body.taken] = p
    out: list[SeriesPoint] = []
    for taken, p in kept.items():
        if p.pose is None:
            continue
        rows = (
            ("align_offset_v", p.pose.vertical.offset, "mm"), ("align_offset_h", p.pose.horizontal.offset, "mm"),
            ("align_angle_v", p.pose.vertical.slope, "mm/100mm"), ("align_angle_h", p.pose.horizontal.slope, "mm/100mm"),
        )  # fmt: skip
        out += [SeriesPoint(measurand=m, part="", conditions=f"taken={taken}", value=v * (PER_100 if unit != "mm" else 1), unit=unit) for m, v, unit in rows if v is not None]
    return out


def _ghosts(context: Context, body: AlignmentEntry) -> list[Ghost]:
    """What stood at these fields last time, crossed out where it was another pass or method."""
    last = context.last
    if last is None:
        return []
    differs = "" if last.body.get("method", "straightedge") == body.method else "other instrument"
    differs = differs or ("" if last.body.get("taken", "as_found") == body.taken else "other pass")
    return [
        Ghost(field=n, whose="last", text=str(v["text"]), unit=str(v.get("unit", "")), taken_at=last.taken_at.isoformat(), differs=differs)
        for n, v in last.body.items() if n in FIELDS and isinstance(v, dict) and "text" in v
    ]  # fmt: skip


def facts(entries: Sheet) -> dict[str, Any]:
    """What a record keeps: the last pass with the set's measures and the packs as they lie, as typed, and the log of the whole visit."""
    if not entries:
        return {}
    job = fold(entries, Context(as_of=max(e.taken_at for e in entries)))
    flat = job.last.entry.body.model_copy(update={**job.measures, **job.before, **job.fit, "taken": job.last.body.taken}) if job.last is not None else AlignmentEntry.model_validate({**job.measures, **job.before, **job.fit})
    lying = {f"pack_{f}": write_pack(x.pack, x.unmeasured) for f in FEET if (x := job.lying[f]) is not None}
    body = dict(flat.model_dump(mode="json", exclude_defaults=True)) | lying
    return body if len(job.entries) == 1 else {**body, "log": log_of(job.entries)}


def rows_of(body: dict[str, Any], at: datetime) -> list[tuple[datetime, dict[str, Any]]]:
    """A record as lines of a table: one a pass, each with the set's measures."""
    log = body.get("log")
    if not isinstance(log, list):
        return [(at, body)]
    shared = {n: body[n] for n in MEASURES if n in body}
    return [(datetime.fromisoformat(x["at"]), {**shared, **x["body"]}) for x in log if x["body"].get("kind", "pass") == "pass"]


def entries_again(body: dict[str, Any], at: datetime) -> list[tuple[datetime, dict[str, Any], str]]:
    """The entries of a record from its facts: when, body, by whom."""
    return [(e.taken_at, e.body.model_dump(mode="json", exclude_defaults=True), e.by) for e in entries_of(body, at)]


_SAID = {"tightened": "story.tightened", "before": "story.before", "fit": "story.fit"}


def story(body: dict[str, Any]) -> list[StoryLine]:
    """A visit as what happened, line by line."""
    lines: list[StoryLine] = []
    job = fold(entries_of(body, datetime.fromisoformat("2000-01-01T00:00:00+00:00")), Context(as_of=datetime.fromisoformat("2000-01-01T00:00:00+00:00")))
    passes = {p.entry.uuid: p for p in job.passes}
    for e in job.entries:
        p = passes.get(e.uuid)
        if p is not None:
            values = pass_values(p.pose) if p.pose is not None else {}
            says = phrase("story.pass", title=p.title, **values) if len(values) == 4 else phrase("story.pass_half", title=p.title)
            lines.append(StoryLine(at=e.taken_at, by=e.by, says=says))
        elif e.body.kind == "moved":
            packs = ", ".join(f"{TITLES[f]} {write_pack(got[0], got[1])}" for f in FEET if (got := parse_pack(getattr(e.body, f"pack_{f}"), f)) is not None)
            lines.append(StoryLine(at=e.taken_at, by=e.by, says=phrase("story.moved", packs=packs or "pushed sideways")))
        else:
            lines.append(StoryLine(at=e.taken_at, by=e.by, says=phrase(_SAID.get(e.body.kind, "story.measures"))))
    return lines if isinstance(body.get("log"), list) else []


ALIGNMENT = register(
    Bench(
        name="alignment",
        title="Alignment",
        entry=AlignmentEntry,
        context=Context,
        evaluate=guarded(evaluate),
        needs=Needs(slots=("motor", "control"), earlier=12),
        facts=facts,
        many=True,
        story=story,
        rows=rows_of,
        entries=entries_again,
    )
)
