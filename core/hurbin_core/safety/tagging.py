"""What a tag says, and how urgent it is: how a set stands, what a repair put off is held to, a gate set
aside.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from ..base import MEASURANDS, Phrase, Verdict, amount, phrase
from ..logbook import InterimLimit
from .gates import GATES
from .isolation import State, scope_words
from .matters import age


def isolation_words(state: State, scopes: Sequence[str], names: Sequence[str]) -> tuple[Verdict, Phrase]:
    """How does a set stand while it is made safe, for everybody who looks at it? stop only where volts were
    seen.
    """
    people = ", ".join(names) or "nobody"
    if state == "given_back":
        return Verdict.WATCH, phrase("tag.given_back")
    args = (
        {"names": people}
        if state in ("live", "giving_back")
        else {"names": people, "scopes": scope_words(scopes)}
    )
    return Verdict.STOP if state == "live" else Verdict.WATCH, phrase(f"tag.{state}", **args)


def stands(state: State) -> Phrase | None:
    """How does a set stand, in the fewest words? None: nothing is made safe on it."""
    return None if state == "nothing" else phrase(f"safety.stands_{state}")


def interim_words(x: InterimLimit) -> Phrase:
    """A limit of a repair put off, as it was agreed on."""
    figure = MEASURANDS[x.measurand].title + (f" L{x.leg}" if x.leg else "")
    return phrase(
        "interim.says",
        figure=figure,
        side="below" if x.floor else "over",
        limit=amount(x.value, x.unit),
        does=x.does,
    )


def deferral_words(what: str, until: datetime, as_of: datetime) -> tuple[Verdict, Phrase]:
    """Is a repair that was put off still within its time?"""
    if as_of < until:
        return Verdict.WATCH, phrase("deferral.until", what=what, left=age(as_of, until))
    return Verdict.ACT, phrase("deferral.over", what=what, over=age(until, as_of))


def deferral_title(what: str) -> Phrase:
    """What a repair that was put off is called among other things that happened."""
    return phrase("deferral.title", what=what)


def waiver_words(gate: str, reason: str, until: datetime, as_of: datetime) -> Phrase:
    return phrase("waiver.until", title=GATES[gate].title, left=age(as_of, until), reason=reason)
