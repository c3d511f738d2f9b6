"""What a bench is told of the set: its plates, its limits, its past."""

from collections.abc import Sequence
from datetime import datetime
from typing import Annotated, Any

from pydantic import AfterValidator, AwareDatetime

from ..base import Bound, Model, Override
from ..plant import EVENT_KINDS, PARTS, ControlPlate, FittedPart, FusesPlate, MotorPlate, PumpPlate

FIRST_YEAR, LAST_YEAR = 1900, 2100


def within_years(at: datetime) -> datetime:
    """A time that a plant can have had: nothing is reckoned from the year 1 or 9999."""
    if not FIRST_YEAR <= at.year <= LAST_YEAR:
        raise ValueError(f"the year {at.year} is not possible here: {FIRST_YEAR} to {LAST_YEAR}")
    return at


# A time with its zone, within the years that a plant can have had. A naive time is refused: nobody knows when
# it was.
Moment = Annotated[AwareDatetime, AfterValidator(within_years)]


class HistoryPoint(Model):
    """One earlier judged number of a series, with the record it came from."""

    measurand: str
    leg: str = ""
    conditions: str
    value: float
    bound: Bound = Bound.EXACT
    taken_at: AwareDatetime
    record: str


class Cut(Model):
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


def title_of_event(kind: str) -> str:
    """What is an event of this kind called?

    >>> title_of_event("motor_change")
    'Motor replaced'
    """
    if kind in EVENT_KINDS:
        return EVENT_KINDS[kind].title
    return f"{PARTS[part_of_event(kind)].title} replaced"


class PastSheet(Model):
    """An earlier record's facts as typed, for the ghosts behind the fields."""

    taken_at: datetime
    body: dict[str, Any]
    conditions: str = ""


class Twin(Model):
    """The other set of the pair: its last sheet, and its newest comparable points."""

    tag: str
    last: PastSheet
    points: list[HistoryPoint] = []


class Context(Model):
    """Everything a bench may know besides what was typed. Times are UTC."""

    as_of: Moment
    tag: str = ""
    kind: str = ""
    serves: str = ""
    altitude_m: float | None = None
    parts: dict[str, FittedPart] = {}
    overrides: list[Override] = []
    history: list[HistoryPoint] = []
    cuts: list[Cut] = []
    last: PastSheet | None = None
    earlier: list[PastSheet] = []
    twin: Twin | None = None

    @property
    def motor(self) -> MotorPlate | None:
        part = self.parts.get("motor")
        return part.plate if part is not None and isinstance(part.plate, MotorPlate) else None

    @property
    def control(self) -> ControlPlate | None:
        part = self.parts.get("control")
        return part.plate if part is not None and isinstance(part.plate, ControlPlate) else None

    @property
    def fuses(self) -> FusesPlate | None:
        part = self.parts.get("supply")
        return part.plate if part is not None and isinstance(part.plate, FusesPlate) else None

    @property
    def pump(self) -> PumpPlate | None:
        part = self.parts.get("pump")
        return part.plate if part is not None and isinstance(part.plate, PumpPlate) else None

    @property
    def control_kind(self) -> str:
        part = self.parts.get("control")
        return part.kind if part is not None else ""


def cuts_of(cuts: list[Cut], concerns: Sequence[str]) -> list[Cut]:
    """The events that concern a series: those that befell the whole set, or one of these parts."""
    return [c for c in cuts if not c.befell or c.befell in concerns]


def since_cut(points: list[HistoryPoint], cuts: list[Cut], concerns: Sequence[str]) -> list[HistoryPoint]:
    """The points after the newest event that concerns them: what stood before belongs to another state of the
    machine.
    """
    mine = cuts_of(cuts, concerns)
    if not mine:
        return points
    last = max(c.at for c in mine)
    return [p for p in points if p.taken_at >= last]
