"""An admin makes a plant from nothing on screen; two people edit one thing; a viewer looks."""

from __future__ import annotations

from pathlib import Path

from conftest import Opener, Stack, answered, chooses_a_password, newest, set_page, type_check
from playwright.sync_api import Browser, Page, expect


def fresh_admin(stack: Stack, name: str) -> None:
    stack.env["HURBIN_NEW_PASSWORD"] = "tidal-lagoon-7"
    stack.manage("add_person", name, "--full-name", name.title())
    stack.db.sql(f"update base_user set may_make_sites=1 where username='{name}'", database="hurbin_e2e")


def make_site(page: Page, code: str) -> None:
    page.get_by_label("Code", exact=True).fill(code)
    page.get_by_label("Name", exact=True).fill(f"{code} works")
    page.get_by_label("Time zone").select_option("Europe/Oslo")
    page.get_by_role("button", name="Add site").click()
    page.get_by_label("Service code").fill("HEAT")
    page.get_by_label("Service name").fill("Greenhouse heat")
    page.get_by_role("button", name="Add service").click()


def test_from_nothing_to_a_judged_pair(open_as: Opener, stack: Stack) -> None:
    fresh_admin(stack, "olga")
    page = open_as("olga")
    expect(page.get_by_role("heading", name="No site yet")).to_be_visible()
    page.get_by_role("main").get_by_role("link", name="register").click()
    make_site(page, "GROVE")
    page.get_by_role("link", name="Plant", exact=True).click()
    expect(page.get_by_text("has no pump sets yet")).to_be_visible()
    page.get_by_role("main").get_by_role("link", name="register").click()
    page.get_by_role("button", name="Add duty/standby pair").click()
    page.get_by_label("Duty set tag").fill("GH-1")
    page.get_by_label("Standby set tag").fill("GH-2")
    page.get_by_label("Type", exact=True).select_option("inline_spring")
    page.get_by_role("button", name="Add pair").click()
    page.get_by_role("button", name="Add single set").click()
    page.get_by_label("Tag", exact=True).fill("GH-1")
    page.get_by_label("Type", exact=True).select_option("submersible")
    page.get_by_label("Motor control").select_option("drive")
    page.get_by_role("button", name="Add set").click()
    expect(page.get_by_role("alert")).to_contain_text("Tag GH-1 is already used on this site")
    expect(page.get_by_label("Tag", exact=True)).to_have_value("GH-1")
    page.get_by_label("Tag", exact=True).fill("SU-3")
    page.get_by_role("button", name="Add set").click()
    expect(page.get_by_role("link", name="SU-3")).to_be_visible()
    page.get_by_role("link", name="GH-1,").click()
    motor = page.locator("[data-slot=motor]")
    motor.get_by_role("button", name="Enter nameplate").click()
    motor.get_by_label("Connection in use").select_option("high")
    for label, text in (
        ("Nameplate voltage", "230"),
        ("Nameplate current (FLA)", "6.1"),
        ("Nameplate voltage, high connection", "400"),
        ("Nameplate current (FLA), high connection", "3.5"),
        ("Power", "1.5"),
        ("Frequency", "50"),
    ):
        motor.get_by_label(label, exact=True).fill(text)
    motor.get_by_label("Service factor", exact=True).fill("9")
    motor.get_by_role("button", name="Save nameplate").click()
    expect(motor.get_by_role("alert").first).to_contain_text("Service factor")
    motor.get_by_label("Service factor", exact=True).fill("1.15")
    motor.get_by_role("button", name="Save nameplate").click()
    expect(motor.get_by_role("button", name="version 1")).to_be_visible()
    expect(motor).to_contain_text("Nameplate current (FLA), high connection: 3.5")
    page.get_by_role("link", name="GH-1").click()
    page.get_by_role("link", name="Running check").first.click()
    # On a new site nobody is qualified yet: what was read is entered all the same.
    expect(page.get_by_test_id("gate")).to_contain_text("No qualification in date for live tests")
    expect(page.get_by_test_id("gate").get_by_role("link")).to_have_text("Qualifications")
    page.get_by_role("button", name="Enter readings already taken").click()
    type_check(page, ("401", "400", "399"), ("3.3", "3.31", "3.29"))
    page.get_by_label("Read at").select_option("starter")
    page.get_by_label("Valve", exact=True).select_option("open")
    page.get_by_label("Coupled").select_option("true")
    answered(page)
    expect(page.locator("[data-question=load]")).to_contain_text("94.6 % of nameplate current")
    page.locator("#f-amps_3").press("Control+Enter")
    page.wait_for_url("**/sets/*")
    page.reload()
    expect(page.get_by_test_id("set-verdict")).to_contain_text("good")


