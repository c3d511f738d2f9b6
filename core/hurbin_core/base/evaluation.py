"""What every bench answers with."""

from __future__ import annotations

from datetime import datetime
from typing import Generic, TypeVar

from pydantic import BaseModel, model_validator

from .errors import HurbinError, Missing, Problem
from .judging import MarginLine
from .limits import RULES, UsedLimit
from .model import Model
from .phrases import Phrase
from .quantity import Bound, Quantity
from .verdict import By, Unknown, Verdict

V = TypeVar("V", bound=BaseModel)


class Finding(Model):
    """One question answered: which part it hangs on, the verdict, why, and by what rule.

    subject: of what the question is asked where one set has several of it (a limit agreed on, a leg);
    question and subject together are its key. beside: what an unknown must not hide. lacks: the grounds that
    were wanting. due: until when the answer stands, where that is sooner than the record's own date.
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

    @property
    def key(self) -> tuple[str, str]:
        return self.question, self.subject


class SeriesPoint(Model):
    """One judged number for the trends. `part` names the slot whose component owns the series;
    an empty part is the position itself."""

    measurand: str
    part: str
    leg: str = ""
    conditions: str
    value: float
    unit: str
    bound: Bound = Bound.EXACT


class Ghost(Model):
    """What stood at this field before (the last value, or the twin's). `differs` is the word that
    crosses it out: the state was another, so no difference is computed."""

    field: str
    whose: str
    text: str
    unit: str
    taken_at: str
    differs: str = ""


class Due(Model):
    """When the next record of this kind is wanted, and why then."""

    at: datetime
    reason: Phrase


class StoryLine(Model):
    """One thing that happened on a sheet of many hands."""

    at: datetime
    by: str
    says: Phrase


class RunMark(Model):
    """A second at which a timed run is read, all in seconds since it began. asked: from when on it is asked
    for; until: to when; within: a reading no further off than this stands for it.
    """

    second: int
    asked: float
    until: float
    within: float


class RunClock(Model):
    """A timed run: which marks it asks for, which are taken, and how long it discharges."""

    name: str
    started_at: datetime | None = None
    ended_at: datetime | None = None
    discharged_at: datetime | None = None
    discharge_until: datetime | None = None
    marks: list[RunMark] = []
    taken_s: list[float] = []


class NoView(Model):
    """The drawing data of a bench that draws nothing of its own."""


class Evaluation(Model, Generic[V]):
    """The whole answer of a bench. The same case and entries give the same one.

    settled: questions that these entries answer with “no longer so”: an older answer to them is over. view:
    the bench's own drawing data: geometry, not pixels.
    """

    bench: str
    rules_version: str
    conditions: str = ""
    verdict: Verdict
    beside: Verdict | None = None
    values: dict[str, Quantity] = {}
    findings: list[Finding] = []
    settled: list[str] = []
    questions: list[Phrase] = []
    waiting: list[Phrase] = []
    cautions: list[Phrase] = []
    points: list[SeriesPoint] = []
    ghosts: list[Ghost] = []
    due: Due | None = None
    problems: list[Problem] = []
    missing: list[Missing] = []
    view: V

    @model_validator(mode="after")
    def _one_answer_a_question(self) -> Evaluation[V]:
        seen: set[tuple[str, str]] = set()
        for f in self.findings:
            if f.key in seen:
                raise HurbinError("answered_twice", f"{f.question} is answered twice.", field=f.question)
            seen.add(f.key)
        return self

    def finding(self, question: str, subject: str = "") -> Finding | None:
        """The answer to one question; None where it was not asked."""
        return next((f for f in self.findings if f.key == (question, subject)), None)


def rule_title(rule_id: str) -> str:
    return RULES[rule_id].title
