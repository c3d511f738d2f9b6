"""What keeping a sheet brings about besides the record: facts that the save performs once, in its
transaction.

A bench declares them, a room that is able to performs them. The key makes each happen once, however often it
is declared.
"""

from collections.abc import Iterable
from datetime import datetime
from typing import Literal

from pydantic import ConfigDict

from .model import Model
from .quantity import Quantity


class _Fact(Model):
    model_config = ConfigDict(frozen=True)
    key: str


class TemporaryChange(_Fact):
    """A temporary change that the work itself makes: hung while it is `on`, taken off when it is not.

    `of`: the sheet whose step it is, whose own it stays; or the set: seen as it stands, whoever made it. Of
    those a set has one of a kind at most, and each is over once it is seen to be.
    """

    kind: Literal["change"] = "change"
    change: str
    place: str
    note: str = ""
    on: bool
    at: datetime
    of: Literal["sheet", "set"] = "sheet"
    # Of several looks that say the same: when the first of them was.
    since: datetime | None = None


def last_seen(looks: Iterable[TemporaryChange]) -> list[TemporaryChange]:
    """How does each change of a set stand, of which there were these looks in any order? For each kind the
    last look, `since` the first of those behind it that said the same. What was on and off again in between
    is over and of no use to anybody.
    """
    out: dict[str, TemporaryChange] = {}
    for look in sorted((x for x in looks if x.of == "set"), key=lambda x: x.at):
        before = out.get(look.change)
        same = before is not None and before.on == look.on
        since = before.since if before is not None and same else look.at
        out[look.change] = look.model_copy(update={"since": since})
    return list(out.values())


class DueDate(_Fact):
    """Something is wanted at a date, and why. waited: while the sheet is open, and no longer than it says so;
    else from its record on.
    """

    kind: Literal["due"] = "due"
    what: str
    at: datetime
    why: str
    waited: bool = False


class Evidence(_Fact):
    """Something that was seen and that a gate, or a search under way, has to know."""

    kind: Literal["evidence"] = "evidence"
    to: Literal["gate", "search"]
    of: str
    value: Quantity | None = None


class StockBooked(_Fact):
    """Pieces taken from a store (positive) and brought back to it (negative), by what the store counts
    them by.
    """

    kind: Literal["stock"] = "stock"
    store: str
    change: dict[int, int]


class PartsBooked(_Fact):
    """Parts of a store that a sheet holds by now: used, reserved, and old good ones brought in for an
    emergency alone. Each is the whole figure, not the difference.
    """

    kind: Literal["parts"] = "parts"
    part: str
    place: str
    used: int = 0
    reserved: int = 0
    emergency: int = 0


class PartEvent(_Fact):
    """Something befell a part: what was said of it before belongs to another machine."""

    kind: Literal["event"] = "event"
    event: str
    at: datetime
    note: str = ""


Effect = TemporaryChange | DueDate | Evidence | StockBooked | PartsBooked | PartEvent
