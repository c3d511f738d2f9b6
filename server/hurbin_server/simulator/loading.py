"""The demo through the front door: the register file is imported, readings come from the simulator, and the
save service judges every one of them.
"""

from __future__ import annotations

import tomllib
import uuid
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from functools import partial
from pathlib import Path
from random import Random
from typing import Any

from hurbin_core.plant import KINDS, motor_facts
from hurbin_core.simulator import InsulationTester, Meter, SetLife, WindingLife, fault_from
from hurbin_server.base.models import User
from hurbin_server.base.pins import set_pin
from hurbin_server.logbook.services.saving import save_record
from hurbin_server.plant.models import Component, Fitting, Membership, PumpSet, Service, Site
from hurbin_server.plant.services.events import add_event
from hurbin_server.plant.services.parts import fit, make_component, new_plate, plate_of
from hurbin_server.plant.services.people import make_user
from hurbin_server.plant.services.places import edit_service, make_site
from hurbin_server.plant.services.register import import_register

from .circuit_life import CircuitLife
from .coupling_life import CouplingLife, bring_vans
from .first_start_life import FirstStartLife
from .instrument_life import InstrumentLife
from .job_life import JobLife
from .people import PASSWORD, PEOPLE, PINS
from .safety_life import SERVES, SafetyLife
from .starter_life import StarterLife
from .water_life import WaterLife

HERE = Path(__file__).parent / "demo"
DAYS = 1095
EVERY = 28
_NAMESPACE = uuid.UUID("6f1d0f5e-33d4-4a53-9a40-6d1f7d2b9a11")
_NOTES = {
    "LAG": ("always, three of four", 3),
    "KELP": ("surge day and night", 3),
    "COLD": ("6 °C, always", 3),
    "PALM": ("below 18 °C inside", 2),
    "SAND": ("nightly, one of two", 2),
    "LIFT": ("on level, one of two", 3),
    "OZON": ("while open to visitors", 2),
    "MAKE": ("on tide and level", 2),
    "MIST": ("by humidity", 1),
    "BOIL": ("on level", 2),
    "CAFE": ("always", 1),
}

Visit = tuple[datetime, Callable[[], None]]


