"""Put a sheet on record: once, judged here, whatever the client saw."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from django.db import IntegrityError, transaction

from hurbin_core.base import Bench, Evaluation
from hurbin_core.catalogue import bench as find_bench
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for
from hurbin_server.plant.models import PumpSet

from ..models import Entry, Finding, Point, Record, Sheet
from ..signals import entries_coming, record_saved
from .answers import answer
from .context import context_for
from .judging import entries_of, questions_of, raw_of, write_judgement
from .sheets import signed, the_one, write_entries


@dataclass(slots=True)
class Saved:
    record: Record
    evaluation: Evaluation
    again: bool


def save_record(
    user: User, set_id: int, bench_name: str, sheet_uuid: str, entries: list[dict[str, Any]], *, corrects: int | None = None,
    reason: str = "",
) -> Saved:  # fmt: skip
    """Save once: the same sheet id again answers with the record that is there.

    Refused: a viewer (403), problems in the figures (422), a time in the future, a correction without a reason or
    of a record that was corrected already (409).
    """
    pump_set = set_for(user, set_id, "technician")
    pump_set = PumpSet.objects.select_related("site", "service").get(pk=pump_set.pk)
    b = find_bench(bench_name)
    sheet_uuid = the_one(b, pump_set, sheet_uuid)
    held = _held(user, sheet_uuid, pump_set)
    if held is not None:
        return held
    if corrects is not None and b.single:
        raise Refused(409, "not_corrected", f"“{b.title}” is what several people did: it is not corrected. What was wrong is said on the next one.")
    typed = signed(user, entries_of(b.name, entries))
    entries_coming.send(sender=Sheet, user=user, pump_set=pump_set, bench=b, typed=typed)
    typed = merged(sheet_uuid, typed) if b.many else typed
    if not typed:
        raise Refused(422, "sheet_empty", "There is nothing on the sheet yet.", field="entries")
    taken_at = max(e.taken_at for e in typed)
    if taken_at > now() + timedelta(minutes=10):
        raise Refused(422, "taken_in_future", "That time lies ahead: check the clock of this device.", field="taken_at", value=taken_at.isoformat())
    old = _to_correct(corrects, pump_set, reason)
    if old is not None:
        taken_at = old.taken_at
    context, parts = context_for(pump_set, b, taken_at, without=old)
    evaluation = b.evaluate(typed, context)
    if evaluation.problems:
        raise Refused(422, "figures_refused", evaluation.problems[0].message, problems=evaluation.problems)
    if not evaluation.findings:
        lacking = evaluation.missing[-1].message if b.many and evaluation.missing else "There is no reading on the sheet yet."
        raise Refused(422, "sheet_empty", lacking, field="entries")
    try:
        with transaction.atomic():
            PumpSet.objects.select_for_update().get(pk=pump_set.pk)
            held = _held(user, sheet_uuid, pump_set)
            if held is not None:
                return held
            record = _write(user, pump_set, b, sheet_uuid, typed, taken_at, old, reason, parts.get("motor"), evaluation.conditions)
            write_judgement(record, context, evaluation, parts)
            answer(pump_set, None if old is not None else questions_of(evaluation))
            record_saved.send(sender=Record, user=user, record=record, evaluation=evaluation)
            audit.note(user, "record_corrected" if old else "record_saved", f"{pump_set.tag} {b.name}", site_id=pump_set.site_id,
                       before={"record": old.pk} if old else None, after={"record": record.pk})  # fmt: skip
    except IntegrityError:
        held = _held(user, sheet_uuid, pump_set)
        if held is None:
            raise Refused(409, "corrected_already", "Somebody corrected that record a moment ago: open the history again.") from None
        return held
    return Saved(record, evaluation, again=False)


def _held(user: User, sheet_uuid: str, pump_set: PumpSet) -> Saved | None:
    record = Record.objects.filter(sheet_id=sheet_uuid).select_related("sheet", "pump_set").first()
    if record is None:
        return None
    if record.pump_set_id != pump_set.pk or record.by_id != user.pk:
        raise Refused(409, "sheet_id_used", "That sheet's id belongs to another record.")
    judgement = record.judgements.get(newest=True)
    return Saved(record, Evaluation.model_validate(judgement.evaluation), again=True)


def _to_correct(corrects: int | None, pump_set: PumpSet, reason: str) -> Record | None:
    if corrects is None:
        return None
    old = Record.objects.filter(pk=corrects, pump_set=pump_set).first()
    if old is None:
        raise not_found("The record to correct")
    if not old.live:
        raise Refused(409, "corrected_already", "That record was corrected already: correct the newer one.")
    if not reason.strip():
        raise Refused(422, "reason_missing", "Say what was wrong.", field="reason", right="misread, wrong set, wrong unit")
    return old


def merged(sheet_uuid: str, typed: list[Any]) -> list[Any]:
    """The entries sent with those the sheet holds already, from whichever device; each once, and as it stands on file."""
    rows = list(Entry.objects.filter(sheet_id=sheet_uuid, late=False).select_related("sheet", "by"))
    held = {e.uuid for e in rows}
    return [*entries_of(rows[0].sheet.bench, [raw_of(e) for e in rows]), *(e for e in typed if e.uuid not in held)] if rows else typed


def _write(
    user: User, pump_set: PumpSet, b: Bench, sheet_uuid: str, typed: list[Any], taken_at: Any, old: Record | None, reason: str, motor: Any,
    conditions: str,
) -> Record:
    first = min(e.taken_at for e in typed)
    sheet, made = Sheet.objects.get_or_create(
        uuid=sheet_uuid, defaults={"pump_set": pump_set, "bench": b.name, "opened_by": user, "opened_at": first, "closed_at": now()}
    )
    if not made:
        if sheet.pump_set_id != pump_set.pk or sheet.bench != b.name:
            raise Refused(409, "sheet_id_used", "That sheet's id belongs to another sheet.")
        if sheet.closed_at is not None:
            raise Refused(409, "sheet_closed", "That sheet is closed already.")
        sheet.closed_at = now()
        sheet.save(update_fields=["closed_at"])
    write_entries(user, sheet, typed)
    if old is not None:
        Record.objects.filter(pk=old.pk).update(live=False)
        Point.objects.filter(record=old).update(live=False)
        Finding.objects.filter(record=old).update(live=False)
    return Record.objects.create(
        sheet=sheet, pump_set=pump_set, bench=b.name, taken_at=taken_at, by=user, saved_at=now(), motor=motor,
        body=b.facts(typed), supersedes=old, reason=reason.strip(), conditions=conditions,
    )  # fmt: skip
