"""Making safe: the published order, the proof in three acts, locks, and no order of events that proves what
is not dead.
"""

from __future__ import annotations

from datetime import timedelta
from itertools import pairwise
from typing import Any

import pytest
from safe_story import CASE, FACTS, LEADS, LIST, LIVE, PAIRS, T0, Story, set_case, source

from hurbin_core.base import HurbinError, Limits, Prefs, Verdict, write
from hurbin_core.catalogue import bench
from hurbin_core.instruments import Instrument
from hurbin_core.logbook import AnyCase
from hurbin_core.safety import (
    MEANS,
    SCOPES,
    SOURCES,
    STEPS,
    IsolationSource,
    SetFacts,
    check_back_due,
    check_list,
    fold,
    hazard_words,
    needed,
    proposed,
    rail,
    unsaid,
    way_back,
)

# Outside check: the published orders, from memory, each step found in ours and in that order.
OSHA_D = [
    "know",
    "stop",
    "shut",
    "lock",
    "release",
    "prove",
]  # 29 CFR 1910.147 (d): preparation, shutdown, isolation, lockout, stored energy, verification
OSHA_E = [
    "guard",
    "clear",
    "unlock",
    "open",
]  # (e): work area inspected, employees clear and notified, devices removed by their owners, energised
EN_50110 = [
    "shut",
    "lock",
    "prove",
]  # disconnect completely, secure against re-connection, verify the absence of voltage (then earth, cover)
NFPA_70E_2015 = [
    "know",
    "stop",
    "shut",
    "lock",
    "prove",
]  # article 120.1: sources, load interrupted and opened, seen open, locks, adequately rated tester


@pytest.mark.parametrize("published", [OSHA_D, OSHA_E, EN_50110, NFPA_70E_2015])
def test_published_order_is_ours(published: list[str]) -> None:
    ours = list(STEPS)
    places = [ours.index(step) for step in published]
    assert all(a < b for a, b in pairwise(places))


def test_verification_comes_after_stored_energy_and_before_work() -> None:
    ours = list(STEPS)
    assert (
        ours.index("release")
        < ours.index("prove")
        < ours.index("try")
        < ours.index("work")
        < ours.index("unlock")
    )


def test_a_set_is_isolated_only_when_every_source_of_the_scope_is_shut_and_locked() -> None:
    s = Story()
    s.add("open", scope="motor_leads", sources=LIST)
    for n, name in enumerate(LEADS):
        s.add("shut", source=name)
        assert s.fold().state == "isolating"
        s.add("lock", source=name)
        assert s.fold().state == ("isolated" if n == 2 else "isolating")
    s.prove()
    assert s.fold().state == "proved"
    steps = {x.id: x.state for x in rail(s.fold(), CASE)}
    assert steps["prove"] == "done"
    assert steps["try"] == "later"  # nobody was told yet, so that step is the one to do now
    assert steps["tell"] == "now"


def test_scope_decides_what_must_be_shut_and_says_why_the_rest_need_not() -> None:
    lines = [IsolationSource.model_validate(x) for x in LIST]
    coupling = {n.source.id: n for n in needed(lines, ["coupling"])}
    assert {k for k, n in coupling.items() if n.must} == {
        "supply",
        "control_supply",
        "springs",
        "turning_by_flow",
    }
    assert "no wet part" in coupling["gravity"].why
    wet = {n.source.id for n in needed(lines, ["wet_end"]) if n.must}
    assert {"sister_header", "gravity"} <= wet
    assert "springs" not in wet
    assert {n.source.id for n in needed(lines, ["wet_end", "coupling"]) if n.must} == wet | {"springs"}
    for scope in SCOPES.values():
        assert set(scope.must) | set(scope.spared) == set(SOURCES), scope.id
        assert not set(scope.must) & set(scope.spared)


def test_a_shared_header_asks_for_the_sister_and_a_drive_for_its_bus() -> None:
    lines = [
        IsolationSource.model_validate(x)
        for x in LIST
        if x["kind"] not in ("sister_header", "automation_start")
    ]
    assert unsaid(lines, ["wet_end"], FACTS) == ["automation_start", "sister_header"]
    assert unsaid(lines, ["wet_end"], SetFacts(partner="")) == ["automation_start"]
    assert unsaid(lines, ["motor_leads"], SetFacts(drive=True)) == [
        "bypass_starter",
        "automation_start",
        "drive_bus",
    ]
    assert unsaid(lines, ["motor_leads"], SetFacts(single_phase=True)) == ["automation_start", "capacitors"]


