"""A making-safe sheet told entry by entry, and its set."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

from cases import case

from hurbin_core.base import write
from hurbin_core.logbook import AnyCase, Entry
from hurbin_core.plant import MotorPlate
from hurbin_core.safety import (
    SOURCES,
    IsolationSource,
    SetFacts,
    fold,
    make_safe_entry,
    needed,
)

T0 = datetime(2026, 3, 2, 7, 0, tzinfo=UTC)
FACTS = SetFacts(coupled=True, partner="B-2")


def set_case(**more: Any) -> AnyCase:
    """A base-mounted set with a sister, nine hours into the work."""
    at = T0 + timedelta(hours=9)
    return case(at, **{"kind": "base_mounted", "partner": "B-2", "motor": MotorPlate(), **more})


CASE = set_case()


def source(kind: str, means: str = "isolator", **more: Any) -> dict[str, Any]:
    return {"id": kind, "kind": kind, "device": f"device of {kind}", "place": "hall", "means": means, **more}


LIST = [
    source("supply"),
    source("control_supply", "fuses_out"),
    {"id": "auto", "kind": "automation_start", "absent": True},
    source("turning_by_flow", "valve"),
    source("springs", "restraint"),
    source("sister_header", "valve", sister="B-2"),
    source("gravity", "valve"),
    {"id": "heat", "kind": "heat", "absent": True},
]
LEADS = ["supply", "control_supply", "turning_by_flow"]
PAIRS = {n: {"text": "0", "unit": "V"} for n in ("v12", "v23", "v31", "v1g", "v2g", "v3g")}
LIVE = {"live_volts": {"text": "400", "unit": "V"}, "tester": "two-pole"}


class Story:
    """Entries a minute apart, by whoever is named."""

    def __init__(self) -> None:
        self.entries: list[Entry[Any]] = []

    def add(self, kind: str, by: str = "Ada", **body: Any) -> str:
        n = len(self.entries)
        at = body.pop("at", T0 + timedelta(minutes=n))
        uuid = body.pop("uuid", f"entry-{n:04d}")
        self.entries.append(
            Entry[Any](uuid=uuid, taken_at=at, by=by, who=by.lower(), body=make_safe_entry(kind=kind, **body))
        )
        return uuid

    def isolate(self, scope: str = "motor_leads", who: tuple[str, ...] = ("Ada",)) -> dict[str, str]:
        self.add("open", scope=scope, sources=LIST)
        self.add("told", to="the keeper")
        self.add("stopped")
        must = [
            n.source.id for n in needed([IsolationSource.model_validate(x) for x in LIST], [scope]) if n.must
        ]
        for s in must:
            self.add("shut", source=s, seen="open")
        locks = {f"{w}/{s}": self.add("lock", by=w, source=s, number="7") for w in who for s in must}
        for s in must:
            if SOURCES[s].release:
                self.add("released", source=s, seen="gauge at zero")
        return locks

    def prove(self, **dead: Any) -> None:
        self.add("proof", act="live_before", **LIVE)
        self.add("proof", act="dead", tester="two-pole", point="terminal box", **{**PAIRS, **dead})
        self.add("proof", act="live_after", **LIVE)

    def fold(self, facts: SetFacts = FACTS) -> Any:
        return fold(self.entries, facts)

    def words(self) -> str:
        iso = self.fold()
        return " ".join(write(p) for p in [*iso.conflicts, *([iso.proof.why] if iso.proof.why else [])])
