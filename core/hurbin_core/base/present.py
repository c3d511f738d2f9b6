"""An Evaluation as one reader sees it: every figure carries its `shown` text, every phrase its sentence."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel

from .errors import Missing, Problem
from .evaluation import Advice, CurvePaper, Evaluation, Finding, Ghost, Mark, PaperTick, RunClock, SeriesPoint, write
from .ground import whole
from .judging import MarginLine
from .limits import RULES, Certainty, Override, UsedLimit
from .phrases import Phrase
from .quantity import Bound, Quantity
from .show import Prefs, show, show_limit
from .shown_drawn import ShownBolts, ShownPass, ShownPlan, ShownQuantity, ShownShaft, show_pass, show_plan, show_quantity, show_shaft
from .units import UNITS
from .verdict import By, Unknown, Verdict


class ShownTick(BaseModel):
    limit: str
    label: str
    shown: str
    at: float
    governs: bool
    overridden: bool


class ShownLine(BaseModel):
    """The margin drawing with its words; `floor`: the limit is a least one, the good side lies above it."""

    value: ShownQuantity
    value_at: float
    limit_at: float
    bound: Bound
    margin: str
    over: bool
    floor: bool
    ticks: list[ShownTick]


class ShownLimit(BaseModel):
    id: str
    title: str
    shown: str
    published: str
    source: str
    certainty: Certainty
    from_memory: bool
    override: Override | None


class ShownFinding(BaseModel):
    question: str
    part: str
    subject: str
    title: str
    verdict: Verdict
    beside: Verdict | None
    by: By | None
    unknown: Unknown | None
    lacks: list[str]
    rule: str
    reason: str
    working: list[str]
    notes: list[str]
    line: ShownLine | None
    limits: list[ShownLimit]
    formula: str
    why: str
    source: str
    certainty: Certainty
    from_memory: bool


class ShownPart(BaseModel):
    """What one part of the train shows for this sheet: the worst of what hangs on it."""

    part: str
    verdict: Verdict


class ShownPoint(BaseModel):
    x: float
    y: float
    at: str
    bound: Bound
    shown: str
    entry: str


class ShownCurve(BaseModel):
    name: str
    before: int
    taken_at: datetime | None
    points: list[ShownPoint]
    differs: str


class ShownTickMark(BaseModel):
    at: float
    shown: str


class ShownPaper(BaseModel):
    curves: list[ShownCurve]
    x_ticks: list[ShownTickMark]
    y_ticks: list[ShownTickMark]
    floor: float | None


class ShownDue(BaseModel):
    at: datetime
    reason: str


class ShownAdvice(BaseModel):
    cause: str
    says: str
    changes: list[str]
    leaves: list[str]


class ShownEvaluation(BaseModel):
    bench: str
    rules_version: str
    verdict: Verdict
    beside: Verdict | None
    values: dict[str, ShownQuantity]
    findings: list[ShownFinding]
    parts: list[ShownPart]
    advice: list[ShownAdvice]
    questions: list[str]
    waiting: list[str]
    points: list[SeriesPoint]
    ghosts: list[Ghost]
    marks: list[Mark]
    due: ShownDue | None
    paper: ShownPaper | None
    clocks: list[RunClock]
    shafts: list[ShownShaft]
    passes: list[ShownPass]
    plan: ShownPlan | None
    bolts: ShownBolts | None
    defaults: dict[str, str]
    cautions: list[str]
    problems: list[Problem]
    missing: list[Missing]


def show_line(line: MarginLine, prefs: Prefs, overridden: set[str]) -> ShownLine:
    # A temperature's margin is a rise, not a temperature. A percentage's is said in per cent, as on a meter.
    rise = UNITS[line.value.unit].dimension == "temperature"
    difference = show(Quantity(value=line.margin.value, unit="K") if rise else line.margin, prefs)
    return ShownLine.model_construct(
        value=show_quantity(line.value, prefs, [t.value.value for t in line.ticks]),
        value_at=line.value_at,
        limit_at=line.limit_at,
        bound=line.value.bound,
        margin=_margin(line, difference),
        over=line.over,
        floor=line.floor,
        ticks=[
            ShownTick.model_construct(
                limit=t.limit, label=t.label, shown=show_limit(t.value, prefs, line.value.value), at=t.at, governs=t.governs,
                overridden=t.limit in overridden,
            )
            for t in line.ticks
        ],
    )  # fmt: skip


def _margin(line: MarginLine, difference: str) -> str:
    if not line.over:
        return f"{difference} in hand"
    return f"{difference} short" if line.floor else f"+{difference}"


def _limit(u: UsedLimit, prefs: Prefs, near: Quantity | None) -> ShownLimit:
    beside = near.value if near is not None and near.unit == u.unit else None
    return ShownLimit.model_construct(
        id=u.id,
        title=u.title,
        shown=show_limit(Quantity(value=u.value, unit=u.unit), prefs, beside),
        published=show_limit(Quantity(value=u.standard_value, unit=u.unit), prefs),
        source=u.source,
        certainty=u.certainty,
        from_memory=u.from_memory,
        override=u.override,
    )


def show_finding(f: Finding, prefs: Prefs) -> ShownFinding:
    rule = RULES[f.rule]
    overridden = {u.id for u in f.limits if u.override is not None}
    near = f.line.value if f.line is not None else None
    return ShownFinding.model_construct(
        question=f.question,
        part=f.part,
        subject=f.subject,
        title=rule.title,
        verdict=f.verdict,
        beside=f.beside,
        lacks=f.lacks,
        by=f.by,
        unknown=f.unknown,
        rule=f.rule,
        reason=write(f.reason, prefs),
        working=[write(p, prefs) for p in f.working],
        notes=[write(p, prefs) for p in f.notes],
        line=show_line(f.line, prefs, overridden) if f.line is not None else None,
        limits=[_limit(u, prefs, near) for u in f.limits],
        formula=rule.formula,
        why=rule.why,
        source=rule.source,
        certainty=rule.certainty,
        from_memory=rule.from_memory,
    )


def _advice(a: Advice, prefs: Prefs) -> ShownAdvice:
    def lines(phrases: list[Phrase]) -> list[str]:
        return [write(p, prefs) for p in phrases]

    return ShownAdvice.model_construct(
        cause=a.cause, says=write(a.says, prefs), changes=lines(a.changes), leaves=lines(a.leaves)
    )


def _parts(findings: list[Finding]) -> list[ShownPart]:
    names = dict.fromkeys(f.part for f in findings)
    return [ShownPart.model_construct(part=n, verdict=whole(f for f in findings if f.part == n)[0]) for n in names]


def _paper(paper: CurvePaper, prefs: Prefs) -> ShownPaper:
    def ticks(marks: list[PaperTick]) -> list[ShownTickMark]:
        return [ShownTickMark(at=t.at, shown=show_limit(t.value, prefs)) for t in marks]

    return ShownPaper(
        curves=[
            ShownCurve(
                name=c.name, before=c.before, taken_at=c.taken_at, differs=c.differs,
                points=[ShownPoint(x=p.x, y=p.y, at=show_limit(p.at, prefs), bound=p.value.bound, shown=show(p.value, prefs), entry=p.entry)
                        for p in c.points],
            )
            for c in paper.curves
        ],
        x_ticks=ticks(paper.x_ticks), y_ticks=ticks(paper.y_ticks), floor=paper.floor,
    )  # fmt: skip


def present(e: Evaluation, prefs: Prefs) -> ShownEvaluation:
    """The evaluation for this reader's units and decimal mark. Judges nothing."""
    return ShownEvaluation.model_construct(
        bench=e.bench,
        rules_version=e.rules_version,
        verdict=e.verdict,
        beside=e.beside,
        values={k: show_quantity(q, prefs) for k, q in e.values.items()},
        findings=[show_finding(f, prefs) for f in e.findings],
        parts=_parts(e.findings),
        advice=[_advice(a, prefs) for a in e.advice],
        questions=[write(p, prefs) for p in e.questions],
        waiting=[write(p, prefs) for p in e.waiting],
        points=e.points,
        ghosts=e.ghosts,
        marks=e.marks,
        due=ShownDue(at=e.due.at, reason=write(e.due.reason, prefs)) if e.due is not None else None,
        paper=_paper(e.paper, prefs) if e.paper is not None else None,
        clocks=e.clocks,
        shafts=[show_shaft(v, prefs) for v in e.shafts],
        passes=[show_pass(v, prefs) for v in e.passes],
        plan=show_plan(e.plan, prefs) if e.plan is not None else None,
        bolts=ShownBolts(order=e.bolts.order, steps=[show(q, prefs) for q in e.bolts.steps]) if e.bolts is not None else None,
        defaults=e.defaults,
        cautions=[write(p, prefs) for p in e.cautions],
        problems=e.problems,
        missing=e.missing,
    )
