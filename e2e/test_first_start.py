"""A motor that came in: a stop at its fitting where it is for another supply, and the list before a start."""

from __future__ import annotations

from conftest import Opener, Stack, answered, newest, set_page, type_check
from playwright.sync_api import Page, expect

TAG = "SAND-52"


def fit(page: Page, stack: Stack, part: str, name: str = "") -> None:
    set_page(page, stack, TAG, "/parts")
    motor = page.locator("[data-slot=motor]")
    motor.get_by_role("button", name="Replace part").click()
    motor.get_by_label("Part to fit").select_option(label=part)
    if name:
        motor.get_by_label("Part name").fill(name)
    motor.get_by_role("button", name="Fit part").click()


def checked(page: Page, stack: Stack) -> None:
    """A running check says what this position is supplied with."""
    set_page(page, stack, TAG, "/running-check")
    seen = page.get_by_role("button", name="Enter readings already taken")
    expect(seen.or_(page.locator("#f-volts_12"))).to_be_visible()
    if seen.count():
        seen.click()
    type_check(page, ("401", "400", "399"), ("61", "60", "61"))
    page.get_by_label("Read at").select_option("starter")
    page.get_by_label("Valve", exact=True).select_option("open")
    page.get_by_label("Coupled").select_option("true")
    answered(page)
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Teodor Mbeki-Lund")


def test_a_motor_for_another_supply_is_a_stop_and_nothing_starts_before_its_list(
    open_as: Opener, stack: Stack
) -> None:
    checked(open_as("teodor"), stack)
    page = open_as("ines")
    fit(page, stack, "new part", "spare of the old hall")
    motor = page.locator("[data-slot=motor]")
    # While the form is there it names every spare: only without it the part that stands there is meant.
    form = motor.get_by_label("Part to fit")
    expect(form).to_have_count(0)
    expect(motor).to_contain_text("spare of the old hall")
    motor.get_by_role("button", name="Enter nameplate").click()
    motor.get_by_label("Nameplate voltage", exact=True).fill("230")
    motor.get_by_label("Nameplate current (FLA)", exact=True).fill("90")
    motor.get_by_role("button", name="Save nameplate").click()
    expect(motor.get_by_role("button", name="version 1")).to_be_visible()
    tech = open_as("saskia", phone=True)
    for _ in range(2):
        set_page(tech, stack, TAG)
        ready = tech.get_by_test_id("ready")
        expect(ready).to_contain_text(
            "This motor waits for its first start here: 7 of 7 are not on record yet"
        )
        expect(ready.locator("[data-line=supply]")).to_contain_text(
            "the motor is made for 230 V: do not connect it"
        )
        expect(ready.locator("[data-line=leads]")).to_contain_text("Nothing on record")
    ready.locator("[data-line=direction]").get_by_role("link", name="Prove the direction").click()
    expect(tech.get_by_test_id("gate")).to_contain_text("This motor has not run here yet")
    assert tech.evaluate("document.documentElement.scrollWidth") <= 390
    # The right one back, then the other once more: now it is known at the fitting.
    fit(page, stack, f"{TAG} motor")
    expect(form).to_have_count(0)
    expect(motor).to_contain_text(f"{TAG} motor")
    fit(page, stack, "spare of the old hall")
    expect(motor.get_by_role("alert")).to_contain_text("Stop. This position is supplied with")
    expect(motor.get_by_role("alert")).to_contain_text("do not connect it")
    page.reload()
    expect(page.locator("[data-slot=motor]")).to_contain_text(f"{TAG} motor")
    fit(page, stack, "spare of the old hall")
    page.get_by_role("button", name="It stands there already").click()
    expect(form).to_have_count(0)
    expect(page.locator("[data-slot=motor]")).to_contain_text("spare of the old hall")
    set_page(page, stack, TAG)
    expect(page.locator(".hist")).to_contain_text("do not connect it")
    fit(page, stack, f"{TAG} motor")
    expect(form).to_have_count(0)
