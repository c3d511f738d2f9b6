"""A circuit in one state as a network: what is joined, what its motor is, and where current flows."""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterable, Sequence
from typing import Literal

from pydantic import ConfigDict, Field

from ...base import RULEBOOK, Model
from .machine import A, between_ends, sequences, three_legs
from .network import Machine, Network, Solved, nodes, solve
from .parts import ENDS, Position
from .points import joints, point, rungs, spans, tied
from .whole import Circuit

Meter = Literal["low", "high", "low_pass"]
# What is joined: two points, and the span between them.
Wires = Sequence[tuple[str, str, str]]


class State(Model):
    """How the circuit stands while it is probed. contactor: the position of its starter; motor: its leads on
    and it stands, or turns at this share of rated torque, or they are off.
    """

    model_config = ConfigDict(frozen=True)
    contactor: Position = "out"
    motor: Literal["standing", "turning", "off"] = "standing"
    load: float = Field(default=1.0, gt=0, le=1.5)
    meter: Meter = "low"

    @property
    def closed(self) -> bool:
        """Is any contactor in?"""
        return self.contactor != "out"


class _Load(Model):
    """A motor's current at rated torque, A, and how many times it is at standstill; from how much of that on
    a leg feeds it.
    """

    motor_amps: float
    stalled: float
    feeds: float
    source: str
    certainty: str


class _File(Model):
    load: _Load


LOAD = RULEBOOK.section("electrical/circuit/network.toml", _File).load


def potentials(circuit: Circuit) -> list[complex]:
    """Of the legs against ground, V. Where ground is not tied to them these still hold between legs."""
    volts, earthing = circuit.supply.volts, circuit.supply.earthing
    if circuit.conductors == 2:
        return [volts / 2 + 0j, -volts / 2 + 0j] if earthing == "midpoint" else [volts + 0j, 0j]
    legs = [volts / math.sqrt(3) * A ** (-k) for k in range(3)]
    shift = {"corner": legs[1], "high_leg": (legs[0] + legs[2]) / 2}.get(earthing, 0j)
    return [v - shift for v in legs]


def _network(circuit: Circuit, wires: Wires, gone: frozenset[str]) -> Network:
    """Without its motor."""
    source = f"{circuit.elements[0].id}.out"
    held = {
        point(source, leg): v
        for leg, v in zip(circuit.legs, potentials(circuit), strict=True)
        if f"supply.{leg}" not in gone
    }
    joined = [(a, b) for a, b, span in wires if span not in gone]
    between = [
        (point(f"{e.id}.out", t.legs[0]), point(f"{e.id}.out", t.legs[1]), 1 / _tapped(t.what, t.ohms))
        for e in circuit.every
        for t in e.taps
        if t.what != "second_set"
    ]
    points = [point(rung, leg) for rung in rungs(circuit) for leg in circuit.legs]
    return Network(held, joined, between, _others(circuit), points)


def _others(circuit: Circuit) -> list[Machine]:
    """The motors of other sets on the same fuses: they stand, for one that runs is none of this walk."""
    y = LOAD.motor_amps * math.sqrt(3) / circuit.supply.volts * sequences(False, 1.0, False)[0]
    rows = three_legs(y, y) if circuit.conductors == 3 else ((y, -y), (-y, y))
    return [
        Machine(tuple(point(f"{e.id}.out", leg) for leg in circuit.legs), rows)
        for e in circuit.every
        for t in e.taps
        if t.what == "second_set"
    ]


def _tapped(what: str, ohms: float) -> complex:
    """A control transformer's primary is mostly reactance, a heater none."""
    return cmath.rect(ohms, math.radians(75 if what == "control_transformer" else 0))


def _motor(
    circuit: Circuit, network: Network, gone: frozenset[str], load: float | None = None, single: bool = False
) -> Machine:
    """The motor between its points, S: two sequences of three legs, six ends of three windings, or an
    impedance between two. load: the torque at which it turns, of rated; none: it stands.
    """
    turning = load is not None
    motor = circuit.motor
    if motor is None:
        raise ValueError("this circuit has no motor")
    starts = [point(f"{motor.id}.in", leg) for leg in circuit.legs]
    if circuit.conductors == 2:
        amps = LOAD.motor_amps * (1.0 if turning else LOAD.stalled)
        y = cmath.rect(amps / circuit.supply.volts, -math.pi / 4)
        return Machine(tuple(starts), ((y, -y), (-y, y)))
    rated = LOAD.motor_amps * math.sqrt(3) / circuit.supply.volts
    forward, backward, zero = (y * rated for y in sequences(turning, load or 1.0, single))
    if motor.leads == 3:
        return Machine(tuple(starts), three_legs(forward, backward))
    ends = [point(f"{motor.id}.out", leg) for leg in circuit.legs]
    # Its rated volts are those of delta: of each winding a third of what one leg of a star would have.
    windings = three_legs(forward / 3, backward / 3, zero / 3)
    wound = [
        (a, b)
        for a, b, leg in zip(starts, ends, circuit.legs, strict=True)
        if f"{motor.id}.{leg}" not in gone
    ]
    pairs = [*network.joined, *((a, b) for a, b, _ in network.between), *wound]
    reached = {p for root in network.held for p in tied(root, pairs)}
    # In a winding that is open, or that nothing reaches, no current flows.
    out = [
        k
        for k, (a, b) in enumerate(zip(starts, ends, strict=True))
        if (a, b) not in wound or a not in reached
    ]
    return Machine((*starts, *ends), between_ends(windings, out))


