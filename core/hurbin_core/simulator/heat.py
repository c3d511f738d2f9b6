"""A starter's joints as contacts: ohms that a current heats, and the air that takes the heat away.

A warm joint cools by convection that grows faster than its rise, so that the rise follows the heat by a power
under one. No exponent, band or comparison of a rule is used here.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from random import Random

_CONVECTION = 0.83
_K_PER_WATT = 22.0


@dataclass(slots=True)
class Joints:
    """microhm: of a sound contact. tired: contacts with more, by place and leg ("F.out", 2)."""

    ambient_c: float
    microhm: float = 420.0
    tired: Mapping[tuple[str, int], float] = field(default_factory=dict)

    def ohm(self, place: str, leg: int) -> float:
        return self.tired.get((place, leg), self.microhm) * 1e-6

    def temp(self, place: str, leg: int, amps: float, rng: Random) -> str:
        """What a camera shows of this joint, read on tape."""
        watt = amps * amps * self.ohm(place, leg) * rng.gauss(1, 0.02)
        rise = _K_PER_WATT * watt**_CONVECTION
        return f"{self.ambient_c + rise + rng.gauss(0, 0.12):.1f}"

    def millivolts(self, element: str, leg: int, amps: float, rng: Random) -> str:
        """What a meter shows from the line to the load side of an element, its own body included."""
        body = 300e-6
        ohm = body + self.ohm(f"{element}.in", leg) + self.ohm(f"{element}.out", leg)
        return f"{1000 * amps * ohm * rng.gauss(1, 0.01):.1f}"
