"""A shaft turned by hand: what tells motor from pump from gap, and when a start waits for it."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from itertools import product
from typing import Any

import pytest
from cases import case

from hurbin_core.base import Limits, Override, Verdict
from hurbin_core.electrical.shaft import SHAFT, ShaftEntry
from hurbin_core.logbook import Entry
from hurbin_core.safety import Isolation, SafetyFacts, ask, stood_too_long

AT = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
FEELS = ("even", "heavy", "rough", "locked")


def told(**body: Any) -> Any:
    entry = Entry(uuid="entry00001", taken_at=AT, body=ShaftEntry.model_validate(body))
    return SHAFT.evaluate(case(AT + timedelta(hours=1), kind="base_mounted"), [entry])


# Which half, and what lies between: common practice, no source.
@pytest.mark.parametrize(
    ("coupled", "motor", "pump", "binds"),
    [
        ("locked", "even", "even", "coupling"),
        ("heavy", "even", "heavy", "pump"),
        ("rough", "rough", "even", "motor"),
        ("locked", "heavy", "locked", "both"),
        ("even", "even", "even", ""),
    ],
)
def test_turned_by_halves_it_says_where_it_binds(coupled: str, motor: str, pump: str, binds: str) -> None:
    e = told(coupled=coupled, motor_half=motor, pump_half=pump, turns={"text": "1", "unit": "turns"})
    assert e.view.binds == binds


def test_nothing_but_an_even_full_turn_of_everything_that_was_tried_is_good() -> None:
    for coupled, motor, pump, turns in product(FEELS, FEELS, FEELS, ("", "0.5", "1")):
        typed = {"turns": {"text": turns, "unit": "turns"}} if turns else {}
        e = told(coupled=coupled, motor_half=motor, pump_half=pump, **typed)
        good = {coupled, motor, pump} == {"even"} and turns == "1"
        assert (e.verdict is Verdict.GOOD) is good
        if "locked" in (coupled, motor, pump):
            assert e.verdict is Verdict.STOP


@pytest.mark.parametrize(
    ("ran", "turned", "waits"),
    [
        (57, None, True),
        (56, None, False),
        (200, 55, False),
        (200, 57, True),
        (200, 210, True),
        (None, None, False),
    ],
)
def test_after_standing_a_start_waits_for_a_turn_by_hand(
    ran: int | None, turned: int | None, waits: bool
) -> None:
    ran_at, turned_at = (AT - timedelta(days=n) if n is not None else None for n in (ran, turned))
    stood = stood_too_long(ran_at, turned_at, AT, Limits())
    assert stood is waits
    facts = SafetyFacts(isolation=Isolation(state="nothing"), stood_too_long=stood, as_of=AT)
    for act in ("run", "energise"):
        shut = [s.gate for s in ask(act, facts).shut]  # type: ignore[arg-type]
        assert ("turned_by_hand" in shut) is waits
    assert "turned_by_hand" not in [s.gate for s in ask("live_test", facts).shut]


def test_a_site_says_how_long_a_shaft_may_stand() -> None:
    over = Override(limit="safety.idle", value=14.0, unit="d", reason="scale", by="a lead", at=AT)
    assert stood_too_long(AT - timedelta(days=20), None, AT, Limits([over]))
    assert not stood_too_long(AT - timedelta(days=20), None, AT, Limits())
