"""How far is a wear ring open, and what does the leak cost?"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from ...base import (
    TABLES,
    Entered,
    Evaluation,
    Finding,
    Model,
    Quantity,
    Verdict,
    amount,
    entered_field,
    exceeds,
    phrase,
    said_field,
)
from ...logbook import AnyCase, Entry
from ..tooling import Tool, judge_tool, lacks, small_bench, told, tool_of

BORES = ("bore_1", "bore_2", "bore_3", "bore_4")
WHEELS = ("wheel_1", "wheel_2", "wheel_3", "wheel_4")


class RingsEntry(Model):
    """A ring and the impeller ring that runs in it, at up to four points of the clock."""

    diameter: Entered | None = entered_field("Ring diameter", "length", low=20, high=2000, printed=True)
    new: Entered | None = entered_field("Clearance when new", "length", low=0.02, high=10, printed=True)
    table: Literal["small", "api"] | None = said_field("Without the manufacturer's figure")
    galling: Literal["yes", "no"] | None = said_field("Galling materials or hot liquid")
    bore_1: Entered | None = entered_field("Ring bore, 12 o'clock", "length", low=20, high=2000)
    bore_2: Entered | None = entered_field("Ring bore, 3 o'clock", "length", low=20, high=2000)
    bore_3: Entered | None = entered_field("Ring bore, 1:30", "length", low=20, high=2000)
    bore_4: Entered | None = entered_field("Ring bore, 4:30", "length", low=20, high=2000)
    wheel_1: Entered | None = entered_field("Impeller ring, 12 o'clock", "length", low=20, high=2000)
    wheel_2: Entered | None = entered_field("Impeller ring, 3 o'clock", "length", low=20, high=2000)
    wheel_3: Entered | None = entered_field("Impeller ring, 1:30", "length", low=20, high=2000)
    wheel_4: Entered | None = entered_field("Impeller ring, 4:30", "length", low=20, high=2000)
    spun: Literal["yes", "no"] | None = said_field("Its land has spun")
    head: Entered | None = entered_field("Pump head", "head", low=0.5, high=2000)
    efficiency: Entered | None = entered_field("Pump and motor efficiency", "percent", low=5, high=100)
    hours: Entered | None = entered_field("Run hours a year", "run_time", low=1, high=8784, printed=True)
    price: Entered | None = entered_field("Price of a kWh", "ratio", low=0.001, high=100, printed=True)
    note: str = said_field("Note", "", free=True, max_length=500)


class RingsView(Model):
    """The ring drawn by the clock: the gap at each point, in times of new; its leak and what it costs."""

    new: Quantity | None = None
    gaps: list[Quantity] = []
    times: list[float] = []
    leak: Quantity | None = None
    leak_new: Quantity | None = None
    energy: Quantity | None = None
    cost: Quantity | None = None


def ring_leak(diameter: float, clearance: float, across: float) -> float:
    """What leaks past one ring, m³/h: 0.5·π·D·(c/2)·√(2gΔH); D, c in mm, ΔH in m of liquid. Indicative:
    common practice, no source.

    >>> round(ring_leak(120, 0.40, 25), 1)
    3.0
    """
    return 0.5 * math.pi * diameter / 1000 * clearance / 2000 * math.sqrt(2 * 9.80665 * across) * 3600


def new_clearance(diameter: float, table: str, galling: bool, r: Tool[RingsEntry]) -> float | None:
    """The diametral clearance of a new ring, mm, without the manufacturer's: by rule for small cold-water
    pumps, or the API 610 table.
    """
    if table == "small":
        new = r.limits.value("rings.base") + r.limits.value("rings.per_mm") * diameter
    else:
        row = TABLES["rings.new"].at(diameter)
        if row is None:
            return None
        new = row["clearance"]
    return new + (r.limits.value("rings.galling") if galling else 0.0)


def replay(entries: Sequence[Entry[RingsEntry]], case: AnyCase) -> Tool[RingsEntry]:
    return tool_of(entries, RingsEntry, case)


def judge(r: Tool[RingsEntry], case: AnyCase) -> Evaluation[RingsView]:
    """Is the ring open past 1.5 or 2 times new, has it closed in? mm, m³/h, kWh a year. The pair is judged:
    bore less impeller ring, point by point.
    """
    gaps, new = _gaps(r), _new(r)
    view = _drawn(r, gaps, new)
    lacking = lacks(
        rings__points=len(gaps) < 2,
        rings__spun=r.body.spun is None,
    )
    missing = []
    if gaps and new is None:
        missing.append(
            ("new", "Enter the clearance when new, or choose a table figure and enter the diameter.")
        )
    return told("rings", r, _found(r, gaps, new), lacking, view, missing=missing)


def _gaps(r: Tool[RingsEntry]) -> list[float]:
    out = []
    for b, w in zip(BORES, WHEELS, strict=True):
        bore, wheel = r.get(b), r.get(w)
        if bore is None or wheel is None:
            continue
        if bore - wheel <= 0:
            r.t.refuse(
                w, "The impeller ring is larger than its bore here. Check the two readings.", "below the bore"
            )
        elif exceeds(100 * (bore - wheel), r.limits.value("rings.same_pair") * bore):
            words = "So wide a gap is no ring's: the two readings are not of one pair."
            r.t.refuse(w, words, "the ring that runs in this bore", "other_part")
        else:
            out.append(bore - wheel)
    return out


def _new(r: Tool[RingsEntry]) -> float | None:
    own = r.get("new")
    if own is not None:
        return own
    d = r.get("diameter")
    if d is None or r.body.table is None or r.body.galling is None:
        return None
    return new_clearance(d, r.body.table, r.body.galling == "yes", r)


def _found(r: Tool[RingsEntry], gaps: list[float], new: float | None) -> list[Finding]:
    if not gaps or not new:
        return []
    most, least = max(gaps), min(gaps)
    reason = phrase("rings.open", gap=amount(most, "mm"), new=amount(new, "mm"))
    closed = phrase("rings.least", gap=amount(least, "mm"), new=amount(new, "mm"))
    out = [judge_tool(r, "ring_gap", amount(most / new, "1"), reason)]
    out.append(judge_tool(r, "ring_closed", amount(least / new, "1"), closed))
    if r.body.spun == "yes":
        out[0] = out[0].model_copy(
            update={"verdict": Verdict.ACT, "reason": phrase("rings.spun"), "line": None, "unknown": None}
        )
    return out


def _drawn(r: Tool[RingsEntry], gaps: list[float], new: float | None) -> RingsView:
    view = RingsView(
        new=amount(new, "mm") if new else None,
        gaps=[amount(g, "mm") for g in gaps],
        times=[g / new for g in gaps] if new else [],
    )
    d, head = r.get("diameter"), r.get("head")
    if not gaps or d is None or head is None:
        return view
    across = head * r.limits.value("rings.share") / 100
    mean = sum(gaps) / len(gaps)
    leak = ring_leak(d, mean, across)
    view.leak = amount(leak, "m3/h")
    if not new:
        return view
    fresh = ring_leak(d, new, across)
    view.leak_new = amount(fresh, "m3/h")
    eta, hours = r.get("efficiency"), r.get("hours")
    if eta and hours and leak > fresh:
        kwh = (leak - fresh) / 3600 * 998.0 * 9.80665 * head / 1000 / (eta / 100) * hours
        view.energy = amount(kwh, "kWh")
        if r.get("price"):
            view.cost = amount(kwh * (r.get("price") or 0.0), "1")
    return view


RINGS = small_bench(
    "rings",
    "[",
    "Wear rings",
    "Wear rings",
    "a ring clearance",
    "Measure wear rings",
    "measure wear rings and what they cost",
    61,
    "pump",
    RingsEntry,
    RingsView,
    replay,
    judge,
)
