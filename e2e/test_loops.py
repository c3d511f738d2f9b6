"""Loops in the register, leak or only cooling, filling, a well, vacuum and the choice of a pump."""

from __future__ import annotations

from conftest import Opener, Stack, answered, newest, number_of, set_page
from playwright.sync_api import Page, expect
from test_water import NARROW, chosen, typed


def site_of(page: Page, stack: Stack, tag: str) -> int:
    sql = f"select site_id from plant_pumpset where tag='{tag}'"
    return int(stack.db.sql(sql, database="hurbin_e2e"))


def loop_of(page: Page, stack: Stack, name: str, *tags: str, **figures: str) -> None:
    """A lead describes a loop."""
    page.goto(f"{stack.url}/loops/{site_of(page, stack, tags[0])}")
    page.get_by_role("button", name="Add a loop").click()
    form = page.get_by_role("form", name="New loop")
    form.get_by_label("Name", exact=True).fill(name)
    for label, text in figures.items():
        form.get_by_role("textbox", name=label.replace("_", " ")).fill(text)
    form.get_by_label("Liquid", exact=True).select_option("water")
    form.get_by_label("Pipe", exact=True).select_option("steel")
    for tag in tags:
        form.get_by_label(tag).check()
    form.get_by_role("button", name="Save loop").click()


FIGURES = {
    "Water_in_the_loop": "620",
    "Expansion_vessel": "35",
    "Precharge_of_the_vessel": "1.2",
    "Highest_point_above_the_gauge": "6",
    "Smallest_step_of_its_gauge": "0.01",
}


def reading(page: Page, at: int, when: str, bar: str, temp: str) -> None:
    page.get_by_role("button", name="Add reading").click()
    row = page.locator(f"[data-reading='{at}']")
    row.get_by_label("when").fill(when)
    typed(page, **{f"readings__{at}__pressure": bar, f"readings__{at}__temperature": temp})


def test_a_loop_is_described_and_a_night_of_cooling_is_told_from_a_leak(
    open_as: Opener, stack: Stack
) -> None:
    lead = open_as("teodor")
    loop_of(lead, stack, "Palm house", "PALM-41", "PALM-42", **{**FIGURES, "Expansion_vessel": "900"})
    expect(lead.get_by_text("larger than the whole loop").first).to_be_visible()
    lead.get_by_role("textbox", name="Expansion vessel").fill("35")
    lead.get_by_role("button", name="Save loop").click()
    expect(lead.locator("[data-loop='Palm house']")).to_contain_text("PALM-41, PALM-42")
    page = open_as("saskia", phone=True)
    set_page(page, stack, "PALM-41", "/loop")
    expect(page.locator("[data-loop='Palm house']")).to_contain_text("620 l")
    chosen(page, Filled_or_vented_within_the_last_day="no")
    reading(page, 0, "2026-11-15T18:00", "1.86", "41")
    judged = page.get_by_test_id("judged")
    expect(judged).to_contain_text("One pressure is no hold test")
    reading(page, 1, "2026-11-16T03:00", "1.38", "26")
    for _ in range(2):
        expect(judged).to_contain_text("Water lost: act")
        expect(judged).to_contain_text("A leak, not only cooling: 6.19 l a day ± 1.0 lost")
        expect(judged).to_contain_text("without the temperature it would look like 5.41 l")
        expect(page.locator("[data-value=expected]")).to_contain_text("1.56")
        assert page.evaluate(NARROW) <= 390
        page.reload()
    # With the hose on it is no pressure of the loop.
    page.get_by_label("hose, row 2").select_option("on")
    answered(page)
    expect(judged).to_contain_text("with the hose on it is the mains' pressure")
    page.get_by_label("hose, row 2").select_option("off")
    page.get_by_label("Field side, isolated, fell").select_option("yes")
    page.get_by_label("Machine side, isolated, fell").select_option("no")
    answered(page)
    expect(judged).to_contain_text("Only the field side fell")
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Saskia")
    # The paired set is on the same loop: it knows the pressure.
    set_page(page, stack, "PALM-42", "/loop")
    expect(page.locator("[data-pressed='1']")).to_be_visible()


def test_make_up_left_open_hangs_on_the_set(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "PALM-45", "/loop")
    chosen(page, **{"Make-up_as_it_is_left": "open"})
    answered(page)
    judged = page.get_by_test_id("judged")
    expect(judged).to_contain_text("without meter or end date")
    page.get_by_label("Make-up left open until").fill("2026-11-19")
    typed(page, meter_start="100", meter_end="103")
    expect(judged).to_contain_text("Make-up: watch")
    page.get_by_role("button", name="Save record").click()
    expect(page.get_by_text("Make-up open").first).to_be_visible()


