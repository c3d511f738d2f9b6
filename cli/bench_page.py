"""docs/bench.md: a head that a whole run renews, and sections that are renewed by themselves."""

from __future__ import annotations

import os
import platform
import re
import subprocess
from datetime import UTC, datetime

from .state import ROOT

PAGE = ROOT / "docs" / "bench.md"
HEAD = ["| what | ours | beside it | ratio | aim | |", "|---|---|---|---|---|---|"]


def here() -> str:
    """At which commit, when, and on what machine."""
    words = ["git", "rev-parse", "--short", "HEAD"]
    commit = subprocess.run(words, cwd=ROOT, capture_output=True, text=True, check=False).stdout.strip()
    python = platform.python_version()
    return f"commit {commit}, {datetime.now(UTC):%Y-%m-%d}, Python {python}, {os.cpu_count()} cores"


def ms(seconds: float) -> str:
    return f"{seconds * 1000:.2f} ms"


def put_head(text: str) -> None:
    """A whole run's figures; the sections below stay."""
    old = PAGE.read_text() if PAGE.exists() else ""
    first = old.find("\n## ")
    PAGE.write_text(text.rstrip() + "\n" + (old[first:] if first >= 0 else ""))


def put_section(title: str, text: str) -> None:
    """One section in its place; at the end where there was none."""
    old = PAGE.read_text() if PAGE.exists() else "# Figures\n"
    section = f"## {title}\n\n{text.strip()}\n"
    found = re.search(rf"^## {re.escape(title)}\n.*?(?=^## |\Z)", old, re.S | re.M)
    if found is None:
        PAGE.write_text(f"{old.rstrip()}\n\n{section}")
    else:
        rest = old[found.end() :]
        PAGE.write_text(old[: found.start()] + section + (f"\n{rest}" if rest else ""))
