"""Phone, keyboard, states of a page, the command line."""

from __future__ import annotations

import json
import re
import socket

from conftest import Opener, Stack, answered, at_part, comes, given_back, newest, run_hurbin, set_page
from playwright.sync_api import Page, Route, expect


def no_sideways(page: Page) -> None:
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), page.url


def test_phone_from_plant_to_record_with_our_keypad(open_as: Opener, stack: Stack) -> None:
    page = open_as(path="/", phone=True)
    page.locator("[class*=_firstlist_] li").first.wait_for()
    no_sideways(page)
    set_page(page, stack, "OZON-71")
    at_part(page, "supply")
    page.locator(".uplot").first.wait_for()
    no_sideways(page)
    page.get_by_role("link", name="Running check").first.click()
    page.locator("#f-volts_12").tap()
    pad = page.get_by_role("group", name="Keypad")
    expect(page.locator("#f-volts_12")).to_have_attribute("inputmode", "none")
    before = stack.records()
    for text in ("401", "400", "399", "16.8", "16.9", "16.7"):
        for key in text:
            pad.get_by_role("button", name=key, exact=True).tap()
        pad.locator("[class*=_next_]").tap()
    expect(pad).to_have_count(0)
    answered(page)
    no_sideways(page)
    expect(page.locator("#f-amps_3")).to_have_value("16.7")
    for key in page.locator("[class*=_figure_] input").all():
        box = key.bounding_box()
        assert box is not None
        assert box["height"] >= 48
    page.get_by_role("button", name="Save record").tap()
    page.wait_for_url("**/sets/*")
    assert stack.records() == before + 1


def test_keypad_keys_are_big_and_turn_for_the_left_hand(open_as: Opener, stack: Stack) -> None:
    page = open_as("teodor", phone=True)
    set_page(page, stack, "OZON-71", "/running-check")
    page.locator("#f-amps_1").tap()
    seven = page.get_by_role("button", name="7", exact=True)
    right = seven.bounding_box()
    assert right is not None
    assert right["height"] >= 56
    page.get_by_role("button", name="same").tap()
    expect(page.locator("#f-amps_1")).not_to_have_value("")
    page.get_by_role("button", name="backspace").tap()
    page.get_by_role("button", name="clear").tap()
    expect(page.locator("#f-amps_1")).to_have_value("")
    page.locator("[class*=_who_] summary").tap()
    page.get_by_role("button", name="Switch keypad to left hand").tap()
    page.locator("#f-amps_1").tap()
    left = seven.bounding_box()
    assert left is not None
    assert left["x"] > right["x"]
    page.locator("[class*=_who_] summary").tap()
    page.get_by_role("button", name="Switch keypad to right hand").tap()


def test_keyboard_alone(open_as: Opener, stack: Stack) -> None:
    page = open_as(path="/")
    page.locator("[class*=_lane_]").first.wait_for()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("find a pump set")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("/")
    page.keyboard.type("thum")
    expect(page.locator("#found li").first).to_contain_text("KELP-21")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("KELP-21")
    page.keyboard.press("c")
    page.locator("#f-volts_12").wait_for()
    page.keyboard.press("e")
    for text in ("401", "400", "399", "30.1", "30.2", "30.3"):
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    expect(page.locator("#f-amps_3")).to_have_value("30.3")
    answered(page)
    page.keyboard.press("Control+Enter")
    expect(page.get_by_test_id("set-verdict")).to_be_visible()
    page.keyboard.press("n")
    expect(page.locator("html")).to_have_attribute("data-sheet", "night")
    page.keyboard.press("n")
    expect(page.locator("html")).to_have_attribute("data-sheet", "light")


def test_no_key_has_two_meanings_and_what_can_be_begun_is_found(open_as: Opener, stack: Stack) -> None:
    page = open_as()
    for rest in ("/insulation", "/alignment", "/vibration", "/running-check", "/make-safe", "/parts", ""):
        set_page(page, stack, "KELP-21", rest)
        page.locator("main h1, [data-testid=gate]").first.wait_for()
        page.get_by_role("link", name="Vibration", exact=True).wait_for() if not rest else None
        page.keyboard.press("?")
        keys = page.get_by_role("dialog").locator("kbd").all_inner_texts()
        assert len(keys) > 5, rest
        assert sorted(set(keys)) == sorted(keys), (rest, keys)
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
    assert {"c", "i", "a", "s", "m"} <= set(keys)
    page.keyboard.press("/")
    page.keyboard.type("vibr")
    expect(page.locator("#found li").first).to_contain_text("Vibration, KELP-21")
    expect(page.locator("#find")).to_have_attribute("aria-activedescendant", "found-0")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Vibration")
    expect(page).to_have_url(re.compile(r"/vibration$"))


