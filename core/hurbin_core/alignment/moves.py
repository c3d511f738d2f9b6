"""A move with its way, as a person says it: "lower 3.00 mm", never a sign beside a way."""

from __future__ import annotations

from ..base import Phrase, amount, phrase

# Less than this is no move that can be made or read, in mm: half the last place that is said.
NOTHING = 0.0005


def raising(mm: float) -> Phrase:
    """What a foot is to do, up being positive.

    >>> from hurbin_core.base import write
    >>> write(raising(-3.0))
    'lower 3.00\\xa0mm'
    """
    return _said(mm, "move.raise", "move.lower")


def shifting(mm: float) -> Phrase:
    """What a foot is to do sideways, right being positive, seen from behind the motor."""
    return _said(mm, "move.right", "move.left")


def _said(mm: float, more: str, less: str) -> Phrase:
    if abs(mm) < NOTHING:
        return phrase("move.none")
    return phrase(more if mm > 0 else less, by=amount(abs(mm), "mm"))
