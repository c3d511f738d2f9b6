"""Which way it turns: a direction without a bump, a drive and its bypass, two leads exchanged and where."""

from __future__ import annotations

from conftest import Opener, Stack, answered, newest, set_page
from playwright.sync_api import Page, expect


def opened(page: Page, stack: Stack, tag: str) -> None:
    set_page(page, stack, tag, "/direction")
    looked(page)


def looked(page: Page) -> None:
    seen = page.get_by_role("button", name="Enter a direction already seen")
    expect(seen.or_(page.get_by_label("Proved by"))).to_be_visible()
    if seen.count():
        seen.click()


def told(page: Page) -> None:
    page.get_by_label("Arrow on the casing").select_option("cw")
    page.get_by_label("Seen from").select_option("drive_end")
    page.get_by_label("Threaded impeller or line shaft").select_option("no")
    page.get_by_label("One direction only").select_option("no")
    page.get_by_label("Turns backwards with its power off").select_option("no")


def first(page: Page) -> None:
    """Everything that stands before a bump."""
    for label in (
        "Turned by hand, a full turn",
        "Guard on, or uncoupled with the key secured",
        "Nobody in the plane of the coupling",
        "Leads and insulation passed",
        "Filled and vented, suction full, valves set",
    ):
        page.get_by_label(label).check()


def test_flow_is_no_proof_and_against_the_arrow_two_leads_are_exchanged_and_seen_again(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("saskia")
    opened(page, stack, "PALM-44")
    told(page)
    judged = page.get_by_test_id("judged")
    page.get_by_label("Proved by").select_option("flow")
    page.get_by_role("group", name="when started, seen").get_by_role("button", name="with the arrow").click()
    expect(judged).to_contain_text("Flow is no proof")
    page.get_by_label("Proved by").select_option("bump")
    expect(judged).to_contain_text("A direction was entered without a bump")
    page.get_by_label("Bumped").check()
    expect(judged).to_contain_text("Bumped without: Turned by hand, a full turn")
    first(page)
    page.get_by_role("group", name="when started, seen").get_by_role("button", name="against it").click()
    answered(page)
    expect(judged).to_contain_text("Exchange any two leads in the terminal box or below the contactor")
    page.get_by_label("Exchanged", exact=True).last.select_option("L1-L2")
    page.get_by_label("Exchanged where").select_option("motor")
    page.get_by_role("group", name="when started, first seen").get_by_role(
        "button", name="against it"
    ).click()
    page.get_by_role("group", name="when started, now").get_by_role("button", name="with the arrow").click()
    answered(page)
    for _ in range(2):
        expect(judged).to_contain_text("Direction of rotation: good")
        expect(judged).to_contain_text("Exchanged L1-L2 in the terminal box.")
        expect(page.locator("[data-mode=in]")).to_have_attribute("data-now", "with")
        page.reload()
        looked(page)
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Saskia Arrowood")


def test_on_a_phone_a_threaded_impeller_turned_backwards_is_a_stop(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun", phone=True)
    opened(page, stack, "LAG-14")
    told(page)
    page.get_by_label("Threaded impeller or line shaft").select_option("yes")
    page.get_by_label("Proved by").select_option("bump")
    page.get_by_label("Bumped").check()
    page.get_by_role("group", name="on the drive, seen").get_by_role("button", name="against it").tap()
    answered(page)
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(judged).to_contain_text("it has unscrewed")
        expect(page.locator("[data-place=drive_out]")).to_be_visible()
        expect(page.locator("[data-place=drive_in]")).to_contain_text("turns nothing round")
        assert page.evaluate("document.documentElement.scrollWidth") <= 390
        page.reload()
        looked(page)
