"""A scan once understood: temperatures by place, drops by element, the current of each leg."""

from __future__ import annotations

from dataclasses import dataclass, field

from ...base import HurbinError, Limits, Problem, exceeds, read_fields
from ...plant import MotorFacts
from ..circuit import KeptCircuit
from ..circuit.points import known_point, leg_of, rung_of, rungs, spans
from ..circuit.whole import Circuit
from ..circuit.wired import State, carrying, untold
from .entry import JointsEntry, JointSpot
from .formulas import spot_mm

AMPS = ("amps_1", "amps_2", "amps_3")


@dataclass(slots=True)
class Scan:
    """temps: °C by point. drops: mV by span. bare: the points that were read on bare metal.
    unlike: what the picture shows, in °C, at points where the figure is another. amps: A by leg,
    as far as they were read. load: the largest as a share of nameplate current.
    """

    body: JointsEntry
    kept: KeptCircuit
    motor: MotorFacts
    limits: Limits
    temps: dict[str, float] = field(default_factory=dict)
    drops: dict[str, float] = field(default_factory=dict)
    bare: set[str] = field(default_factory=set)
    unlike: dict[str, float] = field(default_factory=dict)
    amps: dict[int, float] = field(default_factory=dict)
    figures: dict[str, float] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)

    @property
    def circuit(self) -> Circuit:
        return self.kept.circuit

    @property
    def ambient(self) -> float | None:
        return self.figures.get("ambient")

    @property
    def load(self) -> float | None:
        """The largest current as a share of nameplate current; None where either is not known."""
        if not self.amps or not self.motor.amps_a:
            return None
        return max(self.amps.values()) / self.motor.amps_a

    @property
    def all_amps(self) -> bool:
        return len(self.amps) == self.circuit.conductors or (self.circuit.conductors == 2 and 1 in self.amps)

    @property
    def spot(self) -> float | None:
        """How wide is what the meter averages, in mm; None where it cannot be told."""
        distance, ratio = self.figures.get("distance"), self.figures.get("ratio")
        return spot_mm(distance, ratio) if distance and ratio else None

    def amps_of(self, leg: int) -> float | None:
        """The current of a leg; the two legs of a single-phase circuit carry one current."""
        return self.amps.get(leg) or (self.amps.get(1) if self.circuit.conductors == 2 else None)

    @property
    def under_load(self) -> frozenset[str] | None:
        """The points through which current flowed, as the contactors stood; None where nobody said how, on a
        starter that stands in several ways.
        """
        ways = [p for p in self.circuit.positions if p != "out"]
        contactor = self.body.contactor if len(ways) > 1 else (ways or ["in"])[0]
        if contactor is None:
            return None
        state = State(contactor=contactor, motor="standing" if self.circuit.has_motor else "off")
        return carrying(self.circuit, state, []) | untold(self.circuit, state)

    def rungs_read(self) -> list[str]:
        """The rungs at which a temperature was read, from the source down."""
        read = {rung_of(p) for p in self.temps}
        return [r for r in rungs(self.circuit) if r in read]

    def at(self, rung: str) -> dict[int, float]:
        """The temperatures at one rung, by leg."""
        return {leg_of(p): t for p, t in sorted(self.temps.items()) if rung_of(p) == rung}

    def across(self, element: str) -> dict[int, float]:
        """The drops across one element, by leg."""
        return {leg_of(s): mv for s, mv in sorted(self.drops.items()) if rung_of(s) == element}


def understand(body: JointsEntry, kept: KeptCircuit, motor: MotorFacts, limits: Limits) -> Scan:
    """What was read where; what cannot be is a problem at its place."""
    scan = Scan(body, kept, motor, limits)
    read, scan.problems = read_fields(body)
    scan.figures = {n: r.value for n, r in read.items()}
    scan.amps = {i + 1: scan.figures[n] for i, n in enumerate(AMPS) if scan.figures.get(n, 0) > 0}
    across = {s.id for s in spans(kept.circuit) if s.opens}
    for spot in body.spots:
        _spot(scan, spot, across)
    return scan


def _spot(scan: Scan, spot: JointSpot, across: set[str]) -> None:
    read, problems = read_fields(spot)
    for p in problems:
        scan.problems.append(p.model_copy(update={"field": f"{p.field}:{spot.at}"}))
    if "temp" in read:
        try:
            point = known_point(scan.circuit, spot.at)
        except HurbinError as error:
            scan.problems.append(Problem.of(error).model_copy(update={"field": f"temp:{spot.at}"}))
            return
        if point == "ground" or point in scan.temps:
            _refuse(
                scan, f"temp:{spot.at}", spot.at, "place_twice", "One temperature at each place of a leg."
            )
            return
        scan.temps[point] = read["temp"].value
        if scan.body.picture is not None and spot.x is not None and spot.y is not None:
            shown = scan.body.picture.at(spot.x, spot.y)
            if exceeds(abs(shown - scan.temps[point]), scan.limits.value("joints.picture")):
                scan.unlike[point] = shown
        if spot.bare or scan.body.surface == "bare":
            scan.bare.add(point)
    if "drop" in read:
        if spot.at not in across or spot.at in scan.drops:
            words = "A drop is read across one element of a leg, once."
            _refuse(scan, f"drop:{spot.at}", spot.at, "place_unknown", words)
            return
        value = read["drop"].value
        if exceeds(value, scan.limits.value("joints.drop_most")):
            words = "That is no drop across a closed contact or fuse: check the unit, or whether it is open."
            _refuse(scan, f"drop:{spot.at}", f"{value:g} mV", "drop_beyond", words)
            return
        scan.drops[spot.at] = value


def _refuse(scan: Scan, place: str, value: str, code: str, message: str) -> None:
    scan.problems.append(
        Problem(code=code, field=place, value=value, message=message, right="each place once")
    )
