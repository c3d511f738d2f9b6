"""The demo through the front door: the register file is imported, readings come from the simulator, and the save
service judges every one of them."""

from __future__ import annotations

import tomllib
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import partial
from pathlib import Path
from random import Random
from typing import Any

from hurbin_core.plant import motor_facts
from hurbin_core.simulator import Meter, SetLife, fault_from
from hurbin_server.base.models import User
from hurbin_server.logbook.services.saving import save_record
from hurbin_server.plant.models import Component, Fitting, Membership, PumpSet, Service, Site
from hurbin_server.plant.services.parts import fit, make_component, new_plate, plate_of
from hurbin_server.plant.services.people import make_user
from hurbin_server.plant.services.places import edit_service, make_site
from hurbin_server.plant.services.register import import_register

from .people import PASSWORD, PEOPLE

HERE = Path(__file__).parent / "demo"
DAYS = 1095
EVERY = 28
_NAMESPACE = uuid.UUID("6f1d0f5e-33d4-4a53-9a40-6d1f7d2b9a11")
_NOTES = {
    "LAG": ("always, three of four", 3), "KELP": ("surge day and night", 3), "COLD": ("6 °C, always", 3), "PALM": ("below 18 °C inside", 2),
    "SAND": ("nightly, one of two", 2), "LIFT": ("on level, one of two", 3), "OZON": ("while open to visitors", 2),
    "MAKE": ("on tide and level", 2), "MIST": ("by humidity", 1), "BOIL": ("on level", 2), "CAFE": ("always", 1),
}  # fmt: skip

Visit = tuple[datetime, Callable[[], None]]


@dataclass(slots=True)
class Loader:
    """Loads a demo that ends at `as_of`; `days` and `tags` make smaller ones for tests."""

    as_of: datetime
    days: int = DAYS
    tags: tuple[str, ...] = ()
    say: Callable[[str], None] = print

    def load(self) -> Site:
        users = self._people()
        site = make_site(users["ines"], {"code": "TIDE", "name": "Tidehouse aquarium and glasshouse", "time_zone": "Europe/Lisbon", "altitude_m": 12.0})
        for name, _, role in PEOPLE[1:]:
            Membership.objects.create(user=users[name], site=site, role=role)
        start = self.as_of - timedelta(days=self.days + 3)
        import_register(users["ines"], site.pk, (HERE / "register.csv").read_text(), write=True, fitted_from=start)
        for s in Service.objects.filter(site=site):
            note, weight = _NOTES[s.code]
            edit_service(users["ines"], s.pk, s.version, {"note": note, "consequence": weight})
        self._check_all(site, users)
        return site

    def _people(self) -> dict[str, User]:
        users = {}
        for name, full, _ in PEOPLE:
            users[name] = make_user(name, full, PASSWORD)[0]
        users["ines"].may_make_sites = True
        users["ines"].save()
        return users

    def _check_all(self, site: Site, users: dict[str, User]) -> None:
        lives = tomllib.loads((HERE / "lives.toml").read_text())
        special = {x["tag"]: x for x in lives["life"]}
        sets = [s for s in PumpSet.objects.filter(site=site).order_by("tag") if not self.tags or s.tag in self.tags]
        visits: list[Visit] = []
        for i, row in enumerate(sets):
            life = {**lives["quiet"], **special.get(row.tag, {})}
            visits += self._live(row, life, users, seed=1000 + i)
        # As it happened, so that each check knows of its twin only what was on record by then.
        visits.sort(key=lambda v: v[0])
        for n, (at, happen) in enumerate(visits, 1):
            happen()
            if n % 250 == 0 or n == len(visits):
                self.say(f"    {n:4} of {len(visits)} checks, up to {at:%B %Y}")

    def _live(self, row: PumpSet, life: dict[str, Any], users: dict[str, User], seed: int) -> list[Visit]:
        """What happens at one set over the years: when, and the deed."""
        visits: list[Visit] = []
        rng = Random(f"visits/{seed}")
        motor = Fitting.objects.select_related("component").get(pump_set=row, slot="motor", to_at=None).component
        facts = motor_facts(plate_of(motor))  # type: ignore[arg-type]
        drive = Fitting.objects.filter(pump_set=row, slot="control", component__kind="drive", to_at=None).exists()
        hz = life.get("hz", 48) if drive else 50
        sim = SetLife(
            volts=facts.volts_v or 400, amps=facts.amps_a or 2.5, phases=facts.phases, shaft=life["shaft"], summer=life["summer"],
            hz_share=hz / 50, seed=seed, fault=fault_from(life.get("fault", "")), fault_day=int(life.get("fault_from", 0) * self.days),
            days=self.days, meter=Meter(gain=rng.gauss(1, 0.004)),
        )  # fmt: skip
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

    def _check(self, row: PumpSet, life: dict[str, Any], sim: SetLife, day: int, at: datetime, who: User, drive: bool, hz: float) -> None:
        volts, amps = sim.check(day, at.date())
        body: dict[str, Any] = {"read_at": "drive_output" if drive else "motor_leads", "coupled": True, "valve": "open"}
        body |= {f"volts_{k}": {"text": v, "unit": "V"} for k, v in zip(("12", "23", "31"), volts, strict=False)}
        body |= {f"amps_{k}": {"text": a, "unit": "A"} for k, a in zip("123", amps, strict=False)}
        if "valve_turns" in life:
            body |= {"valve": "throttled", "valve_turns": {"text": life["valve_turns"], "unit": "turns"},
                     "valve_turns_full": {"text": life["valve_turns_full"], "unit": "turns"}}  # fmt: skip
        if drive:
            body["speed"] = {"text": str(hz), "unit": "Hz"}
        key = f"{row.tag}/{day}"
        entry = {"uuid": str(uuid.uuid5(_NAMESPACE, key)), "taken_at": at, "device": "demo", "body": body}
        save_record(who, row.pk, "running_check", str(uuid.uuid5(_NAMESPACE, f"sheet/{key}")), [entry])

    def _change_motor(self, row: PumpSet, old: Component, at: datetime, admin: User) -> None:
        spare = make_component(admin, row.site_id, "motor", f"{row.tag} motor, rewound spare")
        new_plate(admin, spare.pk, 0, old.plate, "same plate as the one it replaces")
        fit(admin, row.pk, "motor", spare.pk, at, "Bearing noise; the rewound spare went in.")
