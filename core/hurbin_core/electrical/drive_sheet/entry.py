"""A drive's settings as they were found and left, as typed or as the drive answered."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...base import Entered, Kept, Model, entered_field, said_field


class DriveRow(Model):
    """One parameter. found, left: as typed, with a unit or in the core's own; should, why: what it ought to
    be where nameplate and rules do not say it; reason: why it was left otherwise.
    """

    id: str = said_field("Parameter", "", max_length=40)
    found: str = said_field("Found", "", max_length=40)
    left: str = said_field("Left", "", max_length=40)
    should: str = said_field("Should be", "", max_length=40)
    why: str = said_field("Why it should be", "", max_length=120)
    reason: str = said_field("Why it was left otherwise", "", max_length=120)


class DriveSheetEntry(Model):
    """One visit to a drive's settings. Every field may be missing."""

    rows: list[DriveRow] = Field(default=[], max_length=120, title="Parameters")
    family: str | None = said_field("Family of the drive", kept=Kept.SET, max_length=40)
    read_by: Literal["hand", "file", "network"] | None = said_field("Read by")
    least_hz: Entered | None = entered_field(
        "Lowest frequency that lifts the head", "frequency", high=400, kept=Kept.SET, printed=True
    )
    pipe: Entered | None = entered_field(
        "Pipe from the pump to where the pressure is taken up",
        "height",
        low=0,
        high=20000,
        kept=Kept.SET,
        printed=True,
    )
    cable: Entered | None = entered_field(
        "Motor cable", "height", low=0, high=2000, kept=Kept.SET, printed=True
    )
    fuse: Entered | None = entered_field(
        "Fuse in front of the drive", "current", high=6000, kept=Kept.SET, printed=True
    )
    restart_allowed: Literal["yes", "no"] | None = said_field(
        "May it start by itself after a power loss", kept=Kept.SET
    )
    live_in: Literal["drive", "keypad", "card"] | None = said_field("Settings are kept in", kept=Kept.SET)
    saved: bool | None = said_field("Settings saved outside the drive")
    changing: Literal["keypad", "battery", "drive"] | None = said_field("About to be changed")
    loss_proved: bool | None = said_field("Loss of reference proved by pulling the wire")
    note: str = said_field("Note", "", free=True, max_length=500)
