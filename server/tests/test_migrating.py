"""A database of 0.4.0 becomes one of today: every record is there, judged again, what changed is listed.

`data/demo-0.4.0.sql.xz` is a dump of that version's demo, of three sets over 420 days.
"""

from __future__ import annotations

import lzma
import os
import shutil
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from django.db import connection

from hurbin_core.base import rules_version

HERE = Path(__file__).parent
OLD = "test_hurbin_old"
Says = Callable[[str], str]


@pytest.fixture
def old(db: None) -> Iterator[Says]:
    """The dump in a database of its own, as it was; asked over a connection of its own each time, for what
    migrates waits for every open one.
    """
    own = connection.settings_dict
    client = shutil.which("mariadb") or "mariadb"
    door = [client, "--socket", own["HOST"], "-u", own["USER"], f"--password={own['PASSWORD']}", "-N", "-r"]

    def says(sql: str, *database: str) -> str:
        done = subprocess.run([*door, *database], input=sql, check=True, capture_output=True, text=True)
        return done.stdout.strip()

    says(f"DROP DATABASE IF EXISTS {OLD}; CREATE DATABASE {OLD} CHARACTER SET utf8mb4")
    says(lzma.decompress((HERE / "data" / "demo-0.4.0.sql.xz").read_bytes()).decode(), OLD)
    yield lambda sql: says(sql, OLD)
    says(f"DROP DATABASE {OLD}")


def told(*words: str) -> list[str]:
    """What a command of today says of the old database."""
    env = {**os.environ, "HURBIN_DB_NAME": OLD, "HURBIN_AS_OF": "2026-11-20T08:00:00+00:00"}
    done = subprocess.run(
        [sys.executable, "-m", "django", *words],
        env=env,
        capture_output=True,
        text=True,
        stdin=subprocess.DEVNULL,
        check=False,
        timeout=240,
    )
    assert done.returncode == 0, done.stderr[-3000:]
    return done.stdout.splitlines()


def test_a_database_of_0_4_0_migrates_and_is_judged_again(old: Says) -> None:
    facts = "SELECT id, pump_set_id, bench, taken_at, saved_at, body, reason FROM logbook_record ORDER BY id"
    entries = "SELECT uuid, sheet_id, taken_at, received_at, body FROM logbook_entry ORDER BY uuid"
    judgements = "SELECT count(*) FROM logbook_judgement"
    before, entered, judged = old(facts), old(entries), int(old(judgements))
    assert len(before.splitlines()) == 52
    old("INSERT INTO django_session VALUES ('k7', 'said', '2026-12-01 08:00:00')")
    told("migrate", "-v0")
    assert old("SELECT session_key, session_data, user_id FROM base_session") == "k7\tsaid\tNULL"
    told("rebuild", "--missing")
    says = told("rejudge")
    assert (old(facts), old(entries)) == (before, entered)
    assert (
        old("SELECT count(distinct record_id), count(*) FROM logbook_judgement WHERE newest = 1") == "52\t52"
    )
    changed = says[:-1]
    assert says[-1].startswith(f"52 records evaluated with rules {rules_version()}: {len(changed)} changed")
    assert changed, "0.4.0 said good without ground: some of it must read otherwise today"
    assert int(old(judgements)) >= judged + len(changed)
    unanswered = (
        "SELECT count(*) FROM plant_pumpset s WHERE EXISTS (SELECT 1 FROM logbook_record r WHERE"
        " r.pump_set_id = s.id) AND NOT EXISTS (SELECT 1 FROM logbook_answer a WHERE a.pump_set_id = s.id)"
    )
    assert old(unanswered) == "0"
