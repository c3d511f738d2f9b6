"""Two people at one sheet at the same moment, again and again: what was answered with a yes has its effect.

One adds an entry while the other closes the sheet. Afterwards the entry stands in the record, or beside it as
late; a yes to an entry that is neither is counted as without effect.
"""

from __future__ import annotations

import http.client
import json
import random
import threading
import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

from .fuzz import signed_in

SOURCES = [
    {"id": "q1", "kind": "supply", "device": "isolator Q1", "place": "panel A", "means": "isolator"},
    {"id": "no-auto", "kind": "automation_start", "absent": True},
    {"id": "no-flow", "kind": "turning_by_flow", "absent": True},
]


class Person:
    """Somebody with a connection of their own."""

    def __init__(self, port: int, user: str) -> None:
        self.head = {"Content-Type": "application/json", **signed_in(port, user)}
        self.door = http.client.HTTPConnection("127.0.0.1", port, timeout=60)

    def ask(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        self.door.request(method, f"/api/v1{path}", json.dumps(body) if body else None, self.head)
        answer = self.door.getresponse()
        text = answer.read()
        return answer.status, json.loads(text) if text else None


@dataclass(slots=True)
class Race:
    """One kind of sheet: what opens it, what is added in the race, and how it is closed."""

    bench: str
    opened: Callable[[], list[dict[str, Any]]]
    added: Callable[[], dict[str, Any]]
    # What of the added entry a record's facts show.
    mark: str
    leaves: bool = False
    # What is done between the tries, so that the next begins with a set as it was.
    after: Callable[[Person, int, str], None] | None = None


@dataclass(slots=True)
class Told:
    tries: int = 0
    taken: int = 0
    late: int = 0
    inside: int = 0
    lost: list[str] = field(default_factory=list)


def _mm(text: str) -> dict[str, str]:
    return {"text": text, "unit": "mm"}


def _setup() -> dict[str, Any]:
    return {
        "kind": "setup",
        "test_point": "motor",
        "links": "in",
        "phases": "together",
        "test_volts": {"text": "500", "unit": "V"},
        "arresters_off": True,
        "winding": {"text": "20", "unit": "degC"},
    }


def _reading(seconds: float, ohms: str) -> dict[str, Any]:
    return {
        "kind": "reading",
        "leg": "all",
        "seconds": seconds,
        "ohms": {"text": ohms, "unit": "MOhm"},
    }


def _isolated() -> list[dict[str, Any]]:
    return [
        {"kind": "open", "scope": "motor_leads", "sources": SOURCES},
        {"kind": "told", "to": "the keeper"},
        {"kind": "stopped"},
        {"kind": "shut", "source": "q1"},
        {"kind": "opened", "source": "q1"},
        *({"kind": "restored", "item": i} for i in ("guard_on", "people_clear")),
        *(
            {"kind": "restored", "item": i, "note": "stands by" if i == "check_left" else ""}
            for i in ("valves_as_found", "automatic", "check_left", "alarms")
        ),
    ]


def _unlocked(who: Person, number: int, sheet: str) -> None:
    """Whoever locked in time takes the lock off again, and gives the set back."""
    state = who.ask("GET", f"/sets/{number}/safety")[1]["isolation"]
    locks = [k["id"] for s in state["sources"] for k in s["locks"]]
    for lock in locks:
        off = _sending(number, {"kind": "unlock", "lock": lock})
        who.ask("POST", f"/benches/make_safe/sheets/{sheet}/entries", off)
    who.ask("POST", "/benches/make_safe/records", {"set_id": number, "sheet": sheet, "entries": []})


RACES = [
    Race(
        "insulation",
        lambda: [_setup(), _reading(30, "600"), _reading(60, "900")],
        lambda: _reading(120, "951"),
        "951",
    ),
    Race("make_safe", _isolated, lambda: {"kind": "lock", "source": "q1"}, "Jun", after=_unlocked),
    Race(
        "alignment",
        lambda: [{"kind": "measures", "face_diameter": _mm("150")}],
        lambda: {"kind": "moved", "pack_front_left": "0.25 mm"},
        "0.25",
        leaves=True,
    ),
]
_clock: list[datetime] = []


def _sending(number: int, *bodies: dict[str, Any]) -> dict[str, Any]:
    entries = []
    for b in bodies:
        _clock[0] += timedelta(seconds=1)
        entries.append(
            {"uuid": str(uuid.uuid4()), "taken_at": _clock[0].isoformat(), "device": "drill", "body": b}
        )
    return {"set_id": number, "entries": entries}


def run(port: int, race: Race, sets: list[int], tries: int, as_of: str, seed: int) -> Told:
    """So many tries of one race, on these sets in turn."""
    rng, told = random.Random(seed), Told()
    one, two = Person(port, "saskia"), Person(port, "jun")
    _clock[:] = [datetime.fromisoformat(as_of) - timedelta(days=2)]
    for n in range(tries):
        number, sheet = sets[n % len(sets)], str(uuid.uuid4())
        path = f"/benches/{race.bench}/sheets/{sheet}/entries"
        status, made = one.ask("POST", path, _sending(number, *race.opened()))
        if status != 200:
            raise RuntimeError(f"{race.bench}: {made}")
        sheet = made["uuid"]
        more = _sending(number, race.added())
        close = (
            (f"/sheets/{sheet}/leave", {"reason": "called away"})
            if race.leaves
            else (f"/benches/{race.bench}/records", {"set_id": number, "sheet": sheet, "entries": []})
        )
        add = (f"/benches/{race.bench}/sheets/{sheet}/entries", more)
        answer = _at_once(lambda a=add: two.ask("POST", *a), lambda c=close: one.ask("POST", *c), rng)  # type: ignore[misc]
        _count(told, race, one, sheet, more["entries"][0], answer)
        if race.after is not None:
            race.after(two, number, sheet)
    return told


def _at_once(add: Callable[[], tuple[int, Any]], close: Callable[[], Any], rng: random.Random) -> int:
    """Both within a few hundredths of a second, either first; what the one who adds was answered."""
    pause, both, said = rng.uniform(-0.02, 0.02), threading.Barrier(2), [0]

    def adds() -> None:
        both.wait()
        time.sleep(max(0.0, pause))
        said[0] = add()[0]

    other = threading.Thread(target=adds)
    other.start()
    both.wait()
    time.sleep(max(0.0, -pause))
    close()
    other.join()
    return said[0]


def _count(told: Told, race: Race, who: Person, sheet: str, sent: dict[str, Any], answer: int) -> None:
    told.tries += 1
    if answer != 200:
        return
    told.taken += 1
    now = who.ask("GET", f"/sheets/{sheet}")[1]
    row = next((e for e in now["entries"] if e["uuid"] == sent["uuid"]), None)
    if row is not None and row["late"]:
        told.late += 1
    elif row is not None and _has_effect(race, who, now, row):
        told.inside += 1
    else:
        told.lost.append(f"{race.bench} {sheet} {sent['uuid']}")


def _has_effect(race: Race, who: Person, sheet: dict[str, Any], row: dict[str, Any]) -> bool:
    """On an open sheet it stands; in a record it is found; on a sheet that was left it came before that."""
    if sheet["closed_at"] is None:
        return True
    if sheet["record"] is None:
        return bool(datetime.fromisoformat(row["received_at"]) <= datetime.fromisoformat(sheet["closed_at"]))
    facts = who.ask("GET", f"/records/{sheet['record']}")[1]["body"]
    return race.mark in json.dumps(facts)


def said(told: dict[str, Told]) -> list[str]:
    """A line for each kind of sheet."""
    return [
        f"{bench}: {t.tries} times an entry while the sheet was closed, {t.taken} answered with a yes:"
        f" {t.inside} with effect, {t.late} beside it as late, {len(t.lost)} without effect."
        for bench, t in told.items()
    ]
