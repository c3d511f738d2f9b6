"""A pump's curve: through its own points, never outside them; at other speeds and impellers; where it meets a
system.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from .fluid import G
from .formulas import viscous
from .roots import meets

How = Literal["points", "three", "plate"]


def monotone_slopes(x: Sequence[float], y: Sequence[float]) -> tuple[float, ...]:
    """Slopes of a smooth line through points that never overshoots them (Fritsch and Carlson, 1980, as a
    weighted harmonic mean). Two points: a straight line.
    """
    n = len(x)
    d = [(y[i + 1] - y[i]) / (x[i + 1] - x[i]) for i in range(n - 1)]
    if n == 2:
        return d[0], d[0]
    out = [_end(x[1] - x[0], x[2] - x[1], d[0], d[1])]
    for i in range(1, n - 1):
        a, b = d[i - 1], d[i]
        if a * b <= 0:
            out.append(0.0)
            continue
        h0, h1 = x[i] - x[i - 1], x[i + 1] - x[i]
        w0, w1 = 2 * h1 + h0, h1 + 2 * h0
        out.append((w0 + w1) / (w0 / a + w1 / b))
    return (*out, _end(x[-1] - x[-2], x[-2] - x[-3], d[-1], d[-2]))


def _end(h0: float, h1: float, d0: float, d1: float) -> float:
    m = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1)
    if m * d0 <= 0:
        return 0.0
    return 3 * d0 if d0 * d1 <= 0 and abs(m) > abs(3 * d0) else m


@dataclass(frozen=True, slots=True)
class Line:
    """A smooth line through points; x strictly rising."""

    x: tuple[float, ...]
    y: tuple[float, ...]
    m: tuple[float, ...]

    @classmethod
    def through(cls, x: Sequence[float], y: Sequence[float]) -> Line:
        return cls(tuple(x), tuple(y), monotone_slopes(x, y))

    def at(self, x: float) -> float | None:
        """None outside its own points."""
        if not self.x[0] <= x <= self.x[-1]:
            return None
        i, t, h = self._segment(x)
        a, b = self.y[i], self.y[i + 1]
        p, q = self.m[i] * h, self.m[i + 1] * h
        return a + t * (p + t * (3 * (b - a) - 2 * p - q + t * (p + q - 2 * (b - a))))

    def slope(self, x: float) -> float | None:
        if not self.x[0] <= x <= self.x[-1]:
            return None
        i, t, h = self._segment(x)
        a, b = self.y[i], self.y[i + 1]
        p, q = self.m[i] * h, self.m[i + 1] * h
        return (p + t * (2 * (3 * (b - a) - 2 * p - q) + 3 * t * (p + q - 2 * (b - a)))) / h

    def _segment(self, x: float) -> tuple[int, float, float]:
        i = min(max(bisect_right(self.x, x) - 1, 0), len(self.x) - 2)
        h = self.x[i + 1] - self.x[i]
        return i, (x - self.x[i]) / h, h

    def scaled(self, x: float, y: float) -> Line:
        return Line(
            tuple(v * x for v in self.x), tuple(v * y for v in self.y), tuple(v * y / x for v in self.m)
        )


@dataclass(frozen=True, slots=True)
class Parabola:
    """H = h0 + bQ + cQ², known from 0 to `end`."""

    h0: float
    b: float
    c: float
    end: float

    def at(self, x: float) -> float | None:
        return self.h0 + self.b * x + self.c * x * x if 0 <= x <= self.end else None

    def slope(self, x: float) -> float | None:
        return self.b + 2 * self.c * x if 0 <= x <= self.end else None

    def scaled(self, x: float, y: float) -> Parabola:
        return Parabola(self.h0 * y, self.b * y / x, self.c * y / (x * x), self.end * x)


def parabola(points: Sequence[tuple[float, float]]) -> Parabola | None:
    """H = h0 + bQ + cQ² through three points; None where it rises or does not bend down (b > 0, c ≥ 0): the
    points are typed wrong, or the pump has a hump.

    >>> p = parabola([(0, 34.0), (36, 30.2), (66, 21.5)])
    >>> round(p.b, 6), round(p.c, 7), round(p.at(54), 2)
    (-0.004949, -0.0027946, 25.58)
    """
    (x0, y0), (x1, y1), (x2, y2) = sorted(points)
    d01, d12 = (y1 - y0) / (x1 - x0), (y2 - y1) / (x2 - x1)
    c = (d12 - d01) / (x2 - x0)
    b = d01 - c * (x0 + x1)
    h0 = y0 - b * x0 - c * x0 * x0
    return Parabola(h0, b, c, x2) if b <= 1e-12 and c < 0 else None


@dataclass(frozen=True, slots=True)
class Curve:
    """A pump's curve. Flow m³/h, head m of the pumped fluid, shaft power kW at the density `rho` (kg/m³),
    NPSH required m. how: through many points, three, or the plate alone (indicative). bep: flow of best
    efficiency as stated. low: from which flow on it is known.
    """

    how: How
    head: Line | Parabola
    power: Line | None = None
    npshr: Line | None = None
    rpm: float | None = None
    rho: float = 998.2
    stated_bep: float | None = None
    low: float = 0.0

    @property
    def end(self) -> float:
        """The flow of its last point."""
        return self.head.x[-1] if isinstance(self.head, Line) else self.head.end

    @property
    def shut_off(self) -> float | None:
        """Head at no flow; None where its points do not begin there."""
        return self.head.at(0.0) if self.low == 0 else None

    def at(self, speed: float, rho: float | None = None) -> Curve:
        """The curve at another speed, or with the impeller trimmed: flow ×s, head ×s², power ×s³ (affinity
        laws, handbook; within 10 % of diameter). rho: the power for this density.
        """
        d = (rho or self.rho) / self.rho
        s = speed
        return replace(
            self,
            head=self.head.scaled(s, s * s),
            power=self.power.scaled(s, s**3 * d) if self.power else None,
            npshr=self.npshr.scaled(s, s * s) if self.npshr else None,
            rpm=self.rpm * s if self.rpm else None,
            rho=rho or self.rho,
            stated_bep=self.stated_bep * s if self.stated_bep else None,
            low=self.low * s,
        )

    def thick(self, nu: float) -> Curve:
        """The curve for a liquid of this viscosity (mm²/s), as far as the standard's factors reach; the same
        where they leave it alone, or where its best point is not known.
        """
        bep = self.bep
        head = self.head.at(bep) if bep else None
        if not bep or not head or not self.rpm:
            return self
        b, part, eff = viscous(nu, bep, head, self.rpm)
        if b <= 1:
            return self
        return replace(
            self,
            head=self.head.scaled(part, part),
            power=self.power.scaled(part, part * part / eff) if self.power else None,
            npshr=self.npshr.scaled(part, 1.0) if self.npshr else None,
            stated_bep=self.stated_bep * part if self.stated_bep else None,
            low=self.low * part,
        )

    def efficiency(self, q: float) -> float | None:
        """Water power over shaft power at this flow, 0 to 1."""
        head = self.head.at(q)
        power = self.power.at(q) if self.power else None
        if head is None or not power:
            return None
        return self.rho * G * q / 3600 * head / 1000 / power

    @property
    def bep(self) -> float | None:
        """The flow of best efficiency: as stated, else where the points' own efficiency is best inside them.
        None where it is only known to lie at an end.
        """
        if self.stated_bep:
            return self.stated_bep
        if self.power is None:
            return None
        n = 240
        low, high = max(self.low, self.power.x[0]), min(self.end, self.power.x[-1])
        grid = [low + (high - low) * i / n for i in range(n + 1)]
        best = max(range(n + 1), key=lambda i: self.efficiency(grid[i]) or 0.0)
        return grid[best] if 0 < best < n else None

    def flow_at_head(self, h: float) -> float | None:
        """Where does it make this head? None above its first point or below its last."""
        return meets(lambda q: (self.head.at(q) or 0.0) - h, self.low, self.end)

    def flow_at_power(self, kw: float) -> float | None:
        """Where does it take this power? On the part that rises throughout; None elsewhere, and where its
        power falls anywhere within its points.
        """
        p = self.power
        if p is None or any(b <= a for a, b in zip(p.y, p.y[1:], strict=False)):
            return None
        return meets(lambda q: (p.at(q) or 0.0) - kw, p.x[0], p.x[-1])

    def meet(self, system: System) -> tuple[float, float] | None:
        """Flow and head where it meets a system; None where that is outside its points."""
        q = _crossed(self.head, system) if isinstance(self.head, Parabola) else _in_segment(self.head, system)
        return (q, system.head(q)) if q is not None else None

    def in_parallel(self, n: int) -> Curve:
        """n of it on one header: flows add at one head."""
        line = self.head.scaled(n, 1.0)
        power = self.power.scaled(n, n) if self.power else None
        return replace(self, head=line, power=power, npshr=None, stated_bep=None, low=self.low * n)


@dataclass(frozen=True, slots=True)
class System:
    """What the pipes ask for: static + k·Q². static: m between the two open ends; 0 of a closed loop."""

    static: float
    k: float

    def head(self, q: float) -> float:
        return self.static + self.k * q * q

    @classmethod
    def through(cls, q: float, h: float, static: float) -> System | None:
        """By one steady point and the static head; None where that is not below the point."""
        return cls(static, (h - static) / (q * q)) if q > 0 and h >= static else None

    @classmethod
    def of_two(cls, one: tuple[float, float], two: tuple[float, float]) -> System | None:
        """By two steady points at the same valve; None where they give no such line."""
        (q1, h1), (q2, h2) = one, two
        if math.isclose(q1, q2, rel_tol=1e-9):
            return None
        k = (h2 - h1) / (q2 * q2 - q1 * q1)
        static = h1 - k * q1 * q1
        return cls(static, k) if k > 0 else None


def _in_segment(line: Line, s: System) -> float | None:
    """Where a smooth line meets a system: the piece between two points across which it does, then that
    piece's own cubic by Newton's steps, kept inside by halving.
    """
    x, y, m = line.x, line.y, line.m
    k, static = s.k, s.static
    off = [b - static - k * a * a for a, b in zip(x, y, strict=True)]
    if off[0] == 0:
        return x[0]
    up = off[0] > 0
    for i in range(1, len(x)):
        if off[i] == 0:
            return x[i]
        if (off[i] > 0) != up:
            break
    else:
        return None
    a, h = x[i - 1], x[i] - x[i - 1]
    p, q, d = m[i - 1] * h, m[i] * h, y[i] - y[i - 1]
    # The line less the system, in t from 0 to 1 along the piece.
    c0, c1 = off[i - 1], p - 2 * k * a * h
    c2, c3 = 3 * d - 2 * p - q - k * h * h, p + q - 2 * d
    low, high = 0.0, 1.0
    t = c0 / (c0 - off[i])
    for _ in range(60):
        f = c0 + t * (c1 + t * (c2 + t * c3))
        if (f > 0) == up:
            low = t
        else:
            high = t
        slope = c1 + t * (2 * c2 + 3 * t * c3)
        nxt = t - f / slope if slope else 0.5 * (low + high)
        if not low < nxt < high:
            nxt = 0.5 * (low + high)
        if abs(nxt - t) < 1e-14:
            t = nxt
            break
        t = nxt
    return a + t * h


def _crossed(p: Parabola, s: System) -> float | None:
    """Where a parabola meets a system: a square's root, inside its points."""
    a, b, c = p.c - s.k, p.b, p.h0 - s.static
    if c < 0:
        return None
    inner = b * b - 4 * a * c
    q = (-b - math.sqrt(inner)) / (2 * a) if a else -c / b if b else math.inf
    return q if 0 <= q <= p.end else None


def by_plate(flow: float, head: float, shut_off: float) -> Curve:
    """A curve by one point and what pumps of its kind usually make at no flow: × shut_off. Indicative only
    (common practice, no source): no verdict may rest on it.
    """
    h0 = shut_off * head
    c = (head - h0) / (flow * flow)
    return Curve(how="plate", head=Parabola(h0, 0.0, c, 1.25 * flow), stated_bep=flow)


def specific_speed(rpm: float, q_m3h: float, head_m: float) -> float:
    """Which shape of impeller is it? n·√Q/H^0.75 with Q in m³/s at its best point: under about 60 radial.

    >>> round(specific_speed(1465, 54, 26), 1)
    15.6
    """
    return float(rpm * math.sqrt(q_m3h / 3600) / head_m**0.75)
