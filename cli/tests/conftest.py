"""The command line's pieces, with a state folder of their own: nothing of a running demo is touched."""

from __future__ import annotations

from pathlib import Path

import pytest

from cli import state


@pytest.fixture(autouse=True)
def place(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setattr(state, "STATE", tmp_path)
    monkeypatch.setattr(state, "LOGS", tmp_path / "logs")
    return tmp_path
