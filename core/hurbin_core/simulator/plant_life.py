"""How a pump set lives through the years: season, wear, and the faults that were dealt to it."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from datetime import date
from random import Random

from .meter import Meter
from .running import Machine, Supply, read_running

FAULTS = ("drag", "joint", "worn_rings", "weak_supply", "overloaded", "clogged")


@dataclass(slots=True)
class SetLife:
    """One set from its first day. `shaft` is the share of rated power it needs when new; `summer` by how much
    the warm half of the year adds; `fault` grows from `fault_day` to `end`."""

    volts: float
    amps: float
    phases: int
    shaft: float
    summer: float
    hz_share: float
    seed: int
    fault: str = ""
    fault_day: int = 0
    days: int = 1095
    meter: Meter = field(default_factory=Meter)

    def check(self, day: int, on: date) -> tuple[list[str], list[str]]:
        """The meter's texts on this day: volts and amps of the legs."""
        rng = Random(f"{self.seed}/{day}")
        season = math.sin(2 * math.pi * (on.timetuple().tm_yday - 110) / 365)
        grown = max(0.0, (day - self.fault_day) / max(1, self.days - self.fault_day)) if self.fault else 0.0
        shaft = self.shaft * (1 + self.summer * season)
        off, joint = (0.0, 0.0, 0.0), (0.0, 0.0, 0.0)
        base = Random(self.seed)
        off = (base.gauss(0, 0.0008), base.gauss(0, 0.0008), base.gauss(0, 0.0008))
        if self.fault == "drag":
            shaft *= 1 + 0.17 * grown**1.5
        elif self.fault == "worn_rings":
            shaft *= 1 - 0.14 * grown
        elif self.fault == "overloaded":
            shaft *= 1.0 + 0.01 * grown
        elif self.fault == "clogged" and day >= self.fault_day:
            shaft *= 1.9
        elif self.fault == "joint":
            joint = (0.0, 0.24 * grown**1.4 * self.volts / self.amps / 6.5, 0.0)
        elif self.fault == "weak_supply":
            off = (0.008 * (0.6 + 0.4 * grown), -0.015 * (0.6 + 0.4 * grown), 0.005)
        grid = self.volts * self.hz_share * rng.gauss(1.008, 0.004)
        machine = Machine(volts=self.volts, amps=self.amps, joint_ohm=joint)
        volts, amps = read_running(machine, Supply(grid, off, self.phases), shaft, self.hz_share)
        return [self.meter.volts(v, rng) for v in volts], [self.meter.amps(a, rng) for a in amps]


def fault_from(name: str) -> str:
    """A fault's name, checked."""
    if name and name not in FAULTS:
        raise ValueError(f"{name} is not one of {', '.join(FAULTS)}")
    return name
