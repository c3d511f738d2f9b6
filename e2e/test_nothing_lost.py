"""Reload, lost connection, expired session, server and database gone: what was typed stays, and one record
comes of it.
"""

from __future__ import annotations

from conftest import WORD, Opener, Stack, answered, comes, on_device, set_page, type_check
from playwright.sync_api import Page, expect

VOLTS = ("401", "400", "399")


def typed(page: Page, stack: Stack, amps: tuple[str, ...]) -> int:
    set_page(page, stack, "OZON-71", "/running-check")
    type_check(page, VOLTS, amps)
    answered(page)
    return stack.records()


def test_a_reload_keeps_the_draft(open_as: Opener, stack: Stack) -> None:
    page = open_as()
    typed(page, stack, ("17.1", "17.2"))
    page.reload()
    expect(page.locator("#f-amps_2")).to_have_value("17.2")
    expect(page.get_by_text("Draft restored")).to_be_visible()
    page.get_by_role("button", name="Discard draft").click()
    expect(page.locator("#f-amps_2")).to_have_value("")


def test_a_lost_connection_sends_later_and_once(open_as: Opener, stack: Stack) -> None:
    page = open_as()
    before = typed(page, stack, ("17.1", "17.2", "17.3"))
    page.context.set_offline(True)
    page.get_by_role("button", name="Save record").click()
    expect(page.get_by_text("Stored on this device. Sending")).to_be_visible()
    expect(page.get_by_text("Server not reachable")).to_be_visible()
    assert stack.records() == before
    page.context.set_offline(False)
    page.wait_for_url("**/sets/*")
    assert stack.records() == before + 1


def test_server_gone_and_page_closed_before_it_is_back(open_as: Opener, stack: Stack) -> None:
    page = open_as()
    before = typed(page, stack, ("17.4", "17.2", "17.3"))
    stack.stop()
    try:
        page.get_by_role("button", name="Save record").click()
        expect(page.get_by_text("Stored on this device. Sending")).to_be_visible()
        comes(lambda: on_device(page), page)
        page.close(run_before_unload=False)
    finally:
        stack.start()
    again = open_context_page(open_as, page)
    again.goto(stack.url)
    again.wait_for_selector("[class*=_lane_]")
    comes(lambda: stack.records() == before + 1, again)


def open_context_page(open_as: Opener, closed: Page) -> Page:
    """Another page on the same device: its storage is the same."""
    return closed.context.new_page()


def test_database_gone_in_the_middle_of_a_save(open_as: Opener, stack: Stack) -> None:
    page = open_as()
    before = typed(page, stack, ("17.0", "17.2", "17.3"))
    stack.db.stop()
    try:
        page.get_by_role("button", name="Save record").click()
        expect(page.get_by_text("Server not reachable")).to_be_visible(timeout=15_000)
        expect(page.locator("#f-amps_1")).to_have_value("17.0")
    finally:
        stack.db.start(fast=True)
    page.wait_for_url("**/sets/*", timeout=30_000)
    comes(lambda: stack.records() == before + 1, page)
    assert not on_device(page)


def test_session_expires_in_mid_entry(open_as: Opener, stack: Stack) -> None:
    page = open_as()
    before = typed(page, stack, ("17.5", "17.2"))
    stack.db.sql("delete from base_session", database="hurbin_e2e")
    page.locator("#f-amps_3").fill("17.3")
    expect(page.get_by_text("Session expired")).to_be_visible()
    expect(page.locator("#f-amps_1")).to_have_value("17.5")
    page.get_by_label("Password").fill(WORD)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_text("Session expired")).to_have_count(0)
    page.locator("#f-amps_3").fill("17.4")
    answered(page)
    page.get_by_role("button", name="Save record").click()
    page.wait_for_url("**/sets/*")
    assert stack.records() == before + 1


def test_session_expires_just_before_the_save(open_as: Opener, stack: Stack) -> None:
    page = open_as()
    before = typed(page, stack, ("17.6", "17.2", "17.3"))
    stack.db.sql("delete from base_session", database="hurbin_e2e")
    page.get_by_role("button", name="Save record").click()
    expect(page.get_by_text("Session expired")).to_be_visible()
    assert stack.records() == before
    page.get_by_label("Password").fill(WORD)
    page.get_by_role("button", name="Sign in").click()
    page.wait_for_url("**/sets/*")
    assert stack.records() == before + 1


def test_a_disabled_person_is_told_and_keeps_what_was_typed(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun")
    typed(page, stack, ("17.7", "17.2", "17.3"))
    admin = open_as("ines", "/register")
    admin.locator("[data-person=jun]").get_by_role("button", name="End access").click()
    expect(admin.locator("[data-person=jun]").get_by_role("button", name="Restore access")).to_be_visible()
    page.get_by_role("button", name="Save record").click()
    expect(page.get_by_text("An admin has ended your access").first).to_be_visible()
    expect(page.locator("#f-amps_1")).to_have_value("17.7")
    admin.locator("[data-person=jun]").get_by_role("button", name="Restore access").click()
    expect(admin.locator("[data-person=jun]").get_by_role("button", name="End access")).to_be_visible()
