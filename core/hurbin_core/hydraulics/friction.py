"""What a pipe costs in head: Darcy and Colebrook. Metric; nothing is judged here."""

from __future__ import annotations

import math

from .fluid import G
from .formulas import velocity


def reynolds(q_m3h: float, bore_mm: float, nu: float) -> float:
    """Reynolds number in a round pipe; nu: mm²/s."""
    return velocity(q_m3h, bore_mm) * bore_mm * 1000 / nu


def friction_factor(re: float, roughness: float) -> float:
    """Darcy's f. roughness: over diameter. Laminar below 2300 as 64/Re; above by Colebrook and White (1939),
    iterated.

    >>> round(friction_factor(1e5, 1e-3), 5)
    0.02217
    """
    if re < 2300:
        return 64 / re
    x = 8.0
    for _ in range(40):
        y = -2 * math.log10(roughness / 3.7 + 2.51 * x / re)
        if abs(y - x) < 1e-13:
            break
        x = y
    return 1 / (x * x)


def loss_m(q_m3h: float, bore_mm: float, length_m: float, nu: float, rough_mm: float) -> float:
    """Head that a length of straight pipe costs, m."""
    if q_m3h <= 0:
        return 0.0
    f = friction_factor(reynolds(q_m3h, bore_mm, nu), rough_mm / bore_mm)
    return f * length_m / (bore_mm / 1000) * velocity(q_m3h, bore_mm) ** 2 / (2 * G)


def litres_of(bore_mm: float, length_m: float) -> float:
    """What a length of pipe holds, l."""
    return math.pi * (bore_mm / 1000) ** 2 / 4 * length_m * 1000


def flow_for(velocity_m_s: float, bore_mm: float) -> float:
    """Which flow runs so fast in this bore, m³/h?

    >>> round(flow_for(0.6, 26.2) / 0.06, 1)
    19.4
    """
    return velocity_m_s * math.pi * (bore_mm / 1000) ** 2 / 4 * 3600
