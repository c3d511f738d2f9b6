"""What goes in and out of the spares."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints

from hurbin_core.base import Verdict
from hurbin_core.plant import OneLine, one_line

Word = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40), AfterValidator(one_line)
]
Place = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60), AfterValidator(one_line)
]
Title = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), AfterValidator(one_line)
]
MOST = 99_999


class SpareIn(BaseModel):
    """What is known of a part; least and most as the site sets them, else as reckoned."""

    model_config = ConfigDict(extra="forbid")
    title: OneLine = Field(min_length=1, max_length=120, title="Part")
    lines: list[Word] = Field(default=[], max_length=30, title="Fills kit lines")
    fits: list[Word] = Field(default=[], max_length=60, title="Fits")
    per_year: float | None = Field(default=None, ge=0, le=100_000, title="Used a year")
    lead_days: float | None = Field(default=None, ge=0, le=3650, title="Lead time, measured, days")
    price: float | None = Field(default=None, ge=0, le=1e9, title="Price")
    day_cost: float | None = Field(default=None, ge=0, le=1e9, title="A day without it costs")
    least: int | None = Field(default=None, ge=0, le=MOST, title="Least, set by the site")
    most: int | None = Field(default=None, ge=0, le=MOST, title="Most, set by the site")


class NewSpareIn(SpareIn):
    code: Word = Field(title="Code")


class EditSpareIn(SpareIn):
    expected_version: int = Field(ge=1)


class CountPartIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    place: Place = Field(title="Shelf or van")
    count: int = Field(ge=0, le=MOST, title="Counted")
    emergency: int | None = Field(default=None, ge=0, le=MOST, title="Emergency only")


class MovePartIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    source: Place = Field(title="From")
    to: Place = Field(title="To")
    count: int = Field(ge=1, le=MOST, title="How many")


class PartStockOut(BaseModel):
    place: str
    count: int
    reserved: int
    emergency: int
    counted_at: datetime | None


class PartMoveOut(BaseModel):
    at: datetime
    place: str
    change: int
    emergency: bool
    why: str
    by: str


class SpareOut(BaseModel):
    """One part with its places, how it stands, and why so many are kept. would_stop: what its lack would
    stop.
    """

    id: int
    code: str
    title: str
    lines: list[str]
    fits: list[str]
    per_year: float | None
    lead_days: float | None
    price: float | None
    day_cost: float | None
    least: int | None
    most: int | None
    least_set: bool
    why: str
    asks: list[str]
    verdict: Verdict
    says: str
    order: int
    version: int
    stock: list[PartStockOut]
    moves: list[PartMoveOut]


class KitLineIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    code: Word = Field(title="Code")
    wanted: int = Field(ge=1, le=999, title="How many")


class KitEditIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    expected_version: int = Field(ge=1)
    title: Title = Field(title="Kit")
    lines: list[KitLineIn] = Field(min_length=1, max_length=60, title="Parts")


class KitIn(BaseModel):
    """A kit: of one set, else of one kind of set, else of any."""

    model_config = ConfigDict(extra="forbid")
    title: Title = Field(title="Kit")
    procedure: Word = Field(title="Procedure")
    set_id: int | None = Field(default=None, title="Set")
    kind: str = Field(default="", max_length=40, title="Kind of set")
    lines: list[KitLineIn] = Field(min_length=1, max_length=60, title="Parts")


class SiteKitPart(BaseModel):
    """free: not reserved; None: never counted."""

    code: str
    title: str
    wanted: int
    free: int | None
    short: int


class SiteKit(BaseModel):
    """A kit as the site keeps it, and whether it is there. whole: how many times; None: nobody knows."""

    id: int
    title: str
    procedure: str
    set_id: int | None
    tag: str
    kind: str
    version: int
    parts: list[SiteKitPart]
    whole: int | None
    verdict: Verdict
    says: str


class TallyIn(BaseModel):
    """One more or one less, as it was tapped. key: of this tap, so that one sent twice counts once."""

    model_config = ConfigDict(extra="forbid")
    place: Place = Field(title="Shelf or van")
    change: int = Field(ge=-99, le=99, title="Change")
    key: str = Field(min_length=8, max_length=60, pattern=r"^[A-Za-z0-9-]+$")


class KitLineOut(BaseModel):
    """One line of a kit: what fills it, how many are free."""

    kind: str
    title: str
    wanted: int
    parts: list[str]
    free: int
    short: int


class KitOut(BaseModel):
    """A job's kit as far as the stores can fill it, for a kind of set."""

    procedure: str
    title: str
    kind: str
    lines: list[KitLineOut]
    short: int


class StoresOut(BaseModel):
    may: bool
    parts: list[SpareOut]
    kits: list[SiteKit]
    places: list[str]
