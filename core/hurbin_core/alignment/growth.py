"""How far metal grows between foot and shaft: the rulebook's figure for each metal."""

from __future__ import annotations

from ..base import TABLES, HurbinError
from .formulas import expansion_mm

EXPANSION: dict[str, float] = {str(metal): float(x) * 1e-6 for metal, x in TABLES["growth.metals"].rows}


def growth_mm(height_mm: float, material: str, cold_c: float, working_c: float) -> float:
    """By how many mm does this much of a metal grow (negative: shrink) from cold to working? Mean temperature
    of the metal, not the water's. Raises `material_unknown`.

    >>> round(growth_mm(280, "cast_iron", 20, 82), 2)
    0.18
    """
    if material not in EXPANSION:
        message, right = f"Unknown metal: “{material}”.", ", ".join(EXPANSION)
        raise HurbinError("material_unknown", message, field="material", value=material, right=right)
    return expansion_mm(height_mm, EXPANSION[material], cold_c, working_c)
