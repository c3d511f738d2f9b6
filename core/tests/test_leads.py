"""Leads joined in any way: each half winding's volts and angle against a general circuit solver and against
what is known of wrong lists; every mistake found, every right list accepted, the shortest way back named.
"""

from __future__ import annotations

import cmath
import math
from itertools import combinations, permutations
from pathlib import Path
from random import Random
from typing import Any

import numpy as np
import pytest
from cases import case
from spice import answers

from hurbin_core.base import Entered, Evaluation, Verdict, write
from hurbin_core.electrical.circuit.machine import MOTOR
from hurbin_core.electrical.leads import LEADS, WINDINGS, Winding, driven, fit_of, half_of, parsed, repairs
from hurbin_core.logbook import Entry
from hurbin_core.plant import MotorPlate

from test_circuit_walk import AT  # isort: skip

LISTS = [(w, x) for w in WINDINGS.values() for x in w.list_]
Box = list[frozenset[str]]


def box(text: str) -> Box:
    return [frozenset(n.replace("T", "").split()) for n in text.split("/")]


def moved(start: Box, lead: str, to: int | None) -> Box:
    """One lead in another nut, or in none."""
    out = [n - {lead} for n in start]
    if to is None:
        return [*[n for n in out if n], frozenset({lead})]
    return [n for n in (n | {lead} if i == to else n for i, n in enumerate(out)) if n]


def swapped(start: Box, a: str, b: str) -> Box:
    return [frozenset({a: b, b: a}.get(x, x) for x in n) for n in start]


def mistakes(start: Box, names: list[str]) -> list[Box]:
    """Every lead in every other nut or in none, and every two leads of two nuts exchanged."""
    at = {x: i for i, n in enumerate(start) for x in n}
    out = [moved(start, x, to) for x in names for to in (*range(len(start)), None) if to != at[x]]
    return [*out, *(swapped(start, a, b) for a, b in combinations(names, 2) if at[a] != at[b])]


def is_right(winding: Winding, of: Box, right: Box) -> bool:
    """Is it this list with its lines in another order, or halves of a phase exchanged? By the nuts alone."""
    for order in permutations(("L1", "L2", "L3")):
        lines = dict(zip(("L1", "L2", "L3"), order, strict=True))
        turned = {frozenset(lines.get(x, x) for x in n) for n in of}
        if turned == set(right) or (winding.leads == 12 and halves_exchanged(turned, set(right))):
            return True
    return False


def halves_exchanged(one: set[frozenset[str]], two: set[frozenset[str]]) -> bool:
    """Twelve leads: 1-4 and 7-10 are alike, and so on; which of them is first says nothing."""
    pairs = [{str(k): str(k + 6), str(k + 3): str(k + 9)} for k in (1, 2, 3)]
    for which in range(8):
        both = {
            a: b
            for i, p in enumerate(pairs)
            if which >> i & 1
            for x, y in p.items()
            for a, b in ((x, y), (y, x))
        }
        if {frozenset(both.get(x, x) for x in n) for n in one} == two:
            return True
    return False


# ---- what is known of wrong lists: halves in percent, amps by line and torque in percent of the right list

KNOWN = [
    ("wye9", "low", "L1 7/L2 1 2 8/L3 3 9/4 5 6", (58, 58, 115), (74, 126, 104), 50),
    ("wye9", "low", "L1 7/1/L2 2 8/L3 3 9/4 5 6", (32, None, None), (66, 93, 92), 66),
    ("wye9", "low", "L1 1 7/L2 2 4 8/L3 3 9/5 6", (173, None, None), (97, 150, 189), 109),
    ("wye9", "low", "L1 2 7/L2 1 8/L3 3 9/4 5 6", (100, 100, 100), (173, 178, 100), 0),
    ("wye9", "low", "L1 4 7/L2 2 8/L3 3 9/1 5 6", (86, 108, 107), (123, 128, 181), 42),
    # T4 and T7 exchanged: a short within, one phase dead.
    ("wye9", "low", "L1 1 4/L2 2 8/L3 3 9/7 5 6", (0, None, None), (0, 87, 87), 0),
    ("wye9", "high", "L1 1/L2 2/L3 3/4/7/5 8/6 9", (None, None, None), (0, 87, 87), 0),
    ("wye9", "high", "L1 1/L2 2/L3 3/5 7/4 8/6 9", (100, 100, 100), (100, 173, 178), 0),
    ("wye9", "high", "L1 8/L2 2/L3 3/4 7/5 1/6 9", (None, None, None), (123, 124, 196), -85),
]


