"""Files of readings: checked row by row, then written whole or not at all, by the task queue, with a lease."""

from __future__ import annotations

import hashlib
import json
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.db import transaction

from hurbin_core.base import SI, Bench, Evaluation, HurbinError, write
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.logbook import FileRow, decode, open_readings
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import require, site_for
from hurbin_server.plant.models import Component, PumpSet

from ..models import Entry, Finding, ImportRow, Judgement, Point, ReadingsImport, Record, Series, Sheet, deflated
from .judging import rejudge_newest, series_of
from .memory import Memory

State = ReadingsImport.State
LEASE = timedelta(seconds=45)
TRIES = 3
EVERY = 500
_NAMESPACE = uuid.UUID("0c9e5a34-7f0e-4c1f-9a53-51b7a8e4e6d2")


class Cancelled(Exception):
    """Somebody asked to stop."""


def start_import(user: User, site_id: int, bench_name: str, name: str, raw: bytes, day_first: bool | None) -> ReadingsImport:
    """Keep the file and queue its check. What is no table of readings at all is refused at once (422)."""
    site = site_for(user, site_id, "technician")
    b = find_bench(bench_name)
    file = open_readings(decode(raw), b, site.time_zone, day_first)
    job = ReadingsImport.objects.create(site=site, bench=b.name, name=name[:200], content=raw, day_first=day_first, by=user, at=now(), total=file.total)
    _queue(job)
    return job


def _queue(job: ReadingsImport) -> None:
    from ..tasks import run_import

    ReadingsImport.objects.filter(pk=job.pk).update(lease_until=now() + LEASE)
    run_import.enqueue(job.pk)


def import_for(user: User, job_id: int, at_least: str = "technician") -> ReadingsImport:
    job = ReadingsImport.objects.defer("content").select_related("site", "by").filter(pk=job_id).first()
    if job is None:
        raise not_found("That file")
    require(user, job.site_id, at_least)
    reap(job)
    return job


def reap(job: ReadingsImport) -> None:
    """A worker that was killed leaves its work lying: once its lease has run out the work is queued again, three times at most."""
    if job.state not in (State.CHECKING, State.WRITING) or job.lease_until is None or job.lease_until > now():
        return
    ours = ReadingsImport.objects.filter(pk=job.pk, lease_until=job.lease_until).update(lease_until=now() + LEASE, tries=job.tries + 1)
    if not ours:
        return
    if job.tries + 1 >= TRIES:
        _end(job.pk, State.FAILED, error="The work was broken off three times. Nothing was written. Send the file again.")
    else:
        _queue(job)
    job.refresh_from_db(fields=["state", "error", "lease_until", "tries"])


def reap_all() -> int:
    late = ReadingsImport.objects.defer("content").filter(state__in=(State.CHECKING, State.WRITING), lease_until__lt=now())
    for job in late:
        reap(job)
    return len(late)


def ask_write(user: User, job_id: int) -> ReadingsImport:
    """Write a checked file. Refused while a row is refused (409): all or nothing."""
    job = import_for(user, job_id)
    if job.state != State.CHECKED:
        raise Refused(409, "import_not_checked", "This file is not waiting to be written.")
    if job.refused:
        raise Refused(409, "rows_refused", f"{job.refused} rows are refused; nothing is written while one is. Mend the file and send it again.")
    if job.taken + job.questioned == 0:
        raise Refused(409, "nothing_new", "Every row is on record already: there is nothing to write.")
    ReadingsImport.objects.filter(pk=job.pk, state=State.CHECKED).update(state=State.WRITING, done=0, tries=0, cancel_asked=False)
    _queue(job)
    job.refresh_from_db(fields=["state", "done"])
    return job


def ask_cancel(user: User, job_id: int) -> ReadingsImport:
    job = import_for(user, job_id)
    if job.state == State.CHECKED:
        _end(job.pk, State.CANCELLED)
    elif job.state in (State.CHECKING, State.WRITING):
        ReadingsImport.objects.filter(pk=job.pk).update(cancel_asked=True)
    job.refresh_from_db(fields=["state", "cancel_asked"])
    return job


def _end(job_id: int, state: str, **more: Any) -> None:
    ReadingsImport.objects.using(settings.PROGRESS_DATABASE).filter(pk=job_id).update(state=state, finished_at=now(), lease_until=None, **more)


def run(job_id: int) -> str:
    """The task: check or write, whichever the file waits for. Safe to run twice: a written file is left alone."""
    job = ReadingsImport.objects.select_related("site", "by").get(pk=job_id)
    try:
        if job.state == State.CHECKING:
            _check(job)
        elif job.state == State.WRITING:
            _write(job)
    except Cancelled:
        _end(job.pk, State.CANCELLED)
    except HurbinError as error:
        _end(job.pk, State.FAILED, error=error.message)
    return ReadingsImport.objects.values_list("state", flat=True).get(pk=job_id)


