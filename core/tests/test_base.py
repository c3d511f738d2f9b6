"""Units, text, figures, limits."""

from __future__ import annotations

import doctest
import importlib
import subprocess
import sys

import pint
import pytest
from hypothesis import given, strategies as st

from hurbin_core.base import (
    DIMENSIONS,
    LIMITS,
    RULES,
    TEXTS,
    Bound,
    Certainty,
    Compared,
    Entered,
    FieldRule,
    HurbinError,
    Limits,
    Override,
    Prefs,
    Quantity,
    Verdict,
    check_override,
    compare,
    figure,
    from_metric,
    judge,
    read,
    show,
    to_metric,
    worst,
)
from hurbin_core.catalogue import benches

PINT = {
    "mil": "thou", "in": "inch", "mm": "mm", "kPa": "kPa", "bar": "bar", "psi": "psi", "ftH2O": "conventional_foot_H2O", "m3/h": "m**3/hour",
    "l/s": "liter/second", "gpm": "gallon/minute", "kW": "kW", "hp": "horsepower", "Ohm": "ohm", "kOhm": "kohm", "MOhm": "megaohm",
    "GOhm": "gigaohm", "V": "volt", "mV": "mV", "kV": "kV", "A": "ampere", "mA": "mA", "Hz": "hertz", "degC": "degC", "degF": "degF",
    "K": "delta_degC", "degF_rise": "delta_degF",
}  # fmt: skip


@pytest.fixture(scope="module")
def registry() -> pint.UnitRegistry:
    r: pint.UnitRegistry = pint.UnitRegistry()
    r.define("conventional_foot_H2O = 2989.067 pascal")  # NIST SP 811 appendix B.8, four figures more than pint's own
    return r


@pytest.mark.parametrize("code", PINT)
def test_units_against_pint(code: str, registry: pint.UnitRegistry) -> None:
    """Every unit against the units library pint (a general-purpose reference library)."""
    dimension = next(d for d, us in DIMENSIONS.items() if code in [u.code for u in us])
    metric = DIMENSIONS[dimension][0].code
    theirs = registry.Quantity(37.5, PINT[code]).to(PINT[metric]).magnitude
    assert to_metric(37.5, code) == pytest.approx(theirs, rel=1e-9)


@given(st.sampled_from([u.code for us in DIMENSIONS.values() for u in us]), st.floats(-1e6, 1e6))
def test_units_round_trip(code: str, value: float) -> None:
    assert from_metric(to_metric(value, code), code) == pytest.approx(value, rel=1e-9, abs=1e-6)


def rule(dimension: str, **more: object) -> FieldRule:
    return FieldRule("f", "Field", dimension, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "unit", "dimension", "value"),
    [
        ("0.090 in", "mm", "length", 2.286), ("90 mil", "", "length", 2.286), ("2,286", "mm", "length", None), ("0,09 in", "mm", "length", 2.286),
        ("1 234,5", "V", "voltage", 1234.5), ("1.234,5", "V", "voltage", 1234.5), ("1,234.5", "V", "voltage", 1234.5), ("−3", "degC", "temperature", -3),
        ("50", "degF", "temperature", 10), ("0.4kV", "V", "voltage", 400), ("31.9 A", "", "current", 31.9), ("12", "hp", "power", 8.94839845898),
    ],
)  # fmt: skip
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


@pytest.mark.parametrize("text", ["nan", "inf", "1e999", "--3", "3..", "1.2.3", "12 bar", "m", "5 mΩ"])
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


@given(st.floats(0.01, 500), st.floats(-1e-3, 1e-3))
def test_shown_stands_on_the_side_it_is_on(limit: float, share: float) -> None:
    value = limit * (1 + share)
    if abs(share) < 1e-7:
        return
    digits = float(figure(Quantity(value=value, unit="%"), beside=limit).replace("−", "-"))
    places = len(figure(Quantity(value=value, unit="%"), beside=limit).partition(".")[2])
    assert (digits - round(limit, places)) * (value - limit) > 0


def test_shown_in_the_readers_units() -> None:
    assert show(Quantity(value=10, unit="degC"), Prefs(units={"temperature": "degF"})) == "50.0\u00a0°F"
    assert show(Quantity(value=31.87, unit="A"), Prefs(decimal=",")) == "31,9\u00a0A"
    assert show(Quantity(value=10_000, unit="MOhm", bound=Bound.AT_LEAST), Prefs(units={"resistance": "GOhm"})).startswith("≥ 10.0")


