"""The walk down a circuit: the probes lead, figures are typed, the span is named; on a desk and in a hand."""

from __future__ import annotations

import re
import uuid
from collections.abc import Callable
from datetime import datetime, timedelta

from conftest import Opener, Stack, newest, number_of, send, set_page, told
from playwright.sync_api import Page, expect

PLACES = ["S.out", "D.in", "D.out", "F.in", "F.out", "K.in", "K.out", "O.in", "O.out", "M.in"]


def blown_fuse(one: str, two: str, contactor: str) -> str:
    """What a meter of low impedance shows where the fuse of leg 2 is blown and the motor stands."""
    (rung, a), (_, b) = (p.rpartition(".")[::2] if p != "ground" else ("", "g") for p in (one, two))
    below = PLACES.index(rung) >= PLACES.index("F.out")
    dead = PLACES.index(rung) >= PLACES.index("K.out") and contactor == "out"
    across = a == b
    if across and rung == "F.in" and a == "2":
        return "346" if contactor == "in" else "0"
    if across:
        return "0"
    if dead:
        return "0"
    pair = {a, b}
    if not below or "2" not in pair:
        return "231" if "g" in pair else "400"
    if contactor == "in":
        return "116" if "g" in pair else "200"
    return "0"


def confirmed(page: Page, stack: Stack, tag: str) -> None:
    """Whoever stands there has looked, and says what the circuit is."""
    set_page(page, stack, tag, "/circuit")
    page.get_by_role("button", name="Confirm or edit circuit").click()
    page.get_by_label("Earthing of the supply").select_option("solid_wye")
    page.get_by_label("Nothing else is tapped off").check()
    page.get_by_role("button", name="Confirm circuit").click()
    expect(page.get_by_role("button", name="Edit circuit")).to_be_visible()


def enter(page: Page, figure: str) -> None:
    count = page.locator("[data-reading]").count()
    field = page.locator("#f-volts")
    field.fill(figure)
    field.press("Enter")
    expect(page.locator("[data-reading='typed-0000']")).to_have_count(0)
    expect(page.locator("[data-reading]")).to_have_count(count + 1)
    expect(page.get_by_test_id("judged")).to_have_attribute("aria-busy", "false")


def led(page: Page, shows: Callable[[str, str, str], str], most: int = 9) -> int:
    """Read where the next probe is, and enter what the meter shows, until nothing more is asked."""
    for n in range(most):
        ahead = page.locator("[data-next]")
        if n and not ahead.count():
            return n
        confirm = ahead.locator(".btn-ink")
        if confirm.count():
            confirm.click()
        one, two = (ahead.get_attribute("data-next") or "").split()
        contactor = page.get_by_label("Contactor", exact=True).input_value()
        enter(page, shows(one, two, contactor))
    raise AssertionError(f"not named after {most} readings")