@dataclass(slots=True)
class Loader:
    """Loads a demo that ends at `as_of`; `days` and `tags` make smaller ones for tests."""

    as_of: datetime
    days: int = DAYS
    tags: tuple[str, ...] = ()
    say: Callable[[str], None] = print
    kit: InstrumentLife = field(init=False)

    def load(self) -> Site:
        users = self._people()
        site = make_site(
            users["ines"],
            {
                "code": "TIDE",
                "name": "Tidehouse aquarium and glasshouse",
                "time_zone": "Europe/Lisbon",
                "altitude_m": 12.0,
            },
        )
        for name, _, role in PEOPLE[1:]:
            Membership.objects.create(user=users[name], site=site, role=role)
        start = self.as_of - timedelta(days=self.days + 3)
        import_register(
            users["ines"], site.pk, (HERE / "register.csv").read_text(), write=True, fitted_from=start
        )
        for s in Service.objects.filter(site=site):
            note, weight = _NOTES[s.code]
            edit_service(
                users["ines"],
                s.pk,
                s.version,
                {"note": note, "consequence": weight, "serves": SERVES[s.code]},
            )
        self.kit = InstrumentLife(self.as_of, users, site, self.days)
        self.kit.happen()
        self._check_all(site, users)
        chosen = PumpSet.objects.filter(
            site=site, **({"tag__in": self.tags} if self.tags else {})
        ).select_related("site", "service")
        here = {s.tag: s for s in chosen}
        SafetyLife(self.as_of, users, here).happen()
        CircuitLife(self.as_of, users, here, self.kit.in_hand).happen()
        StarterLife(self.as_of, users, here, self.kit.in_hand).happen()
        FirstStartLife(self.as_of, users, here, self.kit.in_hand).happen()
        WaterLife(self.as_of, users, here, self.kit.in_hand).happen()
        tested = {n: hand | {"resistance": self.kit.testers[10000]} for n, hand in self.kit.in_hand.items()}
        JobLife(self.as_of, users, here, tested).happen()
        return site

    def _people(self) -> dict[str, User]:
        users = {}
        for name, full, _ in PEOPLE:
            users[name] = make_user(name, full, PASSWORD)[0]
        for name, pin in PINS.items():
            set_pin(users[name], pin)
        users["ines"].may_make_sites = True
        users["ines"].save()
        return users

    def _check_all(self, site: Site, users: dict[str, User]) -> None:
        lives = tomllib.loads((HERE / "lives.toml").read_text())
        special = {x["tag"]: x for x in lives["life"]}
        windings = {x["tag"]: x for x in lives["winding"]}
        sets = [
            s
            for s in PumpSet.objects.filter(site=site).order_by("tag")
            if not self.tags or s.tag in self.tags
        ]
        visits: list[Visit] = []
        for i, row in enumerate(sets):
            life = {**lives["quiet"], "shaft": _duty(row), **special.get(row.tag, {})}
            visits += self._live(row, life, users, seed=1000 + i)
            if not KINDS[row.kind].built_in_electronics:
                winding = {**lives["quiet_winding"], **windings.get(row.tag, {})}
                visits += self._windings(row, winding, users, seed=5000 + i)
        bring_vans(users["teodor"], site.pk)
        for row, life in [(s, c) for s in sets for c in lives["coupling"] if c["tag"] == s.tag]:
            visits += CouplingLife(row, life, users["saskia"], self.as_of).visits(self.days)
        # As it happened, so that each check knows of its twin only what was on record by then.
        visits.sort(key=lambda v: v[0])
        for n, (at, happen) in enumerate(visits, 1):
            happen()
            if n % 250 == 0 or n == len(visits):
                self.say(f"    {n:4} of {len(visits)} checks and tests, up to {at:%B %Y}")

    def _live(self, row: PumpSet, life: dict[str, Any], users: dict[str, User], seed: int) -> list[Visit]:
        """What happens at one set over the years: when, and the deed."""
        visits: list[Visit] = []
        rng = Random(f"visits/{seed}")
        motor = (
            Fitting.objects.select_related("component").get(pump_set=row, slot="motor", to_at=None).component
        )
        facts = motor_facts(plate_of(motor))  # type: ignore[arg-type]
        drive = Fitting.objects.filter(
            pump_set=row, slot="control", component__kind="drive", to_at=None
        ).exists()
        hz = life.get("hz", 48) if drive else 50
        sim = SetLife(
            volts=facts.volts_v or 400,
            amps=facts.amps_a or 2.5,
            phases=facts.phases,
            shaft=life["shaft"],
            summer=life["summer"],
            hz_share=hz / 50,
            seed=seed,
            fault=fault_from(life.get("fault", "")),
            fault_day=int(life.get("fault_from", 0) * self.days),
            days=self.days,
            meter=Meter(gain=rng.gauss(1, 0.004)),
        )
        day = rng.randrange(3, EVERY)
        changed = False
        while day < self.days - life.get("gap_days", 0):
            if "motor_change" in life and not changed and day > life["motor_change"] * self.days:
                when = self.as_of - timedelta(days=self.days - day) - timedelta(days=1)
                visits.append((when, partial(self._change_motor, row, motor, when, users["ines"])))
                changed = True
            at = self.as_of - timedelta(days=self.days - day) + timedelta(minutes=rng.randrange(-30, 300))
            at = min(at, self.as_of - timedelta(minutes=rng.randrange(30, 600)))
            who = users[rng.choice(["saskia", "jun", "jun", "teodor"])]
            visits.append((at, partial(self._check, row, life, sim, day, at, who, drive, hz)))
            day += EVERY + rng.randrange(-3, 4)
        return visits

    def _windings(self, row: PumpSet, life: dict[str, Any], users: dict[str, User], seed: int) -> list[Visit]:
        """The insulation tests of a set: when, and the deed."""
        rng = Random(f"windings/{seed}")
        sim = WindingLife(
            seed=seed,
            fate=life.get("fate", ""),
            from_day=int(life.get("from", 0) * self.days),
            days=self.days,
            damp=life.get("damp", 0.6),
            years=_years(row, self.as_of.year),
        )
        testers = [
            InsulationTester(f"tester {n}", ceiling=c) for n, c in enumerate(life.get("testers", [10000]), 1)
        ]
        control = (
            Fitting.objects.filter(pump_set=row, slot="control", to_at=None)
            .values_list("component__kind", flat=True)
            .first()
        )
        visits: list[Visit] = []
        if "rewind" in life:
            rewound = int(life["rewind"] * self.days)
            sim.days, sim.rewound = rewound, rewound
            visits.append(
                (
                    self.as_of - timedelta(days=self.days - rewound),
                    partial(self._rewind, row, rewound, life["note"], users["teodor"]),
                )
            )
        day, n = rng.randrange(12, min(life["every"], self.days // 2)), 0
        while day < self.days - 2:
            at = self.as_of - timedelta(days=self.days - day) + timedelta(minutes=rng.randrange(0, 240))
            who = users[rng.choice(["saskia", "jun"])]
            full = life["every"] < 200 or n % 2 == 0
            visits.append(
                (
                    at,
                    partial(
                        self._insulation,
                        row,
                        sim,
                        day,
                        at,
                        who,
                        testers[n % len(testers)],
                        full,
                        control or "",
                    ),
                )
            )
            day, n = day + life["every"] + rng.randrange(-9, 10), n + 1
        return visits

    def _rewind(self, row: PumpSet, day: int, note: str, who: User) -> None:
        add_event(who, row.pk, "rewind", self.as_of - timedelta(days=self.days - day), note)

    def _insulation(
        self,
        row: PumpSet,
        sim: WindingLife,
        day: int,
        at: datetime,
        who: User,
        tester: InsulationTester,
        full: bool,
        control: str,
    ) -> None:
        seconds = (15, 30, 45, 60, 120, 180, 240, 300, 360, 420, 480, 540, 600) if full else (30, 60)
        (winding, room, humidity), shown = sim.test(day, at.date(), tester, seconds)
        setup: dict[str, Any] = {
            "kind": "setup",
            "test_point": "motor",
            "links": "in",
            "phases": "together",
            "test_volts": {"text": "500", "unit": "V"},
            "arresters_off": True,
            "winding": {"text": f"{winding:.0f}", "unit": "degC"},
            "ambient": {"text": f"{room:.0f}", "unit": "degC"},
            "humidity": {"text": f"{humidity:.0f}", "unit": "%"},
            "ceiling": {"text": f"{tester.ceiling / 1000:g}", "unit": "GOhm"},
            "tester": tester.name,
        }
        if control in ("drive", "soft_starter"):
            setup["drive_off"] = True
        bodies = [
            setup,
            *(
                {"kind": "reading", "leg": "all", "seconds": s, "ohms": {"text": t, "unit": u}}
                for s, t, u in shown
            ),
        ]
        hand = self.kit.in_hand[who.username]
        named = hand | {"resistance": self.kit.testers[int(tester.ceiling)]}
        key = f"insulation/{row.tag}/{day}"
        entries = [
            {
                "uuid": str(uuid.uuid5(_NAMESPACE, f"{key}/{i}")),
                "taken_at": at + timedelta(seconds=b.get("seconds", 0)),
                "device": "demo",
                "instruments": named,
                "body": b,
            }
            for i, b in enumerate(bodies)
        ]
        save_record(who, row.pk, "insulation", str(uuid.uuid5(_NAMESPACE, f"sheet/{key}")), entries)

    def _check(
        self,
        row: PumpSet,
        life: dict[str, Any],
        sim: SetLife,
        day: int,
        at: datetime,
        who: User,
        drive: bool,
        hz: float,
    ) -> None:
        volts, amps = sim.check(day, at.date())
        body: dict[str, Any] = {
            "read_at": "drive_output" if drive else "motor_leads",
            "coupled": True,
            "valve": "open",
        }
        body |= {
            f"volts_{k}": {"text": v, "unit": "V"} for k, v in zip(("12", "23", "31"), volts, strict=False)
        }
        body |= {f"amps_{k}": {"text": a, "unit": "A"} for k, a in zip("123", amps, strict=False)}
        if "valve_turns" in life:
            body |= {
                "valve": "throttled",
                "valve_turns": {"text": life["valve_turns"], "unit": "turns"},
                "valve_turns_full": {"text": life["valve_turns_full"], "unit": "turns"},
            }
        if drive:
            body["speed"] = {"text": str(hz), "unit": "Hz"}
        by_hand = day >= self.days - life.get("hand_days", 0)
        body["control"] = "hand" if by_hand else "automatic"
        if by_hand:
            body["note"] = life["hand_note"]
        hand = self.kit.in_hand[who.username]
        if day >= self.days - life.get("borrowed_days", 0):
            hand = hand | dict.fromkeys(("voltage", "current"), self.kit.numbers[life["borrowed"]])
        key = f"{row.tag}/{day}"
        entry = {
            "uuid": str(uuid.uuid5(_NAMESPACE, key)),
            "taken_at": at,
            "device": "demo",
            "instruments": hand,
            "body": body,
        }
        save_record(who, row.pk, "running_check", str(uuid.uuid5(_NAMESPACE, f"sheet/{key}")), [entry])

    def _change_motor(self, row: PumpSet, old: Component, at: datetime, admin: User) -> None:
        spare = make_component(admin, row.site_id, "motor", f"{row.tag} motor, rewound spare")
        new_plate(admin, spare.pk, 0, old.plate, "same plate as the one it replaces")
        fit(admin, row.pk, "motor", spare.pk, at, "Bearing noise; the rewound spare went in.")


def _duty(row: PumpSet) -> float:
    """The share of its motor's power that a set asks for: motors are chosen with more or less to spare, the
    two of a pair for the same duty.
    """
    chosen = Random(f"duty/{row.pair or row.tag}").triangular(0.5, 0.94, 0.72)
    return chosen * Random(f"duty/{row.tag}/own").gauss(1, 0.015)


def _years(row: PumpSet, year: int) -> float:
    """How long its motor had run when its first test was made, by the nameplate."""
    motor = Fitting.objects.select_related("component").get(pump_set=row, slot="motor", to_at=None)
    built = getattr(plate_of(motor.component), "year", None)
    return max(0.0, year - 3 - int(built)) if built else 0.0
