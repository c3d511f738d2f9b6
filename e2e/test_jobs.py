"""Whole overhauls: opened, prepared, walked step by step by two people, proved, closed; and what is refused
on the way.
"""

from __future__ import annotations

import pytest
from conftest import Opener, Stack, told
from job_walk import Walk, made_set
from playwright.sync_api import Page, expect

JOBS = [
    ("J01", "inline_spring", {}),
    ("J03", "wet_rotor", {"built_in_electronics": True}),
    ("J05", "close_coupled", {}),
    ("J10", "submersible", {}),
    ("J14", "close_coupled", {}),
    (
        "J17",
        "close_coupled",
        {
            "connection": "low",
            "volts_low": {"text": "230", "unit": "V"},
            "volts_high": {"text": "460", "unit": "V"},
        },
    ),
]


def narrow(page: Page) -> bool:
    return bool(page.evaluate("document.documentElement.scrollWidth <= 390"))


@pytest.mark.parametrize(("procedure", "kind", "plate"), JOBS, ids=[j[0] for j in JOBS])
def test_a_whole_job_from_its_opening_to_its_record(
    open_as: Opener, stack: Stack, procedure: str, kind: str, plate: dict[str, object]
) -> None:
    lead, second = open_as("ines"), open_as("jun")
    number = made_set(lead, stack, f"JOB-{procedure}", kind, **plate)
    walk = Walk(open_as, second, stack, number, phone=procedure in ("J05", "J10"))
    walk.volts = "230" if plate.get("connection") == "low" else ""
    walk.open(procedure, "it drips and growls")
    walk.to_end()
    walk.close("worn out")
    rows = told(walk.page, f"/api/v1/sites/{site_of(stack, number)}/work")
    closed = next(c for c in rows["closed"] if c["set_id"] == number)
    assert closed["verdict"] in ("good", "watch"), closed
    assert closed["cause"] == "worn out"
    assert len([c for c in rows["checks"] if c["set_id"] == number]) == 4
    walk.page.goto(f"{stack.url}/records/{closed['record']}")
    expect(walk.page.get_by_text("worn out").first).to_be_visible()
    expect(walk.page.locator("[data-proof-row]").first).to_be_visible()


def site_of(stack: Stack, number: int) -> int:
    return int(stack.db.sql(f"select site_id from plant_pumpset where id={number}", database="hurbin_e2e"))


def test_a_hold_holds_and_one_step_fills_the_phone(open_as: Opener, stack: Stack) -> None:
    lead, second = open_as("ines"), open_as("jun")
    number = made_set(lead, stack, "JOB-HOLD", "close_coupled")
    walk = Walk(open_as, second, stack, number, phone=True)
    walk.open("J05", "drips")
    walk.to_end(stop_at="I2")
    page = walk.page
    expect(walk.step().locator("button.btn-ink").first).to_be_disabled()
    expect(walk.step()).to_contain_text("Isolate it on the isolation sheet.")
    assert narrow(page)
    walk.to_end(stop_at="J05.8")
    expect(page.locator("[data-part='seat'][data-hand]")).to_be_visible()
    expect(page.get_by_text("No petroleum grease on the EPDM boot").first).to_be_visible()
    page.get_by_role("button", name="Put back").click()
    edge = page.get_by_label("Put back", exact=True)
    for words in ("Valve shut", "Vent open", "Lifted wire", "U1"):
        expect(edge.get_by_text(words).first).to_be_visible()
    # Left half-way and taken up by somebody else, on another device, after a reload.
    second.goto(f"{stack.url}/sets/{number}/job")
    expect(second.locator("[data-step-now='J05.8']")).to_be_visible()
    expect(second.get_by_test_id("job-state")).to_contain_text("Owner: ")
    second.get_by_role("button", name="Close", exact=True).click()
    expect(second.get_by_text("Still on: Valve shut, suction valve.")).to_be_visible()
    expect(second.get_by_role("button", name="Save record")).to_have_count(0)


