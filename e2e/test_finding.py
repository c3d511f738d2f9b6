"""Finding the way: by words that stand anywhere, and on a phone under the thumb."""

from __future__ import annotations

import re
from pathlib import Path

from conftest import Opener, Stack, answered, newest, set_page
from playwright.sync_api import expect


def test_a_note_a_part_and_a_change_are_found_by_their_words(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun")
    set_page(page, stack, "SAND-51", "/running-check")
    for name in ("volts_12", "volts_23", "volts_31"):
        page.locator(f"#f-{name}").fill("400")
    page.locator("#note").fill("scallop shells in the strainer")
    answered(page)
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Jun Belacqua")
    page.reload()
    page.locator("[data-callout]").first.wait_for()
    page.keyboard.press("/")
    page.keyboard.type("scallop")
    hit = page.get_by_role("option").filter(has_text="scallop shells")
    expect(hit).to_contain_text(re.compile("Record.*SAND-51.*Running check"))
    page.keyboard.press("Enter")
    page.wait_for_url("**/records/*")
    expect(page.get_by_role("combobox")).to_have_count(0)
    expect(page.get_by_text("scallop shells in the strainer").first).to_be_visible()
    page.keyboard.press("/")
    expect(page.get_by_role("combobox", name="Tag, location")).to_be_focused()
    page.keyboard.type("humidity controller")
    expect(page.get_by_role("option").filter(has_text="Lifted wire")).to_contain_text("MIST-92")
    page.keyboard.press("Control+a")
    page.keyboard.type("KELP-21 coupl")
    page.get_by_role("option").filter(has_text="Part").click()
    expect(page.locator("[data-panel=coupling]")).to_be_visible()
    page.keyboard.press("/")
    page.keyboard.type("no such words")
    expect(page.get_by_text("No match.")).to_be_visible()


def test_enter_opens_the_first_match_wherever_the_mouse_lies(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun", "/")
    page.locator("[class*=_lane_]").first.wait_for()
    page.mouse.move(640, 420)
    page.keyboard.press("/")
    page.keyboard.type("OZON-72")
    expect(page.get_by_role("option").filter(has_text="Part").first).to_be_visible()
    page.get_by_role("option").last.hover()
    page.mouse.move(20, 700)
    expect(page.locator("#find")).to_have_attribute("aria-activedescendant", "")
    page.keyboard.press("Enter")
    page.wait_for_url("**/sets/*")


def test_on_a_phone_everything_is_under_the_thumb_and_a_started_sheet_one_tap_away(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("jun", "/", phone=True)
    bar = page.get_by_role("navigation", name="Bottom menu")
    expect(bar.get_by_role("link", name="Plant")).to_have_attribute("aria-current", "page")
    set_page(page, stack, "SAND-51", "/running-check")
    page.locator("#f-amps_1").tap()
    expect(page.get_by_role("group", name="Keypad")).to_be_visible()
    expect(bar).to_be_hidden()
    page.locator("#f-amps_1").fill("61.5")
    page.locator("#f-amps_1").blur()
    page.goto(stack.url)
    sheet = bar.get_by_role("link", name="Running check SAND-51")
    page.reload()
    sheet.tap()
    expect(page.locator("#f-amps_1")).to_have_value("61.5")
    for leg in ("2", "3"):
        page.locator(f"#f-amps_{leg}").fill("61.4")
    answered(page)
    page.get_by_role("button", name="Save record").tap()
    page.wait_for_url("**/sets/*")
    expect(bar.get_by_role("link", name="Call")).to_be_visible()
    expect(sheet).to_have_count(0)
    bar.get_by_text("More").tap()
    bar.get_by_role("link", name="Rules").tap()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Rules")
    bar.get_by_role("button", name="Find").tap()
    page.get_by_role("combobox", name="Tag, location").fill("mist")
    page.locator("#found [role=option]").first.tap()
    expect(page.locator("[data-callout]").first).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1")


def test_labels_for_all_sets_come_as_a_sheet(open_as: Opener, stack: Stack, tmp_path: Path) -> None:
    page = open_as("saskia", "/register")
    address = page.get_by_role("link", name="Print QR labels, PDF").get_attribute("href")
    got = page.request.get(f"{stack.url}{address}")
    assert got.ok
    assert got.body().startswith(b"%PDF")
