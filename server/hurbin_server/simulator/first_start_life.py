"""What was set and exchanged before starts: overloads, motors, and the running checks after them; figures off
the simulator's own motor, records by the doors that people use.
"""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any

from hurbin_core.simulator import Machine, Meter, Supply, read_running
from hurbin_server.base.models import User
from hurbin_server.electrical.services.reading_drive import keep_address
from hurbin_server.plant.models import PumpSet
from hurbin_server.plant.services.events import add_event
from hurbin_server.plant.services.parts import fit, make_component, new_plate

from .recording import on_record

# Where the stand-in of the demo's drives answers.
DRIVES_PORT = 15502
_DATA = tomllib.loads((Path(__file__).parent / "demo" / "first_starts.toml").read_text())


def _figures(told: dict[str, str]) -> dict[str, dict[str, str]]:
    """ "4.7 A" as it is typed at a field."""
    return {n: dict(zip(("text", "unit"), text.split(" "), strict=True)) for n, text in told.items()}


@dataclass(slots=True)
class FirstStartLife:
    """Everything of it by `as_of`, on the sets that are there."""

    as_of: datetime
    users: dict[str, User]
    sets: dict[str, PumpSet]
    in_hand: dict[str, dict[str, str]]

    def happen(self) -> None:
        deeds = {
            "protection": self._protected,
            "swap": self._swapped,
            "event": self._befell,
            "check": self._checked,
            "drive_sheet": self._set,
        }
        for x in _DATA["address"]:
            if x["tag"] in self.sets:
                self._listed(x)
        rows = [(x["days"], kind, x) for kind in deeds for x in _DATA.get(kind, [])]
        for _, kind, x in sorted(rows, key=lambda r: -r[0]):
            if x["tag"] in self.sets:
                deeds[kind](x)

    def _at(self, x: dict[str, Any]) -> datetime:
        return self.as_of - timedelta(days=x["days"])

    def _record(self, x: dict[str, Any], bench: str, body: dict[str, Any]) -> None:
        who = self.users[x["by"]]
        key = f"{bench}/{x['tag']}/{x['days']}"
        on_record(who, self.sets[x["tag"]], bench, key, self._at(x), body, self.in_hand[who.username])

    def _protected(self, x: dict[str, Any]) -> None:
        self._record(x, "protection", {**x["words"], **_figures(x["figures"])})

    def _listed(self, x: dict[str, Any]) -> None:
        """The drive answers where the stand-in does."""
        row = self.sets[x["tag"]]
        keep_address(self.users["ines"], row.pk, "127.0.0.1", DRIVES_PORT, x["unit"], x["family"])

    def _set(self, x: dict[str, Any]) -> None:
        """What a drive was found set to; what no nameplate says is stated from the panel's drawing."""
        keeps = x.get("keeps", {})
        rows: list[dict[str, str]] = [{"id": k, "found": v} for k, v in x["rows"].items()]
        for r in rows:
            if r["id"] in x["stated"]:
                r |= {"should": keeps.get(r["id"], r["found"]), "why": "panel drawing"}
        said = {"rows": rows, "family": x["family"], "note": x.get("note", "")}
        self._record(x, "drive_sheet", {**said, **x["words"], **_figures(x["figures"])})

    def _swapped(self, x: dict[str, Any]) -> None:
        """A motor comes in; what stood there goes to the spares."""
        who, row = self.users[x["by"]], self.sets[x["tag"]]
        made = make_component(who, row.site_id, "motor", x["label"])
        new_plate(who, made.pk, 0, _figures(x["plate"]), "read at the motor")
        fit(who, row.pk, "motor", made.pk, self._at(x), x["note"])

    def _befell(self, x: dict[str, Any]) -> None:
        add_event(self.users[x["by"]], self.sets[x["tag"]].pk, x["kind"], self._at(x), x["note"])

    def _checked(self, x: dict[str, Any]) -> None:
        rng, meter = Random(f"check/{x['tag']}/{x['days']}"), Meter()
        plate = next(s["plate"] for s in _DATA["swap"] if s["tag"] == x["tag"])
        rated = float(plate["amps_low"].split(" ")[0])
        off = tuple(rng.gauss(0, 0.002) for _ in range(3))
        volts, amps = read_running(
            Machine(volts=400, amps=rated),
            Supply(volts=rng.uniform(396, 405), off=(off[0], off[1], off[2])),
            x["shaft"],
        )
        body: dict[str, Any] = {"read_at": "motor_leads", "valve": "open", "coupled": True}
        body |= {
            f"volts_{p}": {"text": meter.volts(v, rng), "unit": "V"}
            for p, v in zip(("12", "23", "31"), volts, strict=True)
        }
        body |= {f"amps_{n}": {"text": f"{a:.1f}", "unit": "A"} for n, a in enumerate(amps, 1)}
        self._record(x, "running_check", body)
