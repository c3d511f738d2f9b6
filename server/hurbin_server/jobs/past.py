"""How long jobs took on this site: from their records, whole and by step."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from hurbin_core.jobs.known import PastJob
from hurbin_server.base.door import once
from hurbin_server.logbook.models import Record

MOST = 30
# A step that seems to take longer was interrupted: somebody went home.
LONGEST = timedelta(hours=4)


def past_jobs(site_id: int, as_of: datetime) -> list[PastJob]:
    """The newest jobs of this site that were on record by then."""
    return once(("past_jobs", site_id, as_of), lambda: _past(site_id, as_of))


def _past(site_id: int, as_of: datetime) -> list[PastJob]:
    rows = Record.objects.filter(pump_set__site_id=site_id, bench="job", live=True, taken_at__lt=as_of)
    found = rows.select_related("pump_set").order_by("-taken_at")[:MOST]
    return [_job(r.body, r.pump_set.kind) for r in found]


def _job(body: dict[str, Any], kind: str) -> PastJob:
    """Minutes between one tick and the next; a pause is no work."""
    entries = body.get("entries", [])
    ticks = [(datetime.fromisoformat(e["at"]), e["step"]) for e in entries if e.get("kind") == "done"]
    start = next((datetime.fromisoformat(e["at"]) for e in entries if e.get("kind", "open") == "open"), None)
    steps: dict[str, float] = {}
    before = start
    for at, step in ticks:
        if before is not None and timedelta(0) < at - before <= LONGEST:
            steps.setdefault(step, (at - before).total_seconds() / 60)
        before = at
    people = {e.get("by", "") for e in entries if e.get("kind") == "done"} - {""}
    procedure = body.get("procedure", "")
    return PastJob(
        procedure=procedure, kind=kind, minutes=sum(steps.values()), people=max(1, len(people)), steps=steps
    )
