"""Two ways for the current: a motor given six leads on the drawing, its ring walked; a bypass on a phone."""

from __future__ import annotations

from conftest import Opener, Stack, set_page, told
from playwright.sync_api import Page, expect
from test_circuit import enter

# The places of each ladder from the source down; what stands beside it is left by going up.
DOWN = [
    "S.out",
    "D.in",
    "D.out",
    "F.in",
    "F.out",
    "K.in",
    "K.out",
    "O.in",
    "O.out",
    "M.in",
    "M.out",
    "Y.in",
    "Y.out",
]
DRIVE = [
    "S.out",
    "D.in",
    "D.out",
    "F.in",
    "F.out",
    "K.in",
    "K.out",
    "Y.in",
    "Y.out",
    "A.in",
    "A.out",
    "O.in",
    "O.out",
    "M.in",
]


def led(page: Page, name: str, point: str, order: list[str]) -> None:
    """One probe taken to this point by the arrow keys."""
    tip = page.get_by_role("button", name=name)
    tip.focus()
    for _ in range(40):
        here = tip.get_attribute("data-probe") or ""
        if here == point:
            break
        (rung, leg), (goal, other) = here.rsplit(".", 1), point.rsplit(".", 1)
        key = "ArrowRight" if other > leg else "ArrowLeft"
        if rung != goal:
            down = rung in order and order.index(rung) < order.index(goal)
            key = "ArrowDown" if down else "ArrowUp"
        page.keyboard.press(key)
    expect(tip).to_have_attribute("data-probe", point)


def at(page: Page, one: str, two: str, order: list[str]) -> None:
    """Both probes taken to these points."""
    led(page, "First probe", one, order)
    led(page, "Second probe", two, order)


def test_a_motor_is_given_six_leads_on_the_drawing_and_its_dead_winding_is_named(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("jun")
    set_page(page, stack, "MAKE-85", "/circuit")
    page.get_by_role("button", name="Confirm or edit circuit").click()
    page.get_by_label("Earthing of the supply").select_option("solid_wye")
    page.get_by_label("Nothing else is tapped off").check()
    page.get_by_role("button", name="Motor", exact=True).click()
    page.get_by_label("Leads of the motor").select_option("6")
    page.get_by_label("Delta joins").select_option(label="L1 to V2, L2 to W2, L3 to U2")
    page.get_by_role("button", name="Star contactor", exact=True).click()
    expect(page.get_by_role("group", name="Closed when the starter is")).to_contain_text("main and star in")
    expect(page.get_by_role("button", name="Remove Star contactor")).to_have_count(0)
    page.get_by_role("button", name="Confirm circuit").click()
    ladder = page.locator("svg[aria-label^=Circuit]")
    for _ in range(2):
        expect(page.locator("svg[aria-label='Circuit of MAKE-85: Star-delta starter']")).to_be_visible()
        expect(ladder).to_contain_text("Delta")
        expect(ladder).to_contain_text("Star contactor")
        page.reload()
    expect(page.get_by_label("Contactor", exact=True).locator("option")).to_have_text(
        ["out", "main alone in", "main and star in", "main and delta in"]
    )
    page.get_by_label("Contactor", exact=True).select_option("in")
    # Starts live, the end of V dead: its winding is open, or its lead is off.
    for one, two, volts in (
        ("M.in.1", "M.in.2", "401"),
        ("M.in.2", "M.in.3", "399"),
        ("M.out.1", "M.out.2", "0"),
        ("M.out.3", "M.out.1", "400"),
    ):
        page.get_by_label("Contactor", exact=True).select_option("in")
        at(page, one, two, DOWN)
        enter(page, volts)
    page.get_by_label("Meter proved on a live source", exact=True).select_option("both")
    for _ in range(2):
        stop = page.get_by_test_id("judged")
        expect(stop).to_contain_text("One winding is without its current")
        expect(page.locator("[data-suspect='M.2']")).to_contain_text("Winding V1-V2")
        expect(page.locator("[data-next]")).to_have_count(0)
        page.reload()
    expect(page.get_by_role("button", name="Save record")).to_be_enabled()


def test_on_a_phone_a_bypass_is_drawn_under_its_drive_and_below_the_drive_nothing_is_told(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("saskia", phone=True)
    set_page(page, stack, "OZON-73", "/circuit")
    page.get_by_role("button", name="Confirm or edit circuit").tap()
    page.get_by_label("Type of circuit").select_option("drive_bypass")
    page.get_by_label("Earthing of the supply").select_option("solid_wye")
    page.get_by_label("Nothing else is tapped off").check()
    page.get_by_role("button", name="Confirm circuit").tap()
    ladder = page.locator("svg[aria-label^=Circuit]")
    expect(ladder).to_contain_text("From Fuses, load side")
    expect(ladder).to_contain_text("To Overload, line side")
    assert page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth") == 0
    page.get_by_label("Contactor", exact=True).select_option("drive")
    page.get_by_label("Motor", exact=True).select_option("running")
    at(page, "M.in.1", "M.in.2", DRIVE)
    page.locator("#f-volts").tap()
    keypad = page.get_by_role("group", name="Keypad")
    for key in "398":
        keypad.get_by_role("button", name=key, exact=True).tap()
    keypad.get_by_role("button", name="Enter reading").tap()
    for _ in range(2):
        expect(page.locator("[data-used=false]")).to_contain_text("Electronics feed this place")
        expect(page.get_by_test_id("judged")).to_contain_text("None of these readings")
        page.reload()
    number = page.url.split("/sets/")[1].split("/")[0]
    kept = told(page, f"/api/v1/sets/{number}/circuit")["circuit"]
    assert [p["lands"] for p in kept["paths"]] == ["O.in"]


def test_a_leg_without_current_below_a_drive_is_a_stop_and_its_readings_count(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("jun")
    set_page(page, stack, "MAKE-82", "/circuit")
    page.get_by_role("button", name="Confirm or edit circuit").click()
    page.get_by_role("button", name="Fuses", exact=True).click()
    page.get_by_role("button", name="Another set on the same fuses").click()
    page.get_by_role("button", name="Confirm circuit").click()
    page.locator("select[aria-label=Motor]").select_option("running")
    page.get_by_label("Meter input", exact=True).select_option("low_pass")
    page.get_by_label("What is read", exact=True).select_option("amps")
    order = ["S.out", "D.in", "D.out", "F.in", "F.out", "Y.in", "Y.out", "M.in"]
    field = page.locator("#f-amps")
    for n, (leg, amps) in enumerate((("1", "9.6"), ("2", "0.1"), ("3", "9.4")), 1):
        led(page, "First probe", f"M.in.{leg}", order)
        field.fill(amps)
        field.press("Enter")
        expect(page.locator("[data-used=true]")).to_have_count(n)
    for _ in range(2):
        expect(page.get_by_test_id("judged")).to_contain_text("L2 carries 0.10 A at Motor terminals")
        expect(page.get_by_test_id("judged")).to_contain_text("single phasing below the drive")
        expect(page.locator("[data-used=true]").first).to_contain_text("compared below the drive")
        page.reload()
    expect(page.get_by_role("button", name="Save record")).to_be_enabled()
