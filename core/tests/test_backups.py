"""A backup is good by its age, its file and its second place; else it is told what lacks."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from hurbin_core.base import Verdict, write
from hurbin_core.logbook import Backup, backup_state

NOW = datetime(2026, 5, 4, 9, tzinfo=UTC)


def told(hours: float = 7, **more: Any) -> tuple[str, str]:
    made = Backup(**{"at": NOW - timedelta(hours=hours), "lies": True, "copy_to": "/mnt/two", **more})
    state = backup_state(made, NOW)
    return state.verdict.value, write(state.says)


@pytest.mark.parametrize(
    ("case", "verdict", "says"),
    [
        ({}, "good", "checked and copied"),
        ({"hours": 26.0}, "good", "26.0"),
        ({"hours": 26.1}, "act", "did not come"),
        ({"hours": 900}, "act", "900"),
        ({"copy_to": ""}, "watch", "on this machine alone. Set a second place"),
        ({"copy_to": "", "failed": "/mnt/two: no room"}, "watch", "/mnt/two: no room"),
        ({"lies": False}, "unknown", "not where it was made"),
        ({"hours": -1}, "unknown", "its date cannot be"),
        ({"hours": -0.1}, "good", "checked"),
        ({"hours": 30, "copy_to": ""}, "act", "did not come"),
    ],
)
def test_what_a_backup_is_worth(case: dict[str, Any], verdict: str, says: str) -> None:
    assert told(**case)[0] == verdict
    assert says in told(**case)[1]


def test_none_is_never_good() -> None:
    state = backup_state(None, NOW)
    assert state.verdict is Verdict.UNKNOWN
    assert "No backup on record" in write(state.says)
