"""What an admin is told of the machine: its newest backup, and how much may still be written."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from pathlib import Path

from django.conf import settings
from pydantic import BaseModel

from hurbin_core.base import Prefs, Verdict, write
from hurbin_core.logbook import Backup, backup_state
from hurbin_server.base.models import User
from hurbin_server.base.room import free_mb

from .access import site_for


class MachineOut(BaseModel):
    """at, file, copied_to: of the newest backup; free: in words; empty where
    nobody said which disk it is."""

    verdict: Verdict
    says: str
    at: datetime | None
    file: str
    copied_to: str
    free: str


def machine(user: User, site_id: int, prefs: Prefs) -> MachineOut:
    """By the machine's own clock: a demo's clock says nothing of last night."""
    site_for(user, site_id, "admin")
    file, newest = _newest()
    state = backup_state(newest, datetime.now(UTC))
    free = free_mb()
    return MachineOut(
        verdict=state.verdict,
        says=write(state.says, prefs),
        at=newest.at if newest else None,
        file=file,
        copied_to=newest.copy_to if newest else "",
        free="" if free is None else f"Free on the disk: {free / 1000:.1f} GB.",
    )


def _newest() -> tuple[str, Backup | None]:
    """As it is on file; what cannot be read is none."""
    try:
        place = Path(settings.BACKUPS)
        told = json.loads(place.read_text())
        made = place.with_name(told["file"])
        copy = Path(told["copy"]) / made.name if told["copy"] else None
        gone = copy is not None and not _lies(copy, told)
        return made.name, Backup(
            at=datetime.fromisoformat(told["at"]),
            lies=_lies(made, told),
            copy_to="" if gone else told["copy"],
            failed=f"{told['copy']}: not there now" if gone else told["copy_failed"],
        )
    except (OSError, ValueError, KeyError, TypeError):
        return "", None


def _lies(file: Path, told: dict[str, str]) -> bool:
    """Is it there, and as long as it was made?"""
    return file.is_file() and file.stat().st_size == int(told["bytes"])