def test_limits_own_value_passes_and_bounds_say_only_what_they_can() -> None:
    assert compare(Quantity(value=5.0, unit="%"), 5.0) is Compared.WITHIN
    assert compare(Quantity(value=5.0 * (1 + 1e-8), unit="%"), 5.0) is Compared.OVER
    least = Quantity(value=10, unit="%", bound=Bound.AT_LEAST)
    assert compare(least, 5) is Compared.OVER
    assert compare(least, 20) is Compared.CANNOT_TELL
    assert judge("voltage_unbalance", Quantity(value=0.5, unit="%", bound=Bound.AT_LEAST), Limits()).verdict is Verdict.UNKNOWN


@given(st.floats(0, 20))
def test_worse_readings_never_get_a_better_verdict(pct: float) -> None:
    a = judge("voltage_unbalance", Quantity(value=pct, unit="%"), Limits())
    b = judge("voltage_unbalance", Quantity(value=pct + 0.5, unit="%"), Limits())
    assert b.verdict.rank >= a.verdict.rank


def test_order_of_verdicts() -> None:
    assert worst([Verdict.GOOD, Verdict.WATCH, Verdict.UNKNOWN]) == (Verdict.UNKNOWN, Verdict.WATCH)
    assert worst([Verdict.UNKNOWN, Verdict.ACT]) == (Verdict.ACT, None)
    assert worst([]) == (Verdict.UNKNOWN, None)


def test_overrides_keep_their_order(now: object) -> None:
    check_override("voltage_unbalance.watch", 3.0, "", [])
    for value, code in ((0.5, "limits_out_of_order"), (9.0, "limits_out_of_order"), (0.0, "limit_not_positive"), (None, "limit_not_positive")):
        with pytest.raises(HurbinError) as told:
            check_override("voltage_unbalance.watch", value, "", [])
        assert told.value.code == code
    standing = Override(limit="voltage_unbalance.act", value=2.5, reason="r", by="b", at=now)  # type: ignore[arg-type]
    with pytest.raises(HurbinError):
        check_override("voltage_unbalance.watch", 3.0, "", [standing])
    with pytest.raises(HurbinError):
        check_override("school.voltage_unbalance", None, "third", [])


def test_data_files_say_where_they_are_from() -> None:
    for limit in LIMITS.values():
        assert limit.source
        if limit.certainty is Certainty.PRACTICE:
            assert "practice" in limit.source
        if limit.certainty is Certainty.STANDARD:
            assert limit.from_memory
    for r in RULES.values():
        assert r.formula
        assert r.why
        assert all(s.limit in LIMITS for s in r.steps)


def test_every_template_is_used_somewhere() -> None:
    """A sentence nobody says is dead data; one that is said and not there fails when it is written."""
    import pathlib

    here = pathlib.Path(importlib.import_module("hurbin_core").__file__ or "").parent
    code = "\n".join(p.read_text() for p in here.rglob("*.py"))
    made = {"load.good", "load.watch", "load.act", "load.stop"} | {f"ins.{v}" for v in ("good", "watch", "act", "stop", "unknown")}
    made |= {"ins.blocked_dew", "ins.blocked_leads", "ins.minute_curve", "ins.minute_near", "dar.good"}
    made |= {f"tag.{v}" for v in ("isolating", "isolated", "proved", "giving_back", "live")}
    made |= {f"story.{v}" for v in ("list", "stopped", "shut", "opened", "lock", "released", "work", "undo")}
    families = ("cause.", "state.", "trend.", "safety.caution_")  # named by data files
    unused = [t for t in TEXTS if f'"{t}"' not in code and t not in made and not t.startswith(families)]
    assert unused == []


@pytest.mark.parametrize("module", ["base.verdict", "base.units", "base.quantity", "base.show", "logbook.trend", "logbook.thin", "electrical.unbalance", "electrical.states",
                                    "electrical.insulation.correction", "alignment.poses", "alignment.growth", "alignment.tolerance"])
def test_worked_examples_run(module: str) -> None:
    found = doctest.testmod(importlib.import_module(f"hurbin_core.{module}"))
    assert found.attempted > 0
    assert found.failed == 0


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
    assert [b.name for b in benches()] == ["alignment", "insulation", "make_safe", "running_check", "vibration"]
