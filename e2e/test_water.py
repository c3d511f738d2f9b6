"""Where a pump runs, what a valve would do, which noise it is, how worn it is: as a technician types it."""

from __future__ import annotations

from conftest import Opener, Stack, answered, newest, set_page
from playwright.sync_api import Page, expect

CURVE = """flow m3/h; head m; power kW; npshr m
0; 26.4; 1.6; 1.2
12; 25.5; 2.1; 1.4
24; 23.7; 2.6; 1.8
36; 21.0; 3.0; 2.4
48; 17.2; 3.4; 3.4
54; 15.0; 3.6; 4.1"""
NARROW = "document.documentElement.scrollWidth"


def typed(page: Page, **figures: str) -> None:
    """Fields by their names, and the answer to them."""
    name = ""
    for name, text in figures.items():
        page.locator(f"[id='f-{name.replace('__', '.')}']").fill(text)
    page.locator(f"[id='f-{name.replace('__', '.')}']").blur()
    answered(page)


def chosen(page: Page, **words: str) -> None:
    for label, value in words.items():
        page.get_by_label(label.replace("_", " "), exact=True).first.select_option(value)


def with_curve(page: Page, stack: Stack, tag: str, curve: str = CURVE) -> None:
    """Its curve comes onto the nameplate of its wet end; saved anew it only gets one version more."""
    set_page(page, stack, tag, "/parts")
    end = page.locator("[data-slot=pump]")
    end.get_by_role("button", name="nameplate").first.click()
    end.get_by_label("Pump type").select_option("radial")
    end.get_by_label("Curve, a row each").fill(curve)
    end.get_by_role("textbox", name="Speed of the curve").fill("2890")
    end.get_by_role("textbox", name="Best-efficiency flow").fill("40")
    end.get_by_label("Reason for change").fill("manufacturer's sheet")
    end.get_by_role("button", name="Save nameplate").click()


def gauges(page: Page) -> None:
    """What stands with the gauges of this set."""
    chosen(page, Gauges_read="own", Gauge_class="0.6")
    more = page.locator("summary", has_text="Heights, bores and scales")
    if not page.locator("#f-suction_bore").is_visible():
        more.click()
    typed(page, suction_z="0.2", discharge_z="0.8", suction_bore="100", discharge_bore="80")
    typed(page, suction_top="2.5", discharge_top="4")


