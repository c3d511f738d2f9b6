"""Put a sheet on record: once, judged here, whatever the client saw."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db import IntegrityError, transaction

from hurbin_core.base import AnyBench, Evaluation
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.logbook import Case, note_of
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for
from hurbin_server.plant.models import PumpSet

from ..models import Finding, Point, Record, Sheet
from ..signals import entries_coming, record_saved
from .answers import answer
from .casing import case_for
from .effects import perform
from .judging import entries_of, evaluation_of, questions_of, write_judgement
from .rolling import roll
from .sheets import closed_before, filed_on, not_on_file, of_this_one, signed, the_one, write_entries


@dataclass(slots=True)
class Saved:
    record: Record
    evaluation: Evaluation[Any]
    again: bool
    late: int = 0


def save_record(
    user: User,
    set_id: int,
    bench_name: str,
    sheet_uuid: str,
    entries: list[dict[str, Any]],
    *,
    corrects: int | None = None,
    reason: str = "",
) -> Saved:
    """Save once: the same sheet id again answers with the record that is there.

    Refused: a viewer (403), problems in the figures (422), a time in the future, a correction without a
    reason or of a record that was corrected already (409).
    """
    row = set_for(user, set_id, "technician")
    b = find_bench(bench_name)
    if corrects is not None and b.single:
        raise Refused(
            409,
            "not_corrected",
            f"“{b.title}” is entered by several people and cannot be corrected. Enter what was wrong on the"
            " next one.",
        )
    typed = signed(user, b, entries_of(b.name, entries))
    sending = _Sending(user, b, sheet_uuid, typed, corrects, reason)
    try:
        with transaction.atomic():
            # What is filed is read, judged and closed under one lock: whoever adds to the sheet meanwhile
            # waits, and is told that it is on record.
            PumpSet.objects.select_for_update().get(pk=row.pk)
            pump_set = PumpSet.objects.select_related("site", "service").get(pk=row.pk)
            return _on_record(sending, pump_set)
    except IntegrityError:
        # Of this set nobody wrote meanwhile: an id of this sending went to another set in the same moment.
        message = "Duplicate id: already used on another set. Nothing was saved. Save it again."
        raise Refused(409, "entry_id_used", message, field="entries") from None


@dataclass(frozen=True, slots=True)
class _Sending:
    user: User
    b: AnyBench
    sheet: str
    typed: list[Any]
    corrects: int | None
    reason: str


def _on_record(s: _Sending, pump_set: PumpSet) -> Saved:
    """Read, judge, write, perform: with the set locked."""
    user, b, typed = s.user, s.b, s.typed
    sheet_uuid = the_one(b, pump_set, s.sheet)
    held = _held(user, b, sheet_uuid, pump_set)
    if held is not None:
        held.late = _beside(user, b, held.record, typed)
        return held
    entries_coming.send(sender=Sheet, user=user, pump_set=pump_set, bench=b, typed=typed)
    filed = filed_on(sheet_uuid) if b.many else []
    every = b.together(Case[Any].model_construct(filed=filed), typed)
    taken_at = _taken_at(every)
    old = _to_correct(s.corrects, pump_set, b, s.reason)
    if old is not None:
        taken_at = old.taken_at
    case, parts = case_for(pump_set, b, taken_at, without=old)
    case.filed = filed
    evaluation = b.evaluate(case, typed)
    if evaluation.problems:
        raise Refused(422, "figures_refused", evaluation.problems[0].message, problems=evaluation.problems)
    if not evaluation.findings:
        lacking = (
            evaluation.missing[-1].message if b.many and evaluation.missing else "No reading entered yet."
        )
        raise Refused(422, "sheet_empty", lacking, field="entries")
    motor, state = parts.get("motor"), evaluation.conditions
    record = _write(user, pump_set, b, sheet_uuid, every, taken_at, old, s.reason, motor, state)
    write_judgement(record, case, evaluation, parts)
    answer(pump_set, None if old is not None else questions_of(evaluation))
    record_saved.send(sender=Record, user=user, record=record, evaluation=evaluation)
    perform(user, record.sheet, case, every, record)
    audit.note(
        user,
        "record_corrected" if old else "record_saved",
        f"{pump_set.tag} {b.name}",
        pump_set=pump_set,
        before={"record": old.pk} if old else None,
        after={"record": record.pk},
    )
    return Saved(record, evaluation, again=False)


def _taken_at(every: list[Any]) -> datetime:
    """When the sheet was taken: by its last entry. Refused: nothing on it, or a time ahead."""
    if not every:
        raise Refused(422, "sheet_empty", "Nothing entered yet.", field="entries")
    taken_at: datetime = max(e.taken_at for e in every)
    if taken_at > now() + timedelta(minutes=10):
        raise Refused(
            422,
            "taken_in_future",
            "Time is in the future. Check the clock of this device.",
            field="taken_at",
            value=taken_at.isoformat(),
        )
    return taken_at


def _held(user: User, b: AnyBench, sheet_uuid: str, pump_set: PumpSet) -> Saved | None:
    record = Record.objects.filter(sheet_id=sheet_uuid).select_related("sheet", "pump_set").first()
    if record is None:
        return None
    same = record.pump_set_id == pump_set.pk and record.bench == b.name
    if not same or (record.by_id != user.pk and not b.many):
        raise Refused(409, "sheet_id_used", "Duplicate id: already used by another record.")
    judgement = record.judgements.get(newest=True)
    return Saved(record, evaluation_of(record.bench, judgement.evaluation), again=True)


def _beside(user: User, b: AnyBench, record: Record, typed: list[Any]) -> int:
    """What is sent once more for a sheet on record: the same is the same; something new is kept beside it as
    late where a sheet has many entries, and refused where it has one. How many are late. Refused (409): other
    words.
    """
    fresh = not_on_file(record.sheet, typed)
    if fresh and not b.many:
        message = "This sheet is already saved with other readings. Open the record and correct it."
        raise Refused(409, "on_record_already", message, field="entries", value=str(record.pk))
    write_entries(user, record.sheet, fresh, late=True)
    if fresh:
        moved("set", record.pump_set_id, record.pump_set.site_id)
    return len(fresh)


def _to_correct(corrects: int | None, pump_set: PumpSet, b: AnyBench, reason: str) -> Record | None:
    """The record that is corrected: of the same set and bench, else what it found would end unanswered."""
    if corrects is None:
        return None
    old = Record.objects.filter(pk=corrects, pump_set=pump_set, bench=b.name).first()
    if old is None:
        raise not_found("The record to correct")
    if not old.live:
        raise Refused(409, "corrected_already", "This record is already corrected. Correct the newer one.")
    if not reason.strip():
        raise Refused(
            422,
            "reason_missing",
            "Enter the reason for the correction.",
            field="reason",
            right="misread, wrong set, wrong unit",
        )
    return old


def _write(
    user: User,
    pump_set: PumpSet,
    b: AnyBench,
    sheet_uuid: str,
    typed: list[Any],
    taken_at: Any,
    old: Record | None,
    reason: str,
    motor: Any,
    conditions: str,
) -> Record:
    first = min(e.taken_at for e in typed)
    sheet, made = Sheet.objects.get_or_create(
        uuid=sheet_uuid,
        defaults={
            "pump_set": pump_set,
            "bench": b.name,
            "opened_by": user,
            "opened_at": first,
            "closed_at": now(),
            "closed_by": user,
        },
    )
    if not made:
        of_this_one(b, pump_set, sheet)
        if sheet.closed_at is not None:
            raise closed_before(sheet)
        sheet.closed_at, sheet.closed_by = now(), user
        sheet.save(update_fields=["closed_at", "closed_by"])
    write_entries(user, sheet, typed)
    if old is not None:
        Record.objects.filter(pk=old.pk).update(live=False)
        Point.objects.filter(record=old).update(live=False)
        roll((s, old.taken_at) for s in Point.objects.filter(record=old).values_list("series_id", flat=True))
        Finding.objects.filter(record=old).update(live=False)
    facts = b.facts(typed)
    return Record.objects.create(
        sheet=sheet,
        pump_set=pump_set,
        bench=b.name,
        taken_at=taken_at,
        by=user,
        saved_at=now(),
        motor=motor,
        body=facts,
        note=note_of(facts),
        supersedes=old,
        reason=reason.strip(),
        conditions=conditions,
    )
