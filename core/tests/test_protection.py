"""A motor's protection: its thermal image against a general integrator, dials and sizes against worked
figures (common practice, no source), the log of starts, and what a running check reads of it.
"""

from __future__ import annotations

import math
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from cases import case
from hypothesis import given, strategies as st
from scipy.integrate import solve_ivp

from hurbin_core.base import Entered, Evaluation, Limits, Verdict, write
from hurbin_core.electrical import PROTECTION, RUNNING_CHECK
from hurbin_core.electrical.protection.formulas import (
    dial_for,
    line_amps,
    start_share,
    starts_allowed,
    time_constant_s,
    trip_s,
    wait_s,
)
from hurbin_core.electrical.protection.short import largest
from hurbin_core.electrical.protection.starts import read_log
from hurbin_core.logbook import Entry, HistoryPoint
from hurbin_core.plant import ControlPlate, MotorPlate

AT = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
EDGE = 1.15
PLATE = MotorPlate(
    volts_low=Entered(text="400 V"), amps_low=Entered(text="20 A"), service_factor=Entered(text="1.15")
)


def said(**body: Any) -> dict[str, Any]:
    figures = PROTECTION.entry.model_fields
    return {
        k: {"text": v} if isinstance(v, str) and "x-entered" in (figures[k].json_schema_extra or {}) else v
        for k, v in body.items()
    }


def protection(
    plate: MotorPlate = PLATE, control: ControlPlate | None = None, **body: Any
) -> Evaluation[Any]:
    entry = Entry(uuid="00000001", taken_at=AT, body=PROTECTION.entry.model_validate(said(**body)))
    told = case(as_of=AT, motor=plate, control=control, control_kind="starter")
    return PROTECTION.evaluate(told, [entry])


def reason(e: Evaluation[Any], question: str) -> str:
    found = e.finding(question)
    assert found is not None, [f.question for f in e.findings]
    return write(found.reason)


# ---- the image: a body that warms with the square of the current, solved step by step by somebody else


def warmed(tau: float, multiple: float, before: float) -> float:
    """Seconds until the image trips, by a general integrator with an event; NaN where it never does."""

    def over(t: float, theta: Any) -> float:
        return float(theta[0]) - EDGE**2

    over.terminal = True  # type: ignore[attr-defined]
    got = solve_ivp(
        lambda t, theta: [(multiple**2 - theta[0]) / tau],
        (0, 60 * tau),
        [before**2],
        events=over,
        rtol=1e-9,
        atol=1e-11,
    )
    return float(got.t_events[0][0]) if len(got.t_events[0]) else math.nan


@given(
    tau=st.floats(20, 3000),
    multiple=st.floats(1.2, 9),
    before=st.floats(0, 1.1),
)
def test_the_image_trips_when_a_general_integrator_says_so(
    tau: float, multiple: float, before: float
) -> None:
    ours = trip_s(tau, multiple, before, EDGE)
    assert ours == pytest.approx(warmed(tau, multiple, before), rel=1e-5)


def test_an_image_below_its_edge_never_trips_and_one_above_it_has_tripped() -> None:
    assert trip_s(619, 1.15, 0, EDGE) is None
    assert trip_s(619, 2, 1.2, EDGE) == 0
    assert math.isnan(warmed(619, 1.14, 0))


def test_a_start_and_the_rest_after_it_by_the_integrator() -> None:
    """Warm by one start, cool three times slower, until the next start ends just below a trip."""
    tau, many, seconds = 619.1, 5.7, 6.0
    heat = solve_ivp(lambda t, y: [(many**2 - y[0]) / tau], (0, seconds), [0.0], rtol=1e-9).y[0][-1]
    share = start_share(tau, many, seconds, EDGE)
    assert share == pytest.approx(heat / EDGE**2, rel=1e-6)
    wait = wait_s(tau, share, 3)
    assert wait is not None
    left = solve_ivp(lambda t, y: [-y[0] / (3 * tau)], (0, wait), [EDGE**2], rtol=1e-9).y[0][-1]
    assert left + heat == pytest.approx(EDGE**2, rel=1e-5)
    assert wait_s(tau, 1.0, 3) is None


