"""Overhauls of the demo, step by step through the doors that people use: each hold is met as they meet it."""

from __future__ import annotations

import tomllib
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any

from hurbin_core.base import write
from hurbin_core.catalogue import bench
from hurbin_core.jobs.job.view import JobView
from hurbin_core.plant import motor_facts
from hurbin_core.safety import IsolationSource, needed
from hurbin_core.simulator import InsulationTester, Meter, SetLife, TwoPoleTester, WindingLife
from hurbin_server.base.models import User
from hurbin_server.jobs.reads import job_of
from hurbin_server.jobs.services.weather import bring_weather_in
from hurbin_server.logbook.models import Sheet
from hurbin_server.logbook.services.saving import save_record
from hurbin_server.logbook.services.sheets import append_entries
from hurbin_server.plant.models import Fitting, PumpSet
from hurbin_server.plant.services.parts import plate_of
from hurbin_server.safety.models import CheckBack
from hurbin_server.safety.services.changing import read_check_back
from hurbin_server.stores.services.kits import add_kit
from hurbin_server.stores.services.parts import bring_parts_in

from .recording import on_record
from .safety_life import SafetyLife
from .weather import forecast

HERE = Path(__file__).parent / "demo"
_DATA = tomllib.loads((HERE / "jobs.toml").read_text())
_NAMESPACE = uuid.UUID("7d3c3f61-65c4-4d0c-8a58-2a4f64d0c0e1")
_VOLTS = 400.0


def bring_parts(who: User, site_id: int) -> None:
    """The shelves as they were counted last."""
    bring_parts_in(who, site_id, (HERE / "parts.csv").read_text())


@dataclass(slots=True)
class JobLife:
    """Every job by `as_of`, on the sets that are there."""

    as_of: datetime
    users: dict[str, User]
    sets: dict[str, PumpSet]
    in_hand: dict[str, dict[str, str]]

    def happen(self) -> None:
        rows = [x for x in _DATA["job"] if x["tag"] in self.sets]
        if rows:
            site = next(iter(self.sets.values())).site_id
            bring_parts(self.users["teodor"], site)
            self._kits(site)
            bring_weather_in(self.users["teodor"], site, forecast(self.as_of, str(site)))
        for x in rows:
            _Walk(self, x).walk()

    def _kits(self, site: int) -> None:
        for k in _DATA["kit"]:
            of = self.sets.get(k["tag"]) if "tag" in k else None
            if "tag" in k and of is None:
                continue
            told = {n: k[n] for n in ("title", "procedure", "lines")}
            set_id = of.pk if of is not None else None
            add_kit(self.users["teodor"], site, {**told, "set_id": set_id, "kind": k.get("kind", "")})


