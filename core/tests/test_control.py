"""A control ladder: what is open is named and never anything else; an interlock by its process value."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from random import Random
from typing import Any

import pytest
from cases import case
from hypothesis import given, strategies as st

from hurbin_core.base import TemporaryChange, Verdict
from hurbin_core.electrical.circuit import circuit_of
from hurbin_core.electrical.control import CONTROL_BENCH, ControlEntry
from hurbin_core.electrical.control.formulas import far_coil_share, held_ma
from hurbin_core.electrical.control.parts import usual_control
from hurbin_core.logbook import Entry
from hurbin_core.simulator import Chain

AT = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
USUAL = usual_control()
NAMES = [e.id for e in USUAL.elements]
SAID = {"selector": "auto", "called": True, "proved": True}


def told(spots: list[dict[str, Any]], control: Any = USUAL, **body: Any) -> Any:
    made = circuit_of("direct", 400.0).model_dump() | {"control": control.model_dump()}
    entry = ControlEntry.model_validate({**SAID, **body, "spots": spots})
    found = case(AT + timedelta(hours=1), kind="base_mounted", circuit={"circuit": made, "version": 1})
    return CONTROL_BENCH.evaluate(found, [Entry(uuid="entry00001", taken_at=AT, body=entry)])


def read(chain: Chain, at: str, rng: Random) -> dict[str, Any]:
    return {"at": at, "volts": {"text": chain.to_common(at, rng)}}


@given(st.sampled_from(NAMES[:-1]), st.floats(100, 118), st.integers(0, 999))
def test_led_by_its_probe_the_open_one_is_named_and_nothing_else(gone: str, volts: float, seed: int) -> None:
    """On a row of contacts that is not ours; some four readings, and never more than half of its places."""
    rng, chain = Random(seed), Chain(volts, NAMES, open_at=frozenset({gone}))
    spots: list[dict[str, Any]] = []
    e = told(spots, pulled="out")
    while e.view.next:
        assert e.finding("control_open") is None or e.finding("control_open").verdict is Verdict.UNKNOWN
        spots.append(read(chain, e.view.next, rng))
        e = told(spots, pulled="out")
        assert len(spots) <= 6
    assert [x.id for x in e.view.elements if x.named] == [gone]


@given(
    st.sampled_from(NAMES[:-1]),
    st.lists(st.sampled_from(["source", *NAMES]), unique=True),
    st.integers(0, 99),
)
def test_what_is_true_is_never_ruled_out_and_nothing_open_is_called_good(
    gone: str, places: list[str], seed: int
) -> None:
    rng, chain = Random(seed), Chain(111.0, NAMES, open_at=frozenset({gone}))
    e = told([read(chain, at, rng) for at in places], pulled="out")
    if places:
        left = {x.id for x in e.view.elements if x.share > 0}
        assert gone in left
        assert e.finding("control_open").verdict is not Verdict.GOOD


@given(st.sampled_from(NAMES[:-1]), st.floats(60, 2000), st.integers(0, 99))
def test_a_bad_contact_under_load_is_never_good(bad: str, ohm: float, seed: int) -> None:
    rng, chain = Random(seed), Chain(111.0, NAMES, tired={bad: ohm})
    spots = [read(chain, at, rng) for at in ("source", "O")]
    spots.append({"at": "K", "across": {"text": chain.across("K", rng)}})
    spots.append({"at": bad, "across": {"text": chain.across(bad, rng)}})
    if bad == "O":
        spots = [spots[0], {**spots[1], **spots[3]}, spots[2]]
    assert told(spots, pulled="in").verdict is not Verdict.GOOD


def test_figures_of_far_coils_and_long_cables() -> None:
    assert 24 * far_coil_share(24, 70, 95, 1.5) == pytest.approx(18.8, abs=0.05)
    assert 110 * far_coil_share(110, 70, 95, 1.5) == pytest.approx(109, abs=0.6)
    assert held_ma(230, 50, 600, 0.3) == pytest.approx(13, abs=0.1)
    assert held_ma(230, 50, 1000, 0.3) == pytest.approx(22, abs=0.4)


@pytest.mark.parametrize("opens", ["above", "below"])
@pytest.mark.parametrize(("value", "is_above"), [(0.5, False), (1.9, True)])
def test_an_interlock_is_right_or_wrong_by_its_process_value(
    opens: str, value: float, is_above: bool
) -> None:
    more = {"set_point": 1.2, "band": 0.1, "opens": opens, "unit": "bar"}
    elements = [e.model_copy(update=more) if e.id == "L" else e for e in USUAL.elements]
    control = USUAL.model_copy(update={"elements": elements})
    rng, chain = Random(1), Chain(111.0, NAMES, open_at=frozenset({"L"}))
    spots = [read(chain, at, rng) for at in ("source", "A", "L")]
    spots[-1]["value"] = {"text": str(value)}
    e = told(spots, control=control, pulled="out")
    right = is_above is (opens == "above")
    template = "control.right_open" if right else "control.wrong_open"
    assert e.finding("control_open").reason.template == template


def test_a_lifted_wire_and_a_jumper_are_temporary_changes_once_on_record() -> None:
    made = {"circuit": circuit_of("direct", 400.0).model_dump(), "version": 1}
    found = case(AT + timedelta(hours=1), kind="base_mounted", circuit=made)
    body = ControlEntry.model_validate({**SAID, "lifted": "terminal 7", "jumper": " 14 to 15 "})
    entries = [Entry(uuid="entry00001", taken_at=AT, body=body)]
    kept = [x for x in CONTROL_BENCH.performs(found, entries, True) if isinstance(x, TemporaryChange)]
    assert [(x.change, x.place) for x in kept] == [("lifted_wire", "terminal 7"), ("jumper", "14 to 15")]
    assert CONTROL_BENCH.performs(found, entries, False) == []
