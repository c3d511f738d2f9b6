"""Alignment held against a forward model, exact geometry in space, and the published tables."""

from __future__ import annotations

import math
from datetime import UTC, datetime
from typing import Any

import numpy as np
import pytest
from cases import case
from hypothesis import given, settings, strategies as st

from hurbin_core.alignment import (
    Plane,
    ShaftPosition,
    by_speed,
    closure_miss,
    cold_target_mm,
    flange_lift,
    growth_mm,
    reverse,
    rim_face,
    straightedge,
    without_sag,
)
from hurbin_core.alignment.moves import raising, shifting
from hurbin_core.base import HurbinError, Verdict, entry_of, write
from hurbin_core.catalogue import bench
from hurbin_core.logbook import Entry
from hurbin_core.plant import MotorPlate

POSES = st.tuples(st.floats(-1, 1), st.floats(-0.003, 0.003), st.floats(-1, 1), st.floats(-0.003, 0.003))


def off(found: ShaftPosition, pose: tuple[float, float, float, float]) -> tuple[float, float]:
    ov, sv, oh, sh = pose
    v, h = found.vertical, found.horizontal
    assert v.offset is not None and v.slope is not None and h.offset is not None and h.slope is not None  # noqa: PT018
    return max(abs(v.offset - ov), abs(h.offset - oh)), max(abs(v.slope - sv), abs(h.slope - sh))


# The linear forward model: what perfect instruments show of a chosen pose. Independent of the inversion:
# written from what each touches.
def seen_by_feeler(
    pose: tuple[float, float, float, float], d: float, unequal: float
) -> tuple[dict[int, float | None], dict[int, float | None]]:
    ov, sv, oh, sh = pose
    steps = {12: ov + unequal, 6: -ov + unequal, 3: oh + unequal, 9: -oh + unequal}
    # A motor whose axis rises backwards (slope up) leans its face forward at the top: the gap closes there.
    gaps = {12: 3 - sv * d / 2, 6: 3 + sv * d / 2, 3: 3 - sh * d / 2, 9: 3 + sh * d / 2}
    return dict(steps), dict(gaps)


@settings(max_examples=100, deadline=None)
@given(POSES, st.floats(60, 400), st.floats(-0.5, 0.5))
def test_straightedge_and_feeler_give_the_pose_back(
    pose: tuple[float, float, float, float], d: float, unequal: float
) -> None:
    miss = off(straightedge(*seen_by_feeler(pose, d, unequal), d), pose)
    assert max(miss) < 1e-9


def unit(v: Any) -> Any:
    return v / np.linalg.norm(v)


class Space:
    """Two shafts in space, exactly. x back along the motor, y right, z up, seen from behind the motor: right
    is 3 o'clock.
    """

    def __init__(self, pose: tuple[float, float, float, float]) -> None:
        ov, sv, oh, sh = pose
        self.pump = (np.zeros(3), np.array([1.0, 0, 0]))
        self.motor = (np.array([0, oh, ov]), unit(np.array([1.0, sh, sv])))

    def rim(self, carrier: str, at_x: float, radius: float, hour: int) -> float:
        """In-travel of a dial that one shaft carries round, its plunger pointing at that shaft's own axis, on
        the other's rim.
        """
        (p, d), (q, e) = (self.motor, self.pump) if carrier == "motor" else (self.pump, self.motor)
        foot = p + d * (at_x - p[0]) / d[0]
        angle = {12: 0, 3: 90, 6: 180, 9: 270}[hour]
        up, right = np.array([0, 0, 1.0]), np.array([0, 1.0, 0])
        out = math.cos(math.radians(angle)) * up + math.sin(math.radians(angle)) * right
        out = unit(out - d * (out @ d))
        # Where the ray from outside towards the carrier's axis meets the other's cylinder: |(foot + t·out −
        # q) ⊥ e| = radius.
        base = foot - q
        a, b = out - e * (out @ e), base - e * (base @ e)
        k2, k1, k0 = a @ a, 2 * (a @ b), b @ b - radius**2
        t = (-k1 + math.sqrt(k1**2 - 4 * k2 * k0)) / (2 * k2)
        return float(t)  # the further out the rim stands, the more the plunger goes in

    def face(self, carrier: str, at_x: float, radius: float, hour: int, side: str) -> float:
        """In-travel of a dial along the carrier's axis, on the other's face: its front (towards the gap) or
        its back.
        """
        (p, d), (q, e) = (self.motor, self.pump) if carrier == "motor" else (self.pump, self.motor)
        foot = p + d * (at_x - p[0]) / d[0]
        angle = {12: 0, 3: 90, 6: 180, 9: 270}[hour]
        out = math.cos(math.radians(angle)) * np.array([0, 0, 1.0]) + math.sin(
            math.radians(angle)
        ) * np.array([0, 1.0, 0])
        tip = foot + radius * unit(out - d * (out @ d))
        plane = q + e * (at_x - q[0]) / e[0]
        along = float(
            ((plane - tip) @ e) / (d @ e)
        )  # how far along +d the face lies from the tip's own circle
        # Looked at from the gap, the pump's front faces back along the motor (+x), the motor's front faces
        # the pump (−x).
        towards = (1 if carrier == "motor" else -1) * (1 if side == "front" else -1)
        return towards * along


