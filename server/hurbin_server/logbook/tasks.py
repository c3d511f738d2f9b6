"""What the task queue runs: ids in, a service does the work."""

from __future__ import annotations

from datetime import datetime

from django_tasks import task

from hurbin_server.instruments.models import Instrument

from .services.importing import run
from .services.read_with import rejudge_read_with


@task()
def run_import(job_id: int) -> str:
    return run(job_id)


@task()
def run_read_with(instrument_id: int, since: str, until: str) -> int:
    row = Instrument.objects.get(pk=instrument_id)
    return rejudge_read_with(row, datetime.fromisoformat(since), datetime.fromisoformat(until))
