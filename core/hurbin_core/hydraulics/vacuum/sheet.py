"""The sheet of the bench, read once: which of the three pumps, pressures absolute."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...base import Finding, Limits, Phrase, Unknown, Verdict, phrase
from ...logbook import AnyCase, Entry, newest
from ..answering import answer
from ..fluid import air_kpa
from ..reading import Typed, typed_of
from .entry import VacuumEntry

_KINDS = {"condensate_return": "condensate", "vacuum": "vacuum", "positive_displacement": "displacement"}


@dataclass(slots=True)
class Sheet:
    """A sheet understood. p: absolute pressures by field, kPa; empty where nobody said which they are."""

    body: VacuumEntry
    t: Typed
    limits: Limits
    what: str
    air: float | None
    p: dict[str, float]
    case: AnyCase


def replay(entries: Sequence[Entry[VacuumEntry]], case: AnyCase) -> Sheet:
    """The newest word on it, read once; pressures brought to absolute."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else VacuumEntry()
    limits = Limits(case.context.overrides)
    t = typed_of(body, limits)
    height = t.got.get("altitude", case.context.altitude_m)
    air = air_kpa(height) if height is not None else None
    s = Sheet(body, t, limits, body.what or _KINDS.get(case.context.kind, ""), air, {}, case)
    for name in ("start", "reached", "blanked", "rise_from", "rise_to"):
        _absolute(s, name)
    return s


def _absolute(s: Sheet, name: str) -> None:
    p = s.t.got.get(name)
    if p is None or s.body.pressures is None:
        return
    if s.body.pressures == "absolute":
        if p < 0:
            words = "An absolute pressure is never below zero: this gauge reads from the atmosphere."
            s.t.refuse(name, words, "choose gauge pressure", "absolute_taken")
            return
        s.p[name] = p
    elif s.air is not None:
        if p < -s.air:
            words = "Below a full vacuum at this altitude. Check sign, unit and altitude."
            s.t.refuse(name, words, f"above {-s.air:.1f} kPa gauge", "absolute_taken")
            return
        s.p[name] = p + s.air


def beyond(question: str, reason: Phrase, *why: str) -> Finding:
    """Better than the pump can be: a wrong figure, and no ground for good."""
    notes = [phrase(w) for w in why]
    return answer(question, Verdict.UNKNOWN, reason, *notes, unknown=Unknown.INCONCLUSIVE)
