"""Units, text, figures, limits."""

from __future__ import annotations

import ast
import doctest
import importlib
import pathlib
import subprocess
import sys

import pint
import pytest
from hypothesis import given, strategies as st

from hurbin_core.base import (
    DIMENSIONS,
    RULES,
    Bound,
    Certainty,
    Compared,
    Entered,
    FieldRule,
    HurbinError,
    Limits,
    Prefs,
    Quantity,
    Rule,
    UsedLimit,
    Verdict,
    compare,
    figure,
    from_metric,
    judge,
    judge_steps,
    read,
    show,
    show_limit,
    to_metric,
    worst,
)
from hurbin_core.catalogue import benches

PINT = {
    "mil": "thou",
    "in": "inch",
    "mm": "mm",
    "kPa": "kPa",
    "bar": "bar",
    "psi": "psi",
    "ftH2O": "conventional_foot_H2O",
    "m3/h": "m**3/hour",
    "l/s": "liter/second",
    "gpm": "gallon/minute",
    "kW": "kW",
    "hp": "horsepower",
    "Ohm": "ohm",
    "kOhm": "kohm",
    "MOhm": "megaohm",
    "GOhm": "gigaohm",
    "V": "volt",
    "mV": "mV",
    "kV": "kV",
    "A": "ampere",
    "mA": "mA",
    "Hz": "hertz",
    "degC": "degC",
    "degF": "degF",
    "K": "delta_degC",
    "degF_rise": "delta_degF",
}


@pytest.fixture(scope="module")
def registry() -> pint.UnitRegistry:
    r: pint.UnitRegistry = pint.UnitRegistry()
    r.define(
        "conventional_foot_H2O = 2989.067 pascal"
    )  # NIST SP 811 appendix B.8, four figures more than pint's own
    return r


@pytest.mark.parametrize("code", PINT)
def test_units_against_pint(code: str, registry: pint.UnitRegistry) -> None:
    """Every unit against the units library pint (a general-purpose reference library)."""
    dimension = next(d for d, us in DIMENSIONS.items() if code in [u.code for u in us])
    metric = DIMENSIONS[dimension][0].code
    theirs = registry.Quantity(37.5, PINT[code]).to(PINT[metric]).magnitude
    assert to_metric(37.5, code) == pytest.approx(theirs, rel=1e-9)


# By definition, or by hand from it: what a person would look up. Both ways, so that a factor turned over
# shows.
ANCHORS = [
    ("mil/in", 1, 0.1),
    ("mrad", 10, 1.0),
    ("in/s", 0.5, 12.7),
    ("lbf·ft", 10, 13.558),
    ("min", 2, 120),
    ("ft_height", 100, 30.48),
    ("degF", 212, 100),
    ("degF", 14, -10),
    ("gpm", 100, 22.712),
    ("psi", 14.6959, 101.325),
    ("hp", 100, 74.57),
    ("bar", 1.01325, 101.325),
    ("kV", 4.16, 4160),
    ("GOhm", 2.5, 2500),
    ("mil", 15, 0.381),
]


@pytest.mark.parametrize(("code", "theirs", "metric"), ANCHORS)
def test_units_stand_at_their_anchors(code: str, theirs: float, metric: float) -> None:
    assert to_metric(theirs, code) == pytest.approx(metric, rel=1e-4)
    assert from_metric(metric, code) == pytest.approx(theirs, rel=1e-4)


def rule(dimension: str, **more: object) -> FieldRule:
    return FieldRule("f", "Field", dimension, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "unit", "dimension", "value"),
    [
        ("0.090 in", "mm", "length", 2.286),
        ("90 mil", "", "length", 2.286),
        ("2,286", "mm", "length", None),
        ("0,09 in", "mm", "length", 2.286),
        ("1 234,5", "V", "voltage", 1234.5),
        ("1.234,5", "V", "voltage", 1234.5),
        ("1,234.5", "V", "voltage", 1234.5),
        ("−3", "degC", "temperature", -3),
        ("50", "degF", "temperature", 10),
        ("0.4kV", "V", "voltage", 400),
        ("31.9 A", "", "current", 31.9),
        ("12", "hp", "power", 8.94839845898),
    ],
)
def test_text_as_people_write_it(text: str, unit: str, dimension: str, value: float | None) -> None:
    if value is None:
        with pytest.raises(HurbinError, match="two ways"):
            read(Entered(text=text, unit=unit), rule(dimension))
    else:
        got = read(Entered(text=text, unit=unit), rule(dimension))
        assert got is not None
        assert got.value == pytest.approx(value)


@pytest.mark.parametrize("text", ["", "   "])
def test_empty_is_missing_not_zero(text: str) -> None:
    assert read(Entered(text=text), rule("current")) is None
    zero = read(Entered(text="0"), rule("current"))
    assert zero is not None
    assert zero.value == 0


