"""The shim plan held against every way of laying few pieces, a general integer solver, and what a plan must
never do.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

import pytest
from hypothesis import given, settings, strategies as st
from shim_cases import every_way, large_case, small_case, solver_key

from hurbin_core.alignment import (
    Question,
    key_of,
    leaves,
    left_over,
    parse_pack,
    plans,
    shortfall,
    steps_over,
    tenths,
    write_pack,
)
from hurbin_core.base import HurbinError


@pytest.mark.parametrize("seed", range(60))
def test_equal_to_every_way_of_laying_few_pieces(seed: int) -> None:
    q = small_case(seed)
    ways = every_way(q)
    near = [w for w in ways if w[0][0] <= ways[0][0][0] + 25]
    assert [p.order for p in plans(q)] == near


@pytest.mark.parametrize("block", range(10))
def test_equal_to_a_general_integer_solver(block: int) -> None:
    """OR-Tools CP-SAT on the same objective: 200 seeded cases, up to 8 pieces a foot, 14 sizes of 20 in the
    van.
    """
    for seed in range(20 * block, 20 * block + 20):
        q = large_case(seed)
        best = plans(q, 1)[0]
        assert key_of(q, best.packs) == best.key
        assert solver_key(q, best.key) == best.key, seed


@settings(max_examples=40, deadline=None)
@given(st.integers(1000, 9000))
def test_a_plan_lays_only_what_is_there(seed: int) -> None:
    q = large_case(seed)
    found = plans(q)
    there = Counter(x for p in q.packs for x in p) + Counter(q.stock)
    for plan in found:
        assert not Counter(x for p in plan.packs for x in p) - there
        assert max(len(p) for p in plan.packs) <= 5
    assert [p.order for p in found] == sorted(p.order for p in found)


@settings(max_examples=30, deadline=None)
@given(st.integers(1000, 9000))
def test_more_in_the_van_never_makes_it_worse(seed: int) -> None:
    q = large_case(seed)
    more = replace(q, stock={**q.stock, 333: 5})
    assert plans(more, 1)[0].key <= plans(q, 1)[0].key


EASY = Question(
    (2000, 8000, 2000, 8000),
    ((10000,), (10000,), (10000,), (10000,)),
    {500: 8, 1000: 8, 2500: 8, 4000: 8},
    2_000_000,
    5_000_000,
    1_500_000,
    380,
    380,
    500,
)


def test_the_worked_example_in_pieces() -> None:
    """+0.20 and +0.80 mm at feet 200 and 500 mm back (worked example, common practice): all four feet, within
    half the tolerance.
    """
    best = plans(EASY)[0]
    assert steps_over(EASY, best.packs) == 0
    fl, rl, fr, rr = left_over(EASY, best.packs)
    assert abs(leaves(EASY, fl, rl)[0]) <= 380
    assert abs((rl - fl) - (rr - fr)) <= 500
    assert (best.key[0], best.key[2]) == (0, 4)


def test_a_plan_leaves_between_the_diagonals_what_the_site_says_is_a_soft_foot() -> None:
    """Feet that ask for a twist of 0.05 mm: within the usual limit none is made, under 0.02 mm it is."""
    twisted = replace(EASY, wanted=(0, 0, 0, 500), stock={500: 8})
    assert plans(twisted)[0].packs == EASY.packs
    stricter = replace(twisted, rock=200)
    assert steps_over(stricter, EASY.packs) == 2
    fl, rl, fr, rr = left_over(stricter, plans(stricter)[0].packs)
    assert abs((rl - fl) - (rr - fr)) <= 200


def test_nothing_to_do_touches_nothing() -> None:
    best = plans(replace(EASY, wanted=(0, 0, 0, 0)))[0]
    assert best.packs == EASY.packs
    assert best.key == (0, 0, 0, 0, 4)


def test_a_foot_that_needs_less_than_nothing() -> None:
    assert shortfall(replace(EASY, wanted=(-12000, 0, -12000, 0))) == (2000, 0, 2000, 0)
    assert plans(replace(EASY, wanted=(-12000, 0, -12000, 0)), within=0) == []


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"front": 0}, "feet_order"),
        ({"rear": 1_000_000}, "feet_order"),
        ({"diameter": 0}, "diameter_zero"),
        ({"stock": {0: 3}}, "thickness_zero"),
    ],
)
def test_what_is_no_question(change: dict[str, object], code: str) -> None:
    with pytest.raises(HurbinError) as refused:
        plans(replace(EASY, **change))  # type: ignore[arg-type]
    assert refused.value.code == code


@pytest.mark.parametrize(
    ("text", "pack", "unmeasured"),
    [
        ("0.50 + 0.25 mm", (2500, 5000), 0),
        ("0,5+0,25", (2500, 5000), 0),
        ("2 x 0.10 + ? mm", (1000, 1000), 1),
        ("10 + 5 mil", (1270, 2540), 0),
        ("none", (), 0),
        ("0.010 in", (2540,), 0),
        ("3×?", (), 3),
    ],
)
def test_a_pack_as_people_write_it(text: str, pack: tuple[int, ...], unmeasured: int) -> None:
    assert parse_pack(text, "f") == (pack, unmeasured)
    assert parse_pack(write_pack(pack, unmeasured), "f") == (pack, unmeasured)


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("0.5 lb", "unit_unknown"),
        ("thick", "unit_unknown"),
        ("0.0 + 0.5", "thickness_zero"),
        ("500 mm", "too_high"),
        ("30 x 0.1", "pack_too_many"),
    ],
)
def test_what_is_no_pack(text: str, code: str) -> None:
    with pytest.raises(HurbinError) as refused:
        parse_pack(text, "f")
    assert refused.value.code == code
    assert parse_pack("  ", "f") is None
    assert tenths(0.0254) == 254
