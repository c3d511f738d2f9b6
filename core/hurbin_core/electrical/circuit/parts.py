"""What a set's circuit is made of: the supply, what stands in each leg in order, what is tapped off."""

from __future__ import annotations

from itertools import pairwise
from typing import Literal

from pydantic import Field, model_validator

from ...base import HurbinError, Model
from .control import Control

Leg = Literal[1, 2, 3]
LEGS: tuple[Leg, ...] = (1, 2, 3)
Earthing = Literal[
    "solid_wye", "resistance", "ungrounded", "corner", "high_leg", "neutral", "midpoint", "unknown"
]
Kind = Literal[
    "source",
    "disconnect",
    "breaker",
    "fuse",
    "contactor",
    "overload",
    "isolator",
    "relay",
    "plug",
    "motor",
    "drive",
    "soft_starter",
    "electronics",
    "windings",
]
# What a ladder ends at. Only a motor is walked into: the others draw what no mains frequency tells of.
ENDS = ("motor", "drive", "soft_starter", "electronics", "windings")
SWITCHED = ("contactor", "relay")
_TOGETHER = ("disconnect", "breaker", "contactor", "isolator", "plug", "relay")
_OF_THREE = ("solid_wye", "resistance", "ungrounded", "corner", "high_leg", "unknown")
_OF_TWO = ("neutral", "midpoint", "unknown")


class Supply(Model):
    """Volts between the legs, and how the system is tied to ground: asked first, it decides every reading to
    ground.
    """

    volts: float = Field(gt=0, le=15000)
    earthing: Earthing = "unknown"


class Tap(Model):
    """Something fed from two legs beneath an element. `ohms`: between the legs, at mains frequency."""

    id: str = Field(min_length=1, max_length=20, pattern=r"^[A-Za-z][A-Za-z0-9]*$")
    legs: tuple[Leg, Leg]
    what: Literal["control_transformer", "heater"]
    ohms: float = Field(default=1000.0, gt=0, le=1e6)


class Element(Model):
    """One thing that the legs go through. legs: those that it stands in; none said: all. name: what it is
    called here; its id stays when it is renamed. crossing: a second contactor beside it exchanges the outer
    legs. taps: what hangs beneath.
    """

    id: str = Field(min_length=1, max_length=20, pattern=r"^[A-Za-z][A-Za-z0-9]*$")
    kind: Kind
    name: str = Field(default="", max_length=40)
    legs: list[Leg] = Field(default=[], max_length=3)
    crossing: bool = False
    taps: list[Tap] = Field(default=[], max_length=6)

    @property
    def together(self) -> bool:
        """Do its poles open all at once?"""
        return self.kind in _TOGETHER

    @property
    def switched(self) -> bool:
        """Is it closed by a coil?"""
        return self.kind in SWITCHED

    def stands_in(self, leg: int) -> bool:
        return not self.legs or leg in self.legs


class Circuit(Model):
    """The legs of a set from its source to its end: every element in the order of the current.

    kind: which of the usual ones it was made from. taps_known: nothing else hangs beneath than what is drawn.
    shared_by: how many pumps hang on the fuse. control: its control ladder,
    once somebody said how it is. Refuses what is no ladder: it begins with a source, ends with
    one end, and no two things have one name.
    """

    kind: str = Field(default="", max_length=30)
    supply: Supply
    conductors: Literal[2, 3] = 3
    taps_known: bool = False
    shared_by: int = Field(default=1, ge=1, le=50)
    elements: list[Element] = Field(min_length=2, max_length=14)
    control: Control | None = None

    @model_validator(mode="after")
    def _whole(self) -> Circuit:
        kinds = [e.kind for e in self.elements]
        if kinds[0] != "source" or kinds[-1] not in ENDS or {"source", *ENDS} & {*kinds[1:-1]}:
            raise ValueError("A circuit runs from one source to one motor, drive or starter.")
        names = [n for e in self.elements for n in (e.id, *(t.id for t in e.taps))]
        if len(set(names)) < len(names):
            raise ValueError("Two elements have the same id.")
        legs = set(LEGS[: self.conductors])
        taps = [t for e in self.elements for t in e.taps]
        if self.elements[-1].taps or any(t.legs[0] == t.legs[1] for t in taps):
            raise ValueError("A tap lies between two different legs, above the end of the circuit.")
        if any(not legs >= {*t.legs} for t in taps) or any(not legs >= {*e.legs} for e in self.elements):
            raise ValueError(f"This circuit has {self.conductors} conductors.")
        if self.supply.earthing not in (_OF_THREE if self.conductors == 3 else _OF_TWO):
            raise ValueError("This earthing does not go with that number of conductors.")
        if any(e.crossing and (e.kind != "contactor" or self.conductors == 2) for e in self.elements):
            raise ValueError("Only a three-pole contactor pair reverses.")
        return self

    @property
    def legs(self) -> tuple[Leg, ...]:
        return LEGS[: self.conductors]

    @property
    def end(self) -> Element:
        return self.elements[-1]

    @property
    def has_motor(self) -> bool:
        return self.end.kind == "motor"

    @property
    def has_contactor(self) -> bool:
        return any(e.switched for e in self.elements)

    @property
    def reverses(self) -> bool:
        return any(e.crossing for e in self.elements)


def rungs(circuit: Circuit) -> list[str]:
    """Where a probe can be put, from the source down: beneath and above each element, every leg alike."""
    out: list[str] = []
    for e in circuit.elements:
        out += [f"{e.id}.out"] if e.kind == "source" else [f"{e.id}.in"]
        if e.kind not in ("source", *ENDS):
            out.append(f"{e.id}.out")
    return out


def point(rung: str, leg: int) -> str:
    return f"{rung}.{leg}"


def rung_of(point_: str) -> str:
    """The rung of a point: `F.in.2` is on `F.in`."""
    return point_.rpartition(".")[0]


def leg_of(point_: str) -> int:
    """The leg of a point; 0 for ground."""
    end = point_.rpartition(".")[2]
    return int(end) if end.isdigit() else 0


class Span(Model):
    """What lies between two neighbouring points of one leg: inside an element, or the wire between two.
    `through`: an element that does not stand in this leg.
    """

    id: str
    leg: Leg
    upper: str
    lower: str
    within: str = ""
    kind: Kind | Literal["wire", "through"] = "wire"


def spans(circuit: Circuit) -> list[Span]:
    """Every span of every leg, from the source down."""
    out: list[Span] = []
    of = {e.id: e for e in circuit.elements}
    for upper, lower in pairwise(rungs(circuit)):
        one, two = upper.split(".")[0], lower.split(".")[0]
        inside = one == two
        for leg in circuit.legs:
            within: Kind | Literal["through"] = of[one].kind if of[one].stands_in(leg) else "through"
            out.append(
                Span(
                    id=f"{one}.{leg}" if inside else f"{one}-{two}.{leg}",
                    leg=leg,
                    upper=point(upper, leg),
                    lower=point(lower, leg),
                    within=one if inside else "",
                    kind=within if inside else "wire",
                )
            )
    return out


def known_point(circuit: Circuit, name: str) -> str:
    """A point of this circuit, or ground. Raises `point_unknown`."""
    there = {point(r, leg) for r in rungs(circuit) for leg in circuit.legs} | {"ground"}
    if name not in there:
        raise HurbinError(
            "point_unknown",
            f"This circuit has no point {name}. Edit the circuit, or read at a point that it has.",
            field="point",
            value=name,
            right=", ".join(rungs(circuit)),
        )
    return name
