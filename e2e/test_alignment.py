"""The alignment bench as it is used: readings at the clock, the drawings, what each foot asks for, on record,
trended.
"""

from __future__ import annotations

from conftest import Opener, Stack, answered, at_part, newest, set_page
from playwright.sync_api import Page, expect


def type_all(page: Page, **figures: str) -> None:
    for name, text in figures.items():
        page.locator(f"#f-{name}").fill(text)


def open_bench(page: Page) -> None:
    page.get_by_role("button", name="Enter readings already taken").click()


def test_from_feeler_to_feet_to_record(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "KELP-22", "/alignment")
    expect(page.get_by_test_id("gate")).to_contain_text("Coupling work blocked")
    open_bench(page)
    expect(page.get_by_label("Cautions")).to_contain_text(
        "Hands on the coupling only when the set is isolated for coupling work"
    )
    expect(page.get_by_role("img", name="Side view: not read yet")).to_be_visible()
    type_all(
        page,
        face_diameter="150",
        x_front="200",
        x_rear="500",
        step_12="0.20",
        step_6="-0.20",
        gap_12="3.30",
        gap_6="3.00",
    )
    answered(page)
    expect(page.get_by_test_id("judged")).to_contain_text("Only the vertical plane has been read")
    type_all(page, step_3="flush", step_9="0", gap_3="3.15", gap_9="3.15")
    page.reload()
    open_bench(page)
    answered(page)
    expect(page.locator("[data-foot=front_left]")).to_contain_text("needs 0.200")
    expect(page.locator("[data-foot=rear_right]")).to_contain_text("needs 0.800")
    found = page.locator("[data-question=alignment_angle]")
    expect(found).to_have_attribute("data-verdict", "act")
    found.get_by_role("button").first.click()
    expect(found).to_contain_text("aim")
    page.get_by_role("button", name="Dimensions", exact=True).click()
    page.get_by_label("pump and motor stay near ambient (within 10 K, 18 °F) when running").check()
    page.get_by_role("button", name="Readings", exact=True).click()
    page.locator("#f-x_rear").fill("150")
    expect(page.get_by_test_id("problems")).to_contain_text(
        "The rear feet must be further back than the front feet."
    )
    page.locator("#f-x_rear").fill("500")
    answered(page)
    page.keyboard.press("Control+Enter")
    expect(newest(page).first).to_contain_text("Alignment")
    page.goto(page.url + "/alignment")
    open_bench(page)
    expect(page.locator("#f-face_diameter")).to_have_value("150")  # asked once
    expect(page.locator("#f-step_12")).to_have_value("")
    type_all(page, step_12="0", step_3="0", step_6="0", step_9="0")
    type_all(page, gap_12="3.15", gap_3="3.15", gap_6="3.15", gap_9="3.15")
    answered(page)
    offset = page.locator("[data-question=alignment_offset]")
    expect(offset).not_to_contain_text("near ambient")
    page.get_by_role("button", name="Dimensions", exact=True).click()
    near = page.get_by_label("pump and motor stay near ambient (within 10 K, 18 °F) when running")
    expect(near).to_be_checked()  # kept with the set
    near.uncheck()
    answered(page)
    expect(offset).to_have_attribute("data-verdict", "unknown")
    expect(offset).to_contain_text("confirm that pump and motor stay near ambient")


def pieces(page: Page, size: int) -> int:
    count = page.locator(f"[aria-label='Van 9'] [data-size='{size}'] [aria-label=shims]")
    expect(count).to_be_visible()
    return int(count.inner_text())


def count_in(page: Page, size: str, n: str) -> None:
    box = page.get_by_role("region", name="Van 9")
    box.get_by_label("thickness, measured", exact=True).fill(size)
    box.get_by_label("shims", exact=True).last.fill(n)
    box.get_by_role("button", name="Set count").click()
    expect(box.get_by_label("thickness, measured", exact=True)).to_have_value("")


