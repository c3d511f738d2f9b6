"""Two ways for the current: a ring of windings in star and in delta, and a bypass beside its drive.

Held against a general circuit solver that is wired by hand, against what every textbook says of star and
delta, and against what must never be called sound.
"""

from __future__ import annotations

import cmath
import math
from datetime import timedelta
from itertools import pairwise
from pathlib import Path
from random import Random
from typing import Any

import numpy as np
import pytest
from pydantic import ValidationError
from spice import answers
from test_circuit import motor_numbers
from test_circuit_walk import AT, circuit, read, told

from hurbin_core.base import HurbinError, Verdict, write
from hurbin_core.electrical.circuit import (
    Circuit,
    Probe,
    Reading,
    Search,
    State,
    circuit_entry,
    fits,
    search_of,
    solved_with,
    untold,
)
from hurbin_core.electrical.circuit.machine import MOTOR
from hurbin_core.logbook import Entry
from hurbin_core.simulator import Ladder

VOLTS = 400.0
RING = circuit("star_delta", earthing="solid_wye")
PAST = circuit("drive_bypass", earthing="solid_wye")
LEGS = (1, 2, 3)


def windings(state: State, gone: list[str]) -> list[float]:
    """Across each winding of the ring, in percent of the line voltage."""
    solved = solved_with(RING, state, gone)
    read = [solved.across(f"M.in.{n}", f"M.out.{n}", 1e-7) for n in LEGS]
    return [round(100 * abs(v) / VOLTS, 1) if v is not None else 0.0 for v in read]


@pytest.mark.parametrize(
    ("contactor", "gone", "percent"),
    [
        ("delta", [], (100, 100, 100)),
        ("star", [], (57.7, 57.7, 57.7)),
        ("in", [], (0, 0, 0)),
        # One line lost: in star two windings in series; in delta one winding whole, two in series.
        ("star", ["F.2"], (50, 0, 50)),
        ("delta", ["F.2"], (50, 50, 100)),
        ("delta", ["K.1", "K.2", "K.3"], (0, 0, 0)),
    ],
)
def test_each_winding_bears_what_star_and_delta_are_known_for(
    contactor: Any, gone: list[str], percent: tuple[float, ...]
) -> None:
    assert windings(State(contactor=contactor), gone) == pytest.approx(percent, abs=0.2)


def test_a_pole_of_delta_that_is_open_leaves_its_winding_to_what_the_others_induce() -> None:
    """U goes from L1 to L2: with the pole of L2 open it is on one line; turning, the field induces in it."""
    still = windings(State(contactor="delta"), ["X.2"])
    turns = windings(State(contactor="delta", motor="turning"), ["X.2"])
    assert still[1:] == pytest.approx([100, 100], abs=0.2)
    assert turns[1:] == pytest.approx([100, 100], abs=0.2)
    assert still[0] < turns[0] < 100


# ---- a general circuit solver, wired by hand


def wires(kind: str) -> list[tuple[str, str, str, str]]:
    """Every wire and pole: what it is called, its two ends, and the contactor that it is a pole of."""
    out = []
    chains = {
        "ring": ["S.out", "D.in", "D.out", "F.in", "F.out", "K.in", "K.out", "O.in", "O.out", "M.in"],
        "past": ["S.out", "D.in", "D.out", "F.in", "F.out", "K.in", "K.out", "Y.in"],
    }
    for leg in LEGS:
        turned = {1: 3, 2: 1, 3: 2}[leg]
        chain = chains[kind]
        pairs = [(a, leg, b, leg) for a, b in pairwise(chain)]
        if kind == "ring":
            pairs += [("M.out", leg, "Y.in", leg), ("Y.in", leg, "Y.out", leg)]
            pairs += [("F.out", leg, "X.in", leg), ("X.in", leg, "X.out", leg)]
            pairs += [("X.out", leg, "M.out", turned)]
        else:
            below = ["Y.out", "A.in", "A.out", "O.in", "O.out", "M.in"]
            pairs += [(a, leg, b, leg) for a, b in pairwise(below)]
            pairs += [("F.out", leg, "B.in", leg), ("B.in", leg, "B.out", leg), ("B.out", leg, "O.in", leg)]
        for a, i, b, j in pairs:
            one, two = a.split(".")[0], b.split(".")[0]
            name = f"{one}.{leg}" if one == two else f"{one}-{two}.{leg}"
            out.append((name, f"{a}.{i}", f"{b}.{j}", one if one == two and one in "KXYAB" else ""))
    return out


