"""A sheet and a context in few words, for the tests of the running check."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from cases import case
from hypothesis import settings

from hurbin_core.base import Entered, Evaluation, Prefs, present
from hurbin_core.catalogue import bench
from hurbin_core.electrical import RunningCheckEntry
from hurbin_core.logbook import Entry, HistoryPoint
from hurbin_core.plant import MotorPlate

# How long one example takes tells of the machine, not of the core: what has to be quick is measured apart.
settings.register_profile("core", deadline=None)
settings.load_profile("core")
NOW = datetime(2026, 3, 1, 9, 0, tzinfo=UTC)
KEY = "at=motor_leads;coupled=yes;hz=line;valve=open"


def e(text: object, unit: str = "") -> Entered:
    return Entered(text=str(text), unit=unit)


def plate(**more: Any) -> MotorPlate:
    given = {
        "volts_low": e(400, "V"),
        "amps_low": e(20, "A"),
        "service_factor": e(1.15),
        "frequency": e(50, "Hz"),
    }
    return MotorPlate(**{**given, **more})


def past(
    amps: list[float], volts: float = 400, unbalance: list[float] | None = None, conditions: str = KEY
) -> list[HistoryPoint]:
    out = []
    for i, a in enumerate(amps):
        at = NOW - timedelta(days=30 * (len(amps) - i))
        u = unbalance[i] if unbalance else 0.5
        for name, value in (("current_mean", a), ("voltage_mean", volts), ("current_unbalance", u)):
            out.append(
                HistoryPoint(measurand=name, conditions=conditions, value=value, taken_at=at, record=str(i))
            )
    return out


def entry(
    volts: tuple[Any, ...] = (400, 401, 399), amps: tuple[Any, ...] = (15.0, 15.1, 14.9), **more: Any
) -> RunningCheckEntry:
    body: dict[str, Any] = {"read_at": "motor_leads", "valve": "open", "coupled": True}
    body |= {
        f"volts_{k}": e(v, "V") for k, v in zip(("12", "23", "31"), volts, strict=False) if v is not None
    }
    body |= {f"amps_{k}": e(a, "A") for k, a in zip("123", amps, strict=False) if a is not None}
    return RunningCheckEntry(**{**body, **more})


def judge_check(body: RunningCheckEntry, **context: Any) -> Evaluation[Any]:
    context.setdefault("motor", plate())
    sheet = [Entry[RunningCheckEntry](uuid="entry-0001", taken_at=NOW, body=body)]
    return bench("running_check").evaluate(case(NOW, **context), sheet)


def shown(evaluation: Evaluation[Any], **prefs: Any) -> Any:
    return present(evaluation, Prefs(**prefs))


def verdicts(evaluation: Evaluation[Any]) -> dict[str, str]:
    return {f.question: f.verdict.value for f in evaluation.findings}


@pytest.fixture
def now() -> datetime:
    return NOW
