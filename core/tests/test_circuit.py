"""A faulted circuit's volts against a general circuit solver and against known signatures; what readings
leave, and how many it takes to name what is open.
"""

from __future__ import annotations

import cmath
import math
from pathlib import Path
from random import Random

import numpy as np
import pytest
from hypothesis import given, settings, strategies as st
from pydantic import ValidationError
from scipy.optimize import brentq
from spice import answers

from hurbin_core.base import HurbinError
from hurbin_core.electrical.circuit import (
    GROUND,
    Circuit,
    Element,
    Left,
    Machine,
    Network,
    Probe,
    Reading,
    Search,
    State,
    Supply,
    Tap,
    fits,
    next_probe,
    rungs,
    solve,
    solved_with,
    spans,
    suspects,
    three_legs,
)
from hurbin_core.electrical.circuit.machine import MOTOR
from hurbin_core.simulator import Ladder

VOLTS = 400.0


def ladder(
    taps: dict[str, list[Tap]] | None = None, volts: float = VOLTS, earthing: str = "solid_wye"
) -> Circuit:
    kinds = {"S": "source", "D": "disconnect", "F": "fuse", "K": "contactor", "O": "overload", "M": "motor"}
    elements = [{"id": k, "kind": v, "taps": (taps or {}).get(k, [])} for k, v in kinds.items()]
    told = {"volts": volts, "earthing": earthing}
    return Circuit.model_validate({"supply": told, "taps_known": True, "elements": elements})


STANDING = Search(ladder(), State(contactor="in", motor="standing"))
TAP = Tap(id="T", legs=(1, 2), what="control_transformer", ohms=1000)


def percent(circuit: Circuit, state: State, gone: list[str], one: str, two: str, of: float = VOLTS) -> float:
    read = solved_with(circuit, state, gone).across(one, two, 1e-7)
    assert read is not None
    return round(100 * abs(read) / of, 1)


# The signatures of a lost leg: what a motor bears of it, standing and turning. Worked out elsewhere by plain
# phasor arithmetic for an invented motor: bands of one percent.
@pytest.mark.parametrize(
    ("state", "pairs", "fuse"),
    [
        (State(contactor="in", motor="standing"), (50, 50, 100), 150),
        (State(contactor="in", motor="turning", load=1.0), (94, 66, 100), 60),
        (State(contactor="in", motor="turning", load=0.7), (94, 77, 100), 41),
        (State(contactor="in", motor="turning", load=0.3), (93, 87, 100), 23),
    ],
)
def test_a_lost_leg_reads_what_the_motor_bears_of_it(state: State, pairs: tuple[int, ...], fuse: int) -> None:
    circuit = ladder()
    read = [percent(circuit, state, ["F.2"], f"M.in.{a}", f"M.in.{b}") for a, b in ((1, 2), (2, 3), (3, 1))]
    assert read == pytest.approx(pairs, abs=1)
    across = percent(circuit, state, ["F.2"], "F.in.2", "F.out.2", VOLTS / math.sqrt(3))
    assert across == pytest.approx(fuse, abs=1)


def test_a_control_transformer_carries_the_next_legs_volts_over_a_blown_fuse() -> None:
    """To ground alone it passes: 1-2 nothing, both others full, all three to ground full."""
    circuit, state = ladder({"F": [TAP]}), State(contactor="out", meter="high")
    assert percent(circuit, state, ["F.2"], "F.out.1", "F.out.2") < 3
    assert percent(circuit, state, ["F.2"], "F.out.2", "F.out.3") > 93
    for leg in (1, 2, 3):
        assert percent(circuit, state, ["F.2"], f"F.out.{leg}", GROUND, VOLTS / math.sqrt(3)) > 93
    assert percent(circuit, state, ["F.2"], "F.in.2", "F.out.2") > 93, (
        "across the fuse the whole line voltage"
    )


def test_a_source_leg_lost_reads_through_the_tap_as_a_blown_fuse_does() -> None:
    circuit, state = ladder({"F": [TAP]}), State(contactor="out", meter="high")
    for a, b in (("F.out.1", "F.out.2"), ("F.out.2", "F.out.3"), ("F.out.3", "F.out.1")):
        assert percent(circuit, state, ["supply.2"], a, b) == percent(circuit, state, ["F.2"], a, b)


# ---- a general circuit solver