def test_hot_is_said_by_its_limit_in_the_readers_unit() -> None:
    assert write(hazard_words()) == "over 50\u00a0°C, hazardous or sewage"
    assert write(hazard_words(), Prefs(units={"temperature": "degF"})).startswith("over 122\u00a0°F")
    line = needed([IsolationSource.model_validate(source("gravity", "valve", hazard=True))], ["wet_end"])[0]
    assert line.complaint is not None
    assert "over 50\u00a0°C" in write(line.complaint)


@pytest.mark.parametrize("means", list(MEANS))
def test_which_means_isolate_a_wet_part(means: str) -> None:
    """Written by hand: a check valve never; hot, hazardous or sewage water only by two valves and a bleed, a
    blank, a permit.
    """
    plain, hot = (
        needed([IsolationSource.model_validate(source("gravity", means, hazard=h))], ["wet_end"])[0].complaint
        for h in (False, True)
    )
    assert (plain is None) == (means in {"valve", "double_block_bleed", "blank", "permit"})
    assert (hot is None) == (means in {"double_block_bleed", "blank", "permit"})


def test_a_check_valve_never_isolates_however_often_it_is_locked() -> None:
    s = Story()
    s.add(
        "open",
        scope="wet_end",
        sources=[{**x, "means": "check_valve"} if x["id"] == "gravity" else x for x in LIST],
    )
    for name in ("supply", "control_supply", "sister_header", "gravity", "turning_by_flow"):
        s.add("shut", source=name)
        s.add("lock", source=name)
        s.add("released", source=name)
    assert s.fold().state == "isolating"
    assert "check valve alone" in write(
        next(x.complaint for x in s.fold().sources if x.source.id == "gravity")
    )


def test_one_lock_off_does_not_free_the_set() -> None:
    s = Story()
    locks = s.isolate(who=("Ada", "Ben"))
    s.prove()
    s.add("unlock", by="Ada", lock=locks["Ada/supply"])
    iso = s.fold()
    assert iso.state == "proved"
    assert [(w.name, w.locks) for w in iso.workers] == [("Ada", 2), ("Ben", 3)]
    s.add("unlock", by="Ben", lock=locks["Ben/supply"])
    assert s.fold().state == "isolating"
    assert s.fold().proof.state == "void"


def test_only_its_owner_takes_a_lock_off_or_somebody_by_the_sites_steps() -> None:
    s = Story()
    locks = s.isolate()
    s.add("unlock", by="Ben", lock=locks["Ada/supply"])
    assert "does not count" in s.words()
    assert s.fold().isolated
    s.add("unlock", by="Ben", lock=locks["Ada/supply"], forgotten=True)
    assert s.fold().isolated  # without the site's steps it does not count either
    s.add(
        "unlock",
        by="Ben",
        lock=locks["Ada/supply"],
        forgotten=True,
        followed="called her, searched the hall, told the manager",
    )
    iso = s.fold()
    assert not iso.isolated
    assert iso.removals[0].words == "Ada: called her, searched the hall, told the manager"


@pytest.mark.parametrize(
    ("spoil", "why"),
    [
        (lambda s: s.add("work"), "after it was proved dead"),
        (lambda s: s.add("opened", source="supply"), "restored or unlocked"),
        (lambda s: s.add("open", scope="coupling"), "Another scope"),
        (lambda s: s.add("volts_seen", live_volts={"text": "12", "unit": "V"}), "treat as live"),
        (lambda s: s.add("tried", moved=True), "still energised"),
        (
            lambda s: s.add(
                "proof", act="live_before", tester="two-pole", live_volts={"text": "0", "unit": "V"}
            ),
            "can prove nothing",
        ),
    ],
)
def test_what_makes_a_proof_void(spoil: Any, why: str) -> None:
    s = Story()
    s.isolate()
    s.prove()
    assert s.fold().state == "proved"
    spoil(s)
    assert s.fold().proof.state == "void"
    assert why in s.words()


