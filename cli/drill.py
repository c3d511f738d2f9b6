"""`hurbin drill`: four people save while web workers, the task worker and the database are killed at random;
then everything is counted.
"""

from __future__ import annotations

import http.client
import json
import os
import random
import shutil
import signal
import subprocess
import sys
import threading
import time
import uuid
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from . import races
from .bench_page import put_section
from .database import Database
from .dropping import Dropping
from .fuzz import AS_OF, signed_in
from .serving import manage, server_env, start_gunicorn, start_worker, wait_healthy
from .state import LOGS, Stop, free_port

RECORDS, CLIENTS, FILE_ROWS, TRIES, KILLS = 1000, 4, 1500, 200, 60
DATABASE = "hurbin_drill"
SEED = 20260
WHAT = ("a web worker", "the task worker", "the database", "the connections")


class Stack:
    """Everything that can be killed, and brought back."""

    def __init__(self) -> None:
        self.exe = Path(shutil.which("python", path=os.environ["PATH"]) or sys.executable)
        self.db = Database("drill")
        self.db.start()
        self.db.drop(DATABASE)
        self.db.create(DATABASE)
        loaded = time.strftime("%Y-%m-%dT%H:%M:%S+00:00", time.gmtime())
        self.env = server_env(self.db, DATABASE, HURBIN_DEMO="1", HURBIN_AS_OF=AS_OF, HURBIN_LOADED_AT=loaded)
        self.env["HURBIN_LIMIT_TIMES"] = "1000"  # its clients ask more often than people do
        manage(self.exe, self.env, "migrate", "-v0")
        manage(self.exe, self.env, "load_demo", "--days", "120", "--tags", "KELP-21,KELP-22,COLD-33,LIFT-61")
        self.port, self.log = free_port(), LOGS / "drill.log"
        self.log.unlink(missing_ok=True)
        self.web = start_gunicorn(self.exe, self.env, self.port, self.log)
        wait_healthy(self.port, self.web, self.log)
        self.tasks = start_worker(self.exe, self.env, LOGS / "drill-tasks.log")
        self.between = Dropping(self.port, SEED)

    def children(self, parent: int) -> list[int]:
        found = subprocess.run(
            ["pgrep", "-P", str(parent)], capture_output=True, text=True, check=False
        ).stdout.split()
        return [int(x) for x in found]

    def kill_web_worker(self, rng: random.Random) -> str:
        return self._kill_child(self.web, rng, "a web worker")

    def kill_task_worker(self, rng: random.Random) -> str:
        return self._kill_child(self.tasks, rng, "the task worker")

    def _kill_child(self, parent: int, rng: random.Random, what: str) -> str:
        mine = self.children(parent)
        if mine:
            with suppress(ProcessLookupError):
                os.kill(rng.choice(mine), signal.SIGKILL)
        return what if mine else ""

    def kill_database(self, rng: random.Random) -> str:
        pid = int((self.db.data / "mariadbd.pid").read_text())
        os.kill(pid, signal.SIGKILL)
        with suppress(ChildProcessError):
            os.waitpid(pid, 0)
        time.sleep(rng.uniform(0.2, 1.0))
        self.db.start()
        return "the database"

    def drop_connections(self, rng: random.Random) -> str:
        return "the connections" if self.between.drop() else ""

    def end_web(self) -> None:
        self.between.close()
        for pid in (self.web, self.tasks):
            with suppress(ProcessLookupError, ChildProcessError):
                os.kill(pid, signal.SIGTERM)
                os.waitpid(pid, 0)

    def end(self) -> None:
        self.end_web()
        self.db.drop(DATABASE)
        self.db.stop()

    def number(self, sql: str) -> int:
        return int(self.db.sql(sql, database=DATABASE))


def body(rng: random.Random, set_id: int) -> dict[str, Any]:
    figures = {f"volts_{k}": f"{400 + rng.gauss(0, 1):.0f}" for k in ("12", "23", "31")} | {
        f"amps_{k}": f"{9 + rng.gauss(0, 0.1):.2f}" for k in "123"
    }
    said = {k: {"text": v, "unit": "V" if k.startswith("v") else "A"} for k, v in figures.items()}
    at = datetime.fromisoformat(AS_OF) - timedelta(minutes=rng.randrange(5, 20000))
    entry = {
        "uuid": str(uuid.uuid4()),
        "taken_at": at.isoformat(),
        "device": "drill",
        "body": {"read_at": "motor_leads", "valve": "open", "coupled": True, **said},
    }
    return {"set_id": set_id, "sheet": str(uuid.uuid4()), "entries": [entry]}


