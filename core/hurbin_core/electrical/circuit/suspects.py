"""What can be open in a circuit, and what each pair of points then reads, in one state and with one meter."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from ...base import RULEBOOK, Model
from .network import GROUND, Solved
from .parts import Leg
from .points import Span, joints, point, rung_of, rungs, spans
from .whole import Circuit
from .wired import Meter, State, potentials, solved_with, untold

Class = Literal["full", "part", "zero", "ghost", "untold"]
SOUND = "sound"


class Suspect(Model):
    """Something that may be open: these spans. `weight`: how often it is it, before anything was read."""

    id: str
    open: list[str]
    weight: float
    leg: Leg | None = None
    upper: str = ""
    lower: str = ""


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
    every = [s for s in spans(circuit) if s.kind not in ("through", "electronics")]
    weight = FIGURES.weights
    motor = {f"{circuit.motor.id}.{side}" for side in ("in", "out")} if circuit.motor else set()
    ends = motor | {f"{run[-1].id}.in" for run in circuit.runs}

    def often(s: Span) -> float:
        lead = s.kind == "wire" and ends & {rung_of(s.lower), *({rung_of(s.upper)} & motor)}
        return weight["motor_lead" if lead else s.kind]

    out = [
        Suspect(id=s.id, open=[s.id], weight=often(s), leg=s.leg, upper=s.upper, lower=s.lower) for s in every
    ]
    for e in circuit.every:
        poles = [s for s in every if s.within == e.id]
        if e.together and len(poles) > 1:
            out.append(
                Suspect(
                    id=e.id,
                    open=[s.id for s in poles],
                    weight=weight["all_poles"],
                    upper=f"{e.id}.in",
                    lower=f"{e.id}.out",
                )
            )
    source = circuit.elements[0].id
    out += [
        Suspect(id=f"supply.{leg}", open=[f"supply.{leg}"], weight=weight["supply"], leg=leg)
        for leg in circuit.legs
    ]
    dead = [f"supply.{leg}" for leg in circuit.legs]
    out.append(Suspect(id="supply", open=dead, weight=weight["supply"], upper=source))
    return [*out, Suspect(id=SOUND, open=[], weight=weight["sound"])]


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
    across = ("through", "electronics")
    out += [Probe(one=s.upper, two=s.lower) for s in spans(circuit) if s.within and s.kind not in across]
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
    volts = dict(zip(map(str, circuit.legs), potentials(circuit), strict=True))
    return abs(volts[one] - volts[two])


def outcome(state: State, probe: Probe, right: float, solved: Solved) -> Outcome:
    """What this probe reads in a circuit that is solved; right: what is right there, V."""
    read = solved.across(probe.one, probe.two, 1 / FIGURES.meter_ohms[state.meter])
    if read is None:
        return Outcome(reads="zero" if state.meter == "low" else "ghost")
    percent = 100 * abs(read) / right
    reads: Class = "full" if percent > FIGURES.full else "zero" if percent < FIGURES.zero else "part"
    return Outcome(reads=reads, percent=round(percent, 2))


Table = dict[str, dict[tuple[str, str], Outcome]]


def table(circuit: Circuit, state: State, of: Sequence[Suspect], at: Sequence[Probe]) -> Table:
    """What each probe reads for each suspect; where electronics feed, nothing that a meter could tell."""
    dark = untold(circuit, state)
    told = [(p, right_volts(circuit, p)) for p in at if not dark & {p.one, p.two}]
    rest = {(p.one, p.two): Outcome(reads="untold") for p in at if dark & {p.one, p.two}}
    wires = joints(circuit, state.contactor)
    return {
        s.id: rest | {(p.one, p.two): outcome(state, p, right, found) for p, right in told}
        for s in of
        for found in [solved_with(circuit, state, s.open, wires)]
    }


__all__ = [
    "SOUND",
    "Outcome",
    "Probe",
    "Suspect",
    "Table",
    "outcome",
    "probes",
    "right_volts",
    "suspects",
    "table",
    "to_ground",
]
