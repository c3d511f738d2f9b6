"""Insulation resistance at 40 °C, the dew point, test volts and minimum: the arithmetic, each with its source."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...base import SCHOOLS, HurbinError, Limits, UsedLimit
from ...plant import MotorFacts

THERMOSETTING, THERMOPLASTIC = "thermosetting", "thermoplastic"
_SETTING_CLASSES = ("B", "F", "H")
CHANGE_OF_MATERIALS = 1970
FORM_FROM_V = 1000.0

# Plate volts up to and including, then the dc test volts from and to (IEEE 43-2013 table 1; from memory).
TEST_VOLTS = ((999.0, 500.0, 500.0), (2500.0, 500.0, 1000.0), (5000.0, 1000.0, 2500.0), (12000.0, 2500.0, 5000.0), (math.inf, 5000.0, 10000.0))


def factor_thermosetting(winding_c: float) -> float:
    """By what is a reading on a thermosetting winding multiplied to stand at 40 °C? 10 to 85 °C.

    IEEE 43-2013 clause 6 (from memory). Raises `temperature_outside` elsewhere: no correction is known there.

    >>> round(factor_thermosetting(20.0), 3)
    0.762
    """
    _inside(winding_c)
    slope = 1245.0 if winding_c <= 40 else 4230.0
    return math.exp(-slope * (1 / (winding_c + 273) - 1 / 313))


def factor_thermoplastic(winding_c: float) -> float:
    """The same for older thermoplastic insulation: halving every 10 K (IEEE 43-2013 clause 6, from memory). 10 to 85 °C.

    >>> factor_thermoplastic(20.0)
    0.25
    """
    _inside(winding_c)
    return math.exp2((winding_c - 40) / 10)


def _inside(winding_c: float) -> None:
    if not 10 <= winding_c <= 85:
        raise HurbinError(
            "temperature_outside", f"Insulation is not corrected at {winding_c:g} °C.", field="winding", value=winding_c, right="10 to 85 °C"
        )


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
    """Which school corrects this reading? The site's choice, else the plate: class B, F, H or built after about 1970 is
    thermosetting, class A or older thermoplastic. A plate that says neither, or a class
    that did not exist in its year, gets the factor that gives less."""
    setting, plastic = factor_thermosetting(winding_c), factor_thermoplastic(winding_c)
    chosen = limits.school("insulation.correction")
    if chosen != SCHOOLS["insulation.correction"].default:
        return Correction(setting, plastic, chosen, "ins.by_site")
    if insulation_class in _SETTING_CLASSES and year is not None and year <= CHANGE_OF_MATERIALS:
        return Correction(setting, plastic, THERMOPLASTIC if plastic < setting else THERMOSETTING, "ins.by_conflict")
    if insulation_class in _SETTING_CLASSES:
        return Correction(setting, plastic, THERMOSETTING, "ins.by_class")
    if insulation_class == "A":
        return Correction(setting, plastic, THERMOPLASTIC, "ins.by_class")
    if year is not None:
        return Correction(setting, plastic, THERMOSETTING if year > CHANGE_OF_MATERIALS else THERMOPLASTIC, "ins.by_year")
    return Correction(setting, plastic, THERMOPLASTIC if plastic < setting else THERMOSETTING, "ins.by_less")


def dew_point_c(air_c: float, humidity_pct: float) -> float:
    """At what temperature does this air wet a surface? °C in and out, humidity 1 to 100 %.

    Magnus formula with the constants of Alduchov and Eskridge 1996 (from memory); within 0.4 K from −40 to 50 °C.

    >>> round(dew_point_c(25.0, 50.0), 1)
    13.9
    """
    if not 0 < humidity_pct <= 100:
        raise HurbinError("humidity_outside", f"A humidity of {humidity_pct:g} % cannot be.", field="humidity", value=humidity_pct, right="1 to 100 %")
    g = math.log(humidity_pct / 100) + 17.625 * air_c / (243.04 + air_c)
    return 243.04 * g / (17.625 - g)


def test_volts_for(plate_v: float | None) -> tuple[float, float] | None:
    """Which dc test volts go with these plate volts, from and to? None without plate volts. IEEE 43-2013 table 1, from memory.

    >>> test_volts_for(400.0)
    (500.0, 500.0)
    """
    if plate_v is None:
        return None
    return next((low, high) for upto, low, high in TEST_VOLTS if plate_v <= upto)


test_volts_for.__test__ = False  # type: ignore[attr-defined]


def minimum(motor: MotorFacts, winding: str, insulation_class: str, year: int | None, limits: Limits) -> tuple[UsedLimit, str]:
    """The least insulation at 40 °C for this winding (MΩ), and the template that says why. IEEE 43-2013 table 3, from memory.

    Random-wound, and anything under 1 kV: 5. Form-wound of 1 kV and more: 100, before about 1970 kilovolts + 1.
    A winding of 1 kV and more that the plate does not name is taken for form-wound."""
    volts = motor.volts_v
    if winding == "random" or volts is None or volts < FORM_FROM_V:
        return limits.get("insulation.minimum_low_volt"), "ins.least_low"
    old = insulation_class not in _SETTING_CLASSES and year is not None and year <= CHANGE_OF_MATERIALS
    if not old:
        return limits.get("insulation.minimum_form"), "ins.least_form"
    add = limits.get("insulation.minimum_old_add")
    value = volts / 1000 + add.value
    return add.model_copy(update={"title": "Insulation at 40 °C, least for older windings", "label": "minimum", "value": value, "standard_value": volts / 1000 + add.standard_value}), "ins.least_old"


def life_share(over_k: float, limits: Limits) -> float:
    """What share of its life does insulation keep when it runs this many kelvin over its class? 1 at and under it.

    A rule of thumb: halved every 10 K (common handbooks, from memory); life tests on motors have shown about 15 K, so the
    rule leans to the cautious side. Kelvin in, share out.
    """
    return math.exp2(-max(0.0, over_k) / limits.value("insulation.life_halves"))
