"""Insulation: corrected, bounded, timed. What it says, then refusals, then properties; its outside checks
stand in test_insulation_figures.
"""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from cases import case
from hypothesis import given, settings, strategies as st

from hurbin_core.base import SI, Bound, Evaluation, HurbinError, Limits, Override, Prefs, Verdict, present
from hurbin_core.catalogue import bench
from hurbin_core.electrical.insulation import (
    factor_thermoplastic,
    factor_thermosetting,
    fold,
    insulation_entry,
    value_at,
)
from hurbin_core.logbook import Cut, Entry, HistoryPoint, PastSheet, Twin
from hurbin_core.plant import MotorPlate
from hurbin_core.simulator import InsulationTester, WindingLife

AT = datetime(2026, 3, 2, 9, tzinfo=UTC)
KEY = "at=motor;links=in;phases=together;volts=500"
E = Entry[Any]


def e(n: int, second: float = 0, device: str = "phone", **body: Any) -> Any:
    return E.model_validate(
        {
            "uuid": f"entry-{n:05d}",
            "taken_at": AT + timedelta(seconds=second),
            "device": device,
            "body": insulation_entry(**body),
        }
    )


def q(text: object, unit: str = "") -> dict[str, str]:
    return {"text": str(text), "unit": unit}


def setup(**more: Any) -> Any:
    body: dict[str, Any] = {
        "kind": "setup",
        "test_point": "motor",
        "links": "in",
        "phases": "together",
        "test_volts": q(500, "V"),
        "arresters_off": True,
        "winding": q(20, "degC"),
        "ambient": q(20, "degC"),
        "humidity": q(50, "%"),
        **more,
    }
    return e(0, -60, **{k: v for k, v in body.items() if v is not None})


def readings(rows: dict[float, object], leg: str = "all", start: int = 10, unit: str = "MOhm") -> list[Any]:
    return [
        e(start + i, s, kind="reading", leg=leg, seconds=s, ohms=q(v, unit))
        for i, (s, v) in enumerate(rows.items())
    ]


def plate(**more: Any) -> MotorPlate:
    return MotorPlate.model_validate(
        {"volts_low": q(400, "V"), "insulation_class": "F", "year": 2015, **more}
    )


def past(
    values: list[float], every: float = 100, bound: Bound = Bound.EXACT, conditions: str = KEY
) -> list[HistoryPoint]:
    n = len(values)
    return [
        HistoryPoint(
            measurand="insulation_40",
            conditions=conditions,
            value=v,
            bound=bound,
            taken_at=AT - timedelta(days=every * (n - i)),
            record=str(i),
        )
        for i, v in enumerate(values)
    ]


def judge(entries: list[Any], **context: Any) -> Evaluation:
    given_ = {"as_of": AT + timedelta(minutes=20), "kind": "base_mounted", "motor": plate(), **context}
    return bench("insulation").evaluate(case(**given_), entries)


def verdict(ev: Evaluation, question: str) -> str:
    return next((f.verdict.value for f in ev.findings if f.question == question), "")


def reason(ev: Evaluation, question: str, prefs: Prefs = SI) -> str:
    return next(f.reason for f in present(ev, prefs).findings if f.question == question)


# What it says


def test_both_corrections_and_which_governs() -> None:
    ev = judge([setup(), *readings({30: 600, 60: 800})])
    note = next(n for f in present(ev, SI).findings for n in f.notes if "Corrected as" in n)
    assert "610\u00a0MΩ" in note
    assert "200\u00a0MΩ" in note
    assert "class F" in note
    old = judge([setup(), *readings({60: 800})], motor=plate(insulation_class="", year=1965))
    assert old.values["at40"].value == pytest.approx(200)
    silent = judge([setup(), *readings({60: 800})], motor=plate(insulation_class="", year=None))
    assert silent.values["at40"].value == pytest.approx(200)
    chosen = Override(limit="insulation.correction", choice="thermosetting", reason="rewound", by="x", at=AT)
    assert (
        judge(
            [setup(), *readings({60: 800})], motor=plate(year=1965, insulation_class="A"), overrides=[chosen]
        )
        .values["at40"]
        .value
        > 600
    )