def zeroed(values: dict[int, float]) -> dict[int, float | None]:
    return {k: v - values[12] for k, v in values.items()}


@settings(max_examples=80, deadline=None)
@given(POSES, st.sampled_from(["motor", "pump"]), st.sampled_from(["front", "back"]), st.floats(60, 160))
def test_rim_and_face_dials_in_exact_geometry(
    pose: tuple[float, float, float, float], carrier: str, side: str, radius: float
) -> None:
    space = Space(pose)
    rim = zeroed({k: space.rim(carrier, 0.0, radius, k) for k in (12, 3, 6, 9)})
    face = zeroed({k: space.face(carrier, 0.0, radius * 0.9, k, side) for k in (12, 3, 6, 9)})
    o, s = off(rim_face(rim, face, 2 * radius * 0.9, carrier, side), pose)
    assert o < 1.1e-2 * max(1e-2, abs(pose[0]) + abs(pose[2]))
    assert s < 1e-6 + 1e-2 * max(abs(pose[1]), abs(pose[3])) ** 2
    assert closure_miss(rim) == 0


@settings(max_examples=80, deadline=None)
@given(POSES, st.floats(80, 300))
def test_reverse_dials_in_exact_geometry(pose: tuple[float, float, float, float], distance: float) -> None:
    space = Space(pose)
    one = zeroed({k: space.rim("motor", 0.0, 90, k) for k in (12, 3, 6, 9)})
    two = zeroed({k: space.rim("pump", distance, 90, k) for k in (12, 3, 6, 9)})
    o, s = off(reverse(one, two, distance), pose)
    assert o < 1.1e-2 * max(1e-2, abs(pose[0]) + abs(pose[2]))
    assert s < 3e-4


def test_all_ways_of_reading_agree_on_one_pose() -> None:
    pose = (0.21, -0.0011, -0.13, 0.0007)
    space = Space(pose)
    found = [straightedge(*seen_by_feeler(pose, 150, 0.1), 150)]
    for carrier in ("motor", "pump"):
        rim = zeroed({k: space.rim(carrier, 0.0, 80, k) for k in (12, 3, 6, 9)})
        found += [
            rim_face(
                rim,
                zeroed({k: space.face(carrier, 0.0, 70, k, side) for k in (12, 3, 6, 9)}),
                140,
                carrier,
                side,
            )
            for side in ("front", "back")
        ]
    found.append(
        reverse(
            *(
                zeroed({k: space.rim(c, x, 80, k) for k in (12, 3, 6, 9)})
                for c, x in (("motor", 0.0), ("pump", 200.0))
            ),
            200,
        )
    )
    for f in found:
        assert max(off(f, pose)) < 1e-3


