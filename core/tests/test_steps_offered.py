"""What can be said at a step, and what the hand does next at a source: by the core's word, for one person."""

from __future__ import annotations

from typing import Any

import pytest
from safe_story import CASE, FACTS, LEADS, LIST, Story

from hurbin_core.base import HurbinError
from hurbin_core.safety import STEPS, SetFacts, acts, at_source, make_safe_entry, rail


def _now(s: Story) -> Any:
    return next(x for x in rail(s.fold(), CASE) if x.state == "now")


def test_only_the_step_that_is_next_offers_words() -> None:
    s = Story()
    s.add("open", scope="motor_leads", sources=LIST)
    assert _now(s).id == "tell"
    assert [o.into for o in _now(s).offers] == ["to"]
    assert [x.id for x in rail(s.fold(), CASE) if x.offers or x.opens or x.under] == ["tell"]
    s.add("told", to="the aquarists")
    assert _now(s).id == "stop"


def test_the_rail_can_be_walked_by_what_it_offers_alone() -> None:
    s = Story()
    s.add("open", scope="motor_leads", sources=LIST)
    walked = []
    for _ in range(60):
        step = _now(s)
        walked.append(step.id)
        if step.opens == "proof":
            s.prove()
            continue
        iso = s.fold()
        back = "guard_on" in iso.restored
        at = [o for x in iso.sources if x.must and (o := at_source(x, "ada", back)) is not None]
        # At the last step but one the proof is a running check: left here, in words.
        offer = [o for o in step.offers if o.tone != "warns"][-1] if step.offers else at[0]
        answer = {"unit": offer.unit, "text": "0"} if offer.unit else "said"
        for entry in offer.entries:
            s.add(**{**entry, **({offer.into: answer} if offer.into else {})})
        if step.id == "alarms":
            break
    assert walked[-1] == "alarms"
    assert s.fold().state == "given_back"
    order = [walked.index(x) for x in STEPS if x in walked]
    assert order == sorted(order)


def test_what_is_as_found_cannot_be_said_while_a_source_is_shut() -> None:
    s = Story()
    s.add("open", scope="motor_leads", sources=LIST)
    for name in LEADS:
        s.add("shut", source=name)
    s.add("restored", item="guard_on")
    s.add("restored", item="people_clear")
    step = next(x for x in rail(s.fold(), CASE) if x.id == "open")
    assert step.offers == []
    assert any("still isolated" in w for w in step.waits)


def test_each_hand_takes_off_its_own_lock_and_no_other() -> None:
    s = Story()
    s.add("open", scope="motor_leads", sources=LIST)
    name = LEADS[0]

    def of(who: str, back: bool) -> Any:
        return at_source(next(x for x in s.fold().sources if x.source.id == name), who, back)

    assert of("ada", False).entries == [{"kind": "shut", "source": name}]
    s.add("shut", source=name)
    s.add("lock", source=name)
    mine = next(x for x in s.fold().sources if x.source.id == name).locks[0]
    assert of(mine.who, True).entries == [{"kind": "unlock", "lock": mine.id}]
    assert of("somebody else", True) is None
    assert of("somebody else", False).entries == [{"kind": "lock", "source": name}]
    s.add("unlock", lock=mine.id)
    assert of("somebody else", True).entries == [{"kind": "opened", "source": name}]


@pytest.mark.parametrize(
    "body", [{"kind": "restored", "item": "nothing"}, {"kind": "said"}, {"kind": "open", "scope": "roof"}]
)
def test_an_offer_of_an_entry_that_there_is_not_is_refused(body: dict[str, Any]) -> None:
    with pytest.raises((HurbinError, ValueError)):
        make_safe_entry(**body)


def isolated() -> Story:
    s = Story()
    s.isolate()
    return s


def _act(s: Story, who: str = "ada") -> Any:
    return next(x for x in acts(s.fold(), FACTS, who) if x.state == "now")


def test_a_proof_can_be_walked_by_its_acts_alone() -> None:
    s = isolated()
    walked = []
    while s.fold().proof.state != "proved":
        act = _act(s)
        walked.append(act.id)
        figure = {"text": "0" if act.id == "dead" else "398", "unit": "V"}
        s.add(**act.entry, **{f.name: figure if f.unit else "two-pole" for f in act.fields})
    assert walked == ["live_before", "dead", "live_after"]
    assert [x.state for x in acts(s.fold(), FACTS, "ada")] == ["now", "later", "later"]


def test_each_act_asks_for_its_own_readings_and_a_small_motor_for_its_own_conductors() -> None:
    s = isolated()
    assert [f.name for f in _act(s).fields] == ["tester", "live_volts"]
    s.add("proof", act="live_before", tester="T4", live_volts={"text": "398", "unit": "V"})
    pairs = ["v12", "v23", "v31", "v1g", "v2g", "v3g"]
    assert [f.name for f in _act(s).fields] == ["point", *pairs]
    small = next(x for x in acts(s.fold(), SetFacts(single_phase=True), "ada") if x.state == "now")
    assert [f.name for f in small.fields] == ["point", "v12", "v1g", "v2g"]
    assert all(f.optional is (f.name == "point") for f in _act(s).fields)


def test_whoever_did_not_begin_the_proof_names_the_tester_in_hand() -> None:
    s = isolated()
    s.add("proof", act="live_before", tester="T4", live_volts={"text": "398", "unit": "V"})
    assert _act(s).entry["tester"] == "T4"
    assert "T4" in _act(s).says
    other = _act(s, "ben")
    assert "tester" not in other.entry
    assert other.fields[0].name == "tester"


def test_a_proof_that_is_void_begins_anew() -> None:
    s = isolated()
    s.add("proof", act="live_before", tester="T4", live_volts={"text": "2", "unit": "V"})
    assert s.fold().proof.state == "void"
    assert _act(s).id == "live_before"