# ---- worked figures


def test_dials_and_trips_of_worked_examples() -> None:
    assert dial_for(3.4, 1, 4, False) == pytest.approx(13.6)
    assert dial_for(118, 150 / 5, 2, False) == pytest.approx(7.87, abs=0.005)
    assert line_amps(13.6 * 1.2, 1, 4, False) == pytest.approx(4.08)
    assert dial_for(18.6, 1, 1, True) == pytest.approx(10.74, abs=0.005)
    assert time_constant_s(16, EDGE) == pytest.approx(619, abs=0.5)
    hot = trip_s(619.1, 1.39, 1, EDGE)
    assert hot == pytest.approx(263, abs=0.5)
    assert starts_allowed(9.6, 99, 22) == 4


@pytest.mark.parametrize(
    ("plate", "sf", "hard", "ceiling"),
    [
        ("18.6 A", "1.15", False, 23.25),
        ("18.6 A", "1.15", True, 26.04),
        ("18.6 A", "1.0", False, 21.39),
        ("18.6 A", "1.0", True, 24.18),
    ],
)
def test_the_ceiling_of_a_trip(plate: str, sf: str, hard: bool, ceiling: float) -> None:
    motor = PLATE.model_copy(update={"amps_low": Entered(text=plate), "service_factor": Entered(text=sf)})
    whole = {"overload": "thermal", "transformer": "none", "loops": "1", "multiplier": "1"}
    for trip, passes in ((ceiling, True), (ceiling + 0.01, False)):
        e = protection(motor, dial=f"{trip:.4f}", hard_start=hard, **whole)
        found = e.finding("overload_setting")
        assert found is not None
        assert (found.verdict is not Verdict.ACT) is passes


@pytest.mark.parametrize(
    ("table", "sizes"),
    [(10, (20, 30, 25)), (13.8, (25, 45, 35)), (302, (600, 1000, 800))],
)
def test_next_standard_sizes(table: float, sizes: tuple[float, ...]) -> None:
    got = [largest(table, kind, Limits())[2] for kind in ("delay", "fast", "breaker")]
    assert tuple(got) == sizes


def test_a_single_phased_motor_is_told_its_seconds() -> None:
    e = protection(
        overload="electronic",
        transformer="none",
        loops="1",
        dial="20",
        multiplier="1.15",
        seconds="16",
        start_amps="114",
        start_seconds="6",
        stall_seconds="40",
    )
    told = " ".join(write(p) for p in e.waiting)
    assert "about 34.6 A" in told.replace("\xa0", " ")
    notes = " ".join(write(p) for f in e.findings for p in f.notes).replace("\xa0", " ")
    assert "One start takes 23.7 %" in notes or "One start takes 24 %" in notes
    assert "8.4 min" in notes or "502" in notes
    assert [m.id for m in e.view.curve.marks] == ["start", "stall", "lost"]


def test_loops_of_nothing_are_refused_in_words() -> None:
    e = protection(overload="thermal", transformer="none", loops="0", dial="20", multiplier="1.15")
    assert "never 0" in e.problems[0].message
    half = protection(overload="thermal", transformer="none", loops="1.5", dial="20", multiplier="1.15")
    assert half.problems[0].field == "loops"
    assert all(x.verdict is not Verdict.GOOD for x in (e, half))


def test_the_starters_nameplate_answers_what_was_not_typed() -> None:
    plate = ControlPlate(overload_multiplier=Entered(text="1.2"), trip_class="10")
    e = protection(control=plate, overload="thermal", transformer="none", loops="1", dial="20")
    assert "trips at 24.0 A" in reason(e, "overload_setting").replace("\xa0", " ")
    assert e.view.curve is not None


# ---- the log of starts


