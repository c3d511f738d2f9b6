"""Making safe as entered: who shut, locked, let out, proved, worked and gave back, in the order in which it happened."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from ..base import Entered, entered_field
from .sources import IsolationSource, ScopeId

Kind = Literal[
    "open", "list", "told", "stopped", "shut", "opened", "lock", "unlock", "released", "proof", "tried", "work", "volts_seen", "handover",
    "restored", "undo",
]  # fmt: skip
Act = Literal["live_before", "dead", "live_after"]
Restored = Literal["guard_on", "people_clear", "valves_as_found", "automatic", "alarms", "check_left"]
THREE_PHASE = ("v12", "v23", "v31", "v1g", "v2g", "v3g")
SINGLE_PHASE = ("v12", "v1g", "v2g")


def _volts(label: str) -> Any:
    return entered_field(label, "voltage", high=50000)


class MakeSafeEntry(BaseModel):
    """One thing that was done or read. `kind` says which fields count.

    open: for this scope, by this list. list: the list as it stands now. told, stopped: said. shut, opened: one source, seen.
    lock: a worker's own lock on a source (its id is the entry's). unlock: that lock taken off. released: what was stored
    in a source, let out (volts for a dc bus or capacitors). proof: one of its three acts. tried: a try to start. work: hands
    were on the circuit. volts_seen: volts were found. handover: the work goes to somebody else. restored: given back, one
    thing at a time. undo: takes one earlier entry back; volts that were seen and locks are never taken back.
    """

    kind: Kind = Field(default="open", title="What")
    scope: ScopeId | None = Field(default=None, title="What is opened or turned")
    sources: list[IsolationSource] | None = Field(default=None, max_length=60)
    source: str = Field(default="", max_length=40)
    lock: str = Field(default="", max_length=64)
    forgotten: bool = Field(default=False, title="Left behind by somebody who has gone")
    followed: str = Field(default="", max_length=500, title="The site's steps for a lock left behind")
    number: str = Field(default="", max_length=40, title="Lock number")
    seen: str = Field(default="", max_length=200, title="Seen")
    reading: Entered | None = _volts("Volts left")
    act: Act | None = Field(default=None, title="Act")
    tester: str = Field(default="", max_length=60, title="Tester")
    point: str = Field(default="", max_length=80, title="Point of work")
    live_volts: Entered | None = _volts("On a known live source")
    v12: Entered | None = _volts("L1 to L2")
    v23: Entered | None = _volts("L2 to L3")
    v31: Entered | None = _volts("L3 to L1")
    v1g: Entered | None = _volts("L1 to ground")
    v2g: Entered | None = _volts("L2 to ground")
    v3g: Entered | None = _volts("L3 to ground")
    moved: bool | None = Field(default=None, title="It moved")
    item: Restored | None = Field(default=None, title="Given back")
    to: str = Field(default="", max_length=120, title="Handed over to")
    note: str = Field(default="", max_length=500, title="Note")
    undoes: str = Field(default="", max_length=64)
