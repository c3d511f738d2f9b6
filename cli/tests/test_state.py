"""What was started, secrets, steps that fail: everything the other words of the command line stand on."""

from __future__ import annotations

import json
import os
import socket
import stat
import subprocess
import sys
import time
from pathlib import Path

import pytest

from cli import state
from cli.state import Stop


def sleeper() -> subprocess.Popen[bytes]:
    return subprocess.Popen([sys.executable, "-c", "import time; time.sleep(60)"], stdin=subprocess.DEVNULL)


def test_secrets_are_made_once_kept_and_readable_by_their_owner_only(place: Path) -> None:
    first = state.secret("django")
    assert state.secret("django") == first
    assert state.secret("db-main") != first
    assert len(first) >= 40
    assert stat.S_IMODE((place / "secrets.json").stat().st_mode) == 0o600


def test_a_recorded_process_is_known_and_ended_and_no_other() -> None:
    mine, other = sleeper(), sleeper()
    try:
        state.record_process("demo", mine.pid, port="8470")
        held = state.process("demo")
        assert held is not None
        assert (held["pid"], held["port"]) == (str(mine.pid), "8470")
        assert state.end_process("demo")
        assert state.started(mine.pid) == ""
        assert other.poll() is None
        assert state.process("demo") is None
        assert not state.end_process("demo")
    finally:
        other.kill()
        other.wait(5)


def test_a_number_used_again_is_not_taken_for_ours(place: Path) -> None:
    """The record names the second in which the kernel started it: a stranger with the same number is left
    alone.
    """
    stranger = sleeper()
    try:
        state.write_json(place / "run" / "demo.json", {"pid": str(stranger.pid), "started": "1"})
        assert state.process("demo") is None
        assert not state.end_process("demo")
        assert stranger.poll() is None
    finally:
        stranger.kill()
        stranger.wait(5)


def test_a_process_that_is_gone_is_not_running(place: Path) -> None:
    done = subprocess.Popen([sys.executable, "-c", ""])
    state.record_process("serve", done.pid)
    done.wait(5)
    assert state.process("serve") is None
    assert state.started(done.pid) == ""


def test_a_step_that_fails_says_what_failed_and_what_to_do(place: Path) -> None:
    with pytest.raises(Stop) as told:
        state.run(
            [sys.executable, "-c", "print('no room'); raise SystemExit(3)"],
            what="Making room",
            do="Free some space.",
        )
    assert "Making room failed (exit 3)." in told.value.what
    assert "no room" in told.value.what
    assert told.value.do == "Free some space."
    assert "no room" in (place / "logs" / "setup.log").read_text()


def test_a_step_never_waits_for_standard_input() -> None:
    begun = time.monotonic()
    assert (
        state.run([sys.executable, "-c", "import sys; print(repr(sys.stdin.read()))"], what="Reading").strip()
        == "''"
    )
    assert time.monotonic() - begun < 20


def test_a_step_gets_what_it_is_given() -> None:
    assert state.run(["cat"], what="Copying", stdin="select 1").strip() == "select 1"


def test_failing_ends_with_one_and_the_words_on_the_error_side(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as told:
        state.fail(Stop("Port 8470 is taken.", "./hurbin demo --port 8471"))
    assert told.value.code == 1
    said = capsys.readouterr()
    assert said.out == ""
    assert said.err == "\nhurbin: Port 8470 is taken.\n        ./hurbin demo --port 8471\n"


def test_a_taken_port_is_seen_on_loopback() -> None:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        s.listen()
        assert state.port_taken(s.getsockname()[1])
    free = state.free_port()
    assert not state.port_taken(free)


def test_written_json_is_whole_or_the_one_before(place: Path) -> None:
    file = place / "demo.json"
    state.write_json(file, {"as_of": "2026"})
    assert json.loads(file.read_text()) == {"as_of": "2026"}
    assert [p.name for p in place.iterdir()] == ["demo.json"]
    assert state.read_json(place / "nothing.json") == {}


def test_the_socket_lies_in_a_short_private_place(place: Path) -> None:
    short = state.short_dir()
    assert len(str(short / "main.sock")) < 90
    assert stat.S_IMODE(short.stat().st_mode) == 0o700
    assert short == state.short_dir()
    short.rmdir()


def test_another_persons_place_is_refused(place: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    short = state.short_dir()
    monkeypatch.setattr(state.os, "getuid", lambda: os.geteuid() + 1)
    real = Path("/tmp") / short.name.replace(f"-{os.geteuid()}-", f"-{os.geteuid() + 1}-")
    with pytest.raises(Stop, match="belongs to another user"):
        state.short_dir()
    real.rmdir()
    short.rmdir()


def test_a_changed_file_changes_the_trees_hash(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(state, "ROOT", tmp_path)
    (tmp_path / "a.py").write_text("1")
    (tmp_path / "b.txt").write_text("1")
    before = state.tree_hash(tmp_path, ending=(".py",))
    (tmp_path / "b.txt").write_text("2")
    assert state.tree_hash(tmp_path, ending=(".py",)) == before
    (tmp_path / "a.py").write_text("2")
    assert state.tree_hash(tmp_path, ending=(".py",)) != before
