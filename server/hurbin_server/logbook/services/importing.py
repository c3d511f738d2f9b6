"""Files of readings: checked row by row, then written whole or not at all, by the task queue, with a
lease.
"""

from __future__ import annotations

import gc
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings

from hurbin_core.base import AnyBench, HurbinError, TemporaryChange, decode, last_seen
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.logbook import looks_like_json
from hurbin_server.base import audit
from hurbin_server.base.asking import put_in
from hurbin_server.base.clock import now
from hurbin_server.base.door import act
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import require, site_for
from hurbin_server.plant.models import PumpSet

from ..models import Entry, Finding, ImportRow, Judgement, Point, ReadingsImport, Record, Series, Sheet
from ..signals import PERFORM, Doing
from .finished import Finished, batches
from .judging import in_context, rejudge_newest
from .rolling import roll
from .rows import EVERY, judge_rows, open_file

State = ReadingsImport.State
LEASE = timedelta(seconds=45)
# A file that ends its worker every time is given up; a database that is gone now and then is no fault of it.
TRIES = 8


class Cancelled(Exception):
    """Somebody asked to stop."""


def start_import(
    user: User, site_id: int, bench_name: str, name: str, raw: bytes, day_first: bool | None
) -> ReadingsImport:
    """Keep the file and queue its check. What begins like no table of readings is refused at once (422); the
    rest of a long file is for the worker to read.
    """
    site = site_for(user, site_id, "technician")
    b = find_bench(bench_name)
    total = _first_look(raw, b, site.time_zone, day_first)
    job = ReadingsImport.objects.create(
        site=site,
        bench=b.name,
        name=name[:200],
        content=raw,
        day_first=day_first,
        by=user,
        at=now(),
        total=total,
    )
    _queue(job)
    return job


# As much of a file as is looked at while its sender waits.
HEAD = 256 * 1024


def _first_look(raw: bytes, b: AnyBench, zone: str, day_first: bool | None) -> int:
    """How many rows it has, as far as that shows without reading them. Raises what opening it raises."""
    head = raw if len(raw) <= HEAD else raw[: raw.rfind(b"\n", 0, HEAD) + 1 or HEAD]
    text = decode(head)
    if len(raw) > HEAD and looks_like_json(text):
        return 0
    file = open_file(text, b, zone, day_first)
    return file.total if len(raw) <= HEAD else raw.count(b"\n")


def _queue(job: ReadingsImport) -> None:
    from ..tasks import run_import

    ReadingsImport.objects.filter(pk=job.pk).update(lease_until=now() + LEASE)
    run_import.enqueue(job.pk)


def import_for(user: User, job_id: int, at_least: str = "technician") -> ReadingsImport:
    job = ReadingsImport.objects.defer("content").select_related("site", "by").filter(pk=job_id).first()
    if job is None:
        raise not_found("File")
    require(user, job.site_id, at_least)
    return job


def reap(job: ReadingsImport) -> None:
    """A worker that was killed leaves its work lying: once its lease has run out the work is queued again,
    eight times at most.
    """
    if job.state not in (State.CHECKING, State.WRITING) or job.lease_until is None or job.lease_until > now():
        return
    ours = ReadingsImport.objects.filter(pk=job.pk, lease_until=job.lease_until).update(
        lease_until=now() + LEASE, tries=job.tries + 1
    )
    if not ours:
        return
    if job.tries + 1 >= TRIES:
        _end(
            job.pk,
            State.FAILED,
            error="Import failed eight times. Nothing was saved. Import the file again.",
        )
    else:
        _queue(job)
    job.refresh_from_db(fields=["state", "error", "lease_until", "tries"])


def reap_all() -> int:
    late = ReadingsImport.objects.defer("content").filter(
        state__in=(State.CHECKING, State.WRITING), lease_until__lt=now()
    )
    for job in late:
        reap(job)
    return len(late)


