"""Is there room to write? Asked of the disk itself, before a database that has none breaks off in the
middle.
"""

from __future__ import annotations

import os
import time

from django.conf import settings

from .errors import FULL, Refused

# How long an answer of the disk is good for.
GOOD_S = 2.0
_asked: dict[str, float] = {"at": -1e9, "free": 0.0}


def free_mb() -> float | None:
    """Megabytes that may still be written where the database is; None: nobody said where that is."""
    if not settings.DATA_DIR:
        return None
    at = time.monotonic()
    if at - _asked["at"] > GOOD_S:
        told = os.statvfs(settings.DATA_DIR)
        _asked.update(at=at, free=told.f_bavail * told.f_frsize / 1e6)
    return _asked["free"]


def room() -> None:
    """Refused (503) while there is too little: the device keeps what it sent and sends it again."""
    free = free_mb()
    if free is not None and free < settings.DISK_FLOOR_MB:
        raise Refused(503, "disk_full", FULL, retry_after=20)
