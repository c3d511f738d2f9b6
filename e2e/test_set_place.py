"""The page of a set: the train is its map, a part is looked at by tapping it, everything stands apart."""

from __future__ import annotations

import re
from itertools import combinations

from conftest import Opener, Stack, at_part, send, set_page, told
from playwright.sync_api import Page, expect

# Each way a set stands: on one line, upright, one body; with much on record and with nothing.
SETS = ("KELP-21", "MIST-92", "BOIL-01", "LIFT-61", "PALM-41", "CAFE-06")
WIDE = (390, 1024, 1280, 1920)
_BOXES = """() => [...document.querySelectorAll('[data-callout]')].map((e) => {
  const b = e.getBoundingClientRect();
  return [e.dataset.callout, b.left, b.top, b.right, b.bottom, e.scrollWidth - e.clientWidth];
})"""
_LEADERS = """() => { const svg = document.querySelector('svg[class*=_leaders_]');
  const at = svg?.getBoundingClientRect();
  return [...(svg?.querySelectorAll('path') ?? [])].map((p) => {
    const n = p.getTotalLength();
    return [...Array(41).keys()].map((i) => { const q = p.getPointAtLength((n * i) / 40);
      return [q.x + at.left, q.y + at.top]; });
  }); }"""


def longest_units(page: Page) -> dict[str, str]:
    """Of each kind of figure the unit with the longest sign."""
    every = told(page, "/api/v1/units")
    return {d: max(units, key=lambda u: len(u["symbol"]))["code"] for d, units in every.items() if units}


def test_no_callout_touches_another_nor_a_line(open_as: Opener, stack: Stack) -> None:
    """At every width, in both styles of figures, with the longest units."""
    page = open_as("visitor")
    lines = 0
    for locale, units in (("en-GB", {}), ("de-DE", longest_units(page))):
        send(page, "/api/v1/me", {"locale": locale, "units": units}, "PATCH")
        for tag in SETS:
            set_page(page, stack, tag)
            for width in WIDE:
                page.set_viewport_size({"width": width, "height": 844})
                page.locator("[data-callout]").first.wait_for()
                page.evaluate(
                    "() => new Promise((done) => requestAnimationFrame(() => setTimeout(done, 30)))"
                )
                boxes = page.evaluate(_BOXES)
                assert len(boxes) >= 4
                for name, left, _, right, _, over in boxes:
                    assert over <= 1, (tag, width, name, over)
                    assert left >= 0, (tag, width, name)
                    assert right <= width, (tag, width, name)
                for one, two in combinations(boxes, 2):
                    apart = one[3] <= two[1] + 0.5 or two[3] <= one[1] + 0.5
                    above = one[4] <= two[2] + 0.5 or two[4] <= one[2] + 0.5
                    assert apart or above, (tag, width, one, two)
                leaders = page.evaluate(_LEADERS)
                lines += len(leaders)
                inner = [(b[1] + 2, b[2] + 2, b[3] - 2, b[4] - 2) for b in boxes]
                for x, y in (q for path in leaders for q in path):
                    assert not any(a < x < c and b < y < d for a, b, c, d in inner), (tag, width, x, y)
                assert page.evaluate("document.documentElement.scrollWidth") <= width + 1
    assert lines > 20, "no leader was drawn"


def test_a_part_fills_the_panel_and_the_address_keeps_it(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "KELP-21")
    whole = page.get_by_role("region", name="What is wrong")
    expect(whole).to_contain_text("Current against own history: act, this shift")
    expect(whole).to_contain_text("Supply: good, read")
    assert page.locator(".uplot").count() == 0
    due = page.get_by_role("region", name="Next due").get_by_role("listitem")
    expect(due.filter(has_text="Vibration")).to_contain_text("not done yet")
    at_part(page, "coupling")
    panel = page.locator("[data-panel=coupling]")
    expect(panel.get_by_test_id("part-verdict")).to_contain_text("act, this week")
    expect(panel).to_contain_text("Coupling offset. Vertical: 0.165 mm ± 0.050 mm.")
    expect(panel.get_by_role("img").first).to_have_attribute(
        "aria-label", re.compile(r"0\.077\smm over limit")
    )
    expect(panel.locator("[data-figure=align_offset_v]")).to_contain_text("vertical offset")
    expect(panel.get_by_text("Blocked: Work and dead tests only after proving dead").first).to_be_visible()
    expect(page.locator("[data-measurand]")).to_have_count(1)
    expect(page.locator("[data-small]")).to_have_count(3)
    page.locator("[data-small=align_angle_v]").click()
    one = page.locator("[data-measurand=align_angle_v]")
    expect(one).to_contain_text("by straightedge and gauge, as found, cold")
    expect(one).to_contain_text("One reading, 9 Jul 2026: −0.125 mm per 100 mm")
    page.reload()
    expect(panel).to_be_visible()
    page.keyboard.press("Escape")
    expect(whole).to_be_visible()
    page.go_back()
    expect(panel).to_be_visible()
    page.locator("svg[class*=_train_] g[transform]").first.click()
    expect(page.locator("[data-panel=supply]")).to_contain_text("voltage unbalance")


