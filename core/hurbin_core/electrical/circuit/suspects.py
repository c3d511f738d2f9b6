"""What can be open in a circuit, and what each pair of points then reads, in one state and with one meter."""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterable, Sequence
from typing import Literal

from pydantic import ConfigDict, Field

from ...base import RULEBOOK, Model
from .machine import A, sequences, three_legs
from .network import GROUND, Machine, Network, Solved, solve
from .parts import Circuit, Leg, Span, point, rungs, spans

Meter = Literal["low", "high"]
Class = Literal["full", "part", "zero", "ghost"]
SOUND = "sound"


class State(Model):
    """How the circuit stands while it is probed. `closed`: its contactors are in, `reverse`: the second of a
    pair; `motor`: its leads on and it stands, or turns at this share of rated torque, or they are off.
    """

    model_config = ConfigDict(frozen=True)
    closed: bool
    reverse: bool = False
    motor: Literal["standing", "turning", "off"] = "standing"
    load: float = Field(default=1.0, gt=0, le=1.5)
    meter: Meter = "low"


class Suspect(Model):
    """Something that may be open: these spans. `weight`: how often it is it, before anything was read."""

    id: str
    open: list[str]
    weight: float
    leg: Leg | None = None
    upper: str = ""
    lower: str = ""
    lost: list[int] = []


class Probe(Model):
    """Two points, or a point and ground."""

    one: str
    two: str


class Outcome(Model):
    """What a probe reads if a suspect is it: of which class, and how much, in percent of what is right."""

    reads: Class
    percent: float = 0.0


class _Figures(Model):
    meter_ohms: dict[Meter, float]
    weights: dict[str, float]
    full: float
    zero: float
    motor_amps: float
    stalled: float
    source: str
    certainty: str


class _Signs(Model):
    supply: float
    half: float
    even: float
    double_least: float
    double_most: float
    load: float
    neutral: float
    source: str
    certainty: str


class _File(Model):
    figures: _Figures
    signs: _Signs


_data = RULEBOOK.section("electrical/circuit/suspects.toml", _File)
FIGURES, SIGNS = _data.figures, _data.signs


def suspects(circuit: Circuit) -> list[Suspect]:
    """Every span by itself, all poles of what opens together, and the supply: one leg of it, or all. And that
    nothing is open here.
    """
    every = [s for s in spans(circuit) if s.kind != "through"]
    weight = FIGURES.weights
    last = f"{circuit.end.id}.in"

    def often(s: Span) -> float:
        return weight["motor_lead" if s.lower.startswith(f"{last}.") else s.kind]

    out = [
        Suspect(id=s.id, open=[s.id], weight=often(s), leg=s.leg, upper=s.upper, lower=s.lower, lost=[s.leg])
        for s in every
    ]
    for e in circuit.elements:
        poles = [s for s in every if s.within == e.id]
        if e.together and len(poles) > 1:
            out.append(
                Suspect(
                    id=e.id,
                    open=[s.id for s in poles],
                    weight=weight["all_poles"],
                    upper=f"{e.id}.in",
                    lower=f"{e.id}.out",
                    lost=[s.leg for s in poles],
                )
            )
    source = circuit.elements[0].id
    out += [
        Suspect(id=f"supply.{leg}", open=[f"supply.{leg}"], weight=weight["supply"], leg=leg, lost=[leg])
        for leg in circuit.legs
    ]
    dead = [f"supply.{leg}" for leg in circuit.legs]
    out.append(
        Suspect(id="supply", open=dead, weight=weight["supply"], upper=source, lost=list(circuit.legs))
    )
    return [*out, Suspect(id=SOUND, open=[], weight=weight["sound"])]


def _potentials(circuit: Circuit) -> list[complex]:
    """Of the legs against ground, V. Where ground is not tied to them these still hold between legs."""
    volts, earthing = circuit.supply.volts, circuit.supply.earthing
    if circuit.conductors == 2:
        return [volts / 2 + 0j, -volts / 2 + 0j] if earthing == "midpoint" else [volts + 0j, 0j]
    legs = [volts / math.sqrt(3) * A ** (-k) for k in range(3)]
    shift = {"corner": legs[1], "high_leg": (legs[0] + legs[2]) / 2}.get(earthing, 0j)
    return [v - shift for v in legs]


def _beneath(circuit: Circuit, state: State, s: Span) -> str:
    """Where this leg comes out: through the second contactor of a pair the outer legs are exchanged."""
    crossed = state.reverse and any(e.id == s.within and e.crossing for e in circuit.elements)
    if not crossed:
        return s.lower
    rung, _, leg = s.lower.rpartition(".")
    return point(rung, {1: 3, 2: 2, 3: 1}[int(leg)])