IN = {
    "ring": {"in": "K", "star": "KY", "delta": "KX", "out": ""},
    "past": {"drive": "KA", "bypass": "B", "out": ""},
}


def netlist(n: int, kind: str, state: State, gone: set[str], probe: tuple[str, str]) -> list[str]:
    def at(p: str) -> str:
        return f"n{n}_{p.replace('.', '_')}"

    closed = IN[kind][state.contactor]
    out = []
    for leg in LEGS:
        lost = f"supply.{leg}" in gone
        out.append(f"V{n}s{leg} {at(f'e.{leg}')} 0 AC {VOLTS / math.sqrt(3)} {-120 * (leg - 1)}")
        out.append(f"R{n}s{leg} {at(f'e.{leg}')} {at(f'S.out.{leg}')} {'1e9' if lost else '1e-5'}")
    for k, (name, a, b, pole_of) in enumerate(wires(kind)):
        shut = name not in gone and (not pole_of or pole_of in closed)
        out.append(f"R{n}p{k} {at(a)} {at(b)} {'1e-5' if shut else '1e9'}")
    if kind == "ring":
        out += [f"R{n}y{a} {at(f'Y.out.{a}')} {at(f'Y.out.{a + 1}')} 1e-5" for a in (1, 2)]
    turning = state.motor == "turning"
    fwd, back = motor_numbers(turning, state.load, turning and bool(gone))
    zero = 1 / complex(MOTOR.stator_r, MOTOR.stator_x) if kind == "ring" else 0
    a = cmath.exp(2j * math.pi / 3)
    f = np.array([[1, 1, 1], [1, a, a * a], [1, a * a, a]]) / 3
    y = np.linalg.inv(f) @ np.diag([zero, fwd, back]) @ f * 30 * math.sqrt(3) / VOLTS
    y = y / 3 if kind == "ring" else y
    for k, leg in enumerate(LEGS):
        start = at(f"M.in.{leg}")
        # A winding that is open stands behind a gigaohm of its own.
        end = at(f"M.out.{leg}") if kind == "ring" else "0"
        inner = at(f"w.{leg}")
        out.append(f"R{n}w{k} {start} {inner} {'1e9' if f'M.{leg}' in gone else '1e-5'}")
        out += [f"G{n}q{k} 0 n{n}_q{k} {inner} {end} 1", f"L{n}q{k} n{n}_q{k} 0 {1 / (2 * math.pi * 50)}"]
        out.append(f"R{n}g{k} {start} 0 1e9")
    for i, leg in enumerate(LEGS):
        end = at(f"M.out.{leg}") if kind == "ring" else "0"
        for j, other in enumerate(LEGS):
            far = at(f"M.out.{other}") if kind == "ring" else "0"
            out.append(f"G{n}a{i}{j} {at(f'w.{leg}')} {end} {at(f'w.{other}')} {far} {y[i, j].real}")
            out.append(f"G{n}b{i}{j} {at(f'w.{leg}')} {end} n{n}_q{j} 0 {y[i, j].imag}")
    return [*out, f"R{n}m {at(probe[0])} {at(probe[1])} {({'low': 3e3, 'high': 1e7})[state.meter]}"]


