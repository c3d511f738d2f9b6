"""From a record to its judgement, points, findings and part states; and all of it again when rules change."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from pydantic import TypeAdapter

from hurbin_core.base import Evaluation, MarginLine, Phrase
from hurbin_core.catalogue import bench as find_bench, benches
from hurbin_core.logbook import Answer, Context, Entry, fold_parts
from hurbin_core.plant import EVENT_KINDS
from hurbin_server.base.clock import now
from hurbin_server.plant.models import Component, Event, Fitting, PumpSet

from ..models import Entry as StoredEntry, Finding, Judgement, PartState, Point, Record, Series, deflated
from ..signals import CLOSED
from .context import context_for

_ADAPTERS: dict[str, TypeAdapter[Any]] = {}


def entries_of(bench_name: str, raw: list[dict[str, Any]]) -> list[Any]:
    """Entries as the bench's own models."""
    if bench_name not in _ADAPTERS:
        _ADAPTERS[bench_name] = TypeAdapter(list[Entry[find_bench(bench_name).entry]])  # type: ignore[misc]
    return _ADAPTERS[bench_name].validate_python(raw)


def raw_of(e: StoredEntry) -> dict[str, Any]:
    """A stored entry as the core's models take it, with who wrote it."""
    return {"uuid": e.uuid, "taken_at": e.taken_at, "device": e.device, "by": e.by.full_name, "who": e.by.username, "body": e.body}


def _entries(record: Record) -> list[Any]:
    return entries_of(record.bench, [raw_of(e) for e in record.sheet.entries.filter(late=False).select_related("by")])


def write_judgement(record: Record, context: Context, evaluation: Evaluation, parts: dict[str, Component]) -> Judgement:
    """Append a judgement; it is the newest from now on, and points and findings hang on it."""
    text = context.model_dump_json(exclude_defaults=True)
    Judgement.objects.filter(record=record, newest=True).update(newest=False)
    Point.objects.filter(record=record, live=True).update(live=False)
    Finding.objects.filter(record=record, live=True).update(live=False)
    judgement = Judgement.objects.create(
        record=record, rules_version=evaluation.rules_version, context_deflated=deflated(text), context_hash=hashlib.sha256(text.encode()).hexdigest(),
        evaluation=evaluation.model_dump(mode="json", exclude_defaults=True), verdict=evaluation.verdict, made_at=now(),
    )  # fmt: skip
    Finding.objects.bulk_create(
        Finding(
            judgement=judgement, record=record, pump_set_id=record.pump_set_id, question=f.question, part=f.part, verdict=f.verdict,
            by=f.by or "", unknown=f.unknown or "", reason=f.reason.model_dump(mode="json"),
            line=f.line.model_dump(mode="json") if f.line else None, taken_at=record.taken_at, due=evaluation.due.at if evaluation.due else None,
        )
        for f in evaluation.findings
    )  # fmt: skip
    series = _series(record.pump_set, evaluation, parts)
    Point.objects.bulk_create(
        Point(series_id=series[i], taken_at=record.taken_at, value=p.value, bound=p.bound, judgement=judgement, record=record)
        for i, p in enumerate(evaluation.points)
    )
    return judgement


def series_of(pump_set: PumpSet, evaluation: Evaluation, parts: dict[str, Component]) -> list[Series]:
    """The series each point belongs to, not yet saved; its key says whether it is there."""
    wanted: list[Series] = []
    for p in evaluation.points:
        owner = parts.get(p.part) if p.part else None
        own_set = None if owner else pump_set
        text = f"{'c' if owner else 's'}{(owner or pump_set).pk}·{p.measurand}·{p.leg}·{p.conditions}"
        wanted.append(
            Series(key=hashlib.sha256(text.encode()).hexdigest(), site_id=pump_set.site_id, pump_set=own_set, component=owner,
                   measurand=p.measurand, leg=p.leg, conditions=p.conditions, unit=p.unit)
        )  # fmt: skip
    return wanted


def _series(pump_set: PumpSet, evaluation: Evaluation, parts: dict[str, Component]) -> list[int]:
    """The series of each point, made when it is the first one."""
    wanted = series_of(pump_set, evaluation, parts)
    keys = [s.key for s in wanted]
    held = dict(Series.objects.filter(key__in=keys).values_list("key", "pk"))
    if len(held) < len(set(keys)):
        Series.objects.bulk_create([s for s in wanted if s.key not in held], ignore_conflicts=True)
        held = dict(Series.objects.filter(key__in=keys).values_list("key", "pk"))
    return [held[k] for k in keys]


