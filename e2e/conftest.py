"""A stack of its own: real MariaDB, real gunicorn, the built front end, Debian's Chromium. Nothing is
mocked.
"""

from __future__ import annotations

import fcntl
import os
import shutil
import signal
import subprocess
import time
import urllib.request
import uuid
from collections.abc import Callable, Iterator
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Locator, Page, expect, sync_playwright

from cli.database import Database
from cli.install import BROWSER
from cli.serving import manage, server_env, start_gunicorn, start_worker, wait_healthy
from cli.state import LOGS, ROOT, STATE, Stop, free_port, tree_hash

AS_OF = "2026-11-16T08:30:00+00:00"
WORD = "tidal-lagoon-7"
TAGS = "KELP-21,KELP-22,COLD-33,BOIL-02,CAFE-06,LIFT-61,LIFT-63,MAKE-81,OZON-71,MIST-92"
CHROMIUM = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
# Only what fails waits so long: a machine that does something else for a while makes nothing of it fail.
expect.set_options(timeout=30_000)


class Stack:
    """The running application; its parts can be taken away and given back."""

    def __init__(self, exe: Path) -> None:
        self.exe = exe
        self.db = Database(f"e2e-{os.environ.get('PYTEST_XDIST_WORKER', 'gw0')}")
        self.cookies: dict[str, list[Any]] = {}
        self.port = free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self.log = LOGS / f"{self.db.name}.log"
        self.pid = self.worker = 0
        loaded = time.strftime("%Y-%m-%dT%H:%M:%S+00:00", time.gmtime())
        self.env = server_env(
            self.db, "hurbin_e2e", HURBIN_DEMO="1", HURBIN_AS_OF=AS_OF, HURBIN_LOADED_AT=loaded
        )

    def manage(self, *words: str) -> str:
        return manage(self.exe, self.env, *words)

    def dumped(self) -> Path:
        """Where the demo lies that these very inputs make."""
        inputs = tree_hash(
            ROOT / "core" / "hurbin_core",
            ROOT / "server" / "hurbin_server",
            ROOT / "requirements.lock",
            Path(__file__),
            ending=(".py", ".toml", ".lock"),
        )
        return STATE / "dumps" / f"e2e-{inputs[:20]}.sql"

    def load(self) -> None:
        """The demo, as it was dumped when these very inputs made it; made and dumped when they are new."""
        dumped = self.dumped()
        place = dumped.parent
        place.mkdir(exist_ok=True)
        with (place / "e2e.lock").open("w") as mine:
            # The other browser's stack waits for what this one makes.
            fcntl.flock(mine, fcntl.LOCK_EX)
            if not dumped.exists():
                self.db.drop("hurbin_e2e")
                self.db.create("hurbin_e2e")
                self.manage("migrate", "-v0")
                self.manage("load_demo", "--days", "300", "--tags", TAGS)
                [old.unlink() for old in place.glob("e2e-*.sql")]
                self.db.dump("hurbin_e2e", dumped.with_suffix(".part")).rename(dumped)
                return
        self.db.restore("hurbin_e2e", dumped)

    def start(self) -> None:
        self.pid = start_gunicorn(self.exe, self.env, self.port, self.log)
        try:
            wait_healthy(self.port, self.pid, self.log)
        except Stop:
            self.stop()
            raise

    def stop(self) -> None:
        os.kill(self.pid, signal.SIGTERM)
        os.waitpid(self.pid, 0)

    def start_tasks(self) -> None:
        self.worker = start_worker(self.exe, self.env, LOGS / f"{self.db.name}-tasks.log")

    def stop_tasks(self) -> None:
        os.kill(self.worker, signal.SIGTERM)
        os.waitpid(self.worker, 0)

    def records(self) -> int:
        return int(self.db.sql("select count(*) from logbook_record", database="hurbin_e2e"))


# The file that takes longest goes first, and after it the long one that changes nothing: the browsers come to
# an end together. The others stay in the order of their names: each finds the demo as it expects it.
FIRST = ["test_scratch_bench", "test_whole_pages"]
# These leave findings on sets that Plant would then show before those that the others look for.
LAST = [
    "test_direction",
    "test_drive_sheet",
    "test_first_start",
    "test_job_prepared",
    "test_jobs",
    "test_loops",
    "test_protection",
    "test_small_benches",
    "test_water",
]


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    def place(item: pytest.Item) -> int:
        name = item.path.stem
        return FIRST.index(name) if name in FIRST else len(FIRST) + (name in LAST)

    items.sort(key=place)


