"""Backups: made, checked, copied to a second place, thinned out, and brought back.

A backup is the database as SQL, packed. It has its name only once it is whole: until then it is a `.part`.
"""

from __future__ import annotations

import gzip
import hashlib
import os
import shutil
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import IO

from .database import Database
from .state import STATE, Stop, read_json, write_json

PLACE = STATE / "backups"
# The last line of a dump that came to its end.
WHOLE = b"-- Dump completed"
# Kept: the newest, one a week of the weeks before, and no more.
NEWEST, WEEKS = 14, 12
CHUNK = 1024 * 1024


def last_of(name: str) -> Path:
    """Where it is noted of this database's newest one, for the admin's page: a demo's says nothing of a
    plant.
    """
    return PLACE / f"last-{name}.json"


def second_place() -> Path | None:
    """Where each backup is copied to: another disk, or what is mounted from another machine."""
    said = os.environ.get("HURBIN_BACKUP_TO") or read_json(STATE / "backup.json").get("to", "")
    return Path(said) if said else None


def make(db: Database, name: str, why: str, to: Path | None = None) -> Path:
    """A backup of this database, checked and copied (to: elsewhere than usual). Raises Stop, and changes
    nothing, when it cannot be.
    """
    PLACE.mkdir(mode=0o700, parents=True, exist_ok=True)
    stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
    out = PLACE / f"{name}-{stamp}-{why}.sql.gz"
    part = out.with_suffix(".part")
    tables = _tables(db, name)
    try:
        _dump(db, name, part)
        _check(part, tables)
        _settle(part)
        part.rename(out)
    except (OSError, EOFError) as error:
        raise Stop(f"The backup of {name} failed: {error}.", f"Free space on {PLACE}.") from error
    finally:
        part.unlink(missing_ok=True)
    told = {
        "at": datetime.now(UTC).isoformat(),
        "file": out.name,
        "bytes": str(out.stat().st_size),
        "tables": str(tables),
        **_copied(out, to or second_place()),
    }
    write_json(last_of(name), told)
    _thin_out(PLACE, name)
    return out


def _tables(db: Database, name: str) -> int:
    asked = f"select count(*) from information_schema.tables where table_schema = '{name}'"
    return int(db.sql(asked).strip())


def is_empty(db: Database, name: str) -> bool:
    return not db.exists(name) or _tables(db, name) == 0


def _dump(db: Database, name: str, part: Path) -> None:
    dump = subprocess.Popen(
        [
            "mariadb-dump",
            "--no-defaults",
            f"--socket={db.socket}",
            "--single-transaction",
            "--hex-blob",
            name,
        ],
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
    )
    assert dump.stdout is not None
    assert dump.stderr is not None
    with gzip.open(part, "wb", compresslevel=6) as packed:
        shutil.copyfileobj(dump.stdout, packed, CHUNK)
    said = dump.stderr.read().decode(errors="replace").strip()
    if dump.wait():
        raise OSError(said or "the dump broke off")


def _check(file: Path, tables: int | None = None) -> int:
    """Read it to its end: is it whole, and does it hold so many tables? How many it holds. Raises OSError."""
    held, tail = 0, b""
    with opened(file) as source:
        for line in source:
            held += line.startswith(b"CREATE TABLE ")
            tail = line if line.strip() else tail
    if not tail.startswith(WHOLE):
        raise OSError(f"{file.name} does not come to its end")
    if tables is not None and held != tables:
        raise OSError(f"{file.name} holds {held} of {tables} tables")
    return held


@contextmanager
def opened(file: Path) -> Iterator[IO[bytes]]:
    """A backup, packed or not, as its text."""
    with file.open("rb") as raw:
        packed = raw.read(2) == b"\x1f\x8b"
    with gzip.open(file, "rb") if packed else file.open("rb") as source:
        yield source  # type: ignore[misc]


def _settle(file: Path) -> None:
    """On the disk, not on its way there."""
    with file.open("rb") as held:
        os.fsync(held.fileno())


def _copied(out: Path, place: Path | None) -> dict[str, str]:
    """Copy it to the second place, and read it there. What came of it; a copy that fails is told, the backup
    itself stands.
    """
    if place is None:
        return {"copy": "", "copy_failed": ""}
    there = place / out.name
    part = there.with_suffix(".part")
    try:
        place.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(out, part)
        part.chmod(0o600)
        _settle(part)
        if _digest(part) != _digest(out):
            raise OSError("the copy reads otherwise")
        part.rename(there)
        _thin_out(place, out.name.split("-")[0])
    except OSError as error:
        return {"copy": "", "copy_failed": f"{place}: {error}"}
    finally:
        part.unlink(missing_ok=True)
    return {"copy": str(place), "copy_failed": ""}


def _digest(file: Path) -> str:
    with file.open("rb") as source:
        return hashlib.file_digest(source, "sha256").hexdigest()


def _thin_out(place: Path, name: str) -> None:
    """The newest stay, and of those before the first of each week."""
    kept: dict[str, Path] = {}
    files = sorted(place.glob(f"{name}-*.sql.gz"), reverse=True)
    for file in files[NEWEST:]:
        day = datetime.fromisoformat(file.name.split("-")[1])
        kept[f"{day:%G-%V}"] = file
    weeks = set(list(kept.values())[:WEEKS])
    for file in files[NEWEST:]:
        if file not in weeks:
            file.unlink()


def due(name: str, hour: int = 2, hours: float = 20.0) -> bool:
    """Is it time for the nightly one? After this hour, and none so young; or none for more than a day."""
    at = read_json(last_of(name)).get("at", "")
    age = (datetime.now(UTC) - datetime.fromisoformat(at)).total_seconds() / 3600 if at else 1e9
    return age > 26 or (age > hours and time.localtime().tm_hour == hour)


def restore(db: Database, name: str, file: Path) -> int:
    """Make the database what this file holds, in place of all it held. How many tables. Raises Stop before
    anything is touched for what is no whole backup.
    """
    if not file.is_file():
        raise Stop(f"There is no file {file}.", f"Backups are in {PLACE}.")
    try:
        tables = _check(file)
    except (OSError, EOFError, gzip.BadGzipFile) as error:
        raise Stop(f"This is no whole backup: {error}. Nothing was changed.") from error
    if not tables:
        raise Stop(f"{file.name} holds no table. Nothing was changed.")
    db.drop(name)
    db.create(name)
    with opened(file) as source:
        done = subprocess.Popen(
            ["mariadb", "--no-defaults", f"--socket={db.socket}", name], stdin=subprocess.PIPE
        )
        assert done.stdin is not None
        shutil.copyfileobj(source, done.stdin, CHUNK)
        done.stdin.close()
    if done.wait() or _tables(db, name) != tables:
        raise Stop(f"Taking {name} back from {file.name} broke off.", f"./hurbin db restore {file}")
    return tables


def sums(db: Database, name: str) -> dict[str, tuple[int, int]]:
    """Of every table how many rows it has and the database's own checksum over them."""
    asked = f"select table_name from information_schema.tables where table_schema = '{name}'"
    out = {}
    for table in db.sql(asked).split():
        rows = int(db.sql(f"select count(*) from `{table}`", database=name))
        check = db.sql(f"checksum table `{table}`", database=name).split()[-1]
        out[table] = (rows, int(check))
    return out
