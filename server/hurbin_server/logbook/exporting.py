"""Records on their way out, as they were typed and as they were judged."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.db.models import QuerySet

from .models import Judgement, Record
from .services.read_with import labels_of, named_on


def records_for(*, bench: str, site_id: int | None = None, set_id: int | None = None) -> list[Record]:
    """Live records of a site or a set, oldest first, with their set at hand."""
    rows: QuerySet[Record] = (
        Record.objects.filter(bench=bench, live=True)
        .select_related("pump_set", "by")
        .order_by("taken_at", "pk")
    )
    rows = rows.filter(pump_set_id=set_id) if set_id is not None else rows.filter(pump_set__site_id=site_id)
    found = list(rows)
    verdicts = dict(
        Judgement.objects.filter(record__in=rows, newest=True).values_list("record_id", "verdict")
    )
    labels = labels_of(site_id if site_id is not None else found[0].pump_set.site_id) if found else {}
    named = named_on({r.sheet_id for r in found}) if labels else {}
    for r in found:
        r.verdict = verdicts.get(r.pk, "unknown")  # type: ignore[attr-defined]
        r.read_with = {  # type: ignore[attr-defined]
            reads: labels[pk] for reads, pk in named.get(r.sheet_id, {}).items() if pk in labels
        }
    return found


def rows_of(records: list[Record]) -> tuple[list[tuple[str, datetime, dict[str, Any]]], list[dict[str, str]]]:
    """Records as the lines of a file, and what read each of them."""
    lines = [(r.pump_set.tag, r.taken_at, r.body) for r in records]
    return lines, [r.read_with for r in records]  # type: ignore[attr-defined]


def record_as_json(r: Record) -> dict[str, Any]:
    return {
        "tag": r.pump_set.tag,
        "bench": r.bench,
        "taken_at": r.taken_at.isoformat(),
        "by": r.by.full_name,
        "conditions": r.conditions,
        "verdict": r.verdict,  # type: ignore[attr-defined]
        "facts": r.body,
        **({"instruments": r.read_with} if r.read_with else {}),  # type: ignore[attr-defined]
    }