def test_sag_and_closure() -> None:
    assert without_sag({12: 0.0, 3: 0.02, 6: 0.10, 9: 0.02}, -0.06) == {12: 0.0, 3: 0.05, 6: 0.16, 9: 0.05}
    assert closure_miss({12: 0.0, 3: 0.10, 6: 0.12, 9: 0.02}) == 0
    assert closure_miss({12: 0.0, 3: 0.10, 6: -0.12, 9: 0.02}) == pytest.approx(0.24)
    assert closure_miss({12: 0.0, 3: None, 6: 0.1, 9: 0.1}) is None


# Published figures. The table in its own units, from memory; growth in its band of four per cent, as
# engineering handbooks differ.
@pytest.mark.parametrize(
    ("rpm", "offset", "angle"),
    [
        (600, (5, 9), (10, 15)),
        (900, (3, 6), (7, 10)),
        (1200, (2.5, 4), (5, 8)),
        (1800, (2, 3), (3, 5)),
        (3600, (1, 1.5), (2, 3)),
    ],
)
def test_table_of_tolerances_in_mils(
    rpm: float, offset: tuple[float, float], angle: tuple[float, float]
) -> None:
    t = by_speed(rpm)
    assert t is not None
    assert (t.offset_excellent / 0.0254, t.offset_acceptable / 0.0254) == pytest.approx(offset)
    assert (t.angle_excellent / 0.1 * 10, t.angle_acceptable / 0.1 * 10) == pytest.approx(angle)


def test_tolerances_between_and_beyond_the_rows() -> None:
    at = by_speed(1475)
    low, high = by_speed(1200), by_speed(1800)
    assert at is not None
    assert low is not None
    assert high is not None
    assert high.offset_excellent < at.offset_excellent < low.offset_excellent
    assert at.offset_excellent / 0.0254 == pytest.approx(
        2.5 - 0.5 * (1 / 1200 - 1 / 1475) / (1 / 1200 - 1 / 1800)
    )
    assert by_speed(300) == by_speed(600)
    assert by_speed(3700) is None
    assert by_speed(0) is None


@pytest.mark.parametrize(
    ("metal", "ours", "others"),
    [
        ("cast_iron", 0.160, 0.163),
        ("carbon_steel", 0.180, 0.180),
        ("stainless_304", 0.266, 0.266),
        ("stainless_316", 0.246, 0.254),
        ("aluminium", 0.354, 0.360),
    ],
)
def test_growth_against_engineering_handbooks(metal: str, ours: float, others: float) -> None:
    got = growth_mm(280, metal, 20, 75)
    assert got == pytest.approx(ours, abs=5e-4)
    assert got == pytest.approx(others, rel=0.04)


def test_hot_water_sets_the_motor_high_and_chilled_water_low() -> None:
    motor = growth_mm(280, "cast_iron", 20, 45)
    assert cold_target_mm(growth_mm(280, "cast_iron", 20, 82), motor) == pytest.approx(0.11, abs=0.005)
    assert cold_target_mm(growth_mm(280, "cast_iron", 20, 6), motor) == pytest.approx(-0.11, abs=0.005)


def test_flange_on_its_support() -> None:
    assert flange_lift({12: 0.5, 6: 0.2}, 300, 450, 1.5) == pytest.approx((0.45, 0.3))
    assert flange_lift({12: 0.2, 6: 0.5}, 300, 450) == (pytest.approx(-0.45), None)
    assert flange_lift({12: 0.2}, 300, 450) is None


# The bench.
PLATE = MotorPlate.model_validate({"speed": {"text": "1475", "unit": "rpm"}})


def mm(text: str) -> dict[str, str]:
    return {"text": text, "unit": "mm"}


FEELER = {
    "method": "straightedge",
    "face_diameter": mm("150"),
    "x_front": mm("200"),
    "x_rear": mm("500"),
    **{f"step_{k}": mm(t) for k, t in ((12, "0.20"), (3, "0"), (6, "-0.20"), (9, "0"))},
    **{f"gap_{k}": mm(t) for k, t in ((12, "3.30"), (3, "3.10"), (6, "3.00"), (9, "3.10"))},
}


