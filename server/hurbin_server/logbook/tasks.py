"""What the task queue runs: ids in, a service does the work."""

from __future__ import annotations

from django_tasks import task

from .services.importing import run


@task()
def run_import(job_id: int) -> str:
    return run(job_id)
