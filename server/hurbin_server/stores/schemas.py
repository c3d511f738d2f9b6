"""What goes in and out of the stores."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel, ConfigDict, Field

from hurbin_core.base import Entered, ShownQuantity, Verdict
from hurbin_core.plant import OneLine
from hurbin_core.stores import MOST


class VanIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    name: OneLine = Field(min_length=1, max_length=60, title="Van")


class CountIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    size: Entered = Field(title="Thickness")
    count: int = Field(ge=0, le=MOST, title="Pieces")
    least: int | None = Field(default=None, ge=0, le=MOST, title="Reorder below")


class LotOut(BaseModel):
    tenths: int
    size: ShownQuantity
    typed: Entered
    count: int
    least: int
    verdict: Verdict
    says: str


class ShimMoveOut(BaseModel):
    at: datetime
    size: str
    change: int
    why: str
    by: str


class VanOut(BaseModel):
    id: int
    name: str
    lots: list[LotOut]
    moves: list[ShimMoveOut]


class ShelfOut(BaseModel):
    """All vans of a site; `units`: units for a thickness."""

    vans: list[VanOut]
    may: bool
    units: list[str]


class BroughtInOut(BaseModel):
    lines: int
