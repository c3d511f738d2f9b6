"""What a reading is worth by the instrument that took it: calibration, category, range, resolution."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from cases import case
from hypothesis import given, strategies as st

from hurbin_core.alignment.entry import SetMeasures
from hurbin_core.base import Entered, Evaluation, HurbinError, Limits, Override, Phrase, Verdict, write
from hurbin_core.catalogue import benches
from hurbin_core.electrical import RUNNING_CHECK
from hurbin_core.electrical.ohms.entry import OhmsEntry
from hurbin_core.instruments import (
    INSTRUMENT_KINDS,
    Calibration,
    Instrument,
    InstrumentSaid,
    Shown,
    Span,
    SpanSaid,
    instrument_of,
    shown_in,
    stands,
    unfit,
)
from hurbin_core.logbook import AnyCase, Entry
from hurbin_core.plant import MotorPlate

AT = datetime(2026, 5, 4, 9, tzinfo=UTC)
DAY = timedelta(days=1)
PLATE = MotorPlate.model_validate(
    {
        "volts_low": {"text": "400", "unit": "V"},
        "amps_low": {"text": "20", "unit": "A"},
        "service_factor": {"text": "1.15", "unit": ""},
    }
)
BODY: dict[str, Any] = {
    "read_at": "motor_leads",
    "coupled": True,
    "valve": "open",
    **{f"volts_{k}": {"text": v, "unit": "V"} for k, v in (("12", "400"), ("23", "401"), ("31", "399"))},
    **{f"amps_{k}": {"text": v, "unit": "A"} for k, v in (("1", "15.0"), ("2", "15.1"), ("3", "14.9"))},
}


def tool(id_: str, kind: str, *reads: str, top: float = 1000, step: float = 0.01, **more: Any) -> Instrument:
    given_: dict[str, Any] = {
        "category": "III",
        "category_volts": 600.0,
        "since": AT - 900 * DAY,
        "calibrations": [Calibration(done_at=AT - 100 * DAY, due_at=AT + 200 * DAY)],
    }
    return Instrument(
        id=id_,
        name=f"{kind.split('_')[0].capitalize()} {id_}",
        kind=kind,
        spans=[Span(reads=r, top=top, step=step) for r in reads],
        **(given_ | more),
    )


def meter(**more: Any) -> Instrument:
    return tool("1", "multimeter", "voltage", **more)


def clamp(**more: Any) -> Instrument:
    return tool("2", "clamp_meter", "current", **more)


NAMED = {"voltage": "1", "current": "2"}


def checked(
    instruments: list[Instrument], named: dict[str, str], body: dict[str, Any] | None = None, **more: Any
) -> Evaluation[Any]:
    found: AnyCase = case(AT, kind="base_mounted", motor=PLATE, **more)
    found = found.model_copy(update={"instruments": instruments})
    entry = Entry[RUNNING_CHECK.entry](  # type: ignore[name-defined]
        uuid="entry-0001", taken_at=AT, device="here", instruments=named, body=BODY | (body or {})
    )
    return RUNNING_CHECK.evaluate(found, [entry])


def plain(phrase: Phrase) -> str:
    return write(phrase).replace("\u00a0", " ")


def said(e: Evaluation[Any], question: str) -> tuple[str, str]:
    found = e.finding(question)
    assert found is not None
    return found.verdict.value, plain(found.reason)


def test_what_fits_changes_nothing() -> None:
    plain, named = checked([], {}), checked([meter(), clamp()], NAMED)
    assert plain.verdict is Verdict.GOOD
    assert named == plain


# What the register says of the meter that read the voltage: why its good is none.
UNFIT = [
    ({"calibrations": [Calibration(done_at=AT - 400 * DAY, due_at=AT - 24 * DAY)]}, "24 days past its calib"),
    ({"calibrations": [Calibration(done_at=AT - 400 * DAY, due_at=AT)]}, "past its calibration"),
    ({"calibrations": []}, "no calibration on record"),
    ({"calibrations": [Calibration(done_at=AT + DAY, due_at=AT + 400 * DAY)]}, "no calibration on record"),
    ({"calibrations": [Calibration(done_at=AT - DAY)]}, "no date on record"),
    (
        {
            "calibrations": [
                Calibration(done_at=AT - 100 * DAY, due_at=AT + 100 * DAY),
                Calibration(done_at=AT + 90 * DAY, due_at=AT + 400 * DAY, found="out"),
            ]
        },
        "out of tolerance at its next calibration",
    ),
    ({"category": "II"}, "CAT II"),
    ({"category": ""}, "without a measurement category"),
    ({"category_volts": None}, "without its voltage"),
    ({"category_volts": 300.0}, "rated CAT III, 300 V"),
    ({"until": AT - DAY}, "out of service"),
    ({"since": AT + DAY}, "not in the register yet"),
    ({"top": 400.0}, "over the range"),
    ({"step": 10.0}, "finer than Multimeter 1 resolves"),
]


@pytest.mark.parametrize(("more", "words"), UNFIT)
def test_an_unfit_meter_earns_no_good_and_leaves_what_another_read(more: dict[str, Any], words: str) -> None:
    e = checked([meter(**more), clamp()], NAMED)
    verdict, reason = said(e, "voltage_unbalance")
    assert (verdict, words in reason) == ("unknown", True), reason
    assert "0.2" in reason, "the figure stays in sight"
    assert said(e, "load")[0] == "good", "the clamp read it, and the clamp is in date"
    assert said(e, "current_unbalance")[0] == "unknown", "it stands on the voltage as well"
    assert e.verdict is Verdict.UNKNOWN
    assert all(m.verdict is not Verdict.GOOD for m in e.view.marks)


def test_what_is_wrong_stays_wrong_and_names_the_instrument_beside() -> None:
    old = [Calibration(done_at=AT - 400 * DAY, due_at=AT - 2 * DAY)]
    e = checked(
        [meter(calibrations=old), clamp(calibrations=old)], NAMED, {"amps_3": {"text": "0", "unit": "A"}}
    )
    found = e.finding("single_phasing")
    assert found is not None
    assert found.verdict is Verdict.STOP
    assert "past its calibration" in plain(found.notes[-1])


SCHOOL = [
    ("", [], "good"),
    ("", [clamp()], "good"),
    ("", [meter()], "unknown"),
    ("always", [], "unknown"),
    ("never", [meter()], "good"),
]


@pytest.mark.parametrize(("school", "register", "verdict"), SCHOOL)
def test_a_reading_without_its_instrument(school: str, register: list[Instrument], verdict: str) -> None:
    chosen = [Override(limit="school.unnamed_instrument", choice=school, reason="site", by="ada", at=AT)]
    e = checked(register, {}, overrides=chosen if school else [])
    assert said(e, "voltage_unbalance")[0] == verdict
    if verdict == "unknown":
        assert "Choose the instrument that measured voltage" in said(e, "voltage_unbalance")[1]


def test_a_name_that_is_none_and_one_of_another_kind() -> None:
    assert (
        "not in this site's register"
        in said(checked([meter(), clamp()], {"voltage": "77"}), "line_voltage")[1]
    )
    wrong = said(checked([meter(), clamp()], NAMED | {"voltage": "2"}), "line_voltage")
    assert wrong[0] == "unknown"
    assert "does not measure voltage" in wrong[1]


def test_a_voltage_tester_is_proved_at_each_use_instead() -> None:
    tester = tool("3", "voltage_tester", "voltage", step=1, calibrations=[])
    assert checked([tester, clamp()], {"voltage": "3", "current": "2"}).verdict is Verdict.GOOD


@given(
    st.sampled_from([0.1, 0.01, 0.2, 0.5, 1.0]),
    st.integers(min_value=0, max_value=5000),
    st.sampled_from(["degC", "degF"]),
)
def test_every_step_of_a_scale_can_be_read_and_nothing_between(step: float, n: int, unit: str) -> None:
    camera = tool("4", "thermal_camera", "temperature", top=1e6, step=step)
    value = n * step
    metric = value if unit == "degC" else (value - 32) * 5 / 9
    for steps, fits in ((value, True), (value + step / 3, False)):
        shown = Shown(reads="temperature", typed="x", value=metric, steps=steps)
        assert (unfit(camera, shown, AT, None, Limits()) is None) is fits


def test_how_it_stands_today() -> None:
    def word(**more: Any) -> tuple[str, str]:
        told = stands(clamp(**more), AT, Limits())
        return told.verdict.value, plain(told.says)

    def due(days: float) -> dict[str, Any]:
        return {"calibrations": [Calibration(done_at=AT - 300 * DAY, due_at=AT + days * DAY)]}

    assert word(**due(200)) == ("good", "Calibration in date for 200 days.")
    assert word(**due(30)) == ("watch", "Calibration due in 30 days.")
    assert word(**due(0.5)) == ("watch", "Calibration due today.")
    assert word(**due(-3)) == ("act", "Calibration 3 days overdue.")
    assert word(calibrations=[]) == ("unknown", "No calibration on record.")
    assert word(until=AT) == ("unknown", "Out of service.")
    assert word(category="II") == ("act", "CAT II: not for live parts of an installation.")


ENTERED = InstrumentSaid(
    name="Clamp 2",
    kind="clamp_meter",
    category="III",
    category_volts=Entered(text="600", unit="V"),
    spans=[
        SpanSaid(reads="current", top=Entered(text="400", unit="A"), step=Entered(text="10", unit="mA")),
        SpanSaid(reads="voltage", top=Entered(text="0.6", unit="kV"), step=Entered(text="0.1", unit="V")),
    ],
)
REFUSED = [
    ({"name": "  "}, "name_missing"),
    ({"name": "Meter 3; voltage=Meter 4"}, "name_wrong"),
    ({"name": "Meter\n3"}, "name_wrong"),
    ({"kind": "divining_rod"}, "kind_unknown"),
    ({"spans": []}, "spans_missing"),
    ({"spans": [*ENTERED.spans, ENTERED.spans[0]]}, "span_twice"),
    ({"category_volts": None}, "category_volts_missing"),
    ({"spans": [ENTERED.spans[0].model_copy(update={"reads": "vibration"})]}, "span_other"),
    ({"spans": [ENTERED.spans[0].model_copy(update={"top": Entered(text="")})]}, "span_missing"),
    ({"spans": [ENTERED.spans[0].model_copy(update={"step": Entered(text="0", unit="A")})]}, "span_missing"),
    ({"spans": [ENTERED.spans[0].model_copy(update={"step": Entered(text="90", unit="A")})]}, "span_coarse"),
]


def test_an_instrument_as_entered() -> None:
    made = instrument_of(ENTERED, id="2", since=AT)
    assert [(s.reads, s.top, s.step) for s in made.spans] == [("current", 400, 0.01), ("voltage", 600, 0.1)]
    assert (made.category_volts, made.rank) == (600, 3)
    camera = InstrumentSaid(
        name="Camera",
        kind="thermal_camera",
        category="III",
        spans=[
            SpanSaid(
                reads="temperature",
                top=Entered(text="300", unit="degC"),
                step=Entered(text="0.1", unit="degC"),
            )
        ],
    )
    assert instrument_of(camera, id="3", since=AT).category == "", "a camera is put on no circuit"


@pytest.mark.parametrize(("more", "code"), REFUSED)
def test_an_instrument_that_is_none(more: dict[str, Any], code: str) -> None:
    with pytest.raises(HurbinError) as refused:
        instrument_of(ENTERED.model_copy(update=more), id="2", since=AT)
    assert refused.value.code == code


def test_what_is_printed_or_kept_with_the_set_is_no_reading() -> None:
    said = OhmsEntry.model_validate(
        {
            "marked": {"text": "25", "unit": "uF"},
            "moisture_least": {"text": "100", "unit": "kohm"},
            "moisture": {"text": "4", "unit": "kohm"},
        }
    )
    read = list(shown_in(said, ("low_resistance", "capacitance")))
    assert [(s.reads, s.value) for s in read] == [("low_resistance", 4000)]
    measures = SetMeasures.model_validate({"x_front": {"text": "300", "unit": "mm"}})
    assert not list(shown_in(measures, ("length",)))


def test_every_bench_that_reads_with_an_instrument_finds_its_figures() -> None:
    reads = {r for k in INSTRUMENT_KINDS.values() for r in k.reads}
    for bench in benches():
        assert set(bench.read_with) <= reads, bench.name
    assert {b.name for b in benches() if not b.read_with} == {
        "direction",
        "drawdown",
        "drive_sheet",
        "duty",
        "fill",
        "job",
        "loop",
        "make_safe",
        "protection",
        "shaft",
        "suction",
        "throttle",
        "vacuum",
        "wear",
        "which",
    }


def test_a_low_rating_is_in_doubt_where_nobody_knows_how_high_the_circuit_is() -> None:
    """Only current was read, on a set without a nameplate voltage."""
    shown = Shown(reads="current", typed="12 A", value=12.0, steps=12.0)
    low = clamp(category_volts=300.0)
    doubt = unfit(low, shown, AT, None, Limits())
    assert doubt is not None
    assert "voltage of this circuit is not known" in plain(doubt)
    assert unfit(low, shown, AT, 230.0, Limits()) is None
    assert unfit(clamp(category_volts=600.0), shown, AT, None, Limits()) is None
