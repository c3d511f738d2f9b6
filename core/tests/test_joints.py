"""Hot joints: what the current explains, what bare metal hides, and a thermal picture as a table."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from cases import case
from hypothesis import given, strategies as st
from scipy import constants
from scipy.integrate import quad

from hurbin_core.base import HurbinError, Verdict, write
from hurbin_core.electrical.circuit import circuit_of
from hurbin_core.electrical.joints import JOINTS, JointsEntry, read_grid
from hurbin_core.electrical.joints.formulas import at_full_load_k, band_radiance, spot_mm, true_c, watts
from hurbin_core.logbook import Entry
from hurbin_core.plant import MotorPlate

AT = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
MOTOR = MotorPlate.model_validate({"volts_low": {"text": "400"}, "amps_low": {"text": "80"}})
CIRCUIT = {"circuit": circuit_of("direct", 400.0).model_dump(), "version": 1}
SAID = {
    "ambient": "34",
    "steady": "yes",
    "surface": "tape",
    "rating": "90",
    "distance": "150",
    "ratio": "12",
    "width": "16",
    "seen": "nothing",
}
FIGURES = ("ambient", "distance", "ratio", "width", "amps_1", "amps_2", "amps_3")


def told(temps: dict[str, float], amps: tuple[float, ...] = (60, 60, 60), **more: Any) -> Any:
    body: dict[str, Any] = {**SAID, **{f"amps_{i + 1}": str(a) for i, a in enumerate(amps)}, **more}
    body |= {k: {"text": body[k]} for k in FIGURES if k in body}
    body["spots"] = [{"at": p, "temp": {"text": str(t)}} for p, t in temps.items()]
    entry = Entry(uuid="entry00001", taken_at=AT, body=JointsEntry.model_validate(body))
    found = case(AT + timedelta(hours=1), kind="base_mounted", motor=MOTOR, circuit=CIRCUIT)
    return JOINTS.evaluate(found, [entry])


def rung(a: float, b: float, c: float, at: str = "F.in") -> dict[str, float]:
    return {f"{at}.1": a, f"{at}.2": b, f"{at}.3": c}


# Planck's law with the constants and the quadrature of a general library, not with ours.
def planck(temp_c: float) -> float:
    t = temp_c + 273.15
    x = constants.h * constants.c / (constants.k * t)
    return quad(lambda um: (um * 1e-6) ** -5 / (pow(2.718281828459045, x / (um * 1e-6)) - 1), 8, 14)[0]


@pytest.mark.parametrize("temp", [-20.0, 27.0, 96.0, 400.0])
def test_the_band_follows_the_radiation_law(temp: float) -> None:
    ours, theirs = band_radiance(temp) / band_radiance(60.0), planck(temp) / planck(60.0)
    assert ours == pytest.approx(theirs, rel=1e-6)


# What a meter set to 0.95 shows of 96 °C before surroundings of 27 °C, by emissivity.
@pytest.mark.parametrize(("e", "shows"), [(0.85, 90.0), (0.6, 74.2), (0.3, 52.7), (0.07, 33.5)])
def test_what_bare_metal_hides_is_found_again(e: float, shows: float) -> None:
    assert true_c(shows, e, 0.95, 27.0) == pytest.approx(96.0, abs=0.05 / e + 0.2)


def test_a_tired_clip_is_told_from_the_current_of_its_leg() -> None:
    e = told(rung(78, 91, 78), (61, 63, 61))
    split = next(n for n in e.finding("hot_joint", "F.in").notes if n.template == "joints.split")
    assert split.args["apart"].value == pytest.approx(13.0)
    assert split.args["current"].value == pytest.approx(2.9, abs=0.05)
    assert split.args["joint"].value == pytest.approx(10.1, abs=0.05)
    assert "question of its own" in " ".join(write(n) for n in e.finding("hot_joint", "F.in").notes)


def test_figures_of_load_spot_and_heat() -> None:
    assert at_full_load_k(6.2, 0.58, 2) == pytest.approx(18.4, abs=0.05)
    assert at_full_load_k(6.2, 0.58, 1.6) == pytest.approx(14.8, abs=0.05)
    assert spot_mm(550, 12) == pytest.approx(46, abs=0.5)
    assert [round(watts(mv, 42), 1) for mv in (61, 24, 26)] == [2.6, 1.0, 1.1]


@given(
    st.floats(0.45, 1.0),
    st.floats(0.0, 30.0),
    st.tuples(*[st.floats(0.97, 1.03)] * 3),
    st.integers(1, 3),
)
def test_a_joint_that_heats_itself_is_never_called_good(
    load: float, extra: float, legs: tuple[float, ...], bad: int
) -> None:
    """Joints that all heat as the square of their current, one of them with more of its own at full load."""
    temps, amps = {}, []
    for leg, share in enumerate(legs, 1):
        i = load * share
        amps.append(round(80 * i, 2))
        temps[f"F.in.{leg}"] = 34 + (20 + (extra if leg == bad else 0)) * i**2
    found = told(temps, tuple(amps)).finding("hot_joint", "F.in")
    if extra > 1.05:
        assert found.verdict is not Verdict.GOOD
    if extra < 0.9:
        assert found.verdict is Verdict.GOOD
    if extra > 4.2:
        assert found.verdict is Verdict.ACT


def test_two_joints_of_one_starter_are_two_findings_and_a_later_scan_of_one_closes_one() -> None:
    e = told({**rung(46, 66, 46), **rung(46, 46, 58, "K.in")})
    assert [f.subject for f in e.findings if f.verdict is Verdict.ACT and f.question == "hot_joint"] == [
        "F.in",
        "K.in",
    ]
    again = told(rung(46, 46, 46))
    assert [f.subject for f in again.findings if f.question == "hot_joint"] == ["F.in"]
    assert [(p.leg, round(p.value)) for p in e.points if p.measurand == "joint_rise"] == [("", 36)]


def grid(rows: list[list[float]], by: str = ",", decimal: str = ".") -> bytes:
    return "\n".join(by.join(f"{v:.1f}".replace(".", decimal) for v in r) for r in rows).encode()


def test_a_picture_is_read_whoever_wrote_it_and_no_hot_point_is_lost() -> None:
    rows = [[30.0] * 200 for _ in range(150)]
    rows[77][133] = 91.4
    told_by = [
        read_grid(grid(rows)),
        read_grid(grid(rows, ";", ",")),
        read_grid(b"# camera note\n" + grid(rows, "\t")),
    ]
    for g in told_by:
        assert (g.columns, g.rows) == (200, 150)
        assert g.picture.width <= 64
        assert g.picture.height <= 48
        assert g.picture.high == pytest.approx(91.4)
        assert g.picture.at(133.5 / 200, 77.5 / 150) == pytest.approx(91.4)
        assert g.picture.at(0.1, 0.1) == pytest.approx(30.0)
    hot = read_grid(b"# unit: degF\n" + grid([[86.0, 86.0], [86.0, 196.7]]))
    assert hot.picture.high == pytest.approx(91.5)


def test_a_figure_that_its_place_in_the_picture_does_not_show_is_never_good() -> None:
    picture = read_grid(grid([[46.0, 46.1], [45.9, 78.0]])).picture.model_dump()
    spots = [
        {"at": f"F.in.{leg}", "temp": {"text": "46"}, "x": x, "y": y}
        for leg, x, y in ((1, 0.2, 0.2), (2, 0.8, 0.2), (3, 0.2, 0.8))
    ]
    body = {**SAID, "amps_1": "60", "amps_2": "60", "amps_3": "60"}
    body = {k: {"text": v} if k in FIGURES else v for k, v in body.items()}

    def verdict() -> Verdict:
        entry = JointsEntry.model_validate({**body, "picture": picture, "spots": spots})
        found = case(AT + timedelta(hours=1), kind="base_mounted", motor=MOTOR, circuit=CIRCUIT)
        e = JOINTS.evaluate(found, [Entry(uuid="entry00001", taken_at=AT, body=entry)])
        return Verdict(e.finding("hot_joint", "F.in").verdict)

    assert verdict() is Verdict.GOOD
    spots[2] |= {"x": 0.8, "y": 0.8}
    assert verdict() is Verdict.UNKNOWN


@pytest.mark.parametrize(
    ("raw", "code"),
    [
        (b"", "file_empty"),
        (b"\x89PNG....", "file_wrong_kind"),
        (b"30.1,30.2\n30.1", "grid_uneven"),
        (b"30.1,30.2\n30.1,warm", "grid_cell"),
        (b"30.1,30.2\n30.1,nan", "grid_cell"),
        (b"30.1,30.2\n30.1,9000", "grid_cell"),
        (b"30.1,30.2", "grid_empty"),
        (b",".join([b"1"] * 10_000_000) + b"\n1", "grid_too_large"),
    ],
)
def test_what_is_no_thermal_picture_is_refused_with_its_line(raw: bytes, code: str) -> None:
    with pytest.raises(HurbinError) as said:
        read_grid(raw)
    assert said.value.code == code
