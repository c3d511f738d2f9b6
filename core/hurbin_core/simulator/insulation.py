"""A motor winding under a test of its insulation, as currents: what charges, what soaks in, what leaks.

The leak grows with temperature by an activation energy and with the water in the winding; the soaking current
falls with time by a power law; the tester shows volts over the sum. No rule's formula is used here.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date
from random import Random

_BOLTZMANN_EV = 8.617e-5
_ROOM_K = 293.15


@dataclass(frozen=True, slots=True)
class Winding:
    """Microamps per volt at 20 °C: `leak` when dry and new, `soak` at one second; `water` 0 (dry) to 1
    (drenched).
    """

    leak: float = 1.2e-4
    soak: float = 6e-3
    fall: float = 0.75
    energy_ev: float = 0.45
    water: float = 0.0
    age: float = 1.0

    def megohm(self, seconds: float, winding_c: float) -> float:
        """What the tester's volts over its current come to at this second."""
        warm = math.exp(self.energy_ev / _BOLTZMANN_EV * (1 / _ROOM_K - 1 / (winding_c + 273.15)))
        leak = self.leak * self.age * warm * (1 + 620 * math.pow(self.water, 1.5))
        soak = self.soak * (1 - 0.85 * self.water) * math.sqrt(warm) * math.pow(seconds, -self.fall)
        return 1.0 / (leak + soak)


@dataclass(frozen=True, slots=True)
class InsulationTester:
    """An insulation tester: the top of its range in MΩ, how far readings scatter, how many figures it
    shows.
    """

    name: str
    ceiling: float = 10_000.0
    scatter: float = 0.02

    def text(self, true: float, rng: Random) -> tuple[str, str]:
        """The display and its unit; over the range it says so."""
        value = true * rng.gauss(1, self.scatter)
        if value > self.ceiling:
            return f">{self.ceiling / 1000:g}", "GOhm"
        if value >= 1000:
            return f"{value / 1000:.2f}", "GOhm"
        return (f"{value:.0f}" if value >= 100 else f"{value:.1f}"), "MOhm"


FATES = ("wet", "ageing", "over_range")


@dataclass(slots=True)
class WindingLife:
    """One winding from its first day. `fate` grows from `from_day` to `days`; the air follows the season.
    From the day it is `rewound` it is a new winding with nothing before it. No two are alike: how much leaks
    and soaks in, and how fast, differs from one to the next; `years` of service before the first day add to
    the leak.
    """

    seed: int
    fate: str = ""
    from_day: int = 0
    days: int = 1095
    damp: float = 0.62
    rewound: int | None = None
    years: float = 0.0

    def at(self, day: int) -> Winding:
        base = Random(f"winding/{self.seed}")
        leak = 0.5e-4 * math.exp(base.gauss(0, 0.45)) * (1 + self.years / 15)
        soak = 6e-3 * math.exp(base.gauss(0, 0.25))
        fall = min(0.88, max(0.62, base.gauss(0.75, 0.05)))
        if self.rewound is not None and day >= self.rewound:
            return Winding(leak=0.4e-4)
        grown = max(0.0, (day - self.from_day) / max(1, self.days - self.from_day)) if self.fate else 0.0
        if self.fate == "wet":
            return Winding(leak=leak, soak=soak, fall=fall, water=0.9 * grown**1.3)
        if self.fate == "ageing":
            return Winding(leak=leak, soak=soak, fall=fall, age=1 + 20 * grown)
        if self.fate == "over_range":
            return Winding(leak=leak / 14, soak=5e-3 / 14)
        return Winding(leak=leak, soak=soak, fall=fall)

    def air(self, on: date, rng: Random) -> tuple[float, float, float]:
        """Winding, room (°C) and humidity (%) on this day; the motor has stood an hour or a night."""
        season = math.sin(2 * math.pi * (on.timetuple().tm_yday - 110) / 365)
        room = 19 + 6 * season + rng.gauss(0, 1.2)
        return (
            room + rng.choice([1.5, 3.0, 9.0, 14.0]),
            room,
            min(92.0, 100 * self.damp + 8 * season + rng.gauss(0, 4)),
        )

    def test(
        self, day: int, on: date, tester: InsulationTester, seconds: tuple[int, ...]
    ) -> tuple[tuple[float, float, float], list[tuple[int, str, str]]]:
        """The air, and what the tester showed: (second, text, unit)."""
        rng = Random(f"insulation/{self.seed}/{day}")
        air = self.air(on, rng)
        winding = self.at(day)
        hand = rng.gauss(1, 0.05)
        return air, [(s, *tester.text(winding.megohm(s, air[0]) * hand, rng)) for s in seconds]
