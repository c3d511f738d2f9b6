"""The alignment of a coupling as a bench: one visit folded, judged after its last pass, planned, and told as
what happened.
"""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from ..base import (
    Bench,
    Due,
    Effect,
    Evaluation,
    Filed,
    Finding,
    Ghost,
    Kept,
    Limits,
    Missing,
    Needs,
    Phrase,
    Problem,
    Quantity,
    SeriesPoint,
    StoryLine,
    Verdict,
    amount,
    body_of,
    concluded,
    kept_fields,
    nominal,
    phrase,
    rule_title,
    rules_version,
)
from ..logbook import AnyCase, Conditions, Context, ghosts_of
from ..plant import motor_facts
from ..safety import SetFacts, guarded, live_evidence
from ..stores import VANS, vans_of
from .before import before_findings, not_looked_at
from .bolts import bolt_view
from .drawing import feet_ask, shaft_views
from .entry import AlignmentEntry, PassKind, PassRead
from .fit import fit_findings
from .judging import GoverningTolerance, flange_findings, held_to, position_findings
from .packing import pack_findings
from .packs import parse_pack, write_pack
from .passes import drift_finding, entries_of, log_of, pass_values, pass_views, target_for
from .planning import TITLES, plan_view
from .reading import FIELDS, PER_100, WORDS, Typed, check_gaps
from .shaft_position import ShaftPosition, closure_miss
from .shims import FEET
from .standing import lacking, of_pass
from .tolerance import by_speed
from .view import AlignmentView, PlanView
from .visit import Pass, Sheet, Visit, bookings, fold


def replay(entries: Sheet, case: AnyCase) -> Visit:
    """How does the visit stand after these entries? In any order, from any device."""
    return fold(entries, case.context.overrides)


def judge(visit: Visit, case: AnyCase) -> Evaluation[AlignmentView]:
    """Where does the motor stand against the pump, is that good enough for this speed, and which shims bring
    it there?

    The last pass is judged. Lengths in mm, angles in mm per 100 mm. Offset is held against offset, angle
    against angle; the verdict is on the difference to the cold target. Good only if value and uncertainty
    together pass; inconclusive while the limit lies within the uncertainty. A flange's gaps are judged as a
    difference and prove no alignment. Every field may be missing. Sources: rules.toml, limits.toml,
    tables.toml.
    """
    context = case.context
    limits, last = Limits(context.overrides), visit.last
    problems = list(visit.problems)
    if not SetFacts.of(case).coupled and context.kind:
        message = "This kind of set has no coupling to align."
        problems.append(
            Problem(
                code="no_coupling", field="method", value="", message=message, right="a set with a coupling"
            )
        )
    none = any(p.code == "no_coupling" for p in problems)
    position = last.position if last is not None and not none else None
    rpm = visit.typed.value("speed") or motor_facts(context.motor).speed_rpm
    spacer = visit.typed.value("plane_distance") if visit.said("coupling") == "spacer" else None
    held = held_to(visit.typed, visit.said("coupling") == "spacer", rpm)
    target, grown = target_for(visit)
    front, rear = visit.typed.value("x_front"), visit.typed.value("x_rear")
    raw, values, waiting = _judge(visit, problems, position, held, target, grown, spacer, limits, context)
    views, asks = pass_views(
        visit, target, grown, held, spacer, lambda p: of_pass(p, visit, rpm, grown, context)
    )
    fitted, fit_asks = fit_findings(visit, context)
    packed, even = pack_findings(visit, limits)
    before = before_findings(visit, limits)
    found, verdict, beside = concluded(
        [*raw, *before, *fitted, *packed], lacking(visit, rpm, grown, context), problems
    )
    flange = last is not None and last.body.method == "flange"
    return Evaluation[AlignmentView](
        bench="alignment",
        rules_version=rules_version(),
        conditions=conditions_of(last).key if last is not None else "",
        verdict=verdict,
        beside=beside,
        values=values | (_values(position, target, grown, front, rear) if position is not None else {}),
        findings=found,
        settled=_settled(visit, even),
        questions=[
            *_questions(visit, last, position, target, front, rear),
            *asks,
            *fit_asks,
            *visit.conflicts,
        ],
        waiting=[
            *waiting,
            *([] if last is None or position is None else _waiting(visit, last, held, rpm, grown)),
        ],
        points=_points(visit),
        ghosts=_ghosts(context, last.body if last is not None else PassRead()),
        due=_again(last, context) if found and last is not None else None,
        cautions=_cautions(visit, position),
        problems=problems,
        missing=_missing(visit, last, position, rpm),
        view=AlignmentView(
            shafts=shaft_views(position, target, front, rear),
            passes=views,
            bolts=bolt_view(int(visit.said("bolts") or 4), visit.typed.value("torque")),
            plan=None if flange else _plan(visit, position, target, held, before, case),
            defaults={"taken": visit.next_taken},
        ),
    )