def drawn(rng: Random, kind: str, search: Search) -> tuple[State, Any]:
    """A state and something open in it; a motor turns only where every book knows at which slip."""
    found = rng.choice([s for s in search.suspects if s.id != "supply"])
    state = State(contactor=rng.choice(search.circuit.positions), meter=rng.choice(["low", "high"]))
    line = found.id == "sound" or (len(found.open) == 1 and found.open[0][0] in "DF" and "-" not in found.id)
    runs = state.contactor in ("star", "delta", "bypass")
    if line and runs and rng.random() < 0.7:
        state = state.model_copy(update={"motor": "turning", "load": rng.choice([0.3, 0.7])})
    return state, found


@pytest.mark.parametrize("kind", ["ring", "past"])
def test_faulted_rings_and_bypasses_against_a_general_solver(kind: str, tmp_path: Path) -> None:
    rng = Random(2026)
    search = Search({"ring": RING, "past": PAST}[kind], State())
    lines, asked = [".options rshunt=1e11"], []
    for n in range(80):
        state, found = drawn(rng, kind, search)
        solved, dark = solved_with(search.circuit, state, found.open), untold(search.circuit, state)
        firm = [
            p
            for p in search.probes
            if p.two != "ground" and not dark & {p.one, p.two} and solved.across(p.one, p.two) is not None
        ]
        probe = rng.choice(firm) if firm else None
        if probe is None:
            continue
        volts = solved.across(probe.one, probe.two, 1 / {"low": 3e3, "high": 1e7}[state.meter])
        assert volts is not None
        lines += netlist(n, kind, state, set(found.open), (probe.one, probe.two))
        a, b = (f"n{n}_{p.replace('.', '_')}" for p in (probe.one, probe.two))
        asked.append((found.id, state, probe, abs(volts), f"vm({a},{b})"))
    got = answers(lines, [word for *_, word in asked], tmp_path)
    assert len(asked) >= 60
    for (fault, state, probe, ours, _), theirs in zip(asked, got, strict=True):
        assert ours == pytest.approx(theirs, abs=0.6), (fault, state, probe)


# ---- what is said of it


def at_motor(
    state: dict[str, str], ends: tuple[str, ...] = ("in", "out"), of: float = 401
) -> list[Entry[Any]]:
    pairs = [(end, a, b) for end in ends for a, b in ((1, 2), (2, 3), (3, 1))]
    return [read(n, f"M.{end}.{a}", f"M.{end}.{b}", of, **state) for n, (end, a, b) in enumerate(pairs)]


def proved(entries: list[Entry[Any]]) -> list[Entry[Any]]:
    after = entries[-1].taken_at
    return [
        *entries,
        Entry(uuid="proved-000", taken_at=after, body=circuit_entry(kind="said", proved="both")),
    ]


DELTA = {"contactor": "delta", "motor": "running"}


def clamped(rung: str, amps: tuple[float, float, float], n: int = 60) -> list[Entry[Any]]:
    """The current of each leg at one place, the motor running in delta."""
    typed = [
        circuit_entry(one=f"{rung}.{leg}", amps={"text": f"{a}"}, **DELTA) for leg, a in enumerate(amps, 1)
    ]
    times = [AT.replace(hour=10, second=n + i) for i in range(3)]
    return [
        Entry(uuid=f"amps{rung}{i}", taken_at=at, body=b)
        for i, (at, b) in enumerate(zip(times, typed, strict=True))
    ]


