"""A terminal box as typed: which leads are put together, on which line, and what is known of the winding."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Any, Literal

from pydantic import Field

from ...base import Entered, Kept, Model, Problem, entered_field, said_field
from .unmarked import LeadTest
from .windings import LINES, Box, Continuity, Use

Marks = Literal["t", "iec"]
# The leads of a winding by their other marks, in the order of T1 to T12 (IEC 60034-8, from memory).
IEC = ("U1", "V1", "W1", "U2", "V2", "W2", "U5", "V5", "W5", "U6", "V6", "W6")


def _roll(roll: int, line: int) -> Any:
    return entered_field(f"Roll {roll}, current L{line}", "current", high=5000)


class LeadsEntry(Model):
    """One look into a terminal box. box, plate_box: nuts parted by a slash, a semicolon or a new line, the
    leads of each by blanks: "L1 T1 T7 / L2 T2 T8". roll_…: currents while running, all leads moved on by one
    line from one roll to the next. Every field may be missing.
    """

    leads: Literal["3", "6", "9", "12"] | None = said_field("Leads of the motor", kept=Kept.SET)
    winding: Literal["wye", "delta"] | None = said_field("Winding, per nameplate", kept=Kept.SET)
    plate_for: Use | None = said_field("A single nameplate voltage is for", kept=Kept.SET)
    marks: Marks | None = said_field("Lead marks", kept=Kept.SET)
    colours: str = said_field("Colors or tape numbers", "", kept=Kept.SET, free=True, max_length=300)
    plate_box: str = said_field("Nameplate's own diagram", "", kept=Kept.SET, free=True, max_length=400)
    continuity: Continuity | None = said_field("Open-lead continuity")
    stage: Literal["found", "left"] | None = said_field("As found or as left")
    box: str = said_field("Leads put together", "", free=True, max_length=400)
    supply: Entered | None = entered_field("Supply between lines", "voltage", high=15000)
    roll_1_1: Entered | None = _roll(1, 1)
    roll_1_2: Entered | None = _roll(1, 2)
    roll_1_3: Entered | None = _roll(1, 3)
    roll_2_1: Entered | None = _roll(2, 1)
    roll_2_2: Entered | None = _roll(2, 2)
    roll_2_3: Entered | None = _roll(2, 3)
    roll_3_1: Entered | None = _roll(3, 1)
    roll_3_2: Entered | None = _roll(3, 2)
    roll_3_3: Entered | None = _roll(3, 3)
    groups: str = said_field("Groups by ohmmeter, by tape", "", free=True, max_length=200)
    test_volts: Entered | None = entered_field("Test supply between lines", "voltage", high=600)
    tests: list[LeadTest] = Field(default=[], max_length=24, title="Tests of unmarked leads")
    traced: bool | None = said_field("Each lead followed to its nut")
    note: str = said_field("Note", "", free=True, max_length=500)


def name_of(lead: str, marks: Marks) -> str:
    """What a lead is called in this system of marks."""
    if not lead.isdigit():
        return lead
    return IEC[int(lead) - 1] if marks == "iec" else f"T{lead}"


@dataclass(slots=True)
class Parsed:
    """The nuts of a text, with what is wrong in it: leads twice, unknown ones; loose: in no nut; bare: lines
    that are in no nut.
    """

    box: Box = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)
    loose: list[str] = field(default_factory=list)
    bare: list[str] = field(default_factory=list)


def parsed(text: str, leads: int, marks: Marks, name: str) -> Parsed:
    """Which leads are put together here? A lead by its number or its mark in either system, in any case."""
    out = Parsed()
    seen: dict[str, str] = {}
    for nut in re.split(r"[\n/;]+", text):
        held: list[str] = []
        for word in re.split(r"[\s,+]+", nut.strip()):
            lead = _lead(word)
            if not word:
                continue
            if lead is None or (lead.isdigit() and int(lead) > leads):
                out.problems.append(
                    _wrong(name, word, f"{word} is no lead of a motor with {leads} leads.", leads)
                )
            elif lead in seen:
                said = name_of(lead, marks)
                out.problems.append(
                    _wrong(name, word, f"{said} is named twice: it is in one nut only.", leads)
                )
            else:
                seen[lead] = word
                held.append(lead)
        if held:
            out.box.append(frozenset(held))
    out.loose = [str(n) for n in range(1, leads + 1) if str(n) not in seen]
    out.bare = [line for line in LINES if line not in seen]
    return out


def _lead(word: str) -> str | None:
    upper = word.upper()
    if upper in LINES:
        return upper
    if upper in IEC:
        return str(IEC.index(upper) + 1)
    number = upper.removeprefix("T")
    return (
        str(int(number))
        if number.isdecimal() and number.isascii() and len(number) < 3 and int(number)
        else None
    )


def _wrong(name: str, word: str, message: str, leads: int) -> Problem:
    return Problem(
        code="lead_wrong", field=name, value=word, message=message, right=f"L1 to L3, T1 to T{leads}"
    )
