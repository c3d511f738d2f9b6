"""The data that the figures are measured on: a site of 2,000 sets, years of checks, a series of 200,000
points.
"""

from __future__ import annotations

import os
import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

from hurbin_server.base.models import User
from hurbin_server.logbook.models import PartState, Point, Series
from hurbin_server.logbook.services.saving import save_record
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.parts import new_plate
from hurbin_server.plant.services.people import make_user
from hurbin_server.plant.services.places import make_service, make_set, make_site

WORD = "bench-figures-7"
FILE_ROWS = int(os.environ.get("HURBIN_BENCH_ROWS", "100000"))
PLATE = {
    "volts_low": {"text": "400", "unit": "V"},
    "amps_low": {"text": "20", "unit": "A"},
    "service_factor": {"text": "1.15"},
}


def body(amps: tuple[str, str, str]) -> dict[str, Any]:
    out: dict[str, Any] = {"read_at": "motor_leads", "valve": "open", "coupled": True}
    out |= {f"volts_{k}": {"text": v, "unit": "V"} for k, v in (("12", "400"), ("23", "402"), ("31", "399"))}
    return out | {f"amps_{k}": {"text": v, "unit": "A"} for k, v in zip("123", amps, strict=True)}


def entry(days_ago: float, amps: tuple[str, str, str] = ("15.1", "15.0", "14.9")) -> dict[str, Any]:
    return {
        "uuid": str(uuid.uuid4()),
        "taken_at": datetime.now(UTC) - timedelta(days=days_ago),
        "device": "bench",
        "body": body(amps),
    }


def plant(user: User) -> tuple[Site, list[PumpSet]]:
    """One site with 2,000 sets, their part states written as the save service writes them for the first of
    them.
    """
    site = make_site(user, {"code": "BENCH", "name": "Bench", "time_zone": "UTC", "altitude_m": None})
    rows: list[PumpSet] = []
    for s in range(40):
        service = make_service(user, site.pk, {"code": f"S{s}", "name": f"Service {s}"})
        rows += [
            make_set(
                user,
                service.pk,
                {"tag": f"S{s}-{i}", "name": f"Set {i}", "kind": "base_mounted", "pair": f"p{i // 2}"},
            )
            for i in range(50)
        ]
    first = rows[0]
    motor = first.fittings.get(slot="motor").component
    new_plate(user, motor.pk, 0, PLATE, "bench")
    for days in range(36 * 30, 0, -30):
        save_record(user, first.pk, "running_check", str(uuid.uuid4()), [entry(days)])
    states = list(
        PartState.objects.filter(pump_set=first).values(
            "part", "verdict", "by", "question", "reason", "line", "taken_at", "due"
        )
    )
    PartState.objects.bulk_create(
        [PartState(pump_set=r, **s) for r in rows[1:] for s in states], batch_size=2000
    )
    overload(user, rows[-1])
    return site, rows


def overload(user: User, row: PumpSet) -> None:
    """One set that needs a person, so that a small plant and a large one have the same to say."""
    new_plate(user, row.fittings.get(slot="motor").component.pk, 0, PLATE, "bench")
    save_record(user, row.pk, "running_check", str(uuid.uuid4()), [entry(1, ("24", "24.1", "23.9"))])


def many_points(row: PumpSet, n: int = 200_000) -> int:
    held = Point.objects.filter(series__component__isnull=False, live=True).first()
    assert held is not None
    series = Series.objects.create(
        key=uuid.uuid4().hex, site=row.site, pump_set=row, measurand="pressure", unit="kPa"
    )
    start = datetime.now(UTC) - timedelta(days=n / 96)
    for at in range(0, n, 10_000):
        Point.objects.bulk_create(
            Point(
                series=series,
                taken_at=start + timedelta(minutes=15 * i),
                value=300 + (i * 7919 % 101) / 10,
                judgement_id=held.judgement_id,
                record_id=held.record_id,
            )
            for i in range(at, at + 10_000)
        )
    return series.pk


def measurer() -> User:
    """Who is signed in while it is measured."""
    user = make_user("bench", "Bench", WORD)[0]
    user.may_make_sites = True
    user.save()
    return user