def motor_numbers(turning: bool, load: float, single: bool) -> tuple[complex, complex]:
    """Forward and backward admittance per unit, from the same resistances by other means."""
    m = MOTOR

    def z(s: float) -> complex:
        rotor, iron = m.rotor_r / s + 1j * m.rotor_x, 1j * m.magnetising_x
        return m.stator_r + 1j * m.stator_x + 1 / (1 / rotor + 1 / iron)

    def torque(s: float, i: complex) -> float:
        iron, rotor = 1j * m.magnetising_x, m.rotor_r / s + 1j * m.rotor_x
        return float(abs(i * iron / (iron + rotor)) ** 2 * m.rotor_r / s)

    if not turning:
        return 1 / z(1), 1 / z(1)
    rated_slip = brentq(lambda s: abs(1 / z(s)) - 1, 1e-4, 0.2)
    wanted = load * torque(rated_slip, 1 / z(rated_slip))

    def gives(s: float) -> float:
        if not single:
            return torque(s, 1 / z(s)) - wanted
        i = 1 / (z(s) + z(2 - s))
        return torque(s, i) - torque(2 - s, i) - wanted

    grid = np.geomspace(1e-4, 0.5, 400)
    top = grid[int(np.argmax([gives(float(s)) for s in grid]))]
    if gives(float(top)) < 0:
        return 1 / z(1), 1 / z(1)
    slip = brentq(gives, 1e-5, float(top))
    return 1 / z(slip), 1 / z(2 - slip)


def netlist(
    n: int,
    circuit: Circuit,
    state: State,
    gone: set[str],
    probe: tuple[str, str],
    tired: dict[str, float] | None = None,
) -> list[str]:
    """One faulted circuit as the solver reads it, its nodes and parts marked by n: closed is ten microohm,
    open a gigaohm, tired as many ohms as it says, a jump of phase an inductance driven by a source.
    """

    def at(p: str) -> str:
        return "0" if p == GROUND else f"n{n}_{p.replace('.', '_')}"

    out: list[str] = []
    for leg in (1, 2, 3):
        lost = f"supply.{leg}" in gone
        out.append(f"V{n}s{leg} {at(f'e.{leg}')} 0 AC {VOLTS / math.sqrt(3)} {-120 * (leg - 1)}")
        out.append(f"R{n}s{leg} {at(f'e.{leg}')} {at(f'S.out.{leg}')} {'1e9' if lost else '1e-5'}")
    for k, s in enumerate(spans(circuit)):
        shut = s.id not in gone and (s.kind != "contactor" or state.closed)
        ohms = (tired or {}).get(s.id, 1e-5 if shut else 1e9)
        out.append(f"R{n}p{k} {at(s.upper)} {at(s.lower)} {ohms}")
    for e in circuit.elements:
        for t in e.taps:
            z = cmath.rect(t.ohms, math.radians(75))
            a, b = (at(f"{e.id}.out.{leg}") for leg in t.legs)
            out += [f"R{n}t {a} {at('tap')} {z.real}", f"L{n}t {at('tap')} {b} {z.imag / (2 * math.pi * 50)}"]
    if state.motor != "off":
        single = len({g[-1] for g in gone}) == 1
        turns = state.motor == "turning" and state.closed and len({g[-1] for g in gone}) < 2
        fwd, back = motor_numbers(turns, state.load, single)
        f = (
            np.array(
                [
                    [1, 1, 1],
                    [1, cmath.exp(2j * math.pi / 3), cmath.exp(4j * math.pi / 3)],
                    [1, cmath.exp(4j * math.pi / 3), cmath.exp(2j * math.pi / 3)],
                ]
            )
            / 3
        )
        y = np.linalg.inv(f) @ np.diag([0, fwd, back]) @ f * 30 * math.sqrt(3) / VOLTS
        legs = [at(f"M.in.{leg}") for leg in (1, 2, 3)]
        for j, node in enumerate(legs):  # j times its volts, over an inductance of one ohm
            out += [f"G{n}q{j} 0 n{n}_q{j} {node} 0 1", f"L{n}q{j} n{n}_q{j} 0 {1 / (2 * math.pi * 50)}"]
            out.append(f"R{n}g{j} {node} 0 1e9")
        for i, node in enumerate(legs):
            for j, other in enumerate(legs):
                out.append(f"G{n}a{i}{j} {node} 0 {other} 0 {y[i, j].real}")
                out.append(f"G{n}b{i}{j} {node} 0 n{n}_q{j} 0 {y[i, j].imag}")
    meter = {"low": 3e3, "high": 1e7}[state.meter]
    return [*out, f"R{n}m {at(probe[0])} {at(probe[1])} {meter}"]


