"""From the entries of a making-safe sheet to how things stand: the one replay, with making safe's own
handlers.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import timedelta
from typing import Any

from ..base import Bound, Compared, Limits, Phrase, Problem, Quantity, amount, compare, field_rules, phrase
from ..instruments import Shown, unfit
from ..logbook import Entry, SheetState, read_or, replay
from .entry import SINGLE_PHASE, THREE_PHASE, Act, MakeSafeEntry
from .isolation import Isolation, LockOn, Proof, Said, SourceState
from .sources import SOURCES, IsolationSource, SetFacts, needed, unsaid

E_ = Entry[Any]
_RULES = field_rules(MakeSafeEntry)
_LIMITS = Limits()
# What may be taken back as if it had not been said. A lock, an act of proof, volts that were seen: never.
UNDOABLE = ("open", "told", "stopped", "shut", "released", "handover", "restored")


def fold(entries: Sequence[E_], facts: SetFacts) -> Isolation:
    """How does the set stand after these entries? They count by (taken_at, uuid), whoever sent them and
    whenever they came.

    Nothing is dropped: a removal of a lock that is not on file, a lock on a source that stands open, a second
    word on one thing is told as a conflict. The proof holds only while every source that must be shut has
    stayed shut, locked and let out since before its first act, nobody worked on the circuit after it, and no
    volts were seen.
    """
    f = _Sheet(facts, {e.uuid: e for e in entries if e.body.kind == "lock"})
    replay(entries, f, _HANDLERS, entry=MakeSafeEntry, undoable=UNDOABLE)
    return f.done()


class _Sheet(SheetState):
    """The sheet while its entries are replayed: the isolation, the list as it stands, the locks that are
    on file.
    """

    def __init__(self, facts: SetFacts, locked: dict[str, E_]) -> None:
        super().__init__()
        self.facts, self.locked = facts, locked
        self.iso = Isolation()
        self.list: list[IsolationSource] = []
        self.conductors = SINGLE_PHASE if facts.single_phase else THREE_PHASE

    def take(self, e: E_, handle: Callable[[_Sheet, E_, Said], None]) -> None:
        """One entry, and whether the proof still holds after it."""
        iso = self.iso
        iso.since = iso.since or e.taken_at
        handle(self, e, Said(by=e.by, at=e.taken_at, words=e.body.seen or e.body.note))
        if iso.proof.state in ("begun", "read", "proved") and not iso.isolated:
            self._void(phrase("safety.not_isolated_any_more"))

    def _told(self, e: E_, said: Said) -> None:
        self.iso.told = Said(by=e.by, at=e.taken_at, words=e.body.to or e.body.note)

    def _stopped(self, e: E_, said: Said) -> None:
        self.iso.stopped = said

    def _tried(self, e: E_, said: Said) -> None:
        self.iso.tried, self.iso.started_up = said, e.body.moved is True
        if e.body.moved:
            self.iso.moved_once = True
            self._live(e, None, phrase("safety.it_started"))

    def _seen(self, e: E_, said: Said) -> None:
        volts = _figure(e, "live_volts", self.iso.problems)
        self._live(e, volts, phrase("safety.volts_were_seen"))

    def _handed_over(self, e: E_, said: Said) -> None:
        self.iso.handovers.append(Said(by=e.by, at=e.taken_at, words=e.body.to))

    def _given_back(self, e: E_, said: Said) -> None:
        if e.body.item is not None:
            self._restore(e.body.item, said)

    def _work(self, e: E_, said: Said) -> None:
        """Hands were on the circuit: by whose lock, and under which proof? Work ends a proof, and what was
        called clear.
        """
        iso = self.iso
        iso.worked = said
        if iso.proof.state != "proved":
            iso.unproved_work.append(said)
        self._own_lock(e)
        if iso.restored.keys() & {"guard_on", "people_clear"}:
            iso.out_of_order.append(phrase("order.work_after_clear", by=e.by or "Somebody"))
            for item in ("guard_on", "people_clear"):
                iso.restored.pop(item, None)
        self._void(phrase("safety.worked_since"))

    def _own_lock(self, e: E_) -> None:
        if not self.iso.locked_by(e.who):
            self.iso.unlocked_work.append(Said(by=e.by, at=e.taken_at))
            self.iso.conflicts.append(phrase("safety.no_own_lock", by=e.by or "Somebody"))

    def _restore(self, item: str, said: Said) -> None:
        """One step of the way back, and whether the steps before it were done."""
        iso, by = self.iso, said.by or "Somebody"
        locks = any(s.locks for s in iso.sources)
        if item == "people_clear" and "guard_on" not in iso.restored:
            iso.out_of_order.append(phrase("order.clear_before_guard", by=by))
        if item == "valves_as_found" and locks:
            iso.out_of_order.append(phrase("order.found_under_lock", by=by))
        if item == "automatic" and "valves_as_found" not in iso.restored:
            iso.out_of_order.append(phrase("order.automatic_early", by=by))
        iso.restored[item] = said

    def _open(self, e: E_, said: Said) -> None:
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
            now = SourceState(
                source=n.source,
                title=n.title,
                must=n.must,
                why=n.why,
                complaint=n.complaint,
                release=kind.release,
                read=kind.read,
            )
            if old is not None:
                now.shut, now.locks, now.released, now.left = old.shut, old.locks, old.released, old.left
            fresh.append(now)
        # A line that has left the list keeps its place while a lock hangs on it.
        iso.sources = [*fresh, *(s for s in held.values() if s.locks)]
        iso.unsaid = unsaid(self.list, iso.scopes, self.facts)

    def _at(self, e: E_) -> SourceState | None:
        found = next((s for s in self.iso.sources if s.source.id == e.body.source), None)
        if found is None:
            self.iso.conflicts.append(
                phrase("safety.no_such_source", by=e.by or "Somebody", what=e.body.source)
            )
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
                self.iso.conflicts.append(
                    phrase(
                        "safety.opened_under_lock",
                        by=e.by or "Somebody",
                        what=s.title,
                        locks=", ".join(k.by for k in s.locks),
                    )
                )
            s.shut = s.released = s.left = None
        else:
            self._release(e, s, said)

    def _order_of_opening(self, s: SourceState, said: Said) -> None:
        iso, by = self.iso, said.by or "Somebody"
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

    def _lock(self, e: E_, said: Said) -> None:
        s = self._at(e)
        if s is None:
            return
        if s.shut is None:
            self.iso.conflicts.append(phrase("safety.locked_open", by=e.by or "Somebody", what=s.title))
        s.locks.append(LockOn(id=e.uuid, by=e.by, who=e.who, at=e.taken_at, number=e.body.number))

    def _unlock(self, e: E_, said: Said) -> None:
        iso = self.iso
        for s in iso.sources:
            lock = next((k for k in s.locks if k.id == e.body.lock), None)
            if lock is None:
                continue
            if lock.who != e.who and not (e.body.forgotten and e.body.followed.strip()):
                iso.conflicts.append(
                    phrase("safety.not_your_lock", by=e.by or "Somebody", owner=lock.by, what=s.title)
                )
                return
            s.locks.remove(lock)
            if not any(x.locks for x in iso.sources) and "people_clear" not in iso.restored:
                iso.out_of_order.append(phrase("order.unlocked_before_clear", by=e.by or "Somebody"))
            if lock.who != e.who:
                iso.removals.append(
                    Said(by=e.by, at=e.taken_at, words=f"{lock.by}: {e.body.followed.strip()}")
                )
            return
        known = self.locked.get(e.body.lock)
        if known is None:
            iso.conflicts.append(phrase("safety.unlock_unknown", by=e.by or "Somebody"))
        elif known.taken_at > e.taken_at:
            iso.conflicts.append(
                phrase("safety.unlock_before_lock", by=e.by or "Somebody", owner=known.by or "somebody")
            )

    def _void(self, why: Phrase) -> None:
        if self.iso.proof.state != "none":
            self.iso.proof = Proof(state="void", why=why)

    def _live(self, e: E_, volts: Quantity | None, why: Phrase) -> None:
        self.iso.volts_seen, self.iso.volts = (
            Said(by=e.by, at=e.taken_at, words=getattr(e.body, "point", "") or e.body.note),
            volts,
        )
        self.iso.proof = Proof(state="void", why=why)

    def _proof(self, e: E_, said: Said) -> None:
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
        # Without a name nobody can say of two testers that they are one.
        if not e.body.tester.strip():
            self.iso.proof = Proof(state="void", why=phrase("safety.tester_unnamed"))
            return
        why = self._unfit(e)
        if why is not None:
            self.iso.proof = Proof(state="void", why=phrase("safety.tester_unfit", why=why))
            return
        if not self._answers(e):
            self.iso.proof = Proof(
                state="void", why=phrase("safety.tester_dead_before", tester=e.body.tester)
            )
            return
        self.iso.proof = Proof(
            state="begun", tester=e.body.tester, by=e.by, who=e.who, acts={"live_before": e.taken_at}
        )

    def _unfit(self, e: E_) -> Phrase | None:
        """Why nothing is proved with this tester, by the register; one that it does not hold is proved on the
        live source alone.
        """
        label = e.body.tester.strip().casefold()
        tool = next((t for t in self.facts.testers if t.name.casefold() == label), None)
        if tool is None:
            return None
        shown = Shown(reads="voltage", typed=e.body.tester)
        return unfit(tool, shown, e.taken_at, self.facts.volts, _LIMITS)

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
            iso.proof = iso.proof.model_copy(
                update={"state": "begun", "why": phrase("safety.pairs_missing", missing=", ".join(lacking))}
            )
            return
        if not self._together(e, "live_before"):
            return
        iso.proof = iso.proof.model_copy(
            update={
                "state": "read",
                "why": None,
                "point": e.body.point,
                "readings": got,
                "acts": {**iso.proof.acts, "dead": e.taken_at},
            }
        )

    def _together(self, e: E_, first: Act) -> bool:
        begun = self.iso.proof.acts[first]
        same = e.body.tester == self.iso.proof.tester
        if same and e.taken_at - begun <= timedelta(seconds=_LIMITS.value("safety.proof_minutes")):
            return True
        self.iso.proof = Proof(
            state="void", why=phrase("safety.acts_too_far" if same else "safety.other_tester")
        )
        return False

    def _finish(self, e: E_) -> None:
        iso = self.iso
        if iso.proof.state != "read":
            iso.proof = Proof(state="void", why=phrase("safety.no_second_act"))
            return
        if not self._together(e, "live_before"):
            return
        if not self._answers(e):
            iso.proof = Proof(state="void", why=phrase("safety.tester_dead_after", tester=e.body.tester))
            return
        self._own_lock(e)
        iso.proof = iso.proof.model_copy(
            update={
                "state": "proved",
                "scopes": list(iso.scopes),
                "acts": {**iso.proof.acts, "live_after": e.taken_at},
            }
        )
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
    got = read_or(problems, getattr(e.body, name, None), _RULES[name], f"{e.uuid}.{name}")
    return amount(got.value, got.unit, got.bound) if got is not None else None


def figure_problems(entries: Sequence[E_]) -> list[Problem]:
    """Every typed figure of these entries that cannot be read, whatever the sheet says besides."""
    out: list[Problem] = []
    for e in entries:
        for name in _RULES:
            _figure(e, name, out)
    return out


def _handler(act: Callable[[_Sheet, E_, Said], None]) -> Callable[[_Sheet, E_], None]:
    return lambda sheet, e: sheet.take(e, act)


_HANDLERS: dict[str, Callable[[_Sheet, E_], None]] = {
    kind: _handler(act)
    for kind, act in {
        "open": _Sheet._open,
        "list": _Sheet._open,
        "told": _Sheet._told,
        "stopped": _Sheet._stopped,
        "shut": _Sheet._source,
        "opened": _Sheet._source,
        "released": _Sheet._source,
        "lock": _Sheet._lock,
        "unlock": _Sheet._unlock,
        "proof": _Sheet._proof,
        "tried": _Sheet._tried,
        "work": _Sheet._work,
        "volts_seen": _Sheet._seen,
        "handover": _Sheet._handed_over,
        "restored": _Sheet._given_back,
    }.items()
}
