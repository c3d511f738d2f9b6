"""Until when an answer about water stands."""

from __future__ import annotations

from datetime import timedelta

from ..base import Due, Limits, amount, phrase
from ..logbook import AnyCase


def again(case: AnyCase, limit: str = "water.stands") -> Due:
    """When is it looked at again? An overhaul or an exchange ends it sooner. Common practice, no source."""
    days = Limits(case.context.overrides).value(limit)
    due = case.context.as_of + timedelta(days=days)
    return Due(at=due, reason=phrase("water.again", days=amount(days, "d")))
