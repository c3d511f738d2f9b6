"""One running check as typed, and what was understood of it."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from pydantic import BaseModel, Field

from ..base import Entered, Missing, Problem, entered_field, field_rules, read_fields
from ..plant import MotorFacts
from .unbalance import closes_triangle, mean

VOLTS = ("volts_12", "volts_23", "volts_31")
AMPS = ("amps_1", "amps_2", "amps_3")
LEGS = ("L1", "L2", "L3")
PAIRS = ("L1-L2", "L2-L3", "L3-L1")


class RunningCheckEntry(BaseModel):
    """Three line volts, three currents, and the state they were read in. Every field may be missing."""

    volts_12: Entered | None = entered_field("Volts L1-L2", "voltage", high=15000)
    volts_23: Entered | None = entered_field("Volts L2-L3", "voltage", high=15000)
    volts_31: Entered | None = entered_field("Volts L3-L1", "voltage", high=15000)
    amps_1: Entered | None = entered_field("Amps L1", "current", high=5000)
    amps_2: Entered | None = entered_field("Amps L2", "current", high=5000)
    amps_3: Entered | None = entered_field("Amps L3", "current", high=5000)
    read_at: Literal["motor_leads", "starter", "drive_output", "drive_input"] | None = Field(default=None, title="Read at")
    valve: Literal["open", "throttled", "shut"] | None = Field(default=None, title="Valve")
    valve_turns: Entered | None = entered_field("Valve turns open", "turns", high=500)
    valve_turns_full: Entered | None = entered_field("Valve turns in all", "turns", high=500)
    speed: Entered | None = entered_field("Drive frequency", "frequency", high=400)
    coupled: bool | None = Field(default=None, title="Coupled")
    guard: Literal["on", "off"] | None = Field(default=None, title="Guard")
    ambient: Entered | None = entered_field("Room temperature", "temperature", low=-40, high=90)
    note: str = Field(default="", max_length=500, title="Note")


@dataclass(slots=True)
class Taken:
    """The check once read: None where a leg is missing or refused."""

    volts: list[float | None]
    amps: list[float | None]
    phases: int
    read_at: str
    on_drive: bool
    speed_hz: float | None
    ambient_c: float | None
    conditions: dict[str, str]
    unsaid: list[str]
    coupled: bool | None = None
    valve: str = ""
    guard: str = ""
    problems: list[Problem] = field(default_factory=list)
    missing: list[Missing] = field(default_factory=list)

    @property
    def ahead_of_drive(self) -> bool:
        """Was it read on the line's side of a drive?"""
        return self.on_drive and self.read_at in ("drive_input", "starter")

    @property
    def top(self) -> tuple[float, int] | None:
        """The largest current read, and its leg."""
        return max(((a, i) for i, a in enumerate(self.amps[: self.wanted]) if a is not None), default=None)

    @property
    def all_volts(self) -> list[float] | None:
        got = [v for v in self.volts[: self.wanted] if v is not None]
        return got if len(got) == self.wanted else None

    @property
    def all_amps(self) -> list[float] | None:
        got = [a for a in self.amps[: self.wanted] if a is not None]
        return got if len(got) == self.wanted else None

    @property
    def wanted(self) -> int:
        return 3 if self.phases == 3 else 1

    @property
    def key(self) -> str:
        return ";".join(f"{k}={v}" for k, v in sorted(self.conditions.items()))


_RULES = field_rules(RunningCheckEntry)
_WORDS = {"read_at": "where it was read", "valve": "the valve", "coupled": "coupled or not", "speed": "the drive's frequency"}


def _plain(value: float) -> str:
    return f"{round(value, 2):g}"


def take(entry: RunningCheckEntry, motor: MotorFacts, on_drive: bool) -> Taken:
    """What was read, in what state, what is impossible and what is missing."""
    figures, problems = read_fields(entry)
    got = {name: r.value for name, r in figures.items()}
    taken = Taken(
        volts=[got.get(n) for n in VOLTS],
        amps=[got.get(n) for n in AMPS],
        phases=motor.phases,
        read_at=entry.read_at or "",
        on_drive=on_drive,
        speed_hz=got.get("speed"),
        ambient_c=got.get("ambient"),
        conditions={},
        unsaid=[],
        coupled=entry.coupled,
        valve=entry.valve or "",
        guard=entry.guard or "",
        problems=problems,
    )
    _state(entry, got, taken)
    _refuse_impossible(entry, motor, taken)
    _name_missing(taken)
    return taken


