"""The small benches of an overhaul without a job: typed, reloaded, put on record, read again on a phone."""

from __future__ import annotations

from typing import Any, NamedTuple

import pytest
from conftest import Opener, Stack
from job_walk import made_set
from playwright.sync_api import expect


class Read(NamedTuple):
    """What is typed at one bench, and what it answers: a question, its verdict, a part of its reason."""

    bench: str
    kind: str
    figures: dict[str, str]
    words: dict[str, str]
    question: str
    verdict: str
    reason: str


SEATS = Read(
    "fits",
    "base_mounted",
    {"nominal": "45", "d1": "45.009", "d2": "45.008", "d3": "45.010", "d4": "45.009", "runout": "0.03"},
    {
        "Seat or housing bore": "shaft",
        "It has spun": "no",
        "Run-out read at": "seal",
        "One whole turn": "yes",
    },
    "runout",
    "good",
    "0.030 mm",
)
WORN = SEATS._replace(figures=SEATS.figures | {"runout": "0.09"}, verdict="act", reason="0.090 mm")
RINGS = Read(
    "rings",
    "base_mounted",
    {"diameter": "120", "new": "0.40", "bore_1": "120.45", "bore_2": "120.47", "wheel_1": "120.00"}
    | {"wheel_2": "120.00", "head": "33.3"},
    {"Its land has spun": "no"},
    "ring_gap",
    "good",
    "when new",
)
WIDE = RINGS._replace(
    figures=RINGS.figures | {"bore_1": "120.95", "bore_2": "120.95"}, verdict="act", reason="when new"
)
HEATED = Read(
    "bearing",
    "base_mounted",
    {"bore": "45", "outside": "100", "width": "25", "interference": "25", "ambient": "20", "reached": "95"},
    {
        "Open, or sealed and greased": "open",
        "Way": "induction",
        "Demagnetised": "yes",
        "Old grease purged": "yes",
    },
    "bearing_heat",
    "good",
    "°C",
)
# An interference that asks for more heat than an open bearing bears.
TIGHT = HEATED._replace(figures=HEATED.figures | {"interference": "60"}, verdict="stop")
HUNG = Read(
    "lifting",
    "base_mounted",
    {"weight": "280", "rigging": "20", "water": "10", "hoist": "500", "sling": "300", "shackle": "400"}
    | {"eye": "400", "angle": "60"},
    {
        "What is lifted": "yes",
        "Eye": "shouldered",
        "Sling legs": "2",
        "All of it rated and in date": "yes",
        "Trial lift 50 mm, 10 s": "level",
        "Area below closed": "yes",
        "Outside or on a roof": "no",
    },
    "lift_load",
    "good",
    "Weakest link: hoist",
)
HEAVY = HUNG._replace(figures=HUNG.figures | {"weight": "900"}, verdict="stop", reason="Weakest link")
ROTOR = Read(
    "rotor",
    "vacuum",
    {"bore_1": "82.20", "bore_2": "82.18", "rotor_1": "81.90", "rotor_2": "81.90", "width_1": "50.00"}
    | {"width_2": "50.00", "depth_1": "49.95", "depth_2": "49.95", "gasket": "0.25", "groove": "0.05"}
    | {"radial_most": "0.30", "radial_new": "0.10", "end_most": "0.30", "end_new": "0.15"},
    {},
    "rotor_radial",
    "good",
    "mm",
)
LOOSE = ROTOR._replace(figures=ROTOR.figures | {"bore_1": "83.00", "bore_2": "83.00"}, verdict="act")


def record_of(stack: Stack, number: int, bench: str) -> tuple[int, str]:
    """The record that was saved last, and what it was judged."""
    query = (
        "select r.id, j.verdict from logbook_record r join logbook_judgement j on j.record_id = r.id"
        f" where r.pump_set_id = {number} and r.bench = '{bench}' and j.newest order by r.id desc limit 1"
    )
    found = stack.db.sql(query, database="hurbin_e2e").split()
    return int(found[0]), found[1]


@pytest.mark.parametrize(
    ("n", "read"),
    enumerate([SEATS, WORN, RINGS, WIDE, HEATED, TIGHT, HUNG, HEAVY, ROTOR, LOOSE]),
    ids=["seats", "worn", "rings", "wide", "heated", "tight", "hung", "heavy", "rotor", "loose"],
)
def test_a_small_bench_is_typed_reloaded_and_put_on_record(
    open_as: Opener, stack: Stack, n: int, read: Read
) -> None:
    lead = open_as("ines")
    number = made_set(lead, stack, f"BENCH-{n}", read.kind)
    page = open_as("saskia", f"/sets/{number}/{read.bench}", phone=True)
    for label, value in read.words.items():
        page.get_by_label(label, exact=True).select_option(value)
    for name, value in read.figures.items():
        page.locator(f"#f-{name}").fill(value)
    if read.bench == "lifting":
        for label, words in (("Lift led by", "Ada"), ("With", "Ben"), ("Route and obstacles", "door, ramp")):
            page.get_by_label(label, exact=True).fill(words)
    page.reload()
    for name, value in read.figures.items():
        expect(page.locator(f"#f-{name}")).to_have_value(value)
    finding = page.locator(f"[data-question='{read.question}']")
    expect(finding).to_have_attribute("data-verdict", read.verdict)
    expect(finding).to_contain_text(read.reason)
    assert page.evaluate("document.documentElement.scrollWidth <= 390")
    page.get_by_role("button", name="Save record").click()
    page.wait_for_url(f"**/sets/{number}")
    record, verdict = record_of(stack, number, read.bench)
    assert verdict != "good" or read.verdict == "good", "no record is better than its finding"
    page.goto(f"{stack.url}/records/{record}")
    expect(page.locator(f"[data-question='{read.question}']")).to_contain_text(read.reason)


def test_a_bench_that_lacks_a_figure_is_never_good(open_as: Opener, stack: Stack) -> None:
    lead = open_as("ines")
    number = made_set(lead, stack, "BENCH-99", "base_mounted")
    page = open_as("saskia", f"/sets/{number}/lifting")
    lacking: dict[str, Any] = {k: v for k, v in HUNG.figures.items() if k != "hoist"}
    for label, value in HUNG.words.items():
        page.get_by_label(label, exact=True).select_option(value)
    for name, value in lacking.items():
        page.locator(f"#f-{name}").fill(value)
    judged = page.get_by_test_id("judged")
    expect(judged).to_be_visible()
    expect(page.locator("[data-question='lift_load'][data-verdict='good']")).to_have_count(0)
    expect(page.locator("[data-question='lift_plan'][data-verdict='good']")).to_have_count(0)