@pytest.mark.parametrize(
    ("raw", "said"), [(3, "stop"), (6.57, "act"), (12, "act"), (40, "watch"), (500, "good")]
)
def test_against_the_minimum_without_history(raw: float, said: str) -> None:
    assert verdict(judge([setup(), *readings({60: raw})]), "insulation") == said


def test_own_past_half_and_a_decade() -> None:
    rows = past([800, 820, 790])
    assert verdict(judge([setup(), *readings({60: 800})], history=rows), "insulation_past") == "good"
    assert verdict(judge([setup(), *readings({60: 400})], history=rows), "insulation_past") == "watch"
    assert verdict(judge([setup(), *readings({60: 90})], history=rows), "insulation_past") == "act"
    assert (
        verdict(judge([setup(), *readings({60: 30})], history=past([40, 42, 41])), "insulation") == "good"
    ), "a history lifts the baseline's watch"
    # An event is no amnesty: the first tests after it still stand beside what the winding was; one elsewhere
    # cuts nothing.
    for kind in ("rewind", "flood", "seal_change"):
        cut = [Cut(at=AT - timedelta(days=50), kind=kind)]
        assert (
            verdict(judge([setup(), *readings({60: 90})], history=rows, cuts=cut), "insulation_past") == "act"
        ), kind
    assert (
        verdict(judge([setup(), *readings({60: 90})], history=past([120]), cuts=[]), "insulation_past")
        == "good"
    )


@pytest.mark.parametrize(
    ("temp", "raw", "said", "words"),
    [
        (5, 3, "stop", "even cold"),
        (5, 50, "unknown", "too cold"),
        (92, 50, "watch", "meets the minimum"),
        (92, 3, "unknown", "too hot"),
        (None, 900, "unknown", "Without"),
    ],
)
def test_what_cannot_be_corrected(temp: float | None, raw: float, said: str, words: str) -> None:
    ev = judge(
        [
            setup(
                winding=q(temp, "degC") if temp is not None else None,
                ambient=q(5, "degC"),
                humidity=q(30, "%"),
            ),
            *readings({60: raw}),
        ]
    )
    assert verdict(ev, "insulation") == said
    assert words in reason(ev, "insulation")
    assert "insulation_40" not in {p.measurand for p in ev.points}


def test_below_the_dew_point_is_inconclusive_not_bad() -> None:
    ev = judge([setup(winding=q(14, "degC"), ambient=q(24, "degC"), humidity=q(80, "%")), *readings({60: 2})])
    assert ev.verdict is Verdict.UNKNOWN
    assert "wet dust" in reason(ev, "dew_point")
    assert {f.verdict for f in ev.findings} == {Verdict.UNKNOWN}


def test_ratios_and_when_they_mean_nothing() -> None:
    wet = judge([setup(), *readings({30: 100, 60: 101, 600: 95})])
    assert (verdict(wet, "absorption"), verdict(wet, "polarisation")) == ("watch", "act")
    dry = judge([setup(), *readings({30: 600, 60: 900, 600: 2100})])
    assert (verdict(dry, "absorption"), verdict(dry, "polarisation")) == ("good", "good")
    high = judge([setup(), *readings({30: 9000, 60: 8900, 600: 8000})])
    assert verdict(high, "polarisation") == ""
    assert any("mean nothing" in w for w in present(high, SI).waiting)
    brittle = judge(
        [setup(winding=q(40, "degC")), *readings({60: 50, 600: 450})],
        motor=plate(insulation_class="A", year=1960),
    )
    assert "brittle" in reason(brittle, "polarisation")


def test_over_range_is_as_far_as_the_register_has_the_tester_that_was_named() -> None:
    """Nobody types what stands in the register; what somebody does type counts before it."""
    rows = readings({30: "OL", 60: "OL"})
    named = [r.model_copy(update={"instruments": {"resistance": "7"}}) for r in rows]
    assert [p.code for p in fold([setup(), *rows], {"7": 2000.0}).problems] == ["ceiling_missing"] * 2
    for said, top in ((None, 2000.0), (q(10, "GOhm"), 10000.0)):
        test = fold([setup(ceiling=said), *named], {"7": 2000.0})
        got = [r.ohms for r in test.runs["all"].readings]
        assert [(g.value, g.bound) for g in got] == [(top, Bound.AT_LEAST)] * 2


