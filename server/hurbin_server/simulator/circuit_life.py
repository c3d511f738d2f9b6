"""What was said of the demo's circuits, and the walks under way: read off the simulator's own ladder, by the
doors that people use.
"""

from __future__ import annotations

import tomllib
import uuid
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any

from hurbin_core.catalogue import bench
from hurbin_core.electrical.circuit import CIRCUIT_BENCH, Circuit, circuit_of
from hurbin_core.simulator import Ladder, Meter
from hurbin_server.base.models import User
from hurbin_server.electrical.querysets import circuit_for
from hurbin_server.electrical.services.describing import describe
from hurbin_server.logbook.services.sheets import append_entries
from hurbin_server.plant.models import PumpSet

_DATA = tomllib.loads((Path(__file__).parent / "demo" / "circuits.toml").read_text())
_NAMESPACE = uuid.UUID("6f5e0a53-3f43-4a5f-9a1c-0d5f6f8d2c11")
_LOW_OHM = 3500.0


def _key(*words: object) -> str:
    return str(uuid.uuid5(_NAMESPACE, "/".join(map(str, words))))


@dataclass(slots=True)
class CircuitLife:
    """Everything that was described and read by `as_of`, of the sets that are there."""

    as_of: datetime
    users: dict[str, User]
    sets: dict[str, PumpSet]
    in_hand: dict[str, dict[str, str]]

    def happen(self) -> None:
        for x in _DATA["circuit"]:
            for tag in x["tags"]:
                if tag in self.sets:
                    self._described(self.sets[tag], x)
        for x in _DATA["walk"]:
            if x["tag"] in self.sets:
                self._walked(self.sets[x["tag"]], x)

    def _described(self, row: PumpSet, x: dict[str, Any]) -> None:
        user = self.users[x["by"]]
        told = circuit_for(user, row.pk).circuit.model_dump()
        if "kind" in x:
            told = circuit_of(x["kind"], told["supply"]["volts"]).model_dump()
        told["supply"]["earthing"] = x["earthing"]
        told["taps_known"] = True
        if "tap" in x:
            under = next(e for e in told["elements"] if e["id"] == x["tap"]["under"])
            under["taps"] = [{"id": "T1", "legs": x["tap"]["legs"], "what": x["tap"]["what"]}]
        at = self.as_of - timedelta(days=x["days"])
        describe(user, row.pk, Circuit.model_validate(told), 0, at=at)

    def _walked(self, row: PumpSet, x: dict[str, Any]) -> None:
        user, rng, meter = self.users[x["by"]], Random(f"walk/{x['tag']}"), Meter()
        circuit = circuit_for(user, row.pk).circuit
        volts = circuit.supply.volts * rng.uniform(0.995, 1.01)
        wired = _DATA["wired"][x.get("wired", "direct")]
        ladder = Ladder(
            volts=volts,
            places=wired["places"],
            beside=[
                ((a, leg), (b, onto))
                for a, b, *turn in wired.get("beside", [])
                for leg, onto in zip((1, 2, 3), turn or (1, 2, 3), strict=True)
            ],
            broken={(p, leg) for p, leg in x["broken"]},
            coils=wired["pulled"]["all"],
            taps=[(f"{e.id}.out", *t.legs, t.ohms) for e in circuit.elements for t in e.taps],
            far=wired.get("far", ""),
        )
        at = self.as_of - timedelta(hours=x["hours"])
        bodies: list[dict[str, Any]] = [{"kind": "said", "proved": "before"}]
        for one, a, two, b, contactor in x["read"]:
            true = ladder.reads((one, a), (two, b), wired["pulled"].get(contactor, ""), _LOW_OHM)
            figure = {"text": meter.volts(true, rng), "unit": "V"}
            bodies.append(
                {"kind": "reading", "one": f"{one}.{a}", "two": f"{two}.{b}", "volts": figure}
                | {"contactor": contactor, "motor": "standing", "leads": "on", "meter": "low"}
            )
        entries = [
            {
                "uuid": _key(x["tag"], n),
                "taken_at": at + timedelta(seconds=70 * n),
                "device": f"{user.username}'s phone",
                "instruments": self.in_hand[user.username],
                "body": body,
            }
            for n, body in enumerate(bodies)
        ]
        append_entries(user, row.pk, bench(CIRCUIT_BENCH.name), _key("sheet", x["tag"]), entries)