def test_a_whole_visit_from_the_van_to_as_left(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun")
    page.goto(f"{stack.url}/vans")
    page.get_by_label("New van").fill("Van 9")
    page.get_by_role("button", name="Add van").click()
    for size, n in (("0.25", "8"), ("0.5", "8"), ("0.05", "8")):
        count_in(page, size, n)
    page.get_by_role("region", name="Van 9").get_by_label("thickness, measured", exact=True).fill("red")
    page.get_by_role("region", name="Van 9").get_by_label("shims", exact=True).last.fill("3")
    page.get_by_role("region", name="Van 9").get_by_role("button", name="Set count").click()
    expect(page.get_by_role("region", name="Van 9").get_by_role("alert")).to_contain_text("red")
    page.reload()
    assert (pieces(page, 2500), pieces(page, 5000)) == (8, 8)

    set_page(page, stack, "COLD-31", "/alignment")
    open_bench(page)
    page.get_by_role("button", name="Dimensions", exact=True).click()
    type_all(page, face_diameter="150", x_front="200", x_rear="500", speed="1475")
    for foot in ("front_left", "front_right", "rear_left", "rear_right"):
        page.locator(f"#f-pack_{foot}").fill("1.0 + 0.25 mm")
    page.get_by_label("Van", exact=True).select_option("Van 9")
    page.get_by_role("button", name="Pre-checks", exact=True).click()
    type_all(
        page,
        soft_front_left="0.02",
        soft_front_right="0.02",
        soft_rear_left="0.20",
        soft_rear_right="0.02",
        run_out_rim="0.02",
        run_out_face="0.02",
    )
    expect(page.get_by_test_id("judged")).to_contain_text("Fit 0.160")
    page.locator("#f-soft_rear_left").fill("0.02")
    page.get_by_role("button", name="Readings", exact=True).click()
    type_all(
        page,
        step_12="0.25",
        step_3="0",
        step_6="-0.25",
        step_9="0",
        gap_12="3.10",
        gap_3="3.10",
        gap_6="3.10",
        gap_9="3.10",
    )
    answered(page)
    foot = page.locator("[data-foot=front_left]")
    expect(foot).to_contain_text("needs −0.250")
    expect(foot).to_contain_text("take out")
    expect(foot).to_contain_text("0.25")
    expect(page.get_by_test_id("plan-words")).to_contain_text("Within half the tolerance")
    foot.get_by_role("button", name="Change").click()
    page.get_by_label("front left, what-if").fill("1.0 + 0.5 lb")
    expect(page.get_by_test_id("problems")).to_contain_text("is not a thickness unit")
    page.get_by_label("front left, what-if").fill("1.0 + 0.5 mm")
    expect(page.get_by_role("button", name="Confirm shims fitted as changed")).to_be_visible()
    page.get_by_role("button", name="Clear").click()
    page.get_by_role("radio", name="left of the motor").click()
    expect(page.locator("[data-foot]").last).to_have_attribute("data-foot", "rear_left")
    page.get_by_role("radio", name="behind the motor").click()
    type_all(page, pushed_front="0.1", pushed_rear="0.1")
    page.get_by_role("button", name="Confirm shims fitted as planned").click()
    expect(page.get_by_label("Shims: take out, put in")).to_contain_text("read again before the next plan")
    expect(page.get_by_label("When")).to_have_value("after_move")
    type_all(
        page,
        step_12="0.01",
        step_3="0",
        step_6="-0.01",
        step_9="0",
        gap_12="3.10",
        gap_3="3.10",
        gap_6="3.10",
        gap_9="3.10",
    )
    answered(page)
    expect(page.locator("[data-pass='After move 1']")).to_contain_text("0.010")
    expect(page.locator("[data-pass='After move 1']")).not_to_contain_text("swapped")
    page.get_by_label("When").select_option("as_left")
    page.keyboard.press("Control+Enter")
    expect(page.get_by_test_id("problems")).to_contain_text("Take as-left readings after the last tightening")
    page.get_by_label("When").select_option("after_move")
    page.get_by_role("button", name="Tighten", exact=True).click()
    page.get_by_role("button", name="Confirm tightened in cross pattern").click()
    page.get_by_role("button", name="Readings", exact=True).click()
    expect(page.get_by_label("When")).to_have_value("as_left")
    page.reload()
    open_bench(page)
    type_all(
        page,
        step_12="0.01",
        step_3="0",
        step_6="-0.01",
        step_9="0",
        gap_12="3.10",
        gap_3="3.10",
        gap_6="3.10",
        gap_9="3.10",
    )
    page.get_by_role("button", name="Coupling", exact=True).click()
    type_all(page, hub_gap="3.1", hub_gap_maker="3.0")
    page.get_by_role("checkbox", name="Guard on").check()
    answered(page)
    page.keyboard.press("Control+Enter")
    line = newest(page).first
    expect(line).to_contain_text("Alignment")
    line.get_by_role("link").first.click()
    expect(page.get_by_label("Work log")).to_contain_text("Motor moved: front left 1 mm")
    expect(page.get_by_label("Work log")).to_contain_text("Tightened in a cross pattern.")
    expect(
        page.get_by_label("Shafts as found and as left").get_by_role("heading", name="As left").first
    ).to_be_visible()
    page.goto(f"{stack.url}/vans")
    expect(page.locator("[aria-label='Van 9'] [data-size='2500'] [aria-label=shims]")).to_have_text(
        "12"
    )  # four came out and went back to the van


def test_vibration_by_bearing(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia", phone=True)
    set_page(page, stack, "KELP-22", "/vibration")
    page.get_by_label("Foundation").select_option("rigid")
    page.locator("#f-power").fill("30")
    page.locator("#f-motor_near_a").fill("5.0")
    page.locator("#f-pump_near_h").fill("2.0")
    expect(page.locator("[data-question=vibration_motor]")).to_have_attribute("data-verdict", "stop")
    expect(page.locator("[data-question=vibration_motor]")).to_contain_text("5.00")
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1")
    page.locator("#f-motor_near_a").fill("2.0")
    answered(page)
    page.get_by_role("button", name="clear").tap()
    page.get_by_role("button", name="Save record").tap()
    expect(newest(page).first).to_contain_text("Vibration")


def test_dials_that_are_not_one_shaft_and_a_phone(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun", phone=True)
    set_page(page, stack, "KELP-21")
    at_part(page, "coupling")
    expect(page.locator("[data-measurand=align_offset_v]")).to_be_visible()
    page.locator("[data-panel=coupling]").get_by_role("link", name="Alignment", exact=True).last.tap()
    page.get_by_role("button", name="Enter readings already taken").tap()
    answered(page)  # the drawings of the first answer move the field down
    page.locator("#f-step_12").tap()
    page.get_by_role("button", name="a hair high").tap()
    expect(page.locator("#f-step_12")).to_have_value("a hair high")
    page.get_by_label("Read with").select_option("rim_face")
    page.locator("#f-rim_3").tap()
    for key in ("±", "0", ".", "1"):
        page.get_by_role("group", name="Keypad").get_by_role("button", name=key, exact=True).tap()
    expect(page.locator("#f-rim_3")).to_have_value("-0.1")
    page.get_by_role("button", name="next", exact=True).tap()
    expect(page.locator("#f-rim_6")).to_be_focused()
    for name, text in (("rim_6", "-0.3"), ("rim_9", "0.5")):
        page.locator(f"#f-{name}").fill(text)
    expect(page.get_by_test_id("problems")).to_contain_text(
        "These four cannot be from one shaft: loose bracket, slipped dial, or a wrong sign."
    )
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1")


def test_a_set_without_a_coupling_does_not_offer_it(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "LIFT-61")
    expect(page.get_by_role("link", name="Insulation test")).to_be_visible()
    expect(page.get_by_role("link", name="Alignment", exact=True)).to_have_count(0)
