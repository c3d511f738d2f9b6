"""The demo's couplings over the years: felt, laid anew by the plan that the technician saw, drawn up, felt
again; and the vans' shims.
"""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any

from hurbin_core.alignment import parse_pack
from hurbin_core.base import Evaluation
from hurbin_core.catalogue import bench
from hurbin_core.simulator import Coupling
from hurbin_core.stores import VANS, VanShelf
from hurbin_server.base.models import User
from hurbin_server.logbook.services.casing import case_for
from hurbin_server.logbook.services.judging import entries_of
from hurbin_server.logbook.services.saving import save_record
from hurbin_server.plant.models import PumpSet
from hurbin_server.stores.listeners import shelves
from hurbin_server.stores.services.counting import bring_in

_NAMESPACE = uuid.UUID("5e3b7c80-3f5d-4a77-9d55-0d3c1f8e2b61")
_HERE = Path(__file__).parent / "demo"
_FEET = ("front_left", "front_right", "rear_left", "rear_right")
_NOT_SIM = ("tag", "x_front", "x_rear", "looked", "aligned", "element", "packs", "hub_gap")


def bring_vans(user: User, site_id: int) -> None:
    """Two vans with their shims, from the file in which they were counted."""
    bring_in(user, site_id, (_HERE / "vans.csv").read_text())


@dataclass(slots=True)
class CouplingLife:
    """One set's coupling: where the motor stands is the simulator's to know, what lies under it too."""

    row: PumpSet
    life: dict[str, Any]
    who: User
    as_of: datetime
    sim: Coupling = field(init=False)
    packs: dict[str, str] = field(init=False)

    def __post_init__(self) -> None:
        self.sim = Coupling(**{k: v for k, v in self.life.items() if k not in _NOT_SIM})
        self.packs = dict.fromkeys(_FEET, self.life.get("packs", ""))

    def visits(self, days: int) -> list[tuple[datetime, Callable[[], None]]]:
        return [
            (self.as_of - timedelta(days=d), (lambda d=d: self._visit(d)))
            for d in self.life["looked"]
            if d < days
        ]

    def _mm(self, name: str) -> dict[str, str]:
        return {"text": f"{self.life[name]:g}", "unit": "mm"}

    def _visit(self, days_ago: int) -> None:
        at, rng = self.as_of - timedelta(days=days_ago), Random(f"align/{self.row.tag}/{days_ago}")
        measures = {
            "kind": "measures",
            "face_diameter": self._mm("face"),
            "x_front": self._mm("x_front"),
            "x_rear": self._mm("x_rear"),
            "near_ambient": True,
            "van": "Van 2",
        }
        bodies: list[dict[str, Any]] = [measures | {f"pack_{f}": p for f, p in self.packs.items() if p}]
        if days_ago in self.life.get("element", []):
            bodies.append(
                {
                    "kind": "fit",
                    "element_renewed": True,
                    "hub_gap": self._mm("hub_gap"),
                    "hub_gap_maker": self._mm("hub_gap"),
                    "new_bolts": True,
                }
            )
        bodies.append(self._felt(days_ago, rng, "as_found"))
        if days_ago in self.life.get("aligned", []):
            self._lay(bodies, at, days_ago, rng)
        entries = self._entries(bodies, at, days_ago)
        save_record(
            self.who,
            self.row.pk,
            "alignment",
            str(uuid.uuid5(_NAMESPACE, f"sheet/{self.row.tag}/{days_ago}")),
            entries,
        )

    def _entries(self, bodies: list[dict[str, Any]], at: datetime, days_ago: int) -> list[dict[str, Any]]:
        key = f"{self.row.tag}/{days_ago}"
        return [
            {
                "uuid": str(uuid.uuid5(_NAMESPACE, f"{key}/{i}")),
                "taken_at": at + timedelta(minutes=12 * i),
                "device": "demo",
                "body": b,
            }
            for i, b in enumerate(bodies)
        ]

    def _felt(self, days_ago: int, rng: Random, taken: str) -> dict[str, Any]:
        felt = self.sim.felt(days_ago, rng)
        return {
            "kind": "pass",
            "taken": taken,
            "method": "straightedge",
            **{k: {"text": t, "unit": "mm"} for k, t in felt.items()},
        }

    def _seen(self, bodies: list[dict[str, Any]], at: datetime, days_ago: int) -> Evaluation[Any]:
        """What the sheet shows him while he stands there."""
        b = bench("alignment")
        case = case_for(self.row, b, at)[0]
        stock: list[VanShelf] = [v for v in shelves(self.row.site_id) if v.name == "Van 2"]
        stocked = case.model_copy(update={"extras": {VANS: stock}})
        return b.evaluate(stocked, entries_of("alignment", self._entries(bodies, at, days_ago)))

    def _lay(self, bodies: list[dict[str, Any]], at: datetime, days_ago: int, rng: Random) -> None:
        seen = self._seen(bodies, at, days_ago)
        plan = seen.view.plan
        if plan is None or plan.choice is None:
            return
        new = {f.foot: f.pack for f in plan.choice.feet}
        rise = {
            f: (
                (
                    sum((parse_pack(new[f], f) or ((), 0))[0])
                    - sum((parse_pack(self.packs[f], f) or ((), 0))[0])
                )
                / 10000
            )
            for f in _FEET
        }
        self.sim.raised(
            (rise["front_left"] + rise["front_right"]) / 2,
            (rise["rear_left"] + rise["rear_right"]) / 2,
            self.life["x_front"],
            self.life["x_rear"],
        )
        self.sim.pushed(days_ago)
        self.packs = new
        bodies += [
            {"kind": "moved", "van": "Van 2", **{f"pack_{f}": p for f, p in new.items()}},
            self._felt(days_ago, rng, "after_move"),
            {"kind": "tightened"},
        ]
        bodies.append(self._felt(days_ago, rng, "as_left"))
