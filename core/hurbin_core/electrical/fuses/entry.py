"""A set of fuses as typed: each as it is, what the sheet wants, why they blew."""

from __future__ import annotations

from typing import Any, Literal

from ...base import Entered, Model, entered_field, said_field

FuseClassId = Literal["J", "RK1", "RK5", "CC", "T", "H", "gG", "aM", "aR"]
Delay = Literal["delay", "fast"]
Clip = Literal["tight", "weak", "burnt"]
OPEN = ("ol", "open")
LEGS = (1, 2, 3)


def _ohms(leg: int) -> Any:
    return entered_field(f"Fuse L{leg}, out of circuit", "low_resistance", unit="ohm", high=1e9, words=OPEN)


def _amps(leg: int) -> Any:
    return entered_field(f"Rating L{leg}", "current", high=5000)


def _volts(leg: int) -> Any:
    return entered_field(f"Rated voltage L{leg}", "voltage", high=20000)


def _ka(leg: int) -> Any:
    return entered_field(f"Interrupting rating L{leg}", "fault_current", high=500)


def _others(n: int) -> Any:
    return entered_field(f"Nameplate current of another motor on them, {n}", "current", high=5000)


class FusesEntry(Model):
    """The fuses of one set. Every field may be missing."""

    when: Literal["found", "fitted"] | None = said_field("Fuses as")
    out: bool | None = said_field("Each taken out and read by ohms")
    ohms_1: Entered | None = _ohms(1)
    ohms_2: Entered | None = _ohms(2)
    ohms_3: Entered | None = _ohms(3)
    class_1: FuseClassId | None = said_field("Class L1")
    class_2: FuseClassId | None = said_field("Class L2")
    class_3: FuseClassId | None = said_field("Class L3")
    amps_1: Entered | None = _amps(1)
    amps_2: Entered | None = _amps(2)
    amps_3: Entered | None = _amps(3)
    volts_1: Entered | None = _volts(1)
    volts_2: Entered | None = _volts(2)
    volts_3: Entered | None = _volts(3)
    ka_1: Entered | None = _ka(1)
    ka_2: Entered | None = _ka(2)
    ka_3: Entered | None = _ka(3)
    delay_1: Delay | None = said_field("Delay L1")
    delay_2: Delay | None = said_field("Delay L2")
    delay_3: Delay | None = said_field("Delay L3")
    clip_1: Clip | None = said_field("Clip L1")
    clip_2: Clip | None = said_field("Clip L2")
    clip_3: Clip | None = said_field("Clip L3")
    fault_ka: Entered | None = entered_field("Available fault current here", "fault_current", high=500)
    others_1: Entered | None = _others(1)
    others_2: Entered | None = _others(2)
    others_3: Entered | None = _others(3)
    alone: bool | None = said_field("Nothing else on these fuses")
    cause: Literal["found", "not_found"] | None = said_field("Cause")
    cause_words: str = said_field("What the cause was", "", max_length=300)
    covers: bool | None = said_field("Covers on, nobody in front, started from outside the closed door")
    signed: str = said_field("Signed by", "", max_length=120)
    signed_as: Literal["licensed", "manufacturer"] | None = said_field("Signed as")
    note: str = said_field("Note", "", max_length=500)
