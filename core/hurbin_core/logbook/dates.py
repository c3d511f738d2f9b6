"""Dates as people write them, in the order of the place."""

from __future__ import annotations

import re
from datetime import UTC, datetime
from zoneinfo import ZoneInfo

from ..base import HurbinError
from .context import within_years

_ISO = re.compile(r"^\d{4}-\d{2}-\d{2}([T ]\d{2}:\d{2}(:\d{2}(\.\d+)?)?)?\s*(Z|[+-]\d{2}:?\d{2})?$")
LOCAL = re.compile(r"^(\d{1,2})([./-])(\d{1,2})\2(\d{2}|\d{4})(?:[ T,]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$")


def read_time(text: str, zone: ZoneInfo, day_first: bool | None) -> datetime:
    """A date as people write it, as UTC: ISO, or day and month in the order of the place. Without a time:
    noon there.

    `day_first` None: a date with points is day first; one with strokes that can be read two ways is refused.
    """
    if _ISO.match(text):
        try:
            found = datetime.fromisoformat(text.replace(" ", "T", 1).replace(" ", "").replace("Z", "+00:00"))
        except ValueError:
            raise _no_date(text) from None
        if len(text) == 10:
            found = found.replace(hour=12)
        return _utc(found if found.tzinfo else found.replace(tzinfo=zone), text)
    m = LOCAL.match(text)
    if m is None:
        raise HurbinError(
            "time_wrong",
            f"“{text}” is not a date that can be read.",
            field="taken_at",
            value=text,
            right="2024-03-02 09:15",
        )
    a, stroke, b, year = int(m[1]), m[2], int(m[3]), int(m[4])
    first = True if stroke == "." else day_first
    if first is None:
        if a <= 12 and b <= 12 and a != b:
            raise HurbinError(
                "time_two_ways",
                f"“{text}” can be read two ways: choose whether day or month comes first.",
                field="taken_at",
                value=text,
                right="2024-03-02 09:15",
            )
        first = a > 12 or b <= 12
    day, month = (a, b) if first else (b, a)
    try:
        local = datetime(
            year + (2000 if year < 70 else 1900) if year < 100 else year,
            month,
            day,
            int(m[5] or 12),
            int(m[6] or 0),
            int(m[7] or 0),
            tzinfo=zone,
        )
    except ValueError:
        raise _no_date(text) from None
    return _utc(local, text)


def _no_date(text: str) -> HurbinError:
    return HurbinError(
        "time_wrong", f"“{text}” is not a date.", field="taken_at", value=text, right="2024-03-02 09:15"
    )


def _utc(at: datetime, text: str) -> datetime:
    try:
        return within_years(at).astimezone(UTC)
    except (ValueError, OverflowError):
        message = f"“{text}” is not a time that this plant can have had."
        raise HurbinError(
            "time_outside", message, field="taken_at", value=text, right="1900 to 2100"
        ) from None
