"""What can be said or done at a step: the words on the button, and the entries that they make."""

from __future__ import annotations

from typing import Any, Literal

from .model import Model

Tone = Literal["plain", "main", "warns"]


class Offer(Model):
    """One thing that can be said at a step.

    word: what the button says. entries: what saying it puts on the sheet, each as it is entered. asks: what
    is asked with it, empty: nothing; into: the field of the entry that takes the answer; unit: of an answer
    that is a figure, empty: it is words. optional: it can be said without an answer. notes: what follows
    from it.
    """

    word: str
    entries: list[dict[str, Any]] = []
    asks: str = ""
    into: str = ""
    unit: str = ""
    optional: bool = False
    tone: Tone = "plain"
    notes: list[str] = []
