"""The state a figure was read in, in words: what makes it comparable, and what differs."""

from __future__ import annotations

from ..base import TEXTS


def state_in_words(conditions: str) -> str:
    """The state a series was read in, for a person.

    >>> state_in_words("at=motor;links=in;volts=500")
    'at the motor, links in, 500 V'
    """
    words = []
    for part in filter(None, conditions.split(";")):
        key, _, value = part.partition("=")
        if f"state.{part}" in TEXTS:
            words.append(TEXTS[f"state.{part}"])
        elif key == "hz":
            words.append(f"{value} Hz")
        elif key == "volts":
            words.append(f"{value} V")
        elif part.startswith("valve=throttled "):
            words.append(f"valve {part[16:]} turns")
        else:
            words.append(part)
    return ", ".join(words)


def differing_words(theirs: str, ours: str) -> str:
    """In which words does one state differ from another? Empty when they are the same."""
    mine = set(ours.split(";"))
    return state_in_words(";".join(p for p in theirs.split(";") if p not in mine))
