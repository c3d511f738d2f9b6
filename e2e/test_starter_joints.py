"""A scan of the joints: place by place on the ladder, from a picture, and what the current explains."""

from __future__ import annotations

from pathlib import Path

from conftest import Opener, Stack, answered, newest, number_of, send, set_page, told
from playwright.sync_api import Page, expect


def how(page: Page) -> None:
    for label, value in (
        ("Load steady for 30 min", "yes"),
        ("Surface that was read", "tape"),
        ("Read with", "camera"),
        ("Lowest terminal rating", "90"),
        ("Seen at the joints", "nothing"),
    ):
        page.get_by_label(label).select_option(value)
    for name, value in (("ambient", "34"), ("distance", "150"), ("ratio", "12"), ("width", "16")):
        page.locator(f"#f-{name}").fill(value)


def three(page: Page, row: str, *values: str, kind: str = "temp") -> None:
    """Typed from the first leg on, Enter leading to the next."""
    if not page.locator(f"[id='f-{kind}:{row}.1']").is_visible():
        page.locator(f"[data-row='{row}']").click()
    page.locator(f"[id='f-{kind}:{row}.1']").focus()
    for leg, value in enumerate(values, 1):
        expect(page.locator(f"[id='f-{kind}:{row}.{leg}']")).to_be_focused()
        page.keyboard.type(value)
        page.keyboard.press("Enter")
    answered(page)


def test_a_tired_clip_is_told_from_the_current_of_its_leg(open_as: Opener, stack: Stack) -> None:
    page = open_as("saskia")
    set_page(page, stack, "OZON-72", "/joints")
    how(page)
    for n, amps in enumerate(("17.3", "17.9", "17.3"), 1):
        page.locator(f"#f-amps_{n}").fill(amps)
    three(page, "F.in", "44", "57", "44")
    judged = page.get_by_test_id("judged")
    expect(judged).to_contain_text("Joint temperature, leg against leg: act")
    expect(judged).to_contain_text("from the joint")
    three(page, "K.in", "44", "44.2", "44.1")
    page.get_by_role("radio", name="millivolts across").click()
    three(page, "F", "31", "88", "30", kind="drop")
    expect(judged).to_contain_text("Fuses, L2: 88.0 mV")
    page.reload()
    expect(page.locator("[data-joint='K.in.2']")).to_have_text("44.2 °C")
    expect(judged).to_contain_text("Fuses, L2: 88.0 mV")
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Saskia Arrowood")
    page.reload()
    expect(page.get_by_text("over its like at this load").first).to_be_visible()


def test_on_a_phone_joints_are_put_on_a_thermal_picture(
    open_as: Opener, stack: Stack, tmp_path: Path
) -> None:
    rows = [["30.0"] * 40 for _ in range(30)]
    for column, value in ((10, "46.0"), (20, "63.5"), (30, "46.2")):
        rows[15][column] = value
    picture = tmp_path / "scan.csv"
    picture.write_text("\n".join(";".join(r) for r in rows))
    page = open_as("saskia", phone=True)
    set_page(page, stack, "OZON-72", "/joints")
    wrong = tmp_path / "wrong.csv"
    wrong.write_text("30.0,30.1\nwarm,30.2")
    file = page.locator("section[aria-label='Thermal picture'] input[type=file]")
    file.set_input_files(wrong)
    expect(page.get_by_text("“warm” is not a temperature")).to_be_visible()
    file.set_input_files(picture)
    shown = page.get_by_role("application")
    box = shown.bounding_box()
    assert box is not None
    for column in (10, 20, 30):
        at = {"x": box["width"] * (column + 0.5) / 40, "y": box["height"] * 15.5 / 30}
        shown.click(position=at)  # type: ignore[arg-type]
    expect(page.locator("[id='f-temp:F.in.2']")).to_have_value("63.5")
    answered(page)
    page.reload()
    expect(page.locator("[id='f-temp:F.in.3']")).to_have_value("46.2")
    expect(page.get_by_test_id("judged")).to_contain_text("L2 at Fuses, line side")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_starter_with_a_star_contactor_says_how_it_stood_and_what_is_idle_is_never_good(
    open_as: Opener, stack: Stack
) -> None:
    page, path = open_as("jun", phone=True), f"/api/v1/sets/{number_of(stack, 'LAG-14')}/circuit"
    kept = told(page, path)
    ring = next(k["circuit"] for k in kept["usual"] if k["id"] == "star_delta")
    send(page, path, {"circuit": ring, "expected_version": kept["version"]}, "PUT")
    set_page(page, stack, "LAG-14", "/joints")
    how(page)
    for n in (1, 2, 3):
        page.locator(f"#f-amps_{n}").fill("48")
    three(page, "X.in", "44", "44.2", "44.1")
    judged = page.get_by_test_id("judged")
    expect(judged).to_contain_text("enter which contactors were in")
    page.get_by_label("Contactors in").select_option(label="main and delta in")
    for _ in range(2):
        expect(judged).to_contain_text("Joint temperature, leg against leg: good")
        expect(judged).not_to_contain_text("which contactors were in")
        page.reload()
    page.get_by_label("Contactors in").select_option(label="main and star in")
    expect(judged).to_contain_text("no current flows here")
    expect(judged).not_to_contain_text("leg against leg: good")
    assert page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth") == 0