def conditions_of(p: Pass) -> Conditions:
    """The state of one pass: what it is of the visit, read with what, on hot or cold machines."""
    return Conditions.of(taken=p.body.taken, method=p.body.method, temperature=p.body.temperature)


def effects(visit: Visit, case: AnyCase, recorded: bool) -> list[Effect]:
    """Shims that were laid come out of the van, those that came out go back to it."""
    return [*live_evidence(judge)(visit, case, recorded), *bookings(visit, vans_of(case))]


def _judge(
    visit: Visit,
    problems: list[Problem],
    position: ShaftPosition | None,
    held: GoverningTolerance,
    target: float,
    grown: bool,
    spacer: float | None,
    limits: Limits,
    context: Context,
) -> tuple[list[Finding], dict[str, Quantity], list[Phrase]]:
    last = visit.last
    if last is not None and last.body.method == "flange":
        gaps = Typed(last.typed.got)
        check_gaps(gaps, limits)
        problems += gaps.problems
        if last.typed.value("face_diameter") == 0:
            return [], {}, []
        found, values = flange_findings(last.typed, limits)
        return found, values, [phrase("flange.joint")] if found else []
    if position is None:
        return [], {}, []
    drift, differs = drift_finding(visit, held, context)
    found = position_findings(position, held, target, grown, spacer)
    return [*found, *([drift] if drift else [])], {}, differs


def _settled(visit: Visit, even_packs: bool) -> list[str]:
    """What this visit looked at and found not to be so."""
    fixed = visit.said("floating_shaft") is False or (
        visit.said("screws_pump") == "floating" and visit.said("screws_motor") == "fixed"
    )
    seen = {"shim_packs": even_packs, "hub_fixing": fixed}
    return [question for question, no in seen.items() if no]


def _plan(
    visit: Visit,
    position: ShaftPosition | None,
    target: float,
    held: GoverningTolerance,
    before: list[Finding],
    case: AnyCase,
) -> PlanView | None:
    if position is None or (visit.last is not None and visit.last.typed.problems):
        return None
    first = [f for f in before if f.verdict.rank >= Verdict.ACT.rank]
    if first:
        return PlanView(
            waits=[phrase("plan.before", what=", ".join(rule_title(f.rule).lower() for f in first))]
        )
    if visit.last is not None and len(visit.moves) > visit.last.moves:
        return PlanView(waits=[phrase("plan.read_again")])
    return plan_view(visit, position, target, held, case)


def _cautions(visit: Visit, position: ShaftPosition | None) -> list[Phrase]:
    if position is None and not visit.moves:
        return [phrase("caution.coupling")]
    return (
        [phrase("caution.guard")]
        if any(p.body.taken == "as_left" for p in visit.passes) and not visit.said("guard_on")
        else []
    )


def _again(last: Pass, context: Context) -> Due:
    """When is this coupling looked at again, if nothing moved it before?"""
    days = Limits(context.overrides).value("alignment.again_days")
    return Due(
        at=last.entry.taken_at + timedelta(days=days), reason=phrase("align.again", days=nominal(days, "d"))
    )


def _waiting(
    visit: Visit, last: Pass, held: GoverningTolerance, rpm: float | None, grown: bool
) -> list[Phrase]:
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
    elif not grown and not visit.said("near_ambient"):
        out.append(phrase("align.no_growth"))
    left = not_looked_at(visit)
    if left and last.body.taken == "as_found":
        out.append(phrase("before.left", what=", ".join(left)))
    return out


