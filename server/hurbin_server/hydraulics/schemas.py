"""What goes in and out of the loops."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel, ConfigDict, Field

from hurbin_core.hydraulics import LoopPlate
from hurbin_core.plant import OneLine


class LoopIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    name: OneLine = Field(max_length=60, title="Name")
    plate: LoopPlate
    set_ids: list[int] = Field(default=[], max_length=40, title="Sets on this loop")
    expected_version: int = Field(default=0, ge=0, title="Version that was edited")


class LoopOut(BaseModel):
    """One loop of the register. version: of its plate; tags: the sets on it."""

    id: int
    name: str
    version: int
    plate: LoopPlate
    set_ids: list[int]
    tags: list[str]
    by: str
    at: datetime | None


class LoopsOut(BaseModel):
    """The loops of a site. may: this person may describe them."""

    loops: list[LoopOut]
    may: bool
