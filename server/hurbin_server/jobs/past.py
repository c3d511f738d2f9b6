"""The jobs of this site that are on record, as the core reads how long they took."""

from __future__ import annotations

from datetime import datetime

from hurbin_core.jobs.job.times import past_job
from hurbin_core.jobs.known import PastJob
from hurbin_server.base.door import once
from hurbin_server.logbook.models import Record

MOST = 30


def past_jobs(site_id: int, as_of: datetime) -> list[PastJob]:
    """The newest jobs of this site that were on record by then."""
    return once(("past_jobs", site_id, as_of), lambda: _past(site_id, as_of))


def _past(site_id: int, as_of: datetime) -> list[PastJob]:
    rows = Record.objects.filter(pump_set__site_id=site_id, bench="job", live=True, taken_at__lt=as_of)
    found = rows.select_related("pump_set").order_by("-taken_at")[:MOST]
    return [past_job(r.body, r.pump_set.kind) for r in found]
