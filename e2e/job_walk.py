"""A job walked as two people walk it: every step typed and confirmed on its page, other benches put on record
beside it.
"""

from __future__ import annotations

import tomllib
import uuid
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

from conftest import Opener, Stack, send, told
from playwright.sync_api import Locator, Page, expect

LIKE = tomllib.loads((Path(__file__).parents[1] / "core" / "tests" / "sheets" / "like.toml").read_text())
PLATE = {
    "volts_low": {"text": "400", "unit": "V"},
    "amps_low": {"text": "20", "unit": "A"},
    "service_factor": {"text": "1.15", "unit": ""},
    "speed": {"text": "1475", "unit": "rpm"},
    "power": {"text": "11", "unit": "kW"},
    "insulation_class": "F",
    "year": 2015,
}
LINES = [
    {"id": "q1", "kind": "supply", "device": "isolator Q1", "place": "panel A", "means": "isolator"},
    {"id": "f1", "kind": "control_supply", "device": "fuse F1", "place": "panel A", "means": "fuses_out"},
    {"id": "v2", "kind": "turning_by_flow", "device": "valve V2", "place": "bay 1", "means": "valve"},
]
ABSENT = (
    "automation_start",
    "sister_header",
    "gravity",
    "heat",
    "springs",
    "bypass_starter",
    "drive_bus",
    "capacitors",
)
FIGURES = {"Casing temperature": "32", "Lift of the pump shaft": "0.05", "Rubber, above less below": "0.5"}
FIGURES |= {"Inner ring off flush": "0.2", "Gap, impeller to plate": "0.4", "Chain, slack": "30"}
FIGURES |= {"Scale in the body": "0.3", "Power on its display": "0.09", "Base, soft foot": "0.02"}
FIGURES |= {"Worst foot, rise": "0.03"}
ZERO = {n: {"text": "0", "unit": "V"} for n in ("v12", "v23", "v31", "v1g", "v2g", "v3g")}
LIVE = {"live_volts": {"text": "398", "unit": "V"}, "tester": "T9"}
_WORDS = {"coil": "ohms", "nuts": "leads", "winding": "insulation", "fitted": "fits", "sealed": "seal"}
_WORDS |= {"hung": "lifting", "line": "running_check", "shaking": "vibration", "bolted": "bolts"}
BASE = {bench: name for name, bench in _WORDS.items()}


def typed(value: Any) -> Any:
    """ "500 V" as it is typed at a field; words stay words."""
    if not isinstance(value, str) or (not value[:1].isdigit() and value not in ("OL",)):
        return value
    text, _, unit = value.partition(" ")
    units = {"°C": "degC", "M": "MOhm", "%": "%"}
    return {"text": text, "unit": units.get(unit, unit)}


def made_set(lead: Page, stack: Stack, tag: str, kind: str, control: str = "starter", **plate: Any) -> int:
    """A set of its own, so that no other test reads on it."""
    service = int(stack.db.sql("select min(id) from plant_service", database="hurbin_e2e"))
    body = {"tag": tag, "name": f"Job of {tag}", "kind": kind, "control": control}
    row = send(lead, f"/api/v1/services/{service}/sets", body)
    motor = next(c for c in row["components"] if c["slot"] == "motor")  # type: ignore[attr-defined]
    new = {"expected_version": motor["plate_version"], "plate": PLATE | plate, "reason": "first entry"}
    send(lead, f"/api/v1/components/{motor['id']}/plates", new)
    return int(row["id"])  # type: ignore[call-overload]


