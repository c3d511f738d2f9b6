"""A sheet of duty as it is known: which curve holds now, head, every flow there is a way to know."""

from __future__ import annotations

from dataclasses import dataclass, field

from ...base import Limits, Phrase, exceeds
from ...logbook import Conditions
from ...plant import MotorFacts
from ..curve import Curve, System
from ..fluid import Fluid
from ..pump import Pump
from ..reading import Gauges, Legs, Typed
from .entry import DutyEntry


@dataclass(frozen=True, slots=True)
class Way:
    """One way to know the flow: m³/h, and what it can be off by."""

    id: str
    q: float
    u: float

    def agrees(self, other: Way) -> bool:
        return not exceeds(abs(self.q - other.q), (self.u**2 + other.u**2) ** 0.5)


@dataclass(slots=True)
class Duty:
    """The sheet once read. curve: at the speed and density of now. head: m of this liquid, with u_head. ways:
    flows, the surest first. refused: ways that were typed and are not taken, and why.
    """

    body: DutyEntry
    t: Typed
    limits: Limits
    motor: MotorFacts
    pump: Pump
    fluid: Fluid | None
    gauges: Gauges
    legs: Legs
    speed: float | None = None
    curve: Curve | None = None
    head: float | None = None
    u_head: float | None = None
    parts: tuple[float, float, float] | None = None
    ways: list[Way] = field(default_factory=list)
    refused: list[Phrase] = field(default_factory=list)
    system: System | None = None

    @property
    def running(self) -> bool:
        return self.body.state == "running"

    @property
    def flow(self) -> Way | None:
        """The surest flow."""
        return self.ways[0] if self.ways else None

    @property
    def apart(self) -> tuple[Way, Way] | None:
        """The two ways that disagree most by their own errors; None where all agree."""
        pairs = [(a, b) for i, a in enumerate(self.ways) for b in self.ways[i + 1 :] if not a.agrees(b)]
        return max(pairs, key=lambda p: abs(p[0].q - p[1].q), default=None)

    @property
    def key(self) -> str:
        """The state that makes two of these figures comparable."""
        b = self.body
        valve: str | tuple[str, str] | None = b.valve
        if b.valve == "throttled" and b.turns is not None and b.turns.text.strip():
            valve = ("throttled", b.turns.text.strip())
        hz = f"{self.t.got['hz']:g}" if "hz" in self.t.got else "line"
        return Conditions.of(pump=b.state, valve=valve, hz=hz, header=b.others).key
