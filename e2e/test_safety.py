"""A call, making safe, gates, temporary changes, hand-over: as people do it, on a phone in the pump room and
at the desk.
"""

from __future__ import annotations

import re
from pathlib import Path

from conftest import Opener, Stack, made_safe, newest, set_page, type_check
from playwright.sync_api import Locator, Page, expect
from pypdf import PdfReader


def no_sideways(page: Page) -> None:
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1"), page.url


def test_a_call_in_two_taps_stands_on_plant_until_it_is_over(open_as: Opener, stack: Stack) -> None:
    page = open_as("visitor", "/call", phone=True)
    page.get_by_label("Sets, services, rooms").get_by_role("button", name=re.compile("KELP-21")).tap()
    page.get_by_label("Complaints").get_by_role("button", name="Noise or shaking").tap()
    expect(page.get_by_role("heading", level=1)).to_contain_text("It stands on Plant")
    first = page.get_by_label("In the first minute")
    expect(first).to_contain_text("Start KELP-22 in its place.")
    expect(first).to_contain_text("Tell the keeper on duty.")
    page.get_by_label("In your own words").fill("knocks twice a minute")
    page.get_by_role("button", name="Add it to the call").tap()
    expect(page.get_by_text("Added.")).to_be_visible()
    no_sideways(page)
    lead = open_as("teodor")
    matter = lead.get_by_test_id("matter").filter(has_text="KELP-21")
    expect(matter).to_contain_text("knocks twice a minute")
    matter.get_by_role("button", name="it is over").click()
    matter.get_by_label("Found").fill("a loose guard")
    matter.get_by_label("Done").fill("bolted it")
    lead.reload()
    matter.get_by_role("button", name="it is over").click()
    expect(matter.get_by_label("Found")).to_have_value("a loose guard")
    matter.get_by_role("button", name="End it").click()
    expect(matter).to_have_count(0)


def test_a_call_finds_the_set_by_its_place_and_takes_a_room_and_a_picture(
    open_as: Opener, tmp_path: Path
) -> None:
    from PIL import Image

    picture = tmp_path / "dock.png"
    Image.new("RGB", (800, 600), (90, 60, 30)).save(picture)
    page = open_as("jun", "/call")
    page.get_by_label("Tag, place").fill("loading dock")
    expect(page.get_by_label("Sets, services, rooms")).to_contain_text("LIFT-63")
    page.get_by_label("Tag, place").fill("Kelp kitchen")
    page.get_by_role("button", name="“Kelp kitchen”").click()
    page.get_by_role("button", name="Water on the floor").click()
    page.get_by_label("Picture").set_input_files(picture)
    expect(page.get_by_alt_text("The picture as it is kept")).to_be_visible()
    page.get_by_role("button", name="Add it to the call").click()
    expect(page.get_by_alt_text("Picture by Jun Belacqua")).to_be_visible()
    page.goto(page.url.replace("/call", "/"))
    expect(page.get_by_test_id("matter").filter(has_text="Kelp kitchen")).to_be_visible()


def keep_list(page: Page) -> None:
    for kind, device, means in (
        ("Supply", "isolator Q33", "isolator"),
        ("Control supply from elsewhere", "fuse F33", "fuses_out"),
        ("Turning by flow", "valve V33", "valve"),
    ):
        page.get_by_role("button", name=f"{kind}: there is one").click()
        page.get_by_label(f"{kind}, device").fill(device)
        page.get_by_label(f"{kind}, shut by").select_option(means)
    page.get_by_role(
        "button", name="Start by building automation or automatic restart: there is none"
    ).click()


