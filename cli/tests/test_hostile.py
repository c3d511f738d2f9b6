"""The fuzzer's dictionary: what is in it, and that it changes one place and nothing else."""

from __future__ import annotations

import json
from typing import Any

import pytest

from cli import fuzz_hostile as hostile

BODY = {"set_id": 3, "entries": [{"uuid": "a", "body": {"amps": {"text": "9", "unit": "A"}}}], "seen": None}


FOUND_ONCE = [
    "9" * 5000,
    "NaN",
    "0001-01-01T00:00:00+14:00",
    "2026-05-04T10:00:00",
    "T" * 60,
    "x" * 300,
    "a\rb",
    "a\x00b",
]


@pytest.mark.parametrize("needle", FOUND_ONCE)
def test_what_was_found_once_is_in_it(needle: str) -> None:
    assert needle in hostile.HOSTILE


def test_every_value_can_be_sent() -> None:
    """One that cannot even be written as JSON tries the fuzzer and not the application."""
    for value in hostile.HOSTILE:
        assert json.dumps(value).encode()


def test_every_place_of_a_body_is_found_once() -> None:
    places = hostile._places(BODY)
    assert len(places) == len(set(places)) == 10
    assert () in places
    assert ("entries", 0, "body", "amps", "text") in places


def test_one_place_is_changed_and_what_was_made_stays_as_it_was() -> None:
    before = json.dumps(BODY)
    for place in hostile._places(BODY):
        made = hostile._put(BODY, place, "hostile")
        assert json.dumps(BODY) == before
        spot: Any = made
        for key in place:
            spot = spot[key]
        assert spot == "hostile"


def test_an_entry_comes_twice_now_and_then_as_another() -> None:
    made = [hostile._twice(BODY)["entries"] for _ in range(40)]
    assert {len(x) for x in made} == {2}
    assert {x[0] == x[1] for x in made} == {True, False}
    assert all(x[0]["uuid"] == x[1]["uuid"] for x in made)
