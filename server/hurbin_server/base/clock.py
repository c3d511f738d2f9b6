"""What time is it? The demo and the tests run on a clock of their own that starts at `--as-of`."""

from __future__ import annotations

import os
from datetime import UTC, datetime


def now() -> datetime:
    """Server time, UTC: the real clock, or HURBIN_AS_OF plus the time since HURBIN_LOADED_AT."""
    real = datetime.now(UTC)
    as_of = os.environ.get("HURBIN_AS_OF")
    if not as_of:
        return real
    loaded = os.environ.get("HURBIN_LOADED_AT")
    started = datetime.fromisoformat(as_of)
    return started + (real - datetime.fromisoformat(loaded)) if loaded else started