def test_sixty_faulted_circuits_against_a_general_solver(tmp_path: Path) -> None:
    rng = Random(20261127)
    lines, asked = [".options rshunt=1e11"], []
    for n in range(60):
        circuit = ladder({"F": [TAP]} if rng.random() < 0.5 else None)
        state = State(
            closed=rng.random() < 0.7,
            motor=rng.choice(["standing", "turning", "turning", "off"]),
            load=rng.choice([0.3, 0.7, 1.0]),
            meter=rng.choice(["low", "high"]),
        )
        found = rng.choice(suspects(circuit))
        solved = solved_with(circuit, state, found.open)
        firm = [p for p in Search(circuit, state).probes if solved.across(p.one, p.two, 0j) is not None]
        if not firm:
            continue
        probe = rng.choice(firm)
        read = solved.across(probe.one, probe.two, 1 / {"low": 3e3, "high": 1e7}[state.meter])
        assert read is not None
        lines += netlist(n, circuit, state, set(found.open), (probe.one, probe.two))
        a, b = ("0" if p == GROUND else f"n{n}_{p.replace('.', '_')}" for p in (probe.one, probe.two))
        asked.append((n, found.id, probe, abs(read), f"vm({a},{b})" if b != "0" else f"vm({a})"))
    got = answers(lines, [word for *_, word in asked], tmp_path)
    assert len(asked) >= 50
    for (_, fault, probe, ours, _), theirs in zip(asked, got, strict=True):
        assert ours == pytest.approx(theirs, abs=0.5), (fault, probe)


def test_a_joint_of_high_resistance_against_a_general_solver(tmp_path: Path) -> None:
    """Neither open nor closed: half an ohm to five kilohm somewhere, the motor standing behind it."""
    rng, circuit, state = Random(20261128), ladder(), State(contactor="in")
    every = spans(circuit)
    y = 30 * math.sqrt(3) / VOLTS * motor_numbers(False, 1.0, False)[0]
    lines, asked = [".options rshunt=1e11"], []
    for n in range(40):
        bad, ohms = rng.choice(every), 10 ** rng.uniform(-0.3, 3.7)
        held = {f"S.out.{k + 1}": cmath.rect(VOLTS / math.sqrt(3), -2 * math.pi * k / 3) for k in range(3)}
        joined = [(s.upper, s.lower) for s in every if s.id != bad.id]
        motor = Machine(tuple(f"M.in.{leg}" for leg in (1, 2, 3)), three_legs(y, y))
        solved = solve(Network(held, joined, [(bad.upper, bad.lower, 1 / ohms + 0j)], [motor]))
        probe = rng.choice([p for p in STANDING.probes if p.two != GROUND])
        read = solved.across(probe.one, probe.two, 1 / 3e3)
        assert read is not None
        lines += netlist(n, circuit, state, set(), (probe.one, probe.two), {bad.id: ohms})
        a, b = (f"n{n}_{p.replace('.', '_')}" for p in (probe.one, probe.two))
        asked.append((bad.id, ohms, probe, abs(read), f"vm({a},{b})"))
    got = answers(lines, [word for *_, word in asked], tmp_path)
    for (where, ohms, probe, ours, _), theirs in zip(asked, got, strict=True):
        assert ours == pytest.approx(theirs, abs=0.5), (where, ohms, probe)


# ---- naming what is open


GHOSTS = Random(7)


def read_of(search: Search, truth: str, probe: Probe) -> Reading:
    """What would be read there; of a ghost anything up to a half."""
    expected = search.table[truth][probe.one, probe.two]
    percent = GHOSTS.uniform(0, 50) if expected.reads == "ghost" else expected.percent
    return Reading(probe=probe, volts=percent / 100 * search.right[probe.one, probe.two])


def walk(search: Search, truth: str) -> tuple[int, Left]:
    """How many readings until it is named, each where the search says."""
    readings: list[Reading] = []
    while True:
        left = search.left(readings)
        ahead = next_probe(search, left)
        assert ahead is not None
        if left.named or ahead.bits < 0.01:
            return len(readings), left
        readings.append(read_of(search, truth, ahead.probe))
        assert len(readings) < 20


def test_a_low_impedance_meter_names_any_span_in_five_readings_on_average() -> None:
    """Three pairs at every rung take twelve; best next at most five."""
    search = STANDING
    took = []
    for s in search.suspects:
        n, left = walk(search, s.id)
        assert left.named == s.id
        took.append(n)
    assert sum(took) / len(took) <= 5.0, took
    assert max(took) <= 6


