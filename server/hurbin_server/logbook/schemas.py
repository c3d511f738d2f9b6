"""Shapes of the logbook's API."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Union

from pydantic import BaseModel, Field

from hurbin_core.base import By, Evaluation, RunClock, ShownLine, Verdict, shown_type
from hurbin_core.catalogue import benches

# The answer of whichever bench, as one reader sees it.
AnyShown: Any = Union[tuple(dict.fromkeys(shown_type(Evaluation[b.view]) for b in benches()))]  # noqa: UP007


class BenchOut(BaseModel):
    """One bench as the core declares it. many: its sheet takes entries until it is closed; single: a set
    has one such sheet at a time; files: its records go to files; correctable: a record of it can be
    corrected. records: what several of them are called; offer: what its door on a set says; key, does: the
    key that leads there and what it does; slot: what a set must have for it, empty: nothing; kinds: of
    which one is fitted; sets: of which kinds of sets, none: all; leads: a set is most often opened for it.
    one: a record of it, with its article; gated: what is kept back while its gates are shut, empty: nothing
    as a whole; seen: the words under which something read all the same is written down. read_with: the
    dimensions that are read with an instrument.
    """

    name: str
    title: str
    topic: str
    part: str
    act: str
    read_with: list[str]
    many: bool
    single: bool
    files: bool
    correctable: bool
    records: str
    offer: str
    key: str
    does: str
    slot: str
    kinds: list[str]
    sets: list[str]
    leads: bool
    one: str
    gated: str
    seen: str


class SaveOut(BaseModel):
    record: int
    again: bool
    differs: bool
    by: str
    late: int
    evaluation: AnyShown


class EntryOut(BaseModel):
    uuid: str
    taken_at: datetime
    received_at: datetime
    device: str
    instruments: dict[str, str]
    by: str
    late: bool
    device_at: datetime | None
    clock_off_ms: int | None
    body: dict[str, Any]


class AttachmentOut(BaseModel):
    """A photo or document: `part` is the label of the part it shows, `entry` the entry it goes with, `bench`
    that of the entry.
    """

    uuid: str
    kind: str
    title: str
    part: str
    entry: str
    bench: str
    pages: int | None
    width: int | None
    height: int | None
    by: str
    at: datetime


class AttachmentsOut(BaseModel):
    items: list[AttachmentOut]
    next: str


class AsideIn(BaseModel):
    why: str = Field(max_length=200)


class SheetOut(BaseModel):
    """A sheet with the entries of all devices. `record`: set once it is saved as a record."""

    uuid: str
    set_id: int
    bench: str
    opened_by: str
    opened_at: datetime
    closed_at: datetime | None
    closed_by: str
    left_because: str
    record: int | None
    entries: list[EntryOut]


class RunningOut(BaseModel):
    """A running test, for the strip on every page."""

    sheet: str
    set_id: int
    tag: str
    bench: str
    by: str
    clocks: list[RunClock]


class LeaveIn(BaseModel):
    reason: str = Field(max_length=300)


class RecordBrief(BaseModel):
    id: int
    bench: str
    title: str
    taken_at: datetime
    by: str
    verdict: Verdict
    live: bool
    reason: str
    supersedes: int | None
    superseded_by: int | None
    summary: str


class StoryLineOut(BaseModel):
    at: datetime
    by: str
    says: str


class ReadWithOut(BaseModel):
    """What one dimension of a record was read with: what it is called, the instrument's number and label."""

    reads: str
    word: str
    id: str
    name: str


class RecordOut(RecordBrief):
    set_id: int
    read_with: list[ReadWithOut]
    body: dict[str, Any]
    conditions: str
    evaluation: AnyShown
    rules_version: str
    judged_at: datetime
    judged_times: int
    clocks: list[str]
    entries: list[str]
    story: list[StoryLineOut]
    correctable: bool


class EventOut(BaseModel):
    at: datetime
    kind: str
    title: str
    note: str
    by: str