def _tick(job: ReadingsImport) -> Callable[[int], None]:
    """Told to everybody while the work's own transaction is still open: how far, and that a worker lives."""

    def tell(done: int) -> None:
        row = ReadingsImport.objects.using(settings.PROGRESS_DATABASE).filter(pk=job.pk)
        row.update(done=done, lease_until=now() + LEASE)
        if row.values_list("cancel_asked", flat=True).first():
            raise Cancelled

    return tell


@dataclass(slots=True)
class Judged:
    """A row of the file, judged in the context of everything before it."""

    row: FileRow
    pump_set: PumpSet
    entries: list[Any]
    facts: dict[str, Any]
    evaluation: Evaluation
    context: Any
    parts: dict[str, Component]
    sheet: str


def row_key(tag: str, at: datetime, bench: str, facts: dict[str, Any]) -> str:
    """The same facts of the same set at the same time are the same record, whichever file they come in."""
    text = json.dumps(facts, sort_keys=True, ensure_ascii=False)
    return hashlib.sha256(f"{tag}·{at.isoformat()}·{bench}·{text}".encode()).hexdigest()


def judge_rows(job: ReadingsImport, b: Bench, tell: Callable[[int], None]) -> Iterator[tuple[FileRow, Judged | None, str, str]]:
    """Every row with its outcome and a word on it, in the order in which they were taken."""
    file = open_readings(decode(bytes(job.content)), b, job.site.time_zone, job.day_first)
    rows = list(file.rows())
    sets = {s.tag: s for s in PumpSet.objects.filter(site=job.site, tag__in={r.tag for r in rows}).select_related("site", "service")}
    tell(0)
    held = _on_record(sets, b)
    memory = Memory(sets.values(), b)
    seen: dict[str, int] = {}
    rows.sort(key=lambda r: (r.taken_at is None, r.taken_at or now(), r.line))
    for n, row in enumerate(rows, 1):
        if n % EVERY == 0:
            tell(n)
        if row.tag and row.tag not in sets and not row.problems:
            yield row, None, "refused", f"There is no set {row.tag} on this site."
        elif row.problems:
            yield row, None, "refused", " ".join(p.message for p in row.problems)
        else:
            yield _judge(row, sets[row.tag], b, job, memory, held, seen, -n)


def _on_record(sets: dict[str, PumpSet], b: Bench) -> set[str]:
    tags = {s.pk: s.tag for s in sets.values()}
    rows = Record.objects.filter(pump_set_id__in=tags, bench=b.name).values_list("pump_set_id", "taken_at", "body")
    return {row_key(tags[pk], at, b.name, body) for pk, at, body in rows.iterator(chunk_size=5000)}


def _judge(
    row: FileRow, pump_set: PumpSet, b: Bench, job: ReadingsImport, memory: Memory, held: set[str], seen: dict[str, int], number: int
) -> tuple[FileRow, Judged | None, str, str]:
    at = row.taken_at
    assert at is not None
    if at > now():
        return row, None, "refused", "That time lies ahead."
    key = f"{job.site_id}/{pump_set.tag}/{at.isoformat()}/{row.line}"
    raw = [{"uuid": str(uuid.uuid5(_NAMESPACE, f"{key}/{i}")), "taken_at": at, "device": "file", "body": body} for i, body in enumerate(row.bodies)]
    entries = _entries(b, raw)
    facts = b.facts(entries)
    same = row_key(pump_set.tag, at, b.name, facts)
    if same in held:
        return row, None, "there", "Already on record."
    if same in seen:
        return row, None, "there", f"The same as line {seen[same]}."
    context, parts = memory.context(pump_set.pk, at)
    evaluation = b.evaluate(entries, context)
    if evaluation.problems:
        return row, None, "refused", " ".join(dict.fromkeys(p.message for p in evaluation.problems))
    if not evaluation.findings:
        return row, None, "refused", "There is no reading in this row."
    seen[same] = row.line
    memory.remember(pump_set.pk, at, number, facts, evaluation, parts)
    judged = Judged(row, pump_set, entries, facts, evaluation, context, parts, str(uuid.uuid5(_NAMESPACE, f"sheet/{job.site_id}/{same}")))
    asked = [write(p, SI) for p in evaluation.questions]
    return row, judged, "questioned" if asked else "taken", " ".join(asked)


def _entries(b: Bench, raw: list[dict[str, Any]]) -> list[Any]:
    from .judging import entries_of

    return entries_of(b.name, raw)


def _check(job: ReadingsImport) -> None:
    b, tell = find_bench(job.bench), _tick(job)
    count = {"taken": 0, "questioned": 0, "refused": 0, "there": 0}
    # Not one transaction: rows that point to the file hold its line, and its progress could not be told.
    ImportRow.objects.filter(job=job).delete()
    kept: list[ImportRow] = []
    for row, _, outcome, says in judge_rows(job, b, tell):
        count[outcome] += 1
        if outcome != "taken" or count["taken"] <= 1000:
            kept.append(ImportRow(job=job, line=row.line, tag=row.tag[:60], outcome=outcome, says=says[:500]))
        if len(kept) >= 2000:
            ImportRow.objects.bulk_create(kept)
            kept = []
    ImportRow.objects.bulk_create(kept)
    _end(job.pk, State.CHECKED, done=sum(count.values()), total=sum(count.values()), **count)


