"""The table of sheets: states a technician could really leave, each with what must be said of it.

One adapter turns a file into a bench's entries and context: when input shapes change it changes, never the
answers. `like.toml` holds whole, healthy sheets; a file says what differs. Figures are strings as they are
typed.
"""

from __future__ import annotations

import tomllib
from copy import deepcopy
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from cases import case

from hurbin_core.base import Evaluation, entry_of, field_rules
from hurbin_core.catalogue import bench
from hurbin_core.electrical.circuit import circuit_of
from hurbin_core.electrical.control.parts import usual_control
from hurbin_core.hydraulics import LoopPlate
from hurbin_core.logbook import AnyCase, Entry
from hurbin_core.plant import ControlPlate, FusesPlate, MotorPlate, PumpPlate

HERE = Path(__file__).parent / "sheets"
AT = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
LIKE: dict[str, dict[str, Any]] = tomllib.loads((HERE / "like.toml").read_text())
KEYS = {
    "amps": "at=motor_leads;coupled=yes;hz=line;valve=open",
    "insulation": "at=motor;links=in;phases=together;volts=500",
}


@dataclass
class Sheet:
    """One file of the table, laid over the healthy sheet it is like."""

    name: str
    says: str
    raw: dict[str, Any]

    @property
    def expect(self) -> dict[str, Any]:
        return dict(self.raw["expect"])


def sheets() -> list[Sheet]:
    out = []
    for path in sorted(HERE.glob("*/*.toml")):
        own = tomllib.loads(path.read_text())
        raw = _laid(deepcopy(LIKE[own["like"]]), own)
        out.append(Sheet(f"{path.parent.name}/{path.stem}", own["says"], raw))
    return out


def _laid(base: dict[str, Any], own: dict[str, Any]) -> dict[str, Any]:
    for key, value in own.items():
        if key == "unset":
            for path in value:
                _drop(base, path.split("."))
        elif key in ("body", "setup", "context", "measures"):
            base[key] = _merged(base.get(key, {}), value)
        else:
            base[key] = value
    return base


def _merged(a: dict[str, Any], b: dict[str, Any]) -> dict[str, Any]:
    out = dict(a)
    for k, v in b.items():
        out[k] = _merged(out[k], v) if isinstance(v, dict) and isinstance(out.get(k), dict) else v
    return out


def _drop(base: dict[str, Any], path: list[str]) -> None:
    for name in path[:-1]:
        base = base.get(name, {})
    base.pop(path[-1], None)


def _typed(model: Any, body: dict[str, Any]) -> dict[str, Any]:
    """Strings where a figure is typed become figures as typed."""
    figures = field_rules(model)
    return {k: {"text": v} if k in figures and isinstance(v, str) else v for k, v in body.items()}


def _entries(raw: dict[str, Any]) -> list[Any]:
    model = bench(raw["bench"]).entry
    rows: list[dict[str, Any]] = []
    if "body" in raw:
        rows.append(raw["body"])
    if "setup" in raw:
        rows.append({"kind": "setup", **raw["setup"]})
        rows += [_reading(r) for r in raw.get("readings", [])]
    if "measures" in raw:
        rows.append({"kind": "measures", **raw["measures"]})
    rows += [_walked(line) for line in raw.get("walk", [])]
    rows += [e for e in raw.get("entries", []) if e.get("id") not in raw.get("drop", [])]
    for more in raw.get("insert", []):
        place = next(i for i, e in enumerate(rows) if e.get("id") == more["before"])
        rows.insert(place, {k: v for k, v in more.items() if k != "before"})
    return [_entry(model, n, row) for n, row in enumerate(rows)]


def _reading(r: list[Any]) -> dict[str, Any]:
    return {"kind": "reading", "seconds": r[0], "ohms": r[1], "leg": r[2] if len(r) > 2 else "all"}


def _walked(line: str) -> dict[str, Any]:
    """A reading in one line: "F.in.1 F.in.2 400 V in standing low"; a dash for what was not said."""
    one, two, figure, unit, *stood = line.split()
    name = {"V": "volts", "mV": "volts", "A": "amps"}.get(unit, "ohms")
    words = dict(zip(("contactor", "motor", "meter", "leads"), stood, strict=False))
    said = {k: v for k, v in words.items() if v != "-"}
    ends = {"one": one, **({"two": two} if two != "-" else {})}
    return {"kind": "reading", **ends, name: f"{figure} {unit}", **said}


def _circuit(told: dict[str, Any]) -> dict[str, Any]:
    """The circuit kept with a set: a usual one with what is said otherwise of it."""
    made = circuit_of(told["kind"], told.get("volts", 400.0)).model_dump()
    made["supply"]["earthing"] = told.get("earthing", "unknown")
    made["taps_known"] = told.get("taps_known", True)
    for e in made["elements"]:
        e["taps"] = told.get("taps", {}).get(e["id"], [])
    if told.get("control"):
        made["control"] = usual_control().model_dump() | told.get("ladder", {})
        for e in made["control"]["elements"]:
            e.update(told.get("elements", {}).get(e["id"], {}))
    return {"circuit": made, "version": told.get("version", 1)}


