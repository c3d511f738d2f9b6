"""A site, its people and a signed-in client per role. Real MariaDB."""

from __future__ import annotations

import json
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.test import Client

from hurbin_server.base import kept
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook import plant_page
from hurbin_server.logbook.services import reads
from hurbin_server.plant.models import Membership, PumpSet, Site
from hurbin_server.plant.services.parts import new_plate
from hurbin_server.plant.services.people import make_user
from hurbin_server.plant.services.places import make_service, make_set, make_site
from hurbin_server.safety.services.qualifying import qualify

WORD = "coral-and-kelp-9"
PLATE = {
    "volts_low": {"text": "400", "unit": "V"},
    "amps_low": {"text": "20", "unit": "A"},
    "service_factor": {"text": "1.15", "unit": ""},
}


class Api:
    """JSON in, (status, JSON) out, through the whole stack."""

    def __init__(self, user: User | None) -> None:
        self.client = Client()
        if user is not None:
            self.client.force_login(user)

    def __call__(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        if method == "GET":
            answer = self.client.get(f"/api/v1{path}")
        else:
            answer = getattr(self.client, method.lower())(
                f"/api/v1{path}", data=json.dumps(body), content_type="application/json"
            )
        text = answer.content.decode()
        return answer.status_code, json.loads(text) if text.startswith(("{", "[")) else text


class Device:
    """Somebody's device: what it sends carries an id, and its clock's offset where it measured one."""

    def __init__(self, user: User) -> None:
        self.client = Client()
        self.client.force_login(user)

    def send(self, path: str, body: Any, key: str = "", off: str = "") -> tuple[int, Any]:
        head = {"Idempotency-Key": key or str(uuid.uuid4())} | ({"Device-Clock-Offset": off} if off else {})
        got = self.client.post(
            f"/api/v1{path}", json.dumps(body), content_type="application/json", headers=head
        )
        return got.status_code, json.loads(got.content)


@pytest.fixture(autouse=True)
def _quick_passwords(settings: Any) -> None:
    kept.pages.clear()  # a test that empties its tables gives its numbers out again
    reads.cases.clear()
    plant_page.sentences.clear()
    settings.PROGRESS_DATABASE = "default"  # a test's transaction is its own
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture
def people(db: None) -> dict[str, User]:
    users = {
        name: make_user(name, name.title(), WORD)[0] for name in ("ada", "leo", "tia", "vic", "stranger")
    }
    users["ada"].may_make_sites = True
    users["ada"].save()
    return users


@pytest.fixture
def site(people: dict[str, User]) -> Site:
    made = make_site(
        people["ada"],
        {"code": "REEF", "name": "Reef house", "time_zone": "Europe/Lisbon", "altitude_m": None},
    )
    for name, role in (("leo", "lead"), ("tia", "technician"), ("vic", "viewer")):
        Membership.objects.create(user=people[name], site=made, role=role)
    today = now().date()
    for name in ("ada", "leo", "tia"):
        since, until = today - timedelta(days=300), today + timedelta(days=700)
        qualify(people["ada"], made.pk, name, "live_tests", since, until)
    return made


@pytest.fixture
def api(people: dict[str, User]) -> Callable[[str], Api]:
    return lambda name: Api(people.get(name))


@pytest.fixture
def pump_set(site: Site, people: dict[str, User]) -> PumpSet:
    service = make_service(people["ada"], site.pk, {"code": "COLD", "name": "Cold water"})
    row = make_set(
        people["ada"],
        service.pk,
        {"tag": "C-1", "name": "Cold 1", "kind": "base_mounted"},
        fitted_from=now() - timedelta(days=400),
    )
    motor = row.fittings.get(slot="motor").component
    new_plate(people["ada"], motor.pk, 0, PLATE, "first entry")
    return row


def sheet(
    row: PumpSet, amps: tuple[Any, ...] = (15, 15.1, 14.9), days_ago: float = 0, **more: Any
) -> dict[str, Any]:
    """What the running check's page sends."""
    body: dict[str, Any] = {"read_at": "motor_leads", "valve": "open", "coupled": True}
    body |= {f"volts_{k}": {"text": v, "unit": "V"} for k, v in (("12", "400"), ("23", "401"), ("31", "399"))}
    body |= {f"amps_{k}": {"text": str(v), "unit": "A"} for k, v in zip("123", amps, strict=False)}
    at = (now() - timedelta(days=days_ago)).isoformat()
    entry = {"uuid": str(uuid.uuid4()), "taken_at": at, "device": "test", "body": body}
    return {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": [entry], **more}


SAVE = "/benches/running_check/records"


@pytest.fixture
def twin(pump_set: PumpSet, people: dict[str, User]) -> PumpSet:
    PumpSet.objects.filter(pk=pump_set.pk).update(pair="C", role="duty")
    pump_set.refresh_from_db()
    return make_set(
        people["ada"],
        pump_set.service_id,
        {"tag": "C-2", "name": "Cold 2", "kind": "base_mounted", "pair": "C", "role": "standby"},
    )