def test_a_blown_fuse_is_named_where_the_probes_lead_and_stands_on_the_set(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("jun")
    confirmed(page, stack, "PALM-42")
    expect(page.locator("[data-next]")).to_contain_text("Parts the circuit best")
    took = led(page, blown_fuse)
    assert took <= 7
    page.get_by_label("Meter proved on a live source", exact=True).select_option("both")
    for _ in range(2):
        expect(page.locator("[data-suspect='F.2']")).to_contain_text("Fuses, L2")
        expect(page.get_by_text("between Fuses, line side and Fuses, load side, L2")).to_be_visible()
        stop = page.get_by_test_id("judged")
        expect(stop).to_contain_text("L2 is missing: single phasing")
        expect(stop).to_contain_text("confirm it by resistance")
        share = page.locator("[data-span='F.2']").get_attribute("data-share")
        assert int(share or 0) > 90
        page.reload()
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Jun Belacqua")
    page.reload()
    expect(page.get_by_text("Open: Fuses, L2").first).to_be_visible()
    newest(page).first.get_by_role("link").first.click()
    expect(page.get_by_label("Circuit as read")).to_contain_text("between Fuses, line side")


def test_on_a_phone_two_points_are_tapped_and_a_contradiction_is_used_by_nobody(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("saskia", phone=True)
    confirmed(page, stack, "SAND-52")
    tip = page.get_by_role("button", name=re.compile("^First probe"))
    was = tip.get_attribute("data-probe")
    tip.focus()
    page.keyboard.press("ArrowDown")
    expect(tip).not_to_have_attribute("data-probe", was or "")
    page.keyboard.press("ArrowUp")
    expect(tip).to_have_attribute("data-probe", was or "")
    page.locator("#f-volts").tap()
    keypad = page.get_by_role("group", name="Keypad")
    for key in "400":
        keypad.get_by_role("button", name=key, exact=True).tap()
    seen = page.viewport_size or {"height": 0}
    for part in (page.locator("#f-volts"), tip):
        box = part.bounding_box()
        top = keypad.bounding_box()
        assert box is not None
        assert top is not None
        assert box["y"] >= 0
        assert box["y"] + box["height"] / 2 < min(top["y"], seen["height"])
    keypad.get_by_role("button", name="Enter reading").tap()
    expect(page.locator("[data-reading]")).to_have_count(1)
    box = page.locator("svg[aria-label^=Circuit]").bounding_box()
    assert box is not None
    assert box["width"] <= 358
    wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
    assert wide == 0
    jun, number = open_as("jun"), number_of(stack, "SAND-52")
    (sheet,) = told(jun, f"/api/v1/benches/circuit/sheets?set_id={number}")
    first = sheet["entries"][-1]
    again = {**first["body"], "volts": {"text": "0", "unit": "V"}}
    at = (datetime.fromisoformat(first["taken_at"]) + timedelta(seconds=40)).isoformat()
    entry = {"uuid": str(uuid.uuid4()), "taken_at": at, "device": "other", "body": again}
    send(
        jun,
        f"/api/v1/benches/circuit/sheets/{sheet['uuid']}/entries",
        {"set_id": number, "entries": [entry]},
    )
    page.reload()
    judged = page.get_by_test_id("judged")
    expect(judged).to_contain_text("was read twice in this state: 400 V and 0 V")
    expect(page.locator("[data-used=false]")).to_have_count(2)
    page.get_by_role("button", name="Remove").last.tap()
    expect(page.locator("[data-used=true]")).to_have_count(1)
    expect(judged).not_to_contain_text("was read twice")


def test_an_edit_that_somebody_was_ahead_of_shows_both_and_loses_nothing(
    open_as: Opener, stack: Stack
) -> None:
    page, other = open_as("saskia"), open_as("jun")
    confirmed(page, stack, "LAG-11")
    number = number_of(stack, "LAG-11")
    page.get_by_role("button", name="Edit circuit").click()
    page.get_by_role("button", name="Contactor", exact=True).click()
    page.get_by_label("Name").fill("Contactor K4")
    page.get_by_role("group", name="Add beneath").get_by_role("button", name="Local isolator").click()
    expect(page.get_by_role("heading", name="Local isolator")).to_be_visible()
    stands = told(other, f"/api/v1/sets/{number}/circuit")
    theirs = {"circuit": {**stands["circuit"], "taps_known": False}, "expected_version": stands["version"]}
    send(other, f"/api/v1/sets/{number}/circuit", theirs, "PUT")
    page.get_by_role("button", name="Save circuit").click()
    expect(page.get_by_text("Circuit changed by someone else")).to_be_visible()
    expect(page.get_by_role("button", name="Contactor K4", exact=True)).to_be_visible()
    page.get_by_role("button", name="keep mine").click()
    page.get_by_role("button", name="Save circuit").click()
    expect(page.get_by_role("button", name="Edit circuit")).to_be_visible()
    page.reload()
    ladder = page.locator("svg[aria-label^=Circuit]")
    expect(ladder).to_contain_text("Contactor K4")
    expect(ladder).to_contain_text("Local isolator")


def test_who_may_only_look_reads_the_ladder_and_changes_nothing(open_as: Opener, stack: Stack) -> None:
    page = open_as("visitor")
    set_page(page, stack, "PALM-42", "/circuit")
    expect(page.locator("svg[aria-label^=Circuit]")).to_contain_text("Fuses")
    expect(page.get_by_text("View only")).to_be_visible()
    for button in ("Edit circuit", "Confirm or edit circuit", "Save record"):
        expect(page.get_by_role("button", name=button)).to_have_count(0)
    expect(page.locator("#f-volts")).to_have_count(0)
