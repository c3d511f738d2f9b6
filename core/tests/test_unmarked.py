"""Leads without marks, walked to their marks: readings of a winding made of coupled halves by plain phasors,
not by the rule that reads them; worked figures of common practice, no source.
"""

from __future__ import annotations

import cmath
import math
from itertools import permutations
from random import Random
from typing import Any

import pytest
from cases import case

from hurbin_core.base import Entered, Limits, Verdict
from hurbin_core.electrical import LEADS
from hurbin_core.electrical.leads.unmarked import LeadTest, Marked, grouped, kind_of, marked
from hurbin_core.logbook import Entry

from test_protection import AT  # isort: skip

TURN = cmath.exp(2j * math.pi / 3)
TAPES = "ABCDEFGHJ"


class Nine:
    """A nine-lead motor whose triple runs on a supply: every half of a phase has the voltage of the field."""

    def __init__(self, kind: str, volts: float, rng: Random) -> None:
        tapes = list(TAPES)
        rng.shuffle(tapes)
        self.tape = {n: tapes[n - 1] for n in range(1, 10)}
        self.volts, self.kind = volts, kind

    def mark(self, tape: str) -> int:
        return next(n for n, t in self.tape.items() if t == tape)

    def groups(self, rng: Random) -> str:
        of = [(1, 4), (2, 5), (3, 6), (7, 8, 9)] if self.kind == "wye" else [(1, 4, 9), (2, 5, 7), (3, 6, 8)]
        told = []
        for g in rng.sample(of, len(of)):
            names = list(g)
            if self.kind == "delta":
                corner, *ends = names
                rng.shuffle(ends)
                names = [corner, *ends]
            else:
                rng.shuffle(names)
            told.append(" ".join(self.tape[n] for n in names))
        return " / ".join(told)

    def potentials(self, run: list[int]) -> dict[int, complex]:
        """Each lead against the middle of its own circuit, with the triple of these leads on the supply."""
        if self.kind == "wye":
            e = {k: self.volts / math.sqrt(3) * TURN**-k for k in range(3)}
            return (
                {7: e[0], 8: e[1], 9: e[2]} | {1 + k: e[k] for k in range(3)} | {4 + k: 0j for k in range(3)}
            )
        return {}

    def read(self, tied: str, to: str, a: str, b: str, run: list[str]) -> float:
        """Volts between two tapes with `tied` and `to` joined."""
        if self.kind == "wye":
            at = self.potentials([])
            m = {t: self.mark(t) for t in (tied, to, a, b)}
            shift = at[m[to]] - at[m[tied]]
            own = {m[tied], self.other(m[tied])}
            v = [at[m[t]] + (shift if m[t] in own else 0) for t in (a, b)]
            return abs(v[0] - v[1])
        return self.read_delta(tied, to, a, b, run)

    @staticmethod
    def other(mark: int) -> int:
        return mark + 3 if mark <= 3 else mark - 3

    def read_delta(self, tied: str, to: str, a: str, b: str, run: list[str]) -> float:
        """Three corners of the delta, each with a half of two phases. The run triple has full volts on both
        halves in series as an open delta: phases run T1-T4, T9-T1 (and what is between T4 and T9 follows).
        """
        # Halves: phase 0: 1-4 and 7-2; phase 1: 2-5 and 8-3; phase 2: 3-6 and 9-1.
        halves = {(1, 4): 0, (7, 2): 0, (2, 5): 1, (8, 3): 1, (3, 6): 2, (9, 1): 2}
        r = [self.mark(t) for t in run]
        own = [h for h in halves if set(h) <= set(r)]
        # The two halves of the run triple stand at equal volts, 120 degrees apart; the supply drives them.
        order = {halves[h]: self.volts * TURN ** -halves[h] for h in own}
        third = next(k for k in range(3) if k not in order)
        order[third] = -sum(order.values())
        at: dict[int, complex] = {}
        for corner in (1, 2, 3):
            at[corner] = 0j
            for (start, end), phase in halves.items():
                if start == corner:
                    at[end] = -order[phase]
                if end == corner:
                    at[start] = order[phase]
        triple = {n: c for c, ns in {1: (1, 4, 9), 2: (2, 5, 7), 3: (3, 6, 8)}.items() for n in ns}
        m = {t: self.mark(t) for t in (tied, to, a, b)}
        shift = dict.fromkeys((1, 2, 3), 0j)
        shift[triple[m[to]]] = at[m[tied]] - at[m[to]]
        v = [at[m[t]] + shift[triple[m[t]]] for t in (a, b)]
        return abs(v[0] - v[1])


