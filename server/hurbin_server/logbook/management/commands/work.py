"""The task worker with somebody beside it: a worker that ends is started again, work left lying is queued
again.
"""

from __future__ import annotations

import ctypes
import signal
import subprocess
import sys
import time
from typing import Any

from django.core.management.base import BaseCommand
from django.db import DatabaseError, close_old_connections

from hurbin_server.base.pruning import prune
from hurbin_server.logbook.services.importing import reap_all
from hurbin_server.logbook.services.rolling import roll_long

LOOK_S = 5.0
ROLL_S = 600.0
PR_SET_PDEATHSIG = 1


def _ends_with_us() -> None:
    """Whoever is killed beside a worker takes it with him: the next one begins with its own."""
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)


class Command(BaseCommand):
    help = "Run background tasks until stopped."

    def handle(self, *args: Any, **options: Any) -> None:
        self.going, self.rolled = True, 0.0
        signal.signal(signal.SIGTERM, self._stop)
        signal.signal(signal.SIGINT, self._stop)
        child = self._start()
        looked = time.monotonic()
        while self.going:
            time.sleep(0.3)
            if child.poll() is not None and self.going:
                time.sleep(1.0)
                child = self._start()
            if time.monotonic() - looked > LOOK_S:
                looked = time.monotonic()
                self._look()
        child.terminate()
        try:
            child.wait(10)
        except subprocess.TimeoutExpired:
            child.kill()

    def _stop(self, *_: Any) -> None:
        self.going = False

    def _start(self) -> subprocess.Popen[bytes]:
        return subprocess.Popen(
            [sys.executable, "-m", "django", "db_worker", "--interval", "0.5", "--no-startup-delay"],
            stdin=subprocess.DEVNULL,
            preexec_fn=_ends_with_us,
        )

    def _look(self) -> None:
        try:
            close_old_connections()
            reap_all()
            if time.monotonic() - self.rolled > ROLL_S:
                self.rolled = time.monotonic()
                roll_long()
                prune()
        except DatabaseError as error:
            self.stderr.write(f"database not responding: {error}")
