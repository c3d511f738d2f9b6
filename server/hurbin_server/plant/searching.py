"""What goes by these words on a site: parts here, and whatever the rooms above add."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import Any, Literal, cast

from hurbin_core.plant import PARTS
from hurbin_server.base.asking import ask
from hurbin_server.base.models import User

from .access import require
from .schemas import FoundOut

Kind = Literal["part", "event", "record", "document", "call", "open"]
# Of each kind as many as are looked through at a glance.
MOST = 6
# Rooms above add what they hold: the site's id and the pattern to be like, to what was found.
Search = Callable[[int, str], list[FoundOut]]
SEARCHES: list[Search] = []


def pattern(words: str) -> str:
    """These words, anywhere and as they are: nothing in them is a sign of its own."""
    plain = words.strip()
    for sign in ("\\", "%", "_"):
        plain = plain.replace(sign, f"\\{sign}")
    return f"%{plain}%"


def found(
    kind: Kind, rows: list[tuple[Any, ...]], to: str, title: Callable[[Any], str] = str
) -> list[FoundOut]:
    """Rows of (set, tag, title, words, time, id) as what was found; `to`: where, by the set and the id."""
    return [
        FoundOut(
            kind=kind,
            set_id=set_id,
            tag=tag or "",
            title=title(name),
            says=says or "",
            at=cast(datetime | None, at),
            to=to.format(set=set_id, id=pk),
        )
        for set_id, tag, name, says, at, pk in rows
    ]


def find(user: User, site_id: int, words: str) -> list[FoundOut]:
    """Everything on this site whose words hold these, the newest of each kind first."""
    require(user, site_id)
    like = pattern(words)
    if len(like) < 5:
        return []
    return [hit for search in (_parts, *SEARCHES) for hit in search(site_id, like)]


_PARTS = """SELECT f.pump_set_id, p.tag, f.slot, c.label, f.from_at, c.id FROM plant_component c
LEFT JOIN plant_fitting f ON f.component_id = c.id AND f.to_at IS NULL
LEFT JOIN plant_pumpset p ON p.id = f.pump_set_id
WHERE c.site_id = %s AND c.label LIKE %s ORDER BY c.label LIMIT %s"""


def _parts(site_id: int, like: str) -> list[FoundOut]:
    rows = ask(_PARTS, [site_id, like, MOST])
    fitted = [r for r in rows if r[0] is not None]
    spares = [r for r in rows if r[0] is None]

    def named(slot: Any) -> str:
        return PARTS[slot].title if slot in PARTS else "Spare"

    out: list[FoundOut] = []
    for r in fitted:
        out += found("part", [r], f"/sets/{{set}}?part={r[2]}", named)
    return out + found("part", spares, "/register", named)