@pytest.mark.parametrize(("kind", "which", "text", "halves", "amps", "torque"), KNOWN)
def test_wrong_lists_do_what_they_are_known_for(
    kind: str, which: str, text: str, halves: tuple[Any, ...], amps: tuple[int, ...], torque: int
) -> None:
    w = WINDINGS[kind]
    right = next(x for x in w.list_ if x.id == which)
    got, due = driven(w, box(text)), driven(w, right.box)
    size = abs(due.volts[0])
    for v, percent in zip(got.volts, halves, strict=False):
        assert percent is None or 100 * abs(v) / size == pytest.approx(percent, abs=1)
    # What the joints fix is exact; what one motor makes of it differs from another's by a tenth.
    found = sorted(100 * abs(i) / abs(due.lines[0]) for i in got.lines)
    assert found == pytest.approx(sorted(amps), abs=2, rel=0.05)
    assert 100 * got.torque / due.torque == pytest.approx(torque, abs=2, rel=0.05)
    assert fit_of(w, got) is None


WHOLE = [
    ("wye9", "high", "low", 50, 25),
    ("wye9", "low", "high", 200, 400),
    ("six", "star", "low", 58, 33),
    ("six", "delta", "high", 173, 300),
]


@pytest.mark.parametrize(("kind", "joined", "belongs", "halves", "amps"), WHOLE)
def test_a_whole_list_for_the_other_voltage(
    kind: str, joined: str, belongs: str, halves: int, amps: int
) -> None:
    w = WINDINGS[kind]
    due = driven(w, w.right(belongs).box)  # type: ignore[arg-type, union-attr]
    got = driven(w, next(x for x in w.list_ if x.id == joined).box)
    assert 100 * abs(got.volts[0] / due.volts[0]) == pytest.approx(halves, abs=0.6)
    assert 100 * abs(got.lines[0] / due.lines[0]) == pytest.approx(amps, abs=1)


# ---- every list, every mistake


@pytest.mark.parametrize(("winding", "right"), LISTS, ids=lambda x: getattr(x, "id", ""))
def test_every_right_list_is_accepted_and_every_single_mistake_is_caught(
    winding: Winding, right: Any
) -> None:
    turns = []
    for order in permutations(("L1", "L2", "L3")):
        lines = dict(zip(("L1", "L2", "L3"), order, strict=True))
        fit = fit_of(winding, driven(winding, [frozenset(lines.get(x, x) for x in n) for n in right.box]))
        assert fit is not None
        turns.append(fit.turns)
    assert (turns.count(1), turns.count(-1)) == (3, 3)
    for wrong in mistakes(right.box, winding.names):
        fit = fit_of(winding, driven(winding, wrong))
        assert (fit is not None) is is_right(winding, wrong, right.box), wrong


def other_ends(joined: Box, leads: int) -> Box:
    """Six or twelve leads from their other ends: where both ends of a phase come out none is the first."""
    return [frozenset(_other(x, leads) if x.isdigit() else x for x in n) for n in joined]


def _other(lead: str, leads: int) -> str:
    """The lead at the other end of its phase, or of the joint within it."""
    n = int(lead)
    if leads == 6:
        return str(n + 3 if n <= 3 else n - 3)
    return str(n + 9 if n <= 3 else n - 9 if n > 9 else n + 3 if n <= 6 else n - 3)