def test_plate_edit_is_versioned_and_stale_edit_shows_both(open_as: Opener, stack: Stack) -> None:
    one, two = open_as("ines"), open_as("ines")
    for page in (one, two):
        set_page(page, stack, "LIFT-61", "/parts")
        page.locator("[data-slot=motor]").get_by_role("button", name="Edit nameplate").click()
    for page, amps in ((one, "22.5"), (two, "22.9")):
        motor = page.locator("[data-slot=motor]")
        motor.get_by_label("Nameplate current (FLA)", exact=True).fill(amps)
        motor.get_by_label("Reason for change").fill(f"read {amps} off the plate")
        motor.get_by_role("button", name="Save nameplate").click()
    expect(one.locator("[data-slot=motor]").get_by_role("button", name="version 2")).to_be_visible()
    motor = two.locator("[data-slot=motor]")
    expect(motor).to_contain_text("Saved by someone else, version 2")
    expect(motor.locator("[class*=_beside_]")).to_contain_text("22.5 A")
    expect(motor.locator("[class*=_beside_]")).to_contain_text("22.9 A")
    motor.get_by_role("button", name="Keep mine").click()
    motor.get_by_role("button", name="Save nameplate").click()
    motor.get_by_role("button", name="version 3").click()
    expect(motor).to_contain_text("read 22.5 off the plate")
    set_page(two, stack, "LIFT-61")
    expect(two.locator("[data-callout=pump]")).to_contain_text("74.2")


def test_motor_swap_and_its_refusals(open_as: Opener, stack: Stack) -> None:
    page = open_as("ines")
    set_page(page, stack, "MAKE-81", "/parts")
    motor = page.locator("[data-slot=motor]")
    motor.get_by_role("button", name="Replace part").click()
    motor.get_by_label("Part name").fill("the blue one")
    motor.get_by_label("Fitted on").fill("2031-01-01T08:00")
    motor.get_by_role("button", name="Fit part").click()
    expect(motor.get_by_role("alert")).to_contain_text("Fitting date is in the future")
    motor.get_by_label("Fitted on").fill("2020-01-01T08:00")
    motor.get_by_role("button", name="Fit part").click()
    expect(motor.get_by_role("alert")).to_contain_text("Choose a later time")
    motor.get_by_label("Fitted on").fill("2026-11-15T08:00")
    motor.get_by_label("Reason").fill("bearing noise")
    motor.get_by_role("button", name="Fit part").click()
    expect(motor).to_contain_text("the blue one")
    set_page(page, stack, "MAKE-81")
    expect(page.locator(".hist")).to_contain_text("bearing noise")
    page.goto(f"{stack.url}/register")
    expect(page.get_by_text("MAKE-81 motor")).to_be_visible()


def test_viewer_looks_and_is_refused(open_as: Opener, stack: Stack) -> None:
    page = open_as("visitor")
    set_page(page, stack, "KELP-21")
    expect(newest(page).first).to_be_visible()
    expect(page.get_by_role("link", name="Running check")).to_have_count(0)
    set_page(page, stack, "KELP-21", "/running-check")
    type_check(page, ("401", "400", "399"), ("30", "30.1", "30.2"))
    answered(page)
    expect(page.get_by_role("button", name="Save record")).to_have_count(0)
    number = page.url.split("/")[-2]
    status = page.evaluate(
        """async (id) => {
        const s = await (await fetch('/api/v1/session')).json();
        const headers = {'Content-Type': 'application/json', 'X-CSRFToken': s.csrf};
        const entry = {uuid: crypto.randomUUID(), taken_at: s.now, body: {amps_1: {text: '3'}}};
        const said = {set_id: Number(id), sheet: crypto.randomUUID(), entries: [entry]};
        const r = await fetch('/api/v1/benches/running_check/records',
            {method: 'POST', headers, body: JSON.stringify(said)});
        return r.status }""",
        number,
    )
    assert status == 403
    page.goto(f"{stack.url}/register")
    expect(page.get_by_role("heading", name="Register")).to_be_visible()
    expect(page.get_by_text("Add duty/standby pair")).to_have_count(0)