def test_bounds_and_words() -> None:
    got = read(Entered(text=">10 G", unit="MOhm"), rule("resistance", bounds_allowed=True))
    assert got is not None
    assert (got.value, got.bound) == (10_000, Bound.AT_LEAST)
    flush = read(Entered(text="flush"), rule("length", words=("flush",)))
    assert flush is not None
    assert flush.word == "flush"
    with pytest.raises(HurbinError, match="bound"):
        read(Entered(text=">10"), rule("current"))


@pytest.mark.parametrize(
    "text",
    [
        "nan",
        "inf",
        "1e999",
        "--3",
        "3..",
        "1.2.3",
        "12 bar",
        "m",
        "5 mΩ",
        "31 9",
        "1.2,3",
        "1,2.3",
        "12 34",
        "1 2345",
        "²",
        "٣",
    ],
)
def test_nonsense_is_refused(text: str) -> None:
    with pytest.raises(HurbinError):
        read(Entered(text=text, unit="MOhm"), rule("resistance"))


@given(st.text(max_size=12))
def test_any_text_is_a_figure_or_a_refusal(text: str) -> None:
    try:
        got = read(Entered(text=text, unit="A"), rule("current", low=0.0))
    except HurbinError as error:
        assert error.field == "f"
        assert error.message
    else:
        assert got is None or got.value >= 0


def test_never_rounds_across_a_limit() -> None:
    assert figure(Quantity(value=0.0504, unit="mm"), beside=0.05) == "0.0504"
    assert figure(Quantity(value=5.0004, unit="%"), beside=5.0) == "5.0004"
    assert figure(Quantity(value=4.9996, unit="%"), beside=5.0) == "4.9996"


def number(text: str) -> float:
    return float(text.split("\u00a0")[0].replace("−", "-"))


@given(st.floats(0.01, 500), st.floats(-1e-3, 1e-3), st.sampled_from(["%", "mm", "A"]), st.booleans())
def test_value_and_limit_are_never_rounded_across_one_another(
    limit: float, share: float, unit: str, inch: bool
) -> None:
    """On either side: the value as shown stands to the limit as shown as the two stand in truth."""
    value = limit * (1 + share)
    if abs(share) < 1e-6:
        return
    prefs = Prefs(units={"length": "in"}) if inch else Prefs()
    value_shown = number(figure(Quantity(value=value, unit=unit), prefs, beside=[limit, limit * 3]))
    limit_shown = number(show_limit(Quantity(value=limit, unit=unit), prefs, beside=value))
    assert (value_shown - limit_shown) * (value - limit) > 0


def test_figures_close_to_their_limit() -> None:
    for value, limit, unit, shown, beside in (
        (5.104, 5.1, "MOhm", "5.104", "5.1"),
        (0.0509, 0.0508, "mm", "0.0509", "0.0508"),
        (124.9, 125.0, "%", "124.9", "125"),
    ):
        assert figure(Quantity(value=value, unit=unit), beside=limit) == shown
        assert show_limit(Quantity(value=limit, unit=unit), beside=value).split("\u00a0")[0] == beside


def test_shown_in_the_readers_units() -> None:
    assert show(Quantity(value=10, unit="degC"), Prefs(units={"temperature": "degF"})) == "50.0\u00a0°F"
    assert show(Quantity(value=31.87, unit="A"), Prefs(decimal=",")) == "31,9\u00a0A"
    assert show(
        Quantity(value=10_000, unit="MOhm", bound=Bound.AT_LEAST), Prefs(units={"resistance": "GOhm"})
    ).startswith("≥ 10.0")


def test_limits_own_value_passes_and_bounds_say_only_what_they_can() -> None:
    assert compare(Quantity(value=5.0, unit="%"), 5.0) is Compared.WITHIN
    assert compare(Quantity(value=5.0 * (1 + 1e-8), unit="%"), 5.0) is Compared.OVER
    least = Quantity(value=10, unit="%", bound=Bound.AT_LEAST)
    assert compare(least, 5) is Compared.OVER
    assert compare(least, 20) is Compared.CANNOT_TELL
    assert (
        judge("voltage_unbalance", Quantity(value=0.5, unit="%", bound=Bound.AT_LEAST), Limits()).verdict
        is Verdict.UNKNOWN
    )


@given(
    st.sampled_from([r.id for r in RULES.values() if r.steps]),
    st.floats(0, 3),
    st.floats(0, 1),
    st.floats(0, 0.5),
    st.sampled_from(list(Bound)),
)
def test_worse_readings_never_get_a_better_verdict(
    rule_id: str, share: float, more: float, u: float, bound: Bound
) -> None:
    """Every rule that has steps: moved to its bad side, whatever the bound or the uncertainty, a reading is
    judged no better. An unknown that becomes a certain watch is no improvement: the two stand side by side.
    """
    severity = {Verdict.GOOD: 0, Verdict.WATCH: 1, Verdict.UNKNOWN: 1, Verdict.ACT: 2, Verdict.STOP: 3}
    r = RULES[rule_id]
    top = max(Limits().value(s.limit) for s in r.steps)
    unit = Limits().get(r.steps[0].limit).unit
    a = Quantity(value=top * share, unit=unit, u=u * top, bound=bound)
    worse = a.model_copy(update={"value": top * (max(0.0, share - more) if r.floor else share + more)})
    assert severity[judge(rule_id, worse, Limits()).verdict] >= severity[judge(rule_id, a, Limits()).verdict]


