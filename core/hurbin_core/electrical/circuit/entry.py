"""A walk down a circuit as typed: readings at pairs of points, each in its state, folded from entries."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

from ...base import (
    Entered,
    HurbinError,
    Kept,
    Limits,
    Model,
    Override,
    Problem,
    Quantity,
    Read,
    amount,
    entered_field,
    entry_of,
    entry_union,
    exceeds,
    field_rules,
    said_field,
)
from ...logbook import Entry, SheetState, read_or, replay
from .naming import Search
from .parts import Position
from .points import known_point, rung_of
from .suspects import SIGNS, Probe
from .whole import Circuit
from .wired import State


class CircuitReading(Model):
    """One reading at two points of the circuit, or at one (current), and how the circuit stood then."""

    kind: Literal["reading"] = "reading"
    one: str = said_field("First probe", "", max_length=40)
    two: str = said_field("Second probe", "", max_length=40)
    volts: Entered | None = entered_field("Voltage between the probes", "voltage", high=20000)
    amps: Entered | None = entered_field("Current in this leg", "current", high=5000)
    ohms: Entered | None = entered_field(
        "Resistance between the probes, dead", "resistance", unit="Ohm", high=1e9, bounds_allowed=True
    )
    contactor: Position | None = said_field("Contactor")
    motor: Literal["standing", "running"] | None = said_field("Motor")
    leads: Literal["on", "off"] | None = said_field("Motor leads")
    meter: Literal["low", "high", "low_pass"] | None = said_field("Meter input")


class CircuitSaid(Model):
    """What is said of the whole walk: the newest word counts."""

    kind: Literal["said"]
    proved: Literal["before", "both"] | None = said_field("Meter proved on a live source", kept=Kept.VISIT)
    note: str = said_field("Note", "", kept=Kept.VISIT, free=True, max_length=500)


class CircuitTakenBack(Model):
    """Takes one earlier entry back: both stay readable."""

    kind: Literal["undo"]
    undoes: str = said_field("Removed entry", "", max_length=64)


CircuitEntry = entry_union(CircuitReading, CircuitSaid, CircuitTakenBack)
_RULES = field_rules(CircuitEntry)


def circuit_entry(**body: Any) -> Any:
    """One entry of a walk from what was read or said."""
    return entry_of(CircuitEntry, body)


@dataclass(slots=True)
class Taken:
    """A reading that counts: its entry, of what it is, the figure as read, where, and in which state."""

    entry: Entry[Any]
    what: Literal["volts", "amps", "ohms"]
    figure: Quantity
    pair: Probe
    state: State


@dataclass(slots=True)
class Walk(SheetState):
    """The sheet as it stands (see `SheetState`): the circuit it is of, and its readings in their order."""

    limits: Limits = field(default_factory=Limits)
    search: Search | None = None
    proved_dead: bool = False
    taken: list[Taken] = field(default_factory=list)

    @property
    def ladder(self) -> Search:
        if self.search is None:
            raise ValueError("a walk without its circuit")
        return self.search

    @property
    def circuit(self) -> Circuit:
        return self.ladder.circuit

    @property
    def proved(self) -> str:
        """When was the meter proved? A word that it was after is none of the readings that came later."""
        word = self.words.get("proved")
        if word is None:
            return ""
        last = max((t.entry.taken_at for t in self.taken), default=word.entry.taken_at)
        return "before" if word.value == "both" and word.entry.taken_at < last else str(word.value)

    @property
    def scale(self) -> float:
        """How high the supply stands against the voltage that was entered for it: the highest voltage between
        two legs at one place, where that lies within what a supply may be off; else as entered.
        """
        volts = self.circuit.supply.volts
        between = [
            t.figure.value / volts
            for t in self.taken
            if t.what == "volts" and rung_of(t.pair.one) == rung_of(t.pair.two)
        ]
        off = self.limits.value("circuit.supply_off") / 100
        top = max(between, default=1.0)
        return top if not exceeds(abs(top - 1), off) else 1.0


def fold(
    entries: Sequence[Entry[Any]], search: Search, overrides: Sequence[Override] = (), dead: bool = False
) -> Walk:
    """What do these entries say together? Any order, any device: they count by (taken_at, uuid).

    dead: the set was proved dead when this is judged. What cannot be is a problem: under its field where it
    stands in the newest entry, under its entry's id where it stands further back.
    """
    walk = Walk(limits=Limits(overrides), search=search, proved_dead=dead)
    replay(entries, walk, {"reading": _reading}, entry=CircuitEntry)
    last = walk.entries[-1].uuid if walk.entries else ""
    walk.problems = [
        p if p.field != last else p.model_copy(update={"field": _typed(walk)}) for p in walk.problems
    ]
    return walk


def _typed(walk: Walk) -> str:
    body = walk.entries[-1].body
    return next((n for n in ("volts", "amps", "ohms") if getattr(body, n, None) is not None), "volts")


def state_of(body: CircuitReading, circuit: Circuit) -> State:
    """How the circuit stood when this was read; what nobody said is as the circuit usually stands."""
    contactor = body.contactor or "out" if circuit.has_contactor else "in"
    turning = body.motor == "running" and contactor != "out"
    return State(
        contactor=contactor,
        motor="off" if body.leads == "off" or not circuit.has_motor else "turning" if turning else "standing",
        load=SIGNS.load if turning else 1.0,
        meter=body.meter or "low",
    )


def _reading(walk: Walk, e: Entry[Any]) -> None:
    body: CircuitReading = e.body
    try:
        for name, make in (("volts", _volts), ("amps", _amps), ("ohms", _ohms)):
            typed = getattr(body, name)
            if typed is None or not typed.text.strip():
                continue
            got = read_or(walk.problems, typed, _RULES[name], e.uuid)
            if got is not None:
                make(walk, e, got)
    except HurbinError as error:
        walk.problems.append(Problem.of(error).model_copy(update={"field": e.uuid}))


def _refuse(walk: Walk, e: Entry[Any], code: str, value: str, message: str, right: str) -> None:
    walk.problems.append(Problem(code=code, field=e.uuid, value=value, message=message, right=right))


def _stood(walk: Walk, e: Entry[Any], typed: Entered | None, wants: Sequence[str]) -> bool:
    """Is the state of this reading said, and possible? A problem where it is not."""
    body: CircuitReading = e.body
    words = {
        "contactor": ("contactor in or out", walk.circuit.has_contactor),
        "motor": ("motor running or at standstill", walk.circuit.has_motor),
        "meter": ("meter input (low impedance, 10 MΩ or low-pass)", True),
    }
    unsaid = [words[n][0] for n in wants if words[n][1] and getattr(body, n) is None]
    if unsaid:
        message = f"Enter {', '.join(unsaid)}: a reading says nothing without the state it was taken in."
        _refuse(walk, e, "state_missing", _text(typed), message, "the state when it was read")
    elif walk.circuit.has_contactor and body.contactor and body.contactor not in walk.circuit.positions:
        message = f"This starter has no position “{body.contactor}”: enter how its contactors stand."
        _refuse(walk, e, "state_impossible", _text(typed), message, ", ".join(walk.circuit.positions))
    elif body.motor == "running" and (what := _unfed(walk.circuit, body)):
        message = f"The motor cannot run with {what}: correct the state of this reading."
        _refuse(walk, e, "state_impossible", _text(typed), message, "motor at standstill")
    else:
        return True
    return False


def _unfed(circuit: Circuit, body: CircuitReading) -> str:
    """Why nothing can turn in this state; empty where it can."""
    if body.leads == "off":
        return "the motor leads off"
    if body.contactor == "out":
        return "the contactor out"
    return "the main contactor alone in" if circuit.six_leads and body.contactor == "in" else ""


def _volts(walk: Walk, e: Entry[Any], got: Read) -> None:
    body: CircuitReading = e.body
    if not _stood(walk, e, body.volts, ("contactor", "motor", "meter")):
        return None
    pair = walk.ladder.pair(Probe(one=body.one, two=body.two))
    top = walk.limits.value("circuit.volts_most") / 100 * walk.circuit.supply.volts
    if exceeds(got.value, top):
        message = (
            f"{_text(body.volts)} is not possible on a {walk.circuit.supply.volts:g} V circuit."
            " Check the unit (mV or V) and the supply voltage of the circuit."
        )
        return _refuse(walk, e, "volts_beyond", _text(body.volts), message, f"up to {top:g} V")
    _take(walk, e, "volts", got, pair)
    return None


def _amps(walk: Walk, e: Entry[Any], got: Read) -> None:
    body: CircuitReading = e.body
    at = known_point(walk.circuit, body.one)
    if not _stood(walk, e, body.amps, ("contactor", "motor")):
        return None
    if body.contactor == "out" and exceeds(got.value, walk.limits.value("safety.dead_amps")):
        message = "No current flows with the contactor out: check the clamp, or the state of this reading."
        return _refuse(walk, e, "amps_dead", _text(body.amps), message, "contactor in, motor running")
    _take(walk, e, "amps", got, Probe(one=at, two=at))
    return None


def _ohms(walk: Walk, e: Entry[Any], got: Read) -> None:
    body: CircuitReading = e.body
    if not walk.proved_dead:
        message = "Read resistance on a dead circuit only: isolate this set and prove it dead first."
        return _refuse(walk, e, "ohms_live", _text(body.ohms), message, "isolated and proved dead")
    pair = Probe(one=body.one, two=body.two)
    walk.ladder.path(pair, state_of(body, walk.circuit).contactor)
    _take(walk, e, "ohms", got, pair)
    return None


def _take(walk: Walk, e: Entry[Any], what: Literal["volts", "amps", "ohms"], got: Read, pair: Probe) -> None:
    figure = amount(got.value, got.unit, got.bound)
    walk.taken.append(Taken(e, what, figure, pair, state_of(e.body, walk.circuit)))


def _text(typed: Entered | None) -> str:
    return f"{typed.text} {typed.unit}".strip() if typed is not None else ""
