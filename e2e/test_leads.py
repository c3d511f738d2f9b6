"""The terminal box: leads typed, tapped and dragged into nuts; two crossed lines found by their angle."""

from __future__ import annotations

from pathlib import Path

from conftest import Opener, Stack, answered, newest, set_page
from PIL import Image
from playwright.sync_api import Page, expect

LOW = "L1 T1 T7 / L2 T2 T8 / L3 T3 T9 / T4 T5 T6"


def opened(page: Page, stack: Stack, tag: str) -> None:
    set_page(page, stack, tag, "/leads")
    looked(page)


def looked(page: Page) -> None:
    """Nobody isolated this set here: what was seen is entered all the same."""
    seen = page.get_by_role("button", name="Enter leads already looked at")
    expect(seen.or_(page.get_by_label("Leads of the motor"))).to_be_visible()
    if seen.count():
        seen.click()


def told(page: Page, leads: str, winding: str = "wye") -> None:
    page.get_by_label("Leads of the motor").select_option(leads)
    page.get_by_label("Winding, per nameplate").select_option(winding)
    page.get_by_label("A single nameplate voltage is for").select_option("low")


def test_two_crossed_lines_are_a_stop_and_the_leads_that_change_places_are_named(
    open_as: Opener, stack: Stack, tmp_path: Path
) -> None:
    page = open_as("saskia")
    opened(page, stack, "PALM-42")
    told(page, "9")
    words = page.get_by_label("Leads put together")
    words.fill("L1 T2 T7 / L2 T1 T8 / L3 T3 T9 / T4 T5 T6 T99")
    expect(page.get_by_text("T99 is no lead of a motor with 9 leads")).to_be_visible()
    words.fill(LOW.replace("T1 T7", "T2 T7").replace("T2 T8", "T1 T8"))
    page.locator("#f-supply").fill("401")
    page.get_by_label("Each lead followed to its nut").check()
    answered(page)
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(judged).to_contain_text("the right voltage at the wrong angle")
        expect(page.get_by_label("Which lead moves")).to_contain_text("Exchange T1 and T2.")
        expect(page.get_by_label("Which lead moves")).to_contain_text("or Exchange T7 and T8.")
        expect(page.locator("[data-half='T1-T4']")).to_contain_text("100 %")
        expect(page.locator("[data-started]")).to_contain_text("torque 0")
        page.reload()
        looked(page)
    expect(page.get_by_text("No photograph of this box is on record")).to_be_visible()
    photo = tmp_path / "box.jpg"
    Image.new("RGB", (320, 240), (90, 60, 40)).save(photo)
    page.get_by_label("Add a photo").set_input_files(photo)
    expect(page.get_by_text("Added.")).to_be_visible()
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Saskia Arrowood")
    page.reload()
    expect(page.get_by_text("the right voltage at the wrong angle").first).to_be_visible()
    # The next time it fails, the box stands beside its old photograph.
    opened(page, stack, "PALM-42")
    words.fill(LOW.replace("T1 T7", "T2 T7").replace("T2 T8", "T1 T8"))
    old = page.get_by_label("As it was photographed").get_by_role("img")
    expect(old).to_be_visible()
    assert old.evaluate("i => i.decode().then(() => i.naturalWidth)") == 320


