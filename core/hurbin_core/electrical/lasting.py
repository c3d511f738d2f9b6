"""Until when an answer stands that nothing but a hand at the machine can change."""

from __future__ import annotations

from datetime import timedelta

from ..base import Due, Limits, amount, phrase
from ..logbook import AnyCase


def again(case: AnyCase, limit: str) -> Due:
    """When is it looked at again, by the days of this limit? An exchange or an event ends it sooner.

    Common practice, no source.
    """
    days = Limits(case.context.overrides).value(limit)
    return Due(
        at=case.context.as_of + timedelta(days=days), reason=phrase("lasting.again", days=amount(days, "d"))
    )
