"""Backups kept and thinned out, an upgrade that stops half-way, the front end's file."""

from __future__ import annotations

import gzip
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest

from cli import backup, serving
from cli.state import Stop, write_json

ENV = {"HURBIN_DB_NAME": "hurbin"}


@pytest.fixture
def upgrade(place: Path, monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Everything an upgrade does, told instead of done."""
    done: list[str] = []
    monkeypatch.setattr(serving, "MIGRATING", place / "migrating.json")
    monkeypatch.setattr(serving, "_up_to_date", lambda exe, env: False)
    monkeypatch.setattr(serving, "Database", lambda: None)
    monkeypatch.setattr(backup, "is_empty", lambda db, name: False)

    def make(db: Any, name: str, why: str) -> Path:
        done.append(f"backup {why}")
        return place / "hurbin-20260504-090000-before-upgrade.sql.gz"

    monkeypatch.setattr(backup, "make", make)
    monkeypatch.setattr(serving, "manage", lambda exe, env, *words: done.append(words[0]) or "")
    return done


def test_a_backup_is_made_before_the_tables_are_changed(upgrade: list[str]) -> None:
    serving._migrate(Path("python"), ENV)
    assert upgrade == ["backup before-upgrade", "migrate", "rebuild"]
    assert not serving.MIGRATING.exists()


def test_an_upgrade_that_stopped_half_way_says_what_to_do(
    upgrade: list[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    def stops(exe: Path, env: dict[str, str], *words: str) -> str:
        raise Stop("“migrate -v0” failed (exit 1).")

    monkeypatch.setattr(serving, "manage", stops)
    with pytest.raises(Stop, match="migrate"):
        serving._migrate(Path("python"), ENV)
    for _ in range(2):
        with pytest.raises(Stop, match="stopped half-way") as caught:
            serving._migrate(Path("python"), ENV)
        assert "./hurbin db restore" in caught.value.do
        assert "before-upgrade.sql.gz" in caught.value.do
    assert upgrade == ["backup before-upgrade"], "nothing goes on over half of it"
    serving._migrate.__globals__["MIGRATING"].unlink()
    monkeypatch.setattr(serving, "manage", lambda exe, env, *words: upgrade.append(words[0]) or "")
    serving._migrate(Path("python"), ENV)
    assert upgrade[-1] == "rebuild"


def test_the_newest_stay_and_one_of_each_week_before(tmp_path: Path) -> None:
    day = datetime(2026, 5, 4, 2, tzinfo=UTC)
    for n in range(200):
        (tmp_path / f"hurbin-{day - timedelta(days=n):%Y%m%d-%H%M%S}-nightly.sql.gz").touch()
    (tmp_path / "hurbin_demo-20200101-020000-by-hand.sql.gz").touch()
    backup._thin_out(tmp_path, "hurbin")
    left = sorted(p.name.split("-")[1] for p in tmp_path.glob("hurbin-*"))
    assert len(left) == backup.NEWEST + backup.WEEKS
    assert left[-1] == "20260504"
    assert left[-backup.NEWEST] == "20260421"
    assert (tmp_path / "hurbin_demo-20200101-020000-by-hand.sql.gz").exists()


@pytest.mark.parametrize(
    ("hours", "is_due"), [(1, False), (19, False), (27, True), (900, True), (None, True)]
)
def test_when_the_next_one_is_due(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, hours: float | None, is_due: bool
) -> None:
    monkeypatch.setattr(backup, "PLACE", tmp_path)
    write_json(backup.last_of("hurbin_demo"), {"at": datetime.now(UTC).isoformat()})
    if hours is not None:
        at = (datetime.now(UTC) - timedelta(hours=hours)).isoformat()
        write_json(backup.last_of("hurbin"), {"at": at})
    assert backup.due("hurbin", hour=-1) is is_due, "the demo's own says nothing of it"


@pytest.mark.parametrize(
    ("text", "tables"),
    [("CREATE TABLE `a` (\n);\n-- Dump completed on x\n", 1), ("CREATE TABLE `a` (\n", None)],
)
def test_a_dump_that_breaks_off_is_no_backup(tmp_path: Path, text: str, tables: int | None) -> None:
    for name, raw in (("a.sql", text.encode()), ("a.sql.gz", gzip.compress(text.encode()))):
        file = tmp_path / name
        file.write_bytes(raw)
        if tables is None:
            with pytest.raises(OSError, match="does not come to its end"):
                backup._check(file)
        else:
            assert backup._check(file) == tables
            with pytest.raises(OSError, match="holds 1 of 2 tables"):
                backup._check(file, 2)


@pytest.mark.parametrize(
    "name", ["", "a b", "pumps.example.org; }", "UPPER.example.org", "-x", "x" * 300, "a\nb"]
)
def test_what_is_no_name_of_a_host_goes_into_no_file(place: Path, name: str) -> None:
    with pytest.raises(Stop, match="no name of a host"):
        serving.front_end(name, 8471)


def test_the_front_end_s_file_has_every_name_filled_in(place: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(serving, "STATE", place)
    text = serving.front_end("pumps.example.org", 8471).read_text()
    assert "@" not in text.split("server {", 1)[1]
    assert "proxy_pass http://127.0.0.1:8471;" in text
    headers = (place / "nginx" / "headers.conf").read_text()
    assert "X-Forwarded-For $remote_addr" in headers, "what the sender wrote there is not passed on"
