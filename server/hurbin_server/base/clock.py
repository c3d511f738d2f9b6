"""What time is it? The demo and the tests run on a clock of their own that starts at `--as-of`."""

from __future__ import annotations

import os
from contextvars import ContextVar
from datetime import UTC, datetime, timedelta

# By how much the device that sends something measured its clock to be off against ours, in ms to be added.
device_off: ContextVar[int | None] = ContextVar("device_off", default=None)


def device_clock(taken_at: datetime) -> tuple[datetime | None, int | None]:
    """What the sending device's own clock said at a time that was set right, and by how many ms it is off
    against the real time; None twice: it was not measured.
    """
    off = device_off.get()
    if off is None:
        return None, None
    ours = now() - datetime.now(UTC)
    return taken_at - timedelta(milliseconds=off), off - round(ours.total_seconds() * 1000)


def now() -> datetime:
    """Server time, UTC: the real clock, or HURBIN_AS_OF plus the time since HURBIN_LOADED_AT."""
    real = datetime.now(UTC)
    as_of = os.environ.get("HURBIN_AS_OF")
    if not as_of:
        return real
    loaded = os.environ.get("HURBIN_LOADED_AT")
    started = datetime.fromisoformat(as_of)
    return started + (real - datetime.fromisoformat(loaded)) if loaded else started
