"""demo, serve, stop, status, logs: the application in the background."""

from __future__ import annotations

import os
import re
import subprocess
import time
import urllib.error
import urllib.request
from datetime import UTC, datetime
from pathlib import Path

from . import backup, install
from .database import Database
from .state import (
    COMPILED,
    LOGS,
    ROOT,
    STATE,
    Stop,
    end_process,
    port_taken,
    process,
    read_json,
    record_process,
    run,
    say,
    secret,
    write_json,
)

DEMO_AS_OF = "2026-11-16T08:30:00+00:00"
SERVER = ROOT / "server"


def server_env(db: Database, name: str, **more: str) -> dict[str, str]:
    """What the Django side is told: where its database is, its secrets, its clock."""
    return {
        **os.environ,
        "PYTHONPATH": f"{ROOT / 'core'}:{SERVER}",
        "DJANGO_SETTINGS_MODULE": "hurbin_server.settings",
        "HURBIN_DB_SOCKET": str(db.socket),
        "HURBIN_DB_NAME": name,
        "HURBIN_DATA_DIR": str(db.data),
        "HURBIN_BACKUPS": str(backup.last_of(name)),
        "HURBIN_DB_PASSWORD": secret(f"db-{db.name}"),
        "HURBIN_SECRET_KEY": secret("django"),
        **COMPILED,
        **more,
    }


def manage(exe: Path, env: dict[str, str], *words: str, quiet: bool = True, kept: bool = True) -> str:
    argv = [str(exe), "-m", "django", *words]
    return run(argv, what=f"“{' '.join(words)}”", env=env, quiet=quiet, kept=kept)


def _clock() -> dict[str, str]:
    held = read_json(STATE / "demo.json")
    return {"HURBIN_AS_OF": held["as_of"], "HURBIN_LOADED_AT": held["loaded_at"]} if held.get("as_of") else {}


def context(kind: str) -> tuple[Path, Database, dict[str, str]]:
    """Environment, database and settings of the `demo` or the real application."""
    db = Database()
    name = "hurbin_demo" if kind == "demo" else "hurbin"
    more = {**_clock(), "HURBIN_DEMO": "1"} if kind == "demo" else _behind()
    return install.python(), db, server_env(db, name, **more)


def demo(port: int, as_of: str) -> None:
    begun = time.monotonic()
    exe = install.everything()
    db = Database()
    db.start()
    db.create("hurbin_demo")
    loaded = STATE / "demo.json"
    if not loaded.exists():
        write_json(loaded.with_suffix(".part"), {"as_of": as_of, "loaded_at": datetime.now(UTC).isoformat()})
        env = server_env(
            db,
            "hurbin_demo",
            HURBIN_DEMO="1",
            HURBIN_AS_OF=as_of,
            HURBIN_LOADED_AT=datetime.now(UTC).isoformat(),
        )
        say("creating the database tables")
        manage(exe, env, "migrate", "-v0")
        say("loading the demo: three years of checks and tests (about two minutes)")
        manage(exe, env, "load_demo", quiet=False)
        part = loaded.with_suffix(".part")
        write_json(part, {**read_json(part), "people": manage(exe, env, "demo_people")})
        part.replace(loaded)
    exe, db, env = context("demo")
    if not _serves("demo", port):
        _migrate(exe, env)
        _serve("demo", exe, env, port)
    _drives(exe, env)
    people = read_json(loaded)["people"]
    say(f"started in {time.monotonic() - begun:.1f} s")
    print(f"\nThe demo is at http://127.0.0.1:{port}/\n\n{people}\n./hurbin stop ends it.")


# Where the demo's drives answer: the demo's own list of addresses says the same.
DRIVES_PORT = 15502


def _drives(exe: Path, env: dict[str, str]) -> None:
    """The stand-in for the demo's drives; without it they do not answer, and everything else goes on."""
    if process("demo-drives") is not None:
        return
    if port_taken(DRIVES_PORT):
        say(f"port {DRIVES_PORT} is in use: the demo's drives do not answer")
        return
    words = ["--port", str(DRIVES_PORT), "--file", str(ROOT / "stand_ins" / "demo_drives.toml")]
    argv = [str(exe), "-m", "stand_ins.drive", *words]
    there = {**env, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT}"}
    record_process("demo-drives", _begin(argv, there, LOGS / "demo-drives.log", ROOT))


