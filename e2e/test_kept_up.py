"""The keeper brings back whatever is killed, and what was acknowledged is there; a full disk is told, and
what was typed is sent when there is room again.
"""

from __future__ import annotations

import json
import os
import signal
import time
from collections.abc import Iterator
from pathlib import Path

import pytest
from conftest import WORD, Opener, Stack, alive, answered, number_of, type_check
from playwright.sync_api import expect

from cli import backup, keeper as kept
from cli.fuzz import signed_in
from cli.keeper import Keeper
from cli.state import LOGS, STATE, Stop, end_process, free_port, process, short_dir

KIND = "kept-up"


@pytest.fixture(scope="module")
def keeper(stack: Stack) -> Iterator[Keeper]:
    made = Keeper(KIND, free_port(), stack.exe, stack.db, stack.env)
    made.look()
    yield made
    for name in (f"{KIND}-tasks", KIND):
        end_process(name)
    if not stack.db.answers():
        stack.db.start()


def killed(name: str) -> None:
    held = process(name)
    assert held is not None
    os.kill(int(held["pid"]), signal.SIGKILL)
    until = time.monotonic() + 10
    while process(name) is not None and time.monotonic() < until:
        time.sleep(0.05)
        kept._bury()


def test_what_was_killed_is_brought_back(keeper: Keeper, stack: Stack) -> None:
    url, before = f"http://127.0.0.1:{keeper.port}", stack.records()
    assert alive(url)
    for name in (KIND, f"{KIND}-tasks", stack.db.key):
        killed(name)
    keeper.look()
    assert alive(url)
    assert stack.records() == before
    assert process(f"{KIND}-tasks") is not None
    assert "csrf" in json.dumps(list(signed_in(keeper.port, "saskia"))).lower()


def test_a_host_that_runs_and_says_nothing_is_begun_anew(
    keeper: Keeper, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(kept, "ASK_S", 0.3)
    held = process(KIND)
    assert held is not None
    children = Path(f"/proc/{held['pid']}/task/{held['pid']}/children").read_text().split()
    for pid in (held["pid"], *children):
        os.kill(int(pid), signal.SIGSTOP)
    for _ in range(kept.SILENT):
        keeper.look()
        os.kill(int(held["pid"]), signal.SIGCONT) if keeper.silent == kept.SILENT - 1 else None
    fresh = process(KIND)
    assert fresh is not None
    assert fresh["pid"] != held["pid"]
    assert alive(f"http://127.0.0.1:{keeper.port}")


def test_what_ends_again_and_again_is_left_for_a_while(
    keeper: Keeper, monkeypatch: pytest.MonkeyPatch
) -> None:
    rested: list[float] = []
    monkeypatch.setattr(keeper, "_rest", lambda: rested.append(time.monotonic()))
    keeper.begun = [time.monotonic()] * kept.MOST_A_MINUTE
    keeper._begin("nothing", lambda: None)
    assert len(rested) == 1


def test_nobody_else_can_read_what_is_ours(stack: Stack) -> None:
    assert STATE.stat().st_mode & 0o077 == 0
    files = [*LOGS.glob("*.log"), *(STATE / "dumps").glob("*"), STATE / "secrets.json"]
    open_to_others = [f.name for f in files if f.is_file() and f.stat().st_mode & 0o077]
    assert open_to_others == []
    assert short_dir().stat().st_mode & 0o077 == 0


def test_no_secret_stands_in_a_log_or_in_the_list_of_processes(stack: Stack) -> None:
    secrets = [*json.loads((STATE / "secrets.json").read_text()).values(), WORD]
    said = {f.name: f.read_text(errors="replace") for f in LOGS.glob("*.log")}
    for pid in (p for p in Path("/proc").iterdir() if p.name.isdigit()):
        try:
            said[pid.name] = (pid / "cmdline").read_bytes().decode(errors="replace")
        except OSError:
            continue
    # The demo's own password is on its first page; here it is only a word that people type.
    told = [name for name, text in said.items() if any(s in text for s in secrets)]
    assert [n for n in told if not n.startswith(("setup", "demo"))] == []


def test_the_database_is_on_its_socket_alone(stack: Stack) -> None:
    held = process(stack.db.key)
    assert held is not None
    assert stack.db.sql("select @@skip_networking, @@local_infile").split() == ["1", "0"]


def sums(stack: Stack, name: str) -> dict[str, tuple[int, int]]:
    """Of every table but the one in which a worker that runs beside this writes."""
    told = backup.sums(stack.db, name)
    return {table: both for table, both in told.items() if not table.startswith("django_tasks_")}


def test_a_backup_is_whole_and_what_is_none_is_refused(stack: Stack, tmp_path: Path) -> None:
    made = backup.make(stack.db, "hurbin_e2e", "test", to=tmp_path / "second")
    copy = tmp_path / "second" / made.name
    assert copy.read_bytes() == made.read_bytes()
    before = sums(stack, "hurbin_e2e")
    stack.db.create("hurbin_again")
    try:
        assert backup.restore(stack.db, "hurbin_again", copy) == len(before) + 1
        assert sums(stack, "hurbin_again") == before
        half = tmp_path / "half.sql.gz"
        half.write_bytes(made.read_bytes()[: made.stat().st_size // 2])
        (tmp_path / "empty.sql").write_text("")
        (tmp_path / "other.sql").write_text("select 1;\n-- Dump completed\n")
        for name in ("half.sql.gz", "empty.sql", "other.sql", "nothing.sql"):
            with pytest.raises(Stop):
                backup.restore(stack.db, "hurbin_again", tmp_path / name)
        assert sums(stack, "hurbin_again") == before, "refused before anything was touched"
    finally:
        stack.db.drop("hurbin_again")
        made.unlink()


def begun_anew(stack: Stack, **more: str) -> None:
    stack.stop()
    stack.env |= more
    stack.start()


def test_a_full_disk_is_told_on_every_page_and_what_was_typed_is_sent_after_it(
    stack: Stack, open_as: Opener
) -> None:
    number = number_of(stack, "LAG-13")
    page = open_as("saskia", f"/sets/{number}/running-check")
    before = stack.records()
    type_check(page, ("400", "401", "399"), ("9.0", "9.1", "9.0"))
    page.get_by_label("Read at").select_option("motor_leads")
    page.get_by_label("Valve", exact=True).select_option("open")
    page.get_by_label("Coupled").select_option("true")
    answered(page)
    # All of the disk is left for others: whatever is free is too little.
    begun_anew(stack, HURBIN_DISK_FLOOR_MB="1e12")
    page.get_by_role("button", name="Save record").click()
    strip = page.get_by_text("Not saved, kept here: the server’s disk is full.")
    expect(strip).to_be_visible()
    page.get_by_role("link", name="Stores").click()
    expect(strip).to_be_visible()
    assert stack.records() == before
    begun_anew(stack, HURBIN_DISK_FLOOR_MB="")
    expect(strip).not_to_be_visible(timeout=60_000)
    assert stack.records() == before + 1
