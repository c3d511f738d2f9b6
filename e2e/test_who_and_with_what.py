"""What a reading was taken with, and who may take one: the register of instruments and the qualifications."""

from __future__ import annotations

from conftest import (
    Opener,
    Stack,
    answered,
    chooses_a_password,
    newest,
    number_of,
    send,
    set_page,
    told,
    type_check,
)
from playwright.sync_api import Browser, Locator, Page, expect

VOLTS, AMPS = ("400", "401", "399"), ("9.0", "9.1", "9.0")
NEW = "a-quiet-lagoon-3"


def lane(page: Page, name: str) -> Locator:
    return page.locator(f"[role=listitem][data-name='{name}']")


def check(page: Page) -> None:
    type_check(page, VOLTS, AMPS)
    page.get_by_label("Read at").select_option("motor_leads")
    page.get_by_label("Valve", exact=True).select_option("open")
    page.get_by_label("Coupled").select_option("true")
    answered(page)


def test_an_overdue_clamp_is_no_ground_for_good_and_the_next_one_is(stack: Stack, open_as: Opener) -> None:
    lead = open_as("teodor", "/instruments")
    lead.get_by_role("button", name="Add instrument").click()
    form = lead.get_by_role("region", name="New instrument")
    form.get_by_label("Label").fill("Clamp 9")
    form.get_by_label("Kind").select_option("clamp_meter")
    form.get_by_label("Measurement category").select_option("III")
    form.get_by_label("current, up to", exact=True).fill("400")
    form.get_by_label("current, by steps of", exact=True).fill("0.1")
    form.get_by_label("In service since").fill("2026-01-05")
    form.get_by_role("button", name="Add to the register").click()
    expect(form).to_contain_text("Enter the voltage of its category")
    form.get_by_label("its voltage").fill("600")
    form.get_by_role("button", name="Add to the register").click()
    row = lane(lead, "Clamp 9")
    expect(row).to_contain_text("No calibration on record")
    row.get_by_role("button", name="Enter calibration").click()
    row.get_by_label("Calibrated on").fill("2025-10-01")
    row.get_by_label("Next due").fill("2026-10-01")
    row.get_by_role("button", name="Save calibration").click()
    expect(row).to_contain_text("overdue")
    lead.reload()
    expect(row).to_have_attribute("data-verdict", "act")
    expect(row).to_contain_text("CAT III 600 V")

    page = open_as()
    set_page(page, stack, "LIFT-62", "/running-check")
    check(page)
    expect(page.get_by_test_id("judged")).not_to_contain_text("calibration")
    line = page.locator("[data-question=line_voltage]")
    before = line.inner_text()
    page.get_by_role("button", name="Choose").click()
    page.get_by_role("group", name="current").get_by_role("button", name="Clamp 9").click()
    expect(page.get_by_test_id("judged")).to_contain_text("Clamp 9 was")
    expect(page.get_by_test_id("judged")).to_contain_text("past its calibration date")
    expect(page.get_by_test_id("judged")).to_contain_text("As read:")
    # Another day, another device: it is still in hand.
    again = open_as()
    set_page(again, stack, "LIFT-62", "/running-check")
    expect(again.locator("[data-instrument='Clamp 9']")).to_contain_text("overdue")
    page.get_by_role("group", name="current").get_by_role("button", name="Clamp 2").click()
    expect(page.get_by_test_id("judged")).not_to_contain_text("calibration")
    assert line.inner_text() == before
    page.get_by_role("button", name="Save record").click()
    page.wait_for_url("**/sets/*")
    newest(page).filter(has_text="Running check").first.get_by_role("link").first.click()
    page.wait_for_url("**/records/*")
    page.reload()
    expect(page.get_by_test_id("read-with")).to_have_text("Read with Clamp 2 (voltage), Clamp 2 (current)")


def test_on_a_phone_the_instruments_are_chosen_with_a_thumb(stack: Stack, open_as: Opener) -> None:
    page = open_as("jun", phone=True)
    set_page(page, stack, "LIFT-62", "/running-check")
    page.get_by_role("button", name="Choose").tap()
    hook = page.get_by_role("group", name="current").get_by_role("button", name="Clamp 1, workshop bench")
    box = hook.bounding_box()
    assert box is not None
    assert box["height"] >= 44
    hook.tap()
    expect(page.locator("[data-instrument='Clamp 1, workshop bench']")).to_contain_text("CAT II")
    page.get_by_role("button", name="Close", exact=True).tap()
    for n, amps in zip("123", AMPS, strict=True):
        page.locator(f"#f-amps_{n}").fill(amps)
    answered(page)
    expect(page.get_by_test_id("judged")).to_contain_text("Live parts of an installation need CAT III or IV")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    send(page, "/api/v1/sites/1/in-hand", {"reads": {"current": None}}, "PUT")


def test_without_a_qualification_live_tests_are_not_offered(
    stack: Stack, open_as: Opener, browser: Browser
) -> None:
    admin = open_as("ines", "/instruments")
    site = told(admin, "/api/v1/sites")[0]["id"]
    given = "given-by-an-admin-6"
    mara = {"username": "mara", "full_name": "Mara Oyelaran", "role": "technician", "password": given}
    send(admin, f"/api/v1/sites/{site}/people", mara)
    chooses_a_password(stack, browser, "mara", given, NEW)
    number = number_of(stack, "LIFT-62")
    page = open_as("mara", f"/sets/{number}/running-check", word=NEW)
    expect(page.get_by_text("No qualification in date for live tests")).to_be_visible()
    page.get_by_role("button", name="Enter readings already taken").click()
    check(page)
    page.get_by_role("button", name="Save record").click()
    page.wait_for_url(f"**/sets/{number}")
    expect(newest(page).first).to_contain_text("Mara Oyelaran")

    admin.reload()
    expect(lane(admin, "mara")).to_contain_text("none on record")
    admin.get_by_text("Enter a qualification").click()
    admin.get_by_label("Person").select_option("mara")
    admin.get_by_label("Issued on").fill("2026-10-01")
    admin.get_by_label("Valid through").fill("2029-09-30")
    admin.get_by_label("Certificate no.").fill("LT-0533")
    admin.get_by_role("button", name="Save qualification").click()
    expect(lane(admin, "mara")).to_contain_text("LT-0533")
    page.goto(f"{stack.url}/sets/{number}/running-check")
    expect(page.locator("#f-amps_1")).to_be_visible()
    expect(page.get_by_text("No qualification in date")).not_to_be_visible()
