"""What is drawn of a coupling: shafts, passes, four feet, bolts. Geometry and pieces, no pixels."""

from datetime import datetime
from typing import Literal

from ..base import Model, Phrase, Quantity, Verdict


class ShaftPoint(Model):
    """One place along a shaft: `x`, `y` from 0 to 1 of the drawing, what is read there, what a foot is to
    do.
    """

    name: str
    x: float
    y: float
    says: Quantity | None = None
    move: Phrase | None = None


class ShaftView(Model):
    """The motor's axis against the pump's from one side: exaggerated so many times. Not `known`: that plane
    was not read. Geometry, not pixels.
    """

    view: Literal["side", "top"]
    known: bool
    times: int = 1
    target: float = 0.5
    points: list[ShaftPoint] = []


class PassView(Model):
    """One pass of a visit beside the others: what it read, how it stands, and what is wrong with it."""

    uuid: str
    title: str
    taken: str
    at: datetime
    values: dict[str, Quantity] = {}
    verdict: Verdict | None = None
    says: list[Phrase] = []
    shafts: list[ShaftView] = []


class PackPiece(Model):
    """One shim of a pack, from the base up. `drawn`: its thickness in mm, for the drawing."""

    size: Quantity
    drawn: float = 0.0
    state: Literal["stays", "out", "in"]


class FootView(Model):
    """One foot: what it asks for, its pack piece by piece, and what is done there. `pack`: the final pack as
    it is typed.
    """

    foot: str
    title: str
    asks: Quantity
    pieces: list[PackPiece]
    take_out: list[Quantity]
    put_in: list[Quantity]
    total: Quantity
    pack: str


class PlanChoice(Model):
    """One way to do it: the four feet, what it leaves at the coupling, and why it stands where it stands."""

    feet: list[FootView]
    leaves_offset: Quantity
    leaves_angle: Quantity
    words: list[Phrase]


class PlanView(Model):
    """The shim plan: the best choice, the next best, one edited in pencil, the push sideways, and what stands
    against it.
    """

    choice: PlanChoice | None = None
    others: list[PlanChoice] = []
    edited: PlanChoice | None = None
    push_front: Quantity | None = None
    push_rear: Quantity | None = None
    front_move: Phrase | None = None
    rear_move: Phrase | None = None
    van: str = ""
    says: list[Phrase] = []
    waits: list[Phrase] = []


class BoltView(Model):
    """Bolts in the order in which they are drawn up, and the torque of each round."""

    order: list[int]
    steps: list[Quantity] = []


class AlignmentView(Model):
    """The drawing of a visit. defaults: what a field says while nobody says otherwise."""

    shafts: list[ShaftView] = []
    passes: list[PassView] = []
    plan: PlanView | None = None
    bolts: BoltView | None = None
    defaults: dict[str, str] = {}