@pytest.mark.parametrize(
    ("acts", "why"),
    [
        (
            [
                ("live_before", LIVE),
                ("dead", PAIRS),
                ("live_after", {**LIVE, "live_volts": {"text": "0", "unit": "V"}}),
            ],
            "worth nothing",
        ),
        (
            [("live_before", LIVE), ("dead", PAIRS), ("live_after", {})],
            "Not the tester used for the first test",
        ),
        ([("dead", PAIRS), ("live_after", LIVE)], "readings of the dead conductors"),
        (
            [(act, {**read, "tester": " "}) for act, read in (("live_before", LIVE), ("dead", PAIRS))],
            "was not checked on a known live source",
        ),
        ([("live_before", {**LIVE, "tester": ""})], "Enter the voltage tester"),
        ([("live_before", LIVE), ("live_after", LIVE)], "No readings"),
        (
            [
                ("live_before", LIVE),
                ("dead", {**PAIRS, "v3g": {"text": "230", "unit": "V"}}),
                ("live_after", LIVE),
            ],
            "before this",
        ),
    ],
)
def test_three_acts_or_no_proof(acts: list[tuple[str, dict[str, Any]]], why: str) -> None:
    s = Story()
    s.isolate()
    for act, more in acts:
        s.add("proof", act=act, **{"tester": "two-pole" if act == "dead" else "", **more})
    assert s.fold().state in ("isolated", "live")
    assert s.fold().proof.state == "void"
    assert why in s.words()


def test_every_conductor_to_each_other_and_to_ground() -> None:
    s = Story()
    s.isolate()
    s.add("proof", act="live_before", **LIVE)
    some = {k: v for k, v in PAIRS.items() if k not in ("v31", "v2g")}
    s.add("proof", act="dead", tester="two-pole", **some)
    assert s.fold().proof.state == "begun"
    assert "L3 to L1, L2 to ground" in s.words()
    single = fold(s.entries, SetFacts(single_phase=True, coupled=True, partner="B-2"))
    assert "capacitors" in single.unsaid


def test_acts_an_hour_apart_are_no_proof() -> None:
    s = Story()
    s.isolate()
    s.add("proof", act="live_before", **LIVE)
    s.add("proof", act="dead", tester="two-pole", at=T0 + timedelta(minutes=70), **PAIRS)
    assert "Too much time between the tests" in s.words()


@pytest.mark.parametrize(("volts", "let_out"), [("49", True), ("50", False), ("<50", False), ("400", False)])
def test_a_dc_bus_is_read_under_its_limit(volts: str, let_out: bool) -> None:
    s = Story()
    s.add(
        "open",
        scope="drive_box",
        sources=[
            *LIST,
            source("drive_bus", "waited"),
            {"id": "by", "kind": "bypass_starter", "absent": True},
        ],
    )
    s.add("shut", source="drive_bus", seen="waited 15 min by the label")
    s.add("released", source="drive_bus", reading={"text": volts, "unit": "V"})
    iso = fold(s.entries, SetFacts(drive=True, partner="B-2"))
    assert (next(x for x in iso.sources if x.source.id == "drive_bus").released is not None) is let_out
    assert bool(iso.problems) is volts.startswith("<")


def test_offline_entries_arrive_late_and_nothing_is_dropped() -> None:
    s = Story()
    locks = s.isolate(who=("Ada", "Ben"))
    s.add("unlock", by="Ben", lock=locks["Ben/supply"])
    on_time = [e for e in s.entries if not (e.body.kind == "lock" and e.by == "Ben")]
    early = fold(on_time, FACTS)
    assert "not on file yet" in write(early.conflicts[0])
    late = fold([*on_time, *(e for e in s.entries if e not in on_time)], FACTS)
    assert late == s.fold()
    assert late.conflicts == []
    assert [w.name for w in late.workers] == ["Ada", "Ben"]


def test_a_removal_before_its_lock_by_the_clock_is_told_and_the_lock_still_counts() -> None:
    s = Story()
    s.isolate()
    late = s.add("lock", by="Ben", source="supply", at=T0 + timedelta(hours=2))
    s.add("unlock", by="Ben", lock=late, at=T0 + timedelta(hours=1))
    assert "at a time before it was put on" in s.words()
    assert "Ben" in [w.name for w in s.fold().workers]


