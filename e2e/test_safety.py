"""A call, making safe, gates, temporary changes, hand-over: as people do it, on a phone in the pump room and
at the desk.
"""

from __future__ import annotations

import re
from pathlib import Path

from conftest import Opener, Stack, made_safe, newest, number_of, send, set_page, told, type_check
from playwright.sync_api import Locator, Page, expect
from pypdf import PdfReader


def no_sideways(page: Page) -> None:
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1"), page.url


def test_a_call_in_two_taps_stands_on_plant_until_it_is_over(open_as: Opener, stack: Stack) -> None:
    page = open_as("visitor", "/call", phone=True)
    page.get_by_label("Sets, services, rooms").get_by_role("button", name=re.compile("KELP-21")).tap()
    page.get_by_label("Symptoms").get_by_role("button", name="Noise or vibration").tap()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Call sent. It is shown on Plant.")
    first = page.get_by_label("Immediate actions")
    expect(first).to_contain_text("Start KELP-22 in its place.")
    expect(first).to_contain_text("Tell the keeper on duty.")
    page.get_by_label("Details (optional)").fill("knocks twice a minute")
    page.get_by_role("button", name="Add to call").tap()
    expect(page.get_by_text("Added.")).to_be_visible()
    no_sideways(page)
    lead = open_as("teodor", "/")
    matter = lead.get_by_test_id("matter").filter(has_text="KELP-21")
    expect(matter).to_contain_text("knocks twice a minute")
    matter.get_by_role("button", name="Close call").click()
    matter.get_by_label("What was found").fill("a loose guard")
    matter.get_by_label("What was done").fill("bolted it")
    lead.reload()
    matter.get_by_role("button", name="Close call").click()
    expect(matter.get_by_label("What was found")).to_have_value("a loose guard")
    matter.get_by_role("button", name="Close call", exact=True).click()
    expect(matter).to_have_count(0)


def test_a_call_finds_the_set_by_its_place_and_takes_a_room_and_a_picture(
    open_as: Opener, tmp_path: Path
) -> None:
    from PIL import Image

    picture = tmp_path / "dock.png"
    Image.new("RGB", (800, 600), (90, 60, 30)).save(picture)
    page = open_as("jun", "/call")
    page.get_by_label("Tag, location").fill("loading dock")
    expect(page.get_by_label("Sets, services, rooms")).to_contain_text("LIFT-63")
    page.get_by_label("Tag, location").fill("Kelp kitchen")
    page.get_by_role("button", name="“Kelp kitchen”").click()
    page.get_by_role("button", name="Water on the floor").click()
    page.get_by_label("Photo").set_input_files(picture)
    expect(page.get_by_alt_text("Photo as stored")).to_be_visible()
    page.get_by_role("button", name="Add to call").click()
    expect(page.get_by_alt_text("Photo by Jun Belacqua")).to_be_visible()
    page.goto(page.url.replace("/call", "/"))
    expect(page.get_by_test_id("matter").filter(has_text="Kelp kitchen")).to_be_visible()


def keep_list(page: Page) -> None:
    for kind, device, means in (
        ("Supply", "isolator Q33", "isolator"),
        ("Separate control supply", "fuse F33", "fuses_out"),
        ("Shaft turned by flow", "valve V33", "valve"),
    ):
        page.get_by_label(f"{kind}, device", exact=True).fill(device)
        page.get_by_label(f"{kind}, isolated by", exact=True).select_option(means)
    page.get_by_role("button", name="Start by building automation or automatic restart: none here").click()


class ByHand:
    """Acts on a page, and how long they take a person at a desk: the keystroke-level model of Card, Moran and
    Newell (1980), seconds from memory: a key 0.28, pointing 1.1, a click 0.2, the hand to or from the mouse
    0.4, getting ready 1.35.
    """

    def __init__(self, page: Page) -> None:
        self.page, self.seconds = page, 0.0

    def tap(self, what: Locator) -> None:
        self.seconds += 1.35 + 0.4 + 1.1 + 0.2
        what.click()

    def type(self, words: str) -> None:
        self.seconds += 1.35 + 0.4 + 0.28 * (len(words) + 1)
        self.page.keyboard.type(words)
        self.page.keyboard.press("Enter")


