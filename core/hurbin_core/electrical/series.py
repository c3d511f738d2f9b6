"""What is drawn with the series of a motor: limits that its nameplate gives."""

from __future__ import annotations

from ..base import Limits
from ..logbook import OF_THE_PLATE, Plates, SeriesLimit
from ..plant import MotorPlate, motor_facts
from .insulation import minimum


def _motor(plates: Plates) -> MotorPlate | None:
    plate = plates.get("motor")
    return plate if isinstance(plate, MotorPlate) else None


def _current(plates: Plates, limits: Limits) -> list[SeriesLimit]:
    facts = motor_facts(_motor(plates))
    found = [("nameplate", facts.amps_a), ("service factor", facts.sf_amps_a)]
    return [SeriesLimit(label=label, value=v) for label, v in found if v is not None]


def _insulation(plates: Plates, limits: Limits) -> list[SeriesLimit]:
    plate = _motor(plates) or MotorPlate()
    least = minimum(motor_facts(_motor(plates)), plate.winding, plate.insulation_class, plate.year, limits)[0]
    return [SeriesLimit(label=least.label, value=least.value)]


OF_THE_PLATE.update(current_mean=_current, insulation_40=_insulation, insulation_raw=_insulation)
