"""Passwords, sign-ins and tokens on the screen: what an admin gives, and what it opens."""

from __future__ import annotations

import json
import re
import urllib.error
import urllib.request
from collections.abc import Callable

import pytest
from conftest import WORD, Stack, send, told
from playwright.sync_api import Browser, Page, expect

Opener = Callable[..., Page]
# A password is hashed for a second, and for several where two browsers share the machine.
HASHED_MS = 40_000
ONCE, OWN = "first-of-many-9", "otters-in-the-filter-3"


def admin_at_people(open_as: Opener) -> Page:
    page = open_as("ines", "/register")
    expect(page.get_by_role("heading", name="People")).to_be_visible()
    return page


@pytest.fixture
def noor(open_as: Opener) -> str:
    """Somebody of the test's own: nobody else's sign-in is touched."""
    admin = open_as("ines", "/")
    site = told(admin, "/api/v1/sites")[0]["id"]
    if not any(p["username"] == "noor" for p in told(admin, f"/api/v1/sites/{site}/people")):
        body = {"username": "noor", "full_name": "Noor Valdez", "role": "technician", "password": ONCE}
        send(admin, f"/api/v1/sites/{site}/people", body)
    return "noor"


def sign_in(page: Page, name: str, word: str) -> None:
    page.get_by_label("User name").fill(name)
    page.get_by_label("Password").fill(word)
    page.get_by_role("button", name="Sign in").click()


def fresh(browser: Browser, stack: Stack) -> Page:
    page = browser.new_context(viewport={"width": 390, "height": 844}).new_page()
    page.goto(stack.url)
    return page


def doing(page: Page, name: str) -> None:
    """Open what can be done to this sign-in."""
    row = page.locator(f"[data-person={name}]").locator("xpath=..")
    row.locator("summary").click()


def test_a_password_that_an_admin_made_opens_its_change_and_then_the_plant(
    stack: Stack, open_as: Opener, browser: Browser, noor: str
) -> None:
    admin = admin_at_people(open_as)
    doing(admin, noor)
    admin.get_by_role("button", name="Reset password").click()
    said = admin.get_by_text("Password for one sign-in:")
    expect(said).to_be_visible(timeout=HASHED_MS)
    word = re.search(r"one sign-in: (\S+)", said.inner_text())
    assert word is not None
    page = fresh(browser, stack)
    sign_in(page, noor, "not-" + word[1])
    expect(page.get_by_text("Wrong user name or password.")).to_be_visible(timeout=HASHED_MS)
    sign_in(page, noor, word[1])
    expect(page.get_by_role("heading", name="Choose your own password")).to_be_visible(timeout=HASHED_MS)
    page.reload()
    expect(page.get_by_role("heading", name="Choose your own password")).to_be_visible()
    page.get_by_label("Password now").fill(word[1])
    page.get_by_label("New password").fill("short")
    page.get_by_role("button", name="Change password").click()
    expect(page.get_by_text("too short")).to_be_visible()
    expect(page.get_by_label("Password now")).to_have_value(word[1])
    page.get_by_label("New password").fill(OWN)
    page.get_by_role("button", name="Change password").click()
    expect(page.get_by_role("heading", name="Choose your own")).not_to_be_visible(timeout=HASHED_MS)
    expect(page.locator("summary", has_text="Noor Valdez")).to_be_visible(timeout=HASHED_MS)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.context.close()