@pytest.fixture(scope="session")
def stack() -> Iterator[Stack]:
    exe = Path(shutil.which("python", path=os.environ["PATH"]) or "")
    s = Stack(exe)
    s.db.start(fast=True)
    try:
        s.load()
        s.start()
        s.start_tasks()
        yield s
        s.stop_tasks()
        s.stop()
    finally:
        s.db.stop()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as p:
        b = p.chromium.launch(executable_path=BROWSER, args=CHROMIUM)
        yield b
        b.close()


Opener = Callable[..., Page]


@pytest.fixture
def open_as(stack: Stack, browser: Browser) -> Iterator[Opener]:
    """Somebody on a fresh browser, signed in once; every script error fails the test. Without a path the page
    is still empty: whoever goes on to a set goes there at once.
    """
    contexts, errors = [], []

    def open_page(user: str = "saskia", path: str = "", phone: bool = False, word: str = WORD) -> Page:
        size = {"width": 390, "height": 844} if phone else {"width": 1280, "height": 800}
        context = browser.new_context(
            base_url=stack.url, viewport=size, has_touch=phone, accept_downloads=True
        )
        contexts.append(context)
        page = context.new_page()
        page.on("pageerror", lambda e: errors.append(str(e)))
        known = stack.cookies.get(user, [])
        context.add_cookies(known)
        if known and not path and context.request.get("/api/v1/session").json()["me"]:
            return page
        page.goto(path or "/")
        name, inside = page.get_by_label("Name"), page.locator("header[class*=_masthead_]")
        expect(name.or_(inside).first).to_be_visible()
        if not inside.is_visible():
            name.fill(user)
            page.get_by_label("Password").fill(word)
            page.get_by_role("button", name="Sign in").click()
            page.wait_for_selector("header[class*=_masthead_]")
            stack.cookies[user] = context.cookies()
        return page

    yield open_page
    for c in contexts:
        c.close()
    assert errors == []


def set_page(page: Page, stack: Stack, tag: str, rest: str = "") -> None:
    """Open a set by its tag, through the address bar."""
    number = stack.db.sql(f"select id from plant_pumpset where tag='{tag}'", database="hurbin_e2e").strip()
    page.goto(f"{stack.url}/sets/{number}{rest}")


def type_check(page: Page, volts: tuple[str, ...], amps: tuple[str, ...]) -> None:
    for name, text in (
        *zip(("volts_12", "volts_23", "volts_31"), volts, strict=False),
        *zip(("amps_1", "amps_2", "amps_3"), amps, strict=False),
    ):
        page.locator(f"#f-{name}").fill(text)


def answered(page: Page) -> None:
    """Wait until the verdict is for the figures that stand there."""
    page.evaluate("() => new Promise((done) => requestAnimationFrame(() => setTimeout(done)))")
    expect(page.get_by_test_id("judged")).to_have_attribute("aria-busy", "false")


_KEPT = """() => new Promise((done) => { const o = indexedDB.open('hurbin'); o.onsuccess = () => {
  const all = o.result.transaction('outbox').objectStore('outbox').getAll();
  all.onsuccess = () => { o.result.close(); done(all.result.map((p) => p.file?.size ?? 0)); }; } })"""


def on_device(page: Page) -> list[int]:
    """What waits on this device to be sent: of each parcel the size of its file, 0 without one."""
    return list(page.evaluate(_KEPT))


def comes(what: Callable[[], object], page: Page, seconds: float = 30) -> None:
    """Wait until this is so, and no longer."""
    until = time.monotonic() + seconds
    while not what():
        assert time.monotonic() < until, f"it did not come in {seconds:.0f} s"
        page.wait_for_timeout(40)


def number_of(stack: Stack, tag: str) -> int:
    return int(stack.db.sql(f"select id from plant_pumpset where tag='{tag}'", database="hurbin_e2e"))


def at_part(page: Page, part: str) -> None:
    """On the page of a set: look at one part of it."""
    page.locator(f"[data-callout={part}] a").click()
    expect(page.locator(f"[data-panel={part}]")).to_be_visible()


def newest(page: Page) -> Locator:
    """What is on record of a set and befell it, newest first."""
    return page.locator("[aria-labelledby=history-title] .hist li")


def alive(url: str) -> bool:
    with urllib.request.urlopen(f"{url}/api/v1/health", timeout=5) as got:
        return bool(got.status == 200)


def run_hurbin(*words: str, given: str = "") -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [str(ROOT / "hurbin"), *words], input=given, capture_output=True, text=True, check=False, timeout=120
    )


