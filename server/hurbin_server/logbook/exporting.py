"""Records on their way out, as they were typed and as they were judged."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet

from .models import Judgement, Record


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
    for r in found:
        r.verdict = verdicts.get(r.pk, "unknown")  # type: ignore[attr-defined]
    return found


def record_as_json(r: Record) -> dict[str, Any]:
    return {
        "tag": r.pump_set.tag,
        "bench": r.bench,
        "taken_at": r.taken_at.isoformat(),
        "by": r.by.full_name,
        "conditions": r.conditions,
        "verdict": r.verdict,
        "facts": r.body,  # type: ignore[attr-defined]
    }