def test_what_this_state_cannot_part_stays_together() -> None:
    """With the contactor out everything beneath it is alike: poles, heaters, cable."""
    search = Search(ladder({"F": [TAP]}), State(contactor="out"))
    _, left = walk(search, "O.2")
    assert left.named == ""
    beneath = {k for k, share in left.shares.items() if share > 0.02}
    assert beneath >= {"K.1", "K.2", "K.3", "K", "O.1", "O.2", "O.3", "O-M.1", "O-M.2", "O-M.3", "sound"}
    assert not beneath & {"F.1", "F.2", "F.3", "D.1", "S-D.1"}
    assert walk(search, "F.2")[1].named == "F.2"


def test_a_ghost_says_nothing_on_a_meter_of_ten_megohm() -> None:
    low, high = (Search(ladder(), State(contactor="in", motor="off", meter=m)) for m in ("low", "high"))
    assert high.table["F.2"]["M.in.1", "M.in.2"].reads == "ghost"
    assert low.table["F.2"]["M.in.1", "M.in.2"].reads == "zero"
    ghost = Reading(probe=Probe(one="M.in.1", two="M.in.2"), volts=150)
    assert high.left([ghost]).shares["F.2"] > 0.01
    assert low.left([ghost]).unexplained, "a low-impedance meter loads a ghost away: this fits nothing"
    mean = [sum(walk(s, x.id)[0] for x in s.suspects) / len(s.suspects) for s in (low, high)]
    assert mean[0] <= mean[1] <= 7.3, mean


SEARCH = Search(ladder({"F": [TAP]}), State(contactor="in", motor="turning", load=0.7))
TRUTHS = st.sampled_from([s.id for s in SEARCH.suspects])
PLACES = st.lists(st.sampled_from(SEARCH.probes), min_size=1, max_size=7, unique_by=lambda p: (p.one, p.two))


@settings(max_examples=60, deadline=None, derandomize=True)
@given(TRUTHS, PLACES, st.randoms(use_true_random=False))
def test_no_order_changes_the_end_and_less_never_removes_a_suspect(
    truth: str, places: list[Probe], rng: Random
) -> None:
    readings = [read_of(SEARCH, truth, p) for p in places]
    whole = SEARCH.left(readings)
    assert whole.shares[truth] >= 0.01, "what is true is never ruled out by what it reads"
    mixed = readings[:]
    rng.shuffle(mixed)
    again = SEARCH.left(mixed)
    assert again.named == whole.named
    assert again.shares == pytest.approx(whole.shares)
    fewer = SEARCH.left(readings[1:]).shares
    possible = [k for k, share in whole.shares.items() if share > 0.005]
    assert all(fewer[k] > 1e-4 for k in possible)


def reading(one: str, two: str, volts: float) -> Reading:
    return Reading(probe=Probe(one=one, two=two), volts=volts)


def test_two_readings_of_one_pair_that_differ_are_named_and_neither_is_used() -> None:
    search = STANDING
    sure = reading("F.in.1", "F.in.2", 401)
    left = search.left([sure, reading("K.out.1", "K.out.2", 400), reading("K.out.1", "K.out.2", 0)])
    assert left.against == [(1, 2)]
    assert left.named == ""
    assert left.shares == pytest.approx(search.left([sure]).shares)


def test_two_at_once_are_said_where_no_single_one_fits() -> None:
    search = STANDING
    read = [reading(f"F.in.{a}", f"F.in.{b}", 400) for a, b in ((1, 2), (2, 3), (3, 1))]
    read += [reading(f"F.out.{a}", f"F.out.{b}", 0) for a, b in ((1, 2), (2, 3), (3, 1))]
    left = search.left(read)
    assert left.named == ""
    assert set(left.pairs[:3]) == {("F.1", "F.2"), ("F.1", "F.3"), ("F.2", "F.3")}
    assert all(p.startswith("F.") for pair in left.pairs[:3] for p in pair)


def test_what_no_circuit_can_read_is_said() -> None:
    """Full between all legs at the motor, and nothing between two of them where they come from."""
    search = STANDING
    left = search.left([reading("M.in.1", "M.in.2", 400), reading("F.in.1", "F.in.2", 0)])
    assert left.against == [(0, 1)]
    assert left.shares == pytest.approx(search.left([]).shares)


