"""One running check as typed, and what was understood of it."""

from dataclasses import dataclass, field
from typing import Literal

from ..base import (
    Entered,
    Limits,
    Missing,
    Model,
    Problem,
    entered_field,
    field_rules,
    read_fields,
    said_field,
)
from ..logbook import Conditions
from ..plant import MotorFacts
from .formulas import closes_triangle, mean

VOLTS = ("volts_12", "volts_23", "volts_31")
AMPS = ("amps_1", "amps_2", "amps_3")
LEGS = ("L1", "L2", "L3")
PAIRS = ("L1-L2", "L2-L3", "L3-L1")


class RunningCheckEntry(Model):
    """Three line volts, three currents, and the state they were read in. Every field may be missing."""

    volts_12: Entered | None = entered_field("Voltage L1-L2", "voltage", high=15000)
    volts_23: Entered | None = entered_field("Voltage L2-L3", "voltage", high=15000)
    volts_31: Entered | None = entered_field("Voltage L3-L1", "voltage", high=15000)
    amps_1: Entered | None = entered_field("Current L1", "current", high=5000)
    amps_2: Entered | None = entered_field("Current L2", "current", high=5000)
    amps_3: Entered | None = entered_field("Current L3", "current", high=5000)
    read_at: Literal["motor_leads", "starter", "drive_output", "drive_input"] | None = said_field("Read at")
    valve: Literal["open", "throttled", "shut"] | None = said_field("Valve")
    valve_turns: Entered | None = entered_field("Valve turns open", "turns", high=500)
    valve_turns_full: Entered | None = entered_field("Valve turns, full travel", "turns", high=500)
    speed: Entered | None = entered_field("Drive frequency", "frequency", high=400)
    coupled: bool | None = said_field("Coupled")
    guard: Literal["on", "off"] | None = said_field("Guard")
    control: Literal["automatic", "hand"] | None = said_field("Control")
    ambient: Entered | None = entered_field("Ambient temperature", "temperature", low=-40, high=90)
    note: str = said_field("Note", "", max_length=500)


@dataclass(slots=True)
class RunningReadings:
    """The check once read: None where a leg is missing or refused."""

    volts: list[float | None]
    amps: list[float | None]
    phases: int
    read_at: str
    on_drive: bool
    speed_hz: float | None
    ambient_c: float | None
    conditions: Conditions
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
        return self.conditions.key


_RULES = field_rules(RunningCheckEntry)
_WORDS = {
    "read_at": "where it was read",
    "valve": "the valve position",
    "coupled": "coupled or uncoupled",
    "speed": "the drive frequency",
}


def _plain(value: float) -> str:
    return f"{round(value, 2):g}"


def read_check(
    entry: RunningCheckEntry, motor: MotorFacts, on_drive: bool, limits: Limits
) -> RunningReadings:
    """What was read, in what state, what is impossible and what is missing."""
    figures, problems = read_fields(entry)
    got = {name: r.value for name, r in figures.items()}
    readings = RunningReadings(
        volts=[got.get(n) for n in VOLTS],
        amps=[got.get(n) for n in AMPS],
        phases=motor.phases,
        read_at=entry.read_at or "",
        on_drive=on_drive,
        speed_hz=got.get("speed"),
        ambient_c=got.get("ambient"),
        conditions=Conditions(),
        unsaid=[],
        coupled=entry.coupled,
        valve=entry.valve or "",
        guard=entry.guard or "",
        problems=problems,
    )
    _state(entry, got, readings)
    _refuse_impossible(entry, motor, readings, limits)
    _name_missing(readings)
    return readings