def _write(job: ReadingsImport) -> None:
    b, tell = find_bench(job.bench), _tick(job)
    touched: dict[int, PumpSet] = {}
    with transaction.atomic():
        batch: list[Judged] = []
        written = 0
        for _, judged, outcome, says in judge_rows(job, b, tell):
            if outcome == "refused":
                raise HurbinError("rows_refused", f"A row is refused now that was not before: {says} Nothing was written.", field="file")
            if judged is None:
                continue
            batch.append(judged)
            touched[judged.pump_set.pk] = judged.pump_set
            if len(batch) >= EVERY:
                written += _write_batch(job, b, batch)
                batch = []
        written += _write_batch(job, b, batch)
        for n, pump_set in enumerate(touched.values(), 1):
            rejudge_newest(pump_set)
            if n % 20 == 0:
                tell(job.total)
        audit.note(job.by, "readings_imported", f"{job.name}: {written} {b.title.lower()}s", site_id=job.site_id, after={"import": job.pk, "records": written})
        tell(job.total)
        ReadingsImport.objects.filter(pk=job.pk).update(state=State.WRITTEN, finished_at=now(), lease_until=None, done=job.total)


def _write_batch(job: ReadingsImport, b: Bench, batch: list[Judged]) -> int:
    """Sheets, entries, records, judgements, findings and points of many rows, as the save service writes those of one."""
    if not batch:
        return 0
    at = now()
    sheets = [Sheet(uuid=j.sheet, pump_set=j.pump_set, bench=b.name, opened_by=job.by, opened_at=j.row.taken_at, closed_at=at) for j in batch]
    Sheet.objects.bulk_create(sheets)
    Entry.objects.bulk_create(
        Entry(uuid=e.uuid, sheet_id=j.sheet, by=job.by, device="file", taken_at=e.taken_at, received_at=at, body=e.body.model_dump(mode="json", exclude_defaults=True))
        for j in batch for e in j.entries
    )  # fmt: skip
    Record.objects.bulk_create(
        Record(sheet_id=j.sheet, pump_set=j.pump_set, bench=b.name, taken_at=j.row.taken_at, by=job.by, saved_at=at, body=j.facts,
               conditions=j.evaluation.conditions, motor=j.parts.get("motor"))
        for j in batch
    )  # fmt: skip
    records = dict(Record.objects.filter(sheet_id__in=[j.sheet for j in batch]).values_list("sheet_id", "pk"))
    Judgement.objects.bulk_create(_judgement(j, records[j.sheet], at) for j in batch)
    judgements = dict(Judgement.objects.filter(record_id__in=records.values(), newest=True).values_list("record_id", "pk"))
    findings, points = [], []
    keys: dict[str, int] = {}
    for j in batch:
        record, judgement = records[j.sheet], judgements[records[j.sheet]]
        findings += [_finding(f, j, record, judgement) for f in j.evaluation.findings]
        wanted = series_of(j.pump_set, j.evaluation, j.parts)
        _known(keys, wanted)
        points += [
            Point(series_id=keys[s.key], taken_at=j.row.taken_at, value=p.value, bound=p.bound, judgement_id=judgement, record_id=record)
            for s, p in zip(wanted, j.evaluation.points, strict=True)
        ]
    Finding.objects.bulk_create(findings)
    Point.objects.bulk_create(points)
    return len(batch)


def _known(keys: dict[str, int], wanted: list[Series]) -> None:
    lacking = [s for s in wanted if s.key not in keys]
    if lacking:
        Series.objects.bulk_create(lacking, ignore_conflicts=True)
        keys.update(Series.objects.filter(key__in=[s.key for s in lacking]).values_list("key", "pk"))


def _judgement(j: Judged, record: int, at: datetime) -> Judgement:
    text = j.context.model_dump_json(exclude_defaults=True)
    return Judgement(
        record_id=record, rules_version=j.evaluation.rules_version, context_deflated=deflated(text), context_hash=hashlib.sha256(text.encode()).hexdigest(),
        evaluation=j.evaluation.model_dump(mode="json", exclude_defaults=True), verdict=j.evaluation.verdict, made_at=at,
    )  # fmt: skip


def _finding(f: Any, j: Judged, record: int, judgement: int) -> Finding:
    return Finding(
        judgement_id=judgement, record_id=record, pump_set=j.pump_set, question=f.question, part=f.part, verdict=f.verdict, by=f.by or "",
        unknown=f.unknown or "", reason=f.reason.model_dump(mode="json"), line=f.line.model_dump(mode="json") if f.line else None,
        taken_at=j.row.taken_at, due=j.evaluation.due.at if j.evaluation.due else None,
    )  # fmt: skip