def tab_to(page: Page, selector: str) -> None:
    """Tab until the hand is there; a place that Tab does not reach fails."""
    for _ in range(80):
        if page.evaluate("s => document.activeElement.matches(s)", selector):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"Tab never reached {selector}")


def test_insulation_and_files_with_the_keyboard_alone(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun")
    set_page(page, stack, "LIFT-63")
    tab_to(page, "[data-callout=motor] a")
    page.keyboard.press("Enter")
    page.locator("[data-panel=motor]").wait_for()
    page.keyboard.press("i")
    page.locator("#f-winding").wait_for()
    for label, first in (("Where", "at"), ("Links", "in"), ("Phases", "tog")):
        tab_to(page, f"[aria-label={label}]")
        page.keyboard.type(first)
    tab_to(page, ".confirm input")
    page.keyboard.press("Space")
    for name, text in (("test_volts", "500"), ("winding", "20"), ("ambient", "20"), ("humidity", "50")):
        tab_to(page, f"#f-{name}")
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    tab_to(page, "#f-second")
    page.keyboard.type("60")
    tab_to(page, "#f-ohms")
    page.keyboard.type("900")
    page.keyboard.press("Enter")
    answered(page)
    expect(page.locator("[data-question=insulation]")).to_have_attribute("data-verdict", "good")
    tab_to(page, "[data-question=insulation] [class*=_ftitle_]")
    page.keyboard.press("Enter")
    expect(page.locator("[data-question=insulation]")).to_contain_text("IEEE 43-2013")
    tab_to(page, "[class*=_readings_] button")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Readings")).to_have_count(0)
    tab_to(page, "#f-ohms")
    page.keyboard.type("800")
    page.keyboard.press("Enter")
    page.keyboard.press("Control+Enter")
    expect(page.get_by_role("alert").last).to_contain_text("No reading at or near one minute yet")
    page.keyboard.press("Shift+Tab")
    tab_to(page, "#f-second")
    page.keyboard.press("Control+a")
    page.keyboard.type("60")
    tab_to(page, "#f-ohms")
    page.keyboard.type("790")
    page.keyboard.press("Enter")
    page.keyboard.press("Control+Enter")
    expect(newest(page).first).to_contain_text("Insulation test")
    page.keyboard.press("f")
    tab_to(page, "input[type=file]")
    tab_to(page, "a[href$='insulation.csv']")


def test_a_call_and_making_safe_with_the_keyboard_alone(open_as: Opener, stack: Stack) -> None:
    page = open_as("jun", "/")
    page.locator("[class*=_lane_]").first.wait_for()
    page.keyboard.press("k")
    tab_to(page, "#call-where")
    page.keyboard.type("storm")
    tab_to(page, "[class*=_taplist_] button")
    page.keyboard.press("Enter")
    page.get_by_label("Symptoms").wait_for()
    tab_to(page, "[class*=_taplist_][class*=_two_] li:nth-child(8) button")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("It is shown on Plant. LIFT-63")
    page.keyboard.press("o")
    expect(page.get_by_role("region", name="Open calls")).to_contain_text("LIFT-63")
    set_page(page, stack, "KELP-22")
    page.get_by_test_id("set-verdict").wait_for()
    page.keyboard.press("m")
    page.locator("[class*=_scopes_]").wait_for()
    tab_to(page, "[class*=_scopes_] button:nth-child(1)")
    page.keyboard.press("Enter")
    tab_to(page, "[class*=_nowstep_] input")
    page.keyboard.type("the diver")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Now: Stop it normally")).to_be_visible()
    tab_to(page, "[class*=_nowstep_] .btn-ink")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Now: Isolate every source")).to_be_visible()
    tab_to(page, "[data-source=supply] [class*=_doing_]")
    page.keyboard.press("Enter")
    expect(page.locator("[data-source=supply]")).to_contain_text("isolated by Jun Belacqua")
    tab_to(page, "[data-source=supply] [class*=_doing_]")
    page.keyboard.press("Enter")
    expect(page.locator("[data-source=supply]")).to_have_attribute("data-counts", "true")
    expect(page.get_by_test_id("iso-state")).to_contain_text("not isolated yet")
    given_back(page, int(page.url.split("/sets/")[1].split("/")[0]))


def test_an_alignment_with_the_keyboard_alone(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "COLD-31")
    page.locator("svg[class*=_train_]").first.wait_for()
    page.keyboard.press("a")
    page.get_by_test_id("gate").wait_for()
    tab_to(page, "[data-testid=gate] button")
    page.keyboard.press("Enter")
    page.locator("#f-step_12").wait_for()
    page.keyboard.press("1")
    for foot in ("front_left", "rear_left", "front_right", "rear_right"):
        tab_to(page, f"#f-pack_{foot}")
        page.keyboard.press("Control+a")
        page.keyboard.type("1.0 + 0.25 mm")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("2")
    expect(page.get_by_label("Pre-checks")).to_be_visible()
    page.keyboard.press("3")
    for name, text in (("face_diameter", "150"), ("x_front", "200"), ("x_rear", "500")):
        tab_to(page, f"#f-{name}")
        page.keyboard.press("Control+a")
        page.keyboard.type(text)
    answered(page)
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("e")
    page.locator("#f-step_12:focus").wait_for()
    for text in ("0.2", "0", "-0.2", "0", "3.1", "3.1", "3.1", "3.1"):
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    answered(page)
    expect(page.locator("[data-foot=front_left]")).to_contain_text("needs −0.200")
    page.keyboard.press("Control+Enter")
    expect(newest(page).first).to_contain_text("Alignment")
    page.keyboard.press("x")
    expect(page.get_by_role("heading", level=1)).to_have_text("Van shim stock")


def test_states_of_a_page(open_as: Opener, stack: Stack) -> None:
    page = open_as()
    page.goto(f"{stack.url}/nowhere/at/all")
    expect(page.get_by_role("heading", name="Page not found")).to_be_visible()
    page.goto(f"{stack.url}/sets/999999")
    expect(page.get_by_role("heading", name="Not found")).to_be_visible()

    held: list[Route] = []
    page.route("**/plant", lambda route: held.append(route))
    page.goto(stack.url)
    expect(page.get_by_role("status").filter(has_text="Loading plant")).to_be_visible()
    comes(lambda: held, page)
    [route.continue_() for route in held]
    expect(page.locator("[class*=_lane_]").first).to_be_visible()
    page.unroute("**/plant")
    page.route("**/plant", lambda route: route.abort())
    page.goto(stack.url)
    expect(page.get_by_role("heading", name="No connection")).to_be_visible()
    page.unroute("**/plant")
    page.get_by_role("button", name="Try again").click()
    expect(page.locator("[class*=_lane_]").first).to_be_visible()


def test_nothing_from_outside(open_as: Opener, stack: Stack) -> None:
    asked: list[str] = []
    page = open_as()
    page.on("request", lambda r: asked.append(r.url))
    page.goto(stack.url)
    page.locator("[class*=_lane_]").first.wait_for()
    assert asked
    assert [u for u in asked if not u.startswith((stack.url, "data:"))] == []


def check_sheet(**amps: str) -> str:
    plate = {"volts_low": {"text": "400", "unit": "V"}, "amps_low": {"text": "12", "unit": "A"}}
    body = {f"amps_{k[-1]}": {"text": v, "unit": "A"} for k, v in amps.items()}
    entry = {"uuid": "0123456789", "taken_at": "2026-01-01T00:00:00Z", "body": body}
    parts = {"motor": {"kind": "motor", "plate": plate}}
    case = {"context": {"as_of": "2026-01-01T00:00:00Z", "parts": parts}}
    return json.dumps({"entries": [entry], "case": case})


def test_calc_on_the_command_line() -> None:
    assert "running_check" in run_hurbin("calc", "--list").stdout
    schema = json.loads(run_hurbin("calc", "running_check", "--schema").stdout)
    assert "volts_12" in json.dumps(schema)
    good = run_hurbin("calc", "running_check", given=check_sheet(a1="14", a2="14.1", a3="14"))
    assert good.returncode == 0
    assert good.stdout.startswith("ACT")
    data = run_hurbin("calc", "running_check", "--json", given=check_sheet(a1="14", a2="14.1", a3="14"))
    assert json.loads(data.stdout)["verdict"] == "act"
    bad = run_hurbin("calc", "running_check", given=check_sheet(a1="-14", a2="14.1", a3="14"))
    assert bad.returncode == 2
    assert bad.stderr.startswith("amps_1: Current L1 cannot be negative")
    assert run_hurbin("calc", "running_check", given="{").returncode == 2
    assert run_hurbin("calc", "nothing").returncode == 2


def test_a_taken_port_is_said() -> None:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        s.listen()
        taken = s.getsockname()[1]
        from cli.serving import port_taken

        assert port_taken(taken)
    assert not port_taken(taken)
    lines = run_hurbin("status").stdout.splitlines()
    assert all(re.search(r"(^|\s)(not )?running", line) for line in lines if line.strip())