def _fed(network: Network, motor: Machine, solved: Solved) -> int:
    """How many legs of the source feed this motor, which stands?"""
    node = nodes(network)
    source = {node[p]: 0j for p in network.held}
    most = LOAD.motor_amps * LOAD.stalled
    volts = [solved.potential(p) or 0j for p in motor.points]
    for p, row in zip(motor.points, motor.admittances, strict=True):
        if node[p] in source:
            source[node[p]] += sum(y * v for y, v in zip(row, volts, strict=True))
    return sum(abs(i) > LOAD.feeds * most for i in source.values())


def solved_with(circuit: Circuit, state: State, open_: Iterable[str], wires: Wires | None = None) -> Solved:
    """The circuit in this state with these spans open. wires: what is joined in it while nothing is open, for
    whoever asks more than once.
    """
    gone = frozenset(open_)
    network = _network(circuit, wires or joints(circuit, state.contactor), gone)
    if circuit.motor is None or state.motor == "off":
        return solve(network)
    others, motor = [*network.machines], _motor(circuit, network, gone)
    network.machines = [*others, motor]
    solved = solve(network)
    if state.motor != "turning" or not state.closed:
        return solved
    # On one leg alone nothing turns; on two of three it may.
    legs = _fed(network, motor, solved)
    if legs < 2:
        return solved
    network.machines = [*others, _motor(circuit, network, gone, state.load, legs < circuit.conductors)]
    return solve(network)


def carrying(circuit: Circuit, state: State, open_: Iterable[str]) -> frozenset[str]:
    """The points through which what this circuit feeds draws its current, with these spans open.

    Whatever hangs at its ends counts as a load alike on each leg.
    """
    gone = frozenset(open_)
    network = _network(circuit, joints(circuit, state.contactor), gone)
    network.machines = []
    if state.motor != "off" and circuit.motor is not None:
        network.machines.append(_motor(circuit, network, gone))
    amps = LOAD.motor_amps * math.sqrt(3) / circuit.supply.volts
    for run in circuit.runs:
        for e in run:
            if e.kind in ENDS and e.kind != "motor":
                ends = tuple(point(f"{e.id}.in", leg) for leg in circuit.legs)
                y = complex(amps)
                two = ((y, -y), (-y, y))
                network.machines.append(Machine(ends, three_legs(y, y) if len(ends) == 3 else two))
    solved = solve(network)
    out: set[str] = set()
    roots = [*network.held, *(point(f"{e.id}.out", 1) for e in circuit.every if e.joins)]
    came = {root: tied(root, network.joined) for root in roots}
    for m in network.machines:
        volts = [solved.potential(p) or 0j for p in m.points]
        for p, row in zip(m.points, m.admittances, strict=True):
            if abs(sum(y * v for y, v in zip(row, volts, strict=True))) < LOAD.feeds * LOAD.motor_amps:
                continue
            for root in roots:
                at = p if p in came[root] else ""
                while at:
                    out.add(at)
                    at = came[root][at]
    return frozenset(out)


def untold(circuit: Circuit, state: State) -> frozenset[str]:
    """The points of which a meter tells nothing in this state: electronics that are not isolated feed them,
    at another frequency or by leaking.
    """
    source = f"{circuit.elements[0].id}.out"
    pairs = [(a, b) for a, b, _ in joints(circuit, state.contactor)]
    fed: set[str] = set()
    for leg in circuit.legs:
        fed |= tied(point(source, leg), pairs).keys()
    out: set[str] = set()
    for s in spans(circuit):
        if s.kind == "electronics" and s.upper in fed:
            out |= tied(s.lower, pairs).keys()
    return frozenset(out - fed)


def loops(circuit: Circuit, state: State) -> frozenset[str]:
    """The points of two ways that lie beside each other, both joined in this state."""
    pairs = [(a, b) for a, b, _ in joints(circuit, state.contactor)]
    return frozenset(
        p for i, (a, b) in enumerate(pairs) if b in tied(a, pairs[:i] + pairs[i + 1 :]) for p in (a, b)
    )
