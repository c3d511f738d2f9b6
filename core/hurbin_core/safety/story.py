"""A making-safe record read as a story: each thing that was done, by whom, when, in words."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from pydantic import ValidationError

from ..base import Entered, HurbinError, Phrase, Quantity, StoryLine, field_rules, phrase, read, show
from .entry import THREE_PHASE, MakeSafeEntry, make_safe_entry
from .sources import SCOPES, SOURCES

_RULES = field_rules(MakeSafeEntry)
_RESTORED = {
    "guard_on": "Guard on, tools counted",
    "people_clear": "People clear and informed",
    "valves_as_found": "Sources and valves restored as found",
    "automatic": "Automatic control restored and tested",
    "alarms": "Alarms cleared",
    "check_left": "No running check done",
}


def story(body: dict[str, Any]) -> list[StoryLine]:
    """What happened on this sheet, in order? `body` is a record's facts. A line that cannot be read is left
    out of nothing: its kind is said.
    """
    names: dict[str, str] = {}
    out: list[StoryLine] = []
    for raw in body.get("entries", []):
        at, by = datetime.fromisoformat(raw["at"]), str(raw.get("by", ""))
        try:
            e = make_safe_entry(**{k: v for k, v in raw.items() if k not in ("at", "by")})
        except ValidationError:
            out.append(StoryLine(at=at, by=by, says=phrase("story.undo")))
            continue
        names |= {s.id: SOURCES[s.kind].title for s in getattr(e, "sources", None) or [] if s.kind in SOURCES}
        out.append(StoryLine(at=at, by=by, says=_says(e, names)))
    return out


def _figure(e: Any, name: str) -> str:
    typed: Entered | None = getattr(e, name)
    try:
        got = read(typed, _RULES[name])
    except HurbinError:
        return typed.text if typed else ""
    return (
        show(Quantity(value=got.value, unit=got.unit, bound=got.bound)) if got is not None else "no reading"
    )


def _says(e: Any, names: dict[str, str]) -> Phrase:
    source = getattr(e, "source", "")
    what, words = names.get(source, source), e.seen or e.note
    match e.kind:
        case "open":
            return phrase("story.open", what=SCOPES[e.scope].title.lower() if e.scope else "not entered")
        case "told":
            return phrase("story.told", words=e.to or words)
        case "handover":
            return phrase("story.handover", words=e.to)
        case "unlock":
            return (
                phrase("story.unlock_forgotten", words=e.followed) if e.forgotten else phrase("story.unlock")
            )
        case "released" if e.reading is not None:
            return phrase("story.released_read", what=what, reading=_figure(e, "reading"))
        case "proof":
            return _proof(e)
        case "tried":
            return phrase("story.tried_moved" if e.moved else "story.tried")
        case "volts_seen":
            return phrase("story.volts_seen", reading=_figure(e, "live_volts"), words=words)
        case "restored":
            return phrase("story.restored", what=_RESTORED.get(e.item or "", ""), words=words)
        case "shut" | "opened" | "lock" | "released":
            return phrase(f"story.{e.kind}", what=what, words=words)
        case _:
            return phrase(f"story.{e.kind}", words=words)


def _proof(e: Any) -> Phrase:
    if e.act == "dead":
        readings = ", ".join(
            f"{_RULES[n].label} {_figure(e, n)}" for n in THREE_PHASE if getattr(e, n) is not None
        )
        return phrase("story.proof_dead", point=e.point or "the point of work", readings=readings)
    return phrase(
        "story.proof_again" if e.act == "live_after" else "story.proof_live",
        tester=e.tester or "The tester",
        reading=_figure(e, "live_volts"),
    )
