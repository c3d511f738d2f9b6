"""The shim plan against a general integer solver; a keystroke at the alignment bench against one in a bare
field.
"""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable
from typing import Any

from .install import BROWSER
from .state import ROOT

sys.path.insert(0, str(ROOT / "core" / "tests"))
from shim_cases import large_case, solver_key

from hurbin_core.alignment import plans

CASES, KEYS, SLOWER = 200, 50, 4
Row = tuple[str, str, str, str, str, str]
CHROMIUM = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


def shim_plans(ms: Callable[[float], str]) -> Row:
    """200 seeded cases: ours with its next best two, the solver with the best alone; every answer
    compared.
    """
    ours: list[float] = []
    theirs: list[float] = []
    for seed in range(CASES):
        q = large_case(seed)
        begun = time.perf_counter()
        best = plans(q)[0]
        ours.append(time.perf_counter() - begun)
        begun = time.perf_counter()
        key = solver_key(q)
        theirs.append(time.perf_counter() - begun)
        assert key == best.key, f"case {seed}: {key} against {best.key}"
    ratio, tail = statistics.median(ours) / statistics.median(theirs), max(ours) / statistics.median(ours)
    print(
        f"  shims: median {ms(statistics.median(ours))} against {ms(statistics.median(theirs))}, worst"
        f" {ms(max(ours))}, {tail:.1f} times the median"
    )
    return (
        "(i) shim plan",
        ms(statistics.median(ours)),
        ms(statistics.median(theirs)),
        f"{ratio:.2f}; worst {ms(max(ours))}, {tail:.1f} × own median",
        "≤ 0.5; worst ≤ 5 × median",
        _told(ratio <= 0.5, tail <= 5),
    )


def _told(*met: bool) -> str:
    return "met" if all(met) else "missed" if not any(met) else "partly met"


def keystrokes(url: str, name: str, word: str, set_id: int, ms: Callable[[float], str]) -> str:
    """From a key to the drawn shaft, p95 of 50, the processor slowed down four times, beside the same keys in
    a bare field.
    """
    from playwright.sync_api import sync_playwright

    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path=BROWSER, args=CHROMIUM)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(url)
        page.locator("input").first.fill(name)
        page.locator("input[type=password]").fill(word)
        page.keyboard.press("Enter")
        page.wait_for_selector("nav")
        page.goto(f"{url}/sets/{set_id}/alignment")
        anyway = page.get_by_role("button", name="Enter readings already taken")
        anyway.click()
        for field, text in {
            "face_diameter": "150",
            "x_front": "200",
            "x_rear": "500",
            "step_3": "0",
            "step_6": "-0.1",
            "step_9": "0",
            "gap_12": "3.20",
            "gap_3": "3.1",
            "gap_6": "3.00",
            "gap_9": "3.1",
        }.items():
            page.locator(f"#a-{field}").fill(text)
        page.locator("#a-step_12").fill("0.10")
        page.wait_for_selector("svg[class*=_shafts_] [class*=_axis_]", state="attached")
        page.context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
        drawn = _typed(page, "a-step_12", "svg[class*=_shafts_] [class*=_axis_]", "d")
        page.evaluate(
            "() => { const i = document.createElement('input'); i.id = 'bare'; i.oninput = () => {"
            " i.dataset.seen = i.value; }; document.body.append(i); }"
        )
        bare = _typed(page, "bare", "#bare", "data-seen")
        browser.close()
    quick, slow = statistics.quantiles(bare, n=20)[-1], statistics.quantiles(drawn, n=20)[-1]
    return (
        f"Keystroke to drawn shaft, p95 of {KEYS}, Chromium slowed {SLOWER} times: {ms(slow)} (120 ms of it"
        f" waiting for the next key); the same keys in a bare input: {ms(quick)}."
    )


def _typed(page: Any, field: str, watched: str, attribute: str) -> list[float]:
    """Seconds from each change of a field to the change of what is watched."""
    script = """([field, watched, attribute, text]) => new Promise((done, never) => {
      setTimeout(() => never(new Error(`nothing was drawn for ${text}`)), 10000);
      const seen = document.querySelector(watched), input = document.getElementById(field);
      const begun = performance.now();
      new MutationObserver((_, self) => {
         self.disconnect();
         requestAnimationFrame(() => done(performance.now() - begun));
       })
         .observe(seen, { attributes: true, attributeFilter: [attribute] });
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(input, text);
      input.dispatchEvent(new Event("input", { bubbles: true }));
    })"""
    return [
        float(page.evaluate(script, [field, watched, attribute, f"0.{11 + i:02d}"])) / 1000
        for i in range(KEYS)
    ]