@given(st.sampled_from([r.id for r in RULES.values() if r.steps]), st.floats(0, 3), st.floats(0, 0.5))
def test_an_interval_is_judged_as_both_its_ends_are(rule_id: str, share: float, u: float) -> None:
    r = RULES[rule_id]
    top = max(Limits().value(s.limit) for s in r.steps)
    unit = Limits().get(r.steps[0].limit).unit
    told = judge(rule_id, Quantity(value=top * share, unit=unit, u=u * top), Limits())
    least = top * (share - u) if unit == "degC" else max(0.0, top * (share - u))
    ends = sorted(
        (judge(rule_id, Quantity(value=v, unit=unit), Limits()).verdict for v in (least, top * (share + u))),
        key=lambda v: v.rank,
    )
    assert told.certain is (ends[0] is ends[1])
    mildest = ends[0] if ends[0] is ends[1] or ends[0].rank > Verdict.UNKNOWN.rank else Verdict.UNKNOWN
    assert told.verdict is mildest


@pytest.mark.parametrize(
    ("value", "bound", "said"),
    [
        (10, Bound.AT_MOST, "act"),
        (10, Bound.EXACT, "watch"),
        (4.9, Bound.AT_MOST, "stop"),
        (60, Bound.AT_MOST, "unknown"),
        (60, Bound.AT_LEAST, "good"),
    ],
)
def test_a_bound_says_at_least_the_mildest_that_is_possible(value: float, bound: Bound, said: str) -> None:
    """“<10” against act under 10 and stop under 5 is at least act: written with a rule of its own, by
    hand.
    """
    floor = Rule(
        id="x", title="x", formula="x", why="x", source="x", certainty=Certainty.PRACTICE, floor=True
    )
    steps = [(used(50), Verdict.GOOD), (used(10), Verdict.WATCH), (used(5), Verdict.ACT)]
    assert (
        judge_steps(floor, Quantity(value=value, unit="MOhm", bound=bound), steps, Verdict.STOP).verdict.value
        == said
    )


def used(value: float) -> UsedLimit:
    return UsedLimit(
        id=f"x{value}",
        title="x",
        label="x",
        value=value,
        unit="MOhm",
        standard_value=value,
        source="x",
        certainty=Certainty.PRACTICE,
    )


def test_order_of_verdicts() -> None:
    assert worst([Verdict.GOOD, Verdict.WATCH, Verdict.UNKNOWN]) == (Verdict.UNKNOWN, Verdict.WATCH)
    assert worst([Verdict.UNKNOWN, Verdict.ACT]) == (Verdict.ACT, None)
    assert worst([]) == (Verdict.UNKNOWN, None)


HERE = pathlib.Path(importlib.import_module("hurbin_core").__file__ or "").parent
WORKED = sorted(
    ".".join(("hurbin_core", *p.relative_to(HERE).with_suffix("").parts))
    for p in HERE.rglob("*.py")
    if ">>> " in p.read_text()
)


@pytest.mark.parametrize("module", WORKED)
def test_worked_examples_run(module: str) -> None:
    found = doctest.testmod(importlib.import_module(module))
    assert found.attempted > 0
    assert found.failed == 0


def test_every_formula_says_what_it_answers_in_what_units_from_where_with_an_example() -> None:
    """Each function of a formulas module: a question, a worked example that runs, and a source or that it
    has none.
    """
    books = list(HERE.rglob("formulas.py"))
    assert len(books) >= 3
    for path in books:
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                said = ast.get_docstring(node) or ""
                assert ">>> " in said, (path, node.name)
                assert "?" in said or said.startswith(("The ", "Load ", "NEMA", "Negative", "Where ")), (
                    path,
                    node.name,
                )


def test_core_needs_only_pydantic() -> None:
    """It is to run in the browser one day: numpy, scipy, OR-Tools and Django blocked."""
    code = (
        "import sys\n"
        "for m in ('numpy', 'scipy', 'ortools', 'django', 'ninja'): sys.modules[m] = None\n"
        "import hurbin_core.catalogue, hurbin_core.simulator\n"
        "print([b.name for b in hurbin_core.catalogue.benches()])"
    )
    out = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=False)
    assert "running_check" in out.stdout, out.stderr
    assert [b.name for b in benches()] == [
        "alignment",
        "bearing",
        "bolts",
        "circuit",
        "control",
        "direction",
        "drawdown",
        "drive_sheet",
        "duty",
        "fill",
        "fits",
        "fuses",
        "insulation",
        "job",
        "joints",
        "leads",
        "lifting",
        "loop",
        "make_safe",
        "ohms",
        "protection",
        "rings",
        "rotor",
        "running_check",
        "seal",
        "shaft",
        "suction",
        "throttle",
        "vacuum",
        "vibration",
        "wear",
        "which",
    ]
