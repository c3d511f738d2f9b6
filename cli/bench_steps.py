"""From the confirmation of a step to the next one drawn, on a phone: what a gloved hand waits for."""

from __future__ import annotations

import os
import statistics
import sys
import uuid
from datetime import UTC, datetime, timedelta
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from hurbin_core.catalogue import bench
from hurbin_server.base.models import User
from hurbin_server.logbook.services.sheets import append_entries
from hurbin_server.plant.services.parts import new_plate
from hurbin_server.plant.services.places import make_service, make_set, make_site

from .bench_data import PLATE, WORD
from .bench_page import here, put_section
from .bench_times import p95
from .bench_web import SLOWED
from .install import BROWSER
from .serving import start_gunicorn, wait_healthy
from .state import LOGS, free_port

TURNS = 30
ABOUT = {
    "weight": {"text": "60", "unit": "kg"},
    "seal_kind": "type 1",
    **dict.fromkeys(("hot", "outside", "pit", "roof", "header"), "no"),
    "no_service": "yes",
}
# From the press to the frame in which another step stands there.
_WATCH = """() => {
  window.took = [];
  let begun = null, from = '';
  const at = () => document.querySelector('[data-step-now]')?.dataset.stepNow;
  const look = () => {
    if (begun === null || at() === undefined || at() === from) return;
    const since = begun;
    begun = null;
    requestAnimationFrame(() => setTimeout(() => window.took.push(performance.now() - since)));
  };
  new MutationObserver(look).observe(document.body, { subtree: true, childList: true, attributes: true });
  window.press = () => {
    from = at();
    begun = performance.now();
    document.querySelector('[data-step-now] button.btn-ink').click();
  };
}"""


def opened(user: User) -> int:
    """A set with a job on it that has been prepared."""
    site = make_site(user, {"code": "STEPS", "name": "Steps", "time_zone": "UTC", "altitude_m": None})
    service = make_service(user, site.pk, {"code": "S", "name": "Service"})
    row = make_set(user, service.pk, {"tag": "S-1", "name": "Set", "kind": "close_coupled"})
    new_plate(user, row.fittings.get(slot="motor").component.pk, 0, PLATE, "bench")
    first = {"kind": "open", "procedure": "J05", "because": "drips", "set_kind": row.kind}
    sheet = str(uuid.uuid4())
    for i, body in enumerate((first, {"kind": "about", **ABOUT})):
        at = datetime.now(UTC) - timedelta(minutes=5 - i)
        entry = {"uuid": str(uuid.uuid4()), "taken_at": at, "device": "bench", "body": body}
        append_entries(user, row.pk, bench("job"), sheet, [entry])
    return int(row.pk)


def steps(page: Page, url: str, number: int) -> list[float]:
    """The first step confirmed and taken back, again and again; s."""
    page.goto(f"{url}/sets/{number}/job")
    page.get_by_role("button", name="Begin with the first step").click()
    page.locator("[data-step-now='I1']").wait_for()
    page.evaluate(_WATCH)
    slow = page.context.new_cdp_session(page)
    slow.send("Emulation.setCPUThrottlingRate", {"rate": SLOWED})
    first = page.locator("li[data-step='I1'] button")
    for n in range(1, TURNS + 1):
        page.get_by_label("Record:").fill("automatic")
        page.locator("[data-step-now='I1'] button.btn-ink:enabled").wait_for()
        page.wait_for_timeout(500)
        page.evaluate("window.press()")
        page.wait_for_function("n => window.took.length >= n", arg=n, polling=50)
        page.locator("li[data-step='I1'][data-state='done']").wait_for(state="attached")
        if not first.is_visible():
            page.get_by_text("All steps").click()
        first.click()
        page.get_by_role("button", name="Take it back").click()
        page.locator("li[data-step='I1'][data-state='now']").wait_for(state="attached")
        if page.locator("[data-step-now='I1']").count() == 0:
            first.click()
    slow.send("Emulation.setCPUThrottlingRate", {"rate": 1})
    return [float(x) / 1000 for x in page.evaluate("window.took")]


def main(user: User) -> None:
    """`hurbin bench --only steps`."""
    number = opened(user)
    port, log = free_port(), LOGS / "bench.log"
    pid = start_gunicorn(Path(sys.executable), dict(os.environ), port, log, workers=1)
    try:
        url = f"http://127.0.0.1:{port}"
        wait_healthy(port, pid, log)
        with sync_playwright() as p:
            browser = p.chromium.launch(executable_path=BROWSER, args=["--no-sandbox"])
            page = browser.new_page(viewport={"width": 390, "height": 844})
            page.goto(url)
            page.get_by_label("Name").fill("bench")
            page.get_by_label("Password").fill(WORD)
            page.get_by_role("button", name="Sign in").click()
            page.wait_for_load_state("networkidle")
            took = steps(page, url, number)
            browser.close()
    finally:
        os.kill(pid, 15)
        os.waitpid(pid, 0)
    middle, slowest = 1000 * statistics.median(took), 1000 * p95(took)
    said = f"{slowest:.0f} ms (median {middle:.0f} ms) | ≤ 150 ms | {'met' if slowest <= 150 else 'missed'}"
    what = (
        f"step confirmed to the next step drawn, {len(took)} times, Chromium slowed {SLOWED}×, 390 × 844, p95"
    )
    head = ["| what | found | aim | |", "|---|---|---|---|"]
    note = "The next step is drawn from the answer before; whether it is its turn follows with the next one."
    text = "\n".join(
        [f"By `./hurbin bench --only steps` at {here()}. {note}", "", *head, f"| {what} | {said} |"]
    )
    put_section("Steps on a phone", text)
    print(text)
