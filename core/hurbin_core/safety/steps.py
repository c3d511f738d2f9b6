"""The rail of making safe and giving back: how far each step has come, in the published order."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

from ..base import Model, Offer
from ..logbook import AnyCase
from .entry import make_safe_entry
from .isolation import Isolation, Said, SourceState
from .proving import next_act
from .sources import AT_SOURCE, SOURCES, STEPS


class Step(Model):
    """One step of the rail. `waits`: what is still wanting. `caution`: the words that belong here, while it
    is open. `offers`: what can be said at it now; `opens`: what stands open at it; both of the step that is
    next alone.
    """

    id: str
    title: str
    state: Literal["done", "now", "later", "left_out"]
    by: str = ""
    says: str = ""
    waits: list[str] = []
    caution: str = ""
    under: str = ""
    offers: list[Offer] = []
    opens: str = ""


@dataclass(slots=True)
class Told:
    """How far one step has come. left_out: it is over because there was nothing to do, or it was never
    done. held: something else comes first, it cannot be said yet.
    """

    done: bool
    waits: list[str] = field(default_factory=list)
    said: Said | None = None
    says: str = ""
    left_out: bool = False
    held: bool = False


def rail(iso: Isolation, case: AnyCase) -> list[Step]:
    """Which steps are done, which is next, and what does each still want? In the order of OSHA 29 CFR
    1910.147 (d), (e), EN 50110-1 and NFPA 70E 2015 article 120 (from memory).
    """
    out: list[Step] = []
    now, back = True, _gone_by(iso)
    for kind in STEPS.values():
        told = _ANSWERS[kind.id](iso, case)
        if back and kind.id in _WAY_IN:
            told = _as_it_was(kind.id, iso, told)
        state: Literal["done", "now", "later", "left_out"] = "now" if now else "later"
        if told.done:
            state = "left_out" if told.left_out else "done"
        next_one, now = state == "now", now and told.done
        out.append(
            Step(
                id=kind.id,
                title=kind.title,
                state=state,
                by=told.said.by if told.said else "",
                says=told.says or (told.said.words if told.said else ""),
                waits=told.waits,
                caution=kind.caution if not told.done else "",
                under=kind.under if next_one else "",
                offers=kind.offers if next_one and not told.held else [],
                opens=kind.opens if next_one else "",
            )
        )
    return out


# The way in: over once it is given back, however the sources stand by now.
_WAY_IN = ("know", "tell", "stop", "shut", "lock", "release", "prove", "try", "work")


def _as_it_was(step: str, iso: Isolation, told: Told) -> Told:
    if step == "prove" and iso.proved_once is None:
        return Told(True, said=told.said, says="it was never proved dead", left_out=True)
    says = (
        "it was proved dead" if step == "prove" else "" if step in ("shut", "lock", "release") else told.says
    )
    return Told(True, said=told.said, says=says, left_out=told.left_out and step != "release")


def _must(iso: Isolation) -> list[str]:
    return [s.title for s in iso.sources if s.must]


def _know(iso: Isolation, _: AnyCase) -> Told:
    waits = [] if iso.scopes else ["enter what will be opened or turned"]
    waits += [f"not entered: {SOURCES[k].title.lower()}" for k in iso.unsaid]
    if iso.scopes and not _must(iso) and not waits:
        waits.append("no source on the list has to be isolated")
    return Told(not waits, waits, says=f"{len(_must(iso))} to isolate" if not waits else "")


def _tell(iso: Isolation, _: AnyCase) -> Told:
    return Told(iso.told is not None, [] if iso.told else ["enter who was informed"], iso.told)


def _stop(iso: Isolation, _: AnyCase) -> Told:
    return Told(iso.stopped is not None, [] if iso.stopped else ["confirm it is stopped"], iso.stopped)


def _shut(iso: Isolation, _: AnyCase) -> Told:
    waits = [s.title for s in iso.sources if s.must and (s.shut is None or s.complaint is not None)]
    return Told(bool(_must(iso)) and not waits and not iso.unsaid, waits)


def _lock(iso: Isolation, _: AnyCase) -> Told:
    waits = [s.title for s in iso.sources if s.must and not s.locks]
    names = ", ".join(w.name for w in iso.workers)
    return Told(bool(_must(iso)) and not waits, waits, says=f"locked on: {names}" if names else "")


def _release(iso: Isolation, _: AnyCase) -> Told:
    asked = [s for s in iso.sources if s.must and s.release]
    waits = [f"{s.title}: {s.release}" for s in asked if s.released is None]
    if iso.scopes and not asked:
        return Told(True, says="no stored energy on this list", left_out=True)
    return Told(bool(asked) and not waits, waits)


def _prove(iso: Isolation, _: AnyCase) -> Told:
    if iso.proof.state == "proved":
        said = Said(by=iso.proof.by, at=iso.proof.acts["live_after"])
        return Told(True, said=said, says=f"with {iso.proof.tester}" if iso.proof.tester else "")
    void = iso.proof.state == "void"
    return Told(False, ["all three tests, from the first" if void else next_act(iso).wants])


def _gone_by(iso: Isolation) -> bool:
    return bool({"guard_on", "people_clear"} & set(iso.restored))


def _try(iso: Isolation, _: AnyCase) -> Told:
    good = iso.tried is not None and not iso.started_up
    wants = "it started on the try-start" if iso.started_up else "a try-start"
    return Told(good, [] if good else [wants], iso.tried)


def _work(iso: Isolation, _: AnyCase) -> Told:
    done = _gone_by(iso)
    return Told(done, [] if done else ["the work"], iso.worked)


def _restored(item: str, wait: str) -> Callable[[Isolation, AnyCase], Told]:
    def answer(iso: Isolation, _: AnyCase) -> Told:
        said = iso.restored.get(item)
        return Told(said is not None, [] if said else [wait], said)

    return answer


def _unlock(iso: Isolation, _: AnyCase) -> Told:
    waits = [f"lock of {k.by} on {s.title.lower()}" for s in iso.sources for k in s.locks]
    done = not waits and "people_clear" in iso.restored
    return Told(done, waits or ([] if done else ["people clear first"]))


def _open(iso: Isolation, case: AnyCase) -> Told:
    waits = [f"{s.title.lower()} is still isolated" for s in iso.sources if s.shut is not None]
    waits += [f"not restored yet: {c}" for c in case.state.changes]
    said = iso.restored.get("valves_as_found")
    if said is None:
        waits.append("confirm sources and valves restored as found")
    held = any(s.shut is not None for s in iso.sources)
    return Told(not waits, waits, said, held=held)


def _check(iso: Isolation, case: AnyCase) -> Told:
    left = iso.restored.get("check_left")
    if left is not None and left.words.strip():
        return Told(True, said=left, says=f"not done: {left.words}", left_out=True)
    clear = iso.restored.get("people_clear")
    if case.state.checked_at is not None and clear is not None and case.state.checked_at >= clear.at:
        return Told(True, says="on record")
    return Told(False, ["a running check after the restart, or why there is none"])


_ANSWERS: dict[str, Callable[[Isolation, AnyCase], Told]] = {
    "know": _know,
    "tell": _tell,
    "stop": _stop,
    "shut": _shut,
    "lock": _lock,
    "release": _release,
    "prove": _prove,
    "try": _try,
    "work": _work,
    "guard": _restored("guard_on", "guard on"),
    "clear": _restored("people_clear", "people clear and informed"),
    "unlock": _unlock,
    "open": _open,
    "automatic": _restored("automatic", "automatic control restored and tested"),
    "check": _check,
    "alarms": _restored("alarms", "alarms cleared"),
}
# An offer that makes no entry of this sheet is refused when the rulebook is read.
for _step in STEPS.values():
    for _offer in _step.offers:
        for _body in _offer.entries:
            make_safe_entry(**_body)


def at_source(source: SourceState, person: str, back: bool) -> Offer | None:
    """What does this person's hand do next at this source, on the way in or on the way back? None: nothing of
    theirs is left to do there. What is let out by its volts asks for them.
    """
    mine = [k for k in source.locks if k.who == person]
    line = source.source.id
    if back:
        if mine:
            return _offer_at("unlock", [{"kind": "unlock", "lock": k.id} for k in mine])
        if source.shut is not None and not source.locks:
            return _offer_at("open", [{"kind": "opened", "source": line}])
        return None
    if source.shut is None:
        return _offer_at("shut", [{"kind": "shut", "source": line}])
    if not mine:
        return _offer_at("lock", [{"kind": "lock", "source": line}])
    if not source.release or source.released is not None:
        return None
    entry = {"kind": "released", "source": line}
    if not source.read:
        return _offer_at("release", [{**entry, "seen": source.release}])
    asks = f"{source.title}: {source.release}, after the label’s time"
    return _offer_at("release", [entry]).model_copy(update={"asks": asks, "into": "reading", "unit": "V"})


def _offer_at(act: str, entries: list[dict[str, Any]]) -> Offer:
    return Offer(word=AT_SOURCE[act].word, entries=entries)


# What may be wanting when a set is given back: never a lock, a source or a person.
_WAY_BACK = ("guard", "clear", "unlock", "open", "automatic", "check", "alarms")


def wanting_by_step(steps: Sequence[Step]) -> list[tuple[str, str]]:
    """What is still wanting, step by step, before a set is given back?"""
    return [(s.id, w) for s in steps if s.id in _WAY_BACK for w in s.waits]


def wanting(iso: Isolation, case: AnyCase) -> list[str]:
    """The same in words alone, of a set as it stands."""
    return [w for _, w in wanting_by_step(rail(iso, case))]


def way_back(iso: Isolation) -> bool:
    """Is this set on its way back: the guard on, people called clear, or further?"""
    begun = any(iso.restored.get(item) is not None for item in ("guard_on", "people_clear"))
    return bool(iso.scopes) and (begun or iso.state in ("giving_back", "given_back"))
