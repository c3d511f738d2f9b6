"""Limits to stand above, series in words, forecasts, and the paper the curve is drawn on."""

from __future__ import annotations

import math
import re
from datetime import UTC, datetime, timedelta
from itertools import permutations

import numpy as np
import pytest
from conftest import plate
from hypothesis import given, settings, strategies as st
from scipy import stats

from hurbin_core.base import (
    LIMITS,
    MEASURANDS,
    RULEBOOK,
    RULES,
    SCHOOLS,
    SI,
    Bound,
    Compared,
    Entered,
    FieldRule,
    HurbinError,
    Limits,
    Override,
    Prefs,
    Quantity,
    Verdict,
    amount,
    check_override,
    compare,
    judge,
    judge_steps,
    read,
    show,
    show_line,
)
from hurbin_core.logbook import (
    Answer,
    Conditions,
    Datum,
    Direction,
    akritas_slope,
    assess,
    fold_parts,
    forecast,
    median_of,
    path_values,
    series_forecast,
    series_limits,
)
from hurbin_core.plant import EVENT_KINDS, KINDS, PARTS

AT = datetime(2026, 3, 2, tzinfo=UTC)
MEG = FieldRule("ohms", "Insulation", "resistance", 0.0, 1e9, (), True)


def q(value: float, bound: Bound = Bound.EXACT, unit: str = "MOhm") -> Quantity:
    return amount(value, unit, bound)


# A limit to stand above


@pytest.mark.parametrize(
    ("value", "bound", "told"),
    [
        (5.0, Bound.EXACT, Compared.WITHIN),
        (4.999, Bound.EXACT, Compared.OVER),
        (5.0 - 1e-12, Bound.EXACT, Compared.WITHIN),
        (10.0, Bound.AT_LEAST, Compared.WITHIN),
        (2.0, Bound.AT_LEAST, Compared.CANNOT_TELL),
        (2.0, Bound.AT_MOST, Compared.OVER),
        (10.0, Bound.AT_MOST, Compared.CANNOT_TELL),
    ],
)
def test_a_floor_asks_the_other_way_round(value: float, bound: Bound, told: Compared) -> None:
    assert compare(q(value, bound), 5.0, floor=True) is told


@given(st.floats(0.001, 1e6), st.floats(0.001, 1e6), st.sampled_from(list(Bound)))
def test_a_floor_is_the_mirror_of_a_ceiling(value: float, limit: float, bound: Bound) -> None:
    turned = {Bound.EXACT: Bound.EXACT, Bound.AT_LEAST: Bound.AT_MOST, Bound.AT_MOST: Bound.AT_LEAST}[bound]
    assert compare(q(value, bound), limit, floor=True) is compare(q(-value, turned), -limit)


@pytest.mark.parametrize(
    ("share", "verdict"),
    [(80, "good"), (50, "good"), (49.9, "watch"), (10, "watch"), (9.9, "act"), (0, "act")],
)
def test_steps_of_a_floor_go_down(share: float, verdict: str) -> None:
    assert judge("insulation_past", q(share, unit="%"), Limits()).verdict == verdict


def test_a_bound_at_a_floor_is_unknown_where_it_cannot_tell() -> None:
    assert judge("insulation_past", q(30, Bound.AT_LEAST, "%"), Limits()).verdict is Verdict.UNKNOWN
    assert judge("insulation_past", q(60, Bound.AT_LEAST, "%"), Limits()).verdict is Verdict.GOOD
    assert judge("insulation_past", q(5, Bound.AT_MOST, "%"), Limits()).verdict is Verdict.ACT


def test_the_margin_says_short_or_in_hand() -> None:
    limits = Limits()
    least = limits.get("insulation.minimum_low_volt")
    steps = [(least, Verdict.GOOD)]
    short = show_line(judge_steps(RULES["insulation"], q(3), steps, Verdict.STOP).line, SI, set())
    hand = show_line(
        judge_steps(RULES["insulation"], q(4000, Bound.AT_LEAST), steps, Verdict.STOP).line, SI, set()
    )
    assert short.margin == "2.00\u00a0MΩ below limit"
    assert short.floor
    assert short.over
    assert hand.margin == "≥ 4.00\u00a0GΩ to limit"
    assert not hand.over


