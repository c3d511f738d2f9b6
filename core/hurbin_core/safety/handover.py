"""What the next shift has to know, read out from the tags and open matters as one page."""

from collections.abc import Iterable
from datetime import datetime
from typing import Literal

from ..base import Model, Verdict
from .matters import age

Kind = Literal["live", "isolation", "call", "change", "deferral", "checkback", "clock", "waiver"]
# In the order in which they are read out: what can kill first, what waits last.
ORDER: tuple[Kind, ...] = ("live", "isolation", "call", "clock", "change", "deferral", "waiver", "checkback")
TITLES: dict[Kind, str] = {
    "live": "Not isolated: treat as live",
    "isolation": "Isolated, and who is locked on",
    "call": "Open calls",
    "clock": "No standby available",
    "change": "Temporary changes in place",
    "deferral": "Deferred repairs and their interim limits",
    "waiver": "Hold points waived",
    "checkback": "Follow-up checks",
}


class Tag(Model):
    """One thing that hangs on a set (or on a room or a service): what, on which part, since when, by whom,
    how it stands.
    """

    kind: Kind
    id: str
    set_id: int | None = None
    tag: str = ""
    part: str = ""
    title: str
    says: str = ""
    verdict: Verdict
    since: datetime
    names: list[str] = []
    place: str = ""
    age: str = ""


class Chapter(Model):
    title: str
    tags: list[Tag]


def leading(tags: Iterable[Tag]) -> list[Tag]:
    """Which tags need somebody now? act and worse; a call stands on Plant as its matter already."""
    return [t for t in tags if t.verdict.rank >= Verdict.ACT.rank and t.kind != "call"]


def read_out(tags: Iterable[Tag], as_of: datetime) -> list[Chapter]:
    """Every tag once, by what it is, the worst and then the oldest first. Chapters without a tag are left
    out.
    """
    held = [t.model_copy(update={"age": age(t.since, as_of)}) for t in tags]
    out = []
    for kind in ORDER:
        mine = sorted((t for t in held if t.kind == kind), key=lambda t: (-t.verdict.rank, t.since, t.id))
        if mine:
            out.append(Chapter(title=TITLES[kind], tags=mine))
    return out
