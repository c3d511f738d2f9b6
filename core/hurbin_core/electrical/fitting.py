"""Is a motor made for the supply of a position?"""

from __future__ import annotations

from ..base import Limits, Phrase, amount, exceeds, phrase, read_fields
from ..plant import MotorPlate


def against_supply(plate: MotorPlate, volts: float, limits: Limits) -> Phrase | None:
    """What speaks against a motor of this nameplate on so many volts; None: one of its voltages is near
    enough, or it says none. V. The same tolerance as for a lead list (NEMA MG 1 part 12, from memory).
    """
    got, _ = read_fields(plate)
    made = [got[n].value for n in ("volts_low", "volts_high") if n in got and got[n].value > 0]
    off = limits.value("leads.supply_off")
    if not made or any(not exceeds(100 * abs(volts - v) / v, off) for v in made):
        return None
    supply = amount(volts, "V")
    if len(made) == 1:
        return phrase("fitting.not_for", supply=supply, plate=amount(made[0], "V"))
    return phrase(
        "fitting.not_for_two", supply=supply, plate=amount(made[0], "V"), other=amount(made[1], "V")
    )
