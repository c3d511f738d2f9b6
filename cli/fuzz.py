"""`hurbin fuzz`: the API's own description turned against it, on a stack of its own; counts calls and server
errors.
"""

from __future__ import annotations

import argparse
import http.client
import json
import os
import re
import shutil
import subprocess
import sys
import time
from pathlib import Path

from .bench_page import put_section
from .database import Database
from .serving import manage, server_env, start_gunicorn, wait_healthy
from .state import LOGS, ROOT, Stop, free_port

AS_OF = "2026-11-16T08:30:00+00:00"
WORD = "tidal-lagoon-7"
LEAST_CALLS = 5000
NOTED = 100_000
# What the fuzzer makes is made hostile in one place.
HOSTILE = {"NO_COLOR": "1", "SCHEMATHESIS_HOOKS": "cli.fuzz_hostile", "PYTHONPATH": str(ROOT)}
# Signing out would turn every later call into a 401; the fuzzer is to get past the door. A session on a
# shared tablet would be refused every lock.
NOT = ("sign_out", "sign_in", "end_sessions", "change_password", "make_tablet")
# Two at once on one stack, each with its own seed: the benches' long sheets take their time to make up.
PARTS = (("--include-path-regex", "/benches/"), ("--exclude-path-regex", "/benches/"))


def signed_in(port: int, user: str) -> dict[str, str]:
    """Cookie and token of somebody signed in."""
    door = http.client.HTTPConnection("127.0.0.1", port, timeout=20)
    jar: dict[str, str] = {}
    token = ""
    for method, body in (("GET", None), ("POST", json.dumps({"username": user, "password": WORD}))):
        head = {
            "Content-Type": "application/json",
            "X-CSRFToken": token,
            "Cookie": "; ".join(f"{k}={v}" for k, v in jar.items()),
        }
        door.request(method, "/api/v1/session", body, head)
        answer = door.getresponse()
        told = json.loads(answer.read())
        if answer.status != 200:
            raise Stop(f"Sign-in failed ({answer.status}): {told.get('message', '')}")
        token = told["csrf"]
        jar |= dict(c.split(";")[0].split("=", 1) for c in answer.headers.get_all("Set-Cookie") or [])  # type: ignore[misc]
    return {"Cookie": "; ".join(f"{k}={v}" for k, v in jar.items()), "X-CSRFToken": token}


def answers(log: Path) -> list[int]:
    """The status of every call in a web host's own log."""
    return [
        int(m)
        for m in re.findall(
            r'"(?:GET|POST|PUT|PATCH|DELETE|OPTIONS|HEAD|TRACE|QUERY) /api/v1/[^"]*" (\d{3}) ',
            log.read_text(errors="replace"),
        )
    ]


def note(codes: list[int]) -> None:
    """The figures of this run, into docs/bench.md; of a short one nothing."""
    if len(codes) < NOTED:
        return
    wrong = sum(c >= 500 for c in codes)
    told = (
        f"By `./hurbin fuzz --examples N`, with a dictionary of {len(hostile())} hostile values:"
        f" {len(codes)} calls, {wrong} server errors; {sum(c < 300 for c in codes)} taken,"
        f" {sum(300 <= c < 500 for c in codes)} refused."
    )
    put_section("Fuzz", told)


def hostile() -> tuple[object, ...]:
    from .fuzz_hostile import HOSTILE as values

    return values


def _begun(
    exe: Path, port: int, examples: int, head: dict[str, str], seed: int, *part: str
) -> subprocess.Popen[bytes]:
    """One fuzzer on its part of the operations, signed in; what it says goes where ours goes."""
    words = [
        str(exe.parent / "schemathesis"),
        "run",
        str(ROOT / "docs" / "openapi.json"),
        "--url",
        f"http://127.0.0.1:{port}",
        "-n",
        str(examples),
        "--workers",
        "3",
        "--checks",
        "not_a_server_error",
        "--phases",
        "examples,coverage,fuzzing",
        "--generation-database",
        "none",
        "--suppress-health-check",
        "all",
        "--continue-on-failure",
        "--no-color",
        "--seed",
        str(seed),
        "--warnings",
        "off",
        *part,
    ]
    for name in NOT:
        words += ["--exclude-operation-id", name]
    for name, value in head.items():
        words += ["-H", f"{name}: {value}"]
    return subprocess.Popen(words, stdin=subprocess.DEVNULL, cwd=LOGS, env={**os.environ, **HOSTILE})


def main(examples: int) -> int:
    exe = Path(shutil.which("python", path=os.environ["PATH"]) or sys.executable)
    db = Database("test")
    db.drop("hurbin_fuzz")
    db.create("hurbin_fuzz")
    loaded = time.strftime("%Y-%m-%dT%H:%M:%S+00:00", time.gmtime())
    env = server_env(db, "hurbin_fuzz", HURBIN_DEMO="1", HURBIN_AS_OF=AS_OF, HURBIN_LOADED_AT=loaded)
    env["HURBIN_LIMIT_TIMES"] = "100000"  # it is to get past the limits, too
    manage(exe, env, "migrate", "-v0")
    manage(exe, env, "load_demo", "--days", "200", "--tags", "KELP-21,KELP-22,MIST-92")
    log = LOGS / "fuzz.log"
    log.unlink(missing_ok=True)
    port = free_port()
    pid = start_gunicorn(exe, env, port, log)
    try:
        wait_healthy(port, pid, log)
        head = signed_in(port, "ines")
        runs = [_begun(exe, port, examples, head, seed, *part) for seed, part in enumerate(PARTS, 7)]
        ended = [run.wait() for run in runs]
    finally:
        os.kill(pid, 15)
        os.waitpid(pid, 0)
        db.drop("hurbin_fuzz")
    codes = answers(log)
    note(codes)
    wrong = sum(c >= 500 for c in codes)
    print(
        f"\n{len(codes)} calls, {wrong} server errors; {sum(c < 300 for c in codes)} taken,"
        f" {sum(300 <= c < 500 for c in codes)} refused."
    )
    if len(codes) < LEAST_CALLS:
        raise Stop(f"Only {len(codes)} calls; at least {LEAST_CALLS} needed.", "./hurbin fuzz --examples 300")
    return 1 if wrong or any(ended) else 0


if __name__ == "__main__":
    parser = argparse.ArgumentParser()
    parser.add_argument("--examples", type=int, default=60)
    try:
        raise SystemExit(main(parser.parse_args().examples))
    except Stop as error:
        print(f"\nhurbin: {error.what} {error.do}", file=sys.stderr)
        raise SystemExit(1) from None
