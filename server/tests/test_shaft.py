"""A shaft that stood: no start is offered until it was turned by hand, and that is on record."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

from conftest import Api, sheet
from safe_sheets import offered

from hurbin_server.base.clock import now
from hurbin_server.plant.models import PumpSet

Door = Callable[[str], Api]


def turned(api: Api, row: PumpSet, days_ago: float = 0, **body: Any) -> tuple[int, Any]:
    said = {"coupled": "even", "turns": {"text": "1", "unit": "turns"}, "tool": "hand", **body}
    entry = {
        "uuid": str(uuid.uuid4()),
        "taken_at": (now() - timedelta(days=days_ago, minutes=1)).isoformat(),
        "device": "phone",
        "body": said,
    }
    asked = {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": [entry]}
    return api("POST", "/benches/shaft/records", asked)


def test_after_two_months_no_start_is_offered_until_it_was_turned(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert offered(tia, pump_set, "run")
    assert tia("POST", "/benches/running_check/records", sheet(pump_set, days_ago=60))[0] == 201
    assert not offered(tia, pump_set, "run")
    told = tia("GET", f"/sets/{pump_set.pk}/safety")[1]["offers"]
    run = next(o for o in told if o["act"] == "run")
    assert "Turn it by hand first" in str(run)
    assert offered(tia, pump_set, "live_test")
    assert turned(tia, pump_set, days_ago=58)[0] == 201
    assert not offered(tia, pump_set, "run")
    assert turned(tia, pump_set)[0] == 201
    assert offered(tia, pump_set, "run")


def test_a_locked_shaft_is_a_stop_and_no_start_is_offered(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert turned(tia, pump_set, coupled="locked", turns={"text": "0", "unit": "turns"})[0] == 201
    assert not offered(tia, pump_set, "run")
    assert turned(tia, pump_set)[0] == 201
    assert offered(tia, pump_set, "run")


def test_a_record_that_answers_nothing_or_half_of_it_is_no_turn(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert tia("POST", "/benches/running_check/records", sheet(pump_set, days_ago=60))[0] == 201
    assert turned(tia, pump_set, coupled=None)[1]["code"] == "sheet_empty"
    assert not offered(tia, pump_set, "run")
    assert turned(tia, pump_set, turns={"text": "0.5", "unit": "turns"})[0] == 201
    assert not offered(tia, pump_set, "run")
    assert turned(tia, pump_set, coupled=None, motor_half="even", pump_half="even")[0] == 201
    assert not offered(tia, pump_set, "run")


def test_a_lead_lets_a_shaft_stand_longer_here(api: Door, pump_set: PumpSet) -> None:
    tia, leo = api("tia"), api("leo")
    tia("POST", "/benches/running_check/records", sheet(pump_set, days_ago=60))
    said = {"limit": "safety.idle", "value": 90, "reason": "turned by the round"}
    status, answer = leo("POST", f"/sites/{pump_set.site_id}/overrides", said)
    assert status in (200, 201), answer
    assert offered(tia, pump_set, "run")
