"""A drive read over the wire: listed by an admin, read by the worker, found reset; typed; out of a file."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from conftest import Opener, Stack, answered, newest, set_page
from playwright.sync_api import Page, expect

from cli.state import ROOT


@contextmanager
def stand_in(*drives: str, mode: str = "ok") -> Iterator[str]:
    """The stand-in on a port of its own."""
    words = [w for d in drives for w in ("--set", d)]
    process = subprocess.Popen(
        [sys.executable, "-m", "stand_ins.drive", "--mode", mode, *words],
        cwd=ROOT,
        env={"PYTHONPATH": f"{ROOT / 'core'}:{ROOT}", "PATH": "/usr/bin:/bin"},
        stdout=subprocess.PIPE,
        stdin=subprocess.DEVNULL,
        text=True,
    )
    try:
        assert process.stdout is not None
        yield process.stdout.readline().rsplit(":", 1)[1].strip()
    finally:
        process.terminate()
        process.wait(10)


def listed(page: Page, stack: Stack, tag: str, port: str, unit: str) -> None:
    set_page(page, stack, tag, "/drive-sheet")
    page.get_by_role("link", name="Addresses of drives").click()
    expect(page.get_by_role("heading", name="Drives on the network")).to_be_visible()
    page.get_by_role("button", name="Add a drive").click()
    page.get_by_label("Pump set").select_option(tag)
    page.get_by_label("IP address").fill("drive.local")
    page.get_by_label("Port").fill(port)
    page.get_by_label("Unit number").fill(unit)
    page.get_by_label("Family").select_option("ladder")
    page.get_by_role("button", name="Save address").click()
    expect(page.get_by_text("a name is not looked up").first).to_be_visible()
    page.get_by_label("IP address").fill("127.0.0.1")
    page.get_by_role("button", name="Save address").click()
    expect(page.locator(f"[data-drive={tag}]")).to_contain_text(f"127.0.0.1:{port}")


def test_a_drive_that_lost_its_settings_is_read_and_named(open_as: Opener, stack: Stack) -> None:
    with stand_in("31=ladder") as port:
        listed(open_as("ines"), stack, "COLD-32", port, "31")
        page = open_as("saskia")
        set_page(page, stack, "COLD-32", "/drive-sheet")
        expect(page.get_by_role("link", name="Addresses of drives")).to_have_count(0)
        page.get_by_role("button", name="Read from the drive").click()
        expect(page.get_by_label("Motor current, found")).to_have_value("15.2", timeout=30_000)
        answered(page)
        judged = page.get_by_test_id("judged")
        for _ in range(2):
            expect(judged).to_contain_text("the drive was reset")
            expect(judged).to_contain_text("Motor current: 15.2 A, should be 41.5 A (nameplate)")
            expect(page.locator("[data-setting=motor_amps]")).to_have_attribute("data-state", "wrong")
            page.reload()
        page.get_by_label("Motor current, left").fill("41.5")
        answered(page)
        expect(page.locator("[data-setting=motor_amps]")).to_have_attribute("data-state", "right")
        page.get_by_role("button", name="Save record").click()
        expect(newest(page).first).to_contain_text("Saskia Arrowood")
        set_page(page, stack, "COLD-32", "/drive-sheet")
        page.get_by_role("button", name="Read from the drive").click()
        expect(judged).to_contain_text("Motor current: left 41.5 A, found 15.2 A.")
        page.get_by_role("button", name="moved").click()
        expect(page.locator("[data-setting=motor_amps]")).to_contain_text("was 41.5")
        expect(page.locator("[data-setting=accel]")).to_have_count(0)


def test_a_drive_that_stops_half_way_gives_nothing_and_says_so(open_as: Opener, stack: Stack) -> None:
    with stand_in("9=ladder", mode="half") as port:
        listed(open_as("ines"), stack, "LAG-14", port, "9")
        page = open_as("jun")
        set_page(page, stack, "LAG-14", "/drive-sheet")
        page.get_by_role("button", name="Read from the drive").click()
        expect(page.get_by_test_id("answered")).to_contain_text("stopped answering half-way", timeout=30_000)
        expect(page.get_by_label("Motor current, found")).to_have_value("")


def test_on_a_phone_the_synchronous_speed_is_caught_as_it_is_typed(
    open_as: Opener, stack: Stack, tmp_path: Path
) -> None:
    page = open_as("jun", phone=True)
    set_page(page, stack, "MAKE-82", "/drive-sheet")
    page.get_by_label("Motor speed, found").fill("3000")
    answered(page)
    judged = page.get_by_test_id("judged")
    for _ in range(2):
        expect(judged).to_contain_text("Motor speed is the synchronous one")
        assert page.evaluate("document.documentElement.scrollWidth") <= 390
        page.reload()
    table = tmp_path / "drive.csv"
    table.write_text("parameter,value,unit\nmotor_rpm,2920,rpm\nwarp,9,\n")
    page.get_by_label("Drive settings as a file").set_input_files(table)
    expect(page.get_by_test_id("answered")).to_contain_text("“warp” is no parameter known here")
    expect(page.get_by_label("Motor speed, found")).to_have_value("2920 rpm")