def write_part_states(pump_set: PumpSet) -> None:
    """Fold the newest live answer of each question to what the parts show. What was said of a part that has been
    exchanged since is closed: it went with the part. So is what rooms above say is over."""
    exchanged = _exchanged(pump_set)
    over = {q: at for closed in CLOSED for q, at in closed(pump_set).items()}
    rows = Finding.objects.filter(pump_set=pump_set, live=True).order_by("-taken_at", "-pk")[:160]
    newest: dict[str, Finding] = {}
    for f in rows:
        if (f.part not in exchanged or f.taken_at >= exchanged[f.part]) and (f.question not in over or f.taken_at > over[f.question]):
            newest.setdefault(f.question, f)
    answers = [
        Answer(question=f.question, part=f.part, verdict=f.verdict, by=f.by or None, unknown=f.unknown or None,
               reason=Phrase.model_validate(f.reason), taken_at=f.taken_at, record=str(f.record_id))
        for f in newest.values()
    ]  # fmt: skip
    interval = timedelta(days=pump_set.service.check_every_days)
    PartState.objects.filter(pump_set=pump_set).delete()
    PartState.objects.bulk_create(
        PartState(
            pump_set=pump_set, part=p.part, verdict=p.verdict, beside=p.beside or "", by=p.by or "", question=p.question,
            reason=p.reason.model_dump(mode="json"), line=newest[p.question].line, taken_at=p.taken_at,
            due=newest[p.question].due or p.taken_at + interval,
        )
        for p in fold_parts(answers)
    )  # fmt: skip


def _exchanged(pump_set: PumpSet) -> dict[str, datetime]:
    """Since when each place holds another part, or one to which something happened: rewound, flooded, overhauled."""
    out: dict[str, datetime] = {}
    seen: set[str] = set()
    for slot, since in Fitting.objects.filter(pump_set=pump_set).order_by("from_at").values_list("slot", "from_at"):
        if slot in seen:
            out[slot] = since
        seen.add(slot)
    for kind, at in Event.objects.filter(pump_set=pump_set, kind__in=EVENT_KINDS).values_list("kind", "at"):
        part = EVENT_KINDS[kind].part
        for slot in [part] if part else sorted(seen):
            out[slot] = max(at, out.get(slot, at))
    return out


def rejudge(record: Record) -> tuple[str, str] | None:
    """Judge a record again by the rules, plates and limits of now. (old, new) verdict when the answer changed."""
    b = find_bench(record.bench)
    context, parts = context_for(record.pump_set, b, record.taken_at, without=record)
    evaluation = b.evaluate(_entries(record), context)
    old = record.judgements.filter(newest=True).first()
    fresh = evaluation.model_dump(mode="json", exclude_defaults=True)
    if old is not None and {**old.evaluation, "rules_version": ""} == {**fresh, "rules_version": ""}:
        return None
    with transaction.atomic():
        write_judgement(record, context, evaluation, parts)
    return (old.verdict if old else "", evaluation.verdict)


def rejudge_newest(pump_set: PumpSet) -> None:
    """After a plate or a fitting changed: the newest live record of each bench, so that Plant shows what holds now."""
    rows = Record.objects.filter(pump_set=pump_set, live=True)
    newest = rows.filter(pk__in=[r.pk for b in benches() if (r := rows.filter(bench=b.name).order_by("-taken_at").first())])
    for record in newest.select_related("pump_set__site", "pump_set__service", "sheet"):
        rejudge(record)
    write_part_states(pump_set)


@dataclass(slots=True)
class Changed:
    tag: str
    taken_at: str
    old: str
    new: str


def rejudge_all() -> tuple[int, list[Changed]]:
    """Every live record, oldest first (its points are the past of the next)."""
    rows = Record.objects.filter(live=True).select_related("pump_set__site", "pump_set__service", "sheet").order_by("taken_at", "pk")
    changed, n, touched = [], 0, {}
    for record in rows.iterator(chunk_size=200):
        n += 1
        said = rejudge(record)
        if said is not None:
            changed.append(Changed(record.pump_set.tag, record.taken_at.isoformat(), said[0], said[1]))
            touched[record.pump_set_id] = record.pump_set
    for pump_set in touched.values():
        write_part_states(pump_set)
    return n, changed


def line_of(raw: Any) -> MarginLine | None:
    return MarginLine.model_validate(raw) if raw else None