def test_a_curve_that_rises_is_refused_and_one_that_falls_says_where_it_runs(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("ines")
    with_curve(page, stack, "KELP-23", "0; 24\n10; 25.1\n30; 20\n60; 9")
    end = page.locator("[data-slot=pump]")
    expect(end.get_by_text("head rises from 24 m at 0").first).to_be_visible()
    end.get_by_label("Curve, a row each").fill(CURVE)
    end.get_by_role("button", name="Save nameplate").click()
    expect(end.get_by_role("button", name="Save nameplate")).to_have_count(0)
    set_page(page, stack, "KELP-23", "/duty")
    expect(page.locator("[data-pump]")).to_be_visible()
    chosen(page, Pump="running", Discharge_valve="open", On_its_header="alone", Liquid="water")
    typed(page, temperature="20")
    gauges(page)
    page.get_by_label("Settled for 2 min at this valve").check()
    typed(page, suction="0.34", discharge="2.2")
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(judged).to_contain_text("Flow, of best-efficiency flow: good")
        expect(judged).to_contain_text("by head and curve")
        expect(page.locator("[data-value=head]")).to_contain_text("19.7 m ± ")
        page.reload()
    # Another way disagrees: then nobody knows where it runs, and it says what would explain it.
    page.locator("summary", has_text="Another way to know the flow").click()
    page.get_by_label("Ten bores of straight pipe, full").check()
    typed(page, meter="26")
    expect(judged).to_contain_text("Flow, two ways: unknown")
    expect(judged).to_contain_text("apart by more than their errors")
    typed(page, meter="")
    # The gauges corrected twice.
    chosen(page, Gauges_read="centre")
    answered(page)
    expect(page.get_by_test_id("problems")).to_contain_text("Corrected twice")
    chosen(page, Gauges_read="own")
    answered(page)
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Ines")


def test_a_what_if_is_dragged_along_the_curve_and_never_saved(open_as: Opener, stack: Stack) -> None:
    page = open_as("ines")
    with_curve(page, stack, "KELP-23")
    set_page(page, stack, "KELP-23", "/duty")
    chosen(page, Pump="running", Discharge_valve="open", On_its_header="alone", Liquid="water")
    typed(page, temperature="20")
    gauges(page)
    page.get_by_label("Settled for 2 min at this valve").check()
    typed(page, suction="0.34", discharge="2.2")
    if not page.locator("#f-static").is_visible():
        page.locator("summary", has_text="What the service needs").click()
    typed(page, static="3", hours="6000", price="0.2", motor_eff="86")
    grip = page.get_by_role("slider")
    grip.focus()
    page.keyboard.press("PageDown")
    page.keyboard.press("ArrowLeft")
    answered(page)
    expect(page.locator("[data-option='valve.loss']")).not_to_be_empty()
    expect(page.locator("[data-option='speed.speed']")).to_contain_text("%")
    expect(page.locator("[data-tried]")).to_have_count(1)
    grip.scroll_into_view_if_needed()
    box = grip.bounding_box()
    assert box is not None
    before = page.locator("[data-option='valve.flow']").inner_text()
    page.mouse.move(box["x"] + box["width"] * 0.4, box["y"] + 80)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.35, box["y"] + 80, steps=4)
    page.mouse.up()
    answered(page)
    expect(page.locator("[data-option='valve.flow']")).not_to_have_text(before)
    page.get_by_role("button", name="Clear").click()
    expect(page.locator("[data-tried]")).to_have_count(0)


def test_gauge_gauge_answer_on_a_phone(open_as: Opener, stack: Stack) -> None:
    with_curve(open_as("ines"), stack, "OZON-73", CURVE.replace("26.4", "36.4"))
    page = open_as("saskia", phone=True)
    set_page(page, stack, "OZON-73", "/duty")
    chosen(page, Pump="running", Discharge_valve="open", On_its_header="alone", Liquid="water")
    gauges(page)
    typed(page, temperature="16")
    # Psi typed as bar: outside of anything this pump can make.
    typed(page, suction="0.3", discharge="31")
    judged = page.get_by_test_id("judged")
    expect(judged).to_contain_text("this pump makes")
    expect(judged).to_contain_text("Check unit, sign, and gauge or absolute pressure")
    assert page.evaluate(NARROW) <= 390
    page.reload()
    expect(judged).to_contain_text("this pump makes")


def test_a_first_survey_leads_from_place_to_place(open_as: Opener, stack: Stack) -> None:
    page = open_as("teodor")
    set_page(page, stack, "LAG-13", "/duty")
    chosen(page, Liquid="water")
    gauges(page)
    typed(page, temperature="12")
    page.locator("summary", has_text="First survey").click()
    rows = (
        ("standing", "0.60", "0.54", ""),
        ("normal", "0.42", "2.40", "60"),
        ("step_1", "0.48", "2.60", "57"),
        ("step_2", "0.52", "2.90", "52"),
        ("repeat", "0.42", "2.41", "60.2"),
    )
    for at, (place, low, high, amps) in enumerate(rows):
        item = page.locator(f"[data-place={place}]")
        item.get_by_role("button", name="Read here").click()
        typed(page, **{f"survey__{at}__suction": low, f"survey__{at}__discharge": high})
        if amps:
            typed(page, **{f"survey__{at}__amps_{n}": amps for n in (1, 2, 3)})
        expect(item).to_have_attribute("data-state", "done")
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(judged).to_contain_text("First survey: good")
        expect(judged).to_contain_text("No-load current is still open")
        page.reload()


