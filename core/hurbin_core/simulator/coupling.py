"""A coupling that wanders, and the hand that feels it: what a straightedge and a feeler show of it, to the nearest leaf."""

from __future__ import annotations

from dataclasses import dataclass
from random import Random


@dataclass(slots=True)
class Coupling:
    """Where the motor really stands (mm at the coupling, mm per mm back from it), and how far it wanders in a year."""

    up: float
    right: float
    tail_up: float
    tail_right: float
    wander_up: float = 0.0
    wander_tail: float = 0.0
    face: float = 150.0
    unequal: float = 0.0

    def felt(self, years: float, rng: Random) -> dict[str, str]:
        """The eight figures of a straightedge and feeler, to 0.05 and 0.01 mm, by a hand that is never quite the same."""
        up, tail = self.up + self.wander_up * years, self.tail_up + self.wander_tail * years
        rim = {12: up, 3: self.right, 6: -up, 9: -self.right}
        lean = {12: tail, 3: self.tail_right, 6: -tail, 9: -self.tail_right}
        out = {f"step_{k}": f"{round((v + self.unequal + rng.gauss(0, 0.01)) / 0.01) * 0.01:.2f}" for k, v in rim.items()}
        return out | {f"gap_{k}": f"{3.1 - t * self.face / 2 + rng.gauss(0, 0.008):.2f}" for k, t in lean.items()}
