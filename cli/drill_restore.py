"""`hurbin drill --restore`: back up, destroy everything, restore, compare every table, sign in."""

from __future__ import annotations

import shutil
import sys
import tempfile
import time
from pathlib import Path

from . import backup
from .bench_page import put_section
from .drill import DATABASE, Stack
from .fuzz import signed_in
from .serving import start_gunicorn, wait_healthy
from .state import Stop


def main() -> int:
    stack = Stack()
    second = Path(tempfile.mkdtemp(prefix="hurbin-second-"))
    try:
        before = backup.sums(stack.db, DATABASE)
        begun = time.monotonic()
        made = backup.make(stack.db, DATABASE, "drill", to=second)
        packed = time.monotonic() - begun
        stack.end_web()
        # Destroyed: the database, its whole directory, and the first copy.
        stack.db.stop()
        shutil.rmtree(stack.db.data)
        made.unlink()
        begun = time.monotonic()
        stack.db.start()
        tables = backup.restore(stack.db, DATABASE, second / made.name)
        back = time.monotonic() - begun
        after = backup.sums(stack.db, DATABASE)
        stack.web = start_gunicorn(stack.exe, stack.env, stack.port, stack.log)
        wait_healthy(stack.port, stack.web, stack.log)
        signed_in(stack.port, "ines")
    finally:
        shutil.rmtree(second, ignore_errors=True)
        stack.end()
    other = {t: (before.get(t), after.get(t)) for t in {*before, *after} if before.get(t) != after.get(t)}
    rows = sum(n for n, _ in after.values())
    said = (
        f"{tables} tables with {rows} rows: backed up in {packed:.1f} s; brought back from the second place"
        f" in {back:.1f} s after the directory was destroyed; {len(other)} tables read otherwise; signed in."
    )
    print(said)
    for table, (was, now) in sorted(other.items()):
        print(f"  {table}: {was} before, {now} after")
    put_section("Restore drill", said)
    return 1 if other or not before else 0


if __name__ == "__main__":
    try:
        raise SystemExit(main())
    except Stop as error:
        print(f"\nhurbin: {error.what} {error.do}", file=sys.stderr)
        raise SystemExit(1) from None