def _missing(
    visit: Visit, last: Pass | None, position: ShaftPosition | None, rpm: float | None
) -> list[Missing]:
    got = visit.typed.got
    method = last.body.method if last is not None else "straightedge"
    wanted: list[tuple[str, str]] = []
    if method in ("straightedge", "rim_face", "flange") and "face_diameter" not in got:
        wanted.append(("face_diameter", "Enter the face diameter. Without it a gap gives no angularity."))
    if (method == "reverse" or visit.said("coupling") == "spacer") and "plane_distance" not in got:
        wanted.append(
            (
                "plane_distance",
                "Enter the distance between the two planes. Without it two offsets give no angularity.",
            )
        )
    if method == "flange":
        if "support_distance" not in got:
            wanted.append(
                (
                    "support_distance",
                    "Enter the distance from flange to support. Without it the lift is not known.",
                )
            )
    else:
        wanted += [
            (n, f"{FIELDS[n].label}: enter it. Without it no correction at the feet can be worked out.")
            for n in ("x_front", "x_rear")
            if n not in got
        ]
    if rpm is None and method != "flange":
        wanted.append(("speed", "Enter the speed. The tolerance depends on it."))
    flange_read = (
        last is not None and method == "flange" and any(n.startswith("gap_") for n in last.typed.got)
    )
    if position is None and not flange_read:
        wanted.append(("method", "No reading yet."))
    if last is not None and last.body.taken == "as_left" and last.body.tight is None and not last.tightened:
        wanted.append(("tight", "Enter whether this was read after the last tightening."))
    if last is not None and len(visit.moves) > last.moves:
        wanted.append(("method", "Read again: the motor was moved after the last reading."))
    return [Missing(field=n, message=m) for n, m in wanted]


def _values(
    position: ShaftPosition, target: float, grown: bool, front: float | None, rear: float | None
) -> dict[str, Quantity]:
    out = pass_values(position)
    for tail, plane, aim in (("v", position.vertical, target), ("h", position.horizontal, 0.0)):
        for name, asked in zip(("front", "rear"), feet_ask(plane, aim, front, rear), strict=True):
            if asked is not None:
                out[f"{name}_{tail}"] = amount(asked, "mm")
    if grown:
        out["target"] = amount(target, "mm")
    return out


def _questions(
    visit: Visit,
    last: Pass | None,
    position: ShaftPosition | None,
    target: float,
    front: float | None,
    rear: float | None,
) -> list[Phrase]:
    out: list[Phrase] = []
    if position is None or last is None:
        return out
    a, b = feet_ask(position.vertical, target, front, rear)
    slope = position.vertical.slope
    if a is not None and b is not None and slope is not None and abs(a - b) < 1e-9 and abs(slope) > 1e-9:
        out.append(phrase("align.four_alike"))
    if last.body.method == "straightedge" and _like_dial(last.typed):
        out.append(phrase("align.like_dial"))
    return out


def _like_dial(r: Typed) -> bool:
    """Steps that stand at zero at 12, close and are large: a dial's readings typed as a feeler's."""
    steps = r.clock("step", False)
    return (
        all(v is not None for v in steps.values())
        and steps[12] == 0
        and closure_miss(steps) == 0
        and any(abs(v or 0) > 0.2 for v in steps.values())
    )


def _points(visit: Visit) -> list[SeriesPoint]:
    """The first pass as found and the last as left: what is trended; every pass of another kind once, its
    last.
    """
    kept: dict[PassKind, Pass] = {}
    for p in visit.passes:
        if (
            p.position is not None
            and p.body.taken is not None
            and not (p.body.taken == "as_found" and "as_found" in kept)
        ):
            kept[p.body.taken] = p
    out: list[SeriesPoint] = []
    for p in kept.values():
        if p.position is None:
            continue
        rows = (
            ("align_offset_v", p.position.vertical.offset, "mm"),
            ("align_offset_h", p.position.horizontal.offset, "mm"),
            ("align_angle_v", p.position.vertical.slope, "mm/100mm"),
            ("align_angle_h", p.position.horizontal.slope, "mm/100mm"),
        )
        out += [
            SeriesPoint(
                measurand=m,
                part="",
                conditions=conditions_of(p).key,
                value=v * (PER_100 if unit != "mm" else 1),
                unit=unit,
            )
            for m, v, unit in rows
            if v is not None
        ]
    return out