def test_made_safe_proved_worked_on_and_given_back(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "LIFT-61", "/make-safe")
    keep_list(page)
    page.reload()  # nothing typed is lost
    expect(page.get_by_label("Supply, device")).to_have_value("isolator Q33")
    page.get_by_role("button", name="Keep the list").click()
    page.get_by_role("button", name="Motor leads").click()
    expect(page.get_by_text("Local codes, the site's permit")).to_have_count(0)
    page.get_by_label("Who was told").fill("the night porter")
    page.get_by_role("button", name="They know").click()
    page.get_by_role("button", name="It is stopped").click()
    expect(page.get_by_text("Local codes, the site's permit")).to_be_visible()
    expect(page.get_by_label("Now: Shut every source")).to_contain_text("A label is not a proof")
    for kind in ("supply", "control_supply", "turning_by_flow"):
        line = page.locator(f"[data-source={kind}]")
        line.get_by_role("button", name=re.compile("Shut, seen")).click()
        line.get_by_role("button", name=re.compile("My lock on")).click()
        expect(line).to_have_attribute("data-counts", "true")
    expect(page.get_by_test_id("iso-state")).to_contain_text("isolated, not proved dead")
    expect(page.get_by_label("Now: Prove dead in three acts")).to_contain_text("Treat it as live")
    page.get_by_label("tester", exact=True).fill("T4")
    page.get_by_label("Volts on a known live source").fill("398")
    page.get_by_role("button", name="The tester answers").click()
    page.get_by_label("point of work").fill("junction box")
    for n, pair in enumerate(PAIRS):
        expect(page.get_by_role("button", name="Read on every conductor")).to_be_disabled()
        page.get_by_label(pair, exact=True).fill("0")
        if n == 2:
            page.reload()
    page.get_by_role("button", name="Read on every conductor").click()
    page.get_by_label("Volts on the live source again").fill("399")
    page.get_by_role("button", name="It still answers: proved").click()
    expect(page.get_by_test_id("iso-state")).to_contain_text("isolated and proved dead")
    page.get_by_role("button", name="Tried: nothing moves").click()
    page.get_by_label("What was done on it").fill("cable end remade")
    page.get_by_role("button", name="Work was done on the circuit").click()
    expect(page.get_by_test_id("iso-state")).to_contain_text("isolated, not proved dead")
    set_page(page, stack, "LIFT-61")
    expect(page.get_by_label("Tags").first).to_contain_text("Locked on: Saskia Arrowood")
    expect(page.get_by_text("not finished: something hangs on it")).to_be_visible()
    expect(page.get_by_text("Running check: not offered")).to_be_visible()
    page.get_by_role("link", name="How it is made safe").click()
    expect(page.get_by_test_id("proof")).to_contain_text("Work was done on the circuit after it was proved")
    give_back(page)


PAIRS = ("L1 to L2", "L2 to L3", "L3 to L1", "L1 to ground", "L2 to ground", "L3 to ground")


def prove_dead(page: Page) -> None:
    """The three acts, typed one after the other with one tester."""
    page.get_by_label("tester", exact=True).fill("T4")
    page.get_by_label("Volts on a known live source").fill("398")
    page.get_by_role("button", name="The tester answers").click()
    for pair in PAIRS:
        page.get_by_label(pair, exact=True).fill("0")
    page.get_by_role("button", name="Read on every conductor").click()
    page.get_by_label("Volts on the live source again").fill("399")
    page.get_by_role("button", name="It still answers: proved").click()


def give_back(page: Page) -> None:
    prove_dead(page)
    page.get_by_role("button", name="The work is over").click()
    page.get_by_role("button", name="People clear and told").click()
    record = page.get_by_role("button", name="Given back: put on record")
    expect(record).to_be_disabled()
    for kind in ("supply", "control_supply", "turning_by_flow"):
        line = page.locator(f"[data-source={kind}]")
        line.get_by_role("button", name=re.compile("My lock off")).click()
        line.get_by_role("button", name=re.compile("As found")).click()
    page.get_by_role("button", name="Valves and sources as found").click()
    page.get_by_role("button", name="Automatic restored").click()
    expect(page.get_by_label("Now: Running check as the proof")).to_contain_text(
        "First start: stand clear of the coupling plane"
    )
    url = page.url
    page.get_by_label("Now: Running check as the proof").get_by_role("link", name="Running check").click()
    expect(page.get_by_test_id("gate")).to_have_count(0)
    type_check(page, ("400", "401", "399"), ("9.1", "9.0", "9.2"))
    page.get_by_role("button", name="Put on record").click()
    expect(newest(page).first).to_contain_text("Running check")
    page.goto(url)
    page.get_by_role("button", name="Alarms cleared").click()
    record.click()
    expect(newest(page).first).to_contain_text("Made safe")
    back = page.get_by_test_id("checkback")
    expect(back).to_contain_text("To be looked at again in")
    back.get_by_label("What you saw").fill("dry and quiet")
    back.get_by_role("button", name="Looked at").click()
    expect(back).to_have_count(0)