def test_over_range_stays_a_bound_all_the_way() -> None:
    ev = judge([setup(ceiling=q(10, "GOhm")), *readings({30: "OL", 60: ">10 G", 600: "OL"})])
    assert ev.values["minute"].bound is Bound.AT_LEAST
    assert ev.values["at40"].bound is Bound.AT_LEAST
    assert {p.bound for p in ev.points} == {Bound.AT_LEAST}
    assert "absorption" not in ev.values
    assert verdict(ev, "insulation") == "good"
    low = judge([setup(), *readings({60: ">2"})])
    assert verdict(low, "insulation") == "unknown", "at least 2 MΩ does not tell on which side of 5 it stands"
    two = judge([setup(), *readings({60: ">10 G"})], history=past([2000, 10000, 2000], bound=Bound.AT_LEAST))
    assert verdict(two, "insulation_past") == ""


def test_what_a_bound_does_not_tell_is_said_and_fails_no_motor() -> None:
    ev = judge([setup(), *readings({30: "1900", 60: ">2000"})], history=past([6000, 6100, 5900]))
    assert ev.verdict is Verdict.GOOD
    words = present(ev, SI).waiting
    assert any("gives no ratio" in w for w in words)
    assert any("does not show how far it fell" in w for w in words)
    assert ev.due is not None
    assert round((ev.due.at - AT) / timedelta(days=1)) == 365


def test_a_winding_to_ground_is_stop_on_every_lead() -> None:
    rows = [*readings({60: 0}, "L1", 10), *readings({60: 0}, "L2", 20), *readings({60: 0}, "L3", 30)]
    assert judge([setup(), *rows]).verdict is Verdict.STOP
    mixed = judge([setup(), *readings({60: 0}, "L1", 10), *readings({60: 800}, "L2", 20)])
    assert mixed.verdict is Verdict.UNKNOWN


def test_two_ceilings_make_no_rise() -> None:
    rows = past([1520, 7600, 1520, 7600, 1520, 7600, 1520], bound=Bound.AT_LEAST)
    ev = judge([setup(), *readings({60: ">10 G"})], history=rows)
    assert verdict(ev, "insulation_forecast") == ""
    assert any("no trend" in w for w in present(ev, SI).waiting)


def test_forecast_next_test_and_too_few() -> None:
    falling = judge(
        [setup(winding=q(40, "degC")), *readings({60: 60})],
        history=past([2000, 1100, 700, 400, 210, 110], every=60),
    )
    assert verdict(falling, "insulation_forecast") in ("watch", "act")
    assert falling.due is not None
    assert falling.due.at < AT + timedelta(days=364)
    few = judge([setup(), *readings({60: 900})], history=past([800, 820]))
    assert any("Too few" in w for w in present(few, SI).waiting)
    assert few.due is not None
    assert round((few.due.at - AT) / timedelta(days=1)) == 365


def test_legs_only_when_apart() -> None:
    rows = [*readings({60: 800}, "L1", 10), *readings({60: 780}, "L2", 20), *readings({60: 60}, "L3", 30)]
    apart = judge([setup(phases="apart"), *rows])
    assert verdict(apart, "insulation_legs") == "act"
    assert "L3" in reason(apart, "insulation_legs")
    assert {p.leg for p in apart.points} == {"L1", "L2", "L3"}
    joined = judge([setup(), *rows])
    assert joined.verdict is Verdict.UNKNOWN
    assert "one winding" in reason(joined, "insulation_leads")
    alike = judge([setup(), *readings({60: 800}, "L1", 10), *readings({60: 780}, "L2", 20)])
    assert [p.leg for p in alike.points if p.measurand == "insulation_40"] == [""]


def test_the_minute_off_the_curve_says_so() -> None:
    ev = judge([setup(), *readings({45: 400, 67: 600})])
    assert 400 < ev.values["minute"].value < 600
    assert any("taken from the curve" in n for f in present(ev, SI).findings for n in f.notes)
    near = judge([setup(), *readings({67: 600})])
    assert near.values["minute"].value == 600
    assert any("67" in n for f in present(near, SI).findings for n in f.notes)
    assert judge([setup(), *readings({300: 600})]).findings == []


