"""Ohms by hand: blocked until proved dead, then pair by pair; the odd winding is named."""

from __future__ import annotations

from conftest import Opener, Stack, answered, given_back, made_safe, newest, set_page
from playwright.sync_api import Page, expect

SEEN = "Enter readings already taken"


def pairs(page: Page, *ohms: str) -> None:
    for name, value in zip(("pair_12", "pair_23", "pair_31"), ohms, strict=True):
        page.locator(f"#f-{name}").fill(value)
    answered(page)


def test_the_odd_winding_of_a_delta_is_named_and_an_open_one_is_a_stop(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "PALM-44", "/ohms")
    expect(page.get_by_test_id("gate")).to_contain_text("Prove dead first")
    page.get_by_role("button", name=SEEN).click()
    judged = page.get_by_test_id("judged")
    pairs(page, "8.10", "8.11", "8.10")
    expect(judged).to_contain_text("prove it dead first")
    number = made_safe(page, stack, "PALM-44")
    set_page(page, stack, "PALM-44", "/ohms")
    page.get_by_label("Measured at").select_option("motor")
    page.get_by_label("Windings", exact=True).select_option("delta")
    page.get_by_label("Test leads", exact=True).select_option("subtract")
    page.locator("#f-leads").fill("0.12")
    page.locator("#f-winding").fill("22")
    pairs(page, "8.10", "8.11", "7.53")
    page.locator("#f-ground_1").fill("OL")
    answered(page)
    page.reload()
    expect(judged).to_contain_text("Winding resistance: watch")
    expect(judged).to_contain_text("L3-L1")
    expect(page.locator("[data-winding='L3-L1']")).to_have_text("10.6 Ω")
    expect(page.locator("#f-pair_31")).to_have_value("7.53")
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Saskia Arrowood")
    page.reload()
    expect(page.get_by_text("off the mean at L3-L1").first).to_be_visible()
    set_page(page, stack, "PALM-44", "/ohms")
    pairs(page, "16.0", "8.0", "8.0")
    expect(judged).to_contain_text("the winding across it is open")
    expect(page.locator("[data-winding='L1-L2']")).to_have_text("open")
    pairs(page, "", "", "")
    page.get_by_label("Measured on").select_option("contacts")
    page.get_by_label("Test leads", exact=True).select_option("zeroed")
    for n in ("1", "2", "3"):
        page.locator(f"#f-pole_{n}").fill("0.14")
    answered(page)
    expect(judged).to_contain_text("millivolts under load")
    expect(judged).to_contain_text("unknown")
    for n in ("1", "2", "3"):
        page.locator(f"#f-pole_{n}").fill("")
    page.get_by_label("Measured on").select_option("sensors")
    page.get_by_label("Motor to the touch").select_option("cold")
    page.get_by_label("Thermistors in series").select_option("3")
    page.get_by_label("Leads disconnected from the relay").check()
    page.get_by_label("Ohmmeter tests with 2.5 V or less").check()
    page.locator("#f-thermistor").fill("1900")
    answered(page)
    page.reload()
    expect(judged).to_contain_text("1900 Ω on a cold motor: the relay trips without cause")
    page.locator("#f-thermistor").fill("212")
    answered(page)
    expect(judged).to_contain_text("Thermistor string: good")
    given_back(page, number)


def test_on_a_phone_the_diodes_of_a_drive_are_read_leg_by_leg(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia", phone=True)
    set_page(page, stack, "COLD-32", "/ohms")
    page.get_by_role("button", name=SEEN).click()
    page.get_by_label("Measured on").select_option("drive")
    judged = page.get_by_test_id("judged")
    page.locator("#f-bus").fill("208.2")
    page.locator("#f-bus_first").fill("566")
    page.locator("#f-bus_between").fill("97.2")
    answered(page)
    expect(judged).to_contain_text("Drive, DC bus: stop")
    expect(page.locator("[data-value=wait]")).to_contain_text("139 s")
    page.locator("#f-bus").fill("4")
    page.locator("#f-plus_v").fill("0.01")
    answered(page)
    page.reload()
    page.get_by_role("button", name=SEEN).click()
    expect(judged).to_contain_text("Shorted diode: V to DC+")
    expect(page.locator("#f-plus_v")).to_have_value("0.01")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
