"""What hangs on the demo's sets, by the same doors that people use: calls, locks, proofs, temporary changes,
a repair put off.
"""

from __future__ import annotations

import tomllib
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any

from hurbin_core.catalogue import bench
from hurbin_core.safety import SOURCES, DeferralIn, IsolationSource, SetFacts, needed, proposed
from hurbin_core.simulator import TwoPoleTester
from hurbin_server.base.models import User
from hurbin_server.logbook.services.casing import case_for
from hurbin_server.logbook.services.sheets import append_entries
from hurbin_server.plant.models import PumpSet
from hurbin_server.plant.services.events import add_event
from hurbin_server.safety.services.calling import report
from hurbin_server.safety.services.changing import keep_list, put_off, put_on
from hurbin_server.safety.services.standing import BENCH

_DATA = tomllib.loads((Path(__file__).parent / "demo" / "safety.toml").read_text())
_NAMESPACE = uuid.UUID("4a0f6f0a-8a0c-4f9c-9f5b-2c62a6c2b7d4")
SERVES = {
    "LAG": "animals",
    "KELP": "animals",
    "COLD": "cooling",
    "PALM": "heat",
    "SAND": "process",
    "LIFT": "sewage",
    "OZON": "process",
    "MAKE": "process",
    "MIST": "other",
    "BOIL": "heat",
    "CAFE": "heat",
}


def _key(*words: object) -> str:
    return str(uuid.uuid5(_NAMESPACE, "/".join(map(str, words))))


@dataclass(slots=True)
class SafetyLife:
    """Everything that stands open at `as_of`, for the sets that are there."""

    as_of: datetime
    users: dict[str, User]
    sets: dict[str, PumpSet]

    def happen(self) -> None:
        listed = {x["tag"] for x in _DATA["list"]}
        for tag, row in self.sets.items():
            if tag not in listed:
                keep_list(self.users["teodor"], row.pk, 0, _usual_list(row, self.as_of))
        for x in _here(_DATA["list"], self.sets):
            keep_list(
                self.users["teodor"],
                self.sets[x["tag"]].pk,
                0,
                [IsolationSource.model_validate(line) for line in x["lines"]],
            )
        for x in _here(_DATA["isolated"], self.sets):
            self._isolated(x)
        for x in _here(_DATA["event"], self.sets):
            at = self.as_of - timedelta(hours=x["hours"])
            add_event(self.users[x["by"]], self.sets[x["tag"]].pk, x["kind"], at, x["note"])
        for x in _here(_DATA["change"], self.sets):
            at = self.as_of - timedelta(days=x["days"])
            put_on(
                self.users[x["by"]],
                self.sets[x["tag"]].pk,
                _key("change", x["tag"]),
                at,
                kind=x["kind"],
                place=x["place"],
                note=x["note"],
            )
        for x in _here(_DATA["deferral"], self.sets):
            self._put_off(x)
        for x in _here(_DATA["call"], self.sets):
            row = self.sets[x["tag"]]
            report(
                self.users[x["by"]],
                row.site_id,
                _key("call", x["tag"]),
                self.as_of - timedelta(hours=x["hours"]),
                complaint=x["complaint"],
                set_id=row.pk,
                note=x["note"],
            )

    def _put_off(self, x: dict[str, Any]) -> None:
        limits = [
            {
                "measurand": b["measurand"],
                "leg": b["leg"],
                "value": {"text": b["text"], "unit": b["unit"]},
                "does": b["does"],
            }
            for b in x["limits"]
        ]
        words = {k: x[k] for k in ("part", "what", "reason", "standby", "changes_mind")}
        decision = DeferralIn.model_validate(
            {**words, "until": self.as_of + timedelta(days=x["until_days"]), "limits": limits}
        )
        put_off(
            self.users[x["by"]],
            self.sets[x["tag"]].pk,
            _key("deferral", x["tag"]),
            decision,
            at=self.as_of - timedelta(days=x["days"]),
        )

    def _isolated(self, x: dict[str, Any]) -> None:
        """One begins, a second locks on, the shift changes: the next one's lock goes on before the first
        one's comes off.
        """
        row, rng = self.sets[x["tag"]], Random(f"safe/{x['tag']}")
        lines = self.lines(row)
        at = self.as_of - timedelta(hours=x["hours"])
        sheet, first = _key("sheet", x["tag"]), self.users[x["first"]]
        must = [n.source for n in needed(lines, [x["scope"]]) if n.must]

        def say(who: User, when: datetime, n: str, **body: Any) -> None:
            entry = {
                "uuid": _key(x["tag"], who.username, n),
                "taken_at": when,
                "device": f"{who.username}'s phone",
                "body": body,
            }
            append_entries(who, row.pk, bench("make_safe"), sheet, [entry])

        minutes = iter(at + timedelta(minutes=m) for m in range(0, 200, 2))
        said = [line.model_dump(mode="json", exclude_defaults=True) for line in lines]
        say(first, next(minutes), "open", kind="open", scope=x["scope"], sources=said)
        say(first, next(minutes), "told", kind="told", to=x["told"])
        say(first, next(minutes), "stopped", kind="stopped")
        for s in must:
            seen = "off, seen" if s.kind == "supply" else ""
            say(first, next(minutes), f"shut {s.id}", kind="shut", source=s.id, seen=seen)
        for who in (first, *([self.users[x["second"]]] if x["second"] else [])):
            for s in must:
                say(who, next(minutes), f"lock {s.id}", kind="lock", source=s.id)
        for s in (m for m in must if SOURCES[m.kind].read):
            left = {"text": f"{rng.uniform(2, 9):.1f}", "unit": "V"}
            say(first, next(minutes), f"bled {s.id}", kind="released", source=s.id, reading=left)
        for n, body in enumerate(self.proof(x, TwoPoleTester(x["tester"]), rng)):
            say(first, next(minutes), f"proof {n}", kind="proof", tester=x["tester"], **body)
        say(first, next(minutes), "tried", kind="tried", moved=False)
        if x["taken_over_by"]:
            self._taken_over(x, [s.id for s in must], say)

    def _taken_over(self, x: dict[str, Any], must: list[str], say: Callable[..., None]) -> None:
        change = self.as_of - timedelta(hours=x["shift_change_hours"])
        first, third = self.users[x["first"]], self.users[x["taken_over_by"]]
        say(first, change, "handover", kind="handover", to=third.full_name)
        for n, s in enumerate(must):
            say(third, change + timedelta(minutes=2 + n), f"lock {s}", kind="lock", source=s)
        for n, s in enumerate(must):
            lock = _key(x["tag"], first.username, f"lock {s}")
            say(first, change + timedelta(minutes=12 + n), f"unlock {s}", kind="unlock", lock=lock)

    def lines(self, row: PumpSet) -> list[IsolationSource]:
        """The isolation list of this set: its own where it has one, else what somebody made of it."""
        own = next((y["lines"] for y in _DATA["list"] if y["tag"] == row.tag), None)
        if own is None:
            return _usual_list(row, self.as_of)
        return [IsolationSource.model_validate(y) for y in own]

    def proof(self, x: dict[str, Any], tester: TwoPoleTester, rng: Random) -> Iterator[dict[str, Any]]:
        live = {"live_volts": {"text": tester.shows(x["supply_volts"], rng), "unit": "V"}}
        yield {"act": "live_before", **live}
        pairs = {
            n: {"text": tester.shows(rng.uniform(0, 40), rng, picked_up=True), "unit": "V"}
            for n in ("v12", "v23", "v31", "v1g", "v2g", "v3g")
        }
        yield {"act": "dead", "point": x["point"], **pairs}
        yield {"act": "live_after", "live_volts": {"text": tester.shows(x["supply_volts"], rng), "unit": "V"}}