class Client(threading.Thread):
    """One person's device: keeps what it has to send, and sends it until somebody answers."""

    def __init__(self, stack: Stack, user: str, sets: list[int], n: int, seed: int) -> None:
        super().__init__()
        self.stack, self.user, self.sets, self.n = stack, user, sets, n
        self.rng = random.Random(seed)
        self.acknowledged: list[str] = []
        self.sent = self.refused = 0

    def run(self) -> None:
        head: dict[str, str] = {}
        for _ in range(self.n):
            parcel = body(self.rng, self.rng.choice(self.sets))
            until = time.monotonic() + 120
            while time.monotonic() < until:
                head = head or self._door()
                self.sent += 1
                status = self._send(parcel, head)
                if status in (200, 201):
                    self.acknowledged.append(parcel["sheet"])
                    break
                if status == 422:
                    self.refused += 1
                    break
                if status in (401, 403):
                    head = {}
                time.sleep(self.rng.uniform(0.05, 0.3))

    def _door(self) -> dict[str, str]:
        """Signed in, or nothing yet: the next turn tries again."""
        with suppress(OSError, Stop, http.client.HTTPException, ValueError):
            return signed_in(self.stack.between.port, self.user)
        return {}

    def _send(self, parcel: dict[str, Any], head: dict[str, str]) -> int:
        try:
            door = http.client.HTTPConnection("127.0.0.1", self.stack.between.port, timeout=15)
            door.request(
                "POST",
                "/api/v1/benches/running_check/records",
                json.dumps(parcel),
                {"Content-Type": "application/json", **head},
            )
            answer = door.getresponse()
            answer.read()
            return answer.status
        except (OSError, http.client.HTTPException):
            return 0


def upload(stack: Stack, site: int) -> int:
    """A file of readings on its way through the task queue while all this happens."""
    rng = random.Random(SEED)
    start = datetime(2015, 1, 1, tzinfo=UTC)
    rows = [
        f"KELP-22,{(start + timedelta(hours=n)).isoformat()},motor_leads,open,yes,400,401,399,"
        f"{9 + rng.gauss(0, 0.1):.2f},9.0,9.1"
        for n in range(FILE_ROWS)
    ]
    text = (
        "tag,taken_at,read_at,valve,coupled,volts_12|V,volts_23|V,volts_31|V,amps_1|A,amps_2|A,amps_3|A\n"
        + "\n".join(rows)
    )
    mark = uuid.uuid4().hex
    parts = (
        f"--{mark}\r\nContent-Disposition: form-data;"
        f' name="bench"\r\n\r\nrunning_check\r\n--{mark}\r\nContent-Disposition: form-data; name="file";'
        f' filename="old.csv"\r\nContent-Type: text/csv\r\n\r\n{text}\r\n--{mark}--\r\n'
    )
    return int(
        _call(
            stack,
            "POST",
            f"/api/v1/sites/{site}/readings/imports",
            parts,
            f"multipart/form-data; boundary={mark}",
        )["id"]
    )


def _call(
    stack: Stack, method: str, path: str, data: str | None = None, kind: str = "application/json"
) -> dict[str, Any]:
    """One call as the admin, again until somebody answers."""
    until = time.monotonic() + 90
    while time.monotonic() < until:
        try:
            door = http.client.HTTPConnection("127.0.0.1", stack.port, timeout=30)
            door.request(method, path, data, {"Content-Type": kind, **signed_in(stack.port, "ines")})
            answer = door.getresponse()
            told = json.loads(answer.read())
            if answer.status < 300:
                return dict(told)
            if answer.status == 409:
                return {"state": told.get("code", "refused")}
        except (OSError, http.client.HTTPException, ValueError, Stop):
            pass
        time.sleep(0.3)
    raise Stop(f"{method} {path} got no answer within 90 s.")


def wait_for(stack: Stack, job: int, states: tuple[str, ...], seconds: float) -> str:
    until = time.monotonic() + seconds
    state = ""
    while time.monotonic() < until and state not in states:
        state = str(_call(stack, "GET", f"/api/v1/readings/imports/{job}")["state"])
        time.sleep(0.4)
    return state