def test_one_s_own_password_is_changed_on_a_phone_and_ends_the_other_session(
    stack: Stack, browser: Browser, noor: str
) -> None:
    here, there = fresh(browser, stack), fresh(browser, stack)
    for page in (here, there):
        sign_in(page, noor, OWN)
        expect(page.locator("summary", has_text="Noor Valdez")).to_be_visible(timeout=HASHED_MS)
    here.locator("summary", has_text="Noor Valdez").click()
    here.get_by_role("link", name="Your sign-in").click()
    here.get_by_label("Password now").fill("not-mine-at-all-1")
    here.get_by_label("New password").fill(OWN + "4")
    here.keyboard.press("Enter")
    expect(here.get_by_text("This is not your password now.")).to_be_visible(timeout=HASHED_MS)
    here.get_by_label("Password now").fill(OWN)
    here.keyboard.press("Enter")
    expect(here.get_by_text("Every other session of yours has ended.")).to_be_visible(timeout=HASHED_MS)
    assert here.evaluate("document.documentElement.scrollWidth") <= 390
    there.goto(f"{stack.url}/stores")
    expect(there.get_by_role("button", name="Sign in")).to_be_visible()
    here.get_by_role("button", name="Sign out everywhere else").click()
    expect(here.get_by_text("0 sessions ended.")).to_be_visible()
    here.get_by_label("Password now").fill(OWN + "4")
    here.get_by_label("New password").fill(OWN)
    here.get_by_role("button", name="Change password").click()
    expect(here.get_by_text("Every other session of yours has ended.")).to_be_visible(timeout=HASHED_MS)
    for page in (here, there):
        page.context.close()


def test_a_sign_in_taken_away_is_shut_until_it_is_given_back(
    stack: Stack, open_as: Opener, browser: Browser, noor: str
) -> None:
    admin = admin_at_people(open_as)
    doing(admin, noor)
    admin.get_by_role("button", name="Take sign-in away").click()
    expect(admin.get_by_text("Can no longer sign in.")).to_be_visible()
    page = fresh(browser, stack)
    sign_in(page, noor, OWN)
    expect(page.get_by_text("Wrong user name or password.")).to_be_visible(timeout=HASHED_MS)
    admin.get_by_role("button", name="Give sign-in back").click()
    expect(admin.get_by_text("Can sign in again.")).to_be_visible()
    sign_in(page, noor, OWN)
    expect(page.locator("summary", has_text="Noor Valdez")).to_be_visible(timeout=HASHED_MS)
    admin.reload()
    expect(admin.get_by_text("Sign-in: open, 1 session").first).to_be_visible()
    page.context.close()


def asked(stack: Stack, path: str, key: str) -> tuple[int, object]:
    head = {"Authorization": f"Bearer {key}"}
    try:
        with urllib.request.urlopen(urllib.request.Request(stack.url + path, headers=head)) as answer:
            return answer.status, json.loads(answer.read())
    except urllib.error.HTTPError as error:
        return error.code, json.loads(error.read())


def test_a_token_reads_its_site_until_it_is_ended(stack: Stack, open_as: Opener) -> None:
    page = admin_at_people(open_as)
    page.get_by_label("What it is for").fill("Pump room logger")
    page.get_by_label("May", exact=True).select_option("viewer")
    page.get_by_role("button", name="Make token").click()
    said = page.get_by_text("Shown once, kept nowhere:")
    expect(said).to_be_visible(timeout=HASHED_MS)
    key = said.inner_text().split()[-1]
    row = page.locator('[data-token="Pump room logger"]')
    expect(row).to_contain_text("viewer, by Ines Karlo")
    expect(row).to_contain_text("never used")
    site = told(page, "/api/v1/sites")[0]["id"]
    status, plant = asked(stack, f"/api/v1/sites/{site}/plant", key)
    assert status == 200, plant
    assert asked(stack, f"/api/v1/sites/{site}/people", key)[0] == 403
    page.reload()
    expect(row).to_contain_text("last used")
    expect(page.get_by_text("Shown once")).not_to_be_visible()
    row.get_by_role("button", name="End").click()
    expect(row.get_by_role("button", name="End")).not_to_be_visible()
    assert asked(stack, f"/api/v1/sites/{site}/plant", key)[0] == 401


def test_who_is_no_admin_sees_neither(open_as: Opener) -> None:
    page = open_as("saskia", "/register")
    expect(page.get_by_role("heading", name="Register")).to_be_visible()
    for name in ("People", "Tokens for scripts"):
        expect(page.get_by_role("heading", name=name)).not_to_be_visible()
    assert WORD not in page.content()
