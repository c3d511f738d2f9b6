"""The keeper: brings back the web host, the task worker and the database, and makes the nightly backup.

`python -m cli.keeper KIND PORT`, started and ended by the entry script.
"""

from __future__ import annotations

import os
import signal
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from contextlib import suppress
from datetime import UTC, datetime
from pathlib import Path
from types import FrameType

from . import backup, serving
from .database import Database
from .state import LOGS, Stop, end_process, port_taken, process, record_process

LOOK_S = 2.0
# So often in a row nothing is heard of a web host that runs: then it hangs, and is begun anew.
SILENT = 4
ASK_S = 8.0
# So often within a minute something is begun anew: then it is left for a while, and nothing is worn out.
MOST_A_MINUTE, REST_S = 6, 30.0
BACKUP_LOOK_S = 300.0


class Keeper:
    def __init__(self, kind: str, port: int, exe: Path, db: Database, env: dict[str, str]) -> None:
        self.kind, self.port = kind, port
        self.exe, self.db, self.env = exe, db, env
        self.going = True
        self.silent = 0
        self.begun: list[float] = []
        self.looked = time.monotonic()

    def say(self, text: str) -> None:
        print(f"{datetime.now(UTC):%Y-%m-%d %H:%M:%S} UTC {text}", flush=True)

    def run(self) -> None:
        while self.going:
            time.sleep(LOOK_S)
            try:
                self.look()
            except (Stop, OSError) as error:
                self.say(f"{error}; tried again in {REST_S:.0f} s")
                self._rest()

    def look(self) -> None:
        """One look at everything; whatever is gone is begun anew."""
        _bury()
        if not self.db.answers():
            self._begin("the database", self.db.start)
        if process(self.kind) is None:
            self._begin("the web host", self._web)
        elif not self._heard():
            self.silent += 1
            if self.silent >= SILENT:
                self.silent = 0
                end_process(self.kind, wait=5)
                self._begin("the web host, which said nothing", self._web)
        else:
            self.silent = 0
        if process(f"{self.kind}-tasks") is None:
            self._begin("the task worker", self._tasks)
        if time.monotonic() - self.looked > BACKUP_LOOK_S:
            self.looked = time.monotonic()
            if self.kind == "serve" and backup.due(self.env["HURBIN_DB_NAME"]):
                made = backup.make(self.db, self.env["HURBIN_DB_NAME"], "nightly")
                self.say(f"backup {made.name}")

    def _begin(self, what: str, do: Callable[[], None]) -> None:
        now = time.monotonic()
        self.begun = [at for at in self.begun if now - at < 60]
        if len(self.begun) >= MOST_A_MINUTE:
            self.say(f"{what}: begun {MOST_A_MINUTE} times in a minute, left for {REST_S:.0f} s")
            self._rest()
        self.begun.append(now)
        self.say(f"brings back {what}")
        if self.going:
            do()

    def _rest(self) -> None:
        until = time.monotonic() + REST_S
        while self.going and time.monotonic() < until:
            time.sleep(0.5)

    def _heard(self) -> bool:
        try:
            with urllib.request.urlopen(
                f"http://127.0.0.1:{self.port}/api/v1/health", timeout=ASK_S
            ) as answer:
                return bool(answer.status == 200)
        except urllib.error.HTTPError:
            # It answers, whatever it says: the database is looked after by itself.
            return True
        except OSError:
            return False

    def _web(self) -> None:
        # Workers whose master was killed hold its port for a moment, and would answer in the new one's name.
        until = time.monotonic() + ASK_S
        while port_taken(self.port) and time.monotonic() < until:
            time.sleep(0.1)
        pid = serving.start_gunicorn(self.exe, self.env, self.port, LOGS / f"{self.kind}.log")
        record_process(self.kind, pid, port=str(self.port), code=serving.code())
        serving.wait_healthy(self.port, pid, LOGS / f"{self.kind}.log")

    def _tasks(self) -> None:
        log = LOGS / f"{self.kind}-tasks.log"
        record_process(f"{self.kind}-tasks", serving.start_worker(self.exe, self.env, log))

    def stop(self, number: int, frame: FrameType | None) -> None:
        self.going = False


def _bury() -> None:
    """What it began is its child: one that has ended is not to stay as a shadow of itself."""
    with suppress(ChildProcessError):
        while os.waitpid(-1, os.WNOHANG)[0]:
            pass


def main() -> None:
    kind, port = sys.argv[1], int(sys.argv[2])
    keeper = Keeper(kind, port, *serving.context(kind))
    signal.signal(signal.SIGTERM, keeper.stop)
    signal.signal(signal.SIGINT, keeper.stop)
    keeper.run()


if __name__ == "__main__":
    main()
