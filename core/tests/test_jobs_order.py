"""What must be off before what, as it is known of each assembly: the trees that the procedures are held
against.
"""

from __future__ import annotations

import itertools

import pytest

from hurbin_core.jobs.anatomy import TREES, wrong_order

# a, b: a is off before b goes. Common practice, no source; by the parts of our own trees.
ORDERS: dict[str, list[str]] = {
    "inline_spring": ["wires motor_screw motor pump_screw coupler", "clip cradle_motor mounts"],
    "close_coupled": ["drain casing_bolts nut washer wheel head bracket seat"],
    "condensate_return": ["bolts plug wheel head cup slinger"],
    "base_mounted": [
        "guard spacer small_lines bracket_foot casing_nuts unit wheel cover sleeve slinger hub caps shaft"
        " bearings"
    ],
    "vacuum": ["cutter end_plate rotor key casing head back_plate motor"],
    "motor": ["hub cowl fan cap_screws cover_bolts free_cover drive_cover bearings"],
    "flange": ["flange_bolts pump_unit hub"],
}
CHAINS = [(tree, chain.split()) for tree, chains in ORDERS.items() for chain in chains]


@pytest.mark.parametrize(("tree", "chain"), CHAINS, ids=[f"{t}-{c[0]}" for t, c in CHAINS])
def test_each_part_waits_for_the_one_before_it(tree: str, chain: list[str]) -> None:
    for a, b in itertools.pairwise(chain):
        assert a in TREES[tree].before(b), f"{a} is off before {b} goes"


@pytest.mark.parametrize(("tree", "chain"), CHAINS, ids=[f"{t}-{c[0]}" for t, c in CHAINS])
def test_the_other_way_round_is_refused(tree: str, chain: list[str]) -> None:
    whole = TREES[tree]
    order = sorted(whole.by_part, key=lambda p: (len(whole.before(p)), p))
    assert wrong_order(whole, [("all", order, [], [])]) == []
    for a, b in itertools.pairwise(chain):
        swapped = [p for p in order if p != b]
        swapped.insert(swapped.index(a), b)
        assert wrong_order(whole, [("all", swapped, [], [])]), f"{b} before {a} is refused"


@pytest.mark.parametrize("tree", sorted(ORDERS))
def test_it_goes_together_in_the_opposite_order(tree: str) -> None:
    whole = TREES[tree]
    order = sorted(whole.by_part, key=lambda p: (len(whole.before(p)), p))
    apart = ("apart", order, [], [])
    assert wrong_order(whole, [apart, ("together", [], order[::-1], [])]) == []
    assert wrong_order(whole, [apart, ("together", [], order, [])]), "bottom last is no way"