def _state(entry: RunningCheckEntry, got: dict[str, float], readings: RunningReadings) -> None:
    turns, full = got.get("valve_turns"), got.get("valve_turns_full")
    if turns is not None and full is not None and turns > full:
        text = entry.valve_turns.text if entry.valve_turns else ""
        message = f"The valve cannot be open {text} of {_plain(full)} turns."
        readings.problems.append(
            Problem(
                code="valve_turns",
                field="valve_turns",
                value=text,
                message=message,
                right=f"{_plain(full)} or less",
            )
        )
        turns = None
    detail = ""
    if entry.valve == "throttled" and turns is not None:
        detail = _plain(turns) + (f"/{_plain(full)}" if full is not None else "")
    hz = "line" if not readings.on_drive else None
    if readings.on_drive and readings.speed_hz is not None:
        hz = _plain(round(readings.speed_hz))
    readings.conditions = Conditions.of(
        at=entry.read_at,
        coupled=None if entry.coupled is None else "yes" if entry.coupled else "no",
        valve=(entry.valve, detail) if entry.valve else None,
        hz=hz,
    )
    for unsaid, name in (("read_at", "at"), ("valve", "valve"), ("coupled", "coupled"), ("speed", "hz")):
        if not readings.conditions.get(name):
            readings.unsaid.append(unsaid)


def _refuse_impossible(
    entry: RunningCheckEntry, motor: MotorFacts, readings: RunningReadings, limits: Limits
) -> None:
    def refuse(kind: str, i: int, code: str, message: str, right: str) -> None:
        names, legs = (VOLTS, readings.volts) if kind == "volts" else (AMPS, readings.amps)
        typed = getattr(entry, names[i])
        readings.problems.append(
            Problem(code=code, field=names[i], value=typed.text, message=message, right=right)
        )
        legs[i] = None

    plate = motor.volts_v
    for i, v in enumerate(readings.volts):
        if v is not None and plate and v > limits.value("refuse.volts") * plate:
            times = v / plate
            slip = f" Did you mean {_plain(v / 10)} V?" if 8 <= times <= 12.5 else ""
            refuse(
                "volts",
                i,
                "volts_beyond_plate",
                f"{_plain(v)} V on a {_plain(plate)} V motor is not possible.{slip}",
                f"about {_plain(plate)} V",
            )
    if motor.amps_a:
        for i, a in enumerate(readings.amps):
            if a is not None and a > limits.value("refuse.amps") * motor.amps_a:
                refuse(
                    "amps",
                    i,
                    "amps_beyond_plate",
                    f"{_plain(a)} A on a {_plain(motor.amps_a)} A motor is not possible: even stalled it"
                    " draws about six times nameplate current.",
                    f"about {_plain(motor.amps_a)} A",
                )
    volts = readings.all_volts
    if (
        readings.phases == 3
        and volts
        and min(volts) > 0
        and not closes_triangle(volts[0], volts[1], volts[2])
    ):
        longest = max(range(3), key=lambda i: volts[i])
        said = "{}, {} and {} V".format(*(_plain(v) for v in volts))
        refuse(
            "volts",
            longest,
            "no_triangle",
            f"{said} do not fit together: no line voltage can be more than the other two added.",
            f"{_plain(sum(volts) - volts[longest])} V or less",
        )


def _name_missing(readings: RunningReadings) -> None:
    refused = {p.field for p in readings.problems}
    for names, legs, what in (
        (VOLTS, readings.volts, "voltage unbalance"),
        (AMPS, readings.amps, "current unbalance and load"),
    ):
        for leg_field, value in list(zip(names, legs, strict=True))[: readings.wanted]:
            if value is None and leg_field not in refused:
                label = (
                    _RULES[leg_field].label if readings.phases == 3 else _RULES[leg_field].label.split()[0]
                )
                readings.missing.append(
                    Missing(
                        field=leg_field,
                        message=f"{label} not read. Enter it: {what} cannot be evaluated without it.",
                    )
                )
    for unsaid in readings.unsaid:
        readings.missing.append(
            Missing(
                field=unsaid, message=f"Enter {_WORDS[unsaid]}. Readings in other states cannot be compared."
            )
        )


def words_for(names: list[str]) -> str:
    return ", ".join(_WORDS[n] for n in names)


def mean_volts(readings: RunningReadings) -> float | None:
    volts = readings.all_volts
    return mean(volts) if volts else None