def test_given_back_only_when_nothing_is_left() -> None:
    s = Story()
    locks = s.isolate()
    s.prove()
    s.add("tried", moved=False)
    s.add("work", note="new seal")
    context = set_case(changes=["Guard off"])

    def wants(c: AnyCase = CASE) -> list[str]:
        return [m.message for m in bench("make_safe").evaluate(c, s.entries).missing]

    assert any("Ada on supply" in w for w in wants())
    assert not way_back(s.fold())
    s.add("restored", item="guard_on")
    assert way_back(s.fold())
    s.add("restored", item="people_clear")
    assert [x.id for x in rail(s.fold(), CASE) if x.state == "now"] == ["unlock"]
    for name in LEADS:
        s.add("unlock", lock=locks[f"Ada/{name}"])
        s.add("opened", source=name)
    steps = {x.id: x for x in rail(s.fold(), CASE)}
    assert (steps["open"].state, steps["shut"].state, steps["prove"].says) == (
        "now",
        "done",
        "it was proved dead",
    )
    for item in ("valves_as_found", "automatic", "alarms"):
        s.add("restored", item=item)
    assert any("not restored yet: Guard off" in w for w in wants(context))
    assert wants() == ["Before return to service: a running check after the restart, or why there is none."]
    checked = set_case(checked_at=T0 + timedelta(hours=5))
    done = bench("make_safe").evaluate(checked, s.entries)
    assert done.missing == []
    assert (done.verdict, done.findings[0].rule) == (Verdict.GOOD, "made_safe")
    assert check_back_due(T0, Limits()) == T0 + timedelta(days=1)
    b = bench("make_safe")
    assert b.story is not None
    lines = [(x.by, write(x.says)) for x in b.story(b.facts(s.entries))]
    assert len(lines) == len(s.entries)
    assert lines[0] == ("Ada", "Work scope: motor leads.")
    assert ("Ada", "two-pole on a known live source: 400 V.".replace(" V", "\u00a0V")) in lines
    assert any(
        w.startswith("Each conductor to every other and to ground at terminal box: L1 to L2 0")
        for _, w in lines
    )
    assert lines[-1] == ("Ada", "Alarms cleared. ")
    unproved = bench("make_safe").evaluate(checked, [e for e in s.entries if e.body.kind != "proof"])
    assert unproved.verdict is Verdict.WATCH


def test_a_list_that_cannot_be_kept() -> None:
    for line, code in (
        ({"id": "a", "kind": "moon"}, "source_unknown"),
        ({"id": "a", "kind": "supply", "means": "isolator"}, "device_missing"),
        ({"id": "a", "kind": "supply", "device": "Q1", "means": "prayer"}, "means_unknown"),
    ):
        with pytest.raises(HurbinError) as refused:
            check_list([IsolationSource.model_validate(line)])
        assert refused.value.code == code
    with pytest.raises(HurbinError, match="Two lines"):
        check_list([IsolationSource.model_validate(LIST[0])] * 2)


def test_what_a_set_can_have_is_proposed_and_nothing_is_confirmed_by_it() -> None:
    """By its kind, starter and neighbours; what the list speaks of already is proposed no more."""
    alone, driven = SetFacts(coupled=False), SetFacts(drive=True, partner="K-2", coupled=True)
    assert {p.kind for p in proposed([], driven)} - {p.kind for p in proposed([], alone)} == {
        "bypass_starter",
        "sister_header",
        "springs",
        "drive_bus",
    }
    assert next(p.sister for p in proposed([], driven) if p.kind == "sister_header") == "K-2"
    said = [
        IsolationSource(id="q", kind="supply", device="isolator Q1", means="isolator"),
        IsolationSource(id="h", kind="heat", absent=True),
    ]
    left = {p.kind for p in proposed(said, driven)}
    assert not left & {"supply", "heat"}
    assert "supply" in unsaid([], ["motor_leads"], driven)  # a proposal answers nothing
    assert all(SOURCES[p.kind].family in MEANS[p.means].families for p in proposed([], driven))


def two_pole(**more: Any) -> Instrument:
    """A two-pole tester of the register; it is proved at each use and needs no calibration."""
    span = {"reads": "voltage", "top": 690, "step": 1}
    made = {"id": "4", "name": "Two-pole", "kind": "voltage_tester", "category": "IV", "category_volts": 600}
    return Instrument.model_validate({**made, "spans": [span], "since": T0 - timedelta(days=400), **more})


@pytest.mark.parametrize(
    ("more", "state", "why"),
    [
        ({}, "proved", ""),
        ({"category": "II"}, "isolated", "CAT II"),
        ({"category_volts": 300}, "isolated", "The circuit has 400"),
        ({"until": T0 - timedelta(days=2)}, "isolated", "out of service"),
        ({"kind": "multimeter"}, "isolated", "no calibration on record"),
    ],
)
def test_a_tester_of_the_register_proves_nothing_that_it_is_not_built_for(
    more: dict[str, Any], state: str, why: str
) -> None:
    s = Story()
    s.isolate()
    s.prove()
    assert s.fold().state == "proved", "a tester that no register holds is proved by itself"
    kept = FACTS.model_copy(update={"testers": [two_pole(**more)], "volts": 400.0})
    assert s.fold(kept).state == state
    # It is said at the first test, before anything rests on it.
    first = Story()
    first.isolate()
    first.add("proof", act="live_before", **LIVE)
    told = first.fold(kept).proof.why
    assert (told is None) is (why == "")
    assert why in (write(told).replace("\u00a0", " ") if told is not None else "")
