"""The control circuit: led by its probe to what is open, and told whether it is right to be open."""

from __future__ import annotations

from conftest import Opener, Stack, answered, newest, set_page
from playwright.sync_api import Page, expect


def enter(page: Page, at: str, value: str, kind: str = "volts") -> None:
    page.locator(f"[id='f-{kind}:{at}']").fill(value)
    answered(page)


def test_an_open_interlock_is_named_and_judged_by_its_process_value(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "MAKE-84", "/control")
    page.get_by_role("button", name="Confirm or edit control circuit").click()
    page.get_by_label("Name of L").fill("Tank level")
    page.get_by_label("Tank level, opens").select_option("below")
    page.get_by_label("Tank level, set point").fill("1.2")
    page.get_by_label("Tank level, unit").fill("m")
    page.get_by_label("Tank level, band").fill("0.1")
    page.get_by_role("button", name="Confirm control circuit").click()
    expect(page.get_by_text("Tank level").first).to_be_visible()
    page.get_by_label("Selector").select_option("auto")
    page.get_by_label("Contactor").select_option("out")
    page.get_by_label("Called to run").check()
    page.get_by_label("Meter proved before and after").check()
    expect(page.locator("[data-next=source]")).to_be_visible()
    enter(page, "source", "111")
    for _ in range(5):
        asked = page.locator("[data-next]")
        if asked.count() == 0:
            break
        at = asked.get_attribute("data-next") or ""
        above = ["F", "E", "P", "H", "A"]
        page.locator(f"[id='f-volts:{at}']").focus()
        page.keyboard.type("110" if at in above else "0")
        page.keyboard.press("Enter")
        answered(page)
        page.wait_for_timeout(300)
    judged = page.get_by_test_id("judged")
    expect(judged).to_contain_text("Open: Tank level. Enter its process value")
    page.get_by_role("radio", name="process value").click()
    enter(page, "L", "1.9", "value")
    page.reload()
    expect(judged).to_contain_text("by its process value it should be closed")
    expect(page.locator("[data-element=L]")).to_have_attribute("data-named", "true")
    page.locator("#jumper").fill("terminals 14 and 15")
    answered(page)
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Saskia Arrowood")
    page.reload()
    set_page(page, stack, "MAKE-84")
    expect(page.get_by_text("terminals 14 and 15").first).to_be_visible()


def test_on_a_phone_both_coils_at_once_are_a_stop(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun", phone=True)
    set_page(page, stack, "BOIL-03", "/control")
    page.get_by_role("radio", name="across it").click()
    page.locator("[id='f-across:K']").tap()
    expect(page.get_by_role("group", name="Keypad")).to_be_visible()
    enter(page, "K", "109", "across")
    page.get_by_text("Coil and cable").click()
    page.locator("#f-other_coil").fill("107")
    answered(page)
    expect(page.get_by_test_id("judged")).to_contain_text("Both coils of a reversing pair")
    page.reload()
    expect(page.get_by_test_id("judged")).to_contain_text("Coils of a reversing pair: stop")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
