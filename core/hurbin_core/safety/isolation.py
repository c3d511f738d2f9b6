"""How a set stands while it is made safe: what is shut, who is locked on, and whether the proof holds."""

from collections.abc import Sequence
from datetime import datetime
from typing import Literal

from ..base import Model, Phrase, Problem, Quantity
from .sources import SCOPES, IsolationSource

State = Literal["nothing", "isolating", "isolated", "proved", "live", "giving_back", "given_back"]


class Said(Model):
    by: str
    at: datetime
    words: str = ""


class LockOn(Model):
    """A worker's own lock. Only its owner takes it off, or a lead by the site's steps."""

    id: str
    by: str
    who: str
    at: datetime
    number: str = ""


class SourceState(Model):
    """One source of the list: how far it has come. `counts`: shut by a means that is isolation, locked, and
    let out where it must be.
    """

    source: IsolationSource
    title: str
    must: bool
    why: str
    complaint: Phrase | None = None
    shut: Said | None = None
    locks: list[LockOn] = []
    release: str = ""
    read: bool = False
    released: Said | None = None
    left: Quantity | None = None

    @property
    def counts(self) -> bool:
        return (
            self.complaint is None
            and self.shut is not None
            and bool(self.locks)
            and (not self.release or self.released is not None)
        )


class Proof(Model):
    """Dead, proved in three acts: `begun` after the first, `read` after the second, `proved` after the third.
    `void`: it held, or was under way, and does no more. by, who: the name and the sign-in of whoever began.
    """

    state: Literal["none", "begun", "read", "proved", "void"] = "none"
    why: Phrase | None = None
    tester: str = ""
    point: str = ""
    by: str = ""
    who: str = ""
    scopes: list[str] = []
    acts: dict[str, datetime] = {}
    readings: dict[str, Quantity] = {}


class Worker(Model):
    """Somebody who is locked on, since when, and on how many sources."""

    name: str
    who: str
    since: datetime
    locks: int


class Isolation(Model):
    """How a set stands while it is made safe. The same entries in any order of arrival give the same one."""

    state: State = "nothing"
    scopes: list[str] = []
    sources: list[SourceState] = []
    unsaid: list[str] = []
    proof: Proof = Proof()
    told: Said | None = None
    stopped: Said | None = None
    tried: Said | None = None
    started_up: bool = False
    moved_once: bool = False
    worked: Said | None = None
    unproved_work: list[Said] = []
    unlocked_work: list[Said] = []
    out_of_order: list[Phrase] = []
    volts_seen: Said | None = None
    volts: Quantity | None = None
    proved_once: datetime | None = None
    handovers: list[Said] = []
    restored: dict[str, Said] = {}
    removals: list[Said] = []
    conflicts: list[Phrase] = []
    problems: list[Problem] = []
    since: datetime | None = None

    @property
    def workers(self) -> list[Worker]:
        locks = [k for s in self.sources for k in s.locks]
        return [
            Worker(name=mine[0].by, who=who, since=min(k.at for k in mine), locks=len(mine))
            for who in dict.fromkeys(k.who for k in sorted(locks, key=lambda k: k.at))
            if (mine := [k for k in locks if k.who == who])
        ]

    @property
    def isolated(self) -> bool:
        must = [s for s in self.sources if s.must]
        return bool(must) and not self.unsaid and all(s.counts for s in must)

    def locked_by(self, who: str) -> bool:
        """Has this person an own lock on every source that must be isolated?"""
        must = [s for s in self.sources if s.must]
        return bool(who) and bool(must) and all(any(k.who == who for k in s.locks) for s in must)

    def proves(self, *scopes: str) -> bool:
        """Is the set proved dead, now and for one of these scopes?"""
        return self.state == "proved" and bool(set(scopes) & set(self.proof.scopes))

    def covers(self, scope: str) -> bool:
        """Is the set isolated for this scope?"""
        return scope in self.scopes and self.isolated


def scope_words(scopes: Sequence[str]) -> str:
    return ", ".join(SCOPES[s].title.lower() for s in scopes)
