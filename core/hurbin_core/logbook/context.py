"""What a bench is told of the set: one serialisable Context, the same for every way in."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Annotated, Any, Generic, TypeVar

from pydantic import AfterValidator, AwareDatetime, BaseModel, Field

from ..base import Bound, Override
from ..plant import EVENT_KINDS, ControlPlate, MotorPlate

FIRST_YEAR, LAST_YEAR = 1900, 2100


def within_years(at: datetime) -> datetime:
    """A time that a plant can have had: nothing is reckoned from the year 1 or 9999."""
    if not FIRST_YEAR <= at.year <= LAST_YEAR:
        raise ValueError(f"the year {at.year} is not possible here: {FIRST_YEAR} to {LAST_YEAR}")
    return at


# A time with its zone, within the years that a plant can have had. A naive time is refused: nobody knows when it was.
Moment = Annotated[AwareDatetime, AfterValidator(within_years)]


class HistoryPoint(BaseModel):
    """One earlier judged number of a series, with the record it came from."""

    measurand: str
    leg: str = ""
    conditions: str
    value: float
    bound: Bound = Bound.EXACT
    taken_at: AwareDatetime
    record: str


class Cut(BaseModel):
    """An event that parts a series when it is read (motor change, overhaul, flood)."""

    at: AwareDatetime
    kind: str
    note: str = ""

    @property
    def befell(self) -> str:
        """Which part did it befall? Empty: the whole set."""
        return part_of_event(self.kind)


def part_of_event(kind: str) -> str:
    """The part that an event of this kind befell; empty for the whole set."""
    if kind in EVENT_KINDS:
        return EVENT_KINDS[kind].part
    return kind.removesuffix("_change") if kind.endswith("_change") else ""


class PastSheet(BaseModel):
    """An earlier record's facts as typed, for the ghosts behind the fields."""

    taken_at: datetime
    body: dict[str, Any]
    conditions: str = ""


class Twin(BaseModel):
    """The other set of the pair: its last sheet, and its newest comparable points."""

    tag: str
    last: PastSheet
    points: list[HistoryPoint] = []


class Standing(BaseModel):
    """How the set stands while it is being made safe: what is isolated, by whom, and whether it was proved dead."""

    state: str
    sheet: str
    since: datetime
    scopes: list[str] = []
    workers: list[str] = []
    proved_at: datetime | None = None


class InterimLimit(BaseModel):
    """A figure agreed on while a repair is put off: beyond it the set is stopped (or looked at) whatever the ordinary limit says."""

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


class ShimLot(BaseModel):
    """Shims of one measured thickness, in whole tenths of a micrometre: how many there are, and from how few on they are bought."""

    tenths: int
    count: int
    least: int = 0


class VanShelf(BaseModel):
    """What a van holds of shims."""

    name: str
    pieces: list[ShimLot] = []


class Context(BaseModel):
    """Everything a bench may know besides what was typed. Times are UTC."""

    as_of: Moment
    tag: str = ""
    kind: str = ""
    serves: str = ""
    altitude_m: float | None = None
    motor: MotorPlate | None = None
    control_kind: str = ""
    control: ControlPlate | None = None
    overrides: list[Override] = []
    history: list[HistoryPoint] = []
    cuts: list[Cut] = []
    last: PastSheet | None = None
    earlier: list[PastSheet] = []
    twin: Twin | None = None
    partner: str = ""
    isolation: Standing | None = None
    interim: list[InterimLimit] = []
    changes: list[str] = []
    change_kinds: list[str] = []
    checked_at: datetime | None = None
    vans: list[VanShelf] = []


E_ = TypeVar("E_", bound=BaseModel)


class Entry(BaseModel, Generic[E_]):
    """One append-only entry of a sheet: made by a client with its own id and true second. `by` and `who` (the person's name
    and sign-in) are written by the server, never taken from a client."""

    uuid: str = Field(min_length=8, max_length=64)
    taken_at: Moment
    device: str = Field(default="", max_length=64)
    by: str = Field(default="", max_length=150)
    who: str = Field(default="", max_length=150)
    body: E_


def newest(entries: list[Any]) -> Any | None:
    """The entry that counts on a one-entry bench: the last by (taken_at, uuid), whichever device sent it."""
    return max(entries, key=lambda e: (e.taken_at, e.uuid), default=None)


def newest_body(entries: Sequence[Any]) -> dict[str, Any]:
    """What a record of a one-entry bench keeps: the body that counts, as typed."""
    entry = newest(list(entries))
    return dict(entry.body.model_dump(mode="json", exclude_defaults=True)) if entry is not None else {}


def cuts_of(cuts: list[Cut], concerns: Sequence[str]) -> list[Cut]:
    """The events that concern a series: those that befell the whole set, or one of these parts."""
    return [c for c in cuts if not c.befell or c.befell in concerns]


def since_cut(points: list[HistoryPoint], cuts: list[Cut], concerns: Sequence[str]) -> list[HistoryPoint]:
    """The points after the newest event that concerns them: what stood before belongs to another state of the machine."""
    mine = cuts_of(cuts, concerns)
    if not mine:
        return points
    last = max(c.at for c in mine)
    return [p for p in points if p.taken_at >= last]
