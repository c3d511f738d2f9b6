"""The state of a part as the core wants it, and what it says to one reader."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from hurbin_core.base import By, Phrase, Prefs, Verdict, write
from hurbin_core.logbook import PartVerdict, overdue

STATE_OF_PART = ("pump_set_id", "part", "verdict", "beside", "by", "question", "due")
_BY = {b.value: b for b in By}
VERDICTS = {v.value: v for v in Verdict}


def part_verdict(row: tuple[Any, ...], as_of: datetime, reason: Any) -> PartVerdict:
    """A row of `STATE_OF_PART` as it stands at this moment: what is past its date is said to be."""
    _, part, verdict, beside, by, question, due = row
    held = PartVerdict(
        part=part,
        verdict=VERDICTS[verdict],
        beside=VERDICTS[beside] if beside else None,
        by=_BY.get(by),
        question=question,
        reason=reason,
    )
    return overdue(held, due, as_of)


def say(reason: Any, prefs: Prefs) -> str:
    """The sentence that is kept as JSON, for this reader."""
    return write(reason if isinstance(reason, Phrase) else Phrase.model_validate(reason), prefs)