def test_a_lead_is_tapped_and_dragged_into_its_nut_and_the_right_list_is_good(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("jun")
    opened(page, stack, "BOIL-03")
    page.get_by_label("Leads of the motor").select_option("6")
    page.get_by_label("A single nameplate voltage is for").select_option("low")
    for nut, leads in (("L1", ("U1", "W2")), ("L2", ("V1", "U2")), ("L3", ("W1",))):
        page.get_by_role("button", name=f"{nut}: nothing yet").click()
        for lead in leads:
            page.get_by_role("button", name=lead, exact=True).click()
    lead = page.get_by_role("button", name="V2", exact=True).bounding_box()
    nut = page.get_by_role("button", name="L3: W1").bounding_box()
    assert lead is not None
    assert nut is not None
    page.mouse.move(lead["x"] + lead["width"] / 2, lead["y"] + lead["height"] / 2)
    page.mouse.down()
    page.mouse.move(nut["x"] + nut["width"] / 2, nut["y"] + nut["height"] / 2, steps=6)
    page.mouse.up()
    expect(page.get_by_label("Leads put together")).to_have_value("L1 U1 W2 / L2 V1 U2 / L3 W1 V2")
    page.locator("#f-supply").fill("399")
    page.get_by_label("Each lead followed to its nut").check()
    answered(page)
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(judged).to_contain_text("Leads in the terminal box: good")
        expect(judged).to_contain_text("Follows the list for delta")
        page.reload()
        looked(page)
    page.get_by_role("button", name="Turn the box").click()
    expect(page.get_by_role("button", name="L3: W1 V2")).to_be_visible()


def test_on_a_phone_one_nut_at_a_time_and_both_ends_of_a_half_in_one_nut_are_a_short(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("saskia", phone=True)
    opened(page, stack, "LIFT-62")
    told(page, "12")
    page.get_by_label("Leads put together").fill("L1 T1 T7 / L2 T2 T8 / L3 T3 T9 / T5 T6 / T10 T11 T12")
    page.get_by_role("group", name="Leads in L1").get_by_role("button", name="T4", exact=True).tap()
    expect(page.get_by_label("Leads put together")).to_have_value(
        "L1 T1 T4 T7 / L2 T2 T8 / L3 T3 T9 / T5 T6 / T10 T11 T12"
    )
    answered(page)
    for _ in range(2):
        expect(page.get_by_test_id("judged")).to_contain_text("Both ends of half winding T1-T4")
        expect(page.locator("[data-half='T1-T4']")).to_contain_text("shorted")
        expect(page.get_by_label("Which lead moves")).to_contain_text("Move T4 to the nut of T5 T6.")
        page.reload()
        looked(page)
    assert page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth") == 0


def test_nine_currents_of_rolled_leads_tell_the_supply_from_the_motor(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia", phone=True)
    opened(page, stack, "LAG-11")
    page.get_by_text("Roll the leads").tap()
    told_a = ("41.0", "38.2", "37.9", "40.8", "38.5", "37.6", "41.3", "38.0", "37.8")
    for n, amps in enumerate(told_a):
        page.locator(f"#f-roll_{n // 3 + 1}_{n % 3 + 1}").fill(amps)
    answered(page)
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(judged).to_contain_text("It stays with the line: 5.18")
        expect(judged).to_contain_text("L1 stands out")
        expect(page.locator("[data-rolled]")).to_contain_text("L1 41.0")
        page.reload()
        looked(page)
    assert page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth") == 0


def test_nine_leads_without_marks_are_led_to_their_marks_test_by_test(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun", phone=True)
    opened(page, stack, "SAND-51")
    page.get_by_label("Leads of the motor").select_option("9")
    page.get_by_text("Leads without marks").tap()
    page.get_by_label("Groups by ohmmeter").fill("A B / C D / E F / G H J")
    expect(page.get_by_text("Enter the test supply between lines").first).to_be_visible()
    page.locator("#f-test_volts").fill("48")
    page.locator("#f-test_volts").blur()
    following = page.get_by_label("Next test")
    # A pair of another phase, the right pair the right way round, one the other way round, the last one.
    told = (("A-G", "71", "98"), ("A-H", "73.3", "73.4"), ("C-G", "27.7", "27.6"), ("E-J", "73.2", "73.5"))
    for tied, one, two in told:
        expect(page.locator(f"[data-next='{tied}']")).to_be_visible()
        following.locator("[name=one]").fill(one)
        following.locator("[name=two]").fill(two)
        following.get_by_role("button", name="Enter readings").tap()
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(judged).to_contain_text("All leads have their marks")
        for tape, mark in {"A": "T5", "B": "T2", "C": "T1", "D": "T4", "E": "T6", "G": "T7"}.items():
            expect(page.locator(f"[data-tape={tape}]")).to_have_text(mark)
        page.reload()
        looked(page)
    page.get_by_role("button", name="Take back the last of 4 tests").tap()
    expect(page.locator("[data-next='E-J']")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
