"""A making-safe sheet as a device writes it, and what the safety tests ask again and again."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

from conftest import Api

from hurbin_server.base.clock import now
from hurbin_server.plant.models import PumpSet, Site

Door = Callable[[str], Api]
LINES = [
    {
        "id": "q1",
        "kind": "supply",
        "device": "isolator Q1",
        "place": "panel A",
        "means": "isolator",
        "lock": "hasp",
    },
    {"id": "f1", "kind": "control_supply", "device": "fuse F1", "place": "panel A", "means": "fuses_out"},
    {"id": "no-auto", "kind": "automation_start", "absent": True},
    {"id": "v2", "kind": "turning_by_flow", "device": "valve V2", "place": "bay 1", "means": "valve"},
    {"id": "no-spring", "kind": "springs", "absent": True},
]
MUST = ("q1", "f1", "v2")
ZERO = {n: {"text": "0", "unit": "V"} for n in ("v12", "v23", "v31", "v1g", "v2g", "v3g")}
LIVE = {"tester": "T1", "live_volts": {"text": "400", "unit": "V"}}


class Safe:
    """A making-safe sheet as a device writes it, entry by entry."""

    def __init__(self, api: Api, row: PumpSet, sheet_id: str = "", minutes_ago: float = 60) -> None:
        self.api, self.row, self.sheet = api, row, sheet_id or str(uuid.uuid4())
        self.at = now() - timedelta(minutes=minutes_ago)

    def entry(self, kind: str, **body: Any) -> dict[str, Any]:
        self.at += timedelta(seconds=20)
        return {
            "uuid": body.pop("uuid", str(uuid.uuid4())),
            "taken_at": self.at.isoformat(),
            "device": "test",
            "body": {"kind": kind, **body},
        }

    def send(self, *entries: dict[str, Any]) -> tuple[int, Any]:
        return self.api(
            "POST",
            f"/benches/make_safe/sheets/{self.sheet}/entries",
            {"set_id": self.row.pk, "entries": list(entries)},
        )

    def do(self, kind: str, **body: Any) -> str:
        e = self.entry(kind, **body)
        status, answer = self.send(e)
        assert status == 200, answer
        self.sheet = answer["uuid"]
        return str(e["uuid"])

    def isolate(self) -> dict[str, str]:
        self.do("open", scope="motor_leads", sources=LINES)
        self.do("told", to="the keeper")
        self.do("stopped")
        for x in MUST:
            self.do("shut", source=x)
        return {x: self.do("lock", source=x) for x in MUST}

    def prove(self) -> None:
        self.do("proof", act="live_before", **LIVE)
        self.do("proof", act="dead", tester="T1", **ZERO)
        self.do("proof", act="live_after", **LIVE)


def safety(api: Api, row: PumpSet) -> Any:
    status, answer = api("GET", f"/sets/{row.pk}/safety")
    assert status == 200, answer
    return answer


def offered(api: Api, row: PumpSet, act: str) -> bool:
    return next(bool(o["offered"]) for o in safety(api, row)["offers"] if o["act"] == act)


def call(api: Api, site: Site, **body: Any) -> tuple[int, Any]:
    return api(
        "POST",
        f"/sites/{site.pk}/calls",
        {"uuid": str(uuid.uuid4()), "at": now().isoformat(), "complaint": "noise", **body},
    )


def change(api: Api, row: PumpSet, **body: Any) -> tuple[int, Any]:
    return api(
        "POST",
        f"/sets/{row.pk}/changes",
        {
            "uuid": str(uuid.uuid4()),
            "at": now().isoformat(),
            "kind": "jumper",
            "place": "terminal 14",
            **body,
        },
    )
