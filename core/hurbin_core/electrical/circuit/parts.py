"""What a set's circuit is made of: the supply, what stands in each leg in order, what is tapped off."""

from __future__ import annotations

from typing import Literal, get_args

from pydantic import Field

from ...base import Model
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
# What may stand above a motor too: no mains frequency passes through it.
ELECTRONICS = ("drive", "soft_starter")
SWITCHED = ("contactor", "relay")
# How a starter stands, other than all out: its contactor in, or its main one alone; the second of a
# reversing pair; in star, in delta; on its drive, on its bypass; one group of windings, the other, both.
Position = Literal["out", "in", "reverse", "star", "delta", "drive", "bypass", "first", "second", "both"]
POSITIONS: tuple[Position, ...] = get_args(Position)
_TOGETHER = ("disconnect", "breaker", "contactor", "isolator", "plug", "relay")


class Supply(Model):
    """Volts between the legs, and how the system is tied to ground: asked first, it decides every reading to
    ground.
    """

    volts: float = Field(gt=0, le=15000)
    earthing: Earthing = "unknown"


class Tap(Model):
    """Something fed from two legs beneath an element. `ohms`: between the legs, at mains frequency. Another
    set on the same fuses is on all of them, whatever is said.
    """

    id: str = Field(min_length=1, max_length=20, pattern=r"^[A-Za-z][A-Za-z0-9]*$")
    legs: tuple[Leg, Leg]
    what: Literal["control_transformer", "heater", "second_set"]
    ohms: float = Field(default=1000.0, gt=0, le=1e6)


class Element(Model):
    """One thing that the legs go through. legs: those that it stands in; none said: all. name: what it is
    called here; its id stays when it is renamed. crossing: a second contactor beside it exchanges the outer
    legs. taps: what hangs beneath. leads: of a motor; six: both ends of each winding are brought out. joins:
    a contactor that ties the legs together beneath it, the star point. closes: in which positions of the
    starter a contactor is in; none said: in all but out.
    """

    id: str = Field(min_length=1, max_length=20, pattern=r"^[A-Za-z][A-Za-z0-9]*$")
    kind: Kind
    name: str = Field(default="", max_length=40)
    legs: list[Leg] = Field(default=[], max_length=3)
    crossing: bool = False
    taps: list[Tap] = Field(default=[], max_length=6)
    leads: Literal[3, 6] = 3
    joins: bool = False
    closes: list[Position] = Field(default=[], max_length=9)

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

    def is_in(self, position: Position) -> bool:
        """Is this contactor in, in that position of the starter?"""
        return position in self.closes if self.closes else position != "out"


class Path(Model):
    """A second way beside the ladder. leaves: the rung that it starts from; lands: the rung that it ends at,
    none where its last element is an end of its own; onto: the leg there that each of its legs comes out at.
    """

    leaves: str = Field(max_length=30)
    lands: str = Field(default="", max_length=30)
    onto: tuple[Leg, Leg, Leg] = (1, 2, 3)
    elements: list[Element] = Field(min_length=1, max_length=8)


class Wiring(Model):
    """The legs of a set from its source to its end: every element in the order of the current.

    kind: which of the usual ones it was made from. taps_known: nothing else hangs beneath than what is drawn.
    shared_by: how many pumps hang on the fuse. paths: what stands beside the ladder: the delta contactor of a
    ring of windings, a bypass, a second group of windings. control: its control ladder, once somebody said
    how it is.
    """

    kind: str = Field(default="", max_length=30)
    supply: Supply
    conductors: Literal[2, 3] = 3
    taps_known: bool = False
    shared_by: int = Field(default=1, ge=1, le=50)
    elements: list[Element] = Field(min_length=2, max_length=14)
    paths: list[Path] = Field(default=[], max_length=2)
    control: Control | None = None

    @property
    def legs(self) -> tuple[Leg, ...]:
        return LEGS[: self.conductors]

    @property
    def runs(self) -> list[list[Element]]:
        """The ladder, then each path beside it."""
        return [self.elements, *(p.elements for p in self.paths)]

    @property
    def every(self) -> list[Element]:
        """Every element, of the ladder and of the paths."""
        return [e for run in self.runs for e in run]

    @property
    def motor(self) -> Element | None:
        return next((e for e in self.elements if e.kind == "motor"), None)

    @property
    def has_motor(self) -> bool:
        return self.motor is not None

    @property
    def six_leads(self) -> bool:
        """Are both ends of each winding brought out, to be joined in star or in delta?"""
        return self.motor is not None and self.motor.leads == 6

    @property
    def has_contactor(self) -> bool:
        return any(e.switched for e in self.every)

    @property
    def reverses(self) -> bool:
        return any(e.crossing for e in self.elements)

    @property
    def positions(self) -> list[Position]:
        """How this starter can stand: out, and each position in which a contactor of it is in."""
        switched = [e for e in self.every if e.switched]
        said = {p for e in switched for p in e.closes}
        alone = {"in"} if any(not e.closes for e in switched) else set()
        back = {"reverse"} if self.reverses else set()
        return [p for p in POSITIONS if p == "out" or p in said | alone | back]
