"""How much head a pump has lost at a flow, and what would explain it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from .curve import Curve
from .fluid import G
from .friction import friction_factor
from .roots import meets


def ring_flow(diameter: float, length: float, clearance: float, head: float, nu: float) -> float:
    """What leaks through a wear ring? m³/h: π·D·c·C·√(2gΔH), C = 1/√(1.5 + fL/2c), c radial (handbook), f of
    a smooth gap. mm, m, mm²/s; clearance diametral.

    >>> [round(ring_flow(96, 18, c, 24, 1.0), 1) for c in (0.4, 0.8, 1.2)]
    [2.6, 6.4, 10.3]
    """
    c = clearance / 2000
    fast = math.sqrt(2 * G * head)
    into = 0.6
    for _ in range(30):
        f = friction_factor(max(2 * c * into * fast / (nu * 1e-6), 100.0), 0.0)
        into = 0.5 * into + 0.5 / math.sqrt(1.5 + f * (length / 1000) / (2 * c))
    return math.pi * diameter / 1000 * c * into * fast * 3600


@dataclass(frozen=True, slots=True)
class Lost:
    """expected: head of the curve at this flow, m; ratio: head over it; u: of the ratio; inner: what would
    have to run back inside for the curve to make this head, m³/h, None where its points end before.
    """

    expected: float
    ratio: float
    u: float
    inner: float | None


def lost_head(curve: Curve, q: float, u_q: float, head: float, u_head: float, u_curve: float) -> Lost | None:
    """How does this head stand against the curve at this flow? None outside its points.

    m³/h, m; u_curve: share of head that the curve itself is off by. Curve and reading at one speed, one
    liquid.
    """
    expected, slope = curve.head.at(q), curve.head.slope(q)
    if not expected or slope is None:
        return None
    by_flow = slope * u_q
    u = (u_head**2 + by_flow**2 + (u_curve * expected) ** 2) ** 0.5 / expected
    whole = meets(lambda x: (curve.head.at(x) or 0.0) - head, curve.low, curve.end)
    return Lost(expected, head / expected, u, max(0.0, whole - q) if whole is not None else None)


def clearance_for(
    inner: float, diameter: float, length: float, new: float, head: float, nu: float, most: float
) -> float | None:
    """Which diametral clearance leaks so much more than a new ring, mm? None where not even `most` does."""
    start = ring_flow(diameter, length, new, head, nu)
    return meets(lambda c: ring_flow(diameter, length, c, head, nu) - start - inner, new, most)
