"""The shaft by hand: isolated and proved first, then each half: it tells motor from pump from gap."""

from __future__ import annotations

from conftest import Opener, Stack, answered, given_back, made_safe, newest, set_page
from playwright.sync_api import Page, expect


def felt(page: Page, part: str, feel: str) -> None:
    page.locator(f"[data-part={part}]").get_by_role("radio", name=feel).click()


def test_bound_together_and_free_apart_it_is_the_gap(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "PALM-43", "/shaft")
    gate = page.get_by_test_id("gate")
    expect(gate).to_contain_text("Prove dead first")
    number = made_safe(page, stack, "PALM-43")
    set_page(page, stack, "PALM-43", "/shaft")
    page.get_by_role("button", name="Enter what was felt already").click()
    page.get_by_label("Turned with").select_option("strap")
    felt(page, "coupled", "locked")
    page.locator("#f-turns").fill("0")
    answered(page)
    judged = page.get_by_test_id("judged")
    expect(judged).to_contain_text("The shaft is locked")
    expect(judged).to_contain_text("Uncouple and turn each half")
    felt(page, "motor_half", "free")
    felt(page, "pump_half", "free")
    page.locator("#f-turns").fill("1")
    page.locator("#f-gap").fill("0.4")
    answered(page)
    page.reload()
    page.get_by_role("button", name="Enter what was felt already").click()
    expect(judged).to_contain_text("Free apart, bound together")
    expect(page.locator("[data-binds=coupling]")).to_be_visible()
    expect(page.locator("#f-gap")).to_have_value("0.4")
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Saskia Arrowood")
    page.reload()
    expect(page.get_by_text("The shaft is locked").first).to_be_visible()
    set_page(page, stack, "PALM-43", "/shaft")
    page.get_by_role("button", name="Enter what was felt already").click()
    felt(page, "coupled", "free")
    page.locator("#f-turns").fill("2")
    answered(page)
    expect(judged).to_contain_text("evenly, all the way round")
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Saskia Arrowood")
    given_back(page, number)
