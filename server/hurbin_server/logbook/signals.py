"""What rooms above may want to know of the logbook, or add to it, without the logbook knowing them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from django.dispatch import Signal

from hurbin_core.base import Bench
from hurbin_server.plant.models import PumpSet

entries_coming = Signal()  # user, pump_set, bench, typed: before they are written; a Refused stops them
entries_written = Signal()  # user, pump_set, bench, sheet: in the transaction of the writing
sheet_leaving = Signal()  # user, sheet: before it is closed without a record; a Refused stops it
record_saved = Signal()  # user, record, evaluation: in the transaction of the saving


@dataclass(frozen=True)
class Day:
    """The day of which a context is made: what was known then. On a day of the past partner and twin are the ones it had (by
    their tags; empty: it had none)."""

    known_at: datetime
    partner: str | None = None
    twin: str | None = None


@dataclass(frozen=True)
class Adds:
    """What a set's context holds besides the logbook's own. `fields`: of this set, for this bench, as of then, on that day; `touched`:
    the sets, of these, for which there can be anything at all."""

    fields: Callable[[PumpSet, Bench, datetime, Day], dict[str, Any]]
    touched: Callable[[list[int]], set[int]]


CONTEXT: list[Adds] = []
@dataclass(slots=True)
class Over:
    """What a room says is over: every answer to a question up to a time, but for these subjects."""

    question: str
    at: datetime
    but: set[str] = field(default_factory=set)

    def ends(self, question: str, subject: str, taken_at: datetime) -> bool:
        return question == self.question and subject not in self.but and taken_at <= self.at


# Questions whose older answers are over by now, whatever they said.
CLOSED: list[Callable[[PumpSet], list[Over]]] = []