# Under which name the application stands behind a front end; without it, on the loopback alone.
BEHIND = STATE / "behind.json"
NAME = re.compile(r"[a-z0-9]([a-z0-9.-]*[a-z0-9])?")


def _behind() -> dict[str, str]:
    name = read_json(BEHIND).get("name", "")
    return {"HURBIN_BEHIND": "1", "HURBIN_TLS": "1", "HURBIN_HOSTS": name} if name else {}


def front_end(name: str, port: int) -> Path:
    """The file for nginx, with its names filled in. Raises Stop for what is no name of a host."""
    if not NAME.fullmatch(name) or len(name) > 200:
        raise Stop(
            f"“{name}” is no name of a host.", "For example: ./hurbin serve --behind pumps.example.org"
        )
    place = STATE / "nginx"
    place.mkdir(exist_ok=True)
    headers = place / "headers.conf"
    headers.write_text((ROOT / "deploy" / "headers.conf").read_text())
    text = (ROOT / "deploy" / "nginx.conf").read_text()
    for mark, said in (("@NAME@", name), ("@PORT@", str(port)), ("@HEADERS@", str(headers))):
        text = text.replace(mark, said)
    (place / f"{name}.conf").write_text(text)
    return place / f"{name}.conf"


def serve(port: int, behind: str = "") -> None:
    file = front_end(behind, port) if behind else None
    exe = install.everything()
    write_json(BEHIND, {"name": behind})
    exe, db, env = context("serve")
    db.start()
    db.create("hurbin")
    _migrate(exe, env)
    _serve("serve", exe, env, port)
    if file is None:
        print(f"\nHurbin is at http://127.0.0.1:{port}/")
    else:
        print(f"\nHurbin waits on 127.0.0.1:{port} for nginx. Its file: {file}")
        print(f"It is reached at https://{behind}/ once nginx has it.")
    if manage(exe, env, "people_count").strip() == "0":
        print("No users yet. Add one: ./hurbin user add NAME --admin")


# While the tables are changed it says from which backup they can be had back.
MIGRATING = STATE / "migrating.json"


def _migrate(exe: Path, env: dict[str, str]) -> None:
    """The tables as this version wants them, and the answers of what was judged before there were any. A
    backup is made before they are changed; a change that stopped half-way is not gone on with.
    """
    name = env["HURBIN_DB_NAME"]
    half = read_json(MIGRATING)
    if half.get("name") == name:
        kind = " --demo" if name.endswith("demo") else ""
        back = f"./hurbin db restore {half['backup']}{kind}" if half["backup"] else ""
        raise Stop(
            f"Changing the tables of {name} stopped half-way on {half['at'][:16]} UTC.",
            f"{back or f'Nothing was in it yet: ./hurbin db reset --yes{kind}'}, then start again.",
        )
    if not _up_to_date(exe, env):
        db = Database()
        fresh = backup.is_empty(db, name)
        made = "" if fresh else str(backup.make(db, name, "before-upgrade"))
        write_json(MIGRATING, {"name": name, "backup": made, "at": datetime.now(UTC).isoformat()})
        manage(exe, env, "migrate", "-v0")
        MIGRATING.unlink(missing_ok=True)
    manage(exe, env, "rebuild", "--missing")


def _up_to_date(exe: Path, env: dict[str, str]) -> bool:
    argv = [str(exe), "-m", "django", "migrate", "--check"]
    done = subprocess.run(argv, env=env, stdin=subprocess.DEVNULL, capture_output=True, check=False)
    return done.returncode == 0


def _serves(kind: str, port: int) -> bool:
    """Is this very code serving there already?"""
    held = process(kind)
    return held is not None and held.get("port") == str(port) and held.get("code") == code()


def _serve(kind: str, exe: Path, env: dict[str, str], port: int) -> None:
    if _serves(kind, port):
        return
    end_process(f"{kind}-keeper")
    end_process(kind)
    if port_taken(port):
        for other in ("demo", "serve"):
            held = process(other)
            if held is not None and held.get("port") == str(port):
                raise Stop(f"Port {port} is in use by “{other}”.", f"./hurbin {kind} --port {port + 1}")
        raise Stop(f"Port {port} is in use by another program.", f"./hurbin {kind} --port {port + 1}")
    LOGS.mkdir(parents=True, exist_ok=True)
    pid = start_gunicorn(exe, env, port, LOGS / f"{kind}.log")
    record_process(kind, pid, port=str(port), code=code())
    end_process(f"{kind}-tasks")
    record_process(f"{kind}-tasks", start_worker(exe, env, LOGS / f"{kind}-tasks.log"))
    wait_healthy(port, pid, LOGS / f"{kind}.log")
    record_process(f"{kind}-keeper", _start_keeper(exe, kind, port))