def _job(told: dict[str, Any]) -> dict[str, Any]:
    """What a job is told of its set; times in minutes of its sheet."""
    for row in (*told.get("moments", []), *told.get("records", [])):
        name = "at" if "state" in row else "taken_at"
        row[name] = AT + timedelta(minutes=row.pop("minute"))
    return told


def _entry(model: Any, n: int, row: dict[str, Any]) -> Any:
    body = dict(row)
    uuid, by = body.pop("id", f"entry-{n:04d}"), body.pop("by", "Ada")
    at = AT + timedelta(seconds=body.pop("at_s", 60 * n))
    device = body.pop("device", "phone")
    return Entry[Any](
        uuid=uuid,
        taken_at=at,
        by=by,
        who=by.lower(),
        device=device,
        body=entry_of(model, _typed(model, body)),
    )


def _case(raw: dict[str, Any]) -> AnyCase:
    c = deepcopy(raw.get("context", {}))
    as_of = AT + timedelta(hours=12)
    past, insulation = c.pop("past_amps", None), c.pop("past_insulation", None)
    history = [*_amps(past, as_of)] if past else []
    history += _winding(insulation, as_of) if insulation else []
    lift = c.pop("past_lift", None)
    history += _lift(lift, as_of) if lift else []
    for name, model in (
        ("motor", MotorPlate),
        ("control", ControlPlate),
        ("fuses", FusesPlate),
        ("pump", PumpPlate),
    ):
        if name in c:
            c[name] = model.model_validate(_typed(model, c[name]))
    for cut in c.get("cuts", []):
        cut["at"] = as_of - timedelta(days=cut.pop("days"))
    for limit in c.get("interim", []):
        limit["until"] = as_of + timedelta(days=limit.pop("until_days"))
    for over in c.get("overrides", []):
        over |= {"reason": "as agreed", "by": "a lead", "at": as_of}
    if "circuit" in c:
        c["circuit"] = _circuit(c["circuit"])
    if "loop" in c:
        c["loop"] = {"name": "Loop", "plate": _typed(LoopPlate, c["loop"]), "tags": ["A-1"]}
    if "job" in c:
        c["job"] = _job(c["job"])
    if "isolation" in c:
        c["isolation"] = {"state": c["isolation"], "sheet": "s", "since": AT - timedelta(hours=1)}
    for name in ("last", "earlier"):
        if name in c:
            rows = [_sheet(x, raw, as_of) for x in (c[name] if isinstance(c[name], list) else [c[name]])]
            c[name] = rows if name == "earlier" else rows[0]
    return case(as_of, history=history, **c)


def _sheet(x: dict[str, Any], raw: dict[str, Any], as_of: datetime) -> dict[str, Any]:
    model = bench(raw["bench"]).entry
    body = _typed(model, x["body"])
    return {
        "taken_at": as_of - timedelta(days=x.get("days", 30)),
        "body": body,
        "conditions": x.get("conditions", KEYS["amps"]),
    }


def _amps(past: dict[str, Any], as_of: datetime) -> list[dict[str, Any]]:
    rows, n = [], len(past["mean"])
    for i, mean in enumerate(past["mean"]):
        figures = {"current_mean": mean, "voltage_mean": past.get("volts", 400.0), "current_unbalance": 0.5}
        at = as_of - timedelta(days=30 * (n - i))
        conditions = past.get("conditions", KEYS["amps"])
        rows += [
            {"measurand": m, "value": v, "conditions": conditions, "taken_at": at, "record": str(i)}
            for m, v in figures.items()
        ]
    return rows


def _lift(past: dict[str, Any], as_of: datetime) -> list[dict[str, Any]]:
    rows = []
    for i, (flow, amps) in enumerate(zip(past["flow"], past["amps"], strict=True)):
        for measurand, value in (("drawdown_flow", flow), ("drawdown_amps", amps)):
            at = as_of - timedelta(days=60 * (i + 1))
            rows.append(
                {"measurand": measurand, "value": value, "conditions": "", "taken_at": at, "record": str(i)}
            )
    return rows


def _winding(past: dict[str, Any], as_of: datetime) -> list[dict[str, Any]]:
    n, every = len(past["r40"]), past.get("every", 100)
    return [
        {
            "measurand": "insulation_40",
            "value": v,
            "conditions": past.get("conditions", KEYS["insulation"]),
            "taken_at": as_of - timedelta(days=every * (n - i)),
            "record": str(i),
        }
        for i, v in enumerate(past["r40"])
    ]


def case_and_entries(sheet: Sheet) -> tuple[AnyCase, list[Any]]:
    """The sheet as a bench takes it."""
    return _case(sheet.raw), _entries(sheet.raw)


def evaluate(sheet: Sheet) -> Evaluation[Any]:
    """What the bench says of this sheet, through its public door."""
    return bench(sheet.raw["bench"]).evaluate(*case_and_entries(sheet))
