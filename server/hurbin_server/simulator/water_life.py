"""What was read of water: gauges and meters on the simulator's own pumps, a loop and a well; by the doors
that people use.
"""

from __future__ import annotations

import math
import tomllib
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any

from hurbin_core.hydraulics import LoopPlate
from hurbin_core.simulator import GasLoop, Gauge, Impeller, Machine, RingedPump, Supply, Well, read_running
from hurbin_server.base.models import User
from hurbin_server.hydraulics.services.describing import keep_loop
from hurbin_server.plant.models import Fitting, PumpSet
from hurbin_server.plant.services.parts import new_plate

from .recording import on_record

_DATA = tomllib.loads((Path(__file__).parent / "demo" / "water.toml").read_text())
_STOOD = {"pump": "standing", "hose": "off", "make_up": "shut"}


def _figure(text: str) -> dict[str, str]:
    """ "0.9 bar" as it is typed at a field."""
    return dict(zip(("text", "unit"), text.split(" "), strict=True))


def _figures(told: dict[str, str]) -> dict[str, dict[str, str]]:
    return {n: _figure(text) for n, text in told.items()}


@dataclass(slots=True)
class WaterLife:
    """Everything of it by `as_of`, on the sets that are there."""

    as_of: datetime
    users: dict[str, User]
    sets: dict[str, PumpSet]
    in_hand: dict[str, dict[str, str]]
    pumps: dict[str, RingedPump] = field(default_factory=dict)

    def happen(self) -> None:
        for x in _DATA["curve"]:
            if x["tag"] in self.sets:
                self._drawn(x)
        for x in _DATA["loop"]:
            self._loop(x)
        deeds = {
            "worn": self._worn,
            "cooling": self._cooling,
            "ragging": self._ragging,
            "throttled": self._throttled,
        }
        for kind, deed in deeds.items():
            for x in _DATA[kind]:
                if x["tag"] in self.sets:
                    deed(x)

    def _record(self, who: str, tag: str, bench: str, days: float, body: dict[str, Any]) -> None:
        user, at = self.users[who], self.as_of - timedelta(days=days)
        key = f"{bench}/{tag}/{days}"
        on_record(user, self.sets[tag], bench, key, at, body, self.in_hand[user.username])

    def _drawn(self, x: dict[str, Any]) -> None:
        """Its curve goes on the nameplate of its wet end, beside what stands there."""
        row = self.sets[x["tag"]]
        pump = RingedPump(Impeller(x["top"], x["best"], x["efficiency"]))
        self.pumps[x["tag"]] = pump
        end = Fitting.objects.select_related("component").get(pump_set=row, slot="pump", to_at=None).component
        told = {"type": "radial", "curve": pump.sheet(), "curve_speed": _figure(x["speed"])}
        plate = dict(end.plate) | told
        plate |= _figures(x["more"]) | {"bep_flow": {"text": f"{x['best']:g}", "unit": "m3/h"}}
        new_plate(self.users["ines"], end.pk, end.plate_version, plate, "curve from the manufacturer's sheet")

    def _loop(self, x: dict[str, Any]) -> None:
        ids = [self.sets[t].pk for t in x["tags"] if t in self.sets]
        if not ids:
            return
        site = next(iter(self.sets.values())).site_id
        plate = LoopPlate.model_validate(_figures(x["plate"]) | x["words"])
        keep_loop(self.users["teodor"], site, x["name"], plate, ids, None, 0)

    def _worn(self, x: dict[str, Any]) -> None:
        rng = Random(f"worn/{x['tag']}")
        gauges = Gauge(2.5, 0.001), Gauge(4.0, -0.001)
        new = self.pumps[x["tag"]]
        for who, days, gap in zip(x["by"], x["days"], x["gap"], strict=True):
            pump = RingedPump(new.impeller, gap=gap)
            q, head = pump.against(x["static"], x["k"])
            low = 0.34 + rng.gauss(0, 0.01)
            # The discharge gauge sits 0.6 m above the suction gauge, its bore is narrower.
            fast = [q / 3600 / (math.pi / 4 * d * d) for d in (0.1, 0.08)]
            rise = head - 0.6 - (fast[1] ** 2 - fast[0] ** 2) / 2 / 9.81
            high = low + rise * x["density"] * 9.81 / 1e5
            body: dict[str, Any] = {
                "fluid": "seawater",
                "temperature": {"text": f"{rng.uniform(17, 22):.0f}", "unit": "degC"},
                "density": {"text": f"{x['density']:g}", "unit": "kg/m3"},
                "suction": {"text": gauges[0].read(low, rng), "unit": "bar"},
                "discharge": {"text": gauges[1].read(high, rng), "unit": "bar"},
                "heights": "own",
                "gauge_class": "0.6",
                "settled": True,
                "others": "alone",
                "flow": {"text": f"{q * rng.gauss(1, 0.006):.1f}", "unit": "m3/h"},
                "flow_by": "meter",
                "rpm": {"text": f"{rng.gauss(2890, 3):.0f}", "unit": "rpm"},
            }
            body |= _figures(
                {
                    "suction_z": "0.2 m_head",
                    "discharge_z": "0.8 m_head",
                    "suction_bore": "100 mm",
                    "discharge_bore": "80 mm",
                    "suction_top": "2.5 bar",
                    "discharge_top": "4 bar",
                }
            )
            self._record(who, x["tag"], "wear", days, body)

    def _throttled(self, x: dict[str, Any]) -> None:
        """Over its nameplate on three legs: the discharge closed in until Friday."""
        rng = Random(f"throttled/{x['tag']}")

        def legs(shaft: float) -> dict[str, dict[str, str]]:
            _, amps = read_running(Machine(volts=400, amps=10.9), Supply(volts=401), shaft)
            read = [f"{a + rng.gauss(0, 0.02):.2f}" for a in amps]
            return {f"amps_{n}": {"text": a, "unit": "A"} for n, a in enumerate(read, 1)}

        first, last = x["shaft"], x["after"]
        steps = len(x["turns"])
        rows = [
            {"turns": _figure(t), "waited": True, **legs(first + (last - first) * (n + 1) / steps)}
            for n, t in enumerate(x["turns"])
        ]
        body: dict[str, Any] = {
            "where": "discharge",
            "fluid": "water",
            "floor_of": "none",
            "steps": rows,
            "until": (self.as_of + timedelta(days=x["until_days"])).date().isoformat(),
            "cure": "trim",
            "need": _figure(x["need"]),
            "static": {"text": x["static"].split(" ")[0], "unit": "m_head"},
            "note": "Ozone contactor rebuilt with less resistance; trips on warm afternoons.",
        }
        body |= legs(first) | _figures(
            {
                "temperature": "16 degC",
                "idle_amps": "4.1 A",
                "volts": "401 V",
                "motor_eff": "87 %",
                "hours": "6500 h",
                "price": "0.21 1",
                "turns_full": "9 turns",
            }
        )
        self._record(x["by"], x["tag"], "throttle", x["days"], body)

    def _cooling(self, x: dict[str, Any]) -> None:
        """Before the pump starts in the morning: the loop's gauge and its thermometer."""
        rng = Random(f"cooling/{x['tag']}")
        told = next(row for row in _DATA["loop"] if row["name"] == x["name"])["plate"]
        figure = {n: float(t.split(" ")[0]) for n, t in told.items()}
        loop = GasLoop(figure["volume"], figure["vessel"], figure["precharge"], figure["high_point"])
        loop.fill(x["filled"], x["temp"][0])
        gauge, before = Gauge(4.0, 0.0), x["days"][0]
        for who, days, temp in zip(x["by"], x["days"], x["temp"], strict=True):
            loop.lose(x["loses"] * (before - days), temp)
            before = days
            at = self.as_of - timedelta(days=days)
            reading = {
                "at": at.isoformat(),
                "pressure": {"text": gauge.read(loop.bar(temp), rng), "unit": "bar"},
                "temperature": {"text": f"{temp + rng.gauss(0, 0.15):.1f}", "unit": "degC"},
                **_STOOD,
            }
            self._record(who, x["tag"], "loop", days, {"readings": [reading], "fresh": "no"})

    def _ragging(self, x: dict[str, Any]) -> None:
        """Two runs from one level, timed with a watch; three legs as a mean over half a minute."""
        rng = Random(f"ragging/{x['tag']}")
        area = math.pi / 4 * (x["diameter"] ** 2 - x["body"] ** 2)
        for who, days, pump, amps in zip(x["by"], x["days"], x["pump"], x["amps"], strict=True):
            runs = []
            for _ in range(2):
                one, two = (Well(area, x["inflow"] * rng.gauss(1, 0.04)) for _ in range(2))
                runs.append(
                    {
                        "start": {"text": "1.40", "unit": "m_head"},
                        "rise": {"text": "0.15", "unit": "m_head"},
                        "rise_s": {"text": f"{one.rise_s(0.15):.0f}", "unit": "s"},
                        "fall": {"text": "0.40", "unit": "m_head"},
                        "fall_s": {"text": f"{one.fall_s(0.40, pump):.0f}", "unit": "s"},
                        "after": {"text": "0.12", "unit": "m_head"},
                        "after_s": {"text": f"{two.rise_s(0.12):.0f}", "unit": "s"},
                    }
                )
            body: dict[str, Any] = {
                "shape": "round",
                "sister": "off",
                "rain": "no",
                "amps_mean": True,
                "runs": runs,
                "diameter": {"text": f"{x['diameter']:g}", "unit": "m_head"},
                "bodies": {"text": "1", "unit": "1"},
                "body_diameter": {"text": f"{x['body']:g}", "unit": "m_head"},
            }
            legs = {n: f"{amps + rng.gauss(0, 0.01):.2f}" for n in (1, 2, 3)}
            body |= {f"amps_{n}": {"text": a, "unit": "A"} for n, a in legs.items()}
            self._record(who, x["tag"], "drawdown", days, body)