def test_volts_on_an_isolated_set_stand_over_everything_on_every_device(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("saskia")
    made_safe(page, stack, "BOIL-02")
    other = open_as("jun", phone=True)
    set_page(other, stack, "BOIL-02")
    set_page(page, stack, "BOIL-02", "/running-check")
    gate = page.get_by_test_id("gate")
    expect(gate).to_contain_text("a live test waits until everybody's lock is off")
    gate.get_by_role("button", name="Something was read on it all the same").click()
    type_check(page, ("231", "230", "229"), ("0", "0", "0"))
    expect(page.locator("[data-question=live_on_isolated]")).to_contain_text("Treat as live, prove again")
    page.get_by_role("button", name="Put on record").click()
    expect(page.get_by_test_id("liveover")).to_contain_text("Not isolated: treat as live, prove again")
    expect(other.get_by_test_id("liveover")).to_contain_text("Not isolated: treat as live, prove again")
    no_sideways(other)
    elsewhere = open_as("visitor")
    expect(elsewhere.get_by_test_id("livestrip")).to_contain_text("BOIL-02")
    set_page(page, stack, "BOIL-02", "/insulation")
    expect(page.get_by_role("button", name="Volts on")).to_have_count(0)
    expect(page.get_by_test_id("gate")).to_contain_text("Prove dead first")
    prove = page.get_by_test_id("proof")
    expect(prove).to_contain_text("treat as live, prove again")
    prove_dead(page)
    expect(page.get_by_role("button", name="Volts on")).to_be_visible()
    expect(elsewhere.get_by_test_id("livestrip")).to_have_count(0)


def test_two_people_one_without_a_signal(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    number = made_safe(page, stack, "CAFE-06", prove=False)
    jun = open_as("jun", f"/sets/{number}/make-safe", phone=True)
    expect(jun.get_by_test_id("iso-state")).to_contain_text("Saskia Arrowood")
    jun.context.set_offline(True)
    jun.locator("[data-source=supply]").get_by_role("button", name=re.compile("My lock on")).tap()
    expect(jun.locator("[data-source=supply]")).to_contain_text("lock said, waits for a signal")
    expect(jun.get_by_text("1 said on this device and not sent yet")).to_be_visible()
    no_sideways(jun)
    page.goto(f"{stack.url}/sets/{number}/make-safe")
    expect(page.get_by_test_id("iso-state")).not_to_contain_text("Jun")
    jun.context.set_offline(False)
    expect(page.get_by_test_id("iso-state")).to_contain_text("Jun Belacqua")
    page.locator("[data-source=supply]").get_by_role(
        "img", name=re.compile("locked by Saskia Arrowood, locked by Jun Belacqua")
    ).wait_for()
    lead = open_as("teodor", f"/sets/{number}/make-safe")
    lead.locator("[data-source=supply]").get_by_role(
        "button", name="Jun Belacqua’s lock was left behind"
    ).click()
    lead.get_by_role("button", name="Take the lock off").click()
    expect(lead.get_by_text("Say which of the site's steps were followed")).to_be_visible()
    lead.get_by_label("Which steps were followed").fill("called him at home, searched the riser")
    lead.get_by_role("button", name="Take the lock off").click()
    expect(lead.get_by_text("called him at home, searched the riser")).to_be_visible()
    expect(lead.get_by_test_id("iso-state")).not_to_contain_text("Jun")


def stands_within(words: Locator, place: Locator) -> None:
    """What is said stands where it belongs, not somewhere else on the page."""
    inner, outer = words.bounding_box(), place.bounding_box()
    assert inner is not None
    assert outer is not None
    top, bottom = inner["y"], inner["y"] + inner["height"]
    assert outer["y"] <= top < bottom <= outer["y"] + outer["height"]


def test_temporary_change_deferral_and_the_hand_over(open_as: Opener, stack: Stack, tmp_path: Path) -> None:
    page = open_as("jun")
    set_page(page, stack, "KELP-22")
    page.get_by_role("button", name="put on a temporary change").click()
    page.get_by_role("radio", name="Jumper").click()
    page.get_by_role("button", name="Put it on").click()
    expect(page.get_by_text("Say where it is, so that the next shift finds it.")).to_be_visible()
    page.get_by_label("Where, so that").fill("terminals 4 and 5, hall A panel")
    page.get_by_role("button", name="Put it on").click()
    expect(page.get_by_test_id("change")).to_contain_text("terminals 4 and 5")
    page.get_by_role("button", name="put a repair off").click()
    box = page.get_by_role("group", name="Put a repair off")
    box.get_by_label("What is put off").fill("worn coupling element")
    box.get_by_label("Why").fill("part on order")
    box.get_by_label("Limit", exact=True).fill("33")
    box.get_by_label("The standby’s health").fill("KELP-21 ran all week")
    box.get_by_label("What would change the mind").fill("dust under the guard")
    box.get_by_role("button", name="Put it off").click()
    expect(page.get_by_test_id("deferral")).to_contain_text("Amps of a leg, leg 1 over 33.0")
    page.goto(f"{stack.url}/sets/{page.url.split('/')[-1]}/running-check")
    type_check(page, ("400", "401", "399"), ("33.4", "33.2", "33.3"))
    expect(page.locator("[data-question=interim_limit]")).to_have_attribute("data-verdict", "stop")
    page.goto(stack.url)
    page.get_by_role("link", name="Hand over").click()
    for chapter, words in (
        ("Temporary changes that stand", "terminals 4 and 5"),
        ("Repairs put off", "worn coupling element"),
        ("Isolated, and who is locked on", "Jun Belacqua"),
    ):
        told = page.get_by_role("region", name=re.compile(chapter))
        expect(told).to_contain_text(words)
        stands_within(told.get_by_text(words).first, told)
    expect(page.get_by_text("Local codes")).to_be_visible()
    with page.expect_download() as got:
        page.get_by_role("link", name="PDF").click()
    paper = tmp_path / "hand-over.pdf"
    got.value.save_as(paper)
    text = " ".join(p.extract_text() for p in PdfReader(paper).pages)
    assert "terminals 4 and 5" in text
    assert "Taken over by" in text
    set_page(page, stack, "KELP-22")
    page.get_by_label("How it was put right").fill("wire back")
    page.get_by_role("button", name="Taken off").click()
    expect(page.get_by_test_id("change")).to_have_count(0)
    page.get_by_label("It ends because").fill("element renewed")
    page.get_by_test_id("deferral").get_by_role("button", name="End it").click()
    expect(page.get_by_test_id("deferral")).to_have_count(0)


def test_the_demos_isolated_set_says_who_is_locked_on_since_when(open_as: Opener, stack: Stack) -> None:
    page = open_as("visitor", phone=True)
    set_page(page, stack, "MIST-92", "/make-safe")
    expect(page.get_by_test_id("iso-state")).to_contain_text("isolated and proved dead")
    expect(page.get_by_test_id("iso-state")).to_contain_text(
        re.compile("Teodor Mbeki-Lund.*1\\d h.*Jun Belacqua.*[89] h")
    )
    expect(page.get_by_role("button", name=re.compile("lock"))).to_have_count(0)
    expect(page.get_by_text("saying it takes a technician’s rights")).to_be_visible()
    no_sideways(page)
