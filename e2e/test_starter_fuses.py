"""A blown fuse: what it says, same for same, and no power before every line is on record."""

from __future__ import annotations

from conftest import Opener, Stack, answered, newest, set_page
from playwright.sync_api import Page, expect

SEEN = "Enter what was found already"


def marks(page: Page, rating: str = "35") -> None:
    for n in ("1", "2", "3"):
        page.get_by_label(f"Class L{n}").select_option("RK5")
        page.get_by_label(f"Delay L{n}").select_option("delay")
        page.get_by_label(f"Clip L{n}").select_option("tight")
        page.locator(f"#f-amps_{n}").fill(rating)
        page.locator(f"#f-volts_{n}").fill("600")


def ohms(page: Page, *values: str) -> None:
    for n, value in enumerate(values, 1):
        page.locator(f"#f-ohms_{n}").fill(value)
    answered(page)


def test_one_blown_fuse_shuts_the_door_until_every_line_is_on_record(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "CAFE-08", "/fuses")
    page.get_by_role("button", name=SEEN).click()
    page.get_by_label("Fuses as").select_option("found")
    page.get_by_label("Each taken out and read by ohms").check()
    judged = page.get_by_test_id("judged")
    ohms(page, "0.02", "OL", "0.02")
    marks(page)
    answered(page)
    page.reload()
    page.get_by_role("button", name=SEEN).click()
    expect(judged).to_contain_text("Fuses: stop")
    expect(judged).to_contain_text("Blown: L2")
    expect(judged).to_contain_text("The motor has single-phased since")
    expect(judged).to_contain_text("nameplate which fuses the drawing wants")
    expect(page.locator("[data-fuse='2']")).to_have_attribute("data-state", "blown")
    expect(page.locator("#f-ohms_2")).to_have_value("OL")
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Saskia Arrowood")
    set_page(page, stack, "CAFE-08")
    ready = page.get_by_test_id("ready")
    expect(ready).to_contain_text("are not on record yet")
    expect(ready.locator("[data-line=insulation]")).to_contain_text("Nothing on record")
    expect(ready.locator("[data-line=shaft]")).to_contain_text("Nothing on record")
    ready.locator("[data-line=ohms]").get_by_role("link", name="Measure resistance").click()
    page.wait_for_url("**/ohms")


def test_a_second_one_without_a_cause_is_a_stop_that_a_technician_cannot_sign(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("saskia", phone=True)
    for _ in range(2):
        set_page(page, stack, "CAFE-08", "/fuses")
        page.get_by_role("button", name=SEEN).click()
        page.get_by_label("Fuses as").select_option("found")
        page.locator("#f-ohms_1").fill("OL")
        page.locator("#f-ohms_1").blur()
        answered(page)
        if _:
            break
        page.get_by_role("button", name="Save record").click()
        expect(newest(page).first).to_contain_text("Saskia Arrowood")
    judged = page.get_by_test_id("judged")
    expect(judged).to_contain_text("without a cause found")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.get_by_label("Signed as").select_option("licensed")
    page.get_by_label("Signed by").fill("R. Okabe")
    answered(page)
    expect(judged).to_contain_text("signed by R. Okabe")
    page.get_by_role("button", name="Save record").click()
    expect(page.get_by_text("This needs lead rights").or_(page.get_by_text("lead")).first).to_be_visible()
    expect(page.get_by_label("Signed by")).to_have_value("R. Okabe")


def test_fuses_are_fitted_as_a_part_and_their_nameplate_is_what_is_wanted(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("ines")
    set_page(page, stack, "MAKE-83", "/parts")
    place = page.locator("[data-slot=supply]")
    expect(place).to_contain_text("no part fitted")
    place.get_by_role("button", name="Fit part").click()
    place.locator(".btn-ink").click()
    expect(place).to_contain_text("MAKE-83 fuses")
    place.get_by_role("button", name="Enter nameplate").click()
    place.get_by_label("Class", exact=True).select_option("gG")
    place.get_by_label("Delay", exact=True).select_option("delay")
    place.get_by_label("Rating", exact=True).fill("16")
    place.get_by_label("Voltage", exact=True).fill("500")
    place.get_by_label("Clips", exact=True).select_option("carrier")
    place.get_by_role("button", name="Save nameplate").click()
    expect(place.get_by_role("button", name="version 1")).to_be_visible()
    set_page(page, stack, "MAKE-83", "/fuses")
    page.get_by_role("button", name=SEEN).click()
    page.locator("#f-amps_1").fill("20")
    answered(page)
    page.reload()
    page.get_by_role("button", name=SEEN).click()
    expect(page.get_by_text("Per drawing:")).to_contain_text("16")
    expect(page.get_by_test_id("judged")).to_contain_text("Fuses, same for same: act")
