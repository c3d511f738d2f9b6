"""The alignment of a coupling: from one pass of readings to offset and angle, what they are held against, and what each foot asks for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import timedelta
from typing import Any

from ..base import (
    RULES,
    Bench,
    By,
    Certainty,
    Due,
    Evaluation,
    Finding,
    Ghost,
    HurbinError,
    Limits,
    MarginLine,
    Missing,
    Needs,
    Phrase,
    Problem,
    Quantity,
    Read,
    SeriesPoint,
    ShaftPoint,
    ShaftView,
    Unknown,
    UsedLimit,
    Verdict,
    amount,
    field_rules,
    judge_steps,
    phrase,
    reaches,
    read,
    register,
    rules_version,
    worst,
)  # fmt: skip
from ..logbook import Context, Entry, newest, newest_body
from ..plant import motor_facts
from ..safety import SetFacts, guarded
from .entry import AlignmentEntry
from .growth import cold_target_mm, growth_mm
from .poses import DIAL_U, Plane, Pose, against, closure_miss, reverse, rim_face, straightedge, without_sag
from .tolerance import by_speed

_FIELDS = field_rules(AlignmentEntry)
_WORDS = {"flush": (0.0, 0.15), "a hair high": (0.15, 0.10), "a hair low": (-0.15, 0.10)}
CLOCKS = (12, 3, 6, 9)
PER_100 = 100.0


@dataclass(slots=True)
class _Read:
    """The figures of a pass, metric, and what cannot be."""

    got: dict[str, Read] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)

    def value(self, name: str) -> float | None:
        return self.got[name].value if name in self.got else None

    def clock(self, prefix: str, zeroed: bool) -> dict[int, float | None]:
        out: dict[int, float | None] = {}
        for k in CLOCKS:
            r = self.got.get(f"{prefix}_{k}")
            out[k] = (_WORDS[r.word][0] if r is not None and r.word in _WORDS else r.value if r is not None else None)
        if zeroed and any(v is not None for v in out.values()):
            out[12] = 0.0
        return out

    def refuse(self, code: str, name: str, message: str, right: str = "") -> None:
        self.problems.append(Problem(code=code, field=name, value="", message=message, right=right))


def _take(body: AlignmentEntry) -> _Read:
    r = _Read()
    for name, rule in _FIELDS.items():
        try:
            got = read(getattr(body, name), rule)
        except HurbinError as error:
            r.problems.append(Problem.of(error))
            continue
        if got is not None:
            r.got[name] = got
    return r


def _pose(body: AlignmentEntry, r: _Read) -> Pose | None:
    """The pose of this pass, or None when nothing of it was read; a set of readings that cannot be one shaft is refused."""
    try:
        if body.method == "straightedge":
            return _by_feeler(r)
        if body.method == "rim_face":
            return _by_rim_face(body, r)
        if body.method == "reverse":
            return _by_reverse(r)
        return _by_laser(r)
    except HurbinError as error:
        r.problems.append(Problem.of(error))
        return None


def _by_feeler(r: _Read) -> Pose | None:
    steps, gaps = r.clock("step", False), r.clock("gap", False)
    if not any(v is not None for v in (*steps.values(), *gaps.values())):
        return None
    d = r.value("face_diameter")
    for k, g in gaps.items():
        if g is not None and d is not None and g > d / 4:
            r.refuse("gap_too_large", f"gap_{k}", f"A gap of {g:g} mm on a face of {d:g} mm is no gap: was it read in thousandths?", "a gap far under a quarter of the face")
    u = {k: _WORDS[x.word][1] for k in CLOCKS if (x := r.got.get(f"step_{k}")) is not None and x.word in _WORDS}
    return straightedge(steps, gaps if d is not None else {}, d if d is not None else 1.0, u)


def _closes(r: _Read, dial: dict[int, float | None], prefix: str, words: str) -> None:
    miss = closure_miss(dial)
    if miss:
        right = "3 and 9 together equal 12 and 6 together"
        r.refuse("not_one_shaft", f"{prefix}_6", f"{words}: 3 + 9 misses 12 + 6 by {miss:.2f} mm. These four are not one shaft: a loose bracket, a slipped dial, or a sign.", right)


def _by_rim_face(body: AlignmentEntry, r: _Read) -> Pose | None:
    rim, face = r.clock("rim", True), r.clock("face", True)
    if not any(v is not None for v in (*rim.values(), *face.values())):
        return None
    rim = without_sag(rim, r.value("sag") or 0.0)
    _closes(r, rim, "rim", "Rim")
    _closes(r, face, "face", "Face")
    d = r.value("face_diameter")
    return rim_face(rim, face if d is not None else {}, d if d is not None else 1.0, body.carried_by, body.face_touches)


def _by_reverse(r: _Read) -> Pose | None:
    one, two = r.clock("rim", True), r.clock("back", True)
    if not any(v is not None for v in (*one.values(), *two.values())):
        return None
    sag = r.value("sag") or 0.0
    one, two = without_sag(one, sag), without_sag(two, sag)
    _closes(r, one, "rim", "The motor's dial")
    _closes(r, two, "back", "The pump's dial")
    distance = r.value("plane_distance")
    return reverse(one, two, distance) if distance is not None else reverse(one, {}, 1.0)


def _by_laser(r: _Read) -> Pose | None:
    names = ("offset_v", "offset_h", "angle_v", "angle_h")
    if not any(n in r.got for n in names):
        return None
    v, h, av, ah = (r.value(n) for n in names)
    return Pose(Plane(v, av / PER_100 if av is not None else None, DIAL_U, 0.0), Plane(h, ah / PER_100 if ah is not None else None, DIAL_U, 0.0))


@dataclass(slots=True)
class _Limits:
    """What this coupling is held to: excellent and acceptable, and whose figure governs."""

    offset: list[UsedLimit]
    angle: list[UsedLimit]


def _limit(kind: str, grade: str, value: float, unit: str, maker: bool) -> UsedLimit:
    source = "The coupling's maker." if maker else "Common practice, no source: widely published short-coupling table."
    return UsedLimit(
        id=f"alignment.{kind}_{grade}", title=f"{kind.capitalize()}, {grade}", label="maker" if maker else grade, value=value, unit=unit, override=None, standard_value=value,
        source=source, certainty=Certainty.MAKER if maker else Certainty.PRACTICE, from_memory=not maker,
    )  # fmt: skip


def _limits(r: _Read, rpm: float | None) -> _Limits:
    wants = by_speed(rpm) if rpm is not None else None

    def pair(kind: str, best: float | None, most: float | None, maker: float | None, unit: str) -> list[UsedLimit]:
        if maker is not None and (most is None or maker < most):
            most, best = maker, min(maker / 2, best) if best is not None else maker / 2
            return [_limit(kind, "excellent", best, unit, False), _limit(kind, "acceptable", most, unit, True)]
        if best is None or most is None:
            return []
        return [_limit(kind, "excellent", best, unit, False), _limit(kind, "acceptable", most, unit, False)]

    return _Limits(
        pair("offset", wants.offset_excellent if wants else None, wants.offset_acceptable if wants else None, r.value("maker_offset"), "mm"),
        pair("angle", wants.angle_excellent if wants else None, wants.angle_acceptable if wants else None, r.value("maker_angle"), "mm/100mm"),
    )


def _target(body: AlignmentEntry, r: _Read) -> tuple[float, bool]:
    """How high the motor stands cold, and whether growth was reckoned with."""
    names = ("cold", "pump_height", "pump_temperature", "motor_height", "motor_temperature")
    got = [r.value(n) for n in names]
    if body.temperature == "hot" or any(v is None for v in got) or body.pump_metal is None or body.motor_metal is None:
        return 0.0, False
    cold, ph, pt, mh, mt = (float(v) for v in got if v is not None)
    return cold_target_mm(growth_mm(ph, body.pump_metal, cold, pt), growth_mm(mh, body.motor_metal, cold, mt)), True


def evaluate(entries: Sequence[Entry[AlignmentEntry]], context: Context) -> Evaluation:
    """Where does the motor stand against the pump, is that good enough for this speed, and what does each foot ask for?

    One pass a record; entries fold to the newest. Lengths in mm, angles in mm per 100 mm. Offset is held against offset, angle
    against angle; the verdict is on the difference to the cold target. Good only if value and uncertainty together pass;
    inconclusive while the limit lies within the uncertainty. Sources: rules.toml, tolerance.toml.
    """
    entry = newest(list(entries))
    body = entry.body if entry is not None else AlignmentEntry()
    r = _take(body)
    missing: list[Missing] = []
    if not SetFacts.of(context).coupled and context.kind:
        r.refuse("no_coupling", "method", "This kind of set has no coupling to align.", "a set with a coupling")
    front, rear = r.value("x_front"), r.value("x_rear")
    if front is not None and front <= 0:
        r.refuse("feet_in_front", "x_front", "The front feet lie behind the coupling: count from the measuring plane back along the motor.", "more than 0 mm")
    if front is not None and rear is not None and rear <= front:
        r.refuse("feet_in_front", "x_rear", "The rear feet lie further back than the front ones.", f"more than {front:g} mm")
    for name in ("face_diameter", "plane_distance"):
        if r.value(name) == 0:
            r.refuse("diameter_zero", name, f"{_FIELDS[name].label} cannot be zero.", "the figure from a rule")
    if body.taken == "as_left" and body.tight is False:
        r.refuse("not_tight", "tight", "An as-left is read after the last tightening: tightening moves things.", "tighten in a cross, then read again")
    pose = None if any(p.code in ("diameter_zero", "no_coupling") for p in r.problems) else _pose(body, r)
    rpm = r.value("speed") or motor_facts(context.motor).speed_rpm
    limits = _limits(r, rpm)
    target, grown = _target(body, r)
    findings: list[Finding] = []
    waiting: list[Phrase] = []
    if pose is not None:
        vertical = against(pose.vertical, target)
        findings = [f for f in (_offset(vertical, pose.horizontal, limits, target, grown), _angle(vertical, pose.horizontal, limits)) if f is not None]
        waiting = _waiting(body, r, pose, limits, rpm, grown)
    missing += _missing(body, r, pose, rpm)
    verdict, beside = worst(f.verdict for f in findings)
    return Evaluation(
        bench="alignment",
        rules_version=rules_version(),
        conditions=f"taken={body.taken}",
        verdict=verdict,
        beside=beside,
        values=_values(pose, target, grown, front, rear) if pose is not None else {},
        findings=sorted(findings, key=lambda f: (-f.verdict.rank, f.by.rank if f.by else 9)),
        questions=_questions(body, r, pose, target, front, rear),
        waiting=waiting,
        points=_points(body, pose),
        ghosts=_ghosts(context, body),
        due=_again(entry, context) if findings else None,
        shafts=_shafts(pose, target, front, rear),
        cautions=[phrase("caution.coupling")] if pose is None else [],
        problems=r.problems,
        missing=missing,
    )


def _again(entry: Entry[AlignmentEntry] | None, context: Context) -> Due | None:
    """When is this coupling looked at again, if nothing moved it before?"""
    days = Limits(context.overrides).value("alignment.again_days")
    return Due(at=entry.taken_at + timedelta(days=days), reason=phrase("align.again")) if entry is not None else None


def _judged(rule_id: str, which: str, value: float, u: float, steps: list[UsedLimit], unit: str) -> tuple[Verdict, By | None, MarginLine, list[Phrase]]:
    """Good only if value and uncertainty pass together; unknown while the acceptable limit lies between them."""
    rule = RULES[rule_id]
    line = judge_steps(rule, amount(abs(value), unit), [(steps[0], Verdict.GOOD), (steps[1], Verdict.WATCH)], Verdict.ACT).line
    low, high = max(0.0, abs(value) - u), abs(value) + u
    best, most = steps[0].value, steps[1].value
    notes: list[Phrase] = []
    if not reaches(high, best):
        verdict = Verdict.GOOD
    elif reaches(low, most):
        verdict = Verdict.ACT
    elif reaches(high, most):
        verdict = Verdict.UNKNOWN
        notes.append(phrase("align.within", limit=amount(most, unit)))
    else:
        verdict = Verdict.WATCH
    return verdict, rule.by.get(verdict), line, notes


def _worse(a: float | None, b: float | None) -> tuple[str, float] | None:
    both = [(n, v) for n, v in (("Up and down", a), ("Sideways", b)) if v is not None]
    return max(both, key=lambda x: abs(x[1]), default=None)


def _offset(v: Plane, h: Plane, limits: _Limits, target: float, grown: bool) -> Finding | None:
    top = _worse(v.offset, h.offset)
    if top is None:
        return None
    which, value = top
    u = v.u_offset if which == "Up and down" else h.u_offset
    args: dict[str, Quantity | str] = {"which": which, "value": amount(value, "mm"), "u": amount(u, "mm")}
    template = "align.offset"
    if grown and which == "Up and down":
        template, args = "align.offset_target", {**args, "target": amount(target, "mm")}
    return _finding("alignment_offset", phrase(template, **args), which, value, u, limits.offset, "mm", v.offset is None or h.offset is None, "sideways" if h.offset is None else "up and down")


def _angle(v: Plane, h: Plane, limits: _Limits) -> Finding | None:
    top = _worse(v.slope, h.slope)
    if top is None:
        return None
    which, slope = top
    u = (v.u_slope if which == "Up and down" else h.u_slope) * PER_100
    value = slope * PER_100
    words = phrase("align.offset", which=which, value=amount(value, "mm/100mm"), u=amount(u, "mm/100mm"))
    return _finding("alignment_angle", words, which, value, u, limits.angle, "mm/100mm", v.slope is None or h.slope is None, "sideways" if h.slope is None else "up and down")


def _finding(question: str, reason: Phrase, which: str, value: float, u: float, steps: list[UsedLimit], unit: str, half: bool, lacking: str) -> Finding:
    if not steps:
        return Finding(question=question, part="coupling", verdict=Verdict.UNKNOWN, by=By.THIS_WEEK, unknown=Unknown.INCOMPLETE, rule=question, reason=reason, notes=[phrase("align.no_limit")])
    verdict, by, line, notes = _judged(question, which, value, u, steps, unit)
    if half:
        notes = [phrase("align.one_plane", plane="up and down" if lacking == "sideways" else "sideways"), *notes]
    if half and verdict in (Verdict.GOOD, Verdict.WATCH):
        return Finding(question=question, part="coupling", verdict=Verdict.UNKNOWN, by=By.THIS_SHIFT, unknown=Unknown.INCOMPLETE, rule=question, reason=reason, line=line, limits=steps,
                       notes=notes)  # fmt: skip
    working = [phrase("align.working", which=which, value=amount(abs(value), unit), limit=amount(steps[1].value, unit), best=amount(steps[0].value, unit))]
    return Finding(
        question=question, part="coupling", verdict=verdict, by=by, unknown=Unknown.INCONCLUSIVE if verdict is Verdict.UNKNOWN else None, rule=question, reason=reason,
        working=working, notes=notes, line=line, limits=steps,
    )  # fmt: skip


def _waiting(body: AlignmentEntry, r: _Read, pose: Pose, limits: _Limits, rpm: float | None, grown: bool) -> list[Phrase]:
    out: list[Phrase] = []
    if any(x.word in _WORDS for x in r.got.values()):
        out.append(phrase("align.words"))
    if rpm is not None and by_speed(rpm) is None:
        out.append(phrase("align.no_speed"))
    if body.method == "laser":
        out.append(phrase("align.laser"))
    if body.temperature == "hot":
        out.append(phrase("align.hot"))
    elif not grown:
        out.append(phrase("align.no_growth"))
    return out


def _missing(body: AlignmentEntry, r: _Read, pose: Pose | None, rpm: float | None) -> list[Missing]:
    wanted: list[tuple[str, str]] = []
    if body.method in ("straightedge", "rim_face") and "face_diameter" not in r.got:
        wanted.append(("face_diameter", "The diameter over the faces: without it a gap is no angle."))
    if body.method == "reverse" and "plane_distance" not in r.got:
        wanted.append(("plane_distance", "The distance between the two planes: without it two offsets are no angle."))
    for name in ("x_front", "x_rear"):
        if name not in r.got:
            wanted.append((name, f"{_FIELDS[name].label}: without it no foot can be told what it asks for."))
    if rpm is None:
        wanted.append(("speed", "The speed: what is close enough depends on it."))
    if pose is None:
        wanted.append(("method", "No reading yet."))
    if body.taken == "as_left" and body.tight is None:
        wanted.append(("tight", "Say whether this was read after the last tightening."))
    return [Missing(field=n, message=m) for n, m in wanted]


def _feet(plane: Plane, target: float, front: float | None, rear: float | None) -> tuple[float | None, float | None]:
    """What the front and the rear feet ask for: up (or right) is positive."""
    out: list[float | None] = []
    for x in (front, rear):
        stands = plane.at(x) if x is not None else None
        out.append(None if stands is None else target - stands)
    return out[0], out[1]


def _values(pose: Pose, target: float, grown: bool, front: float | None, rear: float | None) -> dict[str, Quantity]:
    out: dict[str, Quantity] = {}
    for tail, plane, aim in (("v", pose.vertical, target), ("h", pose.horizontal, 0.0)):
        if plane.offset is not None:
            out[f"offset_{tail}"] = amount(plane.offset, "mm")
        if plane.slope is not None:
            out[f"angle_{tail}"] = amount(plane.slope * PER_100, "mm/100mm")
        for name, asked in zip(("front", "rear"), _feet(plane, aim, front, rear), strict=True):
            if asked is not None:
                out[f"{name}_{tail}"] = amount(asked, "mm")
    if grown:
        out["target"] = amount(target, "mm")
    return out


def _questions(body: AlignmentEntry, r: _Read, pose: Pose | None, target: float, front: float | None, rear: float | None) -> list[Phrase]:
    out: list[Phrase] = []
    if pose is None:
        return out
    a, b = _feet(pose.vertical, target, front, rear)
    slope = pose.vertical.slope
    if a is not None and b is not None and slope is not None and abs(a - b) < 1e-9 and abs(slope) > 1e-9:
        out.append(phrase("align.four_alike"))
    if body.method == "straightedge":
        steps = r.clock("step", False)
        if all(v is not None for v in steps.values()) and steps[12] == 0 and closure_miss(steps) == 0 and any(abs(v or 0) > 0.5 for v in steps.values()):
            out.append(phrase("align.like_dial"))
    return out


def _points(body: AlignmentEntry, pose: Pose | None) -> list[SeriesPoint]:
    if pose is None:
        return []
    rows = (
        ("align_offset_v", pose.vertical.offset, "mm"), ("align_offset_h", pose.horizontal.offset, "mm"),
        ("align_angle_v", pose.vertical.slope, "mm/100mm"), ("align_angle_h", pose.horizontal.slope, "mm/100mm"),
    )  # fmt: skip
    return [
        SeriesPoint(measurand=m, part="", conditions=f"taken={body.taken}", value=v * (PER_100 if unit != "mm" else 1), unit=unit) for m, v, unit in rows if v is not None
    ]


def _ghosts(context: Context, body: AlignmentEntry) -> list[Ghost]:
    """What stood at these fields last time, crossed out where it was another pass or method."""
    last = context.last
    if last is None:
        return []
    differs = "" if last.body.get("method", "straightedge") == body.method else "other instrument"
    differs = differs or ("" if last.body.get("taken", "as_found") == body.taken else "other pass")
    return [
        Ghost(field=n, whose="last", text=str(v["text"]), unit=str(v.get("unit", "")), taken_at=last.taken_at.isoformat(), differs=differs)
        for n, v in last.body.items() if n in _FIELDS and isinstance(v, dict) and "text" in v
    ]  # fmt: skip


def _shafts(pose: Pose | None, target: float, front: float | None, rear: float | None) -> list[ShaftView]:
    """The two drawings: the motor's axis from the measuring plane to its rear feet, exaggerated until it is seen."""
    if pose is None:
        return [ShaftView(view="side", known=False), ShaftView(view="top", known=False)]
    a, b = front or 200.0, rear or 500.0
    span = max([abs(v) for p in (pose.vertical, pose.horizontal) for x in (0.0, a, b) if (v := p.at(x)) is not None] + [abs(target), 0.05])
    times = max(1, min(1000, round(0.12 * b / span, -1) or 1))
    out: list[ShaftView] = []
    for view, plane, aim in (("side", pose.vertical, target), ("top", pose.horizontal, 0.0)):
        whole = plane.offset is not None and plane.slope is not None
        asked = dict(zip((a, b), _feet(plane, aim, a, b), strict=True))
        points = [
            ShaftPoint(name=n, x=round(x / b, 4), y=round(0.5 + v / (2.4 * span), 4), says=amount(asked[x] or 0.0, "mm") if x in asked else amount(v, "mm"))
            for n, x in (("coupling", 0.0), ("front", a), ("rear", b)) if (v := plane.at(x)) is not None
        ]  # fmt: skip
        out.append(ShaftView(view=view, known=whole, times=int(times), target=round(0.5 + aim / (2.4 * span), 4), points=points))  # type: ignore[arg-type]
    return out


def facts(entries: Sequence[Entry[AlignmentEntry]]) -> dict[str, Any]:
    return newest_body(entries)


ALIGNMENT = register(
    Bench(
        name="alignment",
        title="Alignment",
        entry=AlignmentEntry,
        context=Context,
        evaluate=guarded(evaluate),
        needs=Needs(slots=("motor", "control")),
        facts=facts,
    )
)