def ask_write(user: User, job_id: int) -> ReadingsImport:
    """Write the rows of a checked file that can be, all of them or none; those that are refused stay out,
    each with its reason. Refused (409): not checked, or nothing new in it.
    """
    job = import_for(user, job_id)
    if job.state != State.CHECKED:
        raise Refused(409, "import_not_checked", "This file is not ready to be saved.")
    if job.taken + job.questioned == 0:
        raise Refused(409, "nothing_new", "All rows are already on record or rejected. Nothing to save.")
    ReadingsImport.objects.filter(pk=job.pk, state=State.CHECKED).update(
        state=State.WRITING, done=0, tries=0, cancel_asked=False
    )
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
    ReadingsImport.objects.using(settings.PROGRESS_DATABASE).filter(pk=job_id).update(
        state=state, finished_at=now(), lease_until=None, **more
    )


def run(job_id: int) -> str:
    """The task: check or write, whichever the file waits for. Safe to run twice: a written file is left
    alone.
    """
    job = ReadingsImport.objects.select_related("site", "by").get(pk=job_id)
    try:
        with _no_walks():
            if job.state == State.CHECKING:
                _check(job)
            elif job.state == State.WRITING:
                _write(job)
    except Cancelled:
        _end(job.pk, State.CANCELLED)
    except HurbinError as error:
        _end(job.pk, State.FAILED, error=error.message)
    return ReadingsImport.objects.values_list("state", flat=True).get(pk=job_id)


@contextmanager
def _no_walks() -> Iterator[None]:
    """A large file keeps many objects alive and makes few circles: looking for them again and again costs a
    quarter of the time.
    """
    gc.disable()
    try:
        yield
    finally:
        gc.enable()
        gc.collect()


def _tick(job: ReadingsImport) -> Callable[[int], None]:
    """Told to everybody while the work's own transaction is still open: how far, and that a worker lives."""

    def tell(done: int) -> None:
        row = ReadingsImport.objects.using(settings.PROGRESS_DATABASE).filter(pk=job.pk)
        row.update(done=done, lease_until=now() + LEASE)
        if row.values_list("cancel_asked", flat=True).first():
            raise Cancelled

    return tell


def _check(job: ReadingsImport) -> None:
    b, tell = find_bench(job.bench), _tick(job)
    count = {"taken": 0, "questioned": 0, "refused": 0, "there": 0}
    # Not one transaction: rows that point to the file hold its line, and its progress could not be told.
    ImportRow.objects.filter(job=job).delete()
    kept: list[ImportRow] = []
    for row, _, outcome, says in judge_rows(job, b, tell):
        count[outcome] += 1
        if outcome != "taken" or count["taken"] <= 1000:
            tag, word = _storable(row.tag)[:60], _storable(says)[:500]
            kept.append(ImportRow(job=job, line=row.line, tag=tag, outcome=outcome, says=word))
        if len(kept) >= 2000:
            ImportRow.objects.bulk_create(kept)
            kept = []
    ImportRow.objects.bulk_create(kept)
    _end(job.pk, State.CHECKED, done=sum(count.values()), total=sum(count.values()), **count)


def _storable(text: str) -> str:
    """Half a character cannot be kept: it is shown as what it is not."""
    return text.encode("utf-8", "replace").decode()


def _write(job: ReadingsImport) -> None:
    act(lambda: _written(job))


def _written(job: ReadingsImport) -> None:
    """The whole of it, in one act: what it moved is told at its end."""
    b, tell = find_bench(job.bench), _tick(job)
    touched: set[int] = set()
    written, keys = 0, dict[str, int]()
    looks: dict[int, list[tuple[str, TemporaryChange]]] = {}
    tell(0)
    for batch in batches(job, EVERY, lambda: tell(job.done)):
        _write_batch(job, batch, keys)
        touched |= {f.pump_set for f in batch}
        for f in batch:
            looks.setdefault(f.pump_set, []).extend((f.sheet, look) for look in f.looks)
        written += len(batch)
        job.done = written
        tell(written)
    for n, pump_set in enumerate(PumpSet.objects.filter(pk__in=touched).select_related("site", "service"), 1):
        rejudge_newest(pump_set)
        _stands(job, b, pump_set, looks.get(pump_set.pk, []))
        if n % 20 == 0:
            tell(job.total)
    audit.note(
        job.by,
        "readings_imported",
        f"{job.name}: {written} {b.title.lower()}s",
        site_id=job.site_id,
        after={"import": job.pk, "records": written},
    )
    tell(job.total)
    ReadingsImport.objects.filter(pk=job.pk).update(
        state=State.WRITTEN, finished_at=now(), lease_until=None, done=job.total
    )


