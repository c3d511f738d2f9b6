"""What was measured at the demo's starters and drives: scans under load, ohms on what is isolated; read off
the simulator's own contacts, windings and diodes, by the doors that people use.
"""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any

from hurbin_core.electrical.circuit import Circuit
from hurbin_core.simulator import Bridge, Chain, Coils, Joints, Meter
from hurbin_server.base.models import User
from hurbin_server.electrical.querysets import circuit_for
from hurbin_server.electrical.services.describing import describe
from hurbin_server.plant.models import PumpSet
from hurbin_server.plant.services.parts import fit, make_component, new_plate

from .recording import on_record

_DATA = tomllib.loads((Path(__file__).parent / "demo" / "starters.toml").read_text())
_PAIRS = {"pair_12": (0, 1), "pair_23": (1, 2), "pair_31": (2, 0)}
_SCANNED = (("D.out", "temp"), ("F.in", "temp"), ("F.out", "temp"), ("K.in", "temp"), ("K.out", "temp"))


def _figure(text: str, unit: str) -> dict[str, str]:
    return {"text": text, "unit": unit}


@dataclass(slots=True)
class StarterLife:
    """Everything that was scanned and measured by `as_of`, of the sets that are there."""

    as_of: datetime
    users: dict[str, User]
    sets: dict[str, PumpSet]
    in_hand: dict[str, dict[str, str]]

    def happen(self) -> None:
        for x in _DATA["fuses"]:
            if x["tag"] in self.sets:
                self._fused(self.sets[x["tag"]], x)
        for x in _DATA["scan"]:
            if x["tag"] in self.sets:
                for n, day in enumerate(x["days"]):
                    self._scanned(self.sets[x["tag"]], x, n, day)
        for x in _DATA["winding"]:
            if x["tag"] in self.sets:
                self._record(x, "ohms", self._winding(x), x["hours"] / 24)
        for x in _DATA["drive"]:
            if x["tag"] in self.sets:
                self._record(x, "ohms", self._drive(x), x["hours"] / 24)

        for x in _DATA["leads"]:
            if x["tag"] in self.sets:
                self._record(x, "leads", self._leads(x), x["hours"] / 24)
        for x in _DATA["control"]:
            if x["tag"] in self.sets:
                self._control(self.sets[x["tag"]], x)

    def _fused(self, row: PumpSet, x: dict[str, Any]) -> None:
        admin = self.users["ines"]
        made = make_component(admin, row.site_id, "fuses", x["label"])
        fit(admin, row.pk, "supply", made.pk, self.as_of - timedelta(days=x["days"]))
        figures = {k: _figure(*v.split(" ")) if " " in v else v for k, v in x["plate"].items()}
        new_plate(admin, made.pk, 0, figures, "read at the fuses")

    def _control(self, row: PumpSet, x: dict[str, Any]) -> None:
        """Somebody said how its control ladder is; later the last shift walked down it."""
        who = self.users[x["described_by"]]
        told = circuit_for(who, row.pk)
        control = told.usual_control.model_dump()
        for e in control["elements"]:
            if e["id"] == x["interlock"]["id"]:
                e.update(x["interlock"])
        circuit = Circuit.model_validate(told.circuit.model_dump() | {"control": control})
        at = self.as_of - timedelta(days=x["described_days"])
        describe(who, row.pk, circuit, told.version, at=at)
        rng = Random(f"control/{x['tag']}")
        chain = Chain(
            volts=control["volts"] * rng.uniform(0.98, 1.03),
            names=[e["id"] for e in control["elements"]],
            open_at=frozenset({x["open"]}),
        )
        spots: list[dict[str, Any]] = [
            {"at": place, "volts": _figure(chain.to_common(place, rng), "V")} for place in x["read"]
        ]
        spots[-1]["value"] = _figure(f"{x['value']}", "1")
        said = {"selector": "auto", "called": True, "pulled": "out", "proved": True, "wires": "two"}
        self._record(x, "control", {**said, "spots": spots, "note": x["note"]}, x["hours"] / 24)

    def _scanned(self, row: PumpSet, x: dict[str, Any], n: int, day: float) -> None:
        rng = Random(f"scan/{x['tag']}/{n}")
        worn = {(j["place"], j["leg"]): j["microhm"][n] for j in x["tired"]}
        joints = Joints(ambient_c=x["ambient"][n], tired=worn)
        amps = [a * rng.gauss(1, 0.004) for a in x["amps"]]
        spots: list[dict[str, Any]] = [
            {"at": f"{place}.{leg}", "temp": _figure(joints.temp(place, leg, amps[leg - 1], rng), "degC")}
            for place, _ in _SCANNED
            for leg in (1, 2, 3)
        ]
        spots += [
            {"at": f"{e}.{leg}", "drop": _figure(joints.millivolts(e, leg, amps[leg - 1], rng), "mV_drop")}
            for e in x["drops"]
            for leg in (1, 2, 3)
        ]
        said = {f"amps_{i + 1}": _figure(f"{a:.1f}", "A") for i, a in enumerate(amps)}
        said |= {"ambient": _figure(f"{x['ambient'][n]:.0f}", "degC")}
        how = x["how"]
        said |= {k: _figure(how[k], u) for k, u in (("distance", "mm"), ("ratio", "1"), ("width", "mm"))}
        words = {k: how[k] for k in ("surface", "reader", "rating")} | {"steady": "yes", "seen": "nothing"}
        self._record(x, "joints", {**said, **words, "spots": spots}, day, n)

    def _winding(self, x: dict[str, Any]) -> dict[str, Any]:
        rng = Random(f"winding/{x['tag']}")
        coils = Coils(ohms_20=tuple(x["ohms_20"]))
        body: dict[str, Any] = {
            n: _figure(coils.pair(a, b, x["temp"], rng), "ohm") for n, (a, b) in _PAIRS.items()
        }
        body |= {"of": "winding", "at": x["at"], "joined": x["joined"], "lead_way": "subtract"}
        body |= {"leads": _figure(coils.leads(rng), "ohm"), "winding": _figure(f"{x['temp']:.0f}", "degC")}
        return body | {"ground_1": _figure("OL", "megohm"), "warm": "cold", "drive_off": True}

    def _drive(self, x: dict[str, Any]) -> dict[str, Any]:
        rng, bridge = Random(f"drive/{x['tag']}"), Bridge()
        body: dict[str, Any] = {
            f"{rail}_{leg}": _figure(bridge.forward(leg, rng), "V_diode")
            for leg in "rstuvw"
            for rail in ("minus", "plus")
        }
        body |= {f"back_{leg}": "open" for leg in "rstuvw"}
        body |= {"of": "drive", "drive_off": True, "bus": _figure(f"{rng.uniform(1.5, 6):.1f}", "V")}
        return body | {"rails": "climbs", "earth": "open"}

    def _leads(self, x: dict[str, Any]) -> dict[str, Any]:
        """A box as it was found, and what the supply stood at."""
        rng = Random(f"leads/{x['tag']}")
        supply = Meter().volts(x["supply"] * rng.uniform(0.99, 1.01), rng)
        said = {k: x[k] for k in ("leads", "plate_for", "box", "stage", "note")}
        return {**said, "supply": _figure(supply, "V"), "traced": True}

    def _record(self, x: dict[str, Any], bench: str, body: dict[str, Any], days: float, n: int = 0) -> None:
        key = f"{bench}/{x['tag']}/{body.get('of', '')}/{n}"
        who, at = self.users[x["by"]], self.as_of - timedelta(days=days)
        on_record(who, self.sets[x["tag"]], bench, key, at, body, self.in_hand[who.username])
