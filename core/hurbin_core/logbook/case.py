"""The one thing that an answer depends on besides what is typed: the set, how it stands, what is filed."""

from collections.abc import Sequence
from datetime import datetime
from typing import Annotated, Any, Generic, TypeVar

from pydantic import AwareDatetime, BaseModel, Field, StringConstraints

from ..base import Model, body_of
from ..instruments import Instrument
from .context import Context, Moment

E = TypeVar("E", bound=BaseModel)
_Dimension = Annotated[str, StringConstraints(max_length=24)]
_Named = Annotated[str, StringConstraints(max_length=20)]
X = TypeVar("X", bound=BaseModel)


class Standing(Model):
    """How the set stands while it is being made safe: what is isolated, by whom, and whether it was proved
    dead.
    """

    state: str
    sheet: str
    since: datetime
    scopes: list[str] = []
    workers: list[str] = []
    proved_at: datetime | None = None


class InterimLimit(Model):
    """A figure agreed on while a repair is put off: beyond it the set is stopped (or looked at) whatever the
    ordinary limit says.
    """

    measurand: str
    leg: str = ""
    floor: bool = False
    value: float
    unit: str
    does: str
    until: AwareDatetime
    why: str = ""
    id: str = ""

    @property
    def subject(self) -> str:
        """Which of several limits this is: two of them never answer for one another."""
        return self.id or f"{self.measurand}/{self.leg}/{'least' if self.floor else 'most'}/{self.value:g}"


class SetState(Model):
    """How the set stands: isolated or not, the temporary changes on it, what was agreed while a repair is
    put off, when it was last checked, and the set that shares its work. What is not known is not good.
    """

    isolation: Standing | None = None
    interim: list[InterimLimit] = []
    changes: list[str] = []
    change_kinds: list[str] = []
    checked_at: datetime | None = None
    partner: str = ""


class Offered(Model):
    """May an act be offered on this set now? `wants`: what every gate that says no asks for."""

    act: str
    offered: bool
    wants: list[str] = []


class Entry(Model, Generic[E]):
    """One append-only entry of a sheet: made by a client with its own id and true second. `instruments`: what
    read it, by dimension, as the register has it. `by` and `who` (the
    person's name and sign-in) and `late` (it came when the sheet was on record already) are written by the
    server, never taken from a client.
    """

    uuid: str = Field(min_length=8, max_length=64)
    taken_at: Moment
    device: str = Field(default="", max_length=64)
    instruments: dict[_Dimension, _Named] = Field(default={}, max_length=24)
    by: str = Field(default="", max_length=150)
    who: str = Field(default="", max_length=150)
    late: bool = False
    body: E


class Case(Model, Generic[E]):
    """Everything a bench may know besides these entries, as of one moment: one object that can be sent and
    kept.

    context: the set and its past. state: how it stands. offers: what its gates say, by act. filed: the
    entries that the sheet holds already. instruments: those of the register that measure what this bench
    reads. extras: what other rooms added, by the name they registered; read by
    those rooms' own models.
    """

    context: Context
    state: SetState = SetState()
    offers: dict[str, Offered] = {}
    filed: list[Entry[E]] = []
    instruments: list[Instrument] = []
    extras: dict[str, Any] = {}

    def extra(self, name: str, model: type[X]) -> list[X]:
        """The rows that a room added under this name; none where it added nothing."""
        return [model.model_validate(x) for x in self.extras.get(name, [])]


AnyCase = Case[Any]


def case_of(context: Context, **more: Any) -> Case[Any]:
    """A case of a set of which nothing else is known."""
    return Case[Any](context=context, **more)


def newest(entries: list[Any]) -> Any | None:
    """The entry that counts on a one-entry bench: the last by (taken_at, uuid), whichever device sent it."""
    return max(entries, key=lambda e: (e.taken_at, e.uuid), default=None)


def newest_body(entries: Sequence[Any]) -> dict[str, Any]:
    """What a record of a one-entry bench keeps: the body that counts, as typed."""
    entry = newest(list(entries))
    return body_of(entry.body) if entry is not None else {}
