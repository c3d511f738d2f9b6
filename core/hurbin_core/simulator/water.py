"""Water as it behaves: a pump with its rings against pipes, a loop with its cushion, a well with its level.
By stepping and balancing; no rule's formula or fit is used here.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from random import Random

_G = 9.81


def density(t_c: float) -> float:
    """Water, kg/m³, by Kell's rational fit (1975), from memory."""
    t = t_c
    top = 999.83952 + 16.945176 * t - 7.9870401e-3 * t**2 - 46.170461e-6 * t**3 + 105.56302e-9 * t**4
    return (top - 280.54253e-12 * t**5) / (1 + 16.87985e-3 * t)


@dataclass(frozen=True, slots=True)
class Impeller:
    """What it would make without leaking: Euler's head less slip, friction and shock. q: m³/h."""

    top: float
    best: float
    efficiency: float

    def head(self, q: float) -> float:
        x = q / self.best
        return float(self.top * (1.0 - 0.06 * x - 0.18 * x**2.1))

    def power_kw(self, q: float, rho: float) -> float:
        """Hydraulic, disc friction and recirculation, each for itself."""
        x = q / self.best
        at_best = rho * _G * self.best / 3600 * self.head(self.best) / 1000 / self.efficiency
        return at_best * (0.5 + 0.56 * x - 0.06 * x * x)


@dataclass(frozen=True, slots=True)
class RingedPump:
    """An impeller with a leaking ring; gap: of a new one 1."""

    impeller: Impeller
    leak: float = 0.045
    gap: float = 1.0

    def inner(self, head: float) -> float:
        """What runs back: an orifice that opens with its gap."""
        opened = self.leak * self.impeller.best * self.gap**1.25
        return float(opened * math.sqrt(max(head, 0) / self.impeller.top))

    def at(self, q: float) -> float:
        """Head at a delivered flow: the impeller carries that and what runs back, until both agree."""
        head = self.impeller.head(q)
        for _ in range(60):
            head = 0.5 * head + 0.5 * self.impeller.head(q + self.inner(head))
        return head

    def against(self, static: float, k: float) -> tuple[float, float]:
        """Where it settles against its pipes: (m³/h, m), stepped until it no longer moves."""
        low, high = 0.0, self.impeller.best * 2
        for _ in range(80):
            q = (low + high) / 2
            low, high = (q, high) if self.at(q) > static + k * q * q else (low, q)
        return low, self.at(low)

    def power_kw(self, q: float, rho: float) -> float:
        return self.impeller.power_kw(q + self.inner(self.at(q)), rho)

    def sheet(self, steps: int = 7) -> str:
        """Its curve as a manufacturer prints it: cold water, a row a flow."""
        rows = ["flow m3/h; head m; power kW"]
        for i in range(steps):
            q = self.impeller.best * 1.35 * i / (steps - 1)
            rows.append(f"{q:.1f}; {self.at(q):.1f}; {self.power_kw(q, 998.0):.2f}")
        return "\n".join(rows)


@dataclass(slots=True)
class GasLoop:
    """A closed loop: litres of water in steel, a vessel whose gas follows its own law."""

    volume: float
    vessel: float
    precharge: float
    high: float
    mass: float = 0.0

    def fill(self, bar: float, t_c: float) -> None:
        """Filled to this pressure at this temperature: how many kg are in it then."""
        self.mass = density(t_c) / 1000 * (self._pipe(t_c) + self.vessel - self._gas(bar, t_c))

    def lose(self, litres: float, t_c: float) -> None:
        self.mass -= litres * density(t_c) / 1000

    def bar(self, t_c: float) -> float:
        """The pressure at which water and gas share what room there is."""
        low, high = -0.9, 12.0
        for _ in range(90):
            p = (low + high) / 2
            room = self._pipe(t_c) + self.vessel - self._gas(p, t_c)
            low, high = (p, high) if density(t_c) / 1000 * room < self.mass else (low, p)
        return low

    def _pipe(self, t_c: float) -> float:
        return self.volume * (1 + 3.6e-5 * (t_c - 20))

    def _gas(self, bar: float, t_c: float) -> float:
        """The vessel hangs in the room: its gas warms by a tenth of the loop."""
        warm = (273.15 + 20 + 0.1 * (t_c - 20)) / (273.15 + 20)
        return min(self.vessel, self.vessel * (self.precharge + 1.013) / (bar + 1.013) * warm)


@dataclass(frozen=True, slots=True)
class Well:
    """A wet well with what flows in, in l/s, and the area of its water, m²."""

    area: float
    inflow: float

    def rise_s(self, metres: float) -> float:
        """Seconds until it rose so far, a tenth of a second at a time."""
        level, t = 0.0, 0.0
        while level < metres and t < 36000:
            level += self.inflow / 1000 / self.area * 0.1
            t += 0.1
        return t

    def fall_s(self, metres: float, pump_l_s: float) -> float:
        """Seconds until the pump took it down so far; the pump tires a little as it lifts higher."""
        level, t = 0.0, 0.0
        while level < metres and t < 36000:
            out = pump_l_s * (1 - 0.02 * level)
            level += (out - self.inflow) / 1000 / self.area * 0.1
            t += 0.1
        return t


@dataclass(frozen=True, slots=True)
class Gauge:
    """A pressure gauge: its own error for good, and how it is read. step: bar."""

    top: float
    off: float
    step: float = 0.02

    def read(self, bar: float, rng: Random) -> str:
        shown = bar + self.off * self.top + rng.gauss(0, 0.2) * self.step
        return f"{round(shown / self.step) * self.step:.2f}"
