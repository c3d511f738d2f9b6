"""From a record to its judgement, points, findings and part states; and all of it again when rules change."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any

from django.db import transaction
from django.db.models import Q
from pydantic import TypeAdapter

from hurbin_core.base import Evaluation, kept
from hurbin_core.catalogue import bench as find_bench, benches
from hurbin_core.logbook import AnyCase, Entry
from hurbin_server.base.clock import now
from hurbin_server.base.door import act, moved
from hurbin_server.plant.access import hold_set
from hurbin_server.plant.models import Component, PumpSet

from ..models import Entry as StoredEntry, Finding, Judgement, Point, Record, Series, deflated
from ..signals import Day
from .answers import SETTLED, answer
from .casing import case_for
from .rolling import roll

_ADAPTERS: dict[str, TypeAdapter[Any]] = {}


def entries_of(bench_name: str, raw: list[dict[str, Any]]) -> list[Any]:
    """Entries as the bench's own models."""
    if bench_name not in _ADAPTERS:
        _ADAPTERS[bench_name] = TypeAdapter(list[Entry[find_bench(bench_name).entry]])  # type: ignore[misc]
    return _ADAPTERS[bench_name].validate_python(raw)


def raw_of(e: StoredEntry) -> dict[str, Any]:
    """A stored entry as the core's models take it, with who wrote it."""
    return {
        "uuid": e.uuid,
        "taken_at": e.taken_at,
        "device": e.device,
        "instruments": e.instruments,
        "by": e.by.full_name,
        "who": e.by.username,
        "body": e.body,
    }


def _entries(record: Record) -> list[Any]:
    return entries_of(
        record.bench, [raw_of(e) for e in record.sheet.entries.filter(late=False).select_related("by")]
    )


def write_judgement(
    record: Record, case: AnyCase, evaluation: Evaluation[Any], parts: dict[str, Component]
) -> Judgement:
    """Append a judgement; it is the newest from now on, and points and findings hang on it."""
    text = case.model_dump_json(exclude_defaults=True)
    kept(evaluation)
    Judgement.objects.filter(record=record, newest=True).update(newest=False)
    gone = list(Point.objects.filter(record=record, live=True).values_list("series_id", flat=True))
    Point.objects.filter(record=record, live=True).update(live=False)
    Finding.objects.filter(record=record, live=True).update(live=False)
    told = evaluation.model_dump(mode="json", exclude_defaults=True)
    judgement = Judgement.objects.create(
        record=record,
        rules_version=evaluation.rules_version,
        **in_context(text),
        evaluation=told,
        verdict=evaluation.verdict,
        made_at=now(),
    )
    Finding.objects.bulk_create(
        Finding(
            judgement=judgement,
            record=record,
            pump_set_id=record.pump_set_id,
            taken_at=record.taken_at,
            **row,
        )
        for row in finding_rows(evaluation, told)
    )
    series = _series(record.pump_set, evaluation, parts)
    Point.objects.bulk_create(
        Point(
            series_id=series[i],
            taken_at=record.taken_at,
            value=p.value,
            bound=p.bound,
            judgement=judgement,
            record=record,
        )
        for i, p in enumerate(evaluation.points)
    )
    roll((s, record.taken_at) for s in {*series, *gone})
    return judgement


def in_context(case: str) -> dict[str, Any]:
    """The case of a judgement, as JSON, as it is kept."""
    return {
        "context_deflated": deflated(case),
        "context_hash": hashlib.sha256(case.encode()).hexdigest(),
    }


def finding_rows(evaluation: Evaluation[Any], told: dict[str, Any]) -> list[dict[str, Any]]:
    """An evaluation's answers as plain values: its findings, and the questions it settles. `told`: the
    evaluation as it is kept, of which each finding's reason and line are parts.
    """
    due = evaluation.due.at if evaluation.due else None
    rows: list[dict[str, Any]] = [
        {
            "question": f.question,
            "subject": f.subject[:100],
            "part": f.part,
            "verdict": str(f.verdict.value),
            "beside": str(f.beside.value) if f.beside else "",
            "by": f.by or "",
            "unknown": f.unknown or "",
            "reason": as_kept["reason"],
            "line": as_kept.get("line"),
            "due": f.due or due,
        }
        for f, as_kept in zip(evaluation.findings, told.get("findings", []), strict=True)
    ]
    return rows + [{"question": q, "part": "", "verdict": SETTLED, "reason": {}} for q in evaluation.settled]


def questions_of(evaluation: Evaluation[Any]) -> set[str]:
    return {*(f.question for f in evaluation.findings), *evaluation.settled}


def series_rows(
    pump_set: PumpSet, evaluation: Evaluation[Any], parts: dict[str, Component]
) -> list[dict[str, Any]]:
    """The series each point belongs to, as plain values; its key says whether it is there."""
    wanted: list[dict[str, Any]] = []
    for p in evaluation.points:
        owner = parts.get(p.part) if p.part else None
        text = f"{'c' if owner else 's'}{(owner or pump_set).pk}·{p.measurand}·{p.leg}·{p.conditions}"
        wanted.append(
            {
                "key": hashlib.sha256(text.encode()).hexdigest(),
                "site_id": pump_set.site_id,
                "pump_set_id": None if owner else pump_set.pk,
                "component_id": owner.pk if owner else None,
                "measurand": p.measurand,
                "leg": p.leg,
                "conditions": p.conditions,
                "unit": p.unit,
            }
        )
    return wanted