def _ghosts(context: Context, body: PassRead) -> list[Ghost]:
    """What stood at these fields last time, crossed out where it was another pass or method."""
    last = context.last
    if last is None:
        return []
    differs = "" if last.body.get("method", "straightedge") == body.method else "other method"
    differs = differs or ("" if last.body.get("taken", "as_found") == body.taken else "other pass")
    return ghosts_of(last, [n for n in last.body if n in FIELDS], differs=differs)


def facts(entries: Sheet) -> dict[str, Any]:
    """What a record keeps: the last pass with the set's measures and the packs as they lie, as typed, and the
    log of the whole visit.
    """
    if not entries:
        return {}
    visit = fold(entries)
    last = visit.last
    flat = (
        last.entry.body.model_copy(update={**visit.kept, "taken": last.body.taken})
        if last is not None
        else PassRead(**visit.kept)
    )
    lying = {f"pack_{f}": write_pack(x.pack, x.unmeasured) for f in FEET if (x := visit.lying[f]) is not None}
    body = body_of(flat) | lying
    return body if len(visit.entries) == 1 else {**body, "log": log_of(visit.entries)}


def rows_of(body: dict[str, Any], at: datetime) -> list[tuple[datetime, dict[str, Any]]]:
    """A record as lines of a table: one a pass, each with the set's measures."""
    log = body.get("log")
    if not isinstance(log, list):
        return [(at, body)]
    of_the_set = [n for n, k in kept_fields(AlignmentEntry).items() if k.kept is Kept.SET]
    shared = {n: body[n] for n in of_the_set if n in body}
    return [
        (datetime.fromisoformat(x["at"]), {**shared, **x["body"]})
        for x in log
        if x["body"].get("kind", "pass") == "pass"
    ]


def entries_again(body: dict[str, Any], at: datetime) -> list[tuple[datetime, dict[str, Any], str]]:
    """The entries of a record from its facts: when, body, by whom."""
    return [(e.taken_at, body_of(e.body), e.by) for e in entries_of(body, at)]


_SAID = {"tightened": "story.tightened", "before": "story.before", "fit": "story.fit"}


def story(body: dict[str, Any]) -> list[StoryLine]:
    """A visit as what happened, line by line."""
    lines: list[StoryLine] = []
    visit = fold(entries_of(body, datetime.fromisoformat("2000-01-01T00:00:00+00:00")))
    passes = {p.entry.uuid: p for p in visit.passes}
    for e in visit.entries:
        p = passes.get(e.uuid)
        if p is not None:
            values = pass_values(p.position) if p.position is not None else {}
            says = (
                phrase("story.pass", title=p.title, **values)
                if len(values) == 4
                else phrase("story.pass_half", title=p.title)
            )
            lines.append(StoryLine(at=e.taken_at, by=e.by, says=says))
        elif e.body.kind == "moved":
            packs = ", ".join(
                f"{TITLES[f]} {write_pack(got[0], got[1])}"
                for f in FEET
                if (got := parse_pack(getattr(e.body, f"pack_{f}"), f)) is not None
            )
            lines.append(
                StoryLine(
                    at=e.taken_at, by=e.by, says=phrase("story.moved", packs=packs or "pushed sideways")
                )
            )
        else:
            lines.append(
                StoryLine(at=e.taken_at, by=e.by, says=phrase(_SAID.get(e.body.kind, "story.measures")))
            )
    return lines if isinstance(body.get("log"), list) else []


ALIGNMENT = Bench(
    name="alignment",
    title="Alignment",
    records="Alignments",
    one="an alignment",
    gated="Coupling work",
    seen="Enter readings already taken",
    key="a",
    does="align its coupling",
    slot="coupling",
    place=30,
    part="coupling",
    act="hands_on_coupling",
    read_with=("length", "slope"),
    entry=AlignmentEntry,
    view=AlignmentView,
    needs=Needs(plates=("motor", "control"), earlier=12, extras=(VANS,)),
    replay=replay,
    judge=guarded(judge),
    effects=effects,
    facts=facts,
    lasting=False,
    many=True,
    story=story,
    files=Filed(rows=rows_of, entries=entries_again),
)
