"""A tablet that several people share: made by the lead, switched by PIN, and a lock that asks who holds
it.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from conftest import LINES, WORD, Stack, answered, number_of, send, set_page, told, type_check
from playwright.sync_api import Browser, Locator, Page, expect
from test_sign_ins import HASHED_MS, sign_in

PINS = {"Teodor Mbeki-Lund": "38620", "Saskia Arrowood": "5093", "Jun Belacqua": "7416"}
TAG = "COLD-34"


@pytest.fixture
def tablet(stack: Stack, browser: Browser) -> Iterator[Page]:
    """Made on the register by the lead with his password, and left to whoever comes."""
    context = browser.new_context(base_url=stack.url, viewport={"width": 820, "height": 1100}, has_touch=True)
    page = context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda e: errors.append(str(e)))
    page.goto("/register")
    sign_in(page, "teodor", WORD)
    expect(page.get_by_role("heading", name="Shared tablets")).to_be_visible(timeout=HASHED_MS)
    page.get_by_label("Where it hangs").fill("Pump room door")
    page.get_by_role("button", name="Make this browser a shared tablet").tap()
    expect(page.get_by_text("This browser is a shared tablet.")).to_be_visible()
    expect(page.locator("[data-tablet]").filter(has_text="(this one)")).to_contain_text("Pump room door")
    page.get_by_role("button", name="Switch person").tap()
    yield page
    context.close()
    assert errors == []


def types(page: Page | Locator, digits: str) -> None:
    for d in digits:
        page.get_by_role("button", name=d, exact=True).tap()


def comes_in(page: Page, name: str, pin: str = "") -> None:
    page.get_by_role("button", name=name).tap()
    types(page, pin or PINS[name])
    page.get_by_role("button", name="Come in").tap()


def is_in(page: Page, name: str) -> None:
    expect(page.locator("header summary")).to_have_text(name, timeout=HASHED_MS)


def switched(page: Page, name: str) -> None:
    page.get_by_role("button", name="Switch person").tap()
    comes_in(page, name)
    is_in(page, name)


def locks(page: Page, stack: Stack) -> list[str]:
    sources = told(page, f"/api/v1/sets/{number_of(stack, TAG)}/safety")["isolation"]["sources"]
    return [k["by"] for s in sources for k in s["locks"]]


def shut(page: Page, stack: Stack) -> None:
    """One source of the set is shut, from this tablet, and nothing is locked yet."""
    bodies = (
        {"kind": "open", "scope": "motor_leads", "sources": LINES},
        {"kind": "told", "to": "the keeper"},
        {"kind": "stopped"},
        {"kind": "shut", "source": "q1"},
    )
    at = told(page, "/api/v1/session")["now"]
    entries = [
        {"uuid": f"shared-tablet-{n}", "taken_at": at, "device": "tablet", "body": b}
        for n, b in enumerate(bodies)
    ]
    where = "/api/v1/benches/make_safe/sheets/shared-tablet-sheet/entries"
    send(page, where, {"set_id": number_of(stack, TAG), "entries": entries})


def test_people_are_switched_by_pin_and_a_lock_asks_who_holds_the_tablet(tablet: Page, stack: Stack) -> None:
    page = tablet
    expect(page.get_by_role("heading", name="Who is here?")).to_be_visible()
    expect(page.locator("main")).to_contain_text("Pump room door")
    comes_in(page, "Saskia Arrowood", "7777")
    expect(page.get_by_text("Wrong PIN.")).to_be_visible(timeout=HASHED_MS)
    types(page, PINS["Saskia Arrowood"])
    page.get_by_role("button", name="Come in").tap()
    is_in(page, "Saskia Arrowood")
    page.reload()
    is_in(page, "Saskia Arrowood")
    shut(page, stack)
    set_page(page, stack, TAG, "/make-safe")
    line = page.locator("[data-source=supply]")
    hang = line.get_by_role("button", name=re.compile("Confirm my lock on"))
    hang.tap()
    asks = page.get_by_role("dialog", name="Is it you, Saskia Arrowood?")
    expect(asks).to_contain_text("A lock is its owner’s")
    asks.get_by_role("button", name="Not me").tap()
    expect(page.get_by_text("you did not show that it is you").first).to_be_visible()
    assert locks(page, stack) == []
    page.reload()
    hang.tap()
    types(asks, PINS["Jun Belacqua"])
    asks.get_by_role("button", name="It is me").tap()
    expect(asks.get_by_text("Wrong PIN.")).to_be_visible(timeout=HASHED_MS)
    page.reload()  # what waits is still on the device, and asks again
    expect(asks).to_be_visible()
    assert locks(page, stack) == []
    types(asks, PINS["Saskia Arrowood"])
    asks.get_by_role("button", name="It is me").tap()
    expect(asks).not_to_be_visible(timeout=HASHED_MS)
    expect(page.get_by_test_id("iso-state")).to_contain_text("Locked on: Saskia Arrowood")
    expect(hang).to_have_count(0)
    assert locks(page, stack) == ["Saskia Arrowood"]
    switched(page, "Jun Belacqua")
    set_page(page, stack, TAG, "/make-safe")
    hang.tap()
    jun = page.get_by_role("dialog", name="Is it you, Jun Belacqua?")
    expect(page.get_by_label("PIN of Jun Belacqua")).to_be_focused()
    page.keyboard.type(PINS["Jun Belacqua"])
    page.keyboard.press("Enter")
    expect(jun).not_to_be_visible(timeout=HASHED_MS)
    expect(page.get_by_test_id("iso-state")).to_contain_text("Jun Belacqua")
    page.reload()
    assert sorted(locks(page, stack)) == ["Jun Belacqua", "Saskia Arrowood"], "each his own"


def test_a_pin_that_was_guessed_at_rests_until_the_password_and_fits_a_phone(tablet: Page) -> None:
    page = tablet
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1")
    for n in range(5):
        comes_in(page, "Jun Belacqua", "7777")
        said = (
            "then only the password opens" if 2 <= n < 4 else "Wrong PIN." if n < 4 else "Too many wrong PINs"
        )
        expect(page.get_by_text(said).first).to_be_visible(timeout=HASHED_MS)
    page.reload()
    page.get_by_role("button", name="Jun Belacqua").tap()
    expect(page.get_by_label("PIN of Jun Belacqua")).to_have_count(0)
    page.get_by_role("button", name="Sign in with a password").tap()
    sign_in(page, "jun", WORD)
    is_in(page, "Jun Belacqua")
    switched(page, "Jun Belacqua")
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1")


def test_what_one_typed_in_another_tab_is_never_kept_in_the_next_one_s_name(
    tablet: Page, stack: Stack
) -> None:
    comes_in(tablet, "Saskia Arrowood")
    is_in(tablet, "Saskia Arrowood")
    set_page(tablet, stack, "COLD-31", "/running-check")
    type_check(tablet, ("400", "401", "399"), ("12.1", "12.2", "12.1"))
    answered(tablet)
    other = tablet.context.new_page()
    other.goto("/")
    switched(other, "Jun Belacqua")
    before = stack.records()
    tablet.get_by_role("button", name="Save record").tap()
    gone = tablet.get_by_role("dialog", name="Session expired")
    expect(gone).to_be_visible()
    assert stack.records() == before
    comes_in(tablet, "Saskia Arrowood")
    expect(gone).not_to_be_visible(timeout=HASHED_MS)
    history = tablet.locator("[aria-labelledby=history-title] .hist li")
    expect(history.first).to_contain_text("Running check", timeout=HASHED_MS)
    assert stack.records() == before + 1
    by = "(select by_id from logbook_record order by id desc limit 1)"
    who = stack.db.sql(f"select username from base_user where id = {by}", database="hurbin_e2e")
    assert who.strip() == "saskia"


def test_a_pin_is_chosen_on_one_s_own_page_and_a_tablet_ended_by_the_lead(tablet: Page) -> None:
    page = tablet
    comes_in(page, "Teodor Mbeki-Lund")
    is_in(page, "Teodor Mbeki-Lund")
    page.goto("/me")
    page.get_by_label("Your password").fill(WORD)
    page.get_by_label("PIN, 4 to 8 digits").fill("1234")
    page.get_by_role("button", name="Change PIN").tap()
    expect(page.get_by_text("among the first that anybody would try")).to_be_visible()
    expect(page.get_by_label("Your password")).to_have_value(WORD)
    page.get_by_label("PIN, 4 to 8 digits").fill(PINS["Teodor Mbeki-Lund"])
    page.get_by_role("button", name="Change PIN").tap()
    expect(page.get_by_text("PIN chosen.")).to_be_visible(timeout=HASHED_MS)
    page.goto("/register")
    here = page.locator("[data-tablet]").filter(has_text="(this one)")
    here.get_by_role("button", name="End, and sign out").tap()
    page.reload()
    expect(page.get_by_label("User name")).to_be_visible()
    expect(page.get_by_role("heading", name="Who is here?")).to_have_count(0)
