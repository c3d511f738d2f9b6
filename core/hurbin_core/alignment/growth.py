"""How far metal grows between foot and shaft, and where the motor therefore has to stand cold."""

from __future__ import annotations

from ..base import HurbinError

# Per kelvin. Common engineering handbooks, from memory; they differ by up to four per cent.
EXPANSION = {"cast_iron": 10.4e-6, "carbon_steel": 11.7e-6, "stainless_304": 17.3e-6, "stainless_316": 16.0e-6, "aluminium": 23e-6}


def growth_mm(height_mm: float, material: str, cold_c: float, working_c: float) -> float:
    """By how many mm does this much metal grow (negative: shrink) from cold to working? Mean temperature of the metal, not the water's.

    >>> round(growth_mm(280, "cast_iron", 20, 82), 2)
    0.18
    """
    if material not in EXPANSION:
        raise HurbinError("material_unknown", f"“{material}” is no metal known here.", field="material", value=material, right=", ".join(EXPANSION))
    return EXPANSION[material] * height_mm * (working_c - cold_c)


def cold_target_mm(pump_growth: float, motor_growth: float) -> float:
    """Where the motor's axis stands cold so that both are level at work: positive is motor high.

    >>> round(cold_target_mm(0.18, 0.07), 2)
    0.11
    """
    return pump_growth - motor_growth
