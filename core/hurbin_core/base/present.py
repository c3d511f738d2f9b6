"""An Evaluation as one reader sees it: every figure carries its `shown` text, every phrase its sentence."""

from __future__ import annotations

from pydantic import BaseModel

from .errors import Missing, Problem
from .evaluation import Advice, Evaluation, Finding, Ghost, Mark, Phrase, SeriesPoint, write
from .limits import RULES, Certainty, MarginLine, Override, UsedLimit
from .quantity import Bound, Quantity
from .show import Prefs, figure, show, show_limit, symbol
from .units import UNITS
from .verdict import By, Unknown, Verdict


class ShownQuantity(BaseModel):
    value: float
    unit: str
    bound: Bound
    shown: str
    figure: str
    symbol: str


class ShownTick(BaseModel):
    limit: str
    label: str
    shown: str
    at: float
    governs: bool
    overridden: bool


class ShownLine(BaseModel):
    value: ShownQuantity
    value_at: float
    limit_at: float
    bound: Bound
    margin: str
    over: bool
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
    title: str
    verdict: Verdict
    by: By | None
    unknown: Unknown | None
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
    advice: list[ShownAdvice]
    questions: list[str]
    waiting: list[str]
    points: list[SeriesPoint]
    ghosts: list[Ghost]
    marks: list[Mark]
    problems: list[Problem]
    missing: list[Missing]


def show_quantity(q: Quantity, prefs: Prefs, beside: float | None = None) -> ShownQuantity:
    digits, sign = figure(q, prefs, beside), symbol(q, prefs)
    return ShownQuantity.model_construct(
        value=q.value, unit=q.unit, bound=q.bound, figure=digits, symbol=sign,
        shown=f"{digits}\u00a0{sign}" if sign else digits,
    )  # fmt: skip


def show_line(line: MarginLine, prefs: Prefs, overridden: set[str]) -> ShownLine:
    # A temperature's margin is a rise, not a temperature. A percentage's is said in per cent, as on a meter.
    rise = UNITS[line.value.unit].dimension == "temperature"
    difference = show(Quantity(value=line.margin.value, unit="K") if rise else line.margin, prefs)
    return ShownLine.model_construct(
        value=show_quantity(line.value, prefs, line.limit.value),
        value_at=line.value_at,
        limit_at=line.limit_at,
        bound=line.value.bound,
        margin=f"+{difference}" if line.over else f"{difference} in hand",
        over=line.over,
        ticks=[
            ShownTick.model_construct(
                limit=t.limit, label=t.label, shown=show_limit(t.value, prefs), at=t.at, governs=t.governs,
                overridden=t.limit in overridden,
            )
            for t in line.ticks
        ],
    )  # fmt: skip


def _limit(u: UsedLimit, prefs: Prefs) -> ShownLimit:
    return ShownLimit.model_construct(
        id=u.id,
        title=u.title,
        shown=show_limit(Quantity(value=u.value, unit=u.unit), prefs),
        published=show_limit(Quantity(value=u.standard_value, unit=u.unit), prefs),
        source=u.source,
        certainty=u.certainty,
        from_memory=u.from_memory,
        override=u.override,
    )


def show_finding(f: Finding, prefs: Prefs) -> ShownFinding:
    rule = RULES[f.rule]
    overridden = {u.id for u in f.limits if u.override is not None}
    return ShownFinding.model_construct(
        question=f.question,
        part=f.part,
        title=rule.title,
        verdict=f.verdict,
        by=f.by,
        unknown=f.unknown,
        rule=f.rule,
        reason=write(f.reason, prefs),
        working=[write(p, prefs) for p in f.working],
        notes=[write(p, prefs) for p in f.notes],
        line=show_line(f.line, prefs, overridden) if f.line is not None else None,
        limits=[_limit(u, prefs) for u in f.limits],
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


def present(e: Evaluation, prefs: Prefs) -> ShownEvaluation:
    """The evaluation for this reader's units and decimal mark. Judges nothing."""
    return ShownEvaluation.model_construct(
        bench=e.bench,
        rules_version=e.rules_version,
        verdict=e.verdict,
        beside=e.beside,
        values={k: show_quantity(q, prefs) for k, q in e.values.items()},
        findings=[show_finding(f, prefs) for f in e.findings],
        advice=[_advice(a, prefs) for a in e.advice],
        questions=[write(p, prefs) for p in e.questions],
        waiting=[write(p, prefs) for p in e.waiting],
        points=e.points,
        ghosts=e.ghosts,
        marks=e.marks,
        problems=e.problems,
        missing=e.missing,
    )
