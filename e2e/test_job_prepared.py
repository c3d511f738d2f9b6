"""What a job is opened from, prepared with and worked beside: verdicts, calls, kits, the forecast, benches in
the place of a step, photos drawn on.
"""

from __future__ import annotations

import io
import json
import uuid
from datetime import timedelta

from conftest import Opener, Stack, send, told
from job_walk import Walk, made_set
from PIL import Image, ImageChops
from playwright.sync_api import Page, expect

SEAL = {"title": "Seal set of this test", "lines": ["seal_set"], "fits": []}


def site_of(stack: Stack, number: int) -> int:
    return int(stack.db.sql(f"select site_id from plant_pumpset where id={number}", database="hurbin_e2e"))


def opened_from(page: Page, number: int) -> dict[str, str]:
    """What the job's first entry says it came from."""
    for _ in range(40):
        sheets = told(page, f"/api/v1/benches/job/sheets?set_id={number}")
        if sheets and sheets[0]["entries"]:
            return dict(sheets[0]["entries"][0]["body"])
        page.wait_for_timeout(250)
    raise AssertionError("the opening was not sent")


def test_a_job_opens_from_the_call_it_answers(open_as: Opener, stack: Stack) -> None:
    lead = open_as("ines")
    number = made_set(lead, stack, "JOB-CALL", "close_coupled")
    now = told(lead, "/api/v1/session")["now"]
    call = {"uuid": str(uuid.uuid4()), "at": now, "complaint": "noise", "note": "", "picture": ""}
    place = {"set_id": number, "service_id": None, "room": ""}
    send(lead, f"/api/v1/sites/{site_of(stack, number)}/calls", call | place)
    page = open_as("saskia", f"/sets/{number}", phone=True)
    page.get_by_test_id("matter").get_by_role("link", name="Open a job").click()
    because = page.get_by_label("What is wrong, in a few words")
    expect(because).not_to_have_value("")
    words = because.input_value()
    page.reload()
    expect(because).to_have_value(words)
    expect(page.locator("[data-because='call'][aria-pressed='true']")).to_contain_text(words)
    page.locator("[data-procedure='J05']").get_by_role("button", name="Open this job").click()
    expect(page.get_by_test_id("job-state")).to_contain_text(words)
    matter = told(lead, f"/api/v1/sets/{number}/safety")["matters"][0]["id"]
    said = opened_from(lead, number)
    assert (said["source"], said["of"], said["because"]) == ("call", str(matter), words)


def test_a_job_opens_from_the_verdict_that_stands(open_as: Opener, stack: Stack) -> None:
    lead = open_as("ines")
    number = made_set(lead, stack, "JOB-BAD", "close_coupled")
    walk = Walk(open_as, lead, stack, number)
    walk.record("running_check", amps_1="29 A", amps_2="20 A", amps_3="20 A")
    page = walk.page
    page.goto(f"{stack.url}/sets/{number}")
    wrong = page.locator("[data-part][data-verdict='act'], [data-part][data-verdict='stop']").first
    wrong.get_by_role("link", name="Open a job").click()
    expect(page.get_by_label("What is wrong, in a few words")).to_have_value("Load, worst leg: stop")
    page.locator("[data-procedure='J16']").get_by_role("button", name="Open this job").click()
    expect(page.get_by_test_id("job-state")).to_contain_text("Load, worst leg: stop")
    assert opened_from(lead, number)["source"] == "verdict"
    viewer = open_as("visitor", f"/sets/{number}")
    expect(viewer.locator("[data-part]").first).to_be_visible()
    expect(viewer.get_by_role("link", name="Open a job")).to_have_count(0)


def test_a_kit_is_put_together_reserved_and_short(open_as: Opener, stack: Stack) -> None:
    lead = open_as("ines")
    number = made_set(lead, stack, "JOB-KIT", "close_coupled")
    send(lead, f"/api/v1/sites/{site_of(stack, number)}/parts", {"code": "KIT-1", **SEAL})
    page = open_as("saskia", "/stores", phone=True)
    page.get_by_role("button", name="New kit").click()
    page.get_by_label("Kit", exact=True).fill("Seal of this pump")
    page.get_by_label("Job", exact=True).select_option("J05")
    page.get_by_label("Of set").select_option(label="JOB-KIT")
    page.get_by_label("Part of the kit").select_option("KIT-1")
    page.get_by_label("How many in it").fill("2")
    page.get_by_role("button", name="Add line").click()
    page.get_by_role("button", name="Save new kit").click()
    kit = page.locator("[data-kit='Seal of this pump']")
    expect(kit).to_contain_text("Never counted: KIT-1.")
    row = page.locator("[data-spare='KIT-1']")
    row.get_by_text("Count, move").click()
    row.get_by_label("Shelf or van").fill("Shelf 3")
    row.get_by_label("Counted").fill("0")
    row.get_by_role("button", name="Save count").click()
    more = row.get_by_role("button", name="one KIT-1 more in Shelf 3")
    more.click()
    more.click(delay=0)
    expect(row.get_by_label("KIT-1 in Shelf 3")).to_have_text("2")
    page.reload()
    expect(kit).to_contain_text("Whole kits here: 1.")
    assert page.evaluate("document.documentElement.scrollWidth <= 390")
    walk = Walk(open_as, lead, stack, number)
    walk.open("J05", "drips")
    walk.page.get_by_role("button", name="Prepare", exact=True).click()
    line = walk.page.locator("[data-kit='KIT-1']")
    expect(line).to_contain_text("2 in Shelf 3")
    walk.page.get_by_role("button", name="Reserve what is there").click()
    expect(line).to_contain_text("2 reserved")
    page.reload()
    expect(kit).to_contain_text("Short for one: 2 × KIT-1.")


