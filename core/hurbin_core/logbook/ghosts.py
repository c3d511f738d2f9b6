"""What stood at a field before: the last sheet's figure, or the twin's, faint behind the field."""

from __future__ import annotations

from collections.abc import Collection

from ..base import Ghost
from .context import PastSheet


def ghosts_of(
    past: PastSheet | None, fields: Collection[str], whose: str = "last", differs: str = ""
) -> list[Ghost]:
    """The figures of an earlier sheet at these fields. `differs`: the word that crosses them out, for the
    state was another.
    """
    if past is None:
        return []
    rows = [(n, past.body.get(n)) for n in fields]
    return [
        Ghost(
            field=n,
            whose=whose,
            text=str(v["text"]),
            unit=str(v.get("unit", "")),
            taken_at=past.taken_at.isoformat(),
            differs=differs,
        )
        for n, v in rows
        if isinstance(v, dict) and str(v.get("text", "")).strip()
    ]
