"""The walk down a circuit: what it names, where it leads, what it never asks for, and what it calls good."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from random import Random
from typing import Any

import numpy as np
import pytest
from cases import case
from hypothesis import given, settings, strategies as st

from hurbin_core.base import Evaluation, HurbinError, Verdict, write
from hurbin_core.electrical.circuit import (
    CIRCUIT_BENCH,
    CIRCUIT_KINDS,
    Circuit,
    Reading,
    Search,
    State,
    circuit_entry,
    circuit_of,
    next_probe,
    search_of,
    six_misfit_pct,
    usual_kind,
)
from hurbin_core.logbook import AnyCase, Entry
from hurbin_core.plant import MotorPlate
from hurbin_core.simulator import Ladder

AT = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)


def circuit(kind: str = "direct", **more: Any) -> Circuit:
    made = circuit_of(kind, 400.0).model_dump()
    made["supply"]["earthing"] = more.pop("earthing", "unknown")
    return Circuit.model_validate({**made, "taps_known": True, **more})


def case_of(c: Circuit, version: int = 1, **more: Any) -> AnyCase:
    return case(
        AT + timedelta(hours=4), kind="base_mounted", circuit={"circuit": c, "version": version}, **more
    )


def read(n: int, one: str, two: str, volts: float, **stood: str) -> Entry[Any]:
    state = {"contactor": "out", "motor": "standing", "leads": "on", "meter": "low", **stood}
    body = circuit_entry(one=one, two=two, volts={"text": f"{volts:.1f}", "unit": "V"}, **state)
    return Entry(uuid=f"entry{n:05d}", taken_at=AT + timedelta(minutes=n), body=body)


# Six voltages at one place: check values that were worked out elsewhere.
@pytest.mark.parametrize(
    ("lines", "grounds", "misfit", "tolerance"),
    [
        ((402, 398, 400), (236, 228, 231), 0.2, 0.2),
        ((400, 400, 400), (231, 231, 115), 10.9, 0.2),
        ((0, 400, 400), (231, 231, 231), 0.0, 0.2),
        ((400, 400, 400), (0, 400, 400), 0.0, 0.2),
    ],
)
def test_six_voltages_at_one_place_are_four_points_of_a_plane_or_one_is_wrong(
    lines: tuple[float, ...], grounds: tuple[float, ...], misfit: float, tolerance: float
) -> None:
    a, b, c = lines
    assert six_misfit_pct((a, b, c), grounds) == pytest.approx(misfit, abs=tolerance)


@pytest.mark.parametrize("kind", CIRCUIT_KINDS)
def test_every_usual_circuit_is_walked_to_one_span_or_says_that_voltage_parts_no_more(kind: str) -> None:
    """Whatever is open, each reading where the walk says: it ends soon, what is true is never ruled out."""
    c = circuit(kind, earthing="neutral" if circuit_of(kind).conductors == 2 else "solid_wye")
    search = search_of(c)
    start = State(contactor="in", motor="standing" if c.has_motor else "off")
    states = [start.model_copy(update={"contactor": p}) for p in c.positions] if c.has_contactor else [start]
    for truth in search.suspects[:: 3 if c.paths else 1]:
        readings: list[Reading] = []
        for _ in range(11):
            left = search.left(readings)
            ahead = next_probe(search, left, states)
            if left.named or ahead is None or ahead.bits < 0.02:
                break
            o = search.tables(ahead.state)[0][truth.id][ahead.probe.one, ahead.probe.two]
            right = search.right[ahead.probe.one, ahead.probe.two]
            readings.append(Reading(probe=ahead.probe, volts=o.percent / 100 * right, state=ahead.state))
        else:
            pytest.fail(f"{kind}, {truth.id}: no end after eleven readings")
        assert truth.id in left.fit
        assert left.named in ("", truth.id)


def told(c: Circuit, entries: list[Entry[Any]], **more: Any) -> Evaluation[Any]:
    return CIRCUIT_BENCH.evaluate(case_of(c, **more), entries)


PLACES = ["S.out", "D.in", "D.out", "F.in", "F.out", "K.in", "K.out", "O.in", "O.out", "M.in"]
BROKEN = st.tuples(st.sampled_from(PLACES[:-1]), st.sampled_from([1, 2, 3]))


@settings(max_examples=25, deadline=None, derandomize=True)
@given(BROKEN)
def test_led_by_its_probes_on_a_ladder_that_is_not_ours_the_broken_span_is_named(
    broken: tuple[str, int],
) -> None:
    """And once a leg is known missing no probe asks for the contactor in with the motor connected."""
    c, sim = circuit(), Ladder(volts=402, places=PLACES, broken={broken})
    entries: list[Entry[Any]] = []
    e = told(c, entries)
    missing = False
    while (ahead := e.view.next) is not None:
        assert not (missing and ahead.contactor == "in" and ahead.leads == "on")
        one, two = ((p.rpartition(".")[0], int(p[-1])) for p in (ahead.one, ahead.two))
        volts = sim.reads(one, two, "K" if ahead.contactor == "in" else "", 3500.0)
        entries.append(read(len(entries), ahead.one, ahead.two, volts, contactor=ahead.contactor))
        e = told(c, entries)
        missing = missing or e.verdict is Verdict.STOP
        assert len(entries) <= 8
    span = next(s for s in e.view.spans if s.upper == f"{broken[0]}.{broken[1]}")
    assert span.share > 0.1
    left = {s.id for s in e.view.spans if s.share > 0.01}
    assert span.named or (e.view.cannot and span.id in left)
    assert e.verdict is Verdict.STOP
    assert f"L{broken[1]}" in write(e.findings[0].reason) or not span.named


def test_what_may_hang_beneath_the_fuses_unsaid_is_not_ruled_out() -> None:
    """All three to ground are full above a blown fuse that a control transformer feeds back."""
    known, unsaid = circuit(earthing="solid_wye"), circuit(earthing="solid_wye", taps_known=False)
    entries = [read(n, f"F.out.{n}", "ground", 231) for n in (1, 2, 3)]
    left = [{s.id for s in told(c, entries).view.spans if s.share > 0.01} for c in (known, unsaid)]
    assert not {"F.1", "F.2", "F.3"} & left[0]
    assert {"F.1", "F.2", "F.3"} <= left[1]


def test_a_pattern_is_called_by_its_name() -> None:
    tap = circuit(earthing="solid_wye").model_dump()
    tap["elements"][2]["taps"] = [{"id": "T", "legs": (1, 2), "what": "control_transformer"}]
    fed = [read(0, "F.out.1", "F.out.2", 0), *(read(n, f"F.out.{n}", "ground", 231) for n in (1, 2))]
    signs = " ".join(write(s) for s in told(Circuit.model_validate(tap), fed).view.signs)
    assert "one leg is fed by the other" in signs
    pairs = (("1", "2", 200), ("2", "3", 200), ("3", "1", 400))
    half = [read(n, f"M.in.{a}", f"M.in.{b}", v, contactor="in") for n, (a, b, v) in enumerate(pairs)]
    signs = " ".join(write(s) for s in told(circuit(), half).view.signs)
    assert "Half, half, full at Motor terminals" in signs
    for earthing, words in (("corner", "reads zero to ground and is sound"), ("high_leg", "High leg")):
        signs = " ".join(write(s) for s in told(circuit(earthing=earthing), half[:1]).view.signs)
        assert words in signs
    amps = [
        Entry(
            uuid=f"entry{n:05d}",
            taken_at=AT + timedelta(minutes=n),
            body=circuit_entry(
                one=f"M.in.{n}", amps={"text": str(a), "unit": "A"}, contactor="in", motor="running"
            ),
        )
        for n, a in ((1, 20), (2, 40), (3, 21))
    ]
    assert "1 : 2 : 1" in " ".join(write(s) for s in told(circuit(), amps).view.signs)


def test_a_reading_on_ten_megohm_says_that_it_may_be_a_ghost() -> None:
    e = told(circuit(), [read(0, "K.out.1", "K.out.2", 112, meter="high")])
    assert "Read it on low impedance" in " ".join(write(n) for n in e.view.readings[0].notes)
    assert e.verdict is Verdict.UNKNOWN


@settings(max_examples=40, deadline=None, derandomize=True)
@given(
    st.lists(
        st.sampled_from(["running", "all pairs", "last place", "low", "proved", "confirmed"]), max_size=6
    )
)
def test_good_stands_on_every_one_of_its_grounds(lost: list[str]) -> None:
    """Take any of them away and it is not said any more."""
    motor, contactor = ("standing", "in") if "running" in lost else ("running", "in")
    place = "O.in" if "last place" in lost else "M.in"
    pairs = [("1", "2"), ("2", "3"), ("3", "1")][: 2 if "all pairs" in lost else 3]
    meter = "high" if "low" in lost else "low"
    entries = [
        read(n, f"{place}.{a}", f"{place}.{b}", 400, motor=motor, contactor=contactor, meter=meter)
        for n, (a, b) in enumerate(pairs)
    ]
    if "proved" not in lost:
        said = circuit_entry(kind="said", proved="both")
        entries.append(Entry(uuid="entry00009", taken_at=AT + timedelta(minutes=9), body=said))
    e = told(circuit(), entries, version=0 if "confirmed" in lost else 1)
    assert (e.verdict is Verdict.GOOD) is (not lost)


def test_no_order_of_arrival_changes_what_is_said() -> None:
    entries = [
        read(0, "F.in.1", "F.in.2", 400),
        read(1, "F.out.1", "F.out.2", 0),
        read(2, "F.out.3", "F.out.1", 400),
        read(3, "K.in.2", "K.in.3", 2),
    ]
    whole = told(circuit(), entries)
    for seed in range(4):
        mixed = entries[:]
        Random(seed).shuffle(mixed)
        assert told(circuit(), mixed) == whole


def test_ohms_are_read_along_one_leg() -> None:
    search = Search(circuit(), State(contactor="out"))
    with pytest.raises(HurbinError, match="along one leg"):
        search.path(search.probes[0], "in")


def test_the_usual_circuit_follows_the_starter_and_the_motor() -> None:
    single = MotorPlate.model_validate({"phases": 1})
    assert usual_kind("base_mounted", "drive", None) == "drive"
    assert usual_kind("base_mounted", "starter", None) == "direct"
    assert usual_kind("close_coupled", "starter", single) == "single_phase"
    assert usual_kind("wet_rotor", "starter", single) == "electronic"
    with pytest.raises(HurbinError, match="Unknown type of circuit"):
        circuit_of("nothing")


@pytest.mark.parametrize("loads", [(20, 60, 60), (12, 48, 30), (8, 80, 33)])
@pytest.mark.parametrize("bad", [5.0, 20.0, 1e9])
def test_a_bad_neutral_is_known_by_what_its_loads_make_of_it(
    loads: tuple[float, float, float], bad: float
) -> None:
    """Three loads to a neutral behind a resistance: its potential is the mean of the legs by their
    conductances, worked out here by itself."""
    legs = 230 * np.exp(-2j * np.pi * np.arange(3) / 3)
    conductance = 1 / np.array(loads)
    star = (legs * conductance).sum() / (conductance.sum() + 1 / bad)
    to_neutral = np.abs(legs - star)
    between = [abs(legs[a] - legs[b]) for a, b in ((0, 1), (1, 2), (2, 0))]
    assert to_neutral.max() - to_neutral.min() > 0.08 * 230, "too little to be told from loads that differ"
    rows = [
        read(i, f"F.in.{a}", f"F.in.{b}", v)
        for i, (a, b, v) in enumerate(zip("123", "231", between, strict=True))
    ]
    rows += [
        read(3 + i, f"F.in.{leg}", "ground", v)
        for i, (leg, v) in enumerate(zip("123", to_neutral, strict=True))
    ]
    e = told(circuit(earthing="solid_wye"), rows)
    open_ = e.finding("circuit_open")
    assert open_ is not None
    assert open_.verdict is Verdict.ACT
    assert "Neutral open or bad" in write(open_.reason)


def test_another_circulator_on_the_fuse_of_a_board_feeds_nothing_back_and_is_solved() -> None:
    """One leg is fused: behind it another pump hangs on both, and the open fuse reads dead all the same."""
    made = circuit("board_relay", earthing="neutral").model_dump()
    made["elements"][1]["taps"] = [{"id": "T2", "legs": [1, 2], "what": "second_set"}]
    search = search_of(Circuit.model_validate(made))
    table = search.tables(State(contactor="out"))
    assert len(table) == 2, "connected or not"
    assert all(t["F.1"]["F.out.1", "F.out.2"].percent < 3 for t in table)
    assert all(t["sound"]["F.out.1", "F.out.2"].percent > 93 for t in table)