def _state(entry: RunningCheckEntry, got: dict[str, float], taken: Taken) -> None:
    said = taken.conditions
    if entry.read_at:
        said["at"] = entry.read_at
    if entry.coupled is not None:
        said["coupled"] = "yes" if entry.coupled else "no"
    turns, full = got.get("valve_turns"), got.get("valve_turns_full")
    if turns is not None and full is not None and turns > full:
        text = entry.valve_turns.text if entry.valve_turns else ""
        message = f"The valve cannot be open {text} of {_plain(full)} turns."
        taken.problems.append(
            Problem(code="valve_turns", field="valve_turns", value=text, message=message, right=f"{_plain(full)} or less")
        )
        turns = None
    if entry.valve == "throttled" and turns is not None:
        said["valve"] = f"throttled {_plain(turns)}" + (f"/{_plain(full)}" if full is not None else "")
    elif entry.valve:
        said["valve"] = entry.valve
    if taken.on_drive and taken.speed_hz is not None:
        said["hz"] = _plain(round(taken.speed_hz))
    elif not taken.on_drive:
        said["hz"] = "line"
    for unsaid, key in (("read_at", "at"), ("valve", "valve"), ("coupled", "coupled"), ("speed", "hz")):
        if key not in said:
            taken.unsaid.append(unsaid)


def _refuse_impossible(entry: RunningCheckEntry, motor: MotorFacts, taken: Taken) -> None:
    def refuse(kind: str, i: int, code: str, message: str, right: str) -> None:
        names, legs = (VOLTS, taken.volts) if kind == "volts" else (AMPS, taken.amps)
        typed = getattr(entry, names[i])
        taken.problems.append(Problem(code=code, field=names[i], value=typed.text, message=message, right=right))
        legs[i] = None

    plate = motor.volts_v
    for i, v in enumerate(taken.volts):
        if v is not None and plate and v > 2.5 * plate:
            times = v / plate
            slip = f" Did you mean {_plain(v / 10)} V?" if 8 <= times <= 12.5 else ""
            refuse("volts", i, "volts_beyond_plate", f"{_plain(v)} V on a {_plain(plate)} V motor cannot be.{slip}",
                   f"volts near {_plain(plate)}")  # fmt: skip
    if motor.amps_a:
        for i, a in enumerate(taken.amps):
            if a is not None and a > 15 * motor.amps_a:
                refuse("amps", i, "amps_beyond_plate",
                       f"{_plain(a)} A on a {_plain(motor.amps_a)} A motor cannot be: even at a stall it draws about six times plate.",
                       f"amps near {_plain(motor.amps_a)}")  # fmt: skip
    volts = taken.all_volts
    if taken.phases == 3 and volts and min(volts) > 0 and not closes_triangle(volts[0], volts[1], volts[2]):
        longest = max(range(3), key=lambda i: volts[i])
        said = "{}, {} and {} V".format(*(_plain(v) for v in volts))
        refuse("volts", longest, "no_triangle",
               f"{said} close no triangle: between three legs no volts can be more than the other two together.",
               f"{_plain(sum(volts) - volts[longest])} V or less")  # fmt: skip


def _name_missing(taken: Taken) -> None:
    refused = {p.field for p in taken.problems}
    for names, legs, what in ((VOLTS, taken.volts, "voltage unbalance"), (AMPS, taken.amps, "current unbalance and load")):
        for leg_field, value in list(zip(names, legs, strict=True))[: taken.wanted]:
            if value is None and leg_field not in refused:
                label = _RULES[leg_field].label if taken.phases == 3 else _RULES[leg_field].label.split()[0]
                taken.missing.append(Missing(field=leg_field, message=f"{label} not read: {what} waits for it."))
    for unsaid in taken.unsaid:
        taken.missing.append(Missing(field=unsaid, message=f"Say {_WORDS[unsaid]}: other states are no comparison."))


def words_for(names: list[str]) -> str:
    return ", ".join(_WORDS[n] for n in names)


def mean_volts(taken: Taken) -> float | None:
    volts = taken.all_volts
    return mean(volts) if volts else None
