"""A direction as it was seen: the set before the bump, each mode before and after an exchange."""

from __future__ import annotations

from typing import Any, Literal

from ...base import Entered, Kept, Model, entered_field, said_field

Seen = Literal["with", "against", "not_seen"]
Order = Literal["123", "321"]
MODES = ("in", "reverse", "star", "delta", "drive", "bypass")


def _seen(title: str) -> Any:
    return said_field(title)


class DirectionEntry(Model):
    """One proof of a direction. before_…: as first seen, before leads were exchanged; now_…: as it is left.
    Every field may be missing.
    """

    after: Literal["first", "swap", "supply", "routine"] | None = said_field("Proved after")
    threaded: Literal["yes", "no"] | None = said_field("Threaded impeller or line shaft", kept=Kept.SET)
    one_way: Literal["yes", "no"] | None = said_field(
        "One-direction seal springs, ratchet, relief or slinger ring", kept=Kept.SET
    )
    coupled: Literal["yes", "no"] | None = said_field("Coupled for the bump")
    turned: bool | None = said_field("Turned by hand, a full turn")
    guard: bool | None = said_field("Guard on, or uncoupled with the key secured")
    clear: bool | None = said_field("Nobody in the plane of the coupling")
    passed: bool | None = said_field("Leads and insulation passed")
    locked: bool | None = said_field("Impeller locked")
    filled: bool | None = said_field("Filled and vented, suction full, valves set")
    discharge: bool | None = said_field("Primed, with the discharge open")
    arrow: Literal["cw", "ccw", "none"] | None = said_field("Arrow on the casing", kept=Kept.SET)
    seen_from: Literal["drive_end", "pump_end"] | None = said_field("Seen from", kept=Kept.SET)
    proof: (
        Literal["bump", "meters", "slow_motion", "casing_twist", "shut_off", "flow", "amps", "drive_arrow"]
        | None
    ) = said_field("Proved by")
    bumped: bool | None = said_field("Bumped")
    line_order: Order | None = said_field("Phase order of the line")
    motor_order: Order | None = said_field("Order of the motor's leads, turned by hand with the arrow")
    head_now: Entered | None = entered_field("Shut-off pressure as it turns now", "pressure", high=50000)
    head_other: Entered | None = entered_field("Shut-off pressure the other way", "pressure", high=50000)
    before_in: Seen | None = _seen("First seen, started")
    before_reverse: Seen | None = _seen("First seen, reversed")
    before_star: Seen | None = _seen("First seen, in star")
    before_delta: Seen | None = _seen("First seen, in delta")
    before_drive: Seen | None = _seen("First seen, on the drive")
    before_bypass: Seen | None = _seen("First seen, on the bypass")
    now_in: Seen | None = _seen("Seen, started")
    now_reverse: Seen | None = _seen("Seen, reversed")
    now_star: Seen | None = _seen("Seen, in star")
    now_delta: Seen | None = _seen("Seen, in delta")
    now_drive: Seen | None = _seen("Seen, on the drive")
    now_bypass: Seen | None = _seen("Seen, on the bypass")
    exchanged: Literal["L1-L2", "L2-L3", "L3-L1", "start winding", "parameter"] | None = said_field(
        "Exchanged"
    )
    exchanged_at: (
        Literal["motor", "drive_out", "parameter", "bypass", "starter", "drive_in", "supply", "start_winding"]
        | None
    ) = said_field("Exchanged where")
    hand_auto: bool | None = said_field("Hand and auto both tried")
    others: Literal["yes", "no"] | None = said_field("Another set found wrong the same day")
    turns_back: Literal["yes", "no"] | None = said_field("Turns backwards with its power off")
    note: str = said_field("Note", "", free=True, max_length=500)
