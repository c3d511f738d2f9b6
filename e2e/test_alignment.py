"""The alignment bench as it is used: readings at the clock, the drawings, what each foot asks for, on record, trended."""

from __future__ import annotations

import re

from conftest import Opener, Stack, answered, set_page
from playwright.sync_api import Page, expect


def type_all(page: Page, **figures: str) -> None:
    for name, text in figures.items():
        page.locator(f"#a-{name}").fill(text)


def test_from_feeler_to_feet_to_record(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "KELP-22", "/alignment")
    expect(page.get_by_test_id("gate")).to_contain_text("Work at the coupling is not offered now")
    page.get_by_role("button", name="It was read all the same").click()
    expect(page.get_by_label("Cautions")).to_contain_text("Hands at the coupling only on a set made safe for that")
    expect(page.get_by_role("img", name="From the side: not read")).to_be_visible()
    type_all(page, face_diameter="150", x_front="200", x_rear="500", step_12="0.20", step_6="-0.20", gap_12="3.30", gap_6="3.00")
    answered(page)
    expect(page.get_by_test_id("judged")).to_contain_text("Only the up and down is known")
    type_all(page, step_3="flush", step_9="0", gap_3="3.1", gap_9="3.1")
    page.reload()
    page.get_by_role("button", name="It was read all the same").click()
    answered(page)
    expect(page.locator("[data-value=front_v]")).to_have_text(re.compile("0.200"))
    expect(page.locator("[data-value=rear_v]")).to_have_text(re.compile("0.800"))
    found = page.locator("[data-question=alignment_angle]")
    expect(found).to_have_attribute("data-verdict", "act")
    found.get_by_role("button").first.click()
    expect(found).to_contain_text("excellent")
    page.locator("#a-x_rear").fill("150")
    expect(page.get_by_test_id("problems")).to_contain_text("The rear feet lie further back than the front ones.")
    page.locator("#a-x_rear").fill("500")
    answered(page)
    page.keyboard.press("Control+Enter")
    expect(page.locator(".hist li").first).to_contain_text("Alignment")
    page.goto(page.url + "/alignment")
    page.get_by_role("button", name="It was read all the same").click()
    expect(page.locator("#a-face_diameter")).to_have_value("150")  # asked once
    expect(page.locator("#a-step_12")).to_have_value("")


def test_dials_that_are_not_one_shaft_and_a_phone(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun", phone=True)
    set_page(page, stack, "KELP-21")
    expect(page.locator("[data-measurand=align_offset_v]").first).to_be_visible()
    page.get_by_role("link", name="Alignment", exact=True).tap()
    page.get_by_role("button", name="It was read all the same").tap()
    page.get_by_label("Read with").select_option("rim_face")
    page.locator("#a-rim_3").tap()
    for key in ("±", "0", ".", "1"):
        page.get_by_role("group", name="Keypad").get_by_role("button", name=key, exact=True).tap()
    expect(page.locator("#a-rim_3")).to_have_value("-0.1")
    page.get_by_role("button", name="next", exact=True).tap()
    expect(page.locator("#a-rim_6")).to_be_focused()
    for name, text in (("rim_6", "-0.3"), ("rim_9", "0.5")):
        page.locator(f"#a-{name}").fill(text)
    expect(page.get_by_test_id("problems")).to_contain_text("These four are not one shaft: a loose bracket, a slipped dial, or a sign.")
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1")


def test_a_set_without_a_coupling_does_not_offer_it(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "LIFT-61")
    expect(page.get_by_role("link", name="Insulation test")).to_be_visible()
    expect(page.get_by_role("link", name="Alignment", exact=True)).to_have_count(0)