def _network(circuit: Circuit, state: State, gone: frozenset[str]) -> Network:
    every = spans(circuit)
    switched = {e.id for e in circuit.elements if e.switched}
    source = f"{circuit.elements[0].id}.out"
    volts = _potentials(circuit)
    held = {
        point(source, leg): v
        for leg, v in zip(circuit.legs, volts, strict=True)
        if f"supply.{leg}" not in gone
    }
    out = {
        s.id
        for s in every
        if s.id in gone or (s.within in switched and s.kind != "through" and not state.closed)
    }
    joined = [(s.upper, _beneath(circuit, state, s)) for s in every if s.id not in out]
    between = [
        (point(f"{e.id}.out", t.legs[0]), point(f"{e.id}.out", t.legs[1]), 1 / _tapped(t.what, t.ohms))
        for e in circuit.elements
        for t in e.taps
    ]
    points = [point(rung, leg) for rung in rungs(circuit) for leg in circuit.legs]
    network = Network(held, joined, between, [], points)
    if circuit.has_motor and state.motor != "off":
        _motor(circuit, state, gone, network)
    return network


def _motor(circuit: Circuit, state: State, gone: frozenset[str], network: Network) -> None:
    """The motor at the end of the ladder: two sequences of three legs, or an impedance between two."""
    at = [point(f"{circuit.end.id}.in", leg) for leg in circuit.legs]
    lost = {s.leg for s in spans(circuit) if s.id in gone} | {int(g[-1]) for g in gone if "supply." in g}
    if circuit.conductors == 2:
        turns = state.motor == "turning" and state.closed and not lost
        amps = FIGURES.motor_amps * (1.0 if turns else FIGURES.stalled)
        network.between.append((at[0], at[1], cmath.rect(amps / circuit.supply.volts, -math.pi / 4)))
        return
    # On one leg alone nothing turns.
    turning = state.motor == "turning" and state.closed and len(lost) < 2
    forward, backward = sequences(turning, state.load, len(lost) == 1)
    rated = FIGURES.motor_amps * math.sqrt(3) / circuit.supply.volts
    network.machines.append(Machine(tuple(at), three_legs(forward * rated, backward * rated)))


def _tapped(what: str, ohms: float) -> complex:
    """A control transformer's primary is mostly reactance, a heater none."""
    return cmath.rect(ohms, math.radians(75 if what == "control_transformer" else 0))


def to_ground(circuit: Circuit) -> bool:
    """Does a reading to ground prove anything? Only where a neutral or a midpoint is tied to it."""
    return circuit.supply.earthing in ("solid_wye", "neutral", "midpoint")


def probes(circuit: Circuit) -> list[Probe]:
    """The pairs that are worth putting a meter on: between two legs of one rung, from a leg to ground where
    the supply is tied to it, and across what can open in one leg.
    """
    out = []
    for rung in rungs(circuit):
        p = [point(rung, leg) for leg in circuit.legs]
        out.append(Probe(one=p[0], two=p[1]))
        if circuit.conductors == 3:
            out += [Probe(one=p[1], two=p[2]), Probe(one=p[2], two=p[0])]
        if to_ground(circuit):
            out += [Probe(one=x, two=GROUND) for x in p]
    out += [Probe(one=s.upper, two=s.lower) for s in spans(circuit) if s.within and s.kind != "through"]
    return out


def right_volts(circuit: Circuit, probe: Probe) -> float:
    """What is right between these two points, V; across a leg, and from a neutral to ground: what would stand
    there against ground if it were open.
    """
    one, two = (x.rpartition(".")[2] for x in (probe.one, probe.two))
    same = one == two or GROUND in (probe.one, probe.two)
    if circuit.conductors == 2:
        return (
            circuit.supply.volts / 2
            if same and circuit.supply.earthing == "midpoint"
            else (circuit.supply.volts)
        )
    if same:
        return circuit.supply.volts / math.sqrt(3)
    volts = dict(zip(map(str, circuit.legs), _potentials(circuit), strict=True))
    return abs(volts[one] - volts[two])


def outcome(circuit: Circuit, state: State, probe: Probe, solved: Solved) -> Outcome:
    """What this probe reads in a circuit that is solved."""
    read = solved.across(probe.one, probe.two, 1 / FIGURES.meter_ohms[state.meter])
    if read is None:
        return Outcome(reads="zero" if state.meter == "low" else "ghost")
    percent = 100 * abs(read) / right_volts(circuit, probe)
    reads: Class = "full" if percent > FIGURES.full else "zero" if percent < FIGURES.zero else "part"
    return Outcome(reads=reads, percent=round(percent, 2))


def solved_with(circuit: Circuit, state: State, open_: Iterable[str]) -> Solved:
    """The circuit in this state with these spans open."""
    return solve(_network(circuit, state, frozenset(open_)))


Table = dict[str, dict[tuple[str, str], Outcome]]


def table(circuit: Circuit, state: State, of: Sequence[Suspect], at: Sequence[Probe]) -> Table:
    """What each probe reads for each suspect."""
    return {
        s.id: {(p.one, p.two): outcome(circuit, state, p, found) for p in at}
        for s in of
        for found in [solved_with(circuit, state, s.open)]
    }


__all__ = [
    "SOUND",
    "Outcome",
    "Probe",
    "Span",
    "State",
    "Suspect",
    "Table",
    "outcome",
    "probes",
    "right_volts",
    "solved_with",
    "suspects",
    "table",
    "to_ground",
]
