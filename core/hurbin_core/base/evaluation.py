"""What every bench answers with."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel

from .drawn import BoltView, PassView, PlanView, ShaftView
from .errors import Missing, Problem
from .judging import MarginLine
from .limits import RULES, TEXTS, UsedLimit
from .phrases import Phrase
from .quantity import Bound, Quantity
from .show import SI, Prefs, show
from .verdict import By, Unknown, Verdict


class Finding(BaseModel):
    """One question answered: which part it hangs on, the verdict, why, and by what rule.

    subject: of what the question is asked where one set has several of it (a limit agreed on, a leg); question and subject
    together are its key. beside: what an unknown must not hide. lacks: the grounds that were wanting. due: until when the
    answer stands, where that is sooner than the record's own date.
    """

    question: str
    part: str
    subject: str = ""
    verdict: Verdict
    beside: Verdict | None = None
    by: By | None = None
    unknown: Unknown | None = None
    rule: str
    reason: Phrase
    working: list[Phrase] = []
    notes: list[Phrase] = []
    line: MarginLine | None = None
    limits: list[UsedLimit] = []
    lacks: list[str] = []
    due: datetime | None = None


class Advice(BaseModel):
    """A cause class: what the pattern says, what a repair will change and what it will not."""

    cause: str
    says: Phrase
    changes: list[Phrase] = []
    leaves: list[Phrase] = []


class SeriesPoint(BaseModel):
    """One judged number for the trends. `part` names the slot whose component owns the series;
    an empty part is the position itself."""

    measurand: str
    part: str
    leg: str = ""
    conditions: str
    value: float
    unit: str
    bound: Bound = Bound.EXACT


class Ghost(BaseModel):
    """What stood at this field before (the last value, or the twin's). `differs` is the word that
    crosses it out: the state was another, so no difference is computed."""

    field: str
    whose: str
    text: str
    unit: str
    taken_at: str
    differs: str = ""


class Mark(BaseModel):
    """A place on a drawing: 0 is the bottom of its gauge, 1 the top."""

    name: str
    at: float
    verdict: Verdict
    label: str = ""


class Due(BaseModel):
    """When the next record of this kind is wanted, and why then."""

    at: datetime
    reason: Phrase


class CurvePoint(BaseModel):
    """A reading on the curve paper: `x`, `y` from 0 to 1, its own figure and second."""

    x: float
    y: float
    at: Quantity
    value: Quantity
    entry: str = ""


class Curve(BaseModel):
    """One line on the paper. `before` counts back from the newest earlier test (0: this one); `differs` crosses it out."""

    name: str
    before: int = 0
    taken_at: datetime | None = None
    points: list[CurvePoint]
    differs: str = ""


class PaperTick(BaseModel):
    at: float
    value: Quantity


class CurvePaper(BaseModel):
    """Readings over time on log-log paper; `floor` is the limit one stands above. Geometry, not pixels."""

    curves: list[Curve]
    x_ticks: list[PaperTick]
    y_ticks: list[PaperTick]
    floor: float | None = None


class RunClock(BaseModel):
    """A timed run: which marks it asks for, which are taken, and how long it discharges."""

    name: str
    started_at: datetime | None = None
    ended_at: datetime | None = None
    discharged_at: datetime | None = None
    discharge_until: datetime | None = None
    marks_s: list[int] = []
    taken_s: list[float] = []


class StoryLine(BaseModel):
    """One thing that happened on a sheet of many hands."""

    at: datetime
    by: str
    says: Phrase


class Evaluation(BaseModel):
    """The whole answer of a bench. The same inputs and context give the same one.

    settled: questions that these entries answer with “no longer so”: an older answer to them is over. defaults: what a
    field says while nobody says otherwise.
    """

    bench: str
    rules_version: str
    conditions: str = ""
    verdict: Verdict
    beside: Verdict | None = None
    values: dict[str, Quantity] = {}
    findings: list[Finding] = []
    settled: list[str] = []
    advice: list[Advice] = []
    questions: list[Phrase] = []
    waiting: list[Phrase] = []
    points: list[SeriesPoint] = []
    ghosts: list[Ghost] = []
    marks: list[Mark] = []
    due: Due | None = None
    paper: CurvePaper | None = None
    clocks: list[RunClock] = []
    shafts: list[ShaftView] = []
    passes: list[PassView] = []
    plan: PlanView | None = None
    bolts: BoltView | None = None
    defaults: dict[str, str] = {}
    cautions: list[Phrase] = []
    problems: list[Problem] = []
    missing: list[Missing] = []


def write(p: Phrase, prefs: Prefs = SI) -> str:
    """The sentence for this reader. A figure that stands beside a limit (`x__limit` in the arguments, or the phrase's own
    `beside`) is never rounded across it; a sentence within the sentence is written the same way."""
    shown: dict[str, str] = {}
    for name, arg in p.args.items():
        if name.endswith("__limit"):
            continue
        if isinstance(arg, Phrase):
            shown[name] = write(arg, prefs)
        elif isinstance(arg, str):
            shown[name] = arg
        else:
            own = p.args.get(f"{name}__limit")
            near = [q.value for q in (*p.beside, own) if isinstance(q, Quantity) and q.unit == arg.unit]
            sign = "+" if name == "change" and arg.value > 0 else ""
            shown[name] = sign + show(arg, prefs, near)
    return TEXTS[p.template].format_map(shown)


def rule_title(rule_id: str) -> str:
    return RULES[rule_id].title
