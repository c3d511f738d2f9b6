"""Could everything be brought back? By the newest backup, its age, and where else it lies."""

from __future__ import annotations

from datetime import datetime, timedelta

from ..base import Limits, Model, Phrase, Verdict, amount, exceeds, phrase

# A clock that goes ahead by less is only a clock.
AHEAD = timedelta(minutes=15)


class Backup(Model):
    """The newest one, as it was made and checked. lies: is its file there, as long as it was made; copy:
    where else it lies; failed: why it does not.
    """

    at: datetime
    lies: bool
    copy_to: str = ""
    failed: str = ""


class BackupState(Model):
    verdict: Verdict
    says: Phrase


def backup_state(newest: Backup | None, as_of: datetime) -> BackupState:
    """Could everything be brought back? Good only by a whole backup of the last night that lies in two
    places; the worst state in which it is still good is a file that was altered in both since. By the limit
    `backup.age` (h), which no site sets otherwise: it is the machine's. Common practice, no source.
    """
    if newest is None:
        return BackupState(verdict=Verdict.UNKNOWN, says=phrase("backup.none"))
    age = as_of - newest.at
    told = {"age": amount(max(0.0, age / timedelta(hours=1)), "h")}
    if not newest.lies or age < -AHEAD:
        return BackupState(verdict=Verdict.UNKNOWN, says=phrase("backup.strange"))
    if exceeds(age / timedelta(hours=1), Limits().value("backup.age")):
        return BackupState(verdict=Verdict.ACT, says=phrase("backup.old", **told))
    if newest.failed:
        said = phrase("backup.no_copy", where=newest.failed[:120], **told)
        return BackupState(verdict=Verdict.WATCH, says=said)
    if not newest.copy_to:
        return BackupState(verdict=Verdict.WATCH, says=phrase("backup.alone", **told))
    return BackupState(verdict=Verdict.GOOD, says=phrase("backup.good", **told))
