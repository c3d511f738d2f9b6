"""The insulation test as it is done: prepared, timed, judged, trended; old readings brought in; a certificate
taken out.
"""

from __future__ import annotations

import re
import time
from datetime import date, datetime, timedelta
from pathlib import Path

from conftest import (
    Opener,
    Stack,
    answered,
    at_part,
    comes,
    given_back,
    made_safe,
    newest,
    on_device,
    set_page,
)
from playwright.sync_api import Page, expect


def prepare(page: Page, phases: str = "together", winding: str = "20") -> None:
    page.get_by_label("Where").select_option("motor")
    page.get_by_label("Links").select_option("in")
    page.get_by_label("Phases").select_option(phases)
    page.get_by_label("Surge arresters").check()
    for name, text in (
        ("test_volts", "500"),
        ("ceiling", "10"),
        ("winding", winding),
        ("ambient", "20"),
        ("humidity", "50"),
    ):
        page.locator(f"#f-{name}").fill(text)
        page.locator(f"#f-{name}").press("Enter")


def read_at(page: Page, second: str, ohms: str) -> None:
    page.locator("#f-second").fill(second)
    page.locator("#f-ohms").fill(ohms)
    page.locator("#f-ohms").press("Enter")


def test_typed_afterwards_judged_reloaded_and_on_record(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "COLD-33", "/insulation")
    expect(page.get_by_label("Cautions")).to_contain_text(
        "Prove dead before connecting the insulation tester"
    )
    expect(page.get_by_label("Still missing")).to_contain_text("Enter links in or out")
    expect(page.get_by_text("Test voltage for this nameplate: 500")).to_be_visible()
    prepare(page)
    expect(page.get_by_label("Still missing")).not_to_contain_text("links")
    expect(page.locator("[data-value=dew_point]")).to_have_text(re.compile("9.3"))
    read_at(page, "30", "600")
    read_at(page, "67", "900")
    page.reload()
    answered(page)
    expect(page.get_by_label("Readings")).to_contain_text("01:07")
    found = page.locator("[data-question=insulation]")
    expect(found).to_have_attribute("data-verdict", "good")
    expect(found).to_contain_text("above the minimum of 5")
    expect(page.locator("[data-value=at40]")).to_have_text(re.compile(r"64\d|65\d"))
    found.get_by_role("button").click()
    expect(found).to_contain_text("Corrected as thermosetting")
    expect(found).to_contain_text("by class F on the nameplate")
    expect(found).to_contain_text("IEEE 43-2013")
    expect(page.get_by_test_id("due")).to_contain_text("Next test")
    page.get_by_role("button", name="Save record").click()
    at_part(page, "motor")
    expect(page.locator("[data-figure=insulation_40]")).to_contain_text("insulation at 40 °C")
    page.keyboard.press("Escape")
    expect(newest(page).first).to_contain_text("Insulation test")


