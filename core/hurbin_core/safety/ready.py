"""Ready to energise, after a fault and before a first start: what must be on record, each line by its record
or the bench that makes one. It says what is wanting, never that a set is safe.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import datetime
from typing import Literal

from ..base import RULEBOOK, RULES, Model, Phrase, Verdict, by_id, known, phrase
from ..plant import KINDS, ControlPlate

When = Literal["always", "three_phase", "single_phase", "winding", "drive", "overload", "shaft", "against"]


class ReadyRule(Model):
    """One line as its data says it. lists: those it stands in. questions: each answered so, by a record since
    the list began, or since the last work as well. fields: of the starter's nameplate, to be on record.
    bench: where it is done.
    """

    id: str
    title: str
    lists: list[str] = ["fault"]
    when: When = "always"
    questions: list[str] = []
    takes: list[Verdict] = [Verdict.GOOD]
    since: Literal["begin", "work"] = "work"
    fields: list[str] = []
    bench: str = ""


class ReadyKind(Model):
    """One list: what it is asked after. question: the stop it begins with. after: what is said once it ran in
    spite of it; none: it blocks until everything is on record and it ran since.
    """

    id: str
    title: str
    question: str = ""
    after: str = ""


class _File(Model):
    kind: list[ReadyKind]
    line: list[ReadyRule]


_data = RULEBOOK.section("safety/ready.toml", _File)
READY_LISTS: dict[str, ReadyKind] = by_id(_data.kind)
READY: dict[str, ReadyRule] = by_id(_data.line)


class Answered(Model):
    """The newest answer to one question: its verdict, of when, and the record it stands in."""

    verdict: Verdict
    taken_at: datetime
    record: int | None = None


class ReadyFacts(Model):
    """What is on record of a set. begun: since when each list is asked; none: nothing is. work_at: the last
    repair or exchange. fields: what is entered on the starter's nameplate. against: what speaks against what
    was fitted. ran: the lists that it ran in spite of: what is wanting there is due, and blocks no more.
    """

    begun: dict[str, datetime] = {}
    work_at: datetime | None = None
    kind: str = ""
    control_kind: str = ""
    phases: int = 3
    electronics: bool = False
    answers: dict[str, Answered] = {}
    fields: list[str] = []
    against: list[str] = []
    ran: list[str] = []


class ReadyLine(Model):
    """One line: done or not, why, and where it is done. list, heading: what it is asked after. blocks: no
    start until it is done; otherwise it ran all the same, and the line stays due. record: where it stands.
    """

    id: str
    list: str = ""
    heading: str = ""
    blocks: bool = True
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
    "against": lambda f: bool(f.against),
    "shaft": lambda f: f.kind not in KINDS or KINDS[f.kind].posture != "one_body",
}


def ready(facts: ReadyFacts) -> list[ReadyLine]:
    """What must be on record before this set is energised? Nothing where nothing is asked.

    An answer counts only by a record made after the list began, and where work was done since, after that as
    well.
    """
    return [
        _line(r, facts, at).model_copy(
            update={"list": k, "heading": _heading(k, facts), "blocks": k not in facts.ran}
        )
        for k, at in facts.begun.items()
        for r in READY.values()
        if k in r.lists and _WHEN[r.when](facts)
    ]


def _heading(kind: str, facts: ReadyFacts) -> str:
    own = READY_LISTS[kind]
    return own.after if kind in facts.ran and own.after else own.title


def _line(rule: ReadyRule, facts: ReadyFacts, begun: datetime) -> ReadyLine:
    if rule.when == "against":
        return _made(rule, False, phrase("ready.against_plate", says=facts.against[0]))
    lacking = [f for f in rule.fields if f not in facts.fields]
    if lacking:
        return _made(rule, False, phrase(f"ready.field_{lacking[0]}"))
    since = max(begun, facts.work_at or begun) if rule.since == "work" else begun
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
        known(line.lists, READY_LISTS, line.id, "list")
        known(line.questions, RULES, line.id, "rule")
        known(line.fields, ControlPlate.model_fields, line.id, "field")


check_ready(READY.values())
