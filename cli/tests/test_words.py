"""The words of the command line: which there are, what they refuse, what they install, where they serve."""

from __future__ import annotations

import argparse
import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from cli import checks, fuzz, install, main, serving, state
from cli.state import Stop


def words(*argv: str) -> argparse.Namespace:
    return main._parser().parse_args(argv)


@pytest.mark.parametrize(
    "word", ["demo", "serve", "stop", "status", "logs", "test", "check", "generate", "bench", "fuzz", "drill"]
)
def test_every_word_stands_alone(word: str) -> None:
    assert words(word).word == word


def test_ports_and_clock_have_their_usual_values() -> None:
    assert (words("demo").port, words("serve").port) == (8470, 8471)
    assert words("demo", "--port", "9000", "--as-of", "2025-01-01T00:00:00+00:00").port == 9000


@pytest.mark.parametrize(
    "argv",
    [(), ("dance",), ("db", "burn"), ("test", "--only", "luck"), ("demo", "--port", "high"), ("user", "add")],
)
def test_what_is_no_word_is_refused_with_two(
    argv: tuple[str, ...], capsys: pytest.CaptureFixture[str]
) -> None:
    with pytest.raises(SystemExit) as told:
        words(*argv)
    assert told.value.code == 2
    assert "usage: hurbin" in capsys.readouterr().err


@pytest.mark.parametrize("flag", ["--password", "--password=reef", "-p"])
def test_no_password_is_taken_from_the_command_line(flag: str, capsys: pytest.CaptureFixture[str]) -> None:
    """Whoever lists this machine's processes would read it there."""
    with pytest.raises(SystemExit) as told:
        words("user", "add", "saskia", flag)
    assert told.value.code == 2
    assert "unrecognized arguments" in capsys.readouterr().err


class Machine:
    """A machine on which packages are missing, without touching this one."""

    def __init__(
        self, monkeypatch: pytest.MonkeyPatch, lacking: set[str], uid: int = 0, sudo: bool = True
    ) -> None:
        self.ran: list[list[str]] = []
        signs = {install.PACKAGES.get(name, install.BROWSER) for name in lacking}
        monkeypatch.setattr(Path, "exists", lambda p: str(p) not in signs)
        monkeypatch.setattr(install.os, "getuid", lambda: uid)
        monkeypatch.setattr(install.shutil, "which", lambda _: "/usr/bin/sudo" if sudo else None)
        monkeypatch.setattr(install, "run", lambda argv, **_: self.ran.append(argv) or "")


def test_nothing_missing_installs_nothing(monkeypatch: pytest.MonkeyPatch) -> None:
    machine = Machine(monkeypatch, set())
    install.packages()
    assert machine.ran == []


def test_root_installs_what_is_missing_and_nothing_else(monkeypatch: pytest.MonkeyPatch) -> None:
    machine = Machine(monkeypatch, {"mariadb-client", "tzdata"})
    install.packages()
    assert machine.ran[0][:2] == ["apt-get", "update"]
    assert machine.ran[1][-2:] == ["mariadb-client", "tzdata"]
    assert "-y" in machine.ran[1]


def test_an_ordinary_person_goes_through_sudo_without_being_asked(monkeypatch: pytest.MonkeyPatch) -> None:
    machine = Machine(monkeypatch, {"mariadb-client"}, uid=1000)
    install.packages()
    assert all(argv[:2] == ["sudo", "-n"] for argv in machine.ran)


def test_without_sudo_it_says_what_to_install(monkeypatch: pytest.MonkeyPatch) -> None:
    machine = Machine(monkeypatch, {"mariadb-client"}, uid=1000, sudo=False)
    with pytest.raises(Stop) as told:
        install.packages()
    assert told.value.what == "Missing Debian packages: mariadb-client."
    assert told.value.do == "As root: apt-get install mariadb-client"
    assert machine.ran == []


def test_the_browser_is_only_for_tests(monkeypatch: pytest.MonkeyPatch) -> None:
    machine = Machine(monkeypatch, {"chromium-headless-shell"})
    install.packages()
    assert machine.ran == []
    install.packages(for_tests=True)
    assert machine.ran[1][-1] == "chromium-headless-shell"