def counts(stack: Stack, acknowledged: list[str]) -> dict[str, int]:
    """What is there, held against what was acknowledged."""
    held = set(stack.db.sql("select sheet_id from logbook_record", database=DATABASE).split())
    half = """select count(*) from logbook_record r
            where not exists (select 1 from logbook_entry e where e.sheet_id = r.sheet_id)
              or (select count(*) from logbook_judgement j where j.record_id = r.id and j.newest = 1) <> 1
              or not exists (select 1 from logbook_finding f where f.record_id = r.id) or not exists (
                select 1 from logbook_point p where p.record_id = r.id)"""
    return {
        "acknowledged": len(acknowledged),
        "lost": sum(s not in held for s in acknowledged),
        "doubled": (
            stack.number("select count(*) - count(distinct sheet_id) from logbook_record")
            + stack.number(
                "select coalesce(sum(n - 1), 0) from (select count(*) n from logbook_record where bench ="
                " 'running_check' group by pump_set_id, taken_at, body having n > 1) x"
            )
        ),
        "half_written": (
            stack.number(half)
            + stack.number(
                "select count(*) from logbook_sheet s where s.closed_at is not null and s.left_because = ''"
                " and not exists (select 1 from logbook_record r where r.sheet_id = s.uuid)"
            )
        ),
    }


def main() -> int:
    stack = Stack()
    begun = time.monotonic()
    try:
        site = stack.number("select id from plant_site limit 1")
        sets = [
            int(x)
            for x in stack.db.sql(
                "select id from plant_pumpset where tag in ('KELP-21','COLD-33','LIFT-61')", database=DATABASE
            ).split()
        ]
        before = stack.number("select count(*) from logbook_record")
        people = ["saskia", "jun", "teodor", "ines"]
        clients = [Client(stack, who, sets, RECORDS // CLIENTS, SEED + i) for i, who in enumerate(people)]
        job = upload(stack, site)
        [c.start() for c in clients]
        rng, killed = random.Random(SEED), dict.fromkeys(WHAT, 0)
        asked = False
        while any(c.is_alive() for c in clients) or sum(killed.values()) < KILLS:
            time.sleep(rng.uniform(0.3, 1.0))
            ways = [
                stack.kill_web_worker,
                stack.kill_task_worker,
                stack.kill_database,
                stack.drop_connections,
            ]
            what = rng.choices(ways, [5, 2, 3, 4])[0](rng)
            if what:
                killed[what] += 1
            if not asked and _call(stack, "GET", f"/api/v1/readings/imports/{job}")["state"] == "checked":
                _call(stack, "POST", f"/api/v1/readings/imports/{job}/write", "{}")
                asked = True
        [c.join() for c in clients]
        state = wait_for(stack, job, ("checked", "written", "failed"), 240)
        if state == "checked":
            _call(stack, "POST", f"/api/v1/readings/imports/{job}/write", "{}")
            state = wait_for(stack, job, ("written", "failed"), 240)
        acknowledged = [s for c in clients for s in c.acknowledged]
        found = counts(stack, acknowledged)
        of_file = stack.number(
            "select count(*) from logbook_record r join logbook_entry e on e.sheet_id = r.sheet_id where"
            " e.device = 'file'"
        )
        by_hand = stack.number("select count(*) from logbook_record") - before - of_file
        # Those that are killed come back within a moment; then two people race for one sheet, nobody killed.
        wait_healthy(stack.port, stack.web, stack.log)
        raced = {
            r.bench: races.run(stack.port, r, sets, TRIES, AS_OF, SEED + n) for n, r in enumerate(races.RACES)
        }
        said = [
            f"{RECORDS} records from {CLIENTS} clients in {time.monotonic() - begun:.0f} s,"
            f" {sum(c.sent for c in clients)} requests sent; killed: "
            + ", ".join(f"{what} {n}×" for what, n in killed.items())
            + f"; {stack.between.lost_answers} answers lost on their way back.",
            (
                f"Acknowledged {found['acknowledged']}, on file {by_hand}; acknowledged and lost"
                f" {found['lost']}, doubled {found['doubled']}, half-written {found['half_written']}."
            ),
            (
                f"A file of {FILE_ROWS} rows went through the task queue meanwhile: {state}, {of_file} rows"
                " on record."
            ),
            *races.said(raced),
        ]
        print("\n".join(said))
        note(said)
        # A file that is not on record, whole, is a failure, whatever it says of itself.
        whole = state == "written" and of_file == FILE_ROWS
        effective = not any(t.lost for t in raced.values())
        return (
            0
            if found["lost"] == found["doubled"] == found["half_written"] == 0
            and found["acknowledged"] == RECORDS
            and whole
            and effective
            else 1
        )
    finally:
        stack.end()


def note(said: list[str]) -> None:
    """The figures of this run, into docs/bench.md."""
    put_section("Drill", "\n".join(["By `./hurbin drill`.", "", *(f"- {s}" for s in said)]))


if __name__ == "__main__":
    try:
        raise SystemExit(main())
    except Stop as error:
        print(f"\nhurbin: {error.what} {error.do}", file=sys.stderr)
        raise SystemExit(1) from None
