"""Fits, heating, bolts, rings and slings held against what others publish, never against our own formula."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
from pressfit.tables import it_value, shaft_deviation

from hurbin_core.base import TABLES, Limits
from hurbin_core.jobs.bearing.formulas import heat_k, seconds_left
from hurbin_core.jobs.bolts.bench import order_of
from hurbin_core.jobs.fits.formulas import band_of, letter_of, ring_of
from hurbin_core.jobs.lifting.bench import leg_load
from hurbin_core.jobs.rings.bench import ring_leak


@pytest.mark.parametrize("size", [12, 18, 19, 25, 30, 31, 45, 50, 65, 80, 90, 120])
@pytest.mark.parametrize("letter", ["k", "m"])
def test_shafts_against_a_library_of_iso_286(size: int, letter: str) -> None:
    if letter == "k" and size <= 18:
        return  # a k5 seat begins over 18 mm here
    low = shaft_deviation(size, letter, 5)
    assert band_of(f"{letter}5", size) == (low, low + it_value(size, 5))


@pytest.mark.parametrize("size", [35, 50, 52, 80, 100, 120, 130, 150, 170, 180])
def test_housings_against_a_library_of_iso_286(size: int) -> None:
    assert band_of("H7", size) == (0.0, it_value(size, 7))


def test_small_shafts_and_their_letters() -> None:
    """j5 of 10 to 18 mm is +5/−3 (ISO 286-2, from memory); the letter goes by diameter and load."""
    assert band_of("j5", 17) == (-3.0, 5.0)
    limits = Limits()
    told = [letter_of("shaft", d, heavy, limits) for d, heavy in ((18, False), (19, False), (100, False))]
    assert told == ["j5", "k5", "k5"]
    assert [letter_of("shaft", d, h, limits) for d, h in ((101, False), (40, True))] == ["m5", "m5"]


def test_rings_as_published() -> None:
    """ISO 492 Normal class, bore and outside of common bearings, µm (from memory)."""
    assert [ring_of("bore", d) for d in (15, 25, 45, 60, 100)] == [
        (-8.0, 0.0),
        (-10.0, 0.0),
        (-12.0, 0.0),
        (-15.0, 0.0),
        (-20.0, 0.0),
    ]
    assert [ring_of("outside", d) for d in (42, 72, 100, 140, 160)] == [
        (-11.0, 0.0),
        (-13.0, 0.0),
        (-15.0, 0.0),
        (-18.0, 0.0),
        (-25.0, 0.0),
    ]


@pytest.mark.parametrize("alpha", [11.0e-6, 12.5e-6])
def test_a_heated_ring_grows_by_what_was_asked(alpha: float) -> None:
    """A ring of 45 mm bore heated so far is wider by interference and slip: d·α·dT, within the span of
    handbook coefficients for bearing steel.
    """
    rise = heat_k(25, 13.5, 45, 11.7e-6)
    assert 45_000 * alpha * rise == pytest.approx(38.5, rel=0.07)


def test_a_ring_cools_as_a_body_in_still_air() -> None:
    """The seconds left against a step-by-step cooling of the same ring, with film and radiation apart
    (Stefan's law, emissivity 0.3, 7 W/m²K of convection): of one size, an estimate.
    """
    d, outer, width = 0.045, 0.100, 0.025
    mass = 7800 * math.pi / 4 * (outer**2 - d**2) * width * 0.5
    area = math.pi * (outer + d) * width + math.pi / 2 * (outer**2 - d**2)
    air, temp, t = 293.15, 293.15 + 73.1, 0.0
    while temp - air > 73.1 - 25.6:
        loss = area * (7 * (temp - air) + 0.3 * 5.67e-8 * (temp**4 - air**4))
        temp -= loss / (mass * 470)
        t += 1.0
    assert seconds_left(45, 100, 25, 73.1, 25.6, 12) == pytest.approx(t, rel=0.35)


# Stress areas, mm² (ISO 724), and proof stresses, MPa (ISO 898-1), from memory.
_AREA = {"M6": 20.1, "M8": 36.6, "M10": 58.0, "M12": 84.3, "M16": 157.0, "M20": 245.0}
_PROOF = {"4.6": 225.0, "8.8": 580.0}


@pytest.mark.parametrize("grade", ["4.6", "8.8"])
@pytest.mark.parametrize("size", list(_AREA))
def test_torques_against_stress_areas(grade: str, size: str) -> None:
    """T = 0.20·d·0.75·proof·area; M20 of 8.8 has a proof stress of 600 MPa, tables round."""
    proof = 600.0 if (grade, size) == ("8.8", "M20") else _PROOF[grade]
    wanted = 0.20 * float(size[1:]) / 1000 * 0.75 * proof * _AREA[size]
    row = TABLES["bolts.torque"].at(grade, size)
    assert row is not None
    assert row["torque"] == pytest.approx(wanted, rel=0.05, abs=0.6)


@pytest.mark.parametrize("n", [4, 6, 8, 12, 5, 7, 16])
def test_every_bolt_once_and_never_beside_the_last(n: int) -> None:
    order = order_of(n)
    assert sorted(order) == list(range(1, n + 1))
    gaps = [min(abs(a - b), n - abs(a - b)) for a, b in pairwise(order)]
    assert min(gaps) > 1 or n < 6


def test_a_ring_leak_against_an_orifice() -> None:
    """Half of an ideal jet through the same annulus: within a factor of the sharp orifice's 0.61 (fluids' own
    figure for a large Reynolds number would be 0.6): the rule is named indicative.
    """
    area = math.pi * 0.120 * 0.0002
    jet = area * math.sqrt(2 * 9.80665 * 25) * 3600
    assert 0.45 <= ring_leak(120, 0.40, 25) / jet <= 0.61


def test_slings_against_a_published_chart() -> None:
    """Load factor of a leg by its angle from horizontal, as on sling charts: 90° 1.000, 60° 1.155, 45° 1.414,
    30° 2.000.
    """
    told = {a: leg_load(1000, 2, a) / 500 for a in (90, 60, 45, 30)}
    assert told == pytest.approx({90: 1.000, 60: 1.155, 45: 1.414, 30: 2.000}, abs=0.001)
    assert leg_load(1000, 4, 60) == leg_load(1000, 2, 60), "of four legs two carry"
