"""Heating a bearing to its seat, and its grease."""

from __future__ import annotations

import math


def heat_k(interference_um: float, slip_um: float, bore_mm: float, alpha: float) -> float:
    """By how many kelvins does a ring have to be warmer than its shaft? dT = (interference + slip) / (α·d).
    Source: bearing handbooks, from memory.

    >>> round(heat_k(25, 13.5, 45, 11.7e-6))
    73
    """
    return (interference_um + slip_um) / 1000 / (alpha * bore_mm)


def slip_um(bore_mm: float, per_mm: float, least: float) -> float:
    """How much wider than its shaft does a heated ring have to be, so that it goes home by hand? µm. Common
    practice, no source.

    >>> slip_um(45, 0.3, 10)
    13.5
    """
    return max(per_mm * bore_mm, least)


def seconds_left(
    bore_mm: float, outside_mm: float, width_mm: float, rise_k: float, slip_k: float, film: float
) -> float:
    """How long is a heated ring wide enough, s? It cools as one body in still air:
    t = τ·ln(rise / (rise − slip)), τ = ρ·c·V / (film·A). slip_k: the part of the rise that is slip alone.
    ρ·c of steel 3.65 MJ/m³K, half of the ring is air. Common practice, no source: an estimate.

    >>> round(seconds_left(45, 100, 25, 73, 25, 12))
    417
    """
    d, outer, b = bore_mm / 1000, outside_mm / 1000, width_mm / 1000
    volume = math.pi / 4 * (outer**2 - d**2) * b * 0.5
    area = math.pi * (outer + d) * b + math.pi / 2 * (outer**2 - d**2)
    tau = 3.65e6 * volume / (film * area)
    return tau * math.log(rise_k / (rise_k - slip_k)) if rise_k > slip_k > 0 else 0.0


def grease_g(outside_mm: float, width_mm: float, factor: float) -> float:
    """How much grease does a refill take, g? 0.005·D·B in mm. Source: bearing handbooks, from memory.

    >>> grease_g(100, 25, 0.005)
    12.5
    """
    return factor * outside_mm * width_mm
