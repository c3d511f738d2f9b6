"""Reads of the logbook: a set's state and history, one record."""

from __future__ import annotations

import json
from typing import Any

from hurbin_core.base import Prefs, Verdict, present, write
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.instruments import READS
from hurbin_core.logbook import clock_word, title_of_event
from hurbin_server.base.asking import ask
from hurbin_server.base.cursors import cursor, read_cursor
from hurbin_server.base.errors import not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for
from hurbin_server.plant.known import events_of
from hurbin_server.plant.models import Event

from .models import Record, Sheet
from .part_states import say
from .schemas import (
    EntryOut,
    EventOut,
    HistoryOut,
    ReadWithOut,
    RecordBrief,
    RecordOut,
    SheetOut,
    StoryLineOut,
)
from .services.judging import evaluation_of
from .services.read_with import every_on, labels_of

_BRIEF = ("pk", "bench", "taken_at", "by__full_name", "live", "reason", "supersedes_id", "superseded_by__pk")


def _brief(row: tuple[Any, ...], verdict: str, summary: str) -> dict[str, Any]:
    pk, name, taken_at, by, live, reason, supersedes, superseded_by = row
    return {
        "id": pk,
        "bench": name,
        "title": find_bench(name).title,
        "taken_at": taken_at,
        "by": by,
        "verdict": Verdict(verdict),
        "live": live,
        "reason": reason,
        "supersedes": supersedes,
        "superseded_by": superseded_by,
        "summary": summary,
    }


def history(user: User, set_id: int, prefs: Prefs, before: str) -> HistoryOut:
    """Records newest first, corrected ones beside their correction; events between. `before`: where the page
    before this one ended.
    """
    row = set_for(user, set_id)
    size = 25
    older = "AND (taken_at < %s OR (taken_at = %s AND id < %s))" if before else ""
    at, pk = read_cursor(before) if before else (None, None)
    rows = ask(_RECORDS.format(older=older), [row.pk, *((at, at, pk) if before else ()), size + 1])
    told = _told([r[0] for r in rows[:size]], prefs)
    events = events_of(row)[:-51:-1] if not before else []
    return HistoryOut(
        records=[RecordBrief(**_brief(r, *told.get(r[0], ("unknown", "")))) for r in rows[:size]],
        events=[event_out(e) for e in events],
        next=cursor(rows[size - 1][2], rows[size - 1][0]) if len(rows) > size else "",
    )


# The newest first, and only to those whatever belongs to them: else the database reads all years.
_RECORDS = """SELECT r.id, r.bench, r.taken_at, u.full_name, r.live, r.reason, r.supersedes_id, n.id
FROM (SELECT id, bench, taken_at, by_id, live, reason, supersedes_id FROM logbook_record
      WHERE pump_set_id = %s {older} ORDER BY taken_at DESC, id DESC LIMIT %s) r
JOIN base_user u ON u.id = r.by_id LEFT JOIN logbook_record n ON n.supersedes_id = r.id
ORDER BY r.taken_at DESC, r.id DESC"""
# Of an answer of many findings the page says the first: no more of it is read.
_TOLD = """SELECT j.record_id, j.verdict, f.reason FROM logbook_judgement j LEFT JOIN logbook_finding f
ON f.id = (SELECT MIN(x.id) FROM logbook_finding x WHERE x.judgement_id = j.id)
WHERE j.record_id IN %s AND j.newest = 1"""


def _told(records: list[int], prefs: Prefs) -> dict[int, tuple[str, str]]:
    """The verdict of each record and the first thing it says."""
    if not records:
        return {}
    found = [(pk, v, json.loads(reason or "{}")) for pk, v, reason in ask(_TOLD, [tuple(records)])]
    return {pk: (v, say(reason, prefs) if reason else "") for pk, v, reason in found}


def event_out(e: Event) -> EventOut:
    return EventOut(
        at=e.at,
        kind=e.kind,
        title=title_of_event(e.kind),
        note=e.note,
        by=e.by.full_name if e.by else "",
    )


def _summary(evaluation: dict[str, Any], prefs: Prefs) -> str:
    found = evaluation.get("findings") or []
    return say(found[0]["reason"], prefs) if found else ""


def record(user: User, record_id: int, prefs: Prefs) -> RecordOut:
    """One record with its newest judgement, as this reader sees it."""
    r = Record.objects.select_related("pump_set").filter(pk=record_id).first()
    if r is None:
        raise not_found("Record")
    set_for(user, r.pump_set_id)
    judgements = list(r.judgements.order_by("-made_at"))
    newest = next(j for j in judgements if j.newest)
    evaluation = evaluation_of(r.bench, newest.evaluation)
    return RecordOut(
        **_brief(
            Record.objects.values_list(*_BRIEF).get(pk=r.pk),
            newest.verdict,
            _summary(newest.evaluation, prefs),
        ),
        set_id=r.pump_set_id,
        read_with=_read_with(r),
        body=r.body,
        conditions=r.conditions,
        evaluation=present(evaluation, prefs),
        rules_version=newest.rules_version,
        judged_at=newest.made_at,
        judged_times=len(judgements),
        story=story_of(r, prefs),
        clocks=_clocks(r, prefs),
        entries=list(r.sheet.entries.order_by("taken_at", "uuid").values_list("uuid", flat=True)),
        correctable=not find_bench(r.bench).single,
    )


def _read_with(r: Record) -> list[ReadWithOut]:
    """The instruments that this was read with."""
    every = every_on([r.sheet_id]).get(r.sheet_id, {})
    labels = labels_of(r.pump_set.site_id) if every else {}
    return [
        ReadWithOut(reads=d, word=READS.get(d, d), id=pk, name=labels.get(pk, ""))
        for d, numbers in every.items()
        for pk in numbers
    ]


def _clocks(r: Record, prefs: Prefs) -> list[str]:
    """The devices whose clocks were wrong while this was taken."""
    rows = (
        r.sheet.entries.filter(clock_off_ms__isnull=False)
        .order_by("taken_at")
        .values_list("device", "by__full_name", "clock_off_ms")
    )
    told = {(d, who): clock_word(d, who, ms / 1000) for d, who, ms in rows}
    return [write(word, prefs) for word in told.values() if word is not None]


def story_of(r: Record, prefs: Prefs) -> list[StoryLineOut]:
    told = find_bench(r.bench).story
    return (
        [StoryLineOut(at=x.at, by=x.by, says=write(x.says, prefs).strip()) for x in told(r.body)]
        if told is not None
        else []
    )


def sheet_out(sheet: Sheet) -> SheetOut:
    record = Record.objects.filter(sheet=sheet).values_list("pk", flat=True).first()
    entries = sorted(sheet.entries.select_related("by"), key=lambda e: (e.taken_at, e.uuid))
    return SheetOut(
        uuid=sheet.uuid,
        set_id=sheet.pump_set_id,
        bench=sheet.bench,
        opened_by=sheet.opened_by.full_name,
        opened_at=sheet.opened_at,
        closed_at=sheet.closed_at,
        closed_by=sheet.closed_by.full_name if sheet.closed_by is not None else "",
        left_because=sheet.left_because,
        record=record,
        entries=[
            EntryOut(
                uuid=e.uuid,
                taken_at=e.taken_at,
                received_at=e.received_at,
                device=e.device,
                instruments=e.instruments,
                by=e.by.full_name,
                late=e.late,
                device_at=e.device_at,
                clock_off_ms=e.clock_off_ms,
                body=e.body,
            )
            for e in entries
        ],
    )
