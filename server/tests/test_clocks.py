"""A device's clock that is wrong is set right, its own time kept and told."""

from __future__ import annotations

import uuid
from datetime import timedelta

import pytest
from conftest import SAVE, Device, sheet
from test_sheets import reading, setup

from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Entry
from hurbin_server.plant.models import PumpSet, Site


@pytest.fixture
def tia(people: dict[str, User], site: Site) -> Device:
    return Device(people["tia"])


def test_a_wrong_clock_is_set_right_its_own_time_kept_and_told(tia: Device, pump_set: PumpSet) -> None:
    at, key = (now() - timedelta(minutes=1)).replace(microsecond=0), str(uuid.uuid4())
    test = [setup(), reading(30, "600"), reading(60, "900")]
    for e in test:
        e["taken_at"] = at.isoformat()
    saved = tia.send(
        "/benches/insulation/records",
        {"set_id": pump_set.pk, "sheet": key, "entries": test},
        off=str(10 * 60_000),
    )
    assert saved[0] == 201, saved
    held = Entry.objects.get(pk=test[1]["uuid"])
    assert (held.taken_at, held.device_at) == (at, at - timedelta(minutes=10))
    record = tia.client.get(f"/api/v1/records/{saved[1]['record']}").json()
    assert len(record["clocks"]) == 1
    assert "10.0\u00a0min behind" in record["clocks"][0]


def test_a_clock_a_minute_off_is_set_right_without_a_word(tia: Device, pump_set: PumpSet) -> None:
    saved = tia.send(SAVE, sheet(pump_set), off="-60000")
    assert tia.client.get(f"/api/v1/records/{saved[1]['record']}").json()["clocks"] == []
    assert Entry.objects.get().clock_off_ms is not None