def test_a_ring_is_sound_only_with_star_read_and_both_ends_and_the_current_of_its_delta_read() -> None:
    """In delta star says nothing, and a turning motor props up the end that a lead of delta lost."""
    run, delta = at_motor(DELTA), clamped("X.out", (17, 17.2, 16.8), 0)
    star = [read(20 + n, f"Y.in.{n}", f"Y.out.{n}", 0.1, contactor="star", motor="running") for n in LEGS]
    star += [read(40 + n, f"M.in.{n}", f"M.out.{n}", 231, contactor="star", motor="running") for n in LEGS]
    for short in ([*run, *delta], [*run, *star], [*at_motor(DELTA, ("in",)), *star, *delta]):
        assert told(RING, proved(short)).verdict is Verdict.UNKNOWN
    whole = told(RING, proved([*run, *star, *delta]))
    assert (whole.verdict, write(whole.findings[0].reason)[:12]) == (Verdict.GOOD, "Nothing open")
    alone = at_motor({"contactor": "star", "motor": "running"}, ("in",))
    assert told(RING, proved([*alone, *star])).verdict is Verdict.UNKNOWN


def test_a_lost_winding_is_stop_in_words_of_its_own() -> None:
    """Both lines stand at the motor, and one winding's end is on neither."""
    solved = solved_with(RING, State(contactor="delta", motor="turning", load=0.7), ["X.2"])
    pairs = [("M.in.1", "M.in.2"), ("M.in.2", "M.in.3"), ("X.in.2", "X.out.2"), ("X.in.1", "X.out.1")]
    volts = [abs(solved.across(a, b, 1 / 3000) or 0) for a, b in pairs]
    e = told(
        RING, [read(n, a, b, v, **DELTA) for n, ((a, b), v) in enumerate(zip(pairs, volts, strict=True))]
    )
    assert e.verdict is Verdict.STOP
    assert "winding" in write(e.findings[0].reason)
    assert "L1 is missing" not in write(e.findings[0].reason)
    assert e.view.next is None or e.view.next.contactor == "out"


def test_nobody_is_sent_into_star_or_delta_and_what_they_would_tell_is_said() -> None:
    e = told(RING, [])
    positions = set()
    entries: list[Entry[Any]] = []
    search = search_of(RING)
    while (ahead := e.view.next) is not None and len(entries) < 14:
        positions.add(ahead.contactor)
        state = State(contactor=ahead.contactor)
        volts = search.tables(state)[0]["Y.2"][ahead.one, ahead.two].percent / 100
        read_ = read(len(entries), ahead.one, ahead.two, volts * search.right[ahead.one, ahead.two])
        entries.append(
            read_.model_copy(update={"body": read_.body.model_copy(update={"contactor": ahead.contactor})})
        )
        e = told(RING, entries)
    assert positions == {"out", "in"}
    assert "Y.2" in {s.id for s in e.view.spans if s.share > 0.01}
    assert "star contactors in" in write(e.view.cannot[0])


def test_below_a_drive_that_is_on_a_reading_says_nothing_and_nothing_becomes_sound_by_it() -> None:
    on = {"contactor": "drive", "motor": "running"}
    below = at_motor(on, ("in",))
    e = told(PAST, proved(below))
    assert e.verdict is Verdict.UNKNOWN
    assert [r.reads for r in e.view.readings] == ["unused"] * 3
    assert "another frequency" in write(e.view.readings[0].notes[0])
    bare = told(PAST, [read(0, "S.out.1", "S.out.2", 400)]).view.left
    assert told(PAST, [*below, read(9, "S.out.1", "S.out.2", 400)]).view.left == bare


def test_on_the_bypass_all_is_full_and_it_is_not_called_sound_while_the_drives_path_was_not_read_dead() -> (
    None
):
    past = {"contactor": "bypass", "motor": "running"}
    run = at_motor(past, ("in",))
    drive = [
        read(20 + n, f"Y.in.{a}", f"Y.in.{b}", 401, contactor="drive")
        for n, (a, b) in enumerate(((1, 2), (2, 3)))
    ]
    e = told(PAST, proved([*run, *drive]))
    assert e.verdict is Verdict.UNKNOWN
    assert {"A.1", "A.2", "A.3"} <= {s.id for s in e.view.spans if s.share > 0.01}


