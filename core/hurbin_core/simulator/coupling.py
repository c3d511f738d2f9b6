"""A coupling that wanders, and the hand that feels it: what a straightedge and a feeler show of it, to the
nearest leaf.
"""

from __future__ import annotations

from dataclasses import dataclass
from random import Random

LONG_AGO = 1095  # days before today at which a life begins


@dataclass(slots=True)
class Coupling:
    """Where the motor really stands (mm at the coupling, mm per mm back from it), and how far it wanders in a
    year from `settled` days ago on.
    """

    up: float
    right: float
    tail_up: float
    tail_right: float
    wander_up: float = 0.0
    wander_tail: float = 0.0
    face: float = 150.0
    unequal: float = 0.0
    settled: int = LONG_AGO

    def stands(self, days_ago: int) -> tuple[float, float]:
        """Height at the coupling and lean of the motor so many days ago."""
        years = (self.settled - days_ago) / 365
        return self.up + self.wander_up * years, self.tail_up + self.wander_tail * years

    def raised(self, front: float, rear: float, x_front: float, x_rear: float) -> None:
        """Its feet were raised by so much, front and rear; the body is stiff."""
        turn = (rear - front) / (x_rear - x_front)
        self.tail_up += turn
        self.up += front - turn * x_front

    def pushed(self, days_ago: int) -> None:
        """Pushed straight by hand to within what a hand can do; from here on it wanders anew."""
        up, tail = self.stands(days_ago)
        self.up, self.tail_up, self.settled = up, tail, days_ago
        self.right, self.tail_right = self.right * 0.2, self.tail_right * 0.2

    def felt(self, days_ago: int, rng: Random) -> dict[str, str]:
        """The eight figures of a straightedge and feeler, to 0.01 mm, by a hand that is never quite the
        same.
        """
        up, tail = self.stands(days_ago)
        rim = {12: up, 3: self.right, 6: -up, 9: -self.right}
        lean = {12: tail, 3: self.tail_right, 6: -tail, 9: -self.tail_right}
        out = {
            f"step_{k}": f"{round((v + self.unequal + rng.gauss(0, 0.01)) / 0.01) * 0.01:.2f}"
            for k, v in rim.items()
        }
        return out | {
            f"gap_{k}": f"{3.1 - t * self.face / 2 + rng.gauss(0, 0.008):.2f}" for k, t in lean.items()
        }
