"""The rail of making safe and giving back: how far each step has come, in the published order."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal

from pydantic import BaseModel

from ..logbook import Context
from .isolation import Isolation, Said
from .sources import SOURCES, STEPS


class Step(BaseModel):
    """One step of the rail. `waits`: what is still wanting. `caution`: the words that belong here, while it is open."""

    id: str
    title: str
    state: Literal["done", "now", "later", "left_out"]
    by: str = ""
    says: str = ""
    waits: list[str] = []
    caution: str = ""


Answer = tuple[bool, list[str], Said | None, str]


def rail(iso: Isolation, context: Context) -> list[Step]:
    """Which steps are done, which is next, and what does each still want? In the order of OSHA 29 CFR 1910.147 (d), (e),
    EN 50110-1 and NFPA 70E 2015 article 120 (from memory)."""
    out: list[Step] = []
    now, back = True, _gone_by(iso)
    for kind in STEPS.values():
        done, waits, said, says = _ANSWERS[kind.id](iso, context)
        if back and kind.id in _WAY_IN:
            done, waits, says = True, [], _as_it_was(kind.id, iso, says)
        left_out = done and says.startswith("–")
        state: Literal["done", "now", "later", "left_out"] = "left_out" if left_out else "done" if done else "now" if now else "later"
        now = now and done
        out.append(Step(id=kind.id, title=kind.title, state=state, by=said.by if said else "", says=says or (said.words if said else ""), waits=waits,
                        caution=kind.caution if not done else ""))  # fmt: skip
    return out


# The way in: over once it is given back, however the sources stand by now.
_WAY_IN = ("know", "tell", "stop", "shut", "lock", "release", "prove", "try", "work")


def _as_it_was(step: str, iso: Isolation, says: str) -> str:
    if step == "prove":
        return "it was proved" if iso.proved_once is not None else "– it was never proved dead"
    return "" if step in ("shut", "lock", "release") else says


def _must(iso: Isolation) -> list[str]:
    return [s.title for s in iso.sources if s.must]


def _know(iso: Isolation, _: Context) -> Answer:
    waits = [] if iso.scopes else ["say what will be opened or turned"]
    waits += [f"not said: {SOURCES[k].title.lower()}" for k in iso.unsaid]
    if iso.scopes and not _must(iso) and not waits:
        waits.append("the list holds no source that must be shut")
    return not waits, waits, None, f"{len(_must(iso))} to shut" if not waits else ""


def _tell(iso: Isolation, _: Context) -> Answer:
    return iso.told is not None, [] if iso.told else ["who was told"], iso.told, ""


def _stop(iso: Isolation, _: Context) -> Answer:
    return iso.stopped is not None, [] if iso.stopped else ["said to be stopped"], iso.stopped, ""


def _shut(iso: Isolation, _: Context) -> Answer:
    waits = [s.title for s in iso.sources if s.must and (s.shut is None or s.complaint is not None)]
    return bool(_must(iso)) and not waits and not iso.unsaid, waits, None, ""


def _lock(iso: Isolation, _: Context) -> Answer:
    waits = [s.title for s in iso.sources if s.must and not s.locks]
    names = ", ".join(w.name for w in iso.workers)
    return bool(_must(iso)) and not waits, waits, None, f"locked on: {names}" if names else ""


def _release(iso: Isolation, _: Context) -> Answer:
    asked = [s for s in iso.sources if s.must and s.release]
    waits = [f"{s.title}: {s.release}" for s in asked if s.released is None]
    if iso.scopes and not asked:
        return True, [], None, "– nothing stored on this list"
    return bool(asked) and not waits, waits, None, ""


def _prove(iso: Isolation, _: Context) -> Answer:
    acts = {"none": "the first act: a known live source", "begun": "the second act: every conductor", "read": "the third act: the live source again", "void": "all three acts, from the first"}
    if iso.proof.state == "proved":
        return True, [], Said(by=iso.proof.by, at=iso.proof.acts["live_after"]), f"with {iso.proof.tester}" if iso.proof.tester else ""
    return False, [acts[iso.proof.state]], None, ""


def _gone_by(iso: Isolation) -> bool:
    return bool({"guard_on", "people_clear"} & set(iso.restored))


def _try(iso: Isolation, _: Context) -> Answer:
    good = iso.tried is not None and not iso.started_up
    return good, [] if good else ["it moved when it was tried" if iso.started_up else "a try to start it"], iso.tried, ""


def _work(iso: Isolation, _: Context) -> Answer:
    done = _gone_by(iso)
    return done, [] if done else ["the work"], iso.worked, ""


def _restored(item: str, wait: str) -> Callable[[Isolation, Context], Answer]:
    def answer(iso: Isolation, _: Context) -> Answer:
        said = iso.restored.get(item)
        return said is not None, [] if said else [wait], said, ""

    return answer


def _unlock(iso: Isolation, _: Context) -> Answer:
    waits = [f"{k.by} on {s.title.lower()}" for s in iso.sources for k in s.locks]
    done = not waits and "people_clear" in iso.restored
    return done, waits or ([] if done else ["people clear first"]), None, ""


def _open(iso: Isolation, context: Context) -> Answer:
    waits = [f"{s.title.lower()} is still shut" for s in iso.sources if s.shut is not None]
    waits += [f"still on: {c}" for c in context.changes]
    said = iso.restored.get("valves_as_found")
    if said is None:
        waits.append("valves and sources said to be as found")
    return not waits, waits, said, ""


def _check(iso: Isolation, context: Context) -> Answer:
    left = iso.restored.get("check_left")
    if left is not None and left.words.strip():
        return True, [], left, f"– left: {left.words}"
    clear = iso.restored.get("people_clear")
    if context.checked_at is not None and clear is not None and context.checked_at >= clear.at:
        return True, [], None, "on record"
    return False, ["a running check after the restart, or why there is none"], None, ""


_ANSWERS: dict[str, Callable[[Isolation, Context], Answer]] = {
    "know": _know, "tell": _tell, "stop": _stop, "shut": _shut, "lock": _lock, "release": _release, "prove": _prove, "try": _try, "work": _work,
    "guard": _restored("guard_on", "guard on"), "clear": _restored("people_clear", "people clear and told"), "unlock": _unlock, "open": _open,
    "automatic": _restored("automatic", "automatic restored and tested"), "check": _check, "alarms": _restored("alarms", "alarms cleared"),
}  # fmt: skip
# What may be wanting when a set is given back: never a lock, a source or a person.
_WAY_BACK = ("guard", "clear", "unlock", "open", "automatic", "check", "alarms")


def wanting_by_step(steps: Sequence[Step]) -> list[tuple[str, str]]:
    """What is still wanting, step by step, before a set is given back?"""
    return [(s.id, w) for s in steps if s.id in _WAY_BACK for w in s.waits]


def wanting(iso: Isolation, context: Context) -> list[str]:
    """The same in words alone, of a set as it stands."""
    return [w for _, w in wanting_by_step(rail(iso, context))]


def way_back(iso: Isolation) -> bool:
    """Is this set on its way back: the guard on, people called clear, or further?"""
    begun = any(iso.restored.get(item) is not None for item in ("guard_on", "people_clear"))
    return bool(iso.scopes) and (begun or iso.state in ("giving_back", "given_back"))