def _series(pump_set: PumpSet, evaluation: Evaluation[Any], parts: dict[str, Component]) -> list[int]:
    """The series of each point, made when it is the first one."""
    wanted = series_rows(pump_set, evaluation, parts)
    keys = [s["key"] for s in wanted]
    held = dict(Series.objects.filter(key__in=keys).values_list("key", "pk"))
    if len(held) < len(set(keys)):
        lacking = [Series(**s) for s in wanted if s["key"] not in held]
        Series.objects.bulk_create(lacking, ignore_conflicts=True)
        held = dict(Series.objects.filter(key__in=keys).values_list("key", "pk"))
    return [held[k] for k in keys]


def day_of(record: Record) -> Day:
    """The day a record was saved, and the partner and twin the set had then, from the first judgement's own
    context.
    """
    first = record.judgements.order_by("made_at", "pk").first()
    if first is None:
        return Day(known_at=record.saved_at)
    then, b = first.context, find_bench(record.bench)
    partner = str(_then(then, "state").get("partner", "")) if b.single else None
    twin = str((_then(then, "context").get("twin") or {}).get("tag", "")) if b.needs.twin else None
    return Day(known_at=record.saved_at, partner=partner, twin=twin)


def _then(kept_case: dict[str, Any], part: str) -> dict[str, Any]:
    """A part of a kept case; one kept before there were cases is all in one."""
    found = kept_case.get(part) if "context" in kept_case else kept_case
    return found if isinstance(found, dict) else {}


def evaluation_of(bench_name: str, raw: dict[str, Any]) -> Evaluation[Any]:
    """A kept answer by its bench's own models. One kept before a bench had a view of its own held it in
    one.
    """
    b = find_bench(bench_name)
    if "view" not in raw:
        raw = {**raw, "view": {n: raw[n] for n in b.view.model_fields if n in raw}}
    return Evaluation[b.view].model_validate(raw)  # type: ignore[name-defined]


def rejudge(record: Record) -> tuple[str, str] | None:
    """Judge a record again by the rules, plates and limits of now, in the state of its own day. (old, new)
    verdict when the answer changed.
    """
    b = find_bench(record.bench)
    case, parts = case_for(record.pump_set, b, record.taken_at, without=record, day=day_of(record))
    evaluation = kept(b.evaluate(case, _entries(record)))
    old = record.judgements.filter(newest=True).first()
    fresh = evaluation.model_dump(mode="json", exclude_defaults=True)
    if old is not None and _same(old.evaluation, fresh):
        return None
    with transaction.atomic():
        write_judgement(record, case, evaluation, parts)
        moved("set", record.pump_set_id, record.pump_set.site_id)
    return (old.verdict if old else "", evaluation.verdict)


def rejudge_live(record: Record) -> tuple[str, str] | None:
    """`rejudge` under the set's lock; nothing of a record that was corrected since it was looked up."""
    hold_set(record.pump_set_id)
    record.refresh_from_db(fields=["live"])
    return rejudge(record) if record.live else None


def _same(old: dict[str, Any], fresh: dict[str, Any]) -> bool:
    """Is it the same answer, whatever the rulebook was called then?"""
    return {**old, "rules_version": ""} == {**fresh, "rules_version": ""}


def rejudge_newest(pump_set: PumpSet) -> None:
    """After a plate or a fitting changed: the newest live record of each bench, so that Plant shows what
    holds now.
    """
    rows = Record.objects.filter(pump_set=pump_set, live=True)
    newest = rows.filter(
        pk__in=[r.pk for b in benches() if (r := rows.filter(bench=b.name).order_by("-taken_at").first())]
    )
    for record in newest.select_related("pump_set__site", "pump_set__service", "sheet"):
        rejudge(record)
    answer(pump_set)


@dataclass(slots=True)
class Changed:
    tag: str
    taken_at: str
    old: str
    new: str


def rejudge_all(tags: Sequence[str] = ()) -> tuple[int, list[Changed]]:
    """Every live record, of these sets or of all, oldest first (its points are the past of the next)."""
    ours = Q(pump_set__tag__in=tags) if tags else Q()
    rows = (
        Record.objects.filter(ours, live=True)
        .select_related("pump_set__site", "pump_set__service", "sheet")
        .order_by("taken_at", "pk")
    )
    changed, n, touched = [], 0, {}
    for record in rows.iterator(chunk_size=200):
        n += 1
        said = act(partial(rejudge_live, record))
        if said is not None:
            changed.append(Changed(record.pump_set.tag, record.taken_at.isoformat(), said[0], said[1]))
            touched[record.pump_set_id] = record.pump_set
    for pump_set in touched.values():
        act(partial(answer, pump_set))
    return n, changed