class _Walk:
    """One job as it went. The clock goes on a few minutes with every act."""

    def __init__(self, life: JobLife, x: dict[str, Any]) -> None:
        self.life, self.x, self.row = life, x, life.sets[x["tag"]]
        self.who, self.second = life.users[x["by"]], life.users[x["second"]]
        self.at = life.as_of - timedelta(days=x["days"])
        self.rng = Random(f"job/{x['tag']}")
        self.sheet, self.isolation = self._key("job"), self._key("isolation")
        self.locks: list[tuple[User, str]] = []
        self.must: list[IsolationSource] = []
        self.n = 0

    def _key(self, *words: object) -> str:
        return str(uuid.uuid5(_NAMESPACE, "/".join(map(str, (self.x["tag"], self.x["days"], *words)))))

    def _later(self, least: float = 2, most: float = 9) -> datetime:
        self.at += timedelta(minutes=self.rng.uniform(least, most))
        return self.at

    def _say(self, name: str, sheet: str, who: User | None = None, **body: Any) -> str:
        who = who or self.who
        self.n += 1
        key = self._key(name, self.n)
        hand = self.life.in_hand.get(who.username, {})
        device = f"{who.username}'s phone"
        entry = {"uuid": key, "taken_at": self._later(), "device": device, "instruments": hand, "body": body}
        append_entries(who, self.row.pk, bench(name), sheet, [entry])
        return key

    def job(self, who: User | None = None, **body: Any) -> str:
        return self._say("job", self.sheet, who, **body)

    def walk(self) -> None:
        x = self.x
        told = {"procedure": x["procedure"], "because": x["because"], "set_kind": self.row.kind}
        if x["procedure"] == "J10":
            self._running()
        self.job(kind="open", source="hand", **told)
        self._about()
        while True:
            view = self._view()
            step = next((s for s in view.steps if s.state == "now"), None)
            if step is None or step.id == x.get("stop_at"):
                break
            self._step(step)
            self._went(step.id)
        if "stop_at" not in x:
            self._close()
        elif x.get("waits"):
            self.job(kind="about", waits=x["waits"])

    def _went(self, step: str) -> None:
        """A step that does not count is a fault of this story, told with its reason."""
        e = job_of(Sheet.objects.select_related("pump_set__site").get(pk=self.sheet), self.at)
        if not any(s.id == step and s.state == "done" for s in e.view.steps):
            raise RuntimeError(f"{self.x['tag']} {step}: {[write(q) for q in e.questions][-3:]}")

    def _stock(self) -> list[Any]:
        """The kit's lines against the shelves: of stock only today's is known."""
        sheet = Sheet.objects.select_related("pump_set__site").get(pk=self.sheet)
        pick = job_of(sheet).view.pick
        return list(pick.kit) if pick is not None else []

    def _view(self) -> JobView:
        sheet = Sheet.objects.select_related("pump_set__site").get(pk=self.sheet)
        view: JobView = job_of(sheet, self.at).view
        return view

    def _about(self) -> None:
        said: dict[str, Any] = {"outside": "no", "pit": "no", "roof": "no", "hot": "no", "header": "no"}
        said |= {"weight": {"text": f"{self.rng.randrange(48, 96)}", "unit": "kg"}, "no_service": "yes"}
        self.job(kind="about", seal_kind="16 mm, single spring", owner=self.who.full_name, **said)
        for k in self._stock():
            lot = next((y for y in k.lots if not y.emergency and y.free >= k.wanted), None)
            if lot is not None:
                self.job(kind="part", code=lot.code, place=lot.place, reserved=k.wanted)

    def _step(self, step: Any) -> None:
        meets: dict[str, Callable[[Any], None]] = {
            "isolated": lambda s: self._isolate(),
            "proved": lambda s: self._prove(),
            "given_back": lambda s: self._give_back(),
            "record": self._record,
            "proof": self._proof,
        }
        if step.meets in meets:
            meets[step.meets](step)
        elif step.proves:
            self._proof(step)
        for look in step.looks:
            signs = [s.id for s in look.signs if s.fate == "reuse"]
            self.job(kind="look", step=step.id, look=look.look, signs=signs)
        more: dict[str, Any] = {}
        if step.figure is not None:
            more["figure"] = {"text": self._figure(step.id), "unit": "mm"}
        if step.found or step.record:
            more["said"] = self._found(step)
        self.job(self.second if step.second else None, kind="done", step=step.id, **more)

    def _figure(self, step: str) -> str:
        return {"J10.6": self.x["gap"], "J10.9": f"{self.rng.randrange(24, 46)}"}[step]

    def _found(self, step: Any) -> str:
        if step.id == "J10.4":
            return str(self.x["rag"])
        return {"J10.7": "clear", "J10.5": f"free after the rag, {self.who.full_name}"}.get(
            step.id, "automatic, 1"
        )

    def _isolate(self) -> None:
        if self.must:
            return
        lines = SafetyLife(self.life.as_of, self.life.users, self.life.sets).lines(self.row)
        said = [line.model_dump(mode="json", exclude_defaults=True) for line in lines]
        scopes = ["motor_leads", "wet_end"]
        for scope in scopes:
            self._say("make_safe", self.isolation, kind="open", scope=scope, sources=said)
        self.must = [n.source for n in needed(lines, scopes) if n.must]
        self._say("make_safe", self.isolation, kind="told", to="the shift lead")
        self._say("make_safe", self.isolation, kind="stopped")
        for s in self.must:
            self._say("make_safe", self.isolation, kind="shut", source=s.id, seen="seen")
        for s in self.must:
            self.locks.append((self.who, self._say("make_safe", self.isolation, kind="lock", source=s.id)))
        for s in self.must:
            body = {"kind": "released", "source": s.id, "seen": "gauge at zero, dry"}
            if s.kind in ("drive_bus", "capacitors"):
                body["reading"] = {"text": f"{self.rng.uniform(2, 9):.1f}", "unit": "V"}
            self._say("make_safe", self.isolation, **body)
        self._say("make_safe", self.isolation, kind="tried", moved=False)

    def _prove(self) -> None:
        state = self._view().steps
        if any(s.id == "I3" and s.state == "done" for s in state):
            return
        x = {"supply_volts": _VOLTS, "point": "terminal box"}
        life = SafetyLife(self.life.as_of, self.life.users, self.life.sets)
        for body in life.proof(x, TwoPoleTester("Tester 4"), self.rng):
            self._say("make_safe", self.isolation, kind="proof", tester="Tester 4", **body)

    def _give_back(self) -> None:
        for item in ("guard_on", "people_clear"):
            self._say("make_safe", self.isolation, kind="restored", item=item)
        for who, lock in self.locks:
            self._say("make_safe", self.isolation, who, kind="unlock", lock=lock)
        for s in self.must:
            self._say("make_safe", self.isolation, kind="opened", source=s.id)
        for item in ("valves_as_found", "automatic", "alarms", "check_left"):
            self._say(
                "make_safe", self.isolation, kind="restored", item=item, note="checked in the job's proof"
            )
        self._later()
        save_record(self.who, self.row.pk, "make_safe", self.isolation, [])

    def _record(self, step: Any) -> None:
        {"lifting": self._lift, "insulation": self._insulation}[step.opens]()

    def _save(self, name: str, body: dict[str, Any]) -> None:
        hand = self.life.in_hand.get(self.who.username, {})
        self.n += 1
        key = f"job/{self.x['tag']}/{self.x['days']}/{name}/{self.n}"
        on_record(self.who, self.row, name, key, self._later(), body, hand)

    def _lift(self) -> None:
        kg = {n: {"text": t, "unit": "kg"} for n, t in (("weight", "84"), ("rigging", "6"), ("water", "12"))}
        kg |= {
            n: {"text": t, "unit": "kg"}
            for n, t in (("hoist", "250"), ("sling", "500"), ("shackle", "500"), ("eye", "300"))
        }
        words = {"eye_kind": "bail", "legs": "1", "whole_set": "yes", "rated": "yes", "trial": "level"}
        plan = {"outside": "no", "area": "yes", "route": "up the rails, to the wash place"}
        names = {"name_1": self.who.full_name, "name_2": self.second.full_name}
        self._save("lifting", {**kg, **words, **plan, **names})

    def _insulation(self) -> None:
        sim = WindingLife(seed=self.rng.randrange(99), days=1095, damp=0.4, years=9)
        tester = InsulationTester("tester 1", ceiling=10000)
        at = self._later()
        (winding, room, humidity), shown = sim.test(1000, at.date(), tester, (30, 60))
        bodies: list[dict[str, Any]] = [
            {
                "kind": "setup",
                "test_point": "motor",
                "links": "in",
                "phases": "together",
                "test_volts": {"text": "500", "unit": "V"},
                "arresters_off": True,
                "winding": {"text": f"{winding:.0f}", "unit": "degC"},
                "ambient": {"text": f"{room:.0f}", "unit": "degC"},
                "humidity": {"text": f"{humidity:.0f}", "unit": "%"},
                "ceiling": {"text": "10", "unit": "GOhm"},
                "drive_off": True,
            }
        ]
        bodies += [
            {"kind": "reading", "leg": "all", "seconds": s, "ohms": {"text": t, "unit": u}}
            for s, t, u in shown
        ]
        entries = [
            {
                "uuid": self._key("insulation", self.n, i),
                "taken_at": at + timedelta(seconds=b.get("seconds", 0)),
                "device": "demo",
                "instruments": self.life.in_hand.get(self.who.username, {}),
                "body": b,
            }
            for i, b in enumerate(bodies)
        ]
        self.n += 1
        save_record(self.who, self.row.pk, "insulation", self._key("insulation sheet", self.n), entries)

    def _running(self) -> None:
        motor = Fitting.objects.select_related("component").get(pump_set=self.row, slot="motor", to_at=None)
        facts = motor_facts(plate_of(motor.component))
        sim = SetLife(
            volts=facts.volts_v or _VOLTS,
            amps=facts.amps_a or 2.5,
            phases=facts.phases,
            shaft=0.8,
            summer=0.0,
            hz_share=1.0,
            seed=sum(map(ord, self.x["tag"])),
            days=1095,
            meter=Meter(gain=1.001),
        )
        volts, amps = sim.check(1000, self.at.date())
        body: dict[str, Any] = {
            "read_at": "motor_leads",
            "coupled": True,
            "valve": "open",
            "control": "automatic",
        }
        pairs = zip(("12", "23", "31"), volts, strict=False)
        body |= {f"volts_{k}": {"text": t, "unit": "V"} for k, t in pairs}
        body |= {f"amps_{k}": {"text": t, "unit": "A"} for k, t in zip("123", amps, strict=False)}
        self._save("running_check", body)

    def _proof(self, step: Any) -> None:
        if step.proves in ("amps", "volts"):
            self._running()
        if step.proves == "direction":
            self.job(kind="arrow", right="yes")
        if step.proves == "head":
            was = self.rng.uniform(9, 14)
            read = {
                n: {"text": f"{v:.1f}", "unit": "m_head"} for n, v in (("before", was), ("after", was * 1.01))
            }
            self.job(kind="head", sign="drawdown", valve="same", **read)

    def _close(self) -> None:
        for k in self._stock():
            lot = next((y for y in k.lots if not y.emergency), None)
            if lot is not None:
                self.job(kind="part", code=lot.code, place=lot.place, reserved=k.wanted, used=k.wanted)
        self.job(kind="cause", cause=self.x["cause"], root=self.x["root"])
        hours = {"hours": {"text": f"{self.rng.uniform(2, 4):.1f}", "unit": "h"}}
        for who in (self.who, self.second):
            self.job(kind="hours", who_worked=who.full_name, **hours)
        self._later()
        save_record(self.who, self.row.pk, "job", self.sheet, [])
        for look in CheckBack.objects.filter(sheet__in=(self.sheet, self.isolation), due__lt=self.life.as_of):
            read_check_back(self.second, look.pk, "dry, quiet, nothing loose")