@given(st.floats(0.0, 1e5), st.floats(1.0, 100.0))
def test_resistances_stand_on_their_line_by_tenfolds(value: float, least: float) -> None:
    limit = Limits().get("insulation.minimum_low_volt").model_copy(update={"value": least})
    line = judge_steps(RULES["insulation"], q(value), [(limit, Verdict.GOOD)], Verdict.STOP).line
    assert 0 <= line.value_at <= 1
    assert 0 <= line.limit_at <= 1
    assert (line.value_at >= line.limit_at) == (value >= least) or math.isclose(value, least, rel_tol=1e-3)


def test_a_sites_own_floor_keeps_its_order() -> None:
    check_override("insulation.drop_half", 40.0, "", [])
    with pytest.raises(HurbinError, match="must stay below"):
        check_override("insulation.drop_half", 8.0, "", [])
    check_override("insulation.correction", None, "thermoplastic", [])
    with pytest.raises(HurbinError):
        check_override("insulation.correction", None, "by_feeling", [])
    moved = Override(limit="insulation.drop_half", value=70.0, unit="%", reason="sea air", by="x", at=AT)
    assert judge("insulation_past", q(60, unit="%"), Limits([moved])).verdict is Verdict.WATCH


# What was typed


@pytest.mark.parametrize(
    ("text", "unit", "value", "bound"),
    [
        (">10 G", "MOhm", 10_000, Bound.AT_LEAST),
        (">10", "GOhm", 10_000, Bound.AT_LEAST),
        ("<0,1", "MOhm", 0.1, Bound.AT_MOST),
        ("≥ 2 GΩ", "MOhm", 2000, Bound.AT_LEAST),
        ("900 k", "MOhm", 0.9, Bound.EXACT),
        ("OL", "MOhm", 2000, Bound.AT_LEAST),
        ("o.l.", "GOhm", 2000, Bound.AT_LEAST),
        ("1.2G", "MOhm", 1200, Bound.EXACT),
    ],
)
def test_insulation_as_people_write_it(text: str, unit: str, value: float, bound: Bound) -> None:
    ceiling = read(Entered(text="2", unit="GOhm"), MEG)
    got = read(Entered(text=text, unit=unit), MEG, ceiling)
    assert got is not None
    assert (got.value, got.bound) == (pytest.approx(value), bound)


def test_over_range_without_a_ceiling_asks_for_it() -> None:
    with pytest.raises(HurbinError, match="top of the tester's range") as told:
        read(Entered(text="OL", unit="MOhm"), MEG)
    assert told.value.code == "ceiling_missing"
    with pytest.raises(HurbinError):
        read(Entered(text="5 mΩ", unit="MOhm"), MEG)


@pytest.mark.parametrize(
    ("megohm", "shown"),
    [
        (0, "0\u00a0MΩ"),
        (0.0005, "500\u00a0Ω"),
        (0.05, "50.0\u00a0kΩ"),
        (5, "5.00\u00a0MΩ"),
        (999.4, "999\u00a0MΩ"),
        (12_500, "12.5\u00a0GΩ"),
    ],
)
def test_resistance_is_shown_as_a_person_would_say_it(megohm: float, shown: str) -> None:
    assert show(q(megohm)) == shown
    assert show(q(megohm), Prefs(units={"resistance": "MOhm"})).endswith("MΩ")


@given(st.floats(900, 1100), st.floats(900, 1100))
def test_shown_stands_on_its_side_of_a_limit_across_the_change_of_unit(value: float, limit: float) -> None:
    digits, sign = show(q(value), beside=limit).split("\u00a0")
    scale, places = (1000 if sign == "GΩ" else 1), len(digits.partition(".")[2])
    told, held = round(float(digits), places), round(limit / scale, places)
    if not math.isclose(value, limit, rel_tol=1e-9):
        assert (told > held) == (value > limit)
        assert told != held


# Series in words


@pytest.mark.parametrize(
    ("conditions", "words"),
    [
        ("at=motor;links=in;phases=together;volts=500", "at the motor, links in, phases together, 500 V"),
        (
            "at=starter;links=out;phases=apart;volts=1000",
            "at the starter, links out, phases separated, 1000 V",
        ),
        (
            "at=drive_output;coupled=yes;hz=46;valve=throttled 5/7",
            "at the drive output, coupled, 46 Hz, valve 5/7 turns",
        ),
        (
            "at=motor_leads;coupled=no;hz=line;valve=shut",
            "at the motor leads, uncoupled, at line frequency, valve shut",
        ),
        ("", ""),
        ("odd=thing", "odd=thing"),
    ],
)
def test_the_state_of_a_series_for_a_person(conditions: str, words: str) -> None:
    assert Conditions.parse(conditions).words == words