class Served:
    """Serving without serving: what would be started, and where."""

    def __init__(self, monkeypatch: pytest.MonkeyPatch, taken: set[int]) -> None:
        self.started: list[str] = []
        monkeypatch.setattr(serving, "LOGS", state.LOGS)
        monkeypatch.setattr(serving, "port_taken", lambda p: p in taken)
        monkeypatch.setattr(serving, "start_gunicorn", lambda *_: self.started.append("web") or 1)
        monkeypatch.setattr(serving, "start_worker", lambda *_: self.started.append("tasks") or 1)
        monkeypatch.setattr(serving, "wait_healthy", lambda *_: None)
        monkeypatch.setattr(serving, "_start_keeper", lambda *_: self.started.append("keeper") or 1)
        monkeypatch.setattr(serving, "code", lambda: "code-1")


def serve(kind: str = "demo", port: int = 8470) -> None:
    serving._serve(kind, Path(sys.executable), {}, port)


def test_web_host_task_worker_and_keeper_start_together_and_are_recorded(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    told = Served(monkeypatch, set())
    serve()
    assert told.started == ["web", "tasks", "keeper"]
    assert state.process("demo") is not None
    assert state.process("demo-tasks") is not None


def test_the_same_code_at_the_same_port_is_left_running(monkeypatch: pytest.MonkeyPatch) -> None:
    told = Served(monkeypatch, set())
    serve()
    serve()
    assert told.started == ["web", "tasks", "keeper"]


def test_a_taken_port_is_said_with_the_next_one(monkeypatch: pytest.MonkeyPatch) -> None:
    Served(monkeypatch, {8470})
    with pytest.raises(Stop) as said:
        serve()
    assert said.value.what == "Port 8470 is in use by another program."
    assert said.value.do == "./hurbin demo --port 8471"


def test_a_port_of_our_own_is_said_by_name(monkeypatch: pytest.MonkeyPatch) -> None:
    Served(monkeypatch, set())
    serve("serve", 8471)
    Served(monkeypatch, {8471})
    with pytest.raises(Stop, match="Port 8471 is in use by “serve”"):
        serve("demo", 8471)


def test_the_demo_and_the_plant_have_their_own_database_and_clock(
    place: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(serving, "STATE", place)
    monkeypatch.setattr(install, "python", lambda: Path(sys.executable))
    state.write_json(
        place / "demo.json", {"as_of": "2026-11-16T08:30:00+00:00", "loaded_at": "2026-11-24T00:00:00+00:00"}
    )
    demo, plant = serving.context("demo")[2], serving.context("serve")[2]
    assert (demo["HURBIN_DB_NAME"], plant["HURBIN_DB_NAME"]) == ("hurbin_demo", "hurbin")
    assert demo["HURBIN_AS_OF"] == "2026-11-16T08:30:00+00:00"
    assert "HURBIN_AS_OF" not in plant
    assert demo["HURBIN_SECRET_KEY"] == plant["HURBIN_SECRET_KEY"]


def test_a_web_host_that_dies_is_told_with_its_last_words(tmp_path: Path) -> None:
    log = tmp_path / "demo.log"
    log.write_text("one\ntwo\nImportError: no module\n")
    gone = subprocess.Popen([sys.executable, "-c", ""])
    gone.wait(5)
    with pytest.raises(Stop) as said:
        serving.wait_healthy(state.free_port(), gone.pid, log)
    assert "ImportError: no module" in said.value.what


def test_stopping_what_does_not_run_says_so(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr(serving.Database, "stop", lambda _: False)
    serving.stop()
    assert capsys.readouterr().out == "Nothing was running.\n"


def test_failed_parts_are_named_and_the_others_still_run(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    ran: list[str] = []

    def part(name: str, fails: bool = False) -> Any:
        def step(sheets: bool = True) -> None:
            ran.append(name if sheets else f"{name} without sheets")
            if fails:
                raise Stop(f"{name} broke.")

        return step

    for name in ("check", "_core", "_web", "_server", "_e2e_made", "_e2e"):
        monkeypatch.setattr(checks, name, part(name, name == "_core"))
    monkeypatch.setattr(checks, "_beside", lambda: lambda: ran.append("waited") or ["web or server"])
    with pytest.raises(Stop, match="Failed: core, web or server"):
        checks.test(None)
    assert ran == ["check without sheets", "_core", "_e2e_made", "_e2e", "waited"]
    ran.clear()
    with pytest.raises(Stop, match="Failed: core"):
        checks.test(["core", "web"])
    assert ran == ["_core", "_web"]
    checks.test(["check"])
    assert ran[-1] == "check"
    assert "_core broke." in capsys.readouterr().err


def test_a_lock_file_that_names_a_registry_is_refused(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    subprocess.run(["git", "init", "-q", str(tmp_path)], check=True)
    lock = tmp_path / "package-lock.json"
    lock.write_text('{"packages": {"a": {"version": "1"}}}')
    subprocess.run(["git", "-C", str(tmp_path), "add", "."], check=True)
    monkeypatch.setattr(checks, "ROOT", tmp_path)
    checks._leaks()
    lock.write_text('{"packages": {"a": {"resolved": "somewhere"}}}')
    with pytest.raises(Stop, match="contains the address of a package registry"):
        checks._leaks()


def calc(*argv: str, given: object = None) -> subprocess.CompletedProcess[str]:
    text = json.dumps(given) if given is not None else ""
    env = {**os.environ, "PYTHONPATH": f"{state.ROOT / 'core'}:{state.ROOT}"}
    return subprocess.run(
        [sys.executable, "-m", "cli.calc", *argv],
        input=text,
        capture_output=True,
        text=True,
        check=False,
        env=env,
    )


def insulation_sheet(winding: str) -> dict[str, Any]:
    def entry(n: int, **body: Any) -> dict[str, Any]:
        return {"uuid": f"entry-{n:04d}", "taken_at": "2026-03-02T09:00:00Z", "body": body}

    how = {
        "test_point": "motor",
        "links": "in",
        "phases": "together",
        "test_volts": {"text": "500", "unit": "V"},
        "arresters_off": True,
    }
    setup = {"kind": "setup", **how, "winding": {"text": winding, "unit": "degC"}}
    readings = [
        entry(s, kind="reading", leg="all", seconds=s, ohms={"text": t, "unit": "MOhm"})
        for s, t in ((30, "600"), (60, ">10 G"))
    ]
    motor = {"volts_low": {"text": "400", "unit": "V"}, "insulation_class": "F"}
    return {
        "entries": [entry(1, **setup), *readings],
        "case": {
            "context": {
                "as_of": "2026-03-02T09:10:00Z",
                "kind": "base_mounted",
                "parts": {"motor": {"kind": "motor", "plate": motor}},
            }
        },
    }


def test_calc_judges_an_insulation_test_without_a_server() -> None:
    told = calc("insulation", "--json", given=insulation_sheet("40"))
    assert told.returncode == 0, told.stderr
    answer = json.loads(told.stdout)
    at40 = answer["values"]["at40"]
    assert (at40["value"], at40["unit"], at40["bound"]) == (10000.0, "MOhm", "at_least")
    assert answer["verdict"] == "good"


def test_calc_prints_what_a_person_reads() -> None:
    told = calc("insulation", given=insulation_sheet("40"))
    assert told.returncode == 0, told.stderr
    assert told.stdout.startswith("GOOD")
    assert "Winding insulation: ≥\u00a010.0\u00a0GΩ" in told.stdout.replace("≥ ", "≥\u00a0")
    assert "IEEE 43-2013" in told.stdout
    assert "{" not in told.stdout


def test_calc_names_the_field_and_exits_with_two() -> None:
    told = calc("insulation", given=insulation_sheet("400"))
    assert told.returncode == 2
    assert "winding" in told.stdout + told.stderr


def test_calc_lists_its_benches_and_their_schemas() -> None:
    assert {"insulation", "running_check"} <= set(calc("--list").stdout.split())
    schema = json.loads(calc("insulation", "--schema").stdout)
    assert "x-marks" in json.dumps(schema)
    assert calc("nothing", given={}).returncode != 0


def test_the_fuzzers_count_reads_a_web_hosts_own_log(tmp_path: Path) -> None:
    log = tmp_path / "fuzz.log"
    log.write_text(
        '127.0.0.1 - - [x] "GET /api/v1/units HTTP/1.1" 200 12 "-" "-"\n127.0.0.1 - - [x] "POST /api/v1/x?a=1'
        ' HTTP/1.1" 503 9 "-" "-"\n127.0.0.1 - - [x] "GET /static/a.js HTTP/1.1" 200 1\n'
    )
    assert fuzz.answers(log) == [200, 503]