@pytest.mark.parametrize(("winding", "right"), LISTS, ids=lambda x: getattr(x, "id", ""))
def test_of_all_two_mistakes_at_once_none_passes_that_is_no_right_list(winding: Winding, right: Any) -> None:
    """Every second mistake after every first, each box once: 31,459 of them over all lists."""
    every = {
        frozenset(two): two
        for one in mistakes(right.box, winding.names)
        for two in mistakes(one, winding.names)
    }
    for wrong in every.values():
        fit = fit_of(winding, driven(winding, wrong))
        if fit is None:
            continue
        fine = [x.box for x in winding.list_ if abs((half_of(winding, x.use) or 0) - fit.half) < 1e-6]
        both = winding.leads in (6, 12)
        ways = [wrong, other_ends(wrong, winding.leads)] if both else [wrong]
        assert any(is_right(winding, w, b) for w in ways for b in fine), wrong


def test_the_shortest_way_back_is_named_and_leads_back() -> None:
    rng = Random(16)
    for _ in range(150):
        winding, right = rng.choice(LISTS)
        wrong = rng.choice(mistakes(right.box, winding.names))
        if fit_of(winding, driven(winding, wrong)) is not None:
            continue
        ways = repairs(winding, right.use, wrong)
        assert 1 <= min(len(r.moves) for r in ways) <= 2
        for r in ways:
            mended = wrong
            for m in r.moves:
                mended = [n - {m.lead} for n in mended]
                near = max(mended, key=lambda n: len(n & m.to))
                mended = [n | {m.lead} if n is near else n for n in mended]
            assert fit_of(winding, driven(winding, [n for n in mended if n])) is not None, (
                winding.id,
                wrong,
                r,
            )
    both = repairs(WINDINGS["wye9"], "low", box("L1 2 7/L2 1 8/L3 3 9/4 5 6"))
    assert [{m.lead for m in r.moves} for r in both] == [{"1", "2"}, {"7", "8"}]


# ---- a general circuit solver


def netlist(n: int, winding: Winding, joined: Box) -> list[str]:
    """One motor as the solver reads it: nuts are ten microohm, halves couple by their own admittances."""
    halves = len(winding.coils) // 3
    rotor, iron = MOTOR.rotor_r + 1j * MOTOR.rotor_x, 1j * MOTOR.magnetising_x
    field = 1 / (1 / rotor + 1 / iron) / halves**2
    own = (MOTOR.stator_r + 1j * MOTOR.stator_x) / halves
    angle = np.array([2 * math.pi / 3 * p for *_, p in winding.coils])
    turn = np.exp(1j * (angle[:, None] - angle[None, :]))
    y = np.linalg.inv(np.eye(len(angle)) * own + field * (turn + turn.conj()) / 3)
    out = []
    for k, line in enumerate(("L1", "L2", "L3")):
        out.append(f"V{n}{line} n{n}_{line} 0 AC {1000 / math.sqrt(3)} {-120 * k}")
    for i, nut in enumerate(joined):
        out += [f"R{n}j{i}_{x} n{n}_nut{i} n{n}_{x} 1e-5" for x in sorted(nut)]
    for j, (a, b, _) in enumerate(winding.coils):
        out += [f"G{n}q{j} 0 n{n}_q{j} n{n}_{a} n{n}_{b} 1", f"L{n}q{j} n{n}_q{j} 0 {1 / (2 * math.pi * 50)}"]
    for i, (a, b, _) in enumerate(winding.coils):
        for j, (c, d, _) in enumerate(winding.coils):
            out.append(f"G{n}a{i}_{j} n{n}_{a} n{n}_{b} n{n}_{c} n{n}_{d} {y[i, j].real}")
            out.append(f"G{n}b{i}_{j} n{n}_{a} n{n}_{b} n{n}_q{j} 0 {y[i, j].imag}")
    return out


