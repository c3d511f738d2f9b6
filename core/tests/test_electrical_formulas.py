"""Voltage unbalance and derating. Sources beside the checks."""

from __future__ import annotations

import cmath
import math
from itertools import permutations

import numpy as np
import pytest
from hypothesis import assume, given, strategies as st

from hurbin_core.base import HurbinError
from hurbin_core.electrical import (
    closes_triangle,
    derating,
    extra_rise_pct,
    true_unbalance_pct,
    unbalance_pct,
)

legs = st.floats(min_value=50, max_value=1000)


def test_nema_example() -> None:
    """NEMA MG 1 14.36, the example in the standard (from memory): 460, 467, 450 V are 1.96 %."""
    assert round(unbalance_pct((460, 467, 450))[0], 2) == 1.96


def test_common_worked_example() -> None:
    """A worked example in general use (handbook): 220, 215, 210 V are 2.33 % and 2.69 %."""
    assert round(unbalance_pct((220, 215, 210))[0], 2) == 2.33
    assert round(true_unbalance_pct(220, 215, 210), 2) == 2.69


def test_rotated_lead_tables() -> None:
    """Submersible-motor handbooks' table of rolled leads (from memory): whole percents."""
    for amps, pct in (((51, 46, 53), 8), ((50, 49, 51), 2), ((50, 48, 52), 4)):
        assert round(unbalance_pct(amps)[0]) == pct


@given(st.floats(0.0, 0.12), st.floats(0, 2 * math.pi))
def test_true_factor_against_phasors(share: float, angle: float) -> None:
    """Against plain phasor arithmetic with numpy's complex numbers: build the three line volts from a
    positive and a negative sequence, take only their magnitudes, and get the share back.
    """
    turn = np.exp(2j * np.pi / 3)
    negative = share * cmath.exp(1j * angle)
    ground = np.array([1 + negative, turn**2 + negative * turn, turn + negative * turn**2]) * 230
    line = np.abs(ground - np.roll(ground, -1))
    assert true_unbalance_pct(*line) == pytest.approx(100 * share, abs=2e-5)


def test_true_factor_of_the_example() -> None:
    """460, 467, 450 V by the same phasors (general-purpose arithmetic, outside source handbook table): 2.146
    %.
    """
    assert true_unbalance_pct(460, 467, 450) == pytest.approx(2.146, abs=0.001)


@pytest.mark.parametrize(("pct", "share"), [(1, 1.00), (2, 0.95), (3, 0.88), (4, 0.82), (5, 0.75)])
def test_derating_curve(pct: float, share: float) -> None:
    """NEMA MG 1 figure 14-1, read taken from the curve (from memory, ±0.01)."""
    assert derating(pct) == pytest.approx(share, abs=0.01)


def test_derating_between_and_beyond() -> None:
    assert derating(0.2) == 1.0
    assert derating(3.5) == pytest.approx(0.85)
    assert derating(5.001) is None


@given(legs, legs, legs)
def test_order_of_legs_does_not_matter(a: float, b: float, c: float) -> None:
    for p in permutations((a, b, c)):
        assert unbalance_pct(p)[0] == pytest.approx(unbalance_pct((a, b, c))[0], rel=1e-9, abs=1e-9)
        if closes_triangle(a, b, c):
            assert true_unbalance_pct(*p) == pytest.approx(true_unbalance_pct(a, b, c), abs=1e-4)


@given(legs, legs, legs, st.floats(0.01, 100))
def test_scaling_volts_scales_nothing(a: float, b: float, c: float, k: float) -> None:
    assume(closes_triangle(a, b, c))
    assert unbalance_pct((k * a, k * b, k * c))[0] == pytest.approx(
        unbalance_pct((a, b, c))[0], rel=1e-6, abs=1e-9
    )
    assert true_unbalance_pct(k * a, k * b, k * c) == pytest.approx(true_unbalance_pct(a, b, c), abs=1e-4)


def test_equal_legs_are_zero_whatever_rounding_does() -> None:
    for v in (0.1, 229.9999, 400, 690.3):
        assert true_unbalance_pct(v, v, v) == pytest.approx(0, abs=1e-5)


def test_no_triangle_is_refused() -> None:
    with pytest.raises(HurbinError, match="do not fit together") as told:
        true_unbalance_pct(400, 100, 100)
    assert told.value.code == "no_triangle"
    assert closes_triangle(400, 200, 200)
    with pytest.raises(HurbinError):
        unbalance_pct((0, 0, 0))


def test_rise_rule_of_thumb() -> None:
    """Common practice, no source: twice the square of the percentage."""
    assert extra_rise_pct(3) == 18


@pytest.mark.parametrize("pct", [2.0, 3.0, 4.0, 5.0])
def test_derating_lies_between_what_physics_allows(pct: float) -> None:
    """Outside the table itself: no less than where the hottest phase carries both sequences in phase (the
    negative one is held back by the locked-rotor impedance alone: six times the volts' share), no more than
    what a rise of 2 u² per cent leaves (both common practice, no source).
    """
    worst_phase = 1 - 6 * pct / 100
    mean_rise = 1 / math.sqrt(1 + 2 * pct**2 / 100)
    share = derating(pct)
    assert share is not None
    assert worst_phase < share < mean_rise