def _here(rows: list[dict[str, Any]], sets: dict[str, PumpSet]) -> list[dict[str, Any]]:
    return [x for x in rows if x["tag"] in sets]


# What a device of each kind of source is called on the labels here, and how it is tried.
_LABELS = {
    "supply": ("isolator Q{n}", "hasp for six locks", "start button"),
    "control_supply": ("fuse F{n}", "locked carrier", "pilot lamp dark"),
    "bypass_starter": ("isolator QB{n}", "hasp", "bypass lamp dark"),
    "automation_start": ("terminals A{n}", "blind plug", "call from the controller: nothing"),
    "sister_header": ("valve V{n} S", "chain", "drain runs dry"),
    "gravity": ("valve V{n} S", "chain", "gauge at zero"),
    "drive_bus": ("DC bus terminals of drive U{n}", "", "measured after the time on the label"),
    "capacitors": ("run capacitor C{n}", "", "measured across its terminals"),
    "turning_by_flow": ("valve V{n} D", "chain", "shaft stays when the others run"),
}
_HOT = ("PALM", "BOIL", "CAFE")


def _usual_list(row: PumpSet, as_of: datetime) -> list[IsolationSource]:
    """The isolation list that somebody made of this set: what the set can have, each by its label here."""
    case = case_for(row, bench(BENCH), as_of)[0]
    number = row.tag.rpartition("-")[2]
    hot = row.service.code in _HOT
    out = []
    for p in proposed([], SetFacts.of(case)):
        label = _LABELS.get(p.kind)
        wet = p.kind in ("sister_header", "gravity", "turning_by_flow")
        if p.kind == "heat" and hot:
            label = ("valves H{n} and H{n}A, bleed between", "chain through both", "cool to the hand")
        if label is None:
            out.append(IsolationSource(id=p.kind, kind=p.kind, absent=True))
            continue
        device, lock, tried = label
        blocked = p.kind == "heat" or (hot and wet) or (row.service.code == "LIFT" and wet)
        fed = p.kind == "supply" and row.service.code == "BOIL"
        out.append(
            IsolationSource(
                id=p.kind,
                kind=p.kind,
                device=device.format(n=number),
                place=row.place,
                means="double_block_bleed" if blocked else p.means,
                lock=lock,
                try_out=tried,
                sister=p.sister,
                hazard=blocked,
                feeds="burner control and its low-water cut-off" if fed else "",
                tell="whoever runs the boilers" if fed else "",
            )
        )
    return out