def test_what_differs_is_named_and_nothing_else() -> None:
    ours = "at=motor;links=in;phases=together;volts=500"
    assert Conditions.parse(ours).unlike(Conditions.parse(ours)) == ""
    assert Conditions.parse("at=motor;links=out;phases=together;volts=250").unlike(
        Conditions.parse(ours)
    ) == ("links out, 250 V")


def test_limits_on_a_plot_come_from_the_plate_and_the_site() -> None:
    motor = plate(amps_low=Entered(text="20", unit="A"), service_factor=Entered(text="1.15"))
    assert [(x.label, x.value) for x in series_limits("current_mean", {"motor": motor}, Limits())] == [
        ("nameplate", 20.0),
        ("service factor", pytest.approx(23.0)),
    ]
    assert [(x.label, x.value) for x in series_limits("insulation_40", {"motor": motor}, Limits())] == [
        ("minimum", 5.0)
    ]
    assert series_limits("voltage_mean", {"motor": motor}, Limits()) == []
    moved = Override(limit="current_unbalance.good", value=3.0, unit="%", reason="old net", by="x", at=AT)
    assert series_limits("current_unbalance", {"motor": motor}, Limits([moved]))[0].value == 3.0
    assert series_limits("insulation_40", {}, Limits())[0].value == 5.0


def test_every_measurand_and_state_has_its_words() -> None:
    assert all(set(m.limits) <= set(LIMITS) for m in MEASURANDS.values())
    assert all(m.part in PARTS for m in MEASURANDS.values())
    assert all(re.fullmatch(r"state\.\w+(=\w+\+?)?", t) for t in RULEBOOK.texts if t.startswith("state."))
    assert set(SCHOOLS["insulation.correction"].options) == {"by_plate", "thermosetting", "thermoplastic"}
    assert all(not e.part or e.part in PARTS for e in EVENT_KINDS.values())
    assert KINDS["wet_rotor"].built_in_electronics


# Forecasts


def line_data(
    start: float, slope: float, n: int, noise: float = 0.0, seed: int = 1
) -> list[tuple[float, float, Bound]]:
    rng = np.random.default_rng(seed)
    return [
        (30.0 * i, float(10 ** (start + slope * 30 * i + rng.normal(0, noise))), Bound.EXACT)
        for i in range(n)
    ]


def test_a_clean_fall_meets_its_limit_when_it_must() -> None:
    """From 1000 MΩ a decade every 300 days: 10 MΩ 600 days after the first, 5 MΩ about 90 days later."""
    points = line_data(3, -1 / 300, 21)
    f, says = series_forecast("insulation_40", "MOhm", points, 5.0)
    assert f.crossing.likely == pytest.approx(300 * math.log10(10 / 5), rel=1e-6)
    assert says.template == "forecast.crossing"
    assert [
        round(v, 6) for v in (path_values("insulation_40", f)[0][1], path_values("insulation_40", f)[-1][1])
    ] == [10.0, 5.0]


@pytest.mark.parametrize(
    ("points", "template"),
    [
        (line_data(3, 0, 3), "forecast.too_few"),
        (line_data(3, 0, 6, 0.05, 4), "forecast.inconclusive"),
        (line_data(3, 0, 20, 0.05, 2), "forecast.no_trend"),
        (line_data(2, 0.002, 10), "forecast.rising"),
        (line_data(4, -0.0005, 10), "forecast.far"),
        ([(30.0 * i, 1e4, Bound.AT_LEAST) for i in range(9)], "forecast.bounds"),
        ([], "forecast.too_few"),
    ],
)
def test_each_answer_of_a_forecast(points: list[tuple[float, float, Bound]], template: str) -> None:
    assert series_forecast("insulation_40", "MOhm", points, 5.0)[1].template == template


