"""Reads of the logbook: a set's state and history, one record."""

from __future__ import annotations

from typing import Any

from django.db.models import Max, Q

from hurbin_core.base import (
    MEASURANDS,
    Prefs,
    Quantity,
    Verdict,
    present,
    show,
    worst,
    write,
)
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.logbook import clock_word, never_checked
from hurbin_server.base.clock import now
from hurbin_server.base.cursors import cursor, read_cursor
from hurbin_server.base.errors import not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for
from hurbin_server.plant.known import events_of
from hurbin_server.plant.models import Event

from .models import Judgement, PartState, Point, Record, Sheet
from .part_states import STATE_OF_PART, part_verdict, say
from .schemas import (
    EntryOut,
    EventOut,
    HistoryOut,
    LastFigure,
    PlantPart,
    RecordBrief,
    RecordOut,
    SetStateOut,
    SheetOut,
    StoryLineOut,
)
from .services.judging import evaluation_of


def set_state(user: User, set_id: int, prefs: Prefs) -> SetStateOut:
    """The last figures at the parts they belong to, and what each part shows."""
    row = set_for(user, set_id)
    as_of = now()
    parts = [
        part_verdict(r[:-1], as_of, r[-1])
        for r in PartState.objects.filter(pump_set=row).values_list(*STATE_OF_PART, "reason")
    ] or [never_checked(as_of)]
    figures = []
    newest = Record.objects.filter(pump_set=row, live=True).values("bench").annotate(at=Max("taken_at"))
    last = Q(pk=None)
    for found in newest:
        last |= Q(record__bench=found["bench"], record__taken_at=found["at"])
    read = Point.objects.filter(last, record__pump_set=row, record__live=True, live=True)
    for p in read.select_related("series").order_by("record__bench", "pk"):
        kind = MEASURANDS[p.series.measurand]
        if kind.plot and not p.series.leg:
            shown = show(Quantity(value=p.value, unit=p.series.unit, bound=p.bound), prefs)
            figures.append(LastFigure(part=kind.part, label=kind.label, shown=shown, taken_at=p.taken_at))
    figures.sort(key=lambda f: (-f.taken_at.timestamp(),))
    ordered = sorted(parts, key=lambda p: -p.verdict.rank)
    return SetStateOut(
        parts=[PlantPart(part=p.part, verdict=p.verdict, beside=p.beside) for p in parts],
        verdict=worst(p.verdict for p in parts)[0],
        reasons=[say(p.reason, prefs) for p in ordered],
        figures=figures,
    )


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
    found = Record.objects.filter(pump_set=row)
    if before:
        at, pk = read_cursor(before)
        found = found.filter(Q(taken_at__lt=at) | Q(taken_at=at, pk__lt=pk))
    rows = list(found.order_by("-taken_at", "-pk").values_list(*_BRIEF)[: size + 1])
    newest = Judgement.objects.filter(record__in=[r[0] for r in rows[:size]], newest=True)
    # Of an answer of many findings the page says the first: no more of it is read.
    told = {
        pk: (verdict, say(first, prefs) if first else "")
        for pk, verdict, first in newest.values_list(
            "record_id", "verdict", "evaluation__findings__0__reason"
        )
    }
    events = events_of(row)[:-51:-1] if not before else []
    return HistoryOut(
        records=[RecordBrief(**_brief(r, *told.get(r[0], ("unknown", "")))) for r in rows[:size]],
        events=[event_out(e) for e in events],
        next=cursor(rows[size - 1][2], rows[size - 1][0]) if len(rows) > size else "",
    )


def event_out(e: Event) -> EventOut:
    return EventOut(at=e.at, kind=e.kind, note=e.note, by=e.by.full_name if e.by else "")


def _summary(evaluation: dict[str, Any], prefs: Prefs) -> str:
    found = evaluation.get("findings") or []
    return say(found[0]["reason"], prefs) if found else ""


def record(user: User, record_id: int, prefs: Prefs) -> RecordOut:
    """One record with its newest judgement, as this reader sees it."""
    r = Record.objects.select_related("pump_set").filter(pk=record_id).first()
    if r is None:
        raise not_found("That record")
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
                by=e.by.full_name,
                late=e.late,
                device_at=e.device_at,
                clock_off_ms=e.clock_off_ms,
                body=e.body,
            )
            for e in entries
        ],
    )