@pytest.mark.parametrize(
    "elements",
    [
        [{"id": "M", "kind": "motor"}, {"id": "S", "kind": "source"}],
        [{"id": "S", "kind": "source"}, {"id": "S", "kind": "fuse"}, {"id": "M", "kind": "motor"}],
        [
            {
                "id": "S",
                "kind": "source",
                "taps": [{"id": "T", "legs": [1, 1], "what": "heater", "ohms": 90}],
            },
            {"id": "M", "kind": "motor"},
        ],
    ],
)
def test_what_is_no_ladder_is_refused(elements: list[dict[str, object]]) -> None:
    with pytest.raises(ValidationError):
        Circuit.model_validate({"supply": {"volts": 400}, "elements": elements})


def test_a_point_that_the_circuit_has_not_is_named() -> None:
    search = STANDING
    with pytest.raises(HurbinError, match=r"no point Q\.in\.1"):
        search.left([reading("Q.in.1", "F.in.2", 400)])
    with pytest.raises(HurbinError, match="tells nothing"):
        search.left([reading("S.out.1", "M.in.1", 0)])


def test_without_its_earthing_nothing_is_read_to_ground() -> None:
    assert not any(
        GROUND in (p.one, p.two) for p in Search(ladder(earthing="unknown"), State(contactor="in")).probes
    )
    corner = solved_with(ladder(earthing="corner"), State(contactor="in"), [])
    assert abs(corner.across("M.in.2", GROUND) or 0) == pytest.approx(0, abs=1e-9)
    high = solved_with(ladder(volts=240, earthing="high_leg"), State(contactor="in"), [])
    to_neutral = [abs(high.across(f"M.in.{leg}", GROUND) or 0) for leg in (1, 2, 3)]
    assert to_neutral == pytest.approx([120, 208, 120], abs=1)


def test_two_potentials_joined_are_a_short_and_what_nothing_holds_floats() -> None:
    with pytest.raises(ValueError, match="another potential"):
        solve(Network(held={"a": 230 + 0j, "b": -230 + 0j}, joined=[("a", "b")]))
    solved = solve(Network(held={"a": 230 + 0j}, between=[("c", "d", 0.1 + 0j)]))
    assert solved.potential("a") == 230
    assert solved.across("c", "d") is None


def test_rungs_go_down_the_ladder() -> None:
    assert rungs(ladder())[:4] == ["S.out", "D.in", "D.out", "F.in"]
    assert len(spans(ladder())) == 27
    assert Element(id="K", kind="contactor").together
    assert not Element(id="F", kind="fuse").together
    assert Supply(volts=400).earthing == "unknown"


# ---- the demo's ladder, which knows nothing of ours


def test_the_simulators_ladder_reads_as_ours_where_a_span_is_broken() -> None:
    """Two networks that share no formula: whichever span is broken, the same pairs are full, half or dead."""
    circuit = ladder()
    places = rungs(circuit)
    for closed in (True, False):
        state = State(contactor="in" if closed else "out")
        search = Search(circuit, state)
        for s in [x for x in search.suspects if len(x.open) == 1 and x.lower]:
            upper, _, leg = s.upper.rpartition(".")
            sim = Ladder(volts=VOLTS, places=places, broken={(upper, int(leg))})
            for p in search.probes[::7]:
                if GROUND in (p.one, p.two):
                    continue
                one, two = ((q.rpartition(".")[0], int(q[-1])) for q in (p.one, p.two))
                read = 100 * sim.reads(one, two, "K" if closed else "", 3000.0) / search.right[p.one, p.two]
                assert fits(search.table[s.id][p.one, p.two], read), (closed, s.id, p, read)


def test_another_set_on_the_same_fuses_feeds_the_lost_leg_to_half_and_may_as_well_be_off() -> None:
    """Known from elsewhere: half, half, full, and half to ground, with this contactor out."""
    circuit = ladder({"F": [Tap(id="T2", legs=(1, 2), what="second_set")]})
    state = State(contactor="out", meter="high")
    pairs = [("F.out.1", "F.out.2"), ("F.out.2", "F.out.3"), ("F.out.3", "F.out.1")]
    assert [percent(circuit, state, ["F.2"], a, b) for a, b in pairs] == pytest.approx([50, 50, 100], abs=0.5)
    assert percent(circuit, state, ["F.2"], "F.out.2", GROUND, VOLTS / math.sqrt(3)) == pytest.approx(
        50, abs=0.5
    )
    search = Search(circuit, State(contactor="out"))
    for volts in (200, 0):
        left = search.left([reading("F.in.1", "F.in.2", 400), reading("F.out.1", "F.out.2", volts)])
        assert "F.2" in left.fit, "whether it is connected nobody said"
