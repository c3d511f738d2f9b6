"""Ready to energise after a fault: what must be on record first, each line by its record or the bench that
makes one. It says what is wanting, never that a set is safe.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import datetime
from typing import Literal

from ..base import RULEBOOK, RULES, Model, Phrase, Verdict, by_id, known, phrase
from ..plant import KINDS, ControlPlate

When = Literal["always", "three_phase", "single_phase", "winding", "drive", "overload", "shaft"]


class ReadyRule(Model):
    """One line as its data says it. questions: each answered so, by a record since the fault, or since the
    last work as well. fields: of the starter's nameplate, to be on record. bench: where it is done.
    """

    id: str
    title: str
    when: When = "always"
    questions: list[str] = []
    takes: list[Verdict] = [Verdict.GOOD]
    since: Literal["fault", "work"] = "work"
    fields: list[str] = []
    bench: str = ""


class _File(Model):
    begins: str
    line: list[ReadyRule]


_data = RULEBOOK.section("safety/ready.toml", _File)
# The question whose stop is the fault that all this is asked after.
FAULT = _data.begins
READY: dict[str, ReadyRule] = by_id(_data.line)


class Answered(Model):
    """The newest answer to one question: its verdict, of when, and the record it stands in."""

    verdict: Verdict
    taken_at: datetime
    record: int | None = None


class ReadyFacts(Model):
    """What is on record of a set. fault_at: when the fault was found; none: nothing is asked. work_at: the
    last repair or exchange. fields: what is entered on the starter's nameplate.
    """

    fault_at: datetime | None = None
    work_at: datetime | None = None
    kind: str = ""
    control_kind: str = ""
    phases: int = 3
    electronics: bool = False
    answers: dict[str, Answered] = {}
    fields: list[str] = []


class ReadyLine(Model):
    """One line: done or not, why, and where it is done. record: where it stands."""

    id: str
    title: str
    done: bool
    says: Phrase
    bench: str = ""
    record: int | None = None


_WHEN: dict[str, Callable[[ReadyFacts], bool]] = {
    "always": lambda _: True,
    "three_phase": lambda f: f.phases == 3 and not f.electronics,
    "single_phase": lambda f: f.phases == 1 and not f.electronics,
    "winding": lambda f: not f.electronics,
    "drive": lambda f: f.control_kind == "drive",
    "overload": lambda f: f.control_kind != "drive" and not f.electronics,
    "shaft": lambda f: f.kind not in KINDS or KINDS[f.kind].posture != "one_body",
}


def ready(facts: ReadyFacts) -> list[ReadyLine]:
    """What must be on record before this set is energised after its fault? Nothing where none was found.

    An answer counts only by a record made after the fault, and where work was done since, after that as well.
    """
    if facts.fault_at is None:
        return []
    return [_line(r, facts, facts.fault_at) for r in READY.values() if _WHEN[r.when](facts)]


def _line(rule: ReadyRule, facts: ReadyFacts, fault_at: datetime) -> ReadyLine:
    lacking = [f for f in rule.fields if f not in facts.fields]
    if lacking:
        return _made(rule, False, phrase(f"ready.field_{lacking[0]}"))
    since = max(fault_at, facts.work_at or fault_at) if rule.since == "work" else fault_at
    wanting: list[tuple[str, Phrase]] = []
    for q in rule.questions:
        a = facts.answers.get(q)
        if a is None:
            wanting.append((q, phrase("ready.none")))
        elif a.taken_at < since:
            wanting.append((q, phrase("ready.before")))
        elif a.verdict not in rule.takes:
            wanting.append((q, phrase("ready.against", title=RULES[q].title, verdict=a.verdict.value)))
    last = [a for q in rule.questions if (a := facts.answers.get(q)) is not None]
    record = max(last, key=lambda a: a.taken_at).record if last else None
    return _made(rule, not wanting, wanting[0][1] if wanting else phrase("ready.done"), record)


def _made(rule: ReadyRule, done: bool, says: Phrase, record: int | None = None) -> ReadyLine:
    return ReadyLine(id=rule.id, title=rule.title, done=done, says=says, bench=rule.bench, record=record)


def check_ready(lines: Iterable[ReadyRule]) -> None:
    """Is every question that the list asks for one that a rule answers, and every field one of a starter's
    nameplate?
    """
    for line in lines:
        known(line.questions, RULES, line.id, "rule")
        known(line.fields, ControlPlate.model_fields, line.id, "field")


check_ready(READY.values())
