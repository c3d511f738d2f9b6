"""Valves of a filling: no step leaves air or a cushion where it must not be."""

import pytest
from pydantic import ValidationError

from hurbin_core.hydraulics.fill.steps import STEPS, VALVES, _Steps, next_step, valves_at

IDS = [s.id for s in STEPS]


def _at(step: str) -> dict[str, str]:
    return {v.id: v.state for v in valves_at(IDS[: IDS.index(step)])}


def test_before_anything_is_noted_no_valve_is_moved() -> None:
    for step in ("mended", "locked", "drawn"):
        assert set(_at(step).values()) == {"found"}
        assert len(_at(step)) == len(VALVES)


def test_a_branch_is_purged_alone_and_the_long_way_round() -> None:
    at = _at("purge")
    assert (at["fill"], at["branch"], at["purge"]) == ("open", "open", "open")
    assert (at["others"], at["between"]) == ("shut", "shut")


def test_in_the_air_test_nothing_leaves_and_no_cushion_counts_as_air() -> None:
    at = _at("air")
    assert {at[v] for v in ("purge", "vent", "vessel")} == {"shut"}
    assert at["fill"] == "open"


def test_a_pump_starts_on_a_loop_that_is_whole_and_shut_to_its_hoses() -> None:
    for step in ("start", "again", "close"):
        at = _at(step)
        assert (at["fill"], at["purge"]) == ("shut", "shut")
        assert {at[v] for v in ("between", "branch", "others", "vessel")} == {"open"}


def test_a_step_passed_over_holds_the_valves_until_it_is_ticked() -> None:
    done = [i for i in IDS if i != "vent"]
    at = next_step(done)
    assert at is not None
    assert at.id == "vent"
    assert {v.id: v.state for v in valves_at(done)} == _at("vent")
    assert {v.id: v.state for v in valves_at(IDS)} == _at("close")


@pytest.mark.parametrize("told", [{"open": ["a"], "shut": ["a"]}, {"open": ["b"]}])
def test_a_valve_told_twice_or_not_drawn_is_refused(told: dict[str, list[str]]) -> None:
    step = {"id": "s", "title": "s", "why": "s", **told}
    with pytest.raises(ValidationError, match="named twice"):
        _Steps.model_validate({"valve": [{"id": "a", "title": "a"}], "step": [step]})