def test_the_true_second_is_kept_and_two_devices_merge() -> None:
    a = [setup(), e(1, 0, kind="start", leg="all"), e(2, 31, kind="reading", leg="all", ohms=q(500, "MOhm"))]
    b = [
        e(3, 67, "tablet", kind="reading", leg="all", ohms=q(800, "MOhm")),
        e(4, 66, "tablet", kind="setup", winding=q(25, "degC")),
    ]
    folded = fold([*b, *a])
    assert [r.seconds for r in folded.runs["all"].readings] == [31, 67]
    assert folded.read["winding"].value == 25
    assert any("Two devices differ" in c for c in present(judge([*a, *b]), SI).questions)


def test_undo_end_and_discharge() -> None:
    rows = [
        setup(),
        e(1, 0, kind="start", leg="all"),
        e(2, 60, kind="reading", leg="all", ohms=q(8, "MOhm")),
        e(3, 61, kind="undo", undoes="entry-00002"),
        e(4, 62, kind="reading", leg="all", ohms=q(800, "MOhm")),
        e(5, 70, kind="end", leg="all"),
    ]
    ev = judge(rows)
    assert ev.values["minute"].value == 800
    assert ev.view.clocks[0].discharge_until == AT + timedelta(seconds=70 + 4 * 70)
    assert any("grounded" in c for c in present(ev, SI).cautions)
    early = judge([*rows, e(6, 100, kind="discharged", leg="all")])
    assert any("less than 4 times" in x for x in present(early, SI).questions)


def test_cable_twin_and_another_test_voltage() -> None:
    rows = past([900, 900])
    ev = judge([setup(test_point="starter"), *readings({60: 40})], history=rows)
    assert any("cable" in w for w in present(ev, SI).waiting)
    near = judge([setup(test_point="starter"), *readings({60: 800})], history=rows)
    assert not any("cable" in w for w in present(near, SI).waiting)
    twin = Twin(tag="X-2", last=PastSheet(taken_at=AT, body={}), points=past([640]))
    assert any(
        "X-2 read 640" in w for w in present(judge([setup(), *readings({60: 900})], twin=twin), SI).waiting
    )
    other = judge([setup(test_volts=q(1000, "V")), *readings({60: 900})], history=rows, twin=twin)
    assert any("1000" in x and "separate series" in x for x in present(other, SI).questions)
    assert any("500 V" in w for w in present(other, SI).waiting)
    assert verdict(other, "insulation_past") == ""


def test_ghosts_of_the_last_three_on_the_paper() -> None:
    body = {
        "setup": {"test_point": "motor"},
        "readings": [{"leg": "all", "seconds": 60, "ohms": q(900, "MOhm")}],
    }
    earlier = [
        PastSheet(
            taken_at=AT - timedelta(days=d),
            body=body,
            conditions=KEY if d < 300 else KEY.replace("500", "250"),
        )
        for d in (100, 200, 300, 400)
    ]
    ev = judge([setup(), *readings({30: 700, 60: 800})], earlier=earlier)
    assert ev.view.paper is not None
    assert [c.before for c in ev.view.paper.curves] == [1, 2, 3, 0]
    assert ev.view.paper.curves[2].differs == "250 V"
    assert ev.view.paper.floor is not None


# Refusals


@pytest.mark.parametrize(
    ("entries", "field"),
    [
        ([setup(winding=q(400, "degC"))], "winding"),
        ([setup(), *readings({60: -3})], "entry-00010"),
        ([setup(), *readings({60: "OL"})], "entry-00010"),
        ([setup(), e(9, 60, kind="reading", leg="all", ohms=q(5, "MOhm"))], "entry-00009"),
        ([setup(humidity=q(130, "%"))], "humidity"),
    ],
)
def test_impossible_is_refused_by_field(entries: list[Any], field: str) -> None:
    assert [p.field for p in judge(entries).problems] == [field]


def test_electronics_forbid_the_test() -> None:
    assert judge([setup()], kind="wet_rotor").problems[0].code == "built_in_electronics"
    assert judge([setup(), *readings({60: 900})], motor=plate(built_in_electronics=True)).findings == []
    on = judge([setup(), *readings({60: 900})], control_kind="drive")
    assert on.problems[0].field == "drive_off"
    assert on.findings == []
    assert judge([setup(drive_off=True), *readings({60: 900})], control_kind="drive").problems == []


