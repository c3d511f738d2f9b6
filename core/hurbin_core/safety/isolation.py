"""From the entries of a making-safe sheet to how things stand: what is shut, who is locked on, and whether the proof holds."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Literal

from pydantic import BaseModel

from ..base import Bound, Compared, HurbinError, Limits, Phrase, Problem, Quantity, Read, amount, compare, field_rules, phrase, read
from ..logbook import Entry
from .entry import SINGLE_PHASE, THREE_PHASE, Act, MakeSafeEntry
from .sources import SCOPES, SOURCES, IsolationSource, SetFacts, needed, unsaid

State = Literal["nothing", "isolating", "isolated", "proved", "live", "giving_back", "given_back"]
E_ = Entry[MakeSafeEntry]
_RULES = field_rules(MakeSafeEntry)
_LIMITS = Limits()
# What may be taken back as if it had not been said. A lock, an act of proof, volts that were seen: never.
UNDOABLE = ("open", "told", "stopped", "shut", "released", "handover", "restored")


class Said(BaseModel):
    by: str
    at: datetime
    words: str = ""


class LockOn(BaseModel):
    """A worker's own lock. Only its owner takes it off, or a lead by the site's steps."""

    id: str
    by: str
    who: str
    at: datetime
    number: str = ""


class SourceState(BaseModel):
    """One source of the list: how far it has come. `counts`: shut by a means that is isolation, locked, and let out where it must be."""

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
        return self.complaint is None and self.shut is not None and bool(self.locks) and (not self.release or self.released is not None)


class Proof(BaseModel):
    """Dead, proved in three acts: `begun` after the first, `read` after the second, `proved` after the third. `void`: it held, or was under way, and does no more."""

    state: Literal["none", "begun", "read", "proved", "void"] = "none"
    why: Phrase | None = None
    tester: str = ""
    point: str = ""
    by: str = ""
    scopes: list[str] = []
    acts: dict[str, datetime] = {}
    readings: dict[str, Quantity] = {}


class Worker(BaseModel):
    """Somebody who is locked on, since when, and on how many sources."""

    name: str
    who: str
    since: datetime
    locks: int


class Isolation(BaseModel):
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


def fold(entries: Sequence[E_], facts: SetFacts) -> Isolation:
    """How does the set stand after these entries? They count by (taken_at, uuid), whoever sent them and whenever they came.

    Nothing is dropped: a removal of a lock that is not on file, a lock on a source that stands open, a second word on one
    thing is told as a conflict. The proof holds only while every source that must be shut has stayed shut, locked and let
    out since before its first act, nobody worked on the circuit after it, and no volts were seen.
    """
    f = _Fold(facts)
    undone = {e.body.undoes for e in entries if e.body.kind == "undo"}
    locked = {e.uuid: e for e in entries if e.body.kind == "lock"}
    for e in sorted(entries, key=lambda e: (e.taken_at, e.uuid)):
        if e.uuid in undone and e.body.kind in UNDOABLE:
            continue
        f.take(e, locked)
    return f.done()


class _Fold:
    def __init__(self, facts: SetFacts) -> None:
        self.facts = facts
        self.iso = Isolation()
        self.list: list[IsolationSource] = []
        self.conductors = SINGLE_PHASE if facts.single_phase else THREE_PHASE

    def take(self, e: E_, locked: dict[str, E_]) -> None:
        iso, b = self.iso, e.body
        iso.since = iso.since or e.taken_at
        said = Said(by=e.by, at=e.taken_at, words=b.seen or b.note)
        match b.kind:
            case "open" | "list":
                self._open(e)
            case "told":
                iso.told = Said(by=e.by, at=e.taken_at, words=b.to or b.note)
            case "stopped":
                iso.stopped = said
            case "shut" | "opened" | "released":
                self._source(e, said)
            case "lock":
                self._lock(e)
            case "unlock":
                self._unlock(e, locked)
            case "proof":
                self._proof(e)
            case "tried":
                iso.tried, iso.started_up = said, b.moved is True
                if b.moved:
                    iso.moved_once = True
                    self._live(e, None, phrase("safety.it_started"))
            case "work":
                self._work(e, said)
            case "volts_seen":
                self._live(e, _figure(e, "live_volts", iso.problems), phrase("safety.volts_were_seen"))
            case "handover":
                iso.handovers.append(Said(by=e.by, at=e.taken_at, words=b.to))
            case "restored":
                if b.item is not None:
                    self._restore(b.item, said)
            case _:
                pass
        if iso.proof.state in ("begun", "read", "proved") and not iso.isolated:
            self._void(phrase("safety.not_isolated_any_more"))

    def _work(self, e: E_, said: Said) -> None:
        """Hands were on the circuit: by whose lock, and under which proof? Work ends a proof, and what was called clear."""
        iso = self.iso
        iso.worked = said
        if iso.proof.state != "proved":
            iso.unproved_work.append(said)
        self._own_lock(e)
        if iso.restored.keys() & {"guard_on", "people_clear"}:
            iso.out_of_order.append(phrase("order.work_after_clear", by=e.by or "somebody"))
            for item in ("guard_on", "people_clear"):
                iso.restored.pop(item, None)
        self._void(phrase("safety.worked_since"))

    def _own_lock(self, e: E_) -> None:
        if not self.iso.locked_by(e.who):
            self.iso.unlocked_work.append(Said(by=e.by, at=e.taken_at))
            self.iso.conflicts.append(phrase("safety.no_own_lock", by=e.by or "somebody"))

    def _restore(self, item: str, said: Said) -> None:
        """One step of the way back, and whether the steps before it were done."""
        iso, by = self.iso, said.by or "somebody"
        locks = any(s.locks for s in iso.sources)
        if item == "people_clear" and "guard_on" not in iso.restored:
            iso.out_of_order.append(phrase("order.clear_before_guard", by=by))
        if item == "valves_as_found" and locks:
            iso.out_of_order.append(phrase("order.found_under_lock", by=by))
        if item == "automatic" and "valves_as_found" not in iso.restored:
            iso.out_of_order.append(phrase("order.automatic_early", by=by))
        iso.restored[item] = said

    def _open(self, e: E_) -> None:
        iso, b = self.iso, e.body
        if b.sources is not None:
            if self.list and _lines(b.sources) != _lines(self.list):
                self._void(phrase("safety.list_changed"))
            self.list = b.sources
        if b.scope is not None and b.scope not in iso.scopes:
            iso.scopes.append(b.scope)
            self._void(phrase("safety.scope_added"))
        held = {s.source.id: s for s in iso.sources}
        fresh = []
        for n in needed([s for s in self.list if s.kind in SOURCES], iso.scopes):
            kind, old = SOURCES[n.source.kind], held.pop(n.source.id, None)
            now = SourceState(source=n.source, title=n.title, must=n.must, why=n.why, complaint=n.complaint, release=kind.release, read=kind.read)
            if old is not None:
                now.shut, now.locks, now.released, now.left = old.shut, old.locks, old.released, old.left
            fresh.append(now)
        # A line that has left the list keeps its place while a lock hangs on it.
        iso.sources = [*fresh, *(s for s in held.values() if s.locks)]
        iso.unsaid = unsaid(self.list, iso.scopes, self.facts)

    def _at(self, e: E_) -> SourceState | None:
        found = next((s for s in self.iso.sources if s.source.id == e.body.source), None)
        if found is None:
            self.iso.conflicts.append(phrase("safety.no_such_source", by=e.by or "somebody", what=e.body.source))
        return found

    def _source(self, e: E_, said: Said) -> None:
        s = self._at(e)
        if s is None:
            return
        if e.body.kind == "shut":
            s.shut = said
        elif e.body.kind == "opened":
            self._order_of_opening(s, said)
            if s.locks:
                self.iso.conflicts.append(phrase("safety.opened_under_lock", by=e.by or "somebody", what=s.title, locks=", ".join(k.by for k in s.locks)))
            s.shut = s.released = s.left = None
        else:
            self._release(e, s, said)

    def _order_of_opening(self, s: SourceState, said: Said) -> None:
        iso, by = self.iso, said.by or "somebody"
        if s.locks:
            iso.out_of_order.append(phrase("order.opened_under_lock", by=by, what=s.title))
        elif iso.worked is not None and "people_clear" not in iso.restored:
            iso.out_of_order.append(phrase("order.opened_before_clear", by=by, what=s.title))

    def _release(self, e: E_, s: SourceState, said: Said) -> None:
        if s.shut is None:
            self.iso.conflicts.append(phrase("safety.released_open", what=s.title))
            return
        if not s.read:
            s.released = said
            return
        left = _figure(e, "reading", self.iso.problems)
        if left is None:
            return
        s.left = left
        s.released = said if _below(left, _LIMITS.value("safety.stored_below"), inclusive=False) else None

    def _lock(self, e: E_) -> None:
        s = self._at(e)
        if s is None:
            return
        if s.shut is None:
            self.iso.conflicts.append(phrase("safety.locked_open", by=e.by or "somebody", what=s.title))
        s.locks.append(LockOn(id=e.uuid, by=e.by, who=e.who, at=e.taken_at, number=e.body.number))

    def _unlock(self, e: E_, locked: dict[str, E_]) -> None:
        iso = self.iso
        for s in iso.sources:
            lock = next((k for k in s.locks if k.id == e.body.lock), None)
            if lock is None:
                continue
            if lock.who != e.who and not (e.body.forgotten and e.body.followed.strip()):
                iso.conflicts.append(phrase("safety.not_your_lock", by=e.by or "somebody", owner=lock.by, what=s.title))
                return
            s.locks.remove(lock)
            if not any(x.locks for x in iso.sources) and "people_clear" not in iso.restored:
                iso.out_of_order.append(phrase("order.unlocked_before_clear", by=e.by or "somebody"))
            if lock.who != e.who:
                iso.removals.append(Said(by=e.by, at=e.taken_at, words=f"{lock.by}: {e.body.followed.strip()}"))
            return
        known = locked.get(e.body.lock)
        if known is None:
            iso.conflicts.append(phrase("safety.unlock_unknown", by=e.by or "somebody"))
        elif known.taken_at > e.taken_at:
            iso.conflicts.append(phrase("safety.unlock_before_lock", by=e.by or "somebody", owner=known.by or "somebody"))

    def _void(self, why: Phrase) -> None:
        if self.iso.proof.state != "none":
            self.iso.proof = Proof(state="void", why=why)

    def _live(self, e: E_, volts: Quantity | None, why: Phrase) -> None:
        self.iso.volts_seen, self.iso.volts = Said(by=e.by, at=e.taken_at, words=e.body.point or e.body.note), volts
        self.iso.proof = Proof(state="void", why=why)

    def _proof(self, e: E_) -> None:
        iso, b = self.iso, e.body
        if b.act is None:
            return
        if not iso.isolated:
            iso.proof = Proof(state="void", why=phrase("safety.prove_isolated_first"))
            if b.act == "dead":
                self._seen_in(e, self._readings(e))
            return
        {"live_before": self._begin, "dead": self._read_dead, "live_after": self._finish}[b.act](e)

    def _begin(self, e: E_) -> None:
        if not self._answers(e):
            self.iso.proof = Proof(state="void", why=phrase("safety.tester_dead_before", tester=e.body.tester or "the tester"))
            return
        self.iso.proof = Proof(state="begun", tester=e.body.tester, by=e.by, acts={"live_before": e.taken_at})

    def _answers(self, e: E_) -> bool:
        volts = _figure(e, "live_volts", self.iso.problems)
        return volts is not None and not _below(volts, _LIMITS.value("safety.live_source"), inclusive=False)

    def _readings(self, e: E_) -> dict[str, Quantity]:
        got = {n: _figure(e, n, self.iso.problems) for n in self.conductors}
        return {n: q for n, q in got.items() if q is not None}

    def _seen_in(self, e: E_, got: dict[str, Quantity]) -> bool:
        top = max(got.values(), key=lambda q: q.value, default=None)
        if top is None or _below(top, _LIMITS.value("safety.dead_below"), inclusive=True):
            return False
        self._live(e, top, phrase("safety.volts_in_proof", volts=top))
        return True

    def _read_dead(self, e: E_) -> None:
        iso, got = self.iso, self._readings(e)
        if self._seen_in(e, got):
            return
        if iso.proof.state not in ("begun", "read"):
            iso.proof = Proof(state="void", why=phrase("safety.no_first_act"))
            return
        lacking = [str(_RULES[n].label) for n in self.conductors if n not in got]
        if lacking:
            iso.proof = iso.proof.model_copy(update={"state": "begun", "why": phrase("safety.pairs_missing", missing=", ".join(lacking))})
            return
        if not self._together(e, "live_before"):
            return
        iso.proof = iso.proof.model_copy(
            update={"state": "read", "why": None, "point": e.body.point, "readings": got, "acts": {**iso.proof.acts, "dead": e.taken_at}}
        )

    def _together(self, e: E_, first: Act) -> bool:
        begun = self.iso.proof.acts[first]
        same = e.body.tester == self.iso.proof.tester
        if same and e.taken_at - begun <= timedelta(seconds=_LIMITS.value("safety.proof_minutes")):
            return True
        self.iso.proof = Proof(state="void", why=phrase("safety.acts_too_far" if same else "safety.other_tester"))
        return False

    def _finish(self, e: E_) -> None:
        iso = self.iso
        if iso.proof.state != "read":
            iso.proof = Proof(state="void", why=phrase("safety.no_second_act"))
            return
        if not self._together(e, "live_before"):
            return
        if not self._answers(e):
            iso.proof = Proof(state="void", why=phrase("safety.tester_dead_after", tester=e.body.tester or "the tester"))
            return
        self._own_lock(e)
        iso.proof = iso.proof.model_copy(update={"state": "proved", "scopes": list(iso.scopes), "acts": {**iso.proof.acts, "live_after": e.taken_at}})
        iso.volts_seen = iso.volts = None
        iso.proved_once = e.taken_at

    def done(self) -> Isolation:
        iso = self.iso
        if not iso.scopes:
            return iso
        locks = any(s.locks for s in iso.sources)
        shut = any(s.shut for s in iso.sources)
        back = "people_clear" in iso.restored or "guard_on" in iso.restored
        if iso.volts_seen is not None and (locks or shut):
            iso.state = "live"
        elif iso.proof.state == "proved":
            iso.state = "proved"
        elif iso.isolated:
            iso.state = "isolated"
        elif back:
            iso.state = "giving_back" if locks or shut else "given_back"
        else:
            iso.state = "isolating"
        return iso


def _lines(sources: Sequence[IsolationSource]) -> dict[str, IsolationSource]:
    return {x.id: x for x in sources if not x.absent}


def _below(q: Quantity, limit: float, *, inclusive: bool) -> bool:
    """Surely below a limit? A bound that leaves it open is not below."""
    if q.bound is Bound.AT_LEAST:
        return False
    within = compare(q, limit) is Compared.WITHIN
    return within if inclusive else within and compare(q, limit, floor=True) is Compared.OVER


def _figure(e: E_, name: str, problems: list[Problem]) -> Quantity | None:
    try:
        got: Read | None = read(getattr(e.body, name), _RULES[name])
    except HurbinError as error:
        problems.append(Problem.of(error).model_copy(update={"field": f"{e.uuid}.{name}"}))
        return None
    return amount(got.value, got.unit, got.bound) if got is not None else None


def figure_problems(entries: Sequence[E_]) -> list[Problem]:
    """Every typed figure of these entries that cannot be read, whatever the sheet says besides."""
    out: list[Problem] = []
    for e in entries:
        for name in _RULES:
            _figure(e, name, out)
    return out


def scope_words(scopes: Sequence[str]) -> str:
    return ", ".join(SCOPES[s].title.lower() for s in scopes)