def judged(kind: str = "base_mounted", **body: Any) -> Any:
    b = bench("alignment")
    at = datetime(2026, 3, 2, tzinfo=UTC)
    entry = Entry[Any](uuid="12345678", taken_at=at, body=entry_of(b.entry, body))
    return b.evaluate(case(at, kind=kind, motor=PLATE), [entry])


def test_worked_example_of_shims_at_the_feet() -> None:
    """0.20 mm high, 0.30 mm wider at the top of 150 mm faces, feet at 200 and 500: +0.20 and +0.80 (worked
    example, common practice).
    """
    e = judged(**FEELER)
    assert (e.values["front_v"].value, e.values["rear_v"].value) == (pytest.approx(0.20), pytest.approx(0.80))
    assert e.verdict is Verdict.ACT
    assert e.values["angle_v"].value == pytest.approx(-0.2)
    assert [s.view for s in e.view.shafts] == ["side", "top"]
    assert e.due is not None
    assert e.due.at == datetime(2027, 3, 2, tzinfo=UTC)
    assert e.view.shafts[0].points[0].y > 0.5 > e.view.shafts[0].points[2].y


def test_good_only_when_value_and_uncertainty_pass_together() -> None:
    """1475 rpm: excellent 0.057 mm, acceptable 0.086 mm. A straightedge is off by 0.05, a dial by 0.01."""

    def dial(offset: float) -> Verdict:
        rims = {f"rim_{k}": mm(f"{v:.4f}") for k, v in ((3, -offset), (6, 0.0), (9, offset))}
        e = judged(
            method="rim_face",
            sag=mm("0"),
            near_ambient=True,
            face_diameter=mm("150"),
            **{**rims, "rim_3": mm(f"{-offset:.4f}"), "rim_9": mm(f"{offset:.4f}")},
            face_3=mm("0"),
            face_6=mm("0"),
            face_9=mm("0"),
        )
        return next(Verdict(f.verdict) for f in e.findings if f.question == "alignment_offset")

    assert [dial(x) for x in (0.02, 0.045, 0.07, 0.08, 0.2)] == [
        Verdict.GOOD,
        Verdict.GOOD,
        Verdict.WATCH,
        Verdict.UNKNOWN,
        Verdict.ACT,
    ]
    small = {
        **FEELER,
        **{f"step_{k}": mm(t) for k, t in ((12, "0.02"), (6, "-0.02"))},
        **{f"gap_{k}": mm("3.00") for k in (12, 3, 6, 9)},
    }
    e = judged(**small, near_ambient=True)
    finding = next(f for f in e.findings if f.question == "alignment_offset")
    assert (
        finding.verdict is Verdict.UNKNOWN
    )  # 0.02 give or take 0.05 lies on both sides of the 0.057 that is good
    assert "inside the reading error" in " ".join(write(n) for n in finding.notes)
    words = judged(**{**small, **{f"step_{k}": mm("flush") for k in (12, 3, 6, 9)}})
    assert next(f for f in words.findings if f.question == "alignment_offset").verdict is Verdict.UNKNOWN
    assert "Measure it before calling it good" in " ".join(write(w) for w in words.waiting)


def test_the_verdict_is_on_the_difference_to_the_cold_target() -> None:
    heat = {
        "cold": {"text": "20", "unit": "degC"},
        "pump_height": mm("280"),
        "pump_metal": "cast_iron",
        "pump_temperature": {"text": "6", "unit": "degC"},
        "motor_height": mm("280"),
        "motor_metal": "cast_iron",
        "motor_temperature": {"text": "45", "unit": "degC"},
    }
    straight = {
        "method": "laser",
        "x_front": mm("200"),
        "x_rear": mm("500"),
        "offset_v": mm("0"),
        "offset_h": mm("0"),
        **{f"angle_{p}": {"text": "0", "unit": "mm/100mm"} for p in "vh"},
    }
    assert judged(**straight, near_ambient=True).verdict is Verdict.GOOD
    assert judged(**straight).verdict is Verdict.UNKNOWN
    assert "without them is a false good" in " ".join(write(w) for w in judged(**straight).waiting)
    chilled = judged(**straight, **heat)
    assert chilled.verdict is Verdict.ACT
    assert chilled.values["target"].value == pytest.approx(-0.114, abs=0.002)
    assert chilled.values["front_v"].value == pytest.approx(-0.114, abs=0.002)


