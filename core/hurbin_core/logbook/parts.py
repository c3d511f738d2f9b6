"""From judged findings to what each part of a set shows, and in what order the plant is read."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime

from ..base import RULES, By, Model, Phrase, Unknown, Verdict, phrase, worst
from ..plant import PARTS


class Answer(Model):
    """The newest finding on one question and subject of one set, and until when it stands."""

    question: str
    subject: str = ""
    part: str
    verdict: Verdict
    beside: Verdict | None = None
    by: By | None = None
    unknown: Unknown | None = None
    reason: Phrase
    taken_at: datetime
    due: datetime | None = None
    record: str = ""


class Closing(Model):
    """What ends older answers: a part that was exchanged, or something that befell one (none: the whole set).
    `repair`: it was mended, not harmed.
    """

    at: datetime
    part: str = ""
    exchanged: bool = False
    repair: bool = False


def concerns_of(question: str, part: str) -> list[str]:
    """Of which parts does an answer to this question speak?"""
    rule = RULES.get(question)
    return rule.concerns if rule is not None and rule.concerns else [part]


def still_stands(
    question: str, part: str, verdict: Verdict, taken_at: datetime, closings: Iterable[Closing]
) -> bool:
    """Does an older answer still stand after what happened since?

    An exchange takes every answer of that part with it. An event ends what was said before, but never a stop:
    that is ended by a newer answer alone, for a repair is no proof. What is no repair ends no act either: a
    flood mends nothing.
    """
    for c in _since(question, part, taken_at, closings):
        ends_below = Verdict.STOP if c.repair else Verdict.ACT
        if c.exchanged or verdict.rank < ends_below.rank:
            return False
    return True


def repaired_since(question: str, part: str, taken_at: datetime, closings: Iterable[Closing]) -> bool:
    """Is a repair of what this answer speaks of on record since it was given?"""
    return any(c.repair for c in _since(question, part, taken_at, closings))


def _since(question: str, part: str, taken_at: datetime, closings: Iterable[Closing]) -> list[Closing]:
    about = concerns_of(question, part)
    return [c for c in closings if c.at > taken_at and (not c.part or c.part in about)]


@dataclass(frozen=True, slots=True, kw_only=True)
class PartVerdict:
    """What one part shows: its worst verdict, what stands beside it, and the reason. `stale`: nothing that
    was ever read counts any more. A plant has thousands: kept light.
    """

    part: str
    verdict: Verdict
    beside: Verdict | None = None
    by: By | None = None
    question: str
    reason: Phrase
    taken_at: datetime | None = None
    due: datetime | None = None
    subject: str = ""
    stale: bool = False


def _weight(question: str) -> int:
    """Which of two answers of one urgency is said first: the one whose rule says it leads, then the order of
    the data files.
    """
    rule = RULES.get(question)
    return 999 if rule is None else (0 if rule.leads else 1 + list(RULES).index(question))


def said_first(verdict: Verdict, by: By | None, question: str) -> tuple[int, int, int]:
    """In which order are answers said? Smaller is sooner: the worst, the soonest, then the one whose rule
    leads.
    """
    return -verdict.rank, by.rank if by else 9, _weight(question)


def worst_part_first(part: PartVerdict) -> tuple[int, int, int]:
    """In which order are the parts of one set read? The worst, then the soonest, then along the train."""
    along = list(PARTS).index(part.part) if part.part in PARTS else len(PARTS)
    return -part.verdict.rank, part.by.rank if part.by else 9, along


def fold_parts(answers: Iterable[Answer]) -> list[PartVerdict]:
    """Which verdict does each part carry? The newest answer to each question and subject counts; the worst of
    them shows.

    `due`: from when on nothing milder than act stands any more: the earliest date among those answers.
    """
    newest: dict[tuple[str, str], Answer] = {}
    for a in answers:
        key = (a.question, a.subject)
        if key not in newest or a.taken_at >= newest[key].taken_at:
            newest[key] = a
    by_part: dict[str, list[Answer]] = {}
    for a in newest.values():
        by_part.setdefault(a.part, []).append(a)
    return [_part(part, group) for part, group in sorted(by_part.items())]


def _part(part: str, group: list[Answer]) -> PartVerdict:
    verdict, beside = worst(v for a in group for v in (a.verdict, a.beside) if v is not None)
    top = min(
        (a for a in group if a.verdict is verdict),
        key=lambda a: (*said_first(a.verdict, a.by, a.question), a.question, a.subject),
    )
    mild = [a.due for a in group if a.due is not None and a.verdict.rank < Verdict.ACT.rank]
    return PartVerdict(
        part=part,
        verdict=verdict,
        beside=beside,
        by=top.by,
        question=top.question,
        subject=top.subject,
        reason=top.reason,
        taken_at=top.taken_at,
        due=min(mild, default=None),
    )


def overdue(part: PartVerdict, due: datetime | None, as_of: datetime) -> PartVerdict:
    """An answer past its date no longer holds what it said: good and watch become unknown, worse stays."""
    if due is None or as_of <= due or part.verdict.rank >= Verdict.ACT.rank:
        return part
    days = str((as_of - due).days)
    return replace(
        part,
        verdict=Verdict.UNKNOWN,
        beside=Verdict.WATCH if part.verdict is Verdict.WATCH else None,
        by=By.THIS_WEEK,
        reason=phrase("overdue.check", days=days),
        stale=True,
    )


def never_checked(since: datetime) -> PartVerdict:
    """A set with no record at all says so."""
    return PartVerdict(
        part="motor",
        verdict=Verdict.UNKNOWN,
        by=By.THIS_WEEK,
        question="none",
        reason=phrase("overdue.never"),
        taken_at=since,
        stale=True,
    )


def behind(partners: Iterable[tuple[str, Verdict]]) -> Phrase:
    """What stands behind a set if it is taken out? Its partners, and whether one of them can be leaned on."""
    rows = list(partners)
    if not rows:
        return phrase("behind.nothing")
    sound = [tag for tag, verdict in rows if verdict.rank <= Verdict.WATCH.rank]
    if sound:
        return phrase("behind.sound", tags=", ".join(sound))
    return phrase("behind.doubtful", tags=", ".join(tag for tag, _ in rows))


def attention(parts: Iterable[PartVerdict], has_standby: bool, consequence: int) -> tuple[int, ...]:
    """Where does this set stand in the order of who needs a person first? Smaller is sooner.

    By verdict, then how soon, then what is lost with it: no standby before standby, and the service's
    consequence (1 low to 3 high). Common practice, no source.
    """
    rows = list(parts)
    top = max((p.verdict.rank for p in rows), default=Verdict.UNKNOWN.rank)
    soon = min((p.by.rank for p in rows if p.by and p.verdict.rank == top), default=9)
    return (-top, soon, 1 if has_standby else 0, -consequence)
