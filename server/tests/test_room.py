"""A disk that is full, a database that is gone: each told as what it is, and nothing is written."""

from __future__ import annotations

import errno
import json
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from conftest import SAVE, sheet
from django.db import DatabaseError, InterfaceError, OperationalError, ProgrammingError
from safe_sheets import Door

from hurbin_server.base import room
from hurbin_server.base.errors import trouble
from hurbin_server.logbook.models import Record
from hurbin_server.plant.models import PumpSet, Site


def test_nothing_is_begun_while_the_disk_is_full(
    api: Door, pump_set: PumpSet, settings: Any, tmp_path: Any
) -> None:
    settings.DATA_DIR, settings.DISK_FLOOR_MB = str(tmp_path), 1e12
    room._asked["at"] = -1e9
    status, told = api("tia")("POST", SAVE, sheet(pump_set))
    assert (status, told["code"]) == (503, "disk_full")
    assert "kept here" in told["detail"]
    assert not Record.objects.exists()
    assert api("tia")("GET", f"/sets/{pump_set.pk}")[0] == 200, "reading goes on"
    settings.DISK_FLOOR_MB = 0
    assert api("tia")("POST", SAVE, sheet(pump_set))[0] == 201


@pytest.mark.parametrize(
    ("error", "code"),
    [
        (OperationalError(1021, "Disk full"), "disk_full"),
        (OperationalError(1114, "The table is full"), "disk_full"),
        (DatabaseError(1030, "Got error 28 from storage engine"), "disk_full"),
        (OSError(errno.ENOSPC, "No space left on device"), "disk_full"),
        (OperationalError(2006, "gone away"), "database_gone"),
        (InterfaceError(0, ""), "database_gone"),
    ],
)
def test_what_the_database_says_is_told_as_what_it_is(error: Exception, code: str) -> None:
    said = trouble(error)
    assert said is not None
    assert (said.status_code, code in said.content.decode()) == (503, True)


@pytest.mark.parametrize(
    "error",
    [
        DatabaseError(1030, "Got error 122 from storage engine"),
        ProgrammingError(1146, "no table"),
        OSError(errno.EACCES, "no"),
        ValueError("x"),
    ],
)
def test_what_is_neither_stays_a_failure(error: Exception) -> None:
    assert trouble(error) is None


def told_of(tmp_path: Path, size: int = 3, **more: Any) -> str:
    (tmp_path / "hurbin-1.sql.gz").write_bytes(b"abc")
    at = (datetime.now(UTC) - timedelta(hours=3)).isoformat()
    two = tmp_path / "two"
    two.mkdir()
    (two / "hurbin-1.sql.gz").write_bytes(b"abc")
    told = {"at": at, "file": "hurbin-1.sql.gz", "bytes": str(size), "copy": str(two), "copy_failed": ""}
    (tmp_path / "last.json").write_text(json.dumps(told | more))
    return str(tmp_path / "last.json")


@pytest.mark.parametrize(
    ("more", "verdict"),
    [
        ({}, "good"),
        ({"size": 4}, "unknown"),
        ({"file": "gone.sql.gz"}, "unknown"),
        ({"copy": ""}, "watch"),
        ({"copy": "/mnt/unmounted-since"}, "watch"),
        ({"at": "yesterday"}, "unknown"),
        ({"at": "2026-01-01T00:00:00+00:00"}, "act"),
    ],
)
def test_an_admin_is_told_of_the_newest_backup(
    api: Door, site: Site, settings: Any, tmp_path: Path, more: dict[str, Any], verdict: str
) -> None:
    settings.BACKUPS = told_of(tmp_path, **more)
    status, told = api("ada")("GET", f"/sites/{site.pk}/machine")
    assert (status, told["verdict"]) == (200, verdict)
    assert api("leo")("GET", f"/sites/{site.pk}/machine")[0] == 403


def test_without_a_note_of_one_there_is_none(api: Door, site: Site, settings: Any, tmp_path: Path) -> None:
    for place in ("", str(tmp_path / "nothing.json"), str(tmp_path)):
        settings.BACKUPS = place
        assert api("ada")("GET", f"/sites/{site.pk}/machine")[1]["verdict"] == "unknown"