@given(st.lists(st.integers(0, 200_000), min_size=1, max_size=80, unique=True))
def test_the_busiest_hour_is_found_by_trying_all_of_them(seconds: list[int]) -> None:
    begins = datetime(2026, 2, 1, tzinfo=UTC)
    at = sorted(seconds)
    log = read_log(" ".join(f"{begins + timedelta(seconds=s):%Y-%m-%d %H:%M:%S}" for s in at))
    assert log.problems == []
    assert log.most == max(sum(1 for x in at if t <= x < t + 3600) for t in at)


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("06:10 soon", "“soon” is no time"),
        ("06:10 25:00", "25:00 is no time of day"),
        ("2026-02-31 06:10", "is no date"),
        ("2026-02-20 06:10 2026-02-19 06:10", "in order"),
    ],
)
def test_a_log_that_is_none_is_named(text: str, names: str) -> None:
    log = read_log(text)
    assert log.at == []
    assert names in log.problems[0].message


def test_times_without_a_date_go_on_into_the_next_day() -> None:
    assert read_log("23:50, 00:10; 23:55").span == pytest.approx(24 * 3600 + 300)


# ---- what a running check reads of it


def checked(trip: float | None, amps: str, control: ControlPlate | None = None) -> Evaluation[Any]:
    body = {"read_at": "motor_leads", "valve": "open", "coupled": True}
    body |= {f"amps_{n}": {"text": amps} for n in (1, 2, 3)}
    body |= {f"volts_{p}": {"text": "400"} for p in ("12", "23", "31")}
    set_ = (
        []
        if trip is None
        else [
            HistoryPoint(
                measurand="overload_trip", conditions="at=starter", value=trip, taken_at=AT, record="1"
            )
        ]
    )
    told = case(as_of=AT, motor=PLATE, control=control, control_kind="starter", history=set_)
    entry = Entry(uuid="00000001", taken_at=AT, body=RUNNING_CHECK.entry.model_validate(body))
    return RUNNING_CHECK.evaluate(told, [entry])


def test_a_running_check_finds_an_overload_left_from_another_motor() -> None:
    e = checked(35.65, "15")
    assert e.finding("load") is not None
    assert "178 %" in reason(e, "overload_dial").replace("\xa0", " ")
    assert e.verdict is Verdict.ACT
    fits = checked(23.0, "15")
    assert fits.finding("overload_dial") is None
    assert "overload_dial" in fits.settled


def test_within_the_nameplate_and_over_the_starter_or_over_the_trip_is_found() -> None:
    small = ControlPlate(rated_amps=Entered(text="16 A"))
    assert "exceeds the starter's rated" in reason(checked(23.0, "18", small), "protection_exceeded")
    assert "at which the overload was set to trip" in reason(
        checked(17.0, "18", ControlPlate()), "protection_exceeded"
    )


def test_a_leg_over_the_limit_that_was_read_off_the_drive_is_found() -> None:
    read = HistoryPoint(
        measurand="drive_limit", conditions="at=drive_output", value=16.0, taken_at=AT, record="1"
    )
    body: dict[str, Any] = {"read_at": "drive_output", "valve": "open", "coupled": True}
    body |= {f"amps_{n}": {"text": "17"} for n in (1, 2, 3)} | {"speed": {"text": "48"}}
    told = case(as_of=AT, motor=PLATE, control=ControlPlate(), control_kind="drive", history=[read])
    entry = Entry(uuid="00000001", taken_at=AT, body=RUNNING_CHECK.entry.model_validate(body))
    e = RUNNING_CHECK.evaluate(told, [entry])
    assert "exceeds the drive's current limit of 16.0" in reason(e, "protection_exceeded").replace(
        "\xa0", " "
    )


def test_a_dial_on_the_nameplate_far_above_the_motor_asks_for_its_way() -> None:
    far = ControlPlate(overload_setting=Entered(text="40 A"))
    e = checked(None, "15", far)
    found = e.finding("overload_dial")
    assert found is not None
    assert found.verdict is Verdict.UNKNOWN


def test_settings_stand_for_a_year_and_a_log_of_starts_for_weeks() -> None:
    e = protection(overload="thermal", transformer="none", loops="1", dial="20", multiplier="1.15")
    assert e.due is not None
    assert (e.due.at - AT).days == 365
    day = "2026-02-27 06:10 2026-02-28 06:12"
    starts = protection(starts=day, starts_most="6").finding("starts_hour")
    assert starts is not None
    assert starts.due is not None
    assert (starts.due - AT).days == 60
