"""Adding a bench touches its own folder and its own data file: nothing else. See docs/adding-a-bench.md."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

import hurbin_core

HERE = Path(__file__).parent
ROOT = HERE.parent.parent
SHEET = {
    "entries": [
        {
            "uuid": "sump-00001",
            "taken_at": "2026-03-02T09:00:00Z",
            "body": {"level": {"text": "0.3 in", "unit": "mm"}, "pump": "standing"},
        }
    ],
    "case": {"context": {"as_of": "2026-03-02T09:10:00Z"}},
}


@pytest.fixture(scope="module")
def beside(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The core as it stands with one folder more."""
    core = tmp_path_factory.mktemp("core") / "hurbin_core"
    ours = Path(hurbin_core.__file__).parent
    shutil.copytree(ours, core, ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copytree(HERE / "scratch_topic" / "sump", core / "sump")
    fresh = {str(p.relative_to(core)) for p in core.rglob("*") if p.is_file()}
    held = {str(p.relative_to(ours)) for p in ours.rglob("*") if p.is_file() and "__pycache__" not in p.parts}
    assert fresh - held == {"sump/__init__.py", "sump/sump.toml"}
    return core.parent


def ran(beside: Path, *argv: str, given: str = "", **env: str) -> subprocess.CompletedProcess[str]:
    path = f"{beside}:{ROOT / 'server'}:{ROOT}"
    return subprocess.run(
        [sys.executable, *argv],
        input=given,
        capture_output=True,
        text=True,
        check=False,
        cwd=ROOT,
        env={**os.environ, "PYTHONPATH": path, **env},
    )


def test_calc_knows_it_and_says_what_it_says(beside: Path) -> None:
    listed = ran(beside, "-m", "cli.calc", "--list")
    assert "sump\tSump" in listed.stdout.splitlines(), listed.stderr
    told = ran(beside, "-m", "cli.calc", "sump", given=json.dumps(SHEET))
    assert told.returncode == 0, told.stderr
    assert "GOOD" in told.stdout
    assert "7.62\u00a0mm over the float, after 0 looks before." in told.stdout


def test_the_api_files_and_rules_know_it(beside: Path) -> None:
    told = ran(
        beside,
        "-m",
        "pytest",
        "-q",
        "--nomigrations",
        str(HERE / "scratch_checks.py"),
        HURBIN_DB_NAME="hurbin_scratch",
    )
    assert told.returncode == 0, told.stdout[-4000:] + told.stderr[-2000:]
    assert "3 passed" in told.stdout
