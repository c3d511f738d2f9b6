"""What protects a motor, as typed: the overload and how current reaches it, the short-circuit device, the log
of its starts.
"""

from __future__ import annotations

from typing import Any, Literal

from ...base import Entered, Kept, Model, entered_field, said_field

Device = Literal["thermal", "electronic", "drive", "inside", "none"]
Short = Literal["delay", "fast", "breaker", "gG", "aM", "drive"]


def _printed(label: str, dimension: str, high: float, low: float | None = None) -> Any:
    return entered_field(label, dimension, low=low, high=high, kept=Kept.SET, printed=True)


class ProtectionEntry(Model):
    """The protection of one motor. Every field may be missing; nothing here is read by an instrument."""

    stage: Literal["found", "left"] | None = said_field("As found or as left")
    overload: Device | None = said_field("Overload", kept=Kept.SET)
    marked: bool | None = said_field("Nameplate says thermally protected", kept=Kept.SET)
    inside_delta: bool | None = said_field("Inside the delta of a star-delta starter", kept=Kept.SET)
    transformer: Literal["none", "fitted"] | None = said_field("Current transformers", kept=Kept.SET)
    ct_primary: Entered | None = _printed("Current transformer, primary", "current", 10000)
    ct_secondary: Entered | None = _printed("Current transformer, secondary", "current", 10)
    loops: Entered | None = _printed("Passes of each lead through it", "ratio", 50)
    dial: Entered | None = entered_field("Dial", "current", high=5000, printed=True)
    multiplier: Entered | None = _printed("Trip ÷ dial, per manufacturer", "ratio", 2, 0.5)
    trip_class: Literal["10A", "10", "20", "30"] | None = said_field("Trip class", kept=Kept.SET)
    seconds: Entered | None = _printed("Trip at 7.2 × dial from cold, per manufacturer", "duration", 300)
    reset: Literal["manual", "auto"] | None = said_field("Reset")
    hard_start: bool | None = said_field("It does not start with a lower setting", kept=Kept.SET)
    rise_40: bool | None = said_field("Nameplate says 40 °C rise", kept=Kept.SET)
    start_amps: Entered | None = _printed("Starting current", "current", 50000)
    start_seconds: Entered | None = _printed("Starting time", "duration", 600)
    stall_seconds: Entered | None = _printed("Locked-rotor time from cold, per manufacturer", "duration", 600)
    short: Short | None = said_field("Short-circuit device", kept=Kept.SET)
    short_amps: Entered | None = entered_field(
        "Rating of the short-circuit device", "current", high=6000, printed=True
    )
    table_amps: Entered | None = _printed("Full-load current, code table", "current", 5000)
    table_read: bool | None = said_field("Read from the code's table, not from the nameplate", kept=Kept.SET)
    maker_amps: Entered | None = _printed("Largest rating, per manufacturer", "current", 6000)
    coordination: Literal["1", "2"] | None = said_field("Coordination type", kept=Kept.SET)
    panel_ka: Entered | None = _printed("Fault rating of the panel", "fault_current", 500)
    fault_ka: Entered | None = _printed("Available fault current here", "fault_current", 500)
    starts: str = said_field("Starts, from the log", "", free=True, max_length=6000)
    starts_most: Entered | None = _printed("Starts an hour, per manufacturer", "ratio", 600)
    starts_a: Entered | None = _printed("Starts an hour, table value A", "ratio", 600)
    starts_b: Entered | None = _printed("Starts × load inertia, table value B", "inertia", 1e6)
    load_inertia: Entered | None = _printed("Load inertia at the motor", "inertia", 1e6)
    rest: Entered | None = _printed("Rest between starts, table value C", "duration", 36000)
    note: str = said_field("Note", "", free=True, max_length=500)