def test_a_list_is_answered_on_the_drawing_in_a_minute(open_as: Opener, stack: Stack) -> None:
    """Proposed by kind, starter and neighbours; a device is named, or tapped away, where it comes in."""
    page = open_as("jun")
    number = number_of(stack, "BOIL-02")
    listed = f"/api/v1/sets/{number}/isolation-list"
    set_page(page, stack, "BOIL-02", "/make-safe")
    page.get_by_role("button", name="Review or edit").wait_for()
    before = told(page, f"/api/v1/sets/{number}/safety")["list"]
    send(page, listed, {"version": before["version"], "lines": []}, "PUT")
    page.reload()
    hand, answered_here = ByHand(page), page.get_by_test_id("answered")
    expect(page.locator("[data-drawn=supply]")).to_be_visible()
    count = page.locator("[data-stands=proposed]").count()
    assert count >= 6
    expect(answered_here).to_contain_text(f"0 of {count} sources answered. Left: supply,")
    hand.tap(page.get_by_label("Supply, device", exact=True))
    hand.type("isolator Q12")
    for device in ("fuse F12", "switch S12"):  # on by itself to what is not answered yet, along the train
        expect(page.locator("[data-stands=proposed] input:focus")).to_be_visible()
        hand.type(device)
    for none in page.locator("[data-stands=proposed]").get_by_role("button", name=": none here").all()[::-1]:
        kind = none.get_attribute("aria-label") or ""
        if kind.startswith("Hot water"):
            hand.tap(page.get_by_label("Hot water or steam, device", exact=True))
            hand.type("valve V12")
        else:
            hand.tap(none)
    expect(answered_here).to_contain_text(f"{count} of {count} sources answered.")
    expect(page.locator("[data-drawn=heat]")).to_have_attribute("data-stands", "entered")
    hand.tap(page.get_by_role("button", name="Save list"))
    expect(page.get_by_text("Isolation list: 4 sources, last saved by Jun Belacqua")).to_be_visible()
    assert hand.seconds < 60, hand.seconds
    page.reload()
    page.get_by_role("button", name="Review or edit").click()
    expect(page.get_by_label("Supply, device", exact=True)).to_have_value("isolator Q12")
    expect(page.get_by_label("Supply, isolated by", exact=True)).to_have_value("isolator")
    send(page, listed, {"version": before["version"] + 2, "lines": before["lines"]}, "PUT")


def test_made_safe_proved_worked_on_and_given_back(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "LIFT-61", "/make-safe")
    page.get_by_role("button", name="Review or edit").wait_for()
    listed = f"/api/v1/sets/{number_of(stack, 'LIFT-61')}/isolation-list"
    send(page, listed, {"version": 1, "lines": []}, "PUT")
    page.reload()
    keep_list(page)
    expect(page.locator("[data-drawn=sister_header]")).to_have_attribute("data-stands", "proposed")
    page.get_by_label("Supply: details", exact=True).click()
    page.get_by_label("Supply, also feeds", exact=True).fill("the sump heater")
    page.get_by_label("Supply, inform first", exact=True).fill("the dock office")
    page.reload()  # nothing typed is lost
    expect(page.get_by_label("Supply, device", exact=True)).to_have_value("isolator Q33")
    expect(page.locator("[data-drawn=supply]")).to_have_attribute("data-stands", "entered")
    expect(page.locator("[data-drawn=supply]")).to_contain_text("also feeds the sump heater")
    expect(page.locator("[data-drawn=automation_start]")).to_have_attribute("data-stands", "none")
    page.get_by_role("button", name="Save list").click()
    page.get_by_role("button", name="Motor leads").click()
    expect(page.get_by_text("Local codes, the site's permit")).to_have_count(0)
    page.get_by_label("Who was informed").fill("the night porter")
    page.get_by_role("button", name="Confirm informed").click()
    page.get_by_role("button", name="Confirm stopped").click()
    expect(page.get_by_text("Local codes, the site's permit")).to_be_visible()
    expect(page.get_by_label("Now: Isolate every source")).to_contain_text("A label is not proof")
    expect(page.locator("[data-source=supply]").get_by_role("note")).to_have_text(
        "Also feeds: the sump heater. Inform first: the dock office."
    )
    for kind in ("supply", "control_supply", "turning_by_flow"):
        line = page.locator(f"[data-source={kind}]")
        line.get_by_role("button", name=re.compile("Confirm isolated")).click()
        line.get_by_role("button", name=re.compile("Confirm my lock on")).click()
        expect(line).to_have_attribute("data-counts", "true")
    expect(page.get_by_test_id("iso-state")).to_contain_text("isolated, not proved dead")
    expect(page.get_by_label("Now: Prove dead: live, dead, live")).to_contain_text("Treat it as live")
    page.get_by_label("voltage tester", exact=True).fill("T4")
    page.get_by_label("Voltage on known live source").fill("398")
    page.get_by_role("button", name="Save live reading").click()
    page.get_by_label("point of work").fill("junction box")
    for n, pair in enumerate(PAIRS):
        expect(page.get_by_role("button", name="Save dead readings")).to_be_disabled()
        page.get_by_label(pair, exact=True).fill("0")
        if n == 2:
            page.reload()
    page.get_by_role("button", name="Save dead readings").click()
    page.get_by_label("Voltage on known live source again").fill("399")
    page.get_by_role("button", name="Save live reading, finish proof").click()
    expect(page.get_by_test_id("iso-state")).to_contain_text("isolated and proved dead")
    page.get_by_role("button", name="Confirm try-start: nothing moved").click()
    page.get_by_label("Work done on the circuit").fill("cable end remade")
    page.get_by_role("button", name="Log circuit work").click()
    expect(page.get_by_test_id("iso-state")).to_contain_text("isolated, not proved dead")
    set_page(page, stack, "LIFT-61")
    expect(page.get_by_role("list", name="Open items").first).to_contain_text("Locked on: Saskia Arrowood")
    expect(page.get_by_text("Open items on this set: not cleared.")).to_be_visible()
    expect(page.get_by_text("Running check: blocked")).to_be_visible()
    page.get_by_role("link", name="Isolation status").click()
    expect(page.get_by_test_id("proof")).to_contain_text(
        "Work was done on the circuit after it was proved dead"
    )
    give_back(page)