class HistoryOut(BaseModel):
    records: list[RecordBrief]
    events: list[EventOut]
    next: str


class TrendLimit(BaseModel):
    label: str
    value: float


@dataclass(slots=True)
class TrendPoint:
    """One point of a plot. A page has hundreds of them: kept light."""

    t: float
    value: float
    bound: str
    shown: str
    record: int


class TrendPath(BaseModel):
    """Forecast at a time: likely value and band."""

    t: float
    likely: float
    low: float
    high: float


class TrendTwin(BaseModel):
    """The paired set's series under the same conditions; `differs`: why there is none."""

    tag: str
    points: list[TrendPoint]
    differs: str


class TrendOut(BaseModel):
    series: int
    measurand: str
    title: str
    symbol: str
    leg: str
    conditions: str
    differs: str
    part: str
    log: bool
    floor: bool
    points: list[TrendPoint]
    total: int
    partial: bool = Field(description="Only the newest points are here; the rest with the trends.")
    limits: list[TrendLimit]
    says: str
    path: list[TrendPath]
    twin: TrendTwin | None
    events: list[EventOut]


@dataclass(slots=True)
class PlantPart:
    """One part of a train on the Plant page. A plant has thousands of them: kept light."""

    part: str
    verdict: Verdict
    beside: Verdict | None


@dataclass(slots=True)
class PlantSet:
    """One set on the Plant page."""

    id: int
    tag: str
    name: str
    place: str
    nickname: str
    kind: str
    control: str
    role: str
    pair: str
    verdict: Verdict
    beside: Verdict | None
    by: By | None
    reason: str
    parts: list[PlantPart]


class PlantService(BaseModel):
    id: int
    code: str
    name: str
    note: str
    sets: list[PlantSet]


class FirstOut(BaseModel):
    """A set that needs attention first, with its margin and its one action: the part to look at, or the check
    that is overdue or was never done.
    """

    set: int
    part: str
    part_title: str
    bench: str
    line: ShownLine | None
    standing: str


class PlantOut(BaseModel):
    site: int
    name: str
    time_zone: str
    role: str
    as_of: datetime
    services: list[PlantService]
    first: list[FirstOut]


class LastFigure(BaseModel):
    """What the newest record of its kind read; `series`: where its past is."""

    part: str
    measurand: str
    series: int
    label: str
    figure: str
    unit: str
    taken_at: datetime


class AnswerOut(BaseModel):
    """An answer that stands. `was`: what it said until it became overdue."""

    question: str
    subject: str
    title: str
    verdict: Verdict
    beside: Verdict | None
    by: By | None
    reason: str
    was: str
    line: ShownLine | None
    taken_at: datetime
    due: datetime
    record: int


class PartOut(BaseModel):
    """How one part stands; its answers, the one that decides first."""

    part: str
    title: str
    verdict: Verdict
    beside: Verdict | None
    by: By | None
    reason: str
    answers: list[AnswerOut]


class DueOut(BaseModel):
    """When a kind of check is due again; `at` none: it was never done here."""

    bench: str
    title: str
    part: str
    at: datetime | None
    overdue: bool


class SetStateOut(BaseModel):
    verdict: Verdict
    parts: list[PartOut]
    figures: list[LastFigure]
    due: list[DueOut]


class ImportJobOut(BaseModel):
    """An import of readings."""

    id: int
    bench: str
    title: str
    name: str
    by: str
    at: datetime
    state: str
    done: int
    total: int
    taken: int
    questioned: int
    refused: int
    there: int
    error: str
    cancel_asked: bool
    finished_at: datetime | None


class ImportRowOut(BaseModel):
    line: int
    tag: str
    outcome: str
    says: str


class ImportJobsOut(BaseModel):
    items: list[ImportJobOut]
    next: str = Field(description="Where the next page begins; empty at the end.")


class ImportRowsOut(BaseModel):
    rows: list[ImportRowOut]
    next: int
