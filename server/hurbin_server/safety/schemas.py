"""Shapes of safety's API. Sentences are written; figures are shown."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import AwareDatetime, BaseModel, Field

from hurbin_core.base import Offer, Verdict
from hurbin_core.logbook import Moment as When
from hurbin_core.plant import OneLine, Serves
from hurbin_core.safety import Answer, Chapter, IsolationSource, ProofStep, Proposed, Step, StopWords, Tag

ID = Field(min_length=8, max_length=64)


class CallIn(BaseModel):
    uuid: str = ID
    at: When
    complaint: str = Field(max_length=20)
    set_id: int | None = None
    service_id: int | None = None
    room: OneLine = Field(default="", max_length=120)
    note: str = Field(default="", max_length=500)
    picture: str = Field(default="", max_length=64)


class CallMore(BaseModel):
    note: str = Field(default="", max_length=500)
    picture: str = Field(default="", max_length=64)


class CallOut(BaseModel):
    uuid: str
    complaint: str
    title: str
    note: str
    picture: str
    by: str
    at: datetime
    mine: bool


class MatterOut(BaseModel):
    """One call with its reports, consequences and immediate actions."""

    id: int
    set_id: int | None
    tag: str
    where: str
    opened_at: datetime
    age: str
    ended_at: datetime | None
    ended_by: str
    found: str
    done: str
    verdict: Verdict
    threatens: list[str]
    first: list[str]
    many: str
    calls: list[CallOut]


class MatterEnd(BaseModel):
    found: str = Field(max_length=500)
    done: str = Field(max_length=500)


class ListIn(BaseModel):
    version: int
    lines: list[IsolationSource] = Field(max_length=60)


class ListOut(BaseModel):
    version: int
    lines: list[IsolationSource]
    by: str
    at: datetime | None
    proposed: list[Proposed]


class SaidOut(BaseModel):
    by: str
    at: datetime
    words: str


class LockOut(BaseModel):
    id: str
    by: str
    at: datetime
    number: str
    mine: bool
    age: str


class SourceOut(BaseModel):
    """One energy source: whether it must be isolated, why, and how far it is."""

    id: str
    kind: str
    title: str
    family: str
    device: str
    place: str
    means: str
    lock_how: str
    try_out: str
    sister: str
    feeds: str
    tell: str
    must: bool
    why: str
    complaint: str
    shut: SaidOut | None
    locks: list[LockOut]
    release: str
    read: bool
    released: SaidOut | None
    left: str
    counts: bool
    next: Offer | None


class ProofOut(BaseModel):
    state: str
    why: str
    tester: str
    point: str
    by: str
    at: datetime | None
    acts: dict[str, datetime]
    steps: list[ProofStep]
    readings: dict[str, str]


class WorkerOut(BaseModel):
    name: str
    since: datetime
    age: str
    locks: int
    mine: bool


class UnsaidOut(BaseModel):
    kind: str
    title: str


class IsolationOut(BaseModel):
    """How a set is made safe. stands: its state in the fewest words."""

    state: str
    stands: str
    sheet: str
    since: datetime | None
    scopes: list[str]
    sources: list[SourceOut]
    unsaid: list[UnsaidOut]
    proof: ProofOut
    workers: list[WorkerOut]
    conflicts: list[str]
    removals: list[SaidOut]
    handovers: list[SaidOut]
    steps: list[Step]
    back: bool
    wanting: list[str]
    live: str
    list_differs: bool
    codes: str


class ChangeOut(BaseModel):
    uuid: str
    kind: str
    title: str
    place: str
    note: str
    picture: str
    says: str
    verdict: Verdict
    put_at: datetime
    put_by: str


class DeferralOut(BaseModel):
    uuid: str
    part: str
    what: str
    reason: str
    until: datetime
    overdue: bool
    standby: str
    changes_mind: str
    limits: list[str]
    by: str
    at: datetime


class CheckBackOut(BaseModel):
    id: int
    due: datetime
    says: str
    verdict: Verdict


class PastOut(BaseModel):
    """A closed item: what, when, how it was closed, by whom."""

    at: datetime
    title: str
    says: str
    by: str


class TrialOut(BaseModel):
    """A watched trial run that is released: its limits, for how many minutes, by whom, until when it is
    begun.
    """

    uuid: str
    limits: str
    minutes: int
    by: str
    at: AwareDatetime
    until: AwareDatetime


class TrialIn(BaseModel):
    limits: str = Field(max_length=300)
    minutes: int


class Moment(BaseModel):
    """One thing that happened to a set. `until`: when it was over; none where it has no length, or is not
    over.
    """

    kind: Literal["record", "call", "part", "open"]
    at: datetime
    until: datetime | None
    title: str
    says: str
    part: str
    verdict: Verdict | None
    record: int | None


class TimelineOut(BaseModel):
    """`older`: there are older records than these."""

    moments: list[Moment]
    older: bool


class ReadyOut(BaseModel):
    """One line of what must be on record before a set is energised. list, heading: what it is asked after.
    blocks: no start until it is done.
    """

    id: str
    list: str
    heading: str
    blocks: bool
    title: str
    done: bool
    says: str
    bench: str
    record: int | None


class SetSafetyOut(BaseModel):
    """How a set stands and what is offered on it. `until`: from then on an offer may be another one, though
    nobody changes anything: a gate set aside or a trial run is over.
    """

    until: datetime | None
    set_id: int
    tag: str
    isolation: IsolationOut
    list: ListOut
    changes: list[ChangeOut]
    deferrals: list[DeferralOut]
    check_backs: list[CheckBackOut]
    matters: list[MatterOut]
    tags: list[Tag]
    offers: list[Answer]
    stops: list[StopWords] = []
    trials: list[TrialOut] = []
    ready: list[ReadyOut] = []
    past: list[PastOut]


class ServedOut(BaseModel):
    """Is a service served, and by what."""

    service: int
    verdict: Verdict
    says: list[str]


class SiteSafetyOut(BaseModel):
    """Open items by set, sets found live while isolated, open calls, who serves what."""

    as_of: datetime
    tags: list[Tag]
    first: list[Tag]
    matters: list[MatterOut]
    served: list[ServedOut]


class HandOverOut(BaseModel):
    site: str
    time_zone: str
    as_of: datetime
    by: str
    chapters: list[Chapter]
    codes: str


class WordIdOut(BaseModel):
    id: str
    title: str
    more: str = ""


class ScopeOut(BaseModel):
    id: str
    title: str
    does: str
    part: str


class SourceKindOut(BaseModel):
    id: str
    title: str
    family: str
    part: str
    means: list[str]


class FigureOut(BaseModel):
    id: str
    title: str
    units: list[str]
    legs: bool


class SafetyWordsOut(BaseModel):
    """All choices of the safety forms."""

    complaints: list[WordIdOut]
    changes: list[WordIdOut]
    scopes: list[ScopeOut]
    sources: list[SourceKindOut]
    means: list[WordIdOut]
    figures: list[FigureOut]
    gates: list[WordIdOut]
    serves: list[Serves]
    hazard: str
    codes: str


class ChangeIn(BaseModel):
    uuid: str = ID
    at: When
    kind: str = Field(max_length=20)
    place: OneLine = Field(max_length=120)
    note: str = Field(default="", max_length=300)
    picture: str = Field(default="", max_length=64)


class NoteIn(BaseModel):
    note: str = Field(default="", max_length=300)


class SaidIn(BaseModel):
    said: str = Field(max_length=300)


class WaiverIn(BaseModel):
    gate: str = Field(max_length=30)
    reason: str = Field(max_length=300)
    until: When


class Made(BaseModel):
    id: str
