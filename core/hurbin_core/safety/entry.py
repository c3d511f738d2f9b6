"""Making safe as entered: who shut, locked, let out, proved, worked and gave back, in the order in which
it happened.
"""

from typing import Any, Literal

from ..base import Entered, Model, entered_field, entry_of, entry_union, said_field
from .sources import IsolationSource, ScopeId

Act = Literal["live_before", "dead", "live_after"]
Restored = Literal["guard_on", "people_clear", "valves_as_found", "automatic", "alarms", "check_left"]
THREE_PHASE = ("v12", "v23", "v31", "v1g", "v2g", "v3g")
SINGLE_PHASE = ("v12", "v1g", "v2g")


def _volts(label: str) -> Any:
    return entered_field(label, "voltage", high=50000)


class Done(Model):
    """What any entry may add in words."""

    seen: str = said_field("Seen", "", max_length=200)
    note: str = said_field("Note", "", max_length=500)


class Opening(Done):
    """open: made safe for this scope, by this list. list: the list as it stands now."""

    kind: Literal["open", "list"] = "open"
    scope: ScopeId | None = said_field("What is opened or turned")
    sources: list[IsolationSource] | None = said_field("The isolation list", max_length=60)


class SafetyWord(Done):
    """Said to somebody, or seen: who was told, stopped in the ordinary way, work on the circuit, handed
    over.
    """

    kind: Literal["told", "stopped", "work", "handover"]
    to: str = said_field("To whom", "", max_length=120)


class AtSource(Done):
    """One source of the list: shut, as found again, or what was stored in it let out (volts for a bus or
    capacitors).
    """

    kind: Literal["shut", "opened", "released"]
    source: str = said_field("Source", "", max_length=40)
    reading: Entered | None = _volts("Residual voltage")


class LockPut(Done):
    """A worker's own lock on a source; its id is the entry's."""

    kind: Literal["lock"]
    source: str = said_field("Source", "", max_length=40)
    number: str = said_field("Lock number", "", max_length=40)


class LockTaken(Done):
    """That lock taken off: by its owner, or one left behind, by the site's steps."""

    kind: Literal["unlock"]
    lock: str = said_field("Lock", "", max_length=64)
    forgotten: bool = said_field("Owner is absent", False)
    followed: str = said_field("Steps taken to remove an absent worker's lock", "", max_length=500)


class ProofAct(Done):
    """One of the three acts of a proof."""

    kind: Literal["proof"]
    act: Act | None = said_field("Test")
    tester: str = said_field("Voltage tester", "", max_length=60)
    point: str = said_field("Point of work", "", max_length=80)
    live_volts: Entered | None = _volts("Reading on known live source")
    v12: Entered | None = _volts("L1 to L2")
    v23: Entered | None = _volts("L2 to L3")
    v31: Entered | None = _volts("L3 to L1")
    v1g: Entered | None = _volts("L1 to ground")
    v2g: Entered | None = _volts("L2 to ground")
    v3g: Entered | None = _volts("L3 to ground")


class Tried(Done):
    """A try to start."""

    kind: Literal["tried"]
    moved: bool | None = said_field("It started")


class VoltsSeen(Done):
    """Volts were found."""

    kind: Literal["volts_seen"]
    point: str = said_field("Where", "", max_length=80)
    live_volts: Entered | None = _volts("Voltage found")


class GivenBack(Done):
    """Given back, one thing at a time."""

    kind: Literal["restored"]
    item: Restored | None = said_field("Return to service")


class SafetyTakenBack(Done):
    """Takes one earlier entry back; volts that were seen and locks are never taken back."""

    kind: Literal["undo"]
    undoes: str = said_field("Removed entry", "", max_length=64)


MakeSafeEntry = entry_union(
    Opening, SafetyWord, AtSource, LockPut, LockTaken, ProofAct, Tried, VoltsSeen, GivenBack, SafetyTakenBack
)


def make_safe_entry(**body: Any) -> Any:
    """One entry of a making-safe sheet from what was said."""
    return entry_of(MakeSafeEntry, body)