def _stands(
    job: ReadingsImport, b: AnyBench, pump_set: PumpSet, looks: list[tuple[str, TemporaryChange]]
) -> None:
    """How the set was last seen to stand, as the save service performs it; nothing else of a file is
    performed: it tells of work that was done.
    """
    for last in last_seen(look for _, look in looks):
        sheet = next(key for key, look in looks if (look.change, look.at) == (last.change, last.at))
        record = Record.objects.select_related("sheet").get(sheet_id=sheet)
        PERFORM[last.kind](Doing(job.by, pump_set, b, record.sheet, record, [last]))


def _write_batch(job: ReadingsImport, batch: list[Finished], keys: dict[str, int]) -> None:
    """Sheets, entries, records, judgements, findings and points of many rows, as the save service writes
    those of one.
    """
    at = now()
    on_sheet = {"bench": job.bench, "opened_by_id": job.by_id, "closed_at": at}
    put_in(
        Sheet,
        (
            {"uuid": f.sheet, "pump_set_id": f.pump_set, "opened_at": f.record["taken_at"], **on_sheet}
            for f in batch
        ),
    )
    in_file = {"by_id": job.by_id, "device": "file", "received_at": at}
    put_in(Entry, ({"sheet_id": f.sheet, **in_file, **e} for f in batch for e in f.entries))
    on_record = {"bench": job.bench, "by_id": job.by_id, "saved_at": at}
    put_in(Record, ({"sheet_id": f.sheet, "pump_set_id": f.pump_set, **on_record, **f.record} for f in batch))
    records = dict(Record.objects.filter(sheet_id__in=[f.sheet for f in batch]).values_list("sheet_id", "pk"))
    judged = ({"record_id": records[f.sheet], **in_context(f.context), **f.judgement} for f in batch)
    put_in(Judgement, ({"made_at": at, **x} for x in judged))
    judgements = dict(
        Judgement.objects.filter(record_id__in=records.values(), newest=True).values_list("record_id", "pk")
    )
    _known(keys, [Series(**s) for f in batch for s in f.series if s["key"] not in keys])
    findings, points = [], []
    for f in batch:
        record, judgement = records[f.sheet], judgements[records[f.sheet]]
        of = {"judgement_id": judgement, "record_id": record}
        findings += [{"pump_set_id": f.pump_set, **of, **x} for x in f.findings]
        when = f.record["taken_at"]
        points += [
            {"series_id": keys[s["key"]], "taken_at": when, "value": value, "bound": bound, **of}
            for s, (value, bound) in zip(f.series, f.points, strict=True)
        ]
    put_in(Finding, findings)
    put_in(Point, points)
    roll((p["series_id"], p["taken_at"]) for p in points)


def _known(keys: dict[str, int], lacking: list[Series]) -> None:
    if lacking:
        Series.objects.bulk_create(lacking, ignore_conflicts=True)
        keys.update(Series.objects.filter(key__in={s.key for s in lacking}).values_list("key", "pk"))


# A file that was dealt with is looked at again for so long; its rows and what came of them stay.
KEPT = timedelta(days=60)
OVER = (State.WRITTEN, State.FAILED, State.CANCELLED)


def drop_contents(at: datetime) -> int:
    """The bytes of files that were dealt with long ago; how many files."""
    old = ReadingsImport.objects.filter(state__in=OVER, finished_at__lt=at - KEPT).exclude(content=b"")
    return int(old.update(content=b""))