PAIRS = ("L1 to L2", "L2 to L3", "L3 to L1", "L1 to ground", "L2 to ground", "L3 to ground")


def prove_dead(page: Page) -> None:
    """The three acts, typed one after the other with one tester."""
    page.get_by_label("voltage tester", exact=True).fill("T4")
    page.get_by_label("Voltage on known live source").fill("398")
    page.get_by_role("button", name="Save live reading").click()
    for pair in PAIRS:
        page.get_by_label(pair, exact=True).fill("0")
    page.get_by_role("button", name="Save dead readings").click()
    page.get_by_label("Voltage on known live source again").fill("399")
    page.get_by_role("button", name="Save live reading, finish proof").click()


def give_back(page: Page) -> None:
    prove_dead(page)
    page.get_by_role("button", name="Confirm work complete").click()
    page.get_by_role("button", name="Confirm people clear and informed").click()
    record = page.get_by_role("button", name="Return to service")
    expect(record).to_be_disabled()
    for kind in ("supply", "control_supply", "turning_by_flow"):
        line = page.locator(f"[data-source={kind}]")
        line.get_by_role("button", name=re.compile("Confirm my lock off")).click()
        line.get_by_role("button", name=re.compile("Confirm restored")).click()
    page.get_by_role("button", name="Confirm sources restored as found").click()
    page.get_by_role("button", name="Confirm automatic restored").click()
    expect(page.get_by_label("Now: Running check")).to_contain_text(
        "First start: stand clear of the coupling plane"
    )
    url = page.url
    page.get_by_label("Now: Running check").get_by_role("link", name="Running check").click()
    expect(page.get_by_test_id("gate")).to_have_count(0)
    type_check(page, ("400", "401", "399"), ("9.1", "9.0", "9.2"))
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Running check")
    page.goto(url)
    page.get_by_role("button", name="Confirm alarms cleared").click()
    record.click()
    expect(newest(page).first).to_contain_text("Isolation")
    back = page.get_by_test_id("checkback")
    expect(back).to_contain_text("Follow-up check in")
    back.get_by_label("What was seen").fill("dry and quiet")
    back.get_by_role("button", name="Log follow-up check").click()
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
    expect(gate).to_contain_text("No live test until everybody's lock is off")
    gate.get_by_role("button", name="Enter readings already taken").click()
    type_check(page, ("231", "230", "229"), ("0", "0", "0"))
    expect(page.locator("[data-question=live_on_isolated]")).to_contain_text(
        "Treat as live, prove dead again"
    )
    page.get_by_role("button", name="Save record").click()
    expect(page.get_by_test_id("liveover")).to_contain_text("Not isolated: treat as live, prove dead again")
    expect(other.get_by_test_id("liveover")).to_contain_text("Not isolated: treat as live, prove dead again")
    no_sideways(other)
    elsewhere = open_as("visitor", "/")
    expect(elsewhere.get_by_test_id("livestrip")).to_contain_text("BOIL-02")
    set_page(page, stack, "BOIL-02", "/insulation")
    expect(page.get_by_role("button", name="Start test")).to_have_count(0)
    expect(page.get_by_test_id("gate")).to_contain_text("Prove dead first")
    prove = page.get_by_test_id("proof")
    expect(prove).to_contain_text("treat as live, prove dead again")
    prove_dead(page)
    expect(page.get_by_role("button", name="Start test")).to_be_visible()
    expect(elsewhere.get_by_test_id("livestrip")).to_have_count(0)


