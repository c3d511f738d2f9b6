"""What a hand on a slow device feels: keystroke to verdict, and a long page that is scrolled."""

from __future__ import annotations

import gzip
import os
import re
import statistics
import sys
from itertools import pairwise
from pathlib import Path

from playwright.sync_api import CDPSession, Page, sync_playwright

from hurbin_server.base.models import User

from .bench_data import WORD, plant
from .bench_page import here, put_section
from .bench_times import p95
from .install import BROWSER
from .serving import start_gunicorn, wait_healthy
from .state import LOGS, WEB, free_port

SLOWED = 4
KEYSTROKES = 120
# From the key to the frame in which a verdict for these very figures is drawn, waiting counted. Whoever looks
# draws no frame himself: a change of the page wakes it, not a loop.
_WATCH = """() => {
  window.took = [];
  let begun = null;
  const look = () => {
    const judged = document.querySelector('[data-testid=judged]');
    if (begun === null || !judged || judged.getAttribute('aria-busy') !== 'false') return;
    const from = begun;
    begun = null;
    requestAnimationFrame(() => setTimeout(() => window.took.push(performance.now() - from)));
  };
  new MutationObserver(look).observe(document.body, { subtree: true, childList: true, attributes: true,
    attributeFilter: ['aria-busy'] });
  addEventListener('input', () => { begun = performance.now(); });
}"""
# Frames while the page goes by under the finger, from its head to its foot.
_SCROLL = """(seconds) => new Promise((done) => {
  const far = document.documentElement.scrollHeight - innerHeight, begun = performance.now(), at = [];
  const step = (now) => {
    at.push(now);
    const part = (now - begun) / (seconds * 1000);
    scrollTo(0, far * Math.min(1, part));
    if (part < 1) requestAnimationFrame(step); else done([far, at]);
  };
  requestAnimationFrame(step);
})"""


def keystrokes(page: Page, slow: CDPSession, url: str, number: int) -> list[float]:
    """Every key of sixty figures typed into a running check, one after the other as a hand does."""
    page.goto(f"{url}/sets/{number}/running-check")
    page.locator("#f-volts_12").wait_for()
    page.evaluate(_WATCH)
    slow.send("Emulation.setCPUThrottlingRate", {"rate": SLOWED})
    names, n = ("volts_12", "volts_23", "volts_31", "amps_1", "amps_2", "amps_3"), 0
    while n < KEYSTROKES:
        field = page.locator(f"#f-{names[(n // 3) % 6]}")
        field.focus()
        if n >= 18 and n % 3 == 0:
            field.fill("")
        for key in str(395 + n % 9) if (n // 3) % 6 < 3 else str(151 + n % 7):
            page.keyboard.type(key)
            n += 1
            page.wait_for_timeout(300)
            # None is lost because the next came before its answer.
            page.wait_for_function("n => window.took.length >= n", arg=n, polling=50)
    slow.send("Emulation.setCPUThrottlingRate", {"rate": 1})
    return [float(x) / 1000 for x in page.evaluate("window.took")]


def frames(page: Page, slow: CDPSession, url: str) -> tuple[float, float, float]:
    """Frames a second over a plant of 2,000 sets: in the mean, and in the slowest tenth of a second."""
    page.goto(url)
    page.locator("[class*=_lane_]").nth(39).wait_for(state="attached")
    page.wait_for_load_state("networkidle")
    slow.send("Emulation.setCPUThrottlingRate", {"rate": SLOWED})
    far, at = page.evaluate(_SCROLL, 5)
    slow.send("Emulation.setCPUThrottlingRate", {"rate": 1})
    gaps = sorted(b - a for a, b in pairwise(at))
    slowest = gaps[-max(1, len(gaps) // 20) :]
    return float(far), 1000 * len(gaps) / (at[-1] - at[0]), 1000 / statistics.mean(slowest)


def page_weight() -> float:
    """Script and style that the first page asks for, after gzip -9, in kB."""
    page = (WEB / "dist" / "index.html").read_text()
    tags = [t for t in re.findall(r"<(?:script|link)[^>]*>", page) if 'rel="later"' not in t]
    named = {p.rsplit("/", 1)[-1] for t in tags for p in t.split('"') if p.endswith((".js", ".css"))}
    held = [p for p in (WEB / "dist" / "assets").iterdir() if p.name in named]
    return sum(len(gzip.compress(p.read_bytes(), 9)) for p in held) / 1000


def main(user: User) -> None:
    """`hurbin bench --only web`."""
    print("  making 2,000 sets")
    rows = plant(user)[1]
    port = free_port()
    log = LOGS / "bench.log"
    pid = start_gunicorn(Path(sys.executable), dict(os.environ), port, log, workers=1)
    try:
        wait_healthy(port, pid, log)
        with sync_playwright() as p:
            browser = p.chromium.launch(executable_path=BROWSER, args=["--no-sandbox"])
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            slow = page.context.new_cdp_session(page)
            url = f"http://127.0.0.1:{port}"
            page.goto(url)
            page.get_by_label("Name").fill("bench")
            page.get_by_label("Password").fill(WORD)
            page.get_by_role("button", name="Sign in").click()
            page.wait_for_selector("header[class*=_masthead_]")
            took = keystrokes(page, slow, url, rows[0].pk)
            far, mean, slowest = frames(page, slow, url)
            browser.close()
    finally:
        os.kill(pid, 15)
        os.waitpid(pid, 0)
    load = page_weight()
    told = [
        ("first load, script and style after gzip -9", f"{load:.0f} kB", "≤ 190 kB", load <= 190),
        (
            f"keystroke to verdict, {len(took)} keys, Chromium slowed {SLOWED}×, p95",
            f"{1000 * p95(took):.0f} ms (median {1000 * statistics.median(took):.0f} ms)",
            "≤ 150 ms",
            1000 * p95(took) <= 150,
        ),
        (
            f"2,000 sets scrolled ({far:.0f} px), Chromium slowed {SLOWED}×, frames a second",
            f"{mean:.0f} (slowest twentieth {slowest:.0f})",
            "≥ 50",
            mean >= 50,
        ),
    ]
    lines = [f"| {a} | {b} | {aim} | {'met' if ok else 'missed'} |" for a, b, aim, ok in told]
    head = ["| what | found | aim | |", "|---|---|---|---|"]
    text = "\n".join([f"By `./hurbin bench --only web` at {here()}.", "", *head, *lines])
    put_section("Web", text)
    print(text)
