"""A circuit that holds together: from one source to its end, every path on the ladder, no two legs joined."""

from __future__ import annotations

from collections.abc import Iterator

from pydantic import model_validator

from .parts import ELECTRONICS, ENDS, Wiring
from .points import run_rungs, shorted

_OF_THREE = ("solid_wye", "resistance", "ungrounded", "corner", "high_leg", "unknown")
_OF_TWO = ("neutral", "midpoint", "unknown")


class Circuit(Wiring):
    """The wiring of a set that is a ladder, with what stands beside it. Refuses what is none, and what joins
    two legs in a position of its starter.
    """

    @model_validator(mode="after")
    def _whole(self) -> Circuit:
        wrong = next(_wrong(self), None)
        if wrong:
            raise ValueError(wrong)
        return self


def _wrong(circuit: Wiring) -> Iterator[str]:
    """What is wrong with it, if anything, the first of it first."""
    yield from _wrong_order(circuit)
    yield from _wrong_paths(circuit)
    names = [n for e in circuit.every for n in (e.id, *(t.id for t in e.taps))]
    if len(set(names)) < len(names):
        yield "Two elements have the same id."
    legs = set(circuit.legs)
    taps = [t for e in circuit.every for t in e.taps]
    ends = [run[-1] for run in circuit.runs if run[-1].kind in ENDS or run[-1].joins]
    untapped = [*ends, *(e for e in circuit.every if e.kind in ("motor", *ELECTRONICS))]
    if any(e.taps for e in untapped) or any(t.legs[0] == t.legs[1] for t in taps):
        yield "A tap lies between two different legs, above the end of the circuit."
    if any(not legs >= {*t.legs} for t in taps) or any(not legs >= {*e.legs} for e in circuit.every):
        yield f"This circuit has {circuit.conductors} conductors."
    if circuit.supply.earthing not in (_OF_THREE if circuit.conductors == 3 else _OF_TWO):
        yield "This earthing does not go with that number of conductors."
    if any(e.crossing and (e.kind != "contactor" or circuit.conductors == 2) for e in circuit.every):
        yield "Only a three-pole contactor pair reverses."
    if any(e.crossing for p in circuit.paths for e in p.elements):
        yield "Draw a reversing pair in the ladder itself, not beside it."
    for position in circuit.positions:
        both = shorted(circuit, position)
        if both:
            yield f"L{both[0]} and L{both[1]} are joined when the starter is in position “{position}”."


def _wrong_order(circuit: Wiring) -> Iterator[str]:
    ring = circuit.six_leads
    kinds = [e.kind for e in circuit.elements]
    inner = [e.kind for e in circuit.elements[1:-1] if not (ring and e.kind == "motor")]
    ends = kinds[-1] in ENDS and not (ring and kinds[-1] == "motor")
    star = circuit.elements[-1].joins and ring
    if kinds[0] != "source" or not (ends or star) or {"source", *ENDS} - {*ELECTRONICS} & {*inner}:
        yield "A circuit runs from one source to one motor, drive or starter."
    joins = [e for e in circuit.every if e.joins]
    if (joins or ring) and (len(joins) != 1 or not star or circuit.conductors == 2 or kinds[-2] != "motor"):
        yield "The six leads of a motor end in one star contactor, on three conductors."
    if any(e.joins and e.kind != "contactor" for e in circuit.every):
        yield "Only a contactor joins the star point."
    if any("out" in e.closes or (e.closes and not e.switched) for e in circuit.every):
        yield "Only a contactor or a relay is in, and none is while the starter is out."
    if any(e.leads == 6 and e.kind != "motor" for e in circuit.every):
        yield "Only a motor has six leads."


def _wrong_paths(circuit: Wiring) -> Iterator[str]:
    order = run_rungs(circuit.elements)
    starred = [f"{e.id}.{side}" for e in circuit.elements if e.joins for side in ("in", "out")]
    if circuit.paths and circuit.conductors == 2:
        yield "A path beside the ladder needs three conductors."
    for path in circuit.paths:
        inner = path.elements if path.lands else path.elements[:-1]
        if any(e.kind in ("source", *ENDS) for e in inner):
            yield "Beside the ladder stand contactors, fuses and overloads, and no source, motor or drive."
        if not path.lands and path.elements[-1].kind != "windings":
            yield "A path beside the ladder comes back to it, or ends in a group of windings of its own."
        there = [r for r in order if r not in starred]
        if path.leaves not in there or (path.lands and path.lands not in there):
            yield "A path beside the ladder starts and ends at a place of the ladder."
        elif path.lands and order.index(path.lands) <= order.index(path.leaves):
            yield "A path beside the ladder comes back beneath where it left."
        if sorted(path.onto) != [1, 2, 3]:
            yield "Each leg of a path comes out at a leg of its own."
    ends = [p for p in circuit.paths if circuit.motor and p.lands == f"{circuit.motor.id}.out"]
    if circuit.six_leads and (len(ends) != 1 or any(o == i for i, o in enumerate(ends[0].onto, 1))):
        yield "A delta contactor joins each winding's end to the start of another."