def test_file_out_and_in(open_as: Opener, stack: Stack, tmp_path: Path) -> None:
    page = open_as("ines", "/register")
    with page.expect_download() as got:
        page.get_by_role("link", name="Export CSV").click()
    text = got.value.path().read_text()
    assert text.startswith("service,service_name,tag")
    changed = tmp_path / "register.csv"
    changed.write_text(
        text.replace("the penguin", "the cold bird") + "NEW,New loop,NEW-1,,,,vacuum,single\r\n"
    )
    page.locator("input[type=file]").set_input_files(changed)
    plan = page.get_by_test_id("csv-plan")
    expect(plan).to_contain_text("1 new, 1 changed, 38 unchanged, 0 rejected")
    page.get_by_role("button", name="Import 2 rows").click()
    expect(plan).to_contain_text("Saved")
    expect(page.get_by_role("link", name="NEW-1")).to_be_visible()
    picture = tmp_path / "photo.csv"
    picture.write_bytes(b"\x89PNG\r\n\x1a\n\x00\x00\x00")
    page.locator("input[type=file]").set_input_files(picture)
    expect(page.get_by_role("alert")).to_contain_text("spreadsheet or a picture")
    empty = tmp_path / "empty.csv"
    empty.write_text("")
    page.locator("input[type=file]").set_input_files(empty)
    expect(page.get_by_role("alert")).to_contain_text("The file is empty")


def test_people_on_screen(open_as: Opener, stack: Stack, browser: Browser) -> None:
    page = open_as("ines", "/register")
    page.get_by_label("User name").fill("nadia")
    page.get_by_label("Full name").fill("Nadia Venn")
    page.get_by_label("Role", exact=True).select_option("viewer")
    page.get_by_label("Password (leave empty to generate one)").fill("green-lamp-rope")
    page.get_by_role("button", name="Add person").click()
    expect(page.get_by_text("can sign in as")).to_be_visible()
    page.get_by_label("Role of nadia").select_option("technician")
    chooses_a_password(stack, browser, "nadia", "green-lamp-rope", "lamp-of-her-own-5")
    nadia = open_as("nadia", word="lamp-of-her-own-5")
    set_page(nadia, stack, "OZON-71")
    expect(nadia.get_by_role("link", name="Running check").first).to_be_visible()


def test_set_edit_by_two(open_as: Opener, stack: Stack) -> None:
    one, two = open_as("ines"), open_as("ines")
    for page in (one, two):
        set_page(page, stack, "LIFT-63", "/parts")
        page.get_by_role("button", name="Edit set").click()
    one.get_by_label("Nickname").fill("the gulper")
    one.get_by_role("button", name="Save set").click()
    expect(one.get_by_role("button", name="Edit set")).to_be_visible()
    two.get_by_label("Nickname").fill("old faithful")
    two.get_by_role("button", name="Save set").click()
    expect(two.get_by_text("saved by someone else: the gulper")).to_be_visible()
    expect(two.get_by_label("Nickname")).to_have_value("old faithful")
    two.get_by_role("button", name="Use saved version").click()
    expect(two.get_by_label("Nickname")).to_have_value("the gulper")


def test_service_edit_by_two(open_as: Opener, stack: Stack) -> None:
    one, two = open_as("ines", "/register"), open_as("ines", "/register")
    for page in (one, two):
        page.locator("[data-service=MIST]").get_by_role("button", name="Edit service").click()
    for page, days in ((one, "20"), (two, "50")):
        page.get_by_label("Running check interval, days").fill(days)
        page.get_by_role("button", name="Save service").click()
    expect(one.locator("[data-service=MIST]")).to_contain_text("running check every 20 days")
    expect(two.locator("[data-service=MIST]")).to_contain_text("running check interval, days: 20")
    two.get_by_role("button", name="Keep mine").click()
    two.get_by_role("button", name="Save service").click()
    expect(two.locator("[data-service=MIST]")).to_contain_text("running check every 50 days")
