"""No good without ground, as a technician meets it: what is missing is asked for, a stop says what ends it,
one run is released."""

from __future__ import annotations

import re

from conftest import Opener, Stack, answered, newest, set_page, type_check
from playwright.sync_api import Page, expect

VOLTS = ("401", "400", "399")


def state(page: Page, **values: str) -> None:
    for label, value in values.items():
        page.get_by_label(label.replace("_", " "), exact=True).select_option(value)


def test_what_is_not_entered_is_asked_for_and_never_good(open_as: Opener, stack: Stack) -> None:
    page = open_as()
    set_page(page, stack, "LAG-12", "/running-check")
    state(page, Read_at="motor_leads")
    type_check(page, VOLTS, ("45.1", "45.2", "45.0"))
    answered(page)
    load = page.locator("[data-question=load]")
    expect(load).to_have_attribute("data-verdict", "unknown")
    expect(load).to_contain_text("Enter the valve position")
    expect(page.get_by_label("Still missing")).to_contain_text("coupled or uncoupled")
    page.reload()
    answered(page)
    expect(load).to_have_attribute("data-verdict", "unknown")
    expect(page.locator("#f-amps_2")).to_have_value("45.2")
    state(page, Valve="open", Coupled="true")
    answered(page)
    expect(load).to_have_attribute("data-verdict", "good")
    state(page, Guard="off")
    answered(page)
    guard = page.locator("[data-question=guard_while_running]")
    expect(guard).to_have_attribute("data-verdict", "stop")
    expect(guard).to_contain_text("Guard on before it turns")


def test_a_stop_says_what_ends_it_and_a_lead_releases_one_watched_run(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun")
    set_page(page, stack, "LAG-12", "/running-check")
    state(page, Read_at="motor_leads", Valve="open", Coupled="true")
    type_check(page, VOLTS, ("72.1", "72.2", "72.0"))
    answered(page)
    expect(page.locator("[data-question=load]")).to_contain_text("% of nameplate current.")
    page.get_by_role("button", name="Save record").click()
    page.wait_for_url(re.compile(r"/sets/\d+$"))
    number = page.url.rsplit("/", 1)[1]
    set_page(page, stack, "LAG-12", "/vibration")
    expect(page.get_by_test_id("not-started")).to_contain_text("72.2 A on L2 is 130 % of nameplate current")
    page.get_by_role("link", name="What ends it").click()
    stops = page.get_by_test_id("stops")
    expect(stops).to_contain_text("A running check within nameplate current closes it")
    expect(stops).to_contain_text("waits for a recorded repair")
    page.get_by_role("button", name="Add event").click()
    page.get_by_label("Event", exact=True).select_option("pump_repair")
    page.get_by_label("What happened").fill("kelp cut out of the impeller")
    page.get_by_role("button", name="Add event").click()
    expect(stops).to_contain_text("A lead may release one watched trial run")
    expect(stops.get_by_role("button")).to_have_count(0)
    lead = open_as("teodor", f"/sets/{number}", phone=True)
    lead.get_by_role("button", name="release a trial run").click()
    lead.get_by_label("Limits at which it is stopped at once").fill("over 55 A on a leg, or any smoke")
    lead.get_by_label("Minutes, watched throughout").fill("90")
    lead.get_by_role("button", name="Release trial run").click()
    expect(lead.get_by_role("alert").last).to_contain_text("how many minutes")
    lead.get_by_label("Minutes, watched throughout").fill("10")
    lead.get_by_role("button", name="Release trial run").click()
    expect(lead.get_by_test_id("trial")).to_contain_text("over 55 A on a leg")
    assert lead.evaluate("document.documentElement.scrollWidth") <= 390
    set_page(page, stack, "LAG-12", "/running-check")
    expect(page.get_by_test_id("trial")).to_contain_text("over 55 A on a leg")
    expect(page.get_by_test_id("not-started")).to_have_count(0)
    state(page, Read_at="motor_leads", Valve="open", Coupled="true")
    type_check(page, VOLTS, ("44.1", "44.2", "44.0"))
    answered(page)
    page.get_by_role("button", name="Save record").click()
    page.wait_for_url(re.compile(r"/sets/\d+$"))
    expect(page.get_by_test_id("stops")).to_have_count(0)
    expect(newest(page).first).to_contain_text("Running check")


def test_without_a_connection_nothing_is_offered_and_what_was_typed_stays(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as()
    set_page(page, stack, "LAG-12", "/running-check")
    page.locator("#f-amps_1").fill("44.3")
    expect(page.get_by_test_id("gate-unknown")).to_have_count(0)
    page.context.set_offline(True)
    expect(page.get_by_test_id("gate-unknown")).to_contain_text("blocked until it is known")
    expect(page.locator("#f-amps_1")).to_have_value("44.3")
    page.context.set_offline(False)
    expect(page.get_by_test_id("gate-unknown")).to_have_count(0)
    expect(page.locator("#f-amps_1")).to_have_value("44.3")
