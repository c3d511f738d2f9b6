"""A clamp meter as a person uses it: gain error of its own, a hand that is never in the same place, a
resolution.
"""

from __future__ import annotations

from dataclasses import dataclass
from random import Random


@dataclass(slots=True)
class Meter:
    """One instrument. `gain` is its own constant error, `scatter` the share by which readings differ."""

    gain: float = 1.0
    scatter: float = 0.004

    def amps(self, true: float, rng: Random) -> str:
        value = true * self.gain * rng.gauss(1, self.scatter)
        return f"{value:.2f}" if value < 10 else f"{value:.1f}"

    def volts(self, true: float, rng: Random) -> str:
        return f"{true * rng.gauss(1, 0.0008):.0f}"