def test_a_plain_series_says_its_slope_a_year() -> None:
    f, says = series_forecast(
        "current_mean", "A", [(365.25 * i, 30.0 + i, Bound.EXACT) for i in range(8)], None
    )
    assert says.template == "trend.rising"
    assert says.args["slope"].value == pytest.approx(1.0)  # type: ignore[union-attr]
    assert f.crossing.likely is None


@settings(max_examples=60, deadline=None)
@given(st.integers(5, 24), st.integers(0, 10_000))
def test_slope_and_band_against_scipy(n: int, seed: int) -> None:
    """scipy.stats.theilslopes on the same exact figures; the trend's own p against scipy's Kendall
    (asymptotic).
    """
    rng = np.random.default_rng(seed)
    t, v = np.arange(n) * 7.0, rng.normal(0, 1, n) + 0.02 * np.arange(n)
    found = assess([Datum(t=float(a), value=float(b)) for a, b in zip(t, v, strict=True)])
    slope, _, low, high = stats.theilslopes(v, t)
    assert (found.slope, found.low, found.high) == pytest.approx((slope, low, high))


@settings(max_examples=60, deadline=None)
@given(st.integers(4, 14), st.integers(0, 10_000))
def test_the_slope_among_bounds_leaves_no_rank_trend(n: int, seed: int) -> None:
    """By the definition, reckoned here by brute force: just below the answer S is not negative, just above
    not positive.
    """
    rng = np.random.default_rng(seed)
    data = [
        Datum(
            t=float(i),
            value=float(rng.normal(0, 1) - 0.3 * i),
            bound=[Bound.EXACT, Bound.EXACT, Bound.AT_LEAST, Bound.AT_MOST][rng.integers(0, 4)],
        )
        for i in range(n)
    ]
    if sum(d.bound is Bound.EXACT for d in data) < 2:
        return
    slope = akritas_slope(data)

    def s(b: float) -> int:
        total = 0
        for i, x in enumerate(data):
            for y in data[i + 1 :]:
                (xl, xh), (yl, yh) = (
                    (
                        d.value - b * d.t if d.bound is not Bound.AT_MOST else -math.inf,
                        d.value - b * d.t if d.bound is not Bound.AT_LEAST else math.inf,
                    )
                    for d in (x, y)
                )
                total += (yl > xh) - (yh < xl)
        return total

    assert s(slope - 1e-7) >= 0 >= s(slope + 1e-7)
    assert s(slope - 50) >= s(slope - 1e-7)
    assert s(slope + 50) <= s(slope + 1e-7)


def test_median_of_bounds() -> None:
    assert median_of([(1, Bound.EXACT), (5, Bound.EXACT), (9, Bound.EXACT)]) == (5, Bound.EXACT)
    assert median_of([(1, Bound.AT_LEAST), (5, Bound.EXACT), (9, Bound.EXACT)]) == (5, Bound.AT_LEAST)
    assert median_of([(10, Bound.AT_LEAST), (2, Bound.EXACT), (10, Bound.AT_LEAST)]) == (10, Bound.AT_LEAST)
    with pytest.raises(HurbinError):
        median_of([])
    with pytest.raises(HurbinError):
        median_of([(1, Bound.AT_LEAST), (5, Bound.AT_MOST)])


def test_a_forecast_never_looks_further_ahead_than_back() -> None:
    f = forecast([Datum(t=10.0 * i, value=5 - 0.01 * i) for i in range(9)], 0.0)
    assert f.trend.direction is Direction.FALLING
    assert f.crossing.likely is None
    assert f.path[-1].t == pytest.approx(160.0)
    assert all(p.low <= p.likely <= p.high for p in f.path)


# What a part says first


def answer(question: str, verdict: Verdict = Verdict.ACT) -> Answer:
    return Answer.model_validate(
        {
            "question": question,
            "part": "motor",
            "verdict": verdict,
            "reason": {"template": "ins.act"},
            "taken_at": AT - timedelta(days=1),
        }
    )


@pytest.mark.parametrize(
    ("questions", "first"),
    [
        (("absorption", "insulation"), "insulation"),
        (("absorption", "insulation_past", "polarisation"), "insulation_past"),
        (("insulation", "load"), "load"),
        (("zebra", "absorption"), "absorption"),
    ],
)
def test_the_leading_question_is_said_first_in_any_order(questions: tuple[str, ...], first: str) -> None:
    for order in permutations(questions):
        assert fold_parts([answer(x) for x in order])[0].question == first
