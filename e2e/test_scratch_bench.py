"""A bench that nobody knows is on screen with one folder more in the core and one in the web."""

from __future__ import annotations

import os
import shutil
import signal
import subprocess
from collections.abc import Iterator
from pathlib import Path

import pytest
from conftest import WORD, Opener, Stack, answered, newest
from playwright.sync_api import expect

from cli.serving import start_gunicorn, wait_healthy
from cli.state import ROOT, free_port

HERE = Path(__file__).parent
DATABASE = "hurbin_scratch_screen"
BUILT = ("index.html", "package.json", "tsconfig.json", "vite.config.ts", "public")


@pytest.fixture
def more(stack: Stack, tmp_path: Path) -> Iterator[str]:
    """The application with the scratch bench, in copies and on a database of its own; its address."""
    core, web = tmp_path / "core", tmp_path / "web"
    quiet = shutil.ignore_patterns("__pycache__")
    shutil.copytree(ROOT / "core" / "hurbin_core", core / "hurbin_core", ignore=quiet)
    shutil.copytree(
        ROOT / "server" / "tests" / "scratch_topic" / "sump", core / "hurbin_core" / "sump", ignore=quiet
    )
    shutil.copytree(ROOT / "web" / "src", web / "src")
    shutil.copytree(HERE / "scratch_web" / "sump", web / "src" / "scratch" / "sump")
    for name in BUILT:
        ours = ROOT / "web" / name
        (shutil.copytree if ours.is_dir() else shutil.copy)(ours, web / name)
    (web / "node_modules").symlink_to(ROOT / "web" / "node_modules")
    subprocess.run(["npx", "--no-install", "vite", "build"], cwd=web, check=True, capture_output=True)
    stack.db.restore(DATABASE, stack.dumped())
    port, log = free_port(), tmp_path / "gunicorn.log"
    env = {
        **stack.env,
        "HURBIN_DB_NAME": DATABASE,
        "HURBIN_WEB_DIST": str(web / "dist"),
        "PYTHONPATH": f"{core}:{ROOT / 'server'}",
    }
    pid = start_gunicorn(stack.exe, env, port, log, workers=1)
    try:
        wait_healthy(port, pid, log)
        yield f"http://127.0.0.1:{port}"
    finally:
        os.kill(pid, signal.SIGTERM)
        os.waitpid(pid, 0)
        stack.db.drop(DATABASE)


def test_one_folder_more_is_a_bench_on_screen(open_as: Opener, stack: Stack, more: str) -> None:
    page = open_as("jun")
    number = stack.db.sql("select id from plant_pumpset where tag='COLD-33'", database=DATABASE).strip()
    page.context.clear_cookies()
    page.goto(f"{more}/sets/{number}")
    page.get_by_label("Name").fill("jun")
    page.get_by_label("Password").fill(WORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("link", name="Sump", exact=True).click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Sump")
    page.locator("#f-level").fill("7")
    answered(page)
    expect(page.locator("[data-question=sump_level]")).to_have_attribute("data-verdict", "unknown")
    page.get_by_label("The pump is").select_option("standing")
    expect(page.locator("[data-question=sump_level]")).to_have_attribute("data-verdict", "good")
    expect(page.get_by_role("img", name="The sump")).not_to_have_attribute("data-water", "0")
    page.reload()
    expect(page.locator("#f-level")).to_have_value("7")
    page.get_by_role("button", name="Save record").click()
    expect(newest(page).first).to_contain_text("Sump")
    page.keyboard.press("/")
    page.get_by_role("combobox", name="Tag, location").fill("sump")
    expect(page.get_by_role("option", name="Sump, COLD-33")).to_be_visible()
