"""What the task queue runs here: ids in, a service does the work."""

from __future__ import annotations

from django_tasks import task

from .services.reading_drive import run


@task()
def run_reading(reading_id: int) -> str:
    return run(reading_id)
