"""Rotor, casing and end plate of a displacement pump, judged as one pair; the vacuum that their wear
explains.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from ...base import (
    Entered,
    Evaluation,
    Finding,
    Model,
    Quantity,
    Verdict,
    amount,
    entered_field,
    phrase,
    said_field,
)
from ...hydraulics import answer
from ...logbook import AnyCase, Entry
from ..tooling import Tool, judge_tool, lacks, small_bench, told, tool_of

BORES, DIAMETERS = ("bore_1", "bore_2", "bore_3", "bore_4"), ("rotor_1", "rotor_2", "rotor_3", "rotor_4")
WIDTHS, DEPTHS = ("width_1", "width_2"), ("depth_1", "depth_2")


def _read(label: str) -> Entered | None:
    field: Entered | None = entered_field(label, "length", low=1, high=1500)
    return field


def _maker(label: str) -> Entered | None:
    field: Entered | None = entered_field(label, "length", low=0.005, high=20, printed=True)
    return field


class RotorEntry(Model):
    """What the micrometers say of the three parts. Every field may be missing."""

    bore_1: Entered | None = _read("Casing bore 1")
    bore_2: Entered | None = _read("Casing bore 2")
    bore_3: Entered | None = _read("Casing bore 3")
    bore_4: Entered | None = _read("Casing bore 4")
    rotor_1: Entered | None = _read("Rotor diameter 1")
    rotor_2: Entered | None = _read("Rotor diameter 2")
    rotor_3: Entered | None = _read("Rotor diameter 3")
    rotor_4: Entered | None = _read("Rotor diameter 4")
    width_1: Entered | None = _read("Rotor width 1")
    width_2: Entered | None = _read("Rotor width 2")
    depth_1: Entered | None = _read("Casing depth 1")
    depth_2: Entered | None = _read("Casing depth 2")
    gasket: Entered | None = entered_field("Gasket or shim", "length", low=0, high=10)
    groove: Entered | None = entered_field("Worst groove of the plate", "length", low=0, high=10)
    radial_new: Entered | None = _maker("Radial clearance when new")
    radial_most: Entered | None = _maker("Radial clearance, manufacturer's limit")
    end_new: Entered | None = _maker("End clearance when new")
    end_most: Entered | None = _maker("End clearance, manufacturer's limit")
    plate: Literal["back", "lapped", "renewed"] | None = said_field("Fate of the plate")
    note: str = said_field("Note", "", free=True, max_length=500)


class RotorView(Model):
    """The rotor in its bore. radial_at, end_at: of the limit, else of a usual new one's ten times."""

    radial: Quantity | None = None
    end: Quantity | None = None
    usual_low: Quantity | None = None
    usual_high: Quantity | None = None
    slip_radial: Quantity | None = None
    slip_end: Quantity | None = None
    oval_bore: Quantity | None = None
    oval_rotor: Quantity | None = None
    radial_at: float | None = None
    end_at: float | None = None


def slip_times(now: float, new: float) -> float:
    """By how much more does it slip? It grows with the third power of the clearance. Common practice, no
    source.

    >>> slip_times(0.30, 0.15), round(slip_times(0.26, 0.18), 1)
    (8.0, 3.0)
    """
    return (now / new) ** 3


def replay(entries: Sequence[Entry[RotorEntry]], case: AnyCase) -> Tool[RotorEntry]:
    return tool_of(entries, RotorEntry, case)


def judge(r: Tool[RotorEntry], case: AnyCase) -> Evaluation[RotorView]:
    """Are rotor, casing and plate within the manufacturer's limits, as a pair? mm. Without those limits
    nothing is good: the usual figures are shown and the pair is unknown.
    """
    radial, end = _radial(r), _end(r)
    parts = [
        _judged(r, "rotor_radial", radial, "radial"),
        _judged(r, "rotor_end", end, "end"),
        _score(r, end),
    ]
    found = [x for x in parts if x is not None]
    pair = _pair(r, found, radial, end)
    lacking = lacks(
        rotor__angles=len(r.readings(*BORES)) < 2 or len(r.readings(*DIAMETERS)) < 2,
        rotor__gasket=r.get("gasket") is None,
    )
    missing = []
    if radial is not None and r.get("radial_most") is None:
        missing.append(("radial_most", "Enter the manufacturer's limit: without it the pair is not judged."))
    return told("rotor", r, [*found, pair], lacking, _drawn(r, radial, end), missing=missing)


