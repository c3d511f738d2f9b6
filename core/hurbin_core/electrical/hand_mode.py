"""Hand mode, seen on a running check: a temporary change that opens itself, and is over once automatic is
seen.
"""

from __future__ import annotations

from ..base import Effect, Phrase, TemporaryChange, phrase
from ..logbook import AnyCase
from .entry import RunningCheckEntry

HAND = "hand_mode"


def hand_mode(body: RunningCheckEntry, case: AnyCase, recorded: bool) -> list[Effect]:
    """What does this check bring about for the set's control? Nothing where nobody looked at the switch: only
    what was seen opens a change or closes one. Common practice, no source.
    """
    if not recorded or body.control is None:
        return []
    return [
        TemporaryChange(
            key=HAND,
            change=HAND,
            place="control switch",
            note="seen on the running check",
            on=body.control == "hand",
            at=case.context.as_of,
            of="set",
        )
    ]


def hand_words(body: RunningCheckEntry, case: AnyCase) -> list[Phrase]:
    """What is said of it while the check is typed."""
    stands = HAND in case.state.change_kinds
    if body.control == "hand":
        return [phrase("hand.stands" if stands else "hand.opens")]
    if stands:
        return [phrase("hand.closes" if body.control == "automatic" else "hand.asked")]
    return []
