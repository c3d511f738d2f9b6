"""The overload's dial against this motor, the sizes beside it, and what a running check makes of it."""

from __future__ import annotations

from conftest import Opener, Stack, answered, newest, set_page, type_check
from playwright.sync_api import Page, expect

SEEN = "Enter readings already taken"


def typed(page: Page, **figures: str) -> None:
    for name, text in figures.items():
        page.locator(f"#f-{name}").fill(text)
    page.locator("#f-dial").blur()
    answered(page)


def test_a_dial_left_from_another_motor_is_found_here_and_by_the_next_running_check(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("teodor")
    set_page(page, stack, "COLD-35", "/protection")
    page.get_by_label("Overload", exact=True).select_option("thermal")
    typed(page, dial="9", loops="0")
    expect(page.get_by_text("it is never 0, nor part of one")).to_be_visible()
    judged = page.get_by_test_id("judged")
    typed(page, dial="5", loops="1")
    expect(judged).to_contain_text("Enter trip ÷ dial from the manufacturer's sheet")
    page.get_by_label("Current transformers").select_option("none")
    page.get_by_label("Trip class").select_option("10")
    typed(page, dial="9", multiplier="1.2", start_amps="30", start_seconds="1.1", stall_seconds="12")
    for _ in range(2):
        expect(judged).to_contain_text("Overload setting: act")
        expect(judged).to_contain_text("trips at 10.8 A in the line, 230 % of nameplate")
        expect(judged).to_contain_text("It protects the wire, not the motor.")
        expect(page.locator("[data-due]")).to_contain_text("belongs at 4.70 A")
        page.reload()
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Teodor Mbeki-Lund")
    set_page(page, stack, "COLD-35", "/running-check")
    seen = page.get_by_role("button", name=SEEN)
    expect(seen.or_(page.locator("#f-volts_12"))).to_be_visible()
    if seen.count():
        seen.click()
    type_check(page, ("400", "401", "399"), ("3.1", "3.1", "3.0"))
    answered(page)
    expect(judged).to_contain_text("Overload against this motor: act")
    expect(judged).to_contain_text("Overload last set to trip at 10.8 A: 230 % of this motor's nameplate")


def test_on_a_phone_sizes_and_the_busiest_hour_stand_beside_what_was_typed(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("saskia", phone=True)
    set_page(page, stack, "SAND-53", "/protection")
    page.get_by_label("Short-circuit device", exact=True).select_option("delay")
    page.locator("#f-short_amps").fill("25")
    page.locator("#f-table_amps").fill("13.8")
    page.get_by_label("Read from the code's table").check()
    page.get_by_label("Starts, from the log").fill("06:00 06:04 06:09 06:15 06:21 06:30 06:44")
    page.locator("#f-starts_most").fill("6")
    page.locator("#f-starts_most").blur()
    answered(page)
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(page.locator("[data-size=delay]")).to_contain_text("next size 25.0 A")
        expect(page.locator("[data-size=breaker]")).to_contain_text("next size 35.0 A")
        expect(judged).to_contain_text("Starts an hour: act")
        expect(judged).to_contain_text("Most in one hour: 7 of 6 allowed")
        assert page.evaluate("document.documentElement.scrollWidth") <= 390
        page.reload()
    page.get_by_label("Starts, from the log").fill("06:00 soon")
    expect(page.get_by_text("“soon” is no time").first).to_be_visible()
