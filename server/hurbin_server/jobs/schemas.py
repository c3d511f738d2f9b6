"""What goes in and out of jobs."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from hurbin_core.base import Problem, Verdict
from hurbin_core.jobs.anatomy import Tree, TreePart
from hurbin_server.stores.part_schemas import KitOut


class JobRow(BaseModel):
    """One job under way: where it stands, who owns it, what it waits for."""

    set_id: int
    tag: str
    name: str
    place: str
    sheet: str
    procedure: str
    title: str
    because: str
    state: str
    owner: str
    opened_at: datetime
    done: int
    count: int
    now: str
    left: str
    waits: str
    expected: date | None
    changes: int
    verdict: Verdict
    short: list[str]
    shop: str
    promised: date | None
    overdue: bool


class ClosedJob(BaseModel):
    record: int
    set_id: int
    tag: str
    title: str
    at: datetime
    by: str
    verdict: Verdict
    cause: str


class CheckRow(BaseModel):
    """A look after a job that nobody has had yet."""

    id: int
    set_id: int
    tag: str
    due: datetime
    why: str
    overdue: bool


class WorkOut(BaseModel):
    may: bool
    jobs: list[JobRow]
    checks: list[CheckRow]
    closed: list[ClosedJob]
    kits: list[KitOut]


class WeatherOut(BaseModel):
    """The forecast on file of a site."""

    source: str
    made_at: datetime
    until: datetime
    by: str


class BackOut(BaseModel):
    """When a set is back, for whoever called: no more than that."""

    tag: str
    name: str
    state: str
    owner: str
    expected: date | None
    left: str
    waits: str
    as_of: datetime


class ProcedureRow(BaseModel):
    """One procedure of a site: the shipped one is version 0."""

    id: str
    title: str
    reason: str
    kinds: list[str]
    version: int
    by: str
    at: datetime | None
    why: str
    own: bool


class ProceduresOut(BaseModel):
    may: bool
    procedures: list[ProcedureRow]


class ProcedureOut(BaseModel):
    id: str
    version: int
    data: dict[str, Any]
    versions: list[ProcedureRow]
    may: bool


class ProcedureIn(BaseModel):
    """A procedure as a lead keeps it for the site. expected_version: the newest that the writer had seen."""

    model_config = ConfigDict(extra="forbid")
    data: dict[str, Any]
    reason: str = Field(min_length=1, max_length=300, title="Why")
    expected_version: int = Field(ge=0)


class ProcedureChecked(BaseModel):
    problems: list[Problem]


class TreeBrief(BaseModel):
    id: str
    title: str
    kinds: list[str]
    parts: int


class LookOut(BaseModel):
    id: str
    title: str
    reuse: list[str]
    mend: list[str]
    send: list[str]
    pair: str
    never: str
    figures: str
    source: str


class OrderRow(BaseModel):
    """One line of the order in which it comes apart."""

    part: TreePart
    after: list[str]


class AnatomyOut(BaseModel):
    tree: Tree
    order: list[OrderRow]
    looks: list[LookOut]
    trees: list[TreeBrief]
