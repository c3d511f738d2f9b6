"""What stands on a set: the newest live answer to each question and subject, and what its parts show."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import timedelta

from django.db.models import F, Q, QuerySet, Window
from django.db.models.functions import RowNumber

from hurbin_core.base import RULES, Phrase, Verdict
from hurbin_core.logbook import Answer as Told, Closing, fold_parts, part_of_event, still_stands
from hurbin_core.plant import EVENT_KINDS, PARTS
from hurbin_server.base.door import moved
from hurbin_server.plant.known import events_around, fitted_now, fittings_of
from hurbin_server.plant.models import Component, Fitting, PumpSet

from ..models import Answer, Finding, PartState
from ..signals import CLOSED, Over

_VERDICT = {v.value: v for v in Verdict}
# A question that a record answers with “no longer so”: it ends what was said before, and shows nothing.
SETTLED = "settled"


def answer(pump_set: PumpSet, questions: Iterable[str] | None = None) -> None:
    """Make the answers of a set again, in the caller's transaction and under the set's lock: to these
    questions, or to all of them. Two that write at once come one after the other."""
    PumpSet.objects.select_for_update().get(pk=pump_set.pk)
    moved("set", pump_set.pk, pump_set.site_id)
    asked = set(questions) if questions is not None else None
    motor = fitted_motor(pump_set)
    closings = closings_of(pump_set, motor)
    over = [o for closed in CLOSED for o in closed(pump_set)]
    standing = [
        f for f in _newest(pump_set, motor, asked) if f.verdict != SETTLED and _stands(f, closings, over)
    ]
    gone = Answer.objects.filter(pump_set=pump_set)
    (gone if asked is None else gone.filter(question__in=asked)).delete()
    interval = timedelta(days=pump_set.service.check_every_days)
    Answer.objects.bulk_create(
        Answer(
            pump_set=pump_set,
            question=f.question,
            subject=f.subject,
            part=f.part,
            verdict=f.verdict,
            beside=f.beside,
            by=f.by,
            unknown=f.unknown,
            reason=f.reason,
            line=f.line,
            taken_at=f.taken_at,
            due=f.due or f.taken_at + interval,
            finding=f,
        )
        for f in standing
    )
    show_parts(pump_set)


def fitted_motor(pump_set: PumpSet) -> Component | None:
    """The motor that is fitted now."""
    return fitted_now(pump_set).get("motor")


def _newest(pump_set: PumpSet, motor: Component | None, asked: set[str] | None) -> list[Finding]:
    """The newest live finding of each question and subject: the set's, and what the motor brought along."""
    owned = [r.id for r in RULES.values() if r.goes_with]
    rows = Finding.objects.filter(live=True)
    if asked is not None:
        rows = rows.filter(question__in=asked)
    own = rows.filter(pump_set=pump_set).exclude(question__in=owned)
    of_motor = Q(pump_set=pump_set, record__motor=None)
    if motor is not None:
        of_motor |= Q(record__motor=motor)
    return [*_first_of_each(own), *_first_of_each(rows.filter(of_motor, question__in=owned))]


def _first_of_each(rows: QuerySet[Finding]) -> QuerySet[Finding]:
    place = Window(
        RowNumber(),
        partition_by=[F("question"), F("subject")],
        order_by=[F("taken_at").desc(), F("pk").desc()],
    )
    return rows.annotate(place=place).filter(place=1)


def _stands(f: Finding, closings: list[Closing], over: list[Over]) -> bool:
    if any(o.ends(f.question, f.subject, f.taken_at) for o in over):
        return False
    rule = RULES.get(f.question)
    goes_with = rule.goes_with if rule is not None else ""
    # What goes with a part is not ended by that part's coming here.
    mine = [c for c in closings if not (c.exchanged and goes_with and c.part == goes_with)]
    return still_stands(f.question, f.part, _VERDICT[f.verdict], f.taken_at, mine)


def closings_of(pump_set: PumpSet, motor: Component | None) -> list[Closing]:
    """What ends older answers of this set: parts exchanged or taken off, and what befell them, or this
    motor."""
    out: list[Closing] = []
    by_slot: dict[str, list[Fitting]] = {}
    for f in fittings_of(pump_set):
        by_slot.setdefault(f.slot, []).append(f)
    for slot, rows in by_slot.items():
        if not PARTS[slot].closes:
            continue
        last = rows[-1]
        if last.to_at is not None:
            out.append(Closing(at=last.to_at, part=slot, exchanged=True))
        elif len(rows) > 1:
            out.append(Closing(at=last.from_at, part=slot, exchanged=True))
    out += [
        Closing(at=e.at, part=part_of_event(e.kind), repair=EVENT_KINDS[e.kind].repair)
        for e in events_around(pump_set, motor)
        if e.kind in EVENT_KINDS
    ]
    return out


def show_parts(pump_set: PumpSet) -> None:
    """Fold the answers that stand to what each part shows."""
    rows = list(Answer.objects.filter(pump_set=pump_set))
    lines = {(a.question, a.subject): a.line for a in rows}
    told = [
        Told(
            question=a.question,
            subject=a.subject,
            part=a.part,
            verdict=a.verdict,
            beside=a.beside or None,
            by=a.by or None,
            unknown=a.unknown or None,
            reason=Phrase.model_validate(a.reason),
            taken_at=a.taken_at,
            due=a.due,
        )
        for a in rows
    ]
    PartState.objects.filter(pump_set=pump_set).delete()
    PartState.objects.bulk_create(
        PartState(
            pump_set=pump_set,
            part=p.part,
            verdict=p.verdict,
            beside=p.beside or "",
            by=p.by or "",
            question=p.question,
            reason=p.reason.model_dump(mode="json"),
            line=lines[(p.question, p.subject)],
            taken_at=p.taken_at,
            due=p.due,
        )
        for p in fold_parts(told)
    )