def test_a_set_is_a_screen_and_a_half_at_a_desk(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    page.set_viewport_size({"width": 1280, "height": 800})
    for part in ("", "motor", "pump"):
        set_page(page, stack, "LAG-14", f"?part={part}" if part else "")
        page.locator(f"[data-panel={part}] h2" if part else "[data-testid=set-verdict]").first.wait_for()
        page.wait_for_load_state("networkidle")
        page.evaluate("() => document.fonts.ready")
        assert page.evaluate("document.documentElement.scrollHeight") <= 1200, part


def test_one_timeline_of_everything_filtered_by_tapping(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "MIST-92")
    history = page.locator("[aria-labelledby=history-title]")
    expect(history.locator(".hist li").first).to_contain_text("Lifted wire")
    history.get_by_role("button", name="open items").click()
    expect(history.locator(".hist li")).to_have_count(1)
    expect(history.locator(".hist li")).to_contain_text("terminals 41, 42")
    history.get_by_role("button", name="open items").click()
    history.get_by_role("button", name="Show 10 more").click()
    expect(history.locator(".hist li")).to_have_count(15)
    history.get_by_role("button", name="records").click()
    expect(history.locator(".hist li").first).not_to_contain_text("Lifted wire")
    history.locator(".hist li").first.get_by_role("link").click()
    page.wait_for_url("**/records/*")


def test_on_a_phone_a_set_is_three_screens_and_a_part_stands_between_its_neighbours(
    open_as: Opener, stack: Stack
) -> None:
    page = open_as("jun", phone=True)
    set_page(page, stack, "KELP-21")
    page.locator("[data-callout]").first.wait_for()
    wrong, callouts = page.locator("[data-part=pump]").bounding_box(), page.locator("[data-callout=pump]")
    box = callouts.bounding_box()
    assert wrong is not None
    assert box is not None
    assert wrong["y"] < 500 < box["y"]
    assert page.evaluate("document.documentElement.scrollHeight") <= 3 * 844
    callouts.get_by_role("link").tap()
    parts = page.get_by_role("navigation", name="Parts")
    expect(parts).to_contain_text("Wet end")
    assert page.evaluate("document.documentElement.scrollHeight") <= 3 * 844
    parts.get_by_role("link", name="Seal").tap()
    expect(page.locator("[data-panel=seal]")).to_contain_text("No finding on record for this part.")
    page.get_by_role("link", name="Whole set").tap()
    expect(page.get_by_role("region", name="What is wrong")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth + 1")


def test_a_lane_says_who_serves_it_and_the_first_has_one_action(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia", "/")
    misting = page.locator("[data-service]").filter(has_text="Glasshouse misting")
    expect(misting).to_have_attribute("data-served", "unknown")
    expect(misting).to_contain_text("Cannot tell: MIST-91 not seen running within")
    expect(misting).to_contain_text("Out: MIST-92 isolated and proved dead.")
    lane = page.locator("[data-service]").filter(has_text="Kelp forest sea water")
    expect(lane).to_contain_text("Served by KELP-21")
    kelp = page.locator("[data-first=KELP-21]")
    expect(kelp.get_by_role("link")).to_have_count(2)
    kelp.get_by_role("link", name="Open wet end").click()
    expect(page.locator("[data-panel=pump]")).to_contain_text("Current against own history")
    page.reload()
    expect(page.get_by_test_id("part-verdict")).to_contain_text("act, this shift")