@pytest.mark.parametrize(("winding", "right"), LISTS, ids=lambda x: getattr(x, "id", ""))
def test_every_half_of_every_list_and_of_every_mistake_against_a_general_solver(
    winding: Winding, right: Any, tmp_path: Path
) -> None:
    """Volts and angle of every half that is not left open: the right list, each lead in each other nut or in
    none, each two leads exchanged.
    """
    tried = [right.box, *mistakes(right.box, winding.names)]
    for first in range(0, len(tried), 40):
        lines, asked, words = [".options rshunt=1e12"], [], []
        for n, joined in enumerate(tried[first : first + 40]):
            got = driven(winding, joined)
            lines += netlist(n, winding, joined)
            for k, (a, b, _) in enumerate(winding.coils):
                if k not in got.open_ or k in got.shorted:
                    asked.append((joined, k, got.volts[k]))
                    words += [f"vr(n{n}_{a},n{n}_{b})", f"vi(n{n}_{a},n{n}_{b})"]
        found = answers(lines, words, tmp_path)
        for (joined, k, ours), re_, im in zip(asked, found[::2], found[1::2], strict=True):
            assert abs(ours - complex(re_, im) / 1000) < 0.003, (joined, k, cmath.polar(ours), re_, im)


# ---- what is said

PLATE = MotorPlate.model_validate(
    {
        "connection": "low",
        "volts_low": {"text": "230", "unit": "V"},
        "volts_high": {"text": "460", "unit": "V"},
    }
)
SIX = PLATE.model_copy(update={"volts_high": Entered(text="400", unit="V")})
LOW = "L1 T1 T7 / L2 T2 T8 / L3 T3 T9 / T4 T5 T6"


def looked(plate: MotorPlate | None = PLATE, **body: Any) -> Evaluation[Any]:
    said = {"leads": "9", "winding": "wye", "traced": True, "supply": {"text": "231", "unit": "V"}, **body}
    entry = Entry[LEADS.entry](uuid="entry-0001", taken_at=AT, body=said)  # type: ignore[name-defined]
    return LEADS.evaluate(case(AT, kind="base_mounted", motor=plate), [entry])


def test_good_stands_on_the_supply_the_plate_and_each_lead_followed() -> None:
    assert looked(box=LOW).verdict is Verdict.GOOD
    for lacking in ({"supply": None}, {"traced": None}, {"plate": None}):
        assert looked(**{"box": LOW, **lacking}).verdict is Verdict.UNKNOWN, lacking
    single = MotorPlate.model_validate({"volts_low": {"text": "460", "unit": "V"}})
    assert looked(single, box=LOW).verdict is Verdict.UNKNOWN, (
        "for which list a single voltage is nobody said"
    )
    told = looked(single, box=LOW, plate_for="high")
    assert told.verdict is Verdict.GOOD, "made for 460 in series: 231 in parallel is right"


def test_in_any_order_case_and_mark_a_list_is_the_same_list() -> None:
    same = "t9 3 L3;T5 T4 T6\nl2 T8 2; T7,T1,L1"
    assert looked(box=same).view.nuts == looked(box=LOW).view.nuts
    assert looked(box=same).verdict is Verdict.GOOD
    iec = looked(leads="6", winding=None, plate=SIX, box="L1 U1 W2/L2 V1 U2/L3 W1 V2")
    assert iec.verdict is Verdict.GOOD
    assert iec.view.nuts[0].leads == ["U1", "W2"]


def test_two_crossed_lines_keep_every_magnitude_and_are_a_stop_with_both_ways_back() -> None:
    e = looked(box="L1 T2 T7 / L2 T1 T8 / L3 T3 T9 / T4 T5 T6")
    assert (e.verdict, {round(h.percent.value) for h in e.view.halves}) == (Verdict.STOP, {100})
    assert "wrong angle" in write(e.findings[0].reason)
    assert [write(m) for m in e.view.moves] == ["Exchange T1 and T2.", "Exchange T7 and T8."]


def test_both_ends_of_a_half_in_one_nut_are_a_short_though_a_meter_reads_zero() -> None:
    e = looked(box="L1 T1 T4 T7 / L2 T2 T8 / L3 T3 T9 / T5 T6")
    assert "short-circuited" in write(e.findings[0].reason)
    (half,) = [h for h in e.view.halves if h.state == "shorted"]
    assert (half.name, half.percent.value) == ("T1-T4", 0.0)