def test_two_people_one_without_a_signal(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    number = made_safe(page, stack, "CAFE-06", prove=False)
    jun = open_as("jun", f"/sets/{number}/make-safe", phone=True)
    expect(jun.get_by_test_id("iso-state")).to_contain_text("Saskia Arrowood")
    jun.context.set_offline(True)
    jun.locator("[data-source=supply]").get_by_role("button", name=re.compile("Confirm my lock on")).tap()
    expect(jun.locator("[data-source=supply]")).to_contain_text("lock on: not sent yet")
    expect(jun.get_by_text("1 entry on this device not sent yet")).to_be_visible()
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
        "button", name="Remove Jun Belacqua’s lock (absent)"
    ).click()
    lead.get_by_role("button", name="Remove lock").click()
    expect(lead.get_by_text("Enter the lock-removal steps taken")).to_be_visible()
    lead.get_by_label("Steps taken").fill("called him at home, searched the riser")
    lead.get_by_role("button", name="Remove lock").click()
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
    page.get_by_role("button", name="Add temporary change").click()
    page.get_by_role("radio", name="Jumper").click()
    page.get_by_role("button", name="Add temporary change").click()
    expect(page.get_by_text("Enter the location, so the next shift can find it.")).to_be_visible()
    page.get_by_label("Location, so the next").fill("terminals 4 and 5, hall A panel")
    page.get_by_role("button", name="Add temporary change").click()
    expect(page.get_by_test_id("change")).to_contain_text("terminals 4 and 5")
    page.get_by_role("button", name="Defer a repair").click()
    box = page.get_by_role("group", name="Defer a repair")
    box.get_by_label("Repair to defer").fill("worn coupling element")
    box.get_by_label("Why").fill("part on order")
    box.get_by_label("Limit", exact=True).fill("33")
    box.get_by_label("Condition of the standby").fill("KELP-21 ran all week")
    box.get_by_label("What would end the deferral early").fill("dust under the guard")
    box.get_by_role("button", name="Defer repair").click()
    expect(page.get_by_test_id("deferral")).to_contain_text("Leg current L1 over 33.0")
    page.goto(f"{stack.url}/sets/{page.url.split('/')[-1]}/running-check")
    type_check(page, ("400", "401", "399"), ("33.4", "33.2", "33.3"))
    expect(page.locator("[data-question=interim_limit]")).to_have_attribute("data-verdict", "stop")
    page.goto(stack.url)
    page.get_by_role("link", name="Shift handover").click()
    for chapter, words in (
        ("Temporary changes in place", "terminals 4 and 5"),
        ("Deferred repairs", "worn coupling element"),
        ("Isolated, and who is locked on", "Jun Belacqua"),
    ):
        told = page.get_by_role("region", name=re.compile(chapter))
        expect(told).to_contain_text(words)
        stands_within(told.get_by_text(words).first, told)
    expect(page.get_by_text("Local codes")).to_be_visible()
    with page.expect_download() as got:
        page.get_by_role("link", name="Download PDF").click()
    paper = tmp_path / "hand-over.pdf"
    got.value.save_as(paper)
    text = " ".join(p.extract_text() for p in PdfReader(paper).pages)
    assert "terminals 4 and 5" in text
    assert "Received by" in text
    set_page(page, stack, "KELP-22")
    page.get_by_label("How it was restored").fill("wire back")
    page.get_by_role("button", name="Confirm restored").click()
    expect(page.get_by_test_id("change")).to_have_count(0)
    page.get_by_label("Reason for ending").fill("element renewed")
    page.get_by_test_id("deferral").get_by_role("button", name="End deferral").click()
    expect(page.get_by_test_id("deferral")).to_have_count(0)


def test_the_demos_isolated_set_says_who_is_locked_on_since_when(open_as: Opener, stack: Stack) -> None:
    page = open_as("visitor", phone=True)
    set_page(page, stack, "MIST-92", "/make-safe")
    expect(page.get_by_test_id("iso-state")).to_contain_text("isolated and proved dead")
    expect(page.get_by_test_id("iso-state")).to_contain_text(
        re.compile("Teodor Mbeki-Lund.*1\\d h.*Jun Belacqua.*[89] h")
    )
    expect(page.get_by_role("button", name=re.compile("lock"))).to_have_count(0)
    expect(page.get_by_text("Entries need technician rights")).to_be_visible()
    no_sideways(page)