def test_what_is_missing_is_named_before_the_tester_goes_on() -> None:
    ev = judge([])
    assert {m.field for m in ev.missing} >= {
        "test_point",
        "links",
        "phases",
        "test_volts",
        "winding",
        "ambient",
        "humidity",
        "arresters_off",
    }
    assert any("Prove dead" in c for c in present(ev, SI).cautions)
    assert any("500\u00a0V" in x for x in present(ev, SI).questions)


# Properties


@given(st.floats(10, 85), st.floats(0.01, 1e5))
def test_correct_and_uncorrect_return_the_reading(temp: float, raw: float) -> None:
    for factor in (factor_thermosetting(temp), factor_thermoplastic(temp)):
        assert raw * factor / factor == pytest.approx(raw)
    assert factor_thermosetting(temp) <= factor_thermosetting(min(85.0, temp + 1)) + 1e-12


@given(st.permutations(["L1", "L2", "L3"]))
def test_order_of_legs_does_not_matter(order: list[str]) -> None:
    figures = {"L1": 700, "L2": 650, "L3": 90}
    rows = [r for n, leg in enumerate(order) for r in readings({60: figures[leg]}, leg, 10 * (n + 1))]
    ev = judge([setup(phases="apart"), *rows])
    assert reason(ev, "insulation_legs").startswith("L3")
    assert ev.values["at40_L3"].value == pytest.approx(90 * 0.7624, rel=1e-3)


@settings(max_examples=60, deadline=None)
@given(
    st.floats(0.5, 4000),
    st.floats(1.0, 50),
    st.sampled_from([1.05, 1.2, 1.3, 1.5, 1.8]),
    st.sampled_from([8, 20, 40, 60, 90]),
    st.booleans(),
)
def test_raising_every_reading_never_worsens_a_verdict(
    base: float, times: float, rise: float, temp: float, history: bool
) -> None:
    rows = past([300, 320, 310]) if history else []

    def said(k: float) -> Verdict:
        shown = {30: f"{base * k:.4f}", 60: f"{base * rise * k:.4f}"}
        return judge(
            [setup(winding=q(temp, "degC"), humidity=q(20, "%")), *readings(shown)], history=rows
        ).verdict

    low, high = said(1), said(times)
    assert high.rank <= low.rank or {low, high} == {Verdict.WATCH, Verdict.UNKNOWN}


@given(st.dictionaries(st.integers(1, 600), st.floats(1, 1e4), min_size=2, max_size=8))
def test_between_readings_and_never_beyond(rows: dict[int, float]) -> None:
    run = fold([setup(), *readings({float(k): v for k, v in rows.items()})]).runs["all"]
    got = value_at(run, 60, Limits())
    if got is not None:
        assert min(rows.values()) * (1 - 1e-9) <= got.value <= max(rows.values()) * (1 + 1e-9)
    else:
        assert not min(rows) < 60 < max(rows)


def test_facts_come_back_as_the_same_entries() -> None:
    rows = [setup(ceiling=q(10, "GOhm")), *readings({30: "512", 60: ">10 G"})]
    body = bench("insulation").facts(rows)
    bodies = [{"kind": "setup", **body["setup"]}, *({"kind": "reading", **r} for r in body["readings"])]
    again = [e(900 + i, i, **b) for i, b in enumerate(bodies)]
    assert bench("insulation").facts(again) == body


def test_simulated_windings_show_what_befell_them() -> None:
    tester = InsulationTester("t")
    wet, dry = WindingLife(seed=3, fate="wet", from_day=100), WindingLife(seed=3)
    assert wet.at(1090).megohm(60, 20) < dry.at(1090).megohm(60, 20) / 50
    assert wet.test(500, AT.date(), tester, (30, 60)) == wet.test(500, AT.date(), tester, (30, 60))
    new = WindingLife(seed=3, fate="wet", days=500, rewound=500)
    assert new.at(501).megohm(60, 20) > 50 * new.at(499).megohm(60, 20)
    with pytest.raises(HurbinError):
        factor_thermosetting(9.9)
