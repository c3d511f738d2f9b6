"""What a job takes along: kits of the site, what is short, what the other of a pair would cost."""

from __future__ import annotations

from typing import Any

import pytest
from job_cases import Told

from hurbin_core.base import Limits, Verdict, write
from hurbin_core.jobs.job.view import KitView, PairView
from hurbin_core.stores import KitPart, kit_state

SEAL = {"code": "S-16", "title": "Seal set", "kinds": ["seal_set"], "place": "Shelf 1", "price": 64.0}


def lot(free: int, **more: Any) -> dict[str, Any]:
    return {**SEAL, "count": free, "free": free, **more}


def line(job: Told, kind: str) -> KitView:
    pick = job.evaluate().view.pick
    assert pick is not None
    return next(k for k in pick.kit if k.kind == kind)


def with_stock(*lots: dict[str, Any], **known: Any) -> Told:
    job = Told("J05", "close_coupled")
    job.known |= {"lots": list(lots), **known}
    return job


@pytest.mark.parametrize(
    ("free", "said", "short", "takes"),
    [
        (0, {}, 1, 0),
        (1, {}, 0, 1),
        (1, {"reserved": 1}, 0, 0),
        (0, {"reserved": 1}, 1, 0),
        (0, {"reserved": 1, "used": 1}, 0, 0),
    ],
)
def test_a_line_is_short_by_what_is_neither_used_nor_there(
    free: int, said: dict[str, int], short: int, takes: int
) -> None:
    job = with_stock(lot(free))
    if said:
        job.say(kind="part", code="S-16", place="Shelf 1", **said)
    told = line(job, "seal_set")
    assert (told.short, len(told.takes)) == (short, takes)


def test_an_old_part_kept_for_an_emergency_fills_no_line() -> None:
    told = line(with_stock(lot(3, emergency=True)), "seal_set")
    assert (told.short, told.takes) == (1, [])


def test_reserving_again_says_the_whole_of_a_place() -> None:
    kit = {"title": "Two", "procedure": "J05", "parts": {"S-16": 3}}
    job = with_stock(lot(2), lot(4, place="Van 1"), kits=[kit])
    job.say(kind="part", code="S-16", place="Shelf 1", reserved=1)
    assert [(t.place, t.reserved) for t in line(job, "S-16").takes] == [("Shelf 1", 2), ("Van 1", 1)]


def test_what_was_used_is_of_its_own_place() -> None:
    job = with_stock(lot(2), lot(4, place="Van 1"), lot(1, place="Van 1", emergency=True))
    job.say(kind="part", code="S-16", place="Van 1", reserved=2, used=1)
    told = line(job, "seal_set")
    assert [(x.place, x.reserved, x.used) for x in told.lots] == [
        ("Shelf 1", 0, 0),
        ("Van 1", 2, 1),
        ("Van 1", 0, 0),
    ]


def test_the_kit_nearest_to_the_set_counts() -> None:
    kits = [
        {"title": "any", "procedure": "J05", "parts": {"S-16": 1}},
        {"title": "kind", "procedure": "J05", "kind": "close_coupled", "parts": {"S-16": 2}},
        {"title": "own", "procedure": "J05", "tag": "P-1", "parts": {"S-16": 4}},
        {"title": "other job", "procedure": "J07", "tag": "P-1", "parts": {"S-16": 9}},
    ]
    for n, wanted in ((4, 4), (2, 2), (1, 1)):
        job = with_stock(lot(9), kits=[k for k in kits[:n] if n != 2 or k["title"] != "own"])
        assert line(job, "S-16").wanted == wanted
        assert line(job, "casing_ring").short == 1, "what no kit line fills stays on the list"


@pytest.mark.parametrize(
    ("frees", "whole", "verdict"),
    [
        ([4, 2], 1, "good"),
        ([4, 1], 0, "act"),
        ([4, None], None, "unknown"),
        ([1, None], 0, "act"),
        ([], None, "unknown"),
    ],
)
def test_a_kit_is_there_when_every_line_is(frees: list[int | None], whole: int | None, verdict: str) -> None:
    parts = [KitPart(code=f"P-{i}", wanted=2, free=f, counted_days=30.0) for i, f in enumerate(frees)]
    state = kit_state(parts, Limits())
    assert (state.whole, state.verdict) == (whole, Verdict(verdict))


@pytest.mark.parametrize(
    ("days", "says"), [(None, "Never counted: P-2."), (400.0, "Counted too long ago: P-2.")]
)
def test_a_kit_stands_on_no_old_count(days: float | None, says: str) -> None:
    parts = [KitPart(code=f"P-{i}", wanted=1, free=3, counted_days=d) for i, d in ((1, 2.0), (2, days))]
    state = kit_state(parts, Limits())
    assert (state.whole, state.verdict, write(state.says)) == (None, Verdict.UNKNOWN, says)


def pair(job: Told) -> PairView:
    found = job.evaluate().view.pair
    assert found is not None
    return found


def test_the_other_of_a_pair_is_priced_now_and_on_coming_back() -> None:
    job = with_stock(lot(2), lot(1, place="Van 1", price=80.0), pair="P-2")
    told = pair(job)
    assert (told.parts.value, told.said) == (64.0, ""), "the cheaper of two"
    assert told.unpriced == ["casing ring", "anti-rotation washer and nut"], "no whole sum without them"
    alone = told.again.value
    job.say(kind="about", twin="later")
    assert (pair(job).said, pair(job).again.value) == ("later", alone)
    assert with_stock(lot(2)).evaluate().view.pair is None


def test_one_part_that_fills_two_lines_is_bought_once() -> None:
    both = lot(2, kinds=["seal_set", "casing_ring"])
    assert pair(with_stock(both, pair="P-2")).parts.value == 64.0


def test_coming_back_repeats_the_isolation_and_not_the_repair() -> None:
    job = with_stock(pair="P-2")
    steps = job.evaluate().view.steps
    repair = [s for s in steps if s.id.startswith("J05.")]
    assert repair
    assert pair(job).people >= 1
    long = Told("J05", "close_coupled")
    past = {"procedure": "J05", "kind": "close_coupled", "minutes": 300.0, "steps": {repair[0].id: 240.0}}
    long.known |= {"pair": "P-2", "past": [past]}
    assert pair(long).again == pair(job).again, "a long repair makes coming back no dearer"
    past["steps"] = {"I2": 240.0}
    long.known["past"] = [past]
    assert pair(long).again.value > pair(job).again.value


def test_a_cost_names_what_has_no_price() -> None:
    job = with_stock(lot(2), {**lot(3), "code": "R-16", "kinds": ["casing_ring"], "price": None})
    assert job.evaluate().view.cost is None
    job.say(kind="part", code="S-16", place="Shelf 1", used=2)
    cost = job.evaluate().view.cost
    assert (cost.parts.value, cost.whole.value, cost.unpriced) == (128.0, 128.0, [])
    job.say(kind="part", code="R-16", place="Shelf 1", used=1)
    cost = job.evaluate().view.cost
    assert (cost.whole.value, cost.unpriced) == (128.0, ["R-16"]), "the sum is without it, and says so"
    job.say(kind="hours", who_worked="Ada", hours={"text": "2", "unit": "h"})
    whole = job.evaluate().view.cost.whole.value
    assert whole > 128.0