LINES = [
    {"id": "q1", "kind": "supply", "device": "isolator Q1", "place": "panel A", "means": "isolator"},
    {"id": "f1", "kind": "control_supply", "device": "fuse F1", "place": "panel A", "means": "fuses_out"},
    {"id": "no-auto", "kind": "automation_start", "absent": True},
    {"id": "v2", "kind": "turning_by_flow", "device": "valve V2", "place": "bay 1", "means": "valve"},
]


def told(page: Page, path: str) -> Any:
    """What this person is told there."""
    answer = page.request.get(path)
    assert answer.ok, answer.text()
    return answer.json()


def send(page: Page, path: str, body: object, method: str = "POST") -> dict[str, object]:
    """One request with this person's cookies; it has to be taken."""
    csrf = told(page, "/api/v1/session")["csrf"]
    answer = page.request.fetch(path, method=method, headers={"X-CSRFToken": csrf}, data=body)
    assert answer.status in (200, 201), answer.text()
    return dict(answer.json())


def chooses_a_password(stack: Stack, browser: Browser, name: str, given: str, own: str) -> None:
    """Whoever an admin has added chooses a password before anything else."""
    page = browser.new_context().new_page()
    page.goto(stack.url)
    page.get_by_label("User name").fill(name)
    page.get_by_label("Password").fill(given)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_label("Password now").fill(given, timeout=40_000)
    page.get_by_label("New password").fill(own)
    page.get_by_role("button", name="Change password").click()
    expect(page.get_by_role("heading", name="Choose your own")).not_to_be_visible(timeout=40_000)
    page.context.close()


def made_safe(page: Page, stack: Stack, tag: str, prove: bool = True) -> int:
    """Another device has made this set safe for its motor leads, half an hour ago."""
    number = int(
        stack.db.sql(f"select id from plant_pumpset where tag='{tag}'", database="hurbin_e2e").strip()
    )
    at = datetime.fromisoformat(AS_OF) - timedelta(minutes=30)
    zero = {n: {"text": "0", "unit": "V"} for n in ("v12", "v23", "v31", "v1g", "v2g", "v3g")}
    live = {"live_volts": {"text": "398", "unit": "V"}, "tester": "T9"}
    bodies: list[dict[str, object]] = [
        {"kind": "open", "scope": "motor_leads", "sources": LINES},
        {"kind": "told", "to": "the keeper"},
        {"kind": "stopped"},
    ]
    bodies += [{"kind": k, "source": s} for s in ("q1", "f1", "v2") for k in ("shut", "lock")]
    acts: list[dict[str, object]] = [
        {"act": "live_before", **live},
        {"act": "dead", "tester": "T9", "point": "terminal box", **zero},
        {"act": "live_after", **live},
    ]
    bodies += [{"kind": "proof", **a} for a in acts] if prove else []
    entries = [
        {
            "uuid": str(uuid.uuid4()),
            "taken_at": (at + timedelta(seconds=20 * i)).isoformat(),
            "device": "other",
            "body": b,
        }
        for i, b in enumerate(bodies)
    ]
    send(
        page,
        f"/api/v1/benches/make_safe/sheets/{uuid.uuid4()}/entries",
        {"set_id": number, "entries": entries},
    )
    return number


def given_back(page: Page, number: int) -> None:
    """Whoever made it safe gives it back, without a running check and says why."""
    state = told(page, f"/api/v1/sets/{number}/safety")["isolation"]
    bodies: list[dict[str, object]] = [{"kind": "restored", "item": i} for i in ("guard_on", "people_clear")]
    bodies += [{"kind": "unlock", "lock": k["id"]} for s in state["sources"] for k in s["locks"]]
    bodies += [{"kind": "opened", "source": s["id"]} for s in state["sources"] if s["shut"]]
    bodies += [
        {"kind": "restored", "item": i, "note": "stands by" if i == "check_left" else ""}
        for i in ("valves_as_found", "automatic", "check_left", "alarms")
    ]
    now = datetime.fromisoformat(told(page, "/api/v1/session")["now"])
    entries = [
        {
            "uuid": str(uuid.uuid4()),
            "taken_at": (now + timedelta(seconds=i)).isoformat(),
            "device": "other",
            "body": b,
        }
        for i, b in enumerate(bodies)
    ]
    send(
        page,
        f"/api/v1/benches/make_safe/sheets/{state['sheet']}/entries",
        {"set_id": number, "entries": entries},
    )
    send(
        page, "/api/v1/benches/make_safe/records", {"set_id": number, "sheet": state["sheet"], "entries": []}
    )
