"""What the server tells a job of its set: the pair, records since, how it was isolated and when, past jobs,
stock.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from ..base import Model, Verdict
from ..logbook import AnyCase
from .procedure import PROCEDURES, Procedure, procedure_of
from .weather import Outlook

JOB = "job"


class Read(Model):
    """One judged number of a record: measurand, leg, metric."""

    measurand: str
    leg: str = ""
    value: float
    unit: str


class BenchRecord(Model):
    """A record of this set that a hold may stand on."""

    bench: str
    record: int
    taken_at: datetime
    by: str = ""
    verdict: Verdict
    says: str = ""
    conditions: str = ""
    reads: list[Read] = []


class Moment(Model):
    """How the isolation of the set stood from then on, and for which scopes."""

    at: datetime
    state: str
    scopes: list[str] = []


class PastJob(Model):
    """A job of this site on record: its time, hands on, whole and by step, in minutes."""

    procedure: str
    kind: str
    minutes: float
    people: int = 1
    steps: dict[str, float] = {}


class Lot(Model):
    """What lies in one place of one part. kinds: which lines of a kit it can fill. free: not reserved by
    others.
    """

    code: str
    title: str
    kinds: list[str] = []
    place: str
    count: int
    free: int
    emergency: bool = False
    price: float | None = None


class OwnKit(Model):
    """What this site takes to a job. tag: of one set; kind: of one kind of set; both empty: to any."""

    title: str
    procedure: str
    tag: str = ""
    kind: str = ""
    parts: dict[str, int] = {}


class DueThing(Model):
    """What else falls due on the set."""

    title: str
    at: datetime


class SiteProcedure(Model):
    """A procedure as this site has it. version: counted from 1; the shipped one is 0."""

    version: int
    title: str = ""
    data: dict[str, Any]


class JobKnown(Model):
    """Everything of it. changes: temporary changes of the set that other work put on. moved: the set is of
    another kind, or elsewhere, than when the job was opened. fitted: since when what stands at each part of
    the set stands there; bare: since when nothing does where something did. weather: the newest forecast of
    the site; zone: of its clock.
    """

    pair: str = ""
    header: bool | None = None
    records: list[BenchRecord] = []
    moments: list[Moment] = []
    past: list[PastJob] = []
    lots: list[Lot] = []
    kits: list[OwnKit] = []
    due: list[DueThing] = []
    procedures: list[SiteProcedure] = []
    changes: list[str] = []
    fitted: dict[str, datetime] = {}
    bare: dict[str, datetime] = {}
    weather: Outlook | None = None
    zone: str = "UTC"

    def kit(self, procedure: str) -> OwnKit | None:
        """The kit of this procedure that is nearest to the set: its own, that of its kind, or anybody's."""
        rows = [k for k in self.kits if k.procedure == procedure]
        return max(rows, key=lambda k: (bool(k.tag), bool(k.kind)), default=None)

    def procedure(self, name: str, version: int) -> Procedure | None:
        """The procedure of this name and version; 0: the one that ships. None: neither is known."""
        if version == 0:
            return PROCEDURES.get(name)
        for row in self.procedures:
            if row.version == version and row.data.get("id") == name:
                return procedure_of(row.data)
        return None

    def newest(self, name: str) -> int:
        """The version a new job of this procedure is opened with."""
        return max((r.version for r in self.procedures if r.data.get("id") == name), default=0)

    def stood(self, at: datetime) -> Moment | None:
        """How the isolation stood at that time; None where nothing was isolated."""
        before = [m for m in self.moments if m.at <= at]
        return max(before, key=lambda m: m.at, default=None)


def known_of(case: AnyCase) -> JobKnown:
    """What the case was told of jobs; nothing where it was told nothing."""
    rows: Sequence[JobKnown] = case.extra(JOB, JobKnown)
    return rows[0] if rows else JobKnown()