@pytest.mark.parametrize(
    ("change", "code", "words"),
    [
        ({"face_diameter": mm("0")}, "diameter_zero", "cannot be zero"),
        ({"x_front": mm("-200")}, "feet_in_front", "behind the coupling"),
        ({"x_rear": mm("150")}, "feet_in_front", "further back"),
        ({"gap_12": mm("60")}, "gap_too_large", "is not possible. Was it read in thousandths"),
        ({"step_12": {"text": "0.012 in", "unit": "mm"}}, "mixed_units", "mix inches and millimetres"),
        ({"step_12": {"text": "a lot", "unit": "mm"}}, "not_a_number", "not a number"),
        ({"taken": "as_left", "tight": False}, "not_tight", "last tightening"),
        (
            {"method": "rim_face", "rim_3": mm("0.1"), "rim_6": mm("-0.3"), "rim_9": mm("0.1")},
            "not_one_shaft",
            "from one shaft",
        ),
        (
            {"method": "reverse", "back_3": mm("0.4"), "back_6": mm("-0.3"), "back_9": mm("0.1")},
            "not_one_shaft",
            "Pump-side dial",
        ),
        ({"step_12": mm("25")}, "too_high", "not possible"),
    ],
)
def test_what_cannot_be_has_its_own_answer(change: dict[str, Any], code: str, words: str) -> None:
    e = judged(**{**FEELER, **change})
    assert [p.code for p in e.problems] == [code]
    assert words in e.problems[0].message


def test_one_plane_is_no_alignment_and_a_closed_body_has_none() -> None:
    half = (
        {k: v for k, v in FEELER.items() if not k.endswith(("_3", "_9"))}
        | {f"step_{k}": mm("0") for k in (12, 6)}
        | {f"gap_{k}": mm("3") for k in (12, 6)}
    )
    e = judged(**half)
    assert e.verdict is Verdict.UNKNOWN
    assert "Only the vertical plane has been read" in " ".join(write(n) for f in e.findings for n in f.notes)
    assert [s.known for s in e.view.shafts] == [True, False]
    assert [p.code for p in judged(kind="wet_rotor", **FEELER).problems] == ["no_coupling"]
    with pytest.raises(HurbinError):
        straightedge({}, {}, 0)
    assert Plane().at(3) is None


def test_a_makers_figure_governs_when_it_is_the_tighter_and_says_so() -> None:
    e = judged(**FEELER, maker_offset=mm("0.05"))
    finding = next(f for f in e.findings if f.question == "alignment_offset")
    assert [u.label for u in finding.limits] == ["aim", "manufacturer"]
    wide = next(
        f for f in judged(**FEELER, maker_offset=mm("3")).findings if f.question == "alignment_offset"
    )
    assert [u.label for u in wide.limits] == ["aim", "limit"]
    assert wide.limits[-1].value == pytest.approx(
        0.0874, abs=2e-4
    )  # 1475 rpm by hand: 3.44 mil between the rows of 1200 and 1800
    assert judged(**{**FEELER, "speed": {"text": "3700", "unit": "rpm"}}).verdict is Verdict.UNKNOWN


@pytest.mark.parametrize(
    ("mm", "up", "across"),
    [
        (3.0, "raise 3.00 mm", "right 3.00 mm"),
        (-0.086, "lower 0.086 mm", "left 0.086 mm"),
        (0.0004, "no move", "no move"),
        (-0.0, "no move", "no move"),
    ],
)
def test_a_move_is_said_with_its_way_and_without_a_sign(mm: float, up: str, across: str) -> None:
    assert write(raising(mm)).replace("\u00a0", " ") == up
    assert write(shifting(mm)).replace("\u00a0", " ") == across
