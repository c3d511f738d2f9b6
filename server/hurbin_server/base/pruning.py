"""What is thrown away by itself once nobody can want it: by the task worker's keeper, now and then.

Each room says what of its own goes; nothing that somebody wrote is among it.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta

from axes.models import AccessAttempt
from django_tasks_db.models import DBTaskResult

from .clock import now
from .models import Parcel, Session

# Takes the moment; how many it threw away.
Pruner = Callable[[datetime], int]
PRUNERS: dict[str, Pruner] = {}
# A device that was in a drawer for a year sends what it kept: until then it is told again, not done again.
PARCELS = timedelta(days=400)
ATTEMPTS = timedelta(days=2)
TASKS = timedelta(days=14)


def prune(at: datetime | None = None) -> dict[str, int]:
    """Throw away what is over at this moment; how many of each."""
    moment = at or now()
    return {name: do(moment) for name, do in PRUNERS.items()}


def sessions(at: datetime) -> int:
    return Session.objects.filter(expire_date__lt=at).delete()[0]


def parcels(at: datetime) -> int:
    return Parcel.objects.filter(at__lt=at - PARCELS).delete()[0]


def attempts(at: datetime) -> int:
    return AccessAttempt.objects.filter(attempt_time__lt=at - ATTEMPTS).delete()[0]


def task_results(at: datetime) -> int:
    return DBTaskResult.objects.filter(finished_at__lt=at - TASKS).delete()[0]


PRUNERS.update(sessions=sessions, parcels=parcels, attempts=attempts, task_results=task_results)