def walked(motor: Nine, text: str, volts: float, rng: Random) -> Marked:
    tests: list[LeadTest] = []
    for _ in range(30):
        found = marked(text, 9, tests, volts, Limits())
        assert not found.problems
        if found.asked is None:
            return found
        run = next(g for g in found.groups if len(g) == 3)
        got = []
        for words in found.asked.reads:
            a, b = words.split(" to ")
            true = motor.read(found.asked.tied, found.asked.to, a, b, run)
            got.append({"text": f"{true * rng.gauss(1, 0.01):.1f}", "unit": "V"})
        more = dict(zip(("one", "two"), got, strict=False))
        tests.append(LeadTest.model_validate({"tied": found.asked.tied, "to": found.asked.to, **more}))
    raise AssertionError("it never ends")


def turned(marks: dict[str, int]) -> set[tuple[tuple[str, int], ...]]:
    """The same leads with the phases called in another order: which is first says nothing."""
    out = set()
    for order in permutations((0, 1, 2)):
        out.add(tuple(sorted((t, 3 * ((n - 1) // 3) + 1 + order[(n - 1) % 3]) for t, n in marks.items())))
    return out


@pytest.mark.parametrize("seed", range(24))
def test_a_wye_of_nine_leads_is_marked_from_any_order_of_tapes(seed: int) -> None:
    rng = Random(f"wye/{seed}")
    motor = Nine("wye", 200.0, rng)
    found = walked(motor, motor.groups(rng), 200.0, rng)
    assert found.done
    truth = {t: n for n, t in motor.tape.items()}
    assert tuple(sorted((t, int(m[1:])) for t, m in found.marks.items())) in turned(truth)


@pytest.mark.parametrize("seed", range(24))
def test_a_delta_of_nine_leads_is_marked_from_any_order_of_tapes(seed: int) -> None:
    rng = Random(f"delta/{seed}")
    motor = Nine("delta", 200.0, rng)
    found = walked(motor, motor.groups(rng), 200.0, rng)
    assert found.done
    truth = dict(motor.tape)
    called = {int(m[1:]): t for t, m in found.marks.items()}
    assert len(called) == 9
    # Every half winding joins the same two tapes as in truth, whatever the three corners are called.
    halves = [(1, 4), (7, 2), (2, 5), (8, 3), (3, 6), (9, 1)]
    beside = [(4, 7), (5, 8), (6, 9)]
    for pairs in (halves, beside):
        assert {frozenset((called[a], called[b])) for a, b in pairs} == {
            frozenset((truth[a], truth[b])) for a, b in pairs
        }


def test_worked_figures_of_both_windings() -> None:
    """200 V: equal and high 305.5, equal and low 115.5; corner to corner 400 against 346 or 200."""
    rng = Random(1)
    wye = Nine("wye", 200.0, rng)
    t = wye.tape
    assert wye.read(t[4], t[7], t[1], t[8], []) == pytest.approx(305.5, abs=0.1)
    assert wye.read(t[4], t[7], t[1], t[9], []) == pytest.approx(305.5, abs=0.1)
    assert wye.read(t[1], t[7], t[4], t[8], []) == pytest.approx(115.5, abs=0.1)
    delta = Nine("delta", 200.0, rng)
    t = delta.tape
    run = [t[1], t[4], t[9]]
    far = {n: delta.read(t[4], t[n], t[2] if n in (5, 7) else t[3], t[1], run) for n in (5, 6, 7, 8)}
    assert far[7] == pytest.approx(400, abs=0.1)
    assert all(v < 350 for n, v in far.items() if n != 7), far


@pytest.mark.parametrize("flips", [(a, b, c) for a in (1, -1) for b in (1, -1) for c in (1, -1)])
def test_six_leads_by_the_kick_of_a_battery(flips: tuple[int, int, int]) -> None:
    """A battery on one winding drives the two others alike, where they are named the same end."""
    text, tests = "A B / C D / E F", []
    pairs = [("A", "B"), ("C", "D"), ("E", "F")]
    for _ in range(3):
        found = marked(text, 6, tests, None, Limits())
        if found.asked is None:
            break
        on = next(k for k, p in enumerate(pairs) if p[0] == found.asked.tied)
        kicks = [-0.5 * flips[on] * flips[k] for k in range(3) if k != on]
        said = "alike" if kicks[0] * kicks[1] > 0 else "opposite"
        tests.append(LeadTest(tied=found.asked.tied, to=found.asked.to, kicks=said))
    assert found.done
    ends = [found.marks[p[0]] in ("T1", "T2", "T3") for p in pairs]
    right = [f == flips[0] for f in flips]
    assert ends in (right, [not x for x in right])


@pytest.mark.parametrize(
    ("text", "leads", "says"),
    [
        ("A B / A C", 6, "two groups"),
        ("A B C D E F G H J K", 9, "10 tapes on 9 leads"),
    ],
)
def test_groups_that_cannot_be_are_named(text: str, leads: int, says: str) -> None:
    assert says in grouped(text, leads)[1][0].message


@pytest.mark.parametrize(
    ("text", "leads", "template"),
    [
        ("A B / C D", 6, "leads.unmarked_missing"),
        ("A B C D / E F", 6, "leads.unmarked_odd"),
        ("A B C / D E F", 6, "leads.unmarked_part_winding"),
        ("A B C D E F", 6, "leads.unmarked_two_speed"),
        ("A B / C D / E F / G H / J K / L M", 12, "leads.unmarked_twelve"),
        ("A B / C D / E F / G H J", 9, "leads.unmarked_volts"),
    ],
)
def test_what_is_no_winding_to_be_tested_here_says_why(text: str, leads: int, template: str) -> None:
    found = marked(text, leads, [], None, Limits())
    assert found.says is not None
    assert found.says.template == template
    assert not found.done


def test_readings_that_fit_no_end_end_in_no_marks() -> None:
    text = "A B / C D / E F / G H J"
    none = [LeadTest(tied="A", to=t, one=Entered(text="300"), two=Entered(text="120")) for t in "GHJ"]
    found = marked(text, 9, none, 200.0, Limits())
    assert not found.done
    assert found.says is not None
    assert found.says.template == "leads.unmarked_none"
    assert kind_of(found.groups) == "wye9"


def test_on_the_bench_marks_are_good_only_when_all_are_found() -> None:
    def told(**body: Any) -> Any:
        entry = Entry(uuid="00000001", taken_at=AT, body=LEADS.entry.model_validate(body))
        return LEADS.evaluate(case(as_of=AT), [entry])

    begun = told(leads="6", groups="A B / C D / E F")
    assert begun.finding("lead_marks").verdict is Verdict.UNKNOWN
    assert begun.view.unmarked.asked.kicks
    tests = [{"tied": a, "to": b, "kicks": "alike"} for a, b in (("A", "B"), ("C", "D"))]
    ended = told(leads="6", groups="A B / C D / E F", tests=tests)
    assert ended.finding("lead_marks").verdict is Verdict.GOOD
    assert ended.view.unmarked.marks == {"A": "T1", "B": "T4", "C": "T2", "D": "T5", "E": "T3", "F": "T6"}


@pytest.mark.parametrize("volts", ["0", "900"])
def test_a_dead_supply_or_a_wrong_range_marks_nothing(volts: str) -> None:
    """Two readings alike are no pair where neither figure that belongs there is near."""
    wye = [LeadTest(tied="A", to="G", one=Entered(text=volts), two=Entered(text=volts))]
    found = marked("A B / C D / E F / G H J", 9, wye, 200.0, Limits())
    assert found.asked is None
    assert not found.done
    tests = [LeadTest(tied=t, to=e, one=Entered(text=volts)) for t in "BC" for e in "EFHJ"]
    assert not marked("A B C / D E F / G H J", 9, tests, 200.0, Limits()).done