def _start_keeper(exe: Path, kind: str, port: int) -> int:
    """Whoever brings the others back."""
    env = {**os.environ, "PYTHONPATH": str(ROOT)}
    return _begin([str(exe), "-m", "cli.keeper", kind, str(port)], env, LOGS / f"{kind}-keeper.log", ROOT)


def start_worker(exe: Path, env: dict[str, str], log: Path) -> int:
    """The task worker, with its own keeper."""
    return _begin([str(exe), "-m", "django", "work"], env, log, SERVER)


def _begin(argv: list[str], env: dict[str, str], log: Path, cwd: Path) -> int:
    """Begin it in the background, in a session of its own."""
    with log.open("ab") as out:
        begun = subprocess.Popen(
            argv,
            env=env,
            cwd=cwd,
            stdin=subprocess.DEVNULL,
            stdout=out,
            stderr=out,
            start_new_session=True,
        )
    return begun.pid


def start_gunicorn(exe: Path, env: dict[str, str], port: int, log: Path, workers: int = 2) -> int:
    argv = [
        str(exe.parent / "gunicorn"),
        "hurbin_server.wsgi:application",
        "-b",
        f"127.0.0.1:{port}",
        "--preload",  # read once, not once in each worker
        "-w",
        str(workers),
        "--worker-class",
        "hurbin_server.base.worker.Worker",
        # Threads wait for senders; work is done in four places of each process.
        "--threads",
        "120",
        "--no-control-socket",
        "--access-logfile",
        "-",
        "--worker-tmp-dir",
        "/dev/shm",
        "--graceful-timeout",
        "8",
        "--keep-alive",
        "30",
    ]
    return _begin(argv, env, log, SERVER)


def wait_healthy(port: int, pid: int, log: Path) -> None:
    """Wait until it answers: a machine that does much else takes minutes to start it. Raises `Stop` with the
    end of its log where it ends instead, or never answers.
    """
    until = time.monotonic() + 180
    while time.monotonic() < until:
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/v1/health", timeout=5) as answer:
                if answer.status == 200:
                    return
        except (urllib.error.URLError, OSError):
            time.sleep(0.1)
        if not Path(f"/proc/{pid}").exists():
            break
    tail = "\n".join(log.read_text(errors="replace").splitlines()[-8:])
    raise Stop(f"The server did not come up.\n{tail}", f"See {log}")


def code() -> str:
    from .state import tree_hash

    return tree_hash(SERVER, ROOT / "core" / "hurbin_core", ending=(".py", ".toml", ".csv"))[:16]


def end(kind: str) -> None:
    """End everything of this kind that serves; the database goes on."""
    for name in (f"{kind}-keeper", f"{kind}-tasks", kind):
        end_process(name)


def stop() -> None:
    names = (
        "demo-keeper",
        "serve-keeper",
        "demo-drives",
        "demo-tasks",
        "serve-tasks",
        "demo",
        "serve",
    )
    ended = [name for name in names if end_process(name)]
    if Database().stop():
        ended.append("database")
    print(f"Stopped: {', '.join(ended)}." if ended else "Nothing was running.")


def status() -> None:
    for name in ("demo", "serve"):
        held = process(name)
        print(
            f"{name:9} "
            + (f"running at http://127.0.0.1:{held['port']}/ (pid {held['pid']})" if held else "not running")
        )
        tasks = process(f"{name}-tasks")
        keeper = process(f"{name}-keeper")
        print(f"{'  tasks':9} " + (f"running (pid {tasks['pid']})" if tasks else "not running"))
        print(f"{'  keeper':9} " + (f"running (pid {keeper['pid']})" if keeper else "not running"))
    held = process(Database().key)
    print(f"{'database':9} " + (f"running (pid {held['pid']})" if held else "not running"))


def logs(lines: int) -> None:
    for log in sorted(LOGS.glob("*.log")):
        print(f"== {log}")
        print("\n".join(log.read_text(errors="replace").splitlines()[-lines:]))
