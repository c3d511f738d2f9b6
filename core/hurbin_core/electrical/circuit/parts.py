"""What a set's circuit is made of: the supply, what stands in each leg in order, what is tapped off."""

from __future__ import annotations

from itertools import pairwise
from typing import Literal

from pydantic import Field, model_validator

from ...base import HurbinError, Model

Leg = Literal[1, 2, 3]
LEGS: tuple[Leg, ...] = (1, 2, 3)
Earthing = Literal["solid_wye", "resistance", "ungrounded", "corner", "high_leg", "unknown"]
Kind = Literal["source", "disconnect", "breaker", "fuse", "contactor", "overload", "isolator", "motor"]


class Supply(Model):
    """Volts between the legs, and how the system is tied to ground: asked first, it decides every reading to
    ground.
    """

    volts: float = Field(gt=0, le=15000)
    earthing: Earthing = "unknown"


class Tap(Model):
    """Something fed from two legs beneath an element. `ohms`: between the legs, at mains frequency."""

    id: str = Field(min_length=1, max_length=20)
    legs: tuple[Leg, Leg]
    what: Literal["control_transformer", "heater"]
    ohms: float = Field(gt=0)


class Element(Model):
    """One thing that every leg goes through. `together`: its poles open all at once; `taps` hang beneath."""

    id: str = Field(min_length=1, max_length=20, pattern=r"^[A-Za-z][A-Za-z0-9]*$")
    kind: Kind
    taps: list[Tap] = []

    @property
    def together(self) -> bool:
        return self.kind in ("disconnect", "breaker", "contactor", "isolator")


class Circuit(Model):
    """The three legs of a set from its source to its motor: every element in the order of the current.

    Raises `circuit_wrong` through its refusals: it begins with a source and ends with a motor, and no two
    things have one name.
    """

    supply: Supply
    elements: list[Element] = Field(min_length=2, max_length=30)

    @model_validator(mode="after")
    def _whole(self) -> Circuit:
        kinds = [e.kind for e in self.elements]
        if kinds[0] != "source" or kinds[-1] != "motor" or {"source", "motor"} & {*kinds[1:-1]}:
            raise ValueError("a circuit goes from one source to one motor")
        names = [n for e in self.elements for n in (e.id, *(t.id for t in e.taps))]
        if len(set(names)) < len(names):
            raise ValueError("two things have one name")
        if self.elements[-1].taps or any(t.legs[0] == t.legs[1] for e in self.elements for t in e.taps):
            raise ValueError("a tap lies between two legs, above the motor")
        return self


def rungs(circuit: Circuit) -> list[str]:
    """Where a probe can be put, from the source down: beneath and above each element, every leg alike."""
    out: list[str] = []
    for e in circuit.elements:
        out += [f"{e.id}.out"] if e.kind == "source" else [f"{e.id}.in"]
        if e.kind not in ("source", "motor"):
            out.append(f"{e.id}.out")
    return out


def point(rung: str, leg: int) -> str:
    return f"{rung}.{leg}"


class Span(Model):
    """What lies between two neighbouring points of one leg: inside an element, or the wire between two."""

    id: str
    leg: Leg
    upper: str
    lower: str
    within: str = ""
    kind: Kind | Literal["wire"] = "wire"


def spans(circuit: Circuit) -> list[Span]:
    """Every span of every leg, from the source down."""
    out: list[Span] = []
    kinds = {e.id: e.kind for e in circuit.elements}
    places = rungs(circuit)
    for upper, lower in pairwise(places):
        one, two = upper.split(".")[0], lower.split(".")[0]
        inside = one == two
        for leg in LEGS:
            out.append(
                Span(
                    id=f"{one}.{leg}" if inside else f"{one}-{two}.{leg}",
                    leg=leg,
                    upper=point(upper, leg),
                    lower=point(lower, leg),
                    within=one if inside else "",
                    kind=kinds[one] if inside else "wire",
                )
            )
    return out


def known_point(circuit: Circuit, name: str) -> str:
    """A point of this circuit, or ground. Raises `point_unknown`."""
    there = {point(r, leg) for r in rungs(circuit) for leg in LEGS} | {"ground"}
    if name not in there:
        raise HurbinError(
            "point_unknown",
            f"This circuit has no point {name}.",
            field="point",
            value=name,
            right=", ".join(rungs(circuit)),
        )
    return name