def test_a_branch_is_purged_fast_enough_before_its_pump_starts(open_as: Opener, stack: Stack) -> None:
    lead = open_as("teodor")
    loop_of(lead, stack, "Orchids", "PALM-43", **FIGURES)
    expect(lead.locator("[data-loop=Orchids]")).to_be_visible()
    page = open_as("jun", phone=True)
    set_page(page, stack, "PALM-43", "/fill")
    judged = page.get_by_test_id("judged")
    typed(page, temperature="12")
    page.get_by_role("button", name="Add a branch").click()
    typed(
        page,
        branches__0__bore="26.2",
        branches__0__length="120",
        branches__0__flow="8",
        branches__0__minutes="20",
    )
    expect(judged).to_contain_text("Purge: act")
    typed(page, branches__0__flow="31")
    expect(judged).to_contain_text("Purge it the other way as well")
    page.get_by_label("Both ways", exact=True).check()
    typed(page, standing="0.5")
    expect(judged).to_contain_text("Before its pump starts: stop")
    typed(page, standing="1.1")
    page.get_by_label("Hose on or off").select_option("off")
    page.get_by_label("Suction vented, water without spit").check()
    page.get_by_label("Shaft last turned by hand").fill("2026-11-10")
    answered(page)
    for _ in range(2):
        expect(judged).to_contain_text("Before its pump starts: good")
        expect(judged).to_contain_text("branch 1: 0.96 m/s")
        assert page.evaluate(NARROW) <= 390
        page.reload()


def test_the_valves_of_a_filling_stand_as_its_next_step_wants_them(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun", phone=True)
    set_page(page, stack, "PALM-43", "/fill")
    valve = '[data-valve="{}"][data-state="{}"]'
    expect(page.locator(valve.format("between", "found"))).to_have_count(1)
    for step in ("mended", "locked", "drawn", "precharge", "open", "fill"):
        page.locator(f'[data-step="{step}"] input').check()
    answered(page)
    for _ in range(2):
        said = page.locator("[data-valves]")
        expect(said).to_contain_text("Open: fill cock, low; purge cock, into the drum; this branch.")
        expect(said).to_contain_text("Shut: valve between the two cocks; other branches.")
        expect(page.locator(valve.format("between", "shut"))).to_have_count(1)
        assert page.evaluate(NARROW) <= 390
        page.reload()
    page.locator('[data-step="purge"] input').check()
    expect(page.locator(valve.format("vessel", "shut"))).to_have_count(1)
    expect(page.locator(valve.format("purge", "shut"))).to_have_count(1)


def run(page: Page, at: int, fall: str) -> None:
    if at:
        page.get_by_role("button", name="Add a run").click()
    row = f"runs__{at}__"
    typed(page, **{row + "start": "2", row + "rise": "0.40", row + "rise_s": "418"})
    typed(page, **{row + "fall": "0.62", row + "fall_s": fall, row + "after": "0.3", row + "after_s": "330"})


def test_a_drawdown_counts_the_inflow_and_ragging_shows_against_its_own_best(
    open_as: Opener, stack: Stack
) -> None:
    for fall, amps in (("196", "9.4"), ("236", "10.3")):
        page = open_as("saskia", phone=True)
        set_page(page, stack, "LIFT-62", "/drawdown")
        chosen(page, Well="round", The_other_pump="off", Rain="no")
        typed(page, diameter="2.4", bodies="0", body_diameter="0.35")
        run(page, 0, fall)
        run(page, 1, str(int(fall) + 2))
        page.get_by_label("Mean of 30 s, at the same level").check()
        typed(page, amps_1=amps, amps_2=amps, amps_3=amps)
        judged = page.get_by_test_id("judged")
        if fall == "196":
            expect(judged).to_contain_text("kept as the first mark")
            expect(page.locator("[data-run='0'] [data-pump]")).to_contain_text("66.")
        else:
            expect(judged).to_contain_text("Flow and current together: act")
            expect(judged).to_contain_text("rag in the impeller")
        assert page.evaluate(NARROW) <= 390
        page.get_by_role("button", name="Save record").click()
        expect(newest(page).first).to_contain_text("Saskia")


def test_a_vacuum_is_nothing_without_its_atmosphere(open_as: Opener, stack: Stack) -> None:
    page = open_as("teodor")
    set_page(page, stack, "SAND-53", "/vacuum")
    typed(page, volume="0.85", start="60", reached="40", seconds="41", ultimate="4.2", plate_flow="38")
    expect(page.get_by_text("Choose whether the pressures are gauge or absolute").first).to_be_visible()
    chosen(page, Pressures_are="absolute")
    answered(page)
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(judged).to_contain_text("Suction flow by pull-down, of nameplate: watch")
        expect(judged).to_contain_text("33.1 m³/h by the pull-down")
        page.reload()
    number = number_of(stack, "MAKE-83")
    page.goto(f"{stack.url}/sets/{number}/vacuum")
    chosen(page, Discharge_valve="shut")
    answered(page)
    expect(page.get_by_test_id("judged")).to_contain_text("Stop. A displacement pump against a shut valve")


def test_which_pump_says_why_not(open_as: Opener, stack: Stack) -> None:
    page = open_as("visitor", phone=True)
    set_page(page, stack, "LIFT-62", "/which")
    expect(page.locator("[data-kind=radial]")).to_be_visible()
    expect(page.get_by_text("View only").first).to_be_visible()
    page = open_as("saskia", phone=True)
    set_page(page, stack, "LIFT-62", "/which")
    typed(page, solids_mg="28000")
    page.get_by_label("rags or long fibres").select_option("yes")
    answered(page)
    expect(page.locator("[data-kind=radial]")).to_contain_text("rags wrap its impeller")
    expect(page.locator("[data-kind=radial]")).to_have_attribute("data-fits", "no")
    assert page.evaluate(NARROW) <= 390