@pytest.mark.parametrize(
    ("body", "verdict", "says"),
    [
        ({"box": LOW, "supply": {"text": "462", "unit": "V"}}, "stop", "it burns"),
        ({"box": "L1 T1/L2 T2/L3 T3/T4 T7/T5 T8/T6 T9"}, "stop", "stalls and overheats"),
        ({"box": LOW, "supply": {"text": "575", "unit": "V"}}, "stop", "neither of the nameplate"),
        ({"box": LOW, "winding": None}, "unknown", "Right only for a wye winding"),
        ({"box": LOW, "winding": None, "continuity": "pairs_and_triple"}, "good", "low voltage, wye"),
        ({"box": LOW, "continuity": "triples"}, "unknown", "different windings"),
        ({"box": LOW, "winding": "delta"}, "stop", "same voltage at the angles"),
        ({"box": LOW.replace("/ T4 T5 T6", "/ T4 T5 / T6")}, "stop", "T3-T6 carries no current"),
        ({"box": "L1 L2 T1 T7 / T2 T8 / L3 T3 T9 / T4 T5 T6"}, "stop", "short circuit on the supply"),
        (
            {"box": LOW.replace("L1", "Q").replace("L2", "L1").replace("Q", "L2")},
            "good",
            "Direction is proved",
        ),
        ({"box": LOW, "plate_box": "L1 T1 T7 / L2 T2 T8 / L3 T3 T9 / T4 T5 / T6"}, "stop", "own diagram"),
        ({"box": "L1 T1 T7 / L2 T2 T8 / L3 T3 T9 / T4 T5"}, "unknown", "In no nut yet: T6"),
    ],
)
def test_each_box_has_its_own_answer(body: dict[str, Any], verdict: str, says: str) -> None:
    e = looked(**body)
    (found,) = e.findings
    assert e.verdict.value == verdict
    assert says in " ".join([write(found.reason), *(write(n) for n in found.notes)]).replace("\u00a0", " ")


def test_the_plates_own_diagram_wins_over_the_usual_lists() -> None:
    """A winding that is led out otherwise than the usual one."""
    odd = "L1 T1 T8 / L2 T2 T9 / L3 T3 T7 / T4 T5 T6"
    assert looked(box=odd).verdict is Verdict.STOP
    turned = odd.replace("L1", "L9").replace("L2", "L1").replace("L9", "L2")
    own = looked(box=turned, plate_box=odd, plate_for="low")
    assert own.verdict is Verdict.GOOD
    for which, volts, verdict in (
        ("high", "231", "unknown"),
        (None, "231", "unknown"),
        ("low", "350", "stop"),
    ):
        told = looked(box=odd, plate_box=odd, plate_for=which, supply={"text": volts, "unit": "V"})
        assert told.verdict.value == verdict, "its diagram is for one voltage, and this is another"
    assert "nameplate counts" in write(own.findings[0].reason)


def test_what_is_no_lead_or_named_twice_is_named_at_the_box() -> None:
    e = looked(box="L1 T1 T7 T1 / L2 T2 T13 / L3 T3 T9 / T4 T5 T6")
    assert [(p.field, p.value) for p in e.problems] == [("box", "T1"), ("box", "T13")]
    assert e.verdict is Verdict.UNKNOWN
    hostile = parsed("L1 " + "T9" * 60 + " / ١٢ ² T-1 T1e1 U3", 9, "t", "box")
    assert len(hostile.problems) == 6
    assert looked(
        leads="3", winding=None, box="L1 1/L2 2/L3 3", supply={"text": "0", "unit": "V"}
    ).verdict is not (Verdict.GOOD)


def test_a_plate_of_another_winding_and_a_single_phase_motor_earn_no_good() -> None:
    """Two voltages that belong to no winding of nine leads; a nameplate for one phase."""
    said = {"volts_low": {"text": "230", "unit": "V"}, "volts_high": {"text": "400", "unit": "V"}}
    odd = MotorPlate.model_validate({"connection": "low", **said})
    assert looked(odd, box=LOW).verdict is Verdict.UNKNOWN
    assert looked(odd, leads="6", winding=None, box="L1 1 6/L2 2 4/L3 3 5").verdict is Verdict.GOOD, "400/230"
    single = MotorPlate.model_validate({"phases": 1, **said})
    e = looked(single, box=LOW)
    assert (e.verdict, "three phases" in write(e.findings[0].reason)) == (Verdict.UNKNOWN, True)
