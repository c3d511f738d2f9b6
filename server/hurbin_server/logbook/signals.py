"""What rooms above may want to know of the logbook, or add to it, without the logbook knowing them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from django.dispatch import Signal

from hurbin_core.base import AnyBench
from hurbin_core.logbook import Offered
from hurbin_server.base.models import User
from hurbin_server.plant.models import PumpSet

from .models import Record, Sheet

entries_coming = Signal()  # user, pump_set, bench, typed: before they are written; a Refused stops them
entries_written = Signal()  # user, pump_set, bench, sheet: in the transaction of the writing
sheet_leaving = Signal()  # user, sheet: before it is closed without a record; a Refused stops it
record_saved = Signal()  # user, record, evaluation: in the transaction of the saving


@dataclass(frozen=True)
class Day:
    """The day of which a context is made: what was known then. On a day of the past partner and twin are the
    ones it had (by their tags; empty: it had none).
    """

    known_at: datetime
    partner: str | None = None
    twin: str | None = None


@dataclass(frozen=True)
class Stands:
    """How a set stands, as far as one room knows it. `fields`: of its state, of this set, for this bench, as
    of then, on that day; `touched`: the sets, of these, for which there can be anything at all.
    """

    fields: Callable[[PumpSet, AnyBench, datetime, Day], dict[str, Any]]
    touched: Callable[[list[int]], set[int]]


STATE: list[Stands] = []
# What rooms add to a case under a name that benches ask for: of this set, as of then, on that day.
EXTRAS: dict[str, Callable[[PumpSet, datetime, Day], list[Any]]] = {}
# What the gates say of a set, for whoever asks, by act.
OFFERS: list[Callable[[PumpSet, User, list[str]], dict[str, Offered]]] = []


@dataclass(frozen=True, slots=True)
class Doing:
    """A sheet that was kept, and the facts of one kind that it declares. `record`: it is on record now."""

    user: User
    pump_set: PumpSet
    bench: AnyBench
    sheet: Sheet
    record: Record | None
    effects: list[Any]


# Who performs which kind of effect. Each is called once a keeping, in its transaction, also when nothing of
# its kind is declared any more.
PERFORM: dict[str, Callable[[Doing], None]] = {}


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
