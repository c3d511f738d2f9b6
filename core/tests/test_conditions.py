"""The state a figure was read in: its key, its words, and what differs from another."""

from __future__ import annotations

from typing import get_args

import pytest
from pydantic import ValidationError

from hurbin_core.alignment.entry import PassRead
from hurbin_core.alignment.vibration import VibrationEntry
from hurbin_core.electrical.entry import RunningCheckEntry
from hurbin_core.electrical.insulation.entry import TestSetup as InsulationSetup
from hurbin_core.logbook import Conditions

KEYS = [
    "",
    "at=motor_leads;coupled=yes;hz=line;valve=open",
    "at=starter;coupled=yes;hz=50;valve=throttled 3/8",
    "at=motor;links=in;phases=together;volts=500",
]


@pytest.mark.parametrize("key", KEYS)
def test_a_key_read_and_written_again_is_the_same(key: str) -> None:
    assert Conditions.parse(key).key == key


def test_the_order_in_which_it_was_said_makes_no_other_state() -> None:
    one = Conditions.of(valve=("throttled", "3/8"), at="starter")
    two = Conditions.of(at="starter", valve=("throttled", "3/8"))
    assert one == two == Conditions.parse("valve=throttled 3/8;at=starter")
    assert len({one, two}) == 1


def test_what_was_not_said_is_no_part_of_it() -> None:
    said = Conditions.of(at="starter", valve=None, hz="")
    assert (said.key, said.get("valve"), said.get("at")) == ("at=starter", "", "starter")


def test_nobody_changes_a_state_once_it_is_made() -> None:
    said = Conditions.of(at="starter")
    with pytest.raises(ValidationError):
        said.said = ()
    with pytest.raises(ValidationError):
        said.said[0].value = "motor_leads"
    assert said.but(at="motor_leads").key == "at=motor_leads"
    assert said.key == "at=starter"


@pytest.mark.parametrize(
    ("a", "b", "names"),
    [
        ("at=starter;valve=open", "at=starter;valve=open", []),
        ("at=starter;valve=open", "at=motor_leads;valve=open", ["at"]),
        ("valve=throttled 3/8", "valve=throttled 4/8", ["valve"]),
        ("at=starter", "valve=open", []),  # each says something of which the other is silent
        ("at=starter;hz=50;valve=open", "at=motor_leads;hz=40;valve=shut", ["at", "hz", "valve"]),
    ],
)
def test_they_differ_where_both_speak_and_not_the_same(a: str, b: str, names: list[str]) -> None:
    one, two = Conditions.parse(a), Conditions.parse(b)
    assert one.differs(two) == two.differs(one) == names


def test_the_words_are_of_what_is_unlike_the_other() -> None:
    now, before = Conditions.parse(KEYS[2]), Conditions.parse(KEYS[1])
    told = now.unlike(before)
    assert "3/8" in told
    assert "50 Hz" in told.replace("\u00a0", " ")
    assert now.unlike(now) == ""
    assert "coupled" not in told


def test_words_of_a_value_nobody_wrote_a_sentence_for_are_its_key() -> None:
    assert Conditions.parse("phase_of_moon=full").words == "phase_of_moon=full"


CHOSEN = [
    (name, field.annotation)
    for model, named in (
        (PassRead, {"taken": "taken", "method": "method", "temperature": "temperature"}),
        (VibrationEntry, {"when": "when"}),
        (RunningCheckEntry, {"read_at": "at", "valve": "valve"}),
        (InsulationSetup, {"test_point": "at", "links": "links", "phases": "phases"}),
    )
    for field_name, name in named.items()
    for field in [model.model_fields[field_name]]
]


def test_whatever_can_be_chosen_has_words() -> None:
    """No key is ever said to a person: “taken=as_found”."""
    values = [(n, v) for n, t in CHOSEN for a in (t, *get_args(t)) for v in get_args(a) if isinstance(v, str)]
    assert len(values) > 20
    assert [v for v in values if "=" in Conditions.of(**{v[0]: v[1]}).words] == []