def ohms(n: int, one: str, two: str, text: str) -> Entry[Any]:
    body = circuit_entry(
        one=one, two=two, ohms={"text": text, "unit": "Ohm"}, contactor="out", motor="standing"
    )
    return Entry(uuid=f"ohms{n:04d}", taken_at=AT, body=body)


def test_ohms_follow_the_way_that_conducts_and_not_the_other() -> None:
    search = search_of(PAST)
    assert search.path(Probe(one="F.out.2", two="B.in.2"), "out") == ["F-B.2"]
    assert set(search.path(Probe(one="B.out.1", two="M.in.1"), "out")) == {"B-O.1", "O.1", "O-M.1"}
    for one, two in (("Y.in.1", "Y.out.1"), ("F.out.1", "F.out.2"), ("M.in.1", "M.in.1")):
        with pytest.raises(HurbinError, match="along one leg"):
            search.path(Probe(one=one, two=two), "out")
    ring = search_of(RING)
    assert set(ring.path(Probe(one="X.out.1", two="M.out.3"), "out")) == {"X-M.1"}, "L1 goes to W2"
    assert set(ring.path(Probe(one="Y.in.1", two="Y.in.2"), "out")) == {"Y.1", "Y.2"}, (
        "through the star point"
    )
    around = {"kind": "direct", "elements": RING.elements[:4] + circuit().elements[4:]}
    twice = Circuit.model_validate(
        circuit().model_dump()
        | around
        | {"paths": [{"leaves": "F.out", "lands": "O.in", "elements": [{"id": "B", "kind": "isolator"}]}]}
    )
    with pytest.raises(HurbinError, match="Two ways"):
        search_of(twice).path(Probe(one="K.in.1", two="K.out.1"), "in")
    assert "K.1" not in search_of(twice).path(Probe(one="K.in.1", two="K.out.1"), "out"), "around it"
    lone = Reading(probe=Probe(one="B.in.1", two="B.in.1"), volts=0.0, what="carries")
    both = Search(twice, State(contactor="in"))
    assert both.left([lone]).shares == pytest.approx(both.left([]).shares), "how it parts there nobody knows"


def test_current_is_told_where_it_flows() -> None:
    """A pole of delta open: none in its own leg there, and all lines carry."""
    ring, delta = search_of(RING), State(contactor="delta", motor="turning", load=0.7)
    left = ring.left(
        [
            Reading(probe=Probe(one="X.in.2", two="X.in.2"), volts=0.0, state=delta, what="carries"),
            Reading(probe=Probe(one="X.in.1", two="X.in.1"), volts=1.0, state=delta, what="carries"),
            Reading(probe=Probe(one="F.in.2", two="F.in.2"), volts=1.0, state=delta, what="carries"),
        ]
    )
    assert set(left.fit) >= {"F-X.2", "X.2", "X-M.2", "M.1"}
    assert not {"sound", "F.2", "supply.2", "X.1"} & set(left.fit)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda c: c["elements"][5].update(leads=3), "from one source to one motor"),
        (lambda c: c.update(paths=[]), "delta contactor joins"),
        (lambda c: c["paths"][0].update(onto=[1, 2, 3]), "delta contactor joins"),
        (lambda c: c["paths"][0].update(onto=[1, 1, 2]), "a leg of its own"),
        (lambda c: c["paths"][0].update(leaves="Q.out"), "starts and ends at a place"),
        (lambda c: c["paths"][0].update(leaves="M.out", lands="F.out"), "beneath where it left"),
        (lambda c: c["paths"][0]["elements"][0].update(closes=["star"]), "L1 and L2 are joined"),
        (lambda c: c["paths"][0]["elements"][0].update(closes=["out"]), "none is while the starter is out"),
        (lambda c: c["paths"][0]["elements"][0].update(id="K"), "same id"),
        (lambda c: c["paths"][0]["elements"][0].update(kind="drive", closes=[]), "no source, motor or drive"),
        (lambda c: c["elements"][4].update(joins=True), "Only a contactor joins|six leads"),
        (lambda c: c["paths"][0].update(lands=""), "comes back to it"),
    ],
)
def test_a_path_that_cannot_be_is_refused_by_name(change: Any, says: str) -> None:
    made = RING.model_dump()
    change(made)
    with pytest.raises(ValidationError, match=says):
        Circuit.model_validate(made)


