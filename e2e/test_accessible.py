"""Every page on both sheets, read by a checker of accessibility."""

from __future__ import annotations

from axe_playwright_python.sync_playwright import Axe
from conftest import Opener, Stack, answered, at_part, set_page, type_check
from playwright.sync_api import expect

# The night sheet changes colours and nothing else: the rest is read on the light one.
VIOLATIONS = {"resultTypes": ["violations"]}
RULES = {"light": VIOLATIONS, "night": {**VIOLATIONS, "runOnly": ["color-contrast"]}}
_ON = """(sheet) => new Promise((done) => { document.documentElement.dataset.sheet = sheet;
  requestAnimationFrame(() => setTimeout(done)); })"""


def test_the_night_sheet_is_put_on_with_a_key_and_stays(open_as: Opener) -> None:
    page = open_as("ines", "/")
    for sheet in ("night", "light"):
        with page.expect_response("**/api/v1/me"):
            page.keyboard.press("n")
        page.reload()
        expect(page.locator("html")).to_have_attribute("data-sheet", sheet)


def test_nothing_serious_for_the_accessibility_checker(open_as: Opener, stack: Stack) -> None:
    """Each page on the light sheet, and its colours on the night one."""
    page = open_as("ines", "/")
    axe = Axe()
    found: list[str] = []

    def walk(name: str, ready: str) -> None:
        page.locator(ready).first.wait_for()
        for sheet in ("light", "night"):
            page.evaluate(_ON, sheet)
            for v in axe.run(page, options=RULES[sheet]).response["violations"]:
                if v["impact"] in ("serious", "critical"):
                    found.append(
                        f"{name}, {sheet}: {v['id']} {[n['target'] for n in v['nodes'][:3]]}"
                        f" {v['nodes'][0].get('failureSummary', '')[:160]}"
                    )
        page.evaluate(_ON, "light")

    walk("plant", "[class*=_lane_]")
    set_page(page, stack, "KELP-21")
    walk("set", "[data-callout]")
    set_page(page, stack, "KELP-21", "/running-check")
    page.locator("#f-volts_12").wait_for()
    type_check(page, ("401", "390", "399"), ("30", "36", "30"))
    answered(page)
    page.locator("[class*=_ftitle_]").first.click()
    walk("check", ".rulebox")
    set_page(page, stack, "KELP-21", "/parts")
    page.locator("[data-slot=motor]").get_by_role("button", name="Edit nameplate").click()
    walk("parts", "[class*=_nameplate_]")
    page.goto(f"{stack.url}/instruments")
    page.get_by_role("button", name="Add instrument").click()
    page.get_by_role("button", name="Enter calibration").first.click()
    page.get_by_text("Enter a qualification").click()
    walk("instruments", "[aria-labelledby=qualified-title] [role=listitem]")
    set_page(page, stack, "KELP-21", "/running-check")
    page.get_by_role("button", name="Choose").click()
    walk("check with its instruments", "[class*=_rack_]")
    set_page(page, stack, "MIST-92")
    at_part(page, "motor")
    walk("part with its trend", ".uplot")
    set_page(page, stack, "MIST-92", "/insulation")
    page.locator("#f-second").fill("60")
    page.locator("#f-ohms").fill("25")
    page.locator("#f-ohms").press("Enter")
    answered(page)
    walk("insulation", "[class*=_curvepaper_]")
    set_page(page, stack, "MIST-91", "/circuit")
    page.locator("#f-volts").fill("400")
    answered(page)
    walk("circuit", "[data-next]")
    page.get_by_role("button", name="Confirm or edit circuit").click()
    page.get_by_role("button", name="Fuses", exact=True).click()
    walk("circuit edited", "#element-name")
    set_page(page, stack, "MIST-92", "/make-safe")
    page.get_by_role("button", name="Review or edit").click()
    walk("make safe", "[class*=_sourceline_]")
    set_page(page, stack, "KELP-21", "/alignment")
    page.get_by_role("button", name="Enter readings already taken").click()
    page.locator("#f-step_12").fill("0.1")
    page.locator("#f-step_6").fill("-0.1")
    for name, text in (
        ("gap_12", "3.1"),
        ("gap_6", "3"),
        ("x_front", "200"),
        ("x_rear", "500"),
        ("face_diameter", "150"),
    ):
        page.locator(f"#f-{name}").fill(text)
    answered(page)
    walk("alignment", "[class*=_footgrid_]")
    for step, ready in (
        ("Dimensions", ".setsketch"),
        ("Pre-checks", "[class*=_looked_]"),
        ("Tighten", "[class*=_tighten_]"),
        ("Coupling", "[class*=_fit_]"),
    ):
        page.get_by_role("button", name=step, exact=True).click()
        walk(f"alignment, {step}", ready)
    set_page(page, stack, "KELP-21", "/vibration")
    walk("vibration", "[class*=_shaking_]")
    page.goto(f"{stack.url}/vans")
    walk("vans", "[class*=_vanbox_], .emptyword")
    page.goto(f"{stack.url}/call")
    walk("call", "[class*=_taplist_]")
    page.goto(f"{stack.url}/hand-over")
    walk("hand over", "[class*=_readout_]")
    page.goto(f"{stack.url}/readings")
    walk("files", "[class*=_dropzone_]")
    page.goto(f"{stack.url}/register")
    walk("register", "[class*=_svc_]")
    page.goto(f"{stack.url}/rules")
    page.get_by_label("Find a rule, limit, table or standard").fill("unbalance")
    walk("rules", "[data-limit]")
    assert found == []
