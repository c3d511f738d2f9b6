"""What was noted on a record, wherever its facts hold it."""

from __future__ import annotations

from typing import Any

# As long as any bench lets a note be.
MOST = 500


def note_of(facts: Any) -> str:
    """The words that a person noted on this record, to be found again; empty where there are none.

    >>> note_of({"setup": {"note": "after the strainer"}, "readings": [{"note": "again"}, {"ohms": 3}]})
    'after the strainer; again'
    """
    return "; ".join(dict.fromkeys(_notes(facts)))[:MOST]


def _notes(facts: Any) -> list[str]:
    if isinstance(facts, list):
        return [n for x in facts for n in _notes(x)]
    if not isinstance(facts, dict):
        return []
    own = facts.get("note")
    mine = [own.strip()] if isinstance(own, str) and own.strip() else []
    return mine + [n for key, x in facts.items() if key != "note" for n in _notes(x)]