def test_the_stopwatch_keeps_the_true_second_and_survives_a_killed_browser(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("jun")
    made_safe(page, stack, "OZON-71")
    start = datetime.fromisoformat("2026-11-16T09:00:00+00:00")
    page.clock.install(time=start)
    set_page(page, stack, "OZON-71", "/insulation")
    prepare(page)
    begun, typed = time.monotonic(), []
    page.get_by_role("button", name="Start test").click()
    for wait, ohms in ((31, "500"), (36, "800")):
        page.clock.fast_forward(wait * 1000)
        page.locator("#f-ohms").fill(ohms)
        page.locator("#f-ohms").press("Enter")
        typed.append(time.monotonic() - begun)
    expect(page.get_by_label("Readings")).to_contain_text("01:0")
    expect(page.get_by_role("timer")).to_have_text(re.compile(r"01:"))
    number = page.url.split("/sets/")[1].split("/")[0]
    page.goto(f"{stack.url}/")
    page.clock.run_for(9000)
    expect(page.get_by_test_id("runstrip")).to_contain_text("OZON-71")
    expect(page.locator(".strip", has_text="Sending")).to_have_count(
        0
    )  # what was cut off by leaving the page goes out from here
    asked = (
        "async () => (await (await fetch('/api/v1/sheets/running')).json()).find((s) => s.tag ==="
        " 'OZON-71').clocks[0].taken_s.length"
    )
    comes(lambda: page.evaluate(asked) >= 2, page)
    page.context.close()
    other = open_as("saskia", f"/sets/{number}/insulation")
    expect(other.get_by_text("Jun Belacqua is on this test too")).to_be_visible()
    expect(other.get_by_label("Readings")).to_contain_text("800")
    other.clock.install()
    other.clock.fast_forward(
        90_000
    )  # as late as the first device's: what is read after the end is none of the test's
    other.get_by_role("button", name="End test").click()
    expect(other.get_by_role("button", name="Confirm leads off")).to_be_disabled()
    expect(other.get_by_label("Cautions")).to_contain_text("grounded")
    body = stack.db.sql(
        "select body from logbook_entry where body like '%\"start\"%' order by received_at desc limit 1",
        database="hurbin_e2e",
    )
    assert "start" in body
    expect(other.locator("[data-question=insulation]")).to_have_attribute("data-verdict", "good")
    other.get_by_role("button", name="Save record").click()
    expect(newest(other).first).to_contain_text("Insulation test")
    kept = stack.db.sql(
        "select body from logbook_record where bench='insulation' order by id desc limit 1",
        database="hurbin_e2e",
    )
    seconds = [float(x) for x in re.findall(r'"seconds": ([\d.]+)', kept)]
    assert len(seconds) == 2
    assert 31 <= seconds[0] <= 31 + typed[0]
    assert 67 <= seconds[1] <= 67 + typed[1]
    back = open_as("jun", f"/sets/{number}/insulation")
    given_back(back, int(number))
    back.reload()
    expect(back.get_by_test_id("gate")).to_contain_text("Prove dead first")
    expect(back.get_by_role("button", name="Start test")).to_have_count(0)


def test_a_lost_connection_keeps_every_reading(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun")
    set_page(page, stack, "LIFT-61", "/insulation")
    prepare(page)
    comes(lambda: not on_device(page), page)
    page.context.set_offline(True)
    read_at(page, "30", "700")
    read_at(page, "60", ">2 G")
    expect(page.get_by_label("Readings")).to_contain_text(">2 G")
    page.context.set_offline(False)
    expect(page.locator("[data-value=minute]")).to_have_text(re.compile("≥ 2.00"), timeout=20_000)
    page.wait_for_function("() => !document.body.innerText.includes('Sending:')", timeout=20_000)
    expect(page.locator("[data-question=insulation]")).to_have_attribute("data-verdict", "good")
    page.locator("#why").fill("called away")
    page.get_by_role("button", name="Close without record").click()
    expect(page.get_by_role("heading", name="LIFT-61")).to_be_visible()


def test_refusals_each_with_its_answer(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "CAFE-06", "/insulation")
    expect(page.get_by_role("alert")).to_contain_text("Built-in electronics")
    set_page(page, stack, "MAKE-81", "/insulation")
    prepare(page)
    read_at(page, "60", "900")
    expect(page.get_by_test_id("problems")).to_contain_text("A drive is on this circuit")
    page.get_by_label("Drive output disconnected").check()
    expect(page.get_by_test_id("problems")).to_have_count(0)
    page.locator("#f-winding").fill("400")
    page.locator("#f-winding").press("Enter")
    expect(page.get_by_test_id("problems")).to_contain_text("400")
    for name, text in (("humidity", "30"), ("ambient", "6"), ("winding", "5")):
        page.locator(f"#f-{name}").fill(text)
        page.locator(f"#f-{name}").press("Enter")
    expect(page.locator("[data-question=insulation]")).to_contain_text("too cold to correct")
    page.get_by_role("button", name=re.compile("Remove")).click()
    expect(page.get_by_label("Readings")).to_have_count(0)
    viewer = open_as("visitor")
    set_page(viewer, stack, "KELP-21", "/insulation")
    expect(viewer.get_by_text("View only. Saving needs technician rights.")).to_be_visible()
    expect(viewer.get_by_role("button", name="Save record")).to_have_count(0)


def test_a_wet_winding_on_plant_and_its_trend_with_twin_bounds_and_floor(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("saskia")
    set_page(page, stack, "MIST-92")
    expect(page.get_by_test_id("set-verdict")).to_have_text(re.compile("act|stop|watch"))
    at_part(page, "motor")
    trend = page.locator("[data-measurand=insulation_40]").first
    expect(trend).to_contain_text("Insulation resistance at 40 °C")
    trend.get_by_role("button", name="Show figures").click()
    expect(trend.locator("table")).to_contain_text("Ω")
    expect(page.locator("[data-panel=motor] h2").first).to_have_text("Motor")
    set_page(page, stack, "KELP-22")
    at_part(page, "motor")
    expect(page.locator("[data-measurand=insulation_40]").first).to_contain_text(
        re.compile("over the tester|Too few")
    )


def test_correct_an_insulation_test(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "KELP-21", "/insulation")
    prepare(page)
    read_at(page, "60", "9")
    expect(page.locator("[data-question=insulation]")).to_have_attribute("data-verdict", "act")
    page.get_by_role("button", name="Save record").click()
    newest(page).first.get_by_role("link").click()
    expect(page.get_by_role("link", name="Report, PDF")).to_be_visible()
    with page.expect_download() as got:
        page.get_by_role("link", name="Report, PDF").click()
    assert Path(got.value.path()).read_bytes().startswith(b"%PDF")
    page.get_by_role("link", name="Correct record").click()
    page.get_by_role("button", name="Remove 9 at 01:00").click()
    read_at(page, "60", "900")
    page.locator("#why").fill("read on the wrong range")
    page.get_by_role("button", name="Save correction").click()
    page.wait_for_url("**/sets/*")
    expect(page.locator(".hist")).to_contain_text("read on the wrong range")
    page.locator("[aria-labelledby=history-title] li[data-live=true]").first.get_by_role("link").click()
    expect(page.locator("[data-question=insulation]")).to_have_attribute("data-verdict", "good")


def test_old_readings_come_in_by_file(open_as: Opener, stack: Stack, tmp_path: Path) -> None:
    head = (
        "tag;taken_at;test_point;links;phases;test_volts|V;winding|degC;ambient|degC;humidity|%;R_60s|GOhm\n"
    )
    bad = tmp_path / "old.csv"
    bad.write_text(
        head
        + "LIFT-61;03.02.2024;motor;in;together;500;21;20;50;1,5\n"
        + "NONE-1;03.02.2024;motor;in;together;500;21;20;50;1,5\n",
        encoding="utf-8-sig",
    )
    page = open_as("jun", "/readings")
    page.get_by_label("A file of readings").set_input_files(bad)
    job = page.get_by_test_id("import")
    expect(job).to_have_attribute("data-state", "checked", timeout=30_000)
    expect(job).to_contain_text("No pump set NONE-1")
    expect(job).to_contain_text("One row is rejected and left out.")
    expect(job.get_by_role("button", name="Save 1 record")).to_be_visible()
    good = tmp_path / "good.csv"
    good.write_text(
        head
        + "".join(
            f"LIFT-61;{d:02}.02.2024;motor;in;together;500;21;20;50;{f}\n"
            for d, f in ((3, "1,5"), (9, ">10"), (20, "2"))
        )
    )
    page.get_by_label("A file of readings").set_input_files(good)
    expect(page.get_by_role("button", name="Save 3 records")).to_be_visible(timeout=30_000)
    page.get_by_role("button", name="Save 3 records").click()
    expect(page.get_by_test_id("import")).to_have_attribute("data-state", "written", timeout=30_000)
    set_page(page, stack, "LIFT-61")
    at_part(page, "motor")
    trend = page.locator("[data-measurand=insulation_40]").first
    trend.get_by_role("button", name="Show figures").click()
    expect(trend.locator("table")).to_contain_text("≥")
    picture = tmp_path / "old.csv"
    picture.write_bytes(b"\x89PNG\r\n\x1a\n....")
    page.goto(f"{stack.url}/readings")
    page.get_by_label("A file of readings").set_input_files(picture)
    expect(page.get_by_role("alert")).to_contain_text("This is a picture")
    with page.expect_download() as got:
        page.get_by_role("link", name="All as CSV").click()
    assert ">10" in Path(got.value.path()).read_text(encoding="utf-8-sig")


def test_a_long_past_is_drawn_from_its_newest_points_and_whole_when_asked(
    open_as: Opener, stack: Stack, tmp_path: Path
) -> None:
    old = tmp_path / "weekly.csv"
    weeks = [date(2016, 1, 4) + timedelta(weeks=i) for i in range(105)]
    old.write_text(
        "tag;taken_at;test_point;links;phases;test_volts|V;winding|degC;ambient|degC;humidity|%;R_60s|GOhm\n"
        + "".join(
            f"LIFT-61;{at.isoformat()};motor;in;together;500;21;20;50;{2 + i % 7 / 10}\n"
            for i, at in enumerate(weeks)
        )
    )
    page = open_as("jun", "/readings")
    page.get_by_label("A file of readings").set_input_files(old)
    page.get_by_role("button", name="Save 105 records").click(timeout=60_000)
    expect(page.get_by_test_id("import")).to_have_attribute("data-state", "written", timeout=60_000)
    set_page(page, stack, "LIFT-61")
    at_part(page, "motor")
    trend = page.locator("[data-measurand=insulation_40]").first
    told = re.compile(r"the newest 100 of (\d+) points")
    expect(trend).to_contain_text(told)
    found = told.search(trend.inner_text())
    assert found is not None
    total = int(found[1])
    assert total >= 105
    page.get_by_role("button", name="Show all points").click()
    expect(trend).not_to_contain_text("the newest")
    expect(trend).to_contain_text(f"{total} points")
    trend.get_by_role("button", name="Show figures").click()
    expect(trend.locator("tbody tr")).to_have_count(total)
    expect(trend.locator("tbody tr").last).to_contain_text("2016")
    page.reload()
    expect(trend).to_contain_text(told)


def test_on_the_phone_with_our_keypad(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun", phone=True)
    set_page(page, stack, "KELP-22", "/insulation")
    page.get_by_label("Where").select_option("motor")
    keys = page.get_by_role("group", name="Keypad")
    page.locator("#f-winding").click()
    for k in "22":
        keys.get_by_role("button", name=k, exact=True).click()
    keys.get_by_role("button", name="next").click()
    page.locator("#f-second").click()
    for k in "60":
        keys.get_by_role("button", name=k, exact=True).click()
    keys.get_by_role("button", name="next").click()
    for k in (">", "2"):
        keys.get_by_role("button", name=k, exact=True).click()
    keys.get_by_label("Unit").select_option("GOhm")
    keys.get_by_role("button", name="add").click()
    expect(page.get_by_label("Readings")).to_contain_text(">2")
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
