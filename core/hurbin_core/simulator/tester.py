"""A two-pole voltage tester: what its display says of a voltage."""

from __future__ import annotations

from dataclasses import dataclass
from random import Random


@dataclass(slots=True)
class TwoPoleTester:
    """Loads the circuit it touches, so that what a long cable picks up breaks down; shows whole volts from
    six on.
    """

    name: str
    reads_low: float = 0.985
    works: bool = True

    def shows(self, volts: float, rng: Random, *, picked_up: bool = False) -> str:
        seen = volts * (0.02 if picked_up else 1.0) * self.reads_low * rng.gauss(1, 0.004)
        return f"{seen:.0f}" if self.works and seen >= 6 else "0"