def test_the_roof_waits_for_the_weather_of_a_file(open_as: Opener, stack: Stack) -> None:
    lead = open_as("ines")
    number = made_set(lead, stack, "JOB-ROOF", "close_coupled")
    walk = Walk(open_as, lead, stack, number)
    walk.open("J14", "growls")
    walk.page.get_by_role("button", name="Prepare", exact=True).click()
    weather = walk.page.locator("[data-weather]")
    start = (walk.now + timedelta(days=1)).replace(hour=9, minute=0, second=0, microsecond=0)
    hours = [
        {"at": (start + timedelta(hours=i)).isoformat(), "rain_percent": 5, "wind_m_s": wind}
        for i, wind in enumerate([4, 12, *[4] * 60])
    ]
    for name, text, verdict in (
        ("bad.json", "{", ""),
        ("calm.json", json.dumps({"made_at": walk.now.isoformat(), "hours": hours}), "good"),
    ):
        file = {"name": name, "mimeType": "application/json", "buffer": text.encode()}
        walk.page.get_by_label("Forecast file").set_input_files([file])
        if verdict:
            expect(weather).to_have_attribute("data-weather", verdict)
        else:
            expect(walk.page.get_by_text("Forecast, this is no JSON file.")).to_be_visible()
    expect(weather).to_contain_text("Dry and calm for")
    walk.page.reload()
    walk.page.get_by_role("button", name="Prepare", exact=True).click()
    expect(weather).to_have_attribute("data-weather", "good")


def test_a_bench_is_worked_in_the_place_of_its_step(open_as: Opener, stack: Stack) -> None:
    lead, second = open_as("ines"), open_as("jun")
    number = made_set(lead, stack, "JOB-HERE", "close_coupled")
    walk = Walk(open_as, second, stack, number, phone=True)
    walk.open("J05", "drips")
    walk.to_end("P4")
    page = walk.page
    expect(walk.step().locator("[data-waits]")).not_to_have_count(0)
    walk.step().locator("[data-opens='running_check']").click()
    here = page.locator("[data-in-place='running_check']")
    expect(here.get_by_role("heading", name="Running check")).to_be_visible()
    page.keyboard.press("Escape")
    expect(here).to_have_count(0)
    expect(page).to_have_url(f"{stack.url}/sets/{number}/job")
    walk.step().locator("[data-opens='running_check']").click()
    here.get_by_label("Valve").select_option("open")
    for field, value in (("volts_12", "400"), ("volts_23", "400"), ("volts_31", "401")):
        here.locator(f"#f-{field}").fill(value)
    for field, value in (("amps_1", "17.6"), ("amps_2", "17.8"), ("amps_3", "17.5")):
        here.locator(f"#f-{field}").fill(value)
    assert page.evaluate("document.documentElement.scrollWidth <= 390")
    here.get_by_role("button", name="Save record").click()
    expect(here).to_have_count(0)
    expect(walk.step().locator("[data-proof], [data-record-verdict]").first).to_be_visible()
    expect(page).to_have_url(f"{stack.url}/sets/{number}/job")


def test_strokes_on_a_photo_are_kept_with_it(open_as: Opener, stack: Stack) -> None:
    lead = open_as("ines")
    number = made_set(lead, stack, "JOB-DRAW", "close_coupled")
    walk = Walk(open_as, lead, stack, number, phone=True)
    walk.open("J16", "chatter")
    page, out = walk.page, io.BytesIO()
    Image.new("RGB", (1200, 900), (210, 210, 205)).save(out, "JPEG")
    file = {"name": "box.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}
    wrong = {"name": "box.txt", "mimeType": "text/plain", "buffer": b"no photo"}
    photo = page.get_by_label("Photo to draw on")
    photo.set_input_files([wrong])
    expect(page.get_by_text("This file cannot be read as a photo.")).to_be_visible()
    photo.set_input_files([file])
    canvas = page.get_by_label("Photo, draw on it with a finger")
    canvas.scroll_into_view_if_needed()
    box = canvas.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] * 0.2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.8, box["y"] + box["height"] / 2, steps=8)
    page.mouse.up()
    page.get_by_role("button", name="Keep photo").click()
    expect(page.get_by_text("Added.")).to_be_visible()
    kept = told(page, f"/api/v1/sets/{number}/attachments")["items"]
    assert [k["title"] for k in kept] == ["drawn on"]
    got = page.request.get(f"/api/v1/attachments/{kept[0]['uuid']}.jpg")
    picture = Image.open(io.BytesIO(got.body())).convert("RGB")
    plain = Image.new("RGB", picture.size, (210, 210, 205))
    changed = ImageChops.difference(picture, plain).convert("L").point(lambda v: 255 if v > 60 else 0)
    left, top, right, bottom = changed.getbbox() or (0, 0, 0, 0)
    assert (right - left) / picture.width > 0.5, "the stroke goes across"
    assert bottom - top < picture.height / 8