def test_the_throttle_adviser_refuses_one_leg_and_leaves_an_open_item(open_as: Opener, stack: Stack) -> None:
    with_curve(open_as("ines"), stack, "OZON-73")
    page = open_as("teodor")
    set_page(page, stack, "OZON-73", "/throttle")
    chosen(page, Valve_that_would_be_closed="discharge", Liquid="water", Needed_by="none")
    typed(page, temperature="16", volts="400", idle_amps="4.1", need="20", static="3", motor_eff="87")
    judged = page.get_by_test_id("judged")
    typed(page, amps_1="11.6", amps_2="9.4", amps_3="11.5")
    expect(judged).to_contain_text("No valve brings that down")
    typed(page, amps_1="11.3", amps_2="11.3", amps_3="11.2")
    expect(judged).to_contain_text("Throttle to nameplate current")
    page.get_by_role("button", name="Next place of the valve").click()
    typed(page, turns_full="9", steps__0__turns="3", steps__0__amps_3="10.7")
    expect(judged).to_contain_text("One leg is an estimate of the others, never a pass")
    typed(page, steps__0__amps_1="10.8", steps__0__amps_2="10.8")
    page.get_by_label("Waited 2 min").check()
    page.get_by_label("Left so until").fill("2026-11-20")
    chosen(page, Lasting_cure="trim")
    answered(page)
    for _ in range(2):
        expect(judged).to_contain_text("As left, worst leg of nameplate current: good")
        expect(judged).to_contain_text("99.1 % of nameplate current")
        page.reload()
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Teodor")
    expect(page.get_by_text("Valve throttled").first).to_be_visible()


def test_gravel_is_parted_from_air_and_a_dry_pump_is_stopped(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun", phone=True)
    set_page(page, stack, "LAG-13", "/suction")
    chosen(page, It_sounds="gravel")
    judged = page.get_by_test_id("judged")
    answered(page)
    expect(judged).to_contain_text("Look for level or loop pressure first")
    chosen(page, Level_or_loop_pressure="none")
    answered(page)
    expect(judged).to_contain_text("Noise: stop")
    chosen(page, Level_or_loop_pressure="seen", Suction_gauge="low", Closing_it_a_little="quiets")
    page.get_by_label("More level, or cooler water").select_option("quiets")
    page.get_by_label("Discharge gauge").select_option("down")
    page.get_by_label("Current", exact=True).select_option("slightly_down")
    answered(page)
    for _ in range(2):
        expect(judged).to_contain_text("cavitation")
        expect(page.locator("[data-causes] li").first).to_have_attribute("data-cause", "cavitation")
        assert page.evaluate(NARROW) <= 390
        page.reload()
    chosen(page, NPSH_available_by="level", Liquid="water", Surface_of_the_supply="open")
    typed(
        page, temperature="85", level="-1.2", loss="0.5", level_u="0.1", flow="54", npshr="3", npshr_flow="54"
    )
    expect(judged).to_contain_text("NPSH available: act")
    expect(judged).to_contain_text("short")
    expect(page.locator("[data-required]")).to_be_visible()


def test_a_shut_off_test_is_not_offered_on_a_displacement_pump(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "MAKE-83", "/wear")
    page.locator("summary", has_text="Shut-off test").click()
    expect(page.locator("[data-never]")).to_contain_text("Never run a displacement pump against a shut valve")
    expect(page.locator("#f-shut_discharge")).to_have_count(0)


def test_worn_rings_are_found_by_two_gauges_and_a_meter(open_as: Opener, stack: Stack) -> None:
    with_curve(open_as("ines"), stack, "KELP-23")
    page = open_as("saskia", phone=True)
    set_page(page, stack, "KELP-23", "/wear")
    chosen(page, Liquid="water", Flow_known_by="meter", On_its_header="alone")
    gauges(page)
    page.get_by_label("Settled for 2 min at this valve").check()
    typed(page, temperature="18", flow="36", rpm="2890", suction="0.34", discharge="2.03")
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(judged).to_contain_text("Head at this flow, of the curve's: act")
        expect(judged).to_contain_text("running back inside would explain it")
        assert page.evaluate(NARROW) <= 390
        page.reload()
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Saskia")
