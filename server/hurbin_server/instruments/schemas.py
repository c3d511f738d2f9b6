"""What goes in and out of the register of instruments."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from hurbin_core.base import Verdict
from hurbin_core.instruments import InstrumentSaid

# A day that a calendar of instruments can mean.
Day = Annotated[date, Field(ge=date(1990, 1, 1), le=date(2100, 12, 31))]


class InstrumentIn(InstrumentSaid):
    model_config = ConfigDict(extra="forbid")
    since: Day | None = None


class InstrumentEdit(InstrumentSaid):
    model_config = ConfigDict(extra="forbid")
    version: int


class CalibrationIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    done: Day
    due: Day | None = None
    found: Literal["", "within", "out"] = ""
    note: str = Field(default="", max_length=200)


class RetireIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    because: str = Field(max_length=200)


class ReinstateIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    version: int


class InHandIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    reads: dict[str, int | None] = Field(max_length=20)


class ReadableOut(BaseModel):
    """One dimension a kind measures: what it is called, its units, the usual one first."""

    reads: str
    word: str
    units: list[str]


class InstrumentKindOut(BaseModel):
    id: str
    title: str
    live: bool
    calibrated: bool
    reads: list[ReadableOut]


class InstrumentSpanOut(BaseModel):
    reads: str
    word: str
    top: str
    step: str


class CalibrationOut(BaseModel):
    done: date
    due: date | None
    found: str
    note: str
    by: str


class InstrumentOut(BaseModel):
    """An instrument as it stands today. left: days until its calibration is due. category: as it is
    said.
    """

    id: int
    name: str
    kind: str
    title: str
    category: str
    low: bool
    spans: list[InstrumentSpanOut]
    said: InstrumentSaid
    verdict: Verdict
    says: str
    left: float | None
    due: date | None
    since: datetime
    until: datetime | None
    until_because: str
    calibrations: list[CalibrationOut]
    version: int


class InstrumentsOut(BaseModel):
    """The register of a site; in_hand: what the reader has in hand, by what it reads."""

    instruments: list[InstrumentOut]
    kinds: list[InstrumentKindOut]
    words: dict[str, str]
    in_hand: dict[str, int]
    may: bool


class InstrumentsBroughtOut(BaseModel):
    instruments: int
