"""Which school corrects a reading, which test volts go with a nameplate, and what its least insulation is."""

from __future__ import annotations

from dataclasses import dataclass

from ...base import SCHOOLS, TABLES, Limits, UsedLimit
from ...plant import MotorFacts
from .formulas import factor_thermoplastic, factor_thermosetting

THERMOSETTING, THERMOPLASTIC = "thermosetting", "thermoplastic"


@dataclass(frozen=True, slots=True)
class Correction:
    """Both factors, the one that governs, and by what it was chosen (a template's id)."""

    setting: float
    plastic: float
    governs: str
    why: str

    @property
    def factor(self) -> float:
        return self.setting if self.governs == THERMOSETTING else self.plastic


def correction(winding_c: float, insulation_class: str, year: int | None, limits: Limits) -> Correction:
    """Which school corrects this reading? The site's choice, else the plate: class B, F, H or built after
    about 1970 is thermosetting, class A or older thermoplastic. A plate that says neither, or a class that
    did not exist in its year, gets the factor that gives less.
    """
    setting, plastic = factor_thermosetting(winding_c), factor_thermoplastic(winding_c)
    chosen = limits.school("insulation.correction")
    if chosen != SCHOOLS["insulation.correction"].default:
        return Correction(setting, plastic, chosen, "ins.by_site")
    less = THERMOPLASTIC if plastic < setting else THERMOSETTING
    material = TABLES["insulation.materials"].word(insulation_class)
    changed = limits.value("insulation.materials_year")
    if material == THERMOSETTING and year is not None and year <= changed:
        return Correction(setting, plastic, less, "ins.by_conflict")
    if material is not None:
        return Correction(setting, plastic, material, "ins.by_class")
    if year is not None:
        by_year = THERMOSETTING if year > changed else THERMOPLASTIC
        return Correction(setting, plastic, by_year, "ins.by_year")
    return Correction(setting, plastic, less, "ins.by_less")


def test_volts_for(plate_v: float | None) -> tuple[float, float] | None:
    """Which dc test volts go with these plate volts, from and to? None without plate volts. IEEE 43-2013
    table 1, from memory.

    >>> test_volts_for(400.0)
    (500.0, 500.0)
    """
    if plate_v is None:
        return None
    found = TABLES["insulation.test_volts"].at(plate_v)
    return (found["from"], found["to"]) if found is not None else None


test_volts_for.__test__ = False  # type: ignore[attr-defined]


def minimum(
    motor: MotorFacts, winding: str, insulation_class: str, year: int | None, limits: Limits
) -> tuple[UsedLimit, str]:
    """The least insulation at 40 °C for this winding (MΩ), and the template that says why. IEEE 43-2013 table
    3, from memory.

    Random-wound, and anything under 1 kV: 5. Form-wound of 1 kV and more: 100, before about 1970 kilovolts +
    1. A winding of 1 kV and more that the plate does not name is taken for form-wound.
    """
    volts = motor.volts_v
    if winding == "random" or volts is None or volts < limits.value("insulation.form_from"):
        return limits.get("insulation.minimum_low_volt"), "ins.least_low"
    newer = TABLES["insulation.materials"].word(insulation_class) == THERMOSETTING
    old = not newer and year is not None and year <= limits.value("insulation.materials_year")
    if not old:
        return limits.get("insulation.minimum_form"), "ins.least_form"
    add = limits.get("insulation.minimum_old_add")
    value = volts / 1000 + add.value
    return (
        add.model_copy(
            update={
                "title": "Minimum insulation at 40 °C, older windings",
                "label": "minimum",
                "value": value,
                "standard_value": volts / 1000 + add.standard_value,
            }
        ),
        "ins.least_old",
    )