class Walk:
    """One job on one set, by two people with a device each: page works, second reads back."""

    def __init__(self, open_as: Opener, second: Page, stack: Stack, number: int, phone: bool = False) -> None:
        self.open_as, self.phone = open_as, phone
        self.page, self.second = open_as("saskia", phone=phone), second
        self.stack, self.number = stack, number
        self.isolation = str(uuid.uuid4())
        self.seen: list[str] = []
        # What the line reads, where it is not what the healthy sheets were read at.
        self.volts = ""
        self.hand = self._in_hand()

    def _in_hand(self) -> dict[str, str]:
        """Of what the site keeps: for each dimension an instrument that may read it, taken in hand."""
        where = f"select site_id from plant_pumpset where id={self.number}"
        site = self.stack.db.sql(where, database="hurbin_e2e").strip()
        hand: dict[str, str] = {}
        for row in told(self.page, f"/api/v1/sites/{site}/instruments")["instruments"]:
            if row["verdict"] == "good" and row["until"] is None and row["category"] not in ("CAT II", "II"):
                for span in row["spans"]:
                    hand.setdefault(span["reads"], str(row["id"]))
        reads = {"reads": {k: int(v) for k, v in hand.items()}}
        send(self.page, f"/api/v1/sites/{site}/in-hand", reads, "PUT")
        return hand

    @property
    def now(self) -> datetime:
        return datetime.fromisoformat(told(self.page, "/api/v1/session")["now"])

    def open(self, procedure: str, because: str) -> None:
        self.page.goto(f"{self.stack.url}/sets/{self.number}/job")
        self.page.get_by_label("What is wrong, in a few words").fill(because)
        row = self.page.locator(f"[data-procedure='{procedure}']")
        row.get_by_role("button", name="Open this job").click()
        expect(self.page.get_by_test_id("job-state")).to_contain_text(because)
        while self.page.locator("[data-ask]").count():
            self._answer(self.page.locator("[data-ask]").first)
        self.page.get_by_role("button", name="Begin with the first step").click()

    def _answer(self, ask: Locator) -> None:
        field = str(ask.get_attribute("data-ask"))
        # This one, whichever stands first by the time it is pressed.
        ask = self.page.locator(f"[data-ask='{field}']")
        if field == "weight":
            ask.get_by_role("textbox").first.fill("40")
            ask.get_by_role("button", name="Save weight").click()
        elif field == "seal_kind":
            ask.get_by_label("Seal kind or kit number").fill("type 1, 16 mm")
            ask.get_by_role("button", name="Save seal kind").click()
        elif field == "service":
            ask.get_by_role("button", name="It names nothing").click()
        else:
            ask.get_by_role("button", name="no", exact=True).click()
        expect(self.page.locator(f"[data-ask='{field}']")).to_have_count(0)

    def step(self) -> Locator:
        return self.page.locator("[data-step-now]")

    def to_end(self, stop_at: str = "", most: int = 60) -> None:
        """Every step from here, up to (not with) one."""
        for _ in range(most):
            if self.page.get_by_text("Every step is done.").is_visible():
                return
            name = str(self.step().get_attribute("data-step-now"))
            if name == stop_at:
                return
            self.one(name)
        raise AssertionError(f"the job does not end: {self.seen}")

    def one(self, name: str) -> None:
        self.seen.append(name)
        if self.step().locator("[data-proof-kind='drip'], [data-proof-kind='heat']").count():
            self.an_hour_goes_by()
        rail = self.page.locator(f"li[data-step='{name}']")
        here = self.page.locator(f"[data-step-now='{name}']")
        self._meet(name)
        expect(here).to_be_visible()
        self._type()
        if self._asks_a_record():
            self._meet(name)
            expect(here).to_be_visible()
        if self.step().get_by_text("It takes a second person.").is_visible():
            self._by_second(name)
        else:
            self.confirm()
        expect(rail).to_have_attribute("data-state", "done")

    def confirm(self) -> None:
        button = self.step().locator("button.btn-ink").first
        expect(button, f"{self.seen[-1]}: {self.step().text_content()}").to_be_enabled()
        button.click()

    def _by_second(self, name: str) -> None:
        self.second.goto(f"{self.stack.url}/sets/{self.number}/job")
        now = self.second.locator(f"[data-step-now='{name}']")
        expect(now).to_be_visible()
        expect(now.locator("button.btn-ink").first, f"{name}: {now.text_content()}").to_be_enabled()
        now.locator("button.btn-ink").first.click()
        expect(self.second.locator(f"li[data-step='{name}']")).to_have_attribute("data-state", "done")
        self.again()

    def again(self) -> None:
        self.page.reload()
        expect(self.page.get_by_test_id("job-state")).to_be_visible()
        # What the other device said is there as well.
        self.page.wait_for_load_state("networkidle")

    def _meet(self, name: str) -> None:
        """What another sheet has to say before this step can be confirmed."""
        opens = self.step().locator("[data-opens]")
        bench = str(opens.get_attribute("data-opens")) if opens.count() else ""
        wanted = self._waits("record") or self._waits("reading is missing")
        if bench == "make_safe" and name in ("I2", "I3") and name == "I2":
            self.isolate()
        elif name == "P2":
            self.give_back()
        elif bench in BASE and wanted:
            self.record(bench)
        else:
            return
        self.again()

    def _waits(self, word: str) -> bool:
        """Does this step wait for it? What was just said counts when its answer is there."""
        self.page.wait_for_timeout(200)
        return self.step().locator("[data-waits]").filter(has_text=word).count() > 0

    def _asks_a_record(self) -> bool:
        """Once what was typed is answered: does the step wait for a record? An answer takes its time."""
        ready = self.step().locator("button.btn-ink").first
        other = self.step().get_by_text("It takes a second person.").is_visible()
        for _ in range(5 if other else 24):
            if self._waits("record") or self._waits("reading is missing"):
                return True
            if ready.is_enabled():
                return False
        return False

    def _type(self) -> None:
        step = self.step()
        for look in step.locator("[data-look]").all():
            signs = look.locator("div:has-text('Used again') input")
            boxes = signs if signs.count() else look.locator("input").first
            for box in boxes.all():
                box.check()
        if step.get_by_label("Lead map").count() and step.locator("[data-lead]").count() == 0:
            for lead, line in (("U1", "L1"), ("V1", "L2"), ("W1", "L3")):
                step.get_by_label("Lead", exact=True).fill(lead)
                step.get_by_label("On conductor").fill(line)
                step.get_by_role("button", name="Add lead").click()
                expect(step.locator(f"[data-lead='{lead}']")).to_be_visible()
        self._shop()
        self._proof()
        for label, text in FIGURES.items():
            field = step.get_by_role("textbox", name=label)
            if field.count():
                field.fill(text)
        record = step.locator("label:has-text('Record:')")
        if record.count():
            step.get_by_label(record.first.text_content() or "").fill("as it was, marked")

    def _proof(self) -> None:
        fields = self.step().locator("[data-proof-kind]")
        if not fields.count():
            return
        kind = fields.get_attribute("data-proof-kind")
        rows: list[dict[str, str]] = {
            "arrow": [{"by the arrow": ""}],
            "head": [{"before": "24.0", "after": "24.3", "flow meter": "", "as before": ""}],
            "drip": [{"minute": "4", "drops": "3"}, {"minute": "31", "drops": "0"}],
            "heat": [
                {"minute": "40", "bearing": "52", "ambient": "24"},
                {"minute": "50", "bearing": "52.4", "ambient": "24"},
            ],
        }.get(str(kind), [])
        for row in rows:
            for name, text in row.items():
                if text:
                    self.page.locator(f"#f-{name}").fill(text)
                else:
                    fields.get_by_role("button", name=name, exact=True).click()
            fields.get_by_role("button", name="Save reading").click()
            expect(fields.get_by_role("button", name="Save reading")).to_be_disabled()

    def an_hour_goes_by(self) -> None:
        """All that was done on this set was done an hour earlier; both go on with another device, since these
        hold what they sent as they sent it.
        """
        earlier = "{0} = {0} - interval 1 hour"
        mine = f"pump_set_id = {self.number}"
        entries = f"sheet_id in (select uuid from logbook_sheet where {mine})"
        for table, column, which in (
            ("logbook_entry", "taken_at", entries),
            ("logbook_record", "taken_at", mine),
            ("logbook_finding", "taken_at", mine),
            ("jobs_isolationmoment", "at", mine),
        ):
            query = f"update {table} set {earlier.format(column)} where {which}"
            self.stack.db.sql(query, database="hurbin_e2e")
        self.page, self.second = self.open_as("saskia", phone=self.phone), self.open_as("jun")
        self.page.goto(f"{self.stack.url}/sets/{self.number}/job")
        expect(self.page.get_by_test_id("job-state")).to_be_visible()

    def _shop(self) -> None:
        step = self.step()
        if step.get_by_label("To the shop").count():
            step.get_by_label("Shop", exact=True).fill("Harbour pump works")
            step.get_by_label("Promised for").fill("2026-12-04")
            step.get_by_label("symptoms").check()
            step.get_by_role("button", name="Save hand-over").click()
            expect(step.locator("[data-shop='out']")).to_be_visible()
        if step.get_by_label("Back from the shop").count():
            step.get_by_label("run-outs").check()
            step.get_by_role("button", name="Accepted", exact=True).click()
            expect(step.locator("[data-shop='accepted']")).to_be_visible()

    def entries(self, bench: str, sheet: str, bodies: list[dict[str, Any]]) -> None:
        at = self.now - timedelta(seconds=len(bodies) * 0.05)
        rows = [
            {
                "uuid": str(uuid.uuid4()),
                "taken_at": (at + timedelta(milliseconds=50 * i)).isoformat(),
                "device": "other",
                "instruments": self.hand,
                "body": b,
            }
            for i, b in enumerate(bodies)
        ]
        path = f"/api/v1/benches/{bench}/sheets/{sheet}/entries"
        send(self.page, path, {"set_id": self.number, "entries": rows})

    def isolate(self) -> None:
        absent = [{"id": f"no-{k}", "kind": k, "absent": True} for k in ABSENT]
        scopes = ("motor_leads", "coupling", "wet_end", "drive_box")
        bodies: list[dict[str, Any]] = [
            {"kind": "open", "scope": s, "sources": [*LINES, *absent]} for s in scopes
        ]
        bodies += [{"kind": "told", "to": "the keeper"}, {"kind": "stopped"}]
        bodies += [{"kind": k, "source": s} for s in ("q1", "f1", "v2") for k in ("shut", "lock")]
        bodies += [
            {"kind": "proof", "act": "live_before", **LIVE},
            {"kind": "proof", "act": "dead", "tester": "T9", "point": "terminal box", **ZERO},
            {"kind": "proof", "act": "live_after", **LIVE},
            {"kind": "tried", "moved": False},
        ]
        self.entries("make_safe", self.isolation, bodies)

    def give_back(self) -> None:
        state = told(self.page, f"/api/v1/sets/{self.number}/safety")["isolation"]
        bodies: list[dict[str, Any]] = [{"kind": "restored", "item": i} for i in ("guard_on", "people_clear")]
        bodies += [{"kind": "unlock", "lock": k["id"]} for s in state["sources"] for k in s["locks"]]
        bodies += [{"kind": "opened", "source": s["id"]} for s in state["sources"] if s["shut"]]
        for item in ("valves_as_found", "automatic", "check_left", "alarms"):
            bodies.append({"kind": "restored", "item": item, "note": "proved in the job"})
        self.entries("make_safe", state["sheet"], bodies)
        done = {"set_id": self.number, "sheet": state["sheet"], "entries": []}
        send(self.page, "/api/v1/benches/make_safe/records", done)

    def record(self, bench: str, **more: Any) -> None:
        """A record of another bench, healthy."""
        like = LIKE[BASE[bench]]
        if bench == "insulation":
            bodies = [{"kind": "setup", **{k: typed(v) for k, v in like["setup"].items()}}]
            bodies += [
                {"kind": "reading", "leg": "all", "seconds": s, "ohms": {"text": t, "unit": "MOhm"}}
                for s, t in ((30, "600"), (60, "800"))
            ]
        else:
            volts = {k: self.volts for k in like["body"] if k.startswith("volts_") and self.volts}
            bodies = [{k: typed(v) for k, v in (like["body"] | volts | more).items()}]
        if bench == "lifting":
            bodies[0] |= {"legs": "2", "outside": "no"}
        if bench == "leads":
            bodies[0]["leads"] = like["body"]["leads"]
        at = self.now - timedelta(seconds=1 if bench != "insulation" else 61)
        if bench == "insulation":
            at = self.now - timedelta(seconds=60)
        rows = [
            {
                "uuid": str(uuid.uuid4()),
                "taken_at": (at + timedelta(seconds=b.get("seconds", 0))).isoformat(),
                "device": "other",
                "instruments": self.hand,
                "body": b,
            }
            for b in bodies
        ]
        body = {"set_id": self.number, "sheet": str(uuid.uuid4()), "entries": rows}
        send(self.page, f"/api/v1/benches/{bench}/records", body)

    def close(self, cause: str) -> None:
        self.page.get_by_role("button", name="Close the job").click()
        self.page.get_by_label("What broke it").fill(cause)
        self.page.get_by_label("What was behind it").fill("hours")
        self.page.get_by_role("button", name="Save cause").click()
        self.page.get_by_label("Who", exact=True).fill("Saskia")
        self.page.locator("#f-hours").fill("3.5")
        self.page.get_by_role("button", name="Save hours").click()
        self.page.get_by_role("button", name="Save record").click()
        self.page.wait_for_url(f"**/sets/{self.number}")
