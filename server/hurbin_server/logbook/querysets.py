"""Reads of the logbook: the plant as it stands, a set's state and history."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime, timedelta
from typing import Any

from django.db.models import Max, Q

from hurbin_core.base import (
    MEASURANDS,
    By,
    MarginLine,
    Phrase,
    Prefs,
    Quantity,
    Verdict,
    present,
    show,
    show_line,
    worst,
    write,
)
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.logbook import PartVerdict, attention, behind, clock_word, never_checked, overdue
from hurbin_server.base.clock import now
from hurbin_server.base.cursors import cursor, read_cursor
from hurbin_server.base.errors import not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import require, set_for, site_for
from hurbin_server.plant.models import Event, Fitting, PumpSet, Service

from .models import Judgement, PartState, Point, Record, Sheet
from .schemas import (
    EntryOut,
    EventOut,
    FirstOut,
    HistoryOut,
    LastFigure,
    PlantOut,
    PlantPart,
    PlantService,
    PlantSet,
    RecordBrief,
    RecordOut,
    SetStateOut,
    SheetOut,
    StoryLineOut,
)
from .services.judging import evaluation_of

FIRST = 6
# The reason is a text to be decoded: of a whole plant only the leading one of each set is fetched.
_STATE = ("pump_set_id", "part", "verdict", "beside", "by", "question", "due")


def _verdict(row: tuple[Any, ...], as_of: datetime, reason: Any) -> PartVerdict:
    _, part, verdict, beside, by, question, due = row
    held = PartVerdict(
        part=part,
        verdict=_VERDICT[verdict],
        beside=_VERDICT[beside] if beside else None,
        by=_BY.get(by),
        question=question,
        reason=reason,
    )
    return overdue(held, due, as_of)


_BY = {b.value: b for b in By}
_VERDICT = {v.value: v for v in Verdict}


def _say(reason: Any, prefs: Prefs) -> str:
    return write(reason if isinstance(reason, Phrase) else Phrase.model_validate(reason), prefs)


def plant(user: User, site_id: int, prefs: Prefs) -> tuple[PlantOut, datetime | None]:
    """The whole plant in a fixed number of queries, ordered so that what needs a person comes first; and when
    the next answer on it becomes overdue.
    """
    site = site_for(user, site_id)
    as_of = now()
    services = list(Service.objects.filter(site=site))
    sets = list(
        PumpSet.objects.filter(site=site).values_list(
            "id", "service_id", "tag", "name", "place", "nickname", "kind", "role", "pair"
        )
    )
    controls = dict(
        Fitting.objects.filter(pump_set__site=site, slot="control", to_at=None).values_list(
            "pump_set_id", "component__kind"
        )
    )
    states: dict[int, list[PartVerdict]] = defaultdict(list)
    dues: list[datetime] = []
    for row in PartState.objects.filter(pump_set__site=site).values_list(*_STATE, "pk"):
        states[row[0]].append(_verdict(row[:-1], as_of, row[-1]))
        if row[6] is not None and row[6] >= as_of:
            dues.append(row[6])
    tops = {pk: _top(parts) for pk, parts in states.items()}
    reasons = dict(
        PartState.objects.filter(
            pk__in=[t.reason for t in tops.values() if isinstance(t.reason, int)]
        ).values_list("pk", "reason")
    )
    weight = {s.pk: s.consequence for s in services}
    paired: dict[tuple[int, str], list[int]] = defaultdict(list)
    for s in sets:
        if s[8]:
            paired[(s[1], s[8])].append(s[0])
    lanes: dict[int, list[tuple[tuple[int, ...], PlantSet]]] = defaultdict(list)
    order: list[tuple[tuple[int, ...], str, PlantSet]] = []
    rows: dict[int, PlantSet] = {}
    for pk, service_id, tag, name, place, nickname, kind, role, pair in sets:
        parts = states.get(pk) or [never_checked(as_of)]
        rank = attention(parts, len(paired.get((service_id, pair), ())) > 1, weight[service_id])
        row = _plant_set(
            pk, tag, name, place, nickname, kind, controls.get(pk, ""), role, pair, parts, reasons, prefs
        )
        lanes[service_id].append((rank, row))
        order.append((rank, tag, row))
        rows[pk] = row
    order.sort(key=lambda o: o[:2])
    partners = {pk: [rows[x] for x in group if x != pk] for group in paired.values() for pk in group}
    by_service = sorted(
        services, key=lambda s: (min((r for r, _ in lanes[s.pk]), default=(9,)), s.place_in_order)
    )
    out = PlantOut.model_construct(
        site=site.pk,
        name=site.name,
        time_zone=site.time_zone,
        role=require(user, site.pk),
        as_of=as_of,
        services=[
            PlantService.model_construct(
                id=s.pk, code=s.code, name=s.name, note=s.note, sets=[row for _, row in lanes[s.pk]]
            )
            for s in by_service
        ],
        first=_first([row for _, _, row in order], partners, prefs),
    )
    # Overdue is who is past his date, not at it.
    return out, min(dues) + timedelta(microseconds=1) if dues else None


def _top(parts: list[PartVerdict]) -> PartVerdict:
    """The part whose reason stands for the set."""
    verdict = worst(p.verdict for p in parts)[0]
    return min(
        (p for p in parts if p.verdict is verdict),
        key=lambda p: (p.by.rank if p.by else 9, p.question != "load"),
    )


def _plant_set(
    pk: int,
    tag: str,
    name: str,
    place: str,
    nickname: str,
    kind: str,
    control: str,
    role: str,
    pair: str,
    parts: list[PartVerdict],
    reasons: dict[int, Any],
    prefs: Prefs,
) -> PlantSet:
    verdict, beside = worst(p.verdict for p in parts)
    top = _top(parts)
    if beside is None and any(p.beside is Verdict.WATCH for p in parts) and verdict is Verdict.UNKNOWN:
        beside = Verdict.WATCH
    return PlantSet(
        id=pk,
        tag=tag,
        name=name,
        place=place,
        nickname=nickname,
        kind=kind,
        control=control,
        role=role,
        pair=pair,
        verdict=verdict,
        beside=beside,
        by=top.by,
        reason=_say(
            reasons.get(top.reason, top.reason) if isinstance(top.reason, int) else top.reason, prefs
        ),
        parts=[PlantPart(part=p.part, verdict=p.verdict, beside=p.beside) for p in parts],
    )


def _first(order: list[PlantSet], partners: dict[int, list[PlantSet]], prefs: Prefs) -> list[FirstOut]:
    top = [row for row in order if row.verdict is not Verdict.GOOD][:FIRST]
    lines: dict[int, MarginLine] = {}
    for pk, verdict, line in PartState.objects.filter(pump_set_id__in=[r.id for r in top]).values_list(
        "pump_set_id", "verdict", "line"
    ):
        if line and any(r.id == pk and r.verdict == verdict for r in top):
            lines.setdefault(pk, MarginLine.model_validate(line))
    return [
        FirstOut.model_construct(
            set=r.id,
            line=show_line(lines[r.id], prefs, set()) if r.id in lines else None,
            standing=write(behind((p.tag, p.verdict) for p in partners.get(r.id, [])), prefs),
        )
        for r in top
    ]


def set_state(user: User, set_id: int, prefs: Prefs) -> SetStateOut:
    """The last figures at the parts they belong to, and what each part shows."""
    row = set_for(user, set_id)
    as_of = now()
    parts = [
        _verdict(r[:-1], as_of, r[-1])
        for r in PartState.objects.filter(pump_set=row).values_list(*_STATE, "reason")
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
        reasons=[_say(p.reason, prefs) for p in ordered],
        figures=figures,
    )


def _brief(r: Record, verdict: str, summary: str) -> dict[str, Any]:
    later = getattr(r, "superseded_by", None)
    return {
        "id": r.pk,
        "bench": r.bench,
        "title": find_bench(r.bench).title,
        "taken_at": r.taken_at,
        "by": r.by.full_name,
        "verdict": Verdict(verdict),
        "live": r.live,
        "reason": r.reason,
        "supersedes": r.supersedes_id,
        "superseded_by": later.pk if later else None,
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
    rows = list(found.select_related("by", "superseded_by").order_by("-taken_at", "-pk")[: size + 1])
    newest = Judgement.objects.filter(record__in=rows, newest=True)
    told = {
        pk: (verdict, _summary(evaluation, prefs))
        for pk, verdict, evaluation in newest.values_list("record_id", "verdict", "evaluation")
    }
    happened = Event.objects.filter(pump_set=row).select_related("by").order_by("-at")
    events = happened[:50] if not before else []
    return HistoryOut(
        records=[RecordBrief(**_brief(r, *told.get(r.pk, ("unknown", "")))) for r in rows[:size]],
        events=[event_out(e) for e in events],
        next=cursor(rows[size - 1].taken_at, rows[size - 1].pk) if len(rows) > size else "",
    )


def event_out(e: Event) -> EventOut:
    return EventOut(at=e.at, kind=e.kind, note=e.note, by=e.by.full_name if e.by else "")


def _summary(evaluation: dict[str, Any], prefs: Prefs) -> str:
    found = evaluation.get("findings") or []
    return _say(found[0]["reason"], prefs) if found else ""


def record(user: User, record_id: int, prefs: Prefs) -> RecordOut:
    """One record with its newest judgement, as this reader sees it."""
    r = Record.objects.select_related("by", "pump_set", "superseded_by").filter(pk=record_id).first()
    if r is None:
        raise not_found("That record")
    set_for(user, r.pump_set_id)
    judgements = list(r.judgements.order_by("-made_at"))
    newest = next(j for j in judgements if j.newest)
    evaluation = evaluation_of(r.bench, newest.evaluation)
    return RecordOut(
        **_brief(r, newest.verdict, _summary(newest.evaluation, prefs)),
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
