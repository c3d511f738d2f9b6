"""A private MariaDB with its own data directory, on a socket of its own and on no port."""

from __future__ import annotations

import getpass
import os
import shutil
import subprocess
import time
from pathlib import Path

from .state import (
    LOGS,
    STATE,
    Stop,
    end_process,
    process,
    record_process,
    run,
    say,
    secret,
    short_dir,
    started,
)

CHARSET = ["--character-set-server=utf8mb4", "--collation-server=utf8mb4_unicode_520_ci"]


class Database:
    """One MariaDB server: `main` for the application, `test` for the tests."""

    def __init__(self, name: str = "main") -> None:
        self.name = name
        self.data = STATE / f"db-{name}"
        self.socket = short_dir() / f"{name}.sock"
        self.log = LOGS / f"mariadb-{name}.log"
        self.user = getpass.getuser()

    @property
    def key(self) -> str:
        return f"mariadb-{self.name}"

    def start(self, *, fast: bool = False) -> None:
        if self.answers():
            return
        LOGS.mkdir(parents=True, exist_ok=True)
        if not (self.data / "mysql").exists():
            say(f"creating the database directory {self.data.name}")
            self.data.mkdir(parents=True, exist_ok=True)
            run(
                [
                    "mariadb-install-db",
                    "--no-defaults",
                    f"--user={self.user}",
                    f"--datadir={self.data}",
                    "--auth-root-authentication-method=socket",
                    f"--auth-root-socket-user={self.user}",
                    "--skip-test-db",
                ],
                what="Creating the database directory",
                do=f"Check the free disk space, delete {self.data}, then try again.",
            )
        # Of its own: a server that starts throws away what lies in it.
        tmp = STATE / f"tmp-{self.name}"
        tmp.mkdir(exist_ok=True)
        self.socket.unlink(missing_ok=True)
        relaxed = ["--innodb-flush-log-at-trx-commit=0", "--innodb-doublewrite=0"] if fast else []
        server = subprocess.Popen(
            [
                shutil.which("mariadbd") or "/usr/sbin/mariadbd",
                "--no-defaults",
                f"--user={self.user}",
                f"--datadir={self.data}",
                f"--socket={self.socket}",
                f"--pid-file={self.data / 'mariadbd.pid'}",
                # Reached through its socket alone, in a folder of its owner; no file of a client is read.
                "--skip-networking",
                "--local-infile=OFF",
                f"--tmpdir={tmp}",
                *CHARSET,
                "--skip-name-resolve",
                f"--log-error={self.log}",
                "--innodb-buffer-pool-size=256M",
                "--innodb-strict-mode=ON",
                "--max-allowed-packet=256M",
                *relaxed,
            ],
            stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            start_new_session=True,
            # Its own files, its log among them, are for its owner: it minds these words and no umask.
            env={**os.environ, "UMASK": "0600", "UMASK_DIR": "0700"},
        )
        record_process(self.key, server.pid)
        until = time.monotonic() + 60
        while not self.answers():
            if server.poll() is not None or time.monotonic() > until:
                raise Stop(
                    "MariaDB did not start.",
                    f"See {self.log}. If an older one still uses this data: ./hurbin stop",
                )
            time.sleep(0.1)
        self._prepare()

    def answers(self) -> bool:
        held = process(self.key)
        if held is None or not started(int(held["pid"])):
            return False
        ping = subprocess.run(
            ["mariadb-admin", "--no-defaults", f"--socket={self.socket}", "--connect-timeout=2", "ping"],
            stdin=subprocess.DEVNULL,
            capture_output=True,
            check=False,
        )
        return ping.returncode == 0

    def sql(self, text: str, *, database: str = "mysql") -> str:
        return run(
            ["mariadb", "--no-defaults", f"--socket={self.socket}", "-N", "-B", database],
            what="A database command",
            stdin=text,
        )

    def _prepare(self) -> None:
        if self.sql("select count(*) from time_zone_name").strip() == "0":
            zones = subprocess.run(
                ["mariadb-tzinfo-to-sql", "/usr/share/zoneinfo"], capture_output=True, text=True, check=False
            )
            self.sql(zones.stdout)
        word = secret(f"db-{self.name}")
        self.sql(
            f"create user if not exists hurbin@localhost identified by '{word}';"
            f"alter user hurbin@localhost identified by '{word}';"
            r"grant all on `hurbin`.* to hurbin@localhost; grant all on `hurbin\_%`.* to hurbin@localhost;"
            r"grant all on `test\_%`.* to hurbin@localhost;"
        )

    def create(self, database: str) -> None:
        self.sql(
            f"create database if not exists `{database}` character set utf8mb4 collate utf8mb4_unicode_520_ci"
        )

    def drop(self, database: str) -> None:
        self.sql(f"drop database if exists `{database}`")

    def exists(self, database: str) -> bool:
        return self.sql(f"show databases like '{database}'").strip() == database

    def dump(self, database: str, out: Path | None = None) -> Path:
        place = STATE / "dumps"
        place.mkdir(exist_ok=True)
        out = out or place / f"{database}-{time.strftime('%Y%m%d-%H%M%S')}.sql"
        with out.open("wb") as f:
            done = subprocess.run(
                [
                    "mariadb-dump",
                    "--no-defaults",
                    f"--socket={self.socket}",
                    "--single-transaction",
                    "--hex-blob",
                    database,
                ],
                stdout=f,
                stdin=subprocess.DEVNULL,
                check=False,
            )
        if done.returncode:
            raise Stop(f"The dump of {database} failed; nothing was changed.")
        return out

    def restore(self, database: str, dumped: Path) -> None:
        """Make the database as it was dumped, in place of whatever it holds."""
        self.drop(database)
        self.create(database)
        with dumped.open("rb") as f:
            done = subprocess.run(
                ["mariadb", "--no-defaults", f"--socket={self.socket}", database],
                stdin=f,
                check=False,
            )
        if done.returncode:
            raise Stop(f"Taking {database} back from {dumped.name} failed.")

    def stop(self) -> bool:
        return end_process(self.key, wait=40)
