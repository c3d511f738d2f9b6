"""Windings and a drive's bridge as a meter finds them: copper by its temperature coefficient, silicon by its
knee.
"""

from __future__ import annotations

from dataclasses import dataclass
from random import Random

# Annealed copper, per kelvin at 20 °C.
_ALPHA_20 = 0.00393


@dataclass(slots=True)
class Coils:
    """Three windings from a star point, ohms at 20 °C each; what the meter's leads add."""

    ohms_20: tuple[float, float, float]
    lead_ohm: float = 0.11

    def pair(self, a: int, b: int, temp_c: float, rng: Random) -> str:
        warm = 1 + _ALPHA_20 * (temp_c - 20)
        ohm = (self.ohms_20[a] + self.ohms_20[b]) * warm + self.lead_ohm
        return f"{ohm * rng.gauss(1, 0.0006):.3f}"

    def leads(self, rng: Random) -> str:
        return f"{self.lead_ohm + rng.gauss(0, 0.0005):.3f}"


@dataclass(slots=True)
class Bridge:
    """knee: volts of a diode at a meter's milliampere, of the input and of the output stage."""

    knee_in: float = 0.462
    knee_out: float = 0.391

    def forward(self, leg: str, rng: Random) -> str:
        knee = self.knee_in if leg in "rst" else self.knee_out
        return f"{rng.gauss(knee, 0.006):.3f}"
