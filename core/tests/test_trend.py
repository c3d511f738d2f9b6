"""Trend arithmetic against scipy, pymannkendall and published small examples."""

from __future__ import annotations

import pymannkendall
import pytest
from hypothesis import given, settings, strategies as st
from scipy import stats

from hurbin_core.base import Bound, HurbinError
from hurbin_core.logbook import (
    Datum,
    Direction,
    akritas_slope,
    assess,
    change_point,
    crossing,
    downsample,
    mann_kendall,
    median,
    pair_sign,
    theil_sen,
)

# Annual flow of the Nile at Aswan, 1871 to 1970 (Cobb 1978; the `Nile` data set of R's datasets package).
NILE = [
    1120,
    1160,
    963,
    1210,
    1160,
    1160,
    813,
    1230,
    1370,
    1140,
    995,
    935,
    1110,
    994,
    1020,
    960,
    1180,
    799,
    958,
    1140,
    1100,
    1210,
    1150,
    1250,
    1260,
    1220,
    1030,
    1100,
    774,
    840,
    874,
    694,
    940,
    833,
    701,
    916,
    692,
    1020,
    1050,
    969,
    831,
    726,
    456,
    824,
    702,
    1120,
    1100,
    832,
    764,
    821,
    768,
    845,
    864,
    862,
    698,
    845,
    744,
    796,
    1040,
    759,
    781,
    865,
    845,
    944,
    984,
    897,
    822,
    1010,
    771,
    676,
    649,
    846,
    812,
    742,
    801,
    1040,
    860,
    874,
    848,
    890,
    744,
    749,
    838,
    1050,
    918,
    986,
    797,
    923,
    975,
    815,
    1020,
    906,
    901,
    1170,
    912,
    746,
    919,
    718,
    714,
    740,
]


def data(values: list[float], bound: Bound = Bound.EXACT) -> list[Datum]:
    return [Datum(t=i, value=v, bound=bound) for i, v in enumerate(values)]


def test_sen_1968_example() -> None:
    """Sen 1968, the example of the paper as scipy documents it: slope 4, limits 26/7 and 35/8 at 93 %."""
    x, y = [1, 2, 3, 4, 10, 12, 18], [9, 15, 19, 20, 45, 55, 78]
    slope, low, high = theil_sen([Datum(t=t, value=v) for t, v in zip(x, y, strict=True)], 0.93)
    assert (slope, low, high) == pytest.approx((4, 26 / 7, 35 / 8))
    theirs = stats.theilslopes(y, x, 0.93)
    assert (slope, low, high) == pytest.approx(theirs[:1] + theirs[2:])


def test_gilbert_small_table() -> None:
    """Gilbert 1987 chapter 16 (from memory): {10, 15, 14, 20} gives S = 4 and p = 0.167 from the table."""
    found = mann_kendall(data([10, 15, 14, 20]))
    assert found.s == 4
    assert found.p == pytest.approx(0.167, abs=0.0005)


def test_nile() -> None:
    """Published for the Nile: S −1387, Z −4.128, Sen's slope −2.6 a year, the break after 1898."""
    found = mann_kendall(data(NILE))
    theirs = pymannkendall.original_test(NILE)
    assert found.s == theirs.s == -1387
    assert found.z == pytest.approx(theirs.z, rel=1e-9)
    assert round(found.z, 3) == -4.128
    assert theil_sen(data(NILE))[0] == pytest.approx(-2.6, abs=0.05)
    where, p = change_point(NILE)
    assert 1871 + where == 1898
    assert p < 0.001


@settings(max_examples=30, deadline=None)
@given(st.lists(st.integers(0, 20), min_size=6, max_size=30))
def test_against_pymannkendall_and_scipy(values: list[int]) -> None:
    found, theirs = mann_kendall(data(values)), pymannkendall.original_test(values)
    assert (found.s, found.variance) == (theirs.s, pytest.approx(theirs.var_s))
    assert theil_sen(data(values))[0] == pytest.approx(stats.theilslopes(values, range(len(values)))[0])


@settings(max_examples=25, deadline=None)
@given(st.lists(st.floats(0.1, 100), min_size=5, max_size=12, unique=True))
def test_akritas_is_theil_sen_without_bounds(values: list[float]) -> None:
    assert akritas_slope(data(values)) == pytest.approx(theil_sen(data(values))[0], rel=1e-6, abs=1e-6)


def test_two_ceilings_make_no_rise() -> None:
    """Readings over one tester's ceiling and then over a higher one: no trend, and a median that is a
    bound.
    """
    low = [Datum(t=i, value=2.0, bound=Bound.AT_LEAST) for i in range(5)]
    high = [Datum(t=5 + i, value=10.0, bound=Bound.AT_LEAST) for i in range(5)]
    assert mann_kendall(low + high).s == 0
    assert assess(low + high).direction is Direction.NO_TREND
    assert median(low + high) == (6.0, Bound.AT_LEAST)


def test_censored_slope_keeps_the_known_line() -> None:
    """A falling line of slope −2 whose early part is over range: the bounded points neither hide nor fake
    it.
    """
    points = [
        Datum(t=i, value=min(100 - 2 * i, 90), bound=Bound.AT_LEAST if i < 5 else Bound.EXACT)
        for i in range(14)
    ]
    assert akritas_slope(points) == pytest.approx(-2, abs=0.35)
    assert assess(points).direction is Direction.FALLING


@given(st.floats(-100, 100), st.floats(-100, 100))
def test_a_bound_never_becomes_a_value(a: float, b: float) -> None:
    least = Datum(t=0, value=a, bound=Bound.AT_LEAST)
    assert pair_sign(least, Datum(t=1, value=b)) == (-1 if b < a else 0)
    assert median([least])[1] is Bound.AT_LEAST
    most = Datum(t=0, value=a, bound=Bound.AT_MOST)
    assert median([most])[1] is Bound.AT_MOST


def test_how_few_is_too_few() -> None:
    assert assess(data([1, 2, 3])).direction is Direction.TOO_FEW
    assert assess(data([1, 2, 3, 4])).direction is Direction.RISING  # one order of twenty-four: 0.042
    assert assess(data([1, 3, 2, 4])).direction is Direction.INCONCLUSIVE
    assert assess(data([1, 3, 2, 4, 1, 2])).direction is Direction.INCONCLUSIVE
    assert assess(data([1, 3, 2, 4, 1, 2, 3, 1, 2])).direction is Direction.NO_TREND
    assert assess([]).direction is Direction.TOO_FEW
    with pytest.raises(HurbinError):
        median([])


def test_crossing_within_its_own_span() -> None:
    rising = data([10 + 0.5 * i for i in range(20)])
    soon = crossing(rising, 22)
    assert soon.likely == pytest.approx(5)
    assert soon.earliest is not None
    assert soon.earliest <= soon.likely
    assert crossing(rising, 100).likely is None
    assert crossing(data([5, 5.1, 5, 4.9, 5, 5.1, 4.9, 5, 5]), 9).state is Direction.NO_TREND


@settings(deadline=None)
@given(st.lists(st.floats(-50, 50), min_size=1, max_size=400), st.integers(10, 120))
def test_thinning_keeps_what_sticks_out(values: list[float], most: int) -> None:
    keep = downsample(list(range(len(values))), values, most)
    assert keep == sorted(set(keep))
    assert len(keep) <= most
    assert {0, len(values) - 1} <= set(keep)
    assert max(values[i] for i in keep) == max(values)
    assert min(values[i] for i in keep) == min(values)