def _radial(r: Tool[RotorEntry]) -> float | None:
    bores, rotors = r.readings(*BORES), r.readings(*DIAMETERS)
    if not bores or not rotors:
        return None
    if max(rotors) > min(bores):
        r.t.refuse(
            "rotor_1",
            "This rotor is larger than its bore. Check the readings.",
            "below the bore",
            "other_part",
        )
        return None
    return (max(bores) - min(rotors)) / 2


def _end(r: Tool[RotorEntry]) -> float | None:
    widths, depths, gasket = r.readings(*WIDTHS), r.readings(*DEPTHS), r.get("gasket")
    if not widths or not depths or gasket is None:
        return None
    if max(widths) > min(depths) + gasket:
        words = "This rotor is wider than its casing with the gasket: it would be clamped."
        r.t.refuse("width_1", words, "below depth and gasket", "other_part")
        return None
    return max(depths) + gasket - min(widths)


def _judged(r: Tool[RotorEntry], rule: str, clearance: float | None, name: str) -> Finding | None:
    if clearance is None:
        return None
    most = r.get(f"{name}_most")
    if most is None:
        return answer(rule, Verdict.UNKNOWN, phrase("rotor.no_limit", read=amount(clearance, "mm")))
    reason = phrase("rotor.clearance", read=amount(clearance, "mm"), most=amount(most, "mm"))
    return judge_tool(r, rule, amount(100 * clearance / most, "%"), reason)


def _score(r: Tool[RotorEntry], end: float | None) -> Finding | None:
    groove = r.get("groove")
    if groove is None or not end:
        return None
    reason = phrase("rotor.score", groove=amount(groove, "mm"), end=amount(end, "mm"))
    return judge_tool(r, "rotor_score", amount(100 * groove / end, "%"), reason)


def _pair(
    r: Tool[RotorEntry], found: list[Finding], radial: float | None, end: float | None
) -> Finding | None:
    """A pair that runs together is judged as a pair: good only where all three of it are."""
    if not found:
        return None
    if any(f.verdict.rank > Verdict.UNKNOWN.rank for f in found):
        return answer("rotor_pair", Verdict.ACT, phrase("rotor.pair_worn"))
    if len(found) < 3 or radial is None or end is None:
        return answer("rotor_pair", Verdict.UNKNOWN, phrase("rotor.pair_open"))
    if any(f.verdict is not Verdict.GOOD for f in found):
        return answer("rotor_pair", Verdict.UNKNOWN, phrase("rotor.pair_open"))
    if len(r.readings(*BORES)) < 2 or len(r.readings(*DIAMETERS)) < 2:
        return answer("rotor_pair", Verdict.UNKNOWN, phrase("rotor.pair_open"))
    return answer("rotor_pair", Verdict.GOOD, phrase("rotor.pair"))


def _drawn(r: Tool[RotorEntry], radial: float | None, end: float | None) -> RotorView:
    view, rotors, bores = RotorView(), r.readings(*DIAMETERS), r.readings(*BORES)
    if rotors:
        hundreds = max(rotors) / 100
        view.usual_low = amount(r.limits.value("rotor.new_low") * hundreds, "mm")
        view.usual_high = amount(r.limits.value("rotor.new_high") * hundreds, "mm")
    if len(bores) > 1:
        view.oval_bore = amount(max(bores) - min(bores), "mm")
    if len(rotors) > 1:
        view.oval_rotor = amount(max(rotors) - min(rotors), "mm")
    for name, now in (("radial", radial), ("end", end)):
        if now is None:
            continue
        setattr(view, name, amount(now, "mm"))
        new, most = r.get(f"{name}_new"), r.get(f"{name}_most")
        if new:
            setattr(view, f"slip_{name}", amount(slip_times(now, new), "1"))
        if most:
            setattr(view, f"{name}_at", min(1.5, now / most))
    return view


ROTOR = small_bench(
    "rotor",
    "#",
    "Rotor and casing",
    "Rotors measured",
    "a rotor and casing",
    "Measure rotor and casing",
    "judge rotor, casing and end plate as a pair",
    66,
    "pump",
    RotorEntry,
    RotorView,
    replay,
    judge,
)
