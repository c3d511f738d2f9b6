"""Where things live, what was started, and how a step tells what it does."""

from __future__ import annotations

import hashlib
import json
import os
import secrets
import signal
import socket
import subprocess
import sys
import time
from contextlib import suppress
from pathlib import Path
from typing import NoReturn

ROOT = Path(__file__).resolve().parent.parent
STATE = Path(os.environ.get("HURBIN_STATE") or ROOT / ".hurbin")
LOGS = STATE / "logs"
ENV = STATE / "env"
TEST_ENV = STATE / "test-env"
# Python keeps what it has compiled, wherever this runs: else each process that starts compiles the core anew.
COMPILED = {"PYTHONDONTWRITEBYTECODE": ""}
WEB = ROOT / "web"


class Stop(Exception):
    """A step failed: what failed, and what to do."""

    def __init__(self, what: str, do: str = "") -> None:
        super().__init__(what)
        self.what, self.do = what, do


def private() -> None:
    """Everything of ours is for the one who runs it: folders 0700, files 0600, from here on and before."""
    os.umask(0o077)
    STATE.mkdir(parents=True, exist_ok=True)
    STATE.chmod(0o700)
    for place in (LOGS, STATE / "dumps", STATE / "backups"):
        for file in [place, *place.glob("*")] if place.exists() else []:
            file.chmod(0o700 if file.is_dir() else 0o600)


def say(text: str) -> None:
    print(f"  {text}", flush=True)


def fail(error: Stop) -> NoReturn:
    print(f"\nhurbin: {error.what}", file=sys.stderr)
    if error.do:
        print(f"        {error.do}", file=sys.stderr)
    raise SystemExit(1)


def run(
    argv: list[str],
    *,
    what: str,
    do: str = "",
    cwd: Path = ROOT,
    env: dict[str, str] | None = None,
    quiet: bool = True,
    stdin: str | None = None,
    kept: bool = True,
) -> str:
    """Run a step. Its output goes to the log, and the end of it to the screen if it fails. kept: False for
    what is told once, and stands in no log.
    """
    LOGS.mkdir(parents=True, exist_ok=True)
    source = {"input": stdin} if stdin is not None else {"stdin": subprocess.DEVNULL}
    if not quiet:
        done = subprocess.run(argv, cwd=cwd, env=env, text=True, check=False, **source)  # type: ignore[call-overload]
        if done.returncode:
            raise Stop(f"{what} failed (exit {done.returncode}).", do)
        return ""
    done = subprocess.run(
        argv,
        cwd=cwd,
        env=env,
        text=True,
        check=False,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        **source,
    )  # type: ignore[call-overload]
    with (LOGS / "setup.log").open("a") as log:
        log.write(f"$ {' '.join(argv)}\n{done.stdout if kept else '(told once)'}\n")
    if done.returncode:
        tail = "\n".join(f"        {line}" for line in done.stdout.strip().splitlines()[-12:])
        raise Stop(
            f"{what} failed (exit {done.returncode}).\n{tail}",
            do or f"Full output: {LOGS / 'setup.log'}",
        )
    return str(done.stdout)


def read_json(path: Path) -> dict[str, str]:
    try:
        return dict(json.loads(path.read_text()))
    except FileNotFoundError:
        return {}


def write_json(path: Path, data: dict[str, str]) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    draft = path.with_suffix(".new")
    draft.touch(mode=0o600)
    draft.write_text(json.dumps(data, indent=1))
    draft.replace(path)


def secret(name: str) -> str:
    """A secret made at the first start and kept out of git."""
    path = STATE / "secrets.json"
    held = read_json(path)
    if name not in held:
        held[name] = secrets.token_urlsafe(40)
        write_json(path, held)
    return held[name]


def short_dir() -> Path:
    """A short private place for sockets: their paths may not be long."""
    tag = hashlib.sha256(str(STATE).encode()).hexdigest()[:8]
    place = Path("/tmp") / f"hurbin-{os.getuid()}-{tag}"
    place.mkdir(mode=0o700, exist_ok=True)
    if place.stat().st_uid != os.getuid():
        raise Stop(f"{place} belongs to another user.", "Remove it, or set HURBIN_STATE to another folder.")
    return place


def started(pid: int) -> str:
    """When the kernel started this process, so that a pid used again is not taken for ours."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[19]
    except (FileNotFoundError, ProcessLookupError):
        return ""


def record_process(name: str, pid: int, **more: str) -> None:
    write_json(STATE / "run" / f"{name}.json", {"pid": str(pid), "started": started(pid), **more})


def process(name: str) -> dict[str, str] | None:
    """What is recorded as running under this name, if it still runs and is ours."""
    held = read_json(STATE / "run" / f"{name}.json")
    if held and held["started"] and started(int(held["pid"])) == held["started"]:
        return held
    return None


def end_process(name: str, wait: float = 20) -> bool:
    """End the process recorded under this name, and no other."""
    held = process(name)
    if held is not None:
        pid = int(held["pid"])
        with suppress(ProcessLookupError):
            os.kill(pid, signal.SIGTERM)
        until = time.monotonic() + wait
        while started(pid) == held["started"] and time.monotonic() < until:
            with suppress(ChildProcessError):
                os.waitpid(pid, os.WNOHANG)
            time.sleep(0.05)
    (STATE / "run" / f"{name}.json").unlink(missing_ok=True)
    return held is not None


def port_taken(port: int) -> bool:
    with socket.socket() as s:
        s.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            s.bind(("127.0.0.1", port))
        except OSError:
            return True
    return False


def free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


def tree_hash(*places: Path, ending: tuple[str, ...] = ()) -> str:
    """A hash over files, to tell whether a step's inputs changed."""
    digest = hashlib.sha256()
    for place in places:
        files = sorted(p for p in place.rglob("*") if p.is_file()) if place.is_dir() else [place]
        for f in files:
            if not ending or f.suffix in ending:
                digest.update(str(f.relative_to(ROOT)).encode() + b"\0" + f.read_bytes())
    return digest.hexdigest()