def test_one_step_ticked_by_two_people_is_told(open_as: Opener, stack: Stack) -> None:
    lead, second = open_as("ines"), open_as("jun")
    number = made_set(lead, stack, "JOB-TWO", "close_coupled")
    walk = Walk(open_as, second, stack, number)
    walk.open("J16", "chatter")
    walk.page.get_by_text("Record: colour of each joint").wait_for()
    second.goto(f"{stack.url}/sets/{number}/job")
    second.get_by_role("button", name="Steps", exact=True).click()
    expect(second.locator("[data-step-now='J16.1']")).to_be_visible()
    expect(second.get_by_text("No record of it from before the work.")).to_be_visible()


def test_a_part_is_counted_by_phone_moved_and_never_taken_twice(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia", "/stores", phone=True)
    page.get_by_label("Code").fill("TEST-1")
    page.get_by_label("Part", exact=True).last.fill("Test spare")
    page.get_by_label("Fills kit lines, by comma").last.fill("element")
    page.get_by_role("button", name="Add part").click()
    row = page.locator("[data-spare='TEST-1']")
    row.get_by_text("Count, move").click()
    row.get_by_label("Shelf or van").fill("Shelf 9")
    row.get_by_label("Counted").fill("1")
    row.get_by_role("button", name="Save count").click()
    expect(row.get_by_label("TEST-1 in Shelf 9")).to_have_text("1")
    row.get_by_label("From", exact=True).fill("Shelf 9")
    row.get_by_label("To", exact=True).fill("Van north")
    row.get_by_label("How many").fill("2")
    row.get_by_role("button", name="Move").click()
    expect(row.get_by_text("1 free in Shelf 9")).to_be_visible()
    row.get_by_label("Used a year").fill("9")
    row.get_by_label("Lead time, measured, days").fill("49")
    row.get_by_label("Price", exact=True).fill("85")
    row.get_by_role("button", name="Save figures").click()
    expect(row).to_contain_text("Keep 3")
    page.reload()
    expect(page.locator("[data-spare='TEST-1']")).to_contain_text("Least 3, most 8")
    assert narrow(page)


def test_a_bolt_circle_is_tightened_in_its_order(open_as: Opener, stack: Stack) -> None:
    lead = open_as("ines")
    number = made_set(lead, stack, "JOB-BOLT", "close_coupled")
    page = open_as("saskia", f"/sets/{number}/bolts", phone=True)
    for label, value in (
        ("Size", "M12"),
        ("Grade", "8.8"),
        ("Thread", "oiled"),
        ("Thread is in", "steel"),
        ("Gasket", "none"),
    ):
        page.get_by_label(label, exact=True).select_option(value)
    page.locator("#f-bolts").fill("4")
    expect(page.get_by_text("66.0 N·m").first).to_be_visible()
    for bolt in [1, 3, 2, 4] * 4 + [1, 2, 3, 4]:
        page.locator(f"[data-bolt='{bolt}']").click()
    page.locator("#f-applied").fill("66")
    expect(page.get_by_test_id("judged")).to_contain_text("66.0 N·m applied, 66.0 N·m wanted.")
    page.get_by_role("button", name="Save record").click()
    page.wait_for_url(f"**/sets/{number}")
    assert narrow(page)


def test_petroleum_on_epdm_stops(open_as: Opener, stack: Stack) -> None:
    lead = open_as("ines")
    number = made_set(lead, stack, "JOB-SEAL", "close_coupled")
    page = open_as("saskia", f"/sets/{number}/seal")
    for label, value in (("Rubber", "epdm"), ("On the rubber", "petroleum"), ("Liquid", "water")):
        page.get_by_label(label, exact=True).select_option(value)
    expect(page.get_by_test_id("judged")).to_contain_text("Petroleum swells EPDM")
    page.locator("#f-stand_out").fill("11")
    page.locator("#f-flat").fill("12")
    expect(page.get_by_test_id("judged")).to_contain_text("of shaft is left beyond the flat")
    page.reload()
    expect(page.locator("#f-flat")).to_have_value("12")
    expect(page.locator("[data-verdict='stop']").first).to_be_visible()


def test_a_lead_extends_a_procedure_on_screen(open_as: Opener, stack: Stack) -> None:
    lead = open_as("teodor", "/work")
    lead.get_by_role("link", name="Procedures of this site").click()
    lead.locator("[data-procedure='J07']").get_by_role("button").first.click()
    lead.get_by_role("button", name="Add a step after it").first.click()
    step = lead.locator("[data-step='x8']")
    step.locator("summary").click()
    step.get_by_label("Title").fill("Photograph the dust")
    step.get_by_label("Do", exact=True).fill("Photograph the dust under the coupling.")
    lead.get_by_label("Why it is changed").fill("three elements in a year")
    keep = lead.get_by_role("button", name="Save version for this site")
    part = step.get_by_role("group", name="What it does to the parts").get_by_role(
        "button", name="both shaft ends"
    )
    part.click()
    expect(step.locator("[data-turn='off']")).to_contain_text("both shaft ends")
    keep.click()
    expect(lead.get_by_text("comes off and never goes back")).to_be_visible()
    for _ in range(3):
        part.click()
    expect(step.locator("[data-turn='off']")).to_have_count(0)
    step.get_by_label("Hold: words of its button").fill("Confirm dust photographed")
    step.get_by_label("The hold waits for").select_option("record")
    keep.click()
    expect(lead.get_by_text("cannot be met: it opens no bench")).to_be_visible()
    step.get_by_label("The hold waits for").select_option("confirm")
    keep.click()
    expect(lead.locator("[data-procedure='J07']")).to_contain_text("site version 1")
    viewer = open_as("visitor")
    viewer.goto(lead.url)
    viewer.locator("[data-procedure='J07']").get_by_role("button").first.click()
    expect(viewer.get_by_role("button", name="Save version for this site")).to_have_count(0)


def test_an_apprentice_learns_a_pump_without_a_job(open_as: Opener) -> None:
    page = open_as("visitor", "/anatomy/base_mounted", phone=True)
    page.get_by_role("button", name="Next part").click()
    for _ in range(3):
        page.get_by_role("button", name="Next part").click()
    page.locator("[data-part-row='wheel'] button").click()
    says = page.get_by_label("The part", exact=True)
    expect(says).to_contain_text("vanes at least 70 % thick")
    expect(says).to_contain_text("impeller nut and lock")
    assert narrow(page)


def test_when_is_it_back_without_signing_in(open_as: Opener, stack: Stack) -> None:
    lead, second = open_as("ines"), open_as("jun")
    number = made_set(lead, stack, "JOB-BACK", "close_coupled")
    walk = Walk(open_as, second, stack, number)
    walk.open("J05", "drips")
    walk.page.get_by_role("button", name="Prepare", exact=True).click()
    walk.page.get_by_label("Waits for").fill("a seal set")
    walk.page.get_by_label("Back on").fill("2026-12-01")
    walk.page.get_by_role("button", name="Save", exact=True).click()
    expect(walk.page.get_by_test_id("job-state")).to_contain_text("Waits for a seal set")
    shell = stack.manage(
        "shell", "-v0", "-c", f"from hurbin_server.jobs.reads import back_token; print(back_token({number}))"
    )
    page = second.context.browser.new_context(base_url=stack.url).new_page()  # type: ignore[union-attr]
    page.goto(f"/back/{shell.strip().splitlines()[-1]}")
    expect(page.get_by_text("waiting for a seal set")).to_be_visible()
    expect(page.get_by_text("Saskia")).to_be_visible()
    expect(page.get_by_text("drips")).to_have_count(0)
    page.context.close()