def test_a_state_that_this_starter_has_not_is_refused_and_the_figure_stays() -> None:
    e = told(RING, [read(0, "F.in.1", "F.in.2", 400, contactor="bypass")])
    assert [p.code for p in e.problems] == ["state_impossible"]
    assert "no position" in e.problems[0].message
    alone = told(RING, [read(0, "F.in.1", "F.in.2", 400, contactor="in", motor="running")])
    assert "main contactor alone in" in alone.problems[0].message


def test_a_circuit_that_was_kept_before_there_were_paths_is_read_as_it_was() -> None:
    made = circuit().model_dump(exclude={"paths"})
    for e in made["elements"]:
        for name in ("leads", "joins", "closes"):
            e.pop(name)
    assert Circuit.model_validate(made) == circuit()


# ---- the demo's ring, which knows nothing of ours

DOWN = ["S.out", "D.in", "D.out", "F.in", "F.out", "K.in", "K.out", "O.in", "O.out", "M.in"]
TURNED = {1: 3, 2: 1, 3: 2}
JOINED = [("F.out", "X.in"), ("X.in", "X.out"), ("M.out", "Y.in"), ("Y.in", "Y.out")]
BESIDE = [((a, leg), (b, leg)) for a, b in JOINED for leg in LEGS]
BESIDE += [(("X.out", leg), ("M.out", TURNED[leg])) for leg in LEGS]
BESIDE += [(("Y.out", leg), ("Y.out", TURNED[leg])) for leg in LEGS]


@pytest.mark.parametrize("contactor", ["out", "in", "star", "delta"])
def test_the_simulators_ring_reads_as_ours_where_a_span_is_broken(contactor: Any) -> None:
    search, state = search_of(RING), State(contactor=contactor)
    # Where two wires leave one place the simulator breaks both.
    alone = [s for s in search.suspects if len(s.open) == 1 and s.lower and not s.upper.startswith("F.out")]
    for s in alone:
        upper, _, leg = s.upper.rpartition(".")
        # Windings that stand apart induce nothing here: an open one is told by ours alone.
        if contactor in ("star", "delta") and s.id[0] in "KOMXY":
            continue
        broken = {(upper, int(leg))}
        sim = Ladder(volts=VOLTS, places=DOWN, broken=broken, beside=BESIDE, coils="KXY", far="M.out")
        for p in [p for p in search.probes if p.two != "ground"][:: 7 if contactor == "in" else 11]:
            one, two = ((q.rpartition(".")[0], int(q[-1])) for q in (p.one, p.two))
            percent = 100 * sim.reads(one, two, IN["ring"][contactor], 3000.0) / search.right[p.one, p.two]
            assert fits(search.tables(state)[0][s.id][p.one, p.two], percent), (s.id, p, percent)


def test_currents_below_a_drive_that_were_read_an_hour_apart_are_not_called_alike() -> None:
    said = {"contactor": "drive", "motor": "running"}
    verdicts = []
    for minutes in (1, 30):
        entries = [
            Entry(
                uuid=f"below{leg:05d}",
                taken_at=AT + timedelta(minutes=minutes * leg),
                body=circuit_entry(one=f"M.in.{leg}", amps={"text": "31", "unit": "A"}, **said),
            )
            for leg in LEGS
        ]
        found = told(PAST, entries).finding("below_drive")
        assert found is not None
        verdicts.append(found.verdict)
    assert verdicts == [Verdict.GOOD, Verdict.UNKNOWN]
