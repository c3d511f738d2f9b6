"""Shapes of the plant's API."""

from __future__ import annotations

from datetime import datetime
from typing import Any, ClassVar, Literal

from pydantic import BaseModel, Field

from hurbin_core.base import Missing
from hurbin_core.logbook import Moment
from hurbin_core.plant import CODE, EventKind, Kind, OneLine, Part, Serves


class SiteIn(BaseModel):
    code: str = Field(min_length=1, max_length=20, pattern=CODE)
    name: OneLine = Field(min_length=1, max_length=120)
    time_zone: str = Field(default="UTC", max_length=40)
    altitude_m: float | None = Field(default=None, ge=-500, le=6000)


class SiteEdit(SiteIn):
    version: int


class SiteOut(BaseModel):
    id: int
    code: str
    name: str
    time_zone: str
    altitude_m: float | None
    version: int
    role: str


class ServiceIn(BaseModel):
    code: str = Field(min_length=1, max_length=20, pattern=CODE)
    name: OneLine = Field(min_length=1, max_length=120)
    note: str = Field(default="", max_length=200)
    place_in_order: int = Field(default=0, ge=0, le=9999)
    consequence: int = Field(default=2, ge=1, le=3)
    serves: str = Field(default="other", max_length=20)
    check_every_days: int = Field(default=35, ge=1, le=730)


class ServiceEdit(ServiceIn):
    version: int


class ServiceOut(ServiceIn):
    id: int
    version: int


class SetEdit(BaseModel):
    tag: str = Field(min_length=1, max_length=30, pattern=CODE)
    name: OneLine = Field(default="", max_length=120)
    place: OneLine = Field(default="", max_length=120)
    nickname: OneLine = Field(default="", max_length=60)
    role: Literal["duty", "standby", "single"] = "single"
    pair: OneLine = Field(default="", max_length=30)
    service_id: int
    version: int


class SetIn(BaseModel):
    tag: str = Field(min_length=1, max_length=30, pattern=CODE)
    name: OneLine = Field(default="", max_length=120)
    place: OneLine = Field(default="", max_length=120)
    nickname: OneLine = Field(default="", max_length=60)
    kind: str
    role: Literal["duty", "standby", "single"] = "single"
    pair: OneLine = Field(default="", max_length=30)
    control: Literal["starter", "soft_starter", "drive"] = "starter"


class PairIn(BaseModel):
    """A duty and a standby set of one type, added together."""

    duty_tag: str = Field(min_length=1, max_length=30, pattern=CODE)
    standby_tag: str = Field(min_length=1, max_length=30, pattern=CODE)
    name: OneLine = Field(default="", max_length=120)
    place: OneLine = Field(default="", max_length=120)
    kind: str
    control: Literal["starter", "soft_starter", "drive"] = "starter"


class PlateOut(BaseModel):
    version: int
    plate: dict[str, Any]
    reason: str
    by: str
    at: datetime


class ComponentOut(BaseModel):
    id: int
    kind: str
    label: str
    slot: str
    slot_title: str
    fitted_from: datetime | None
    at_tag: str
    plate: dict[str, Any]
    plate_version: int
    lines: list[str]
    missing: list[Missing]


class SetBrief(BaseModel):
    id: int
    service_id: int
    tag: str
    name: str
    role: str
    kind: str
    control: str = ""


class SetOut(BaseModel):
    id: int
    site_id: int
    service_id: int
    service: str
    tag: str
    name: str
    place: str
    nickname: str
    kind: str
    kind_title: str
    posture: str
    slots: list[str]
    role: str
    pair: str
    version: int
    may: str
    partners: list[SetBrief]
    components: list[ComponentOut]


class FoundOut(BaseModel):
    """One thing that goes by the words asked for. `to`: where it is looked at."""

    kind: Literal["part", "event", "record", "document", "call", "open"]
    set_id: int | None
    tag: str
    title: str
    says: str
    at: datetime | None
    to: str


class ComponentIn(BaseModel):
    kind: str
    label: OneLine = Field(min_length=1, max_length=60)


class PlateIn(BaseModel):
    expected_version: int
    plate: dict[str, Any]
    reason: str = Field(max_length=300)


class FitIn(BaseModel):
    slot: str
    component_id: int
    from_at: Moment
    note: str = Field(default="", max_length=300)
    although: bool = Field(default=False, description="It stands there all the same")


class TakeOffIn(BaseModel):
    slot: str
    at: Moment


class PersonIn(BaseModel):
    username: str = Field(min_length=2, max_length=60, pattern=r"^[a-z0-9][a-z0-9._-]*$")
    full_name: OneLine = Field(default="", max_length=120)
    role: Literal["viewer", "technician", "lead", "admin"]
    password: str = Field(default="", max_length=200)


class PersonEdit(BaseModel):
    role: Literal["viewer", "technician", "lead", "admin"] | None = None
    active: bool | None = None


class PersonOut(BaseModel):
    TOLD_ONCE: ClassVar[set[str]] = {"password"}

    username: str
    full_name: str
    role: str
    active: bool
    password: str = ""
    may_sign_in: bool = True
    sessions: int = 0
    must_change: bool = False


class KindsOut(BaseModel):
    kinds: list[Kind]
    parts: list[Part]
    events: list[EventKind]
    serves: list[Serves]
    time_zones: list[str]


class RegisterOut(BaseModel):
    site: SiteOut
    services: list[ServiceOut]
    sets: list[SetBrief]
    spares: list[ComponentOut]


class EventIn(BaseModel):
    kind: str = Field(max_length=30)
    at: Moment
    note: str = Field(max_length=300)


class EventAdded(BaseModel):
    id: int


class CsvIn(BaseModel):
    text: str = Field(max_length=4_000_000)
    write: bool = False
