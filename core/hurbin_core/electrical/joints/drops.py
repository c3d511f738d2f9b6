"""Millivolts across closed contacts, fuses and heaters under load: what no ohmmeter can tell."""

from __future__ import annotations

from ...base import (
    RULES,
    Finding,
    Phrase,
    Unknown,
    Verdict,
    amount,
    exceeds,
    phrase,
    stand_on_ground,
)
from ..circuit.points import spans
from ..circuit.words import element_of, leg_word, name_of
from .formulas import watts
from .judging import load_lacks, part_of
from .reading import Scan
from .view import DropView


def drop_findings(scan: Scan) -> list[Finding]:
    """A finding for each element across which drops were read: one over twice its neighbours is burnt.

    Worst state in which good would still be said: all poles worn alike, each still under the usual most at
    nameplate current.
    """
    elements = [e.id for e in scan.circuit.elements if scan.across(e.id)]
    return [_element(scan, e) for e in elements]


def odd_leg(scan: Scan, drops: dict[int, float]) -> int | None:
    """Which leg has more than so many times the drop of its neighbours, each for its own current?"""
    if len(drops) < 2:
        return None
    amps = {leg: scan.amps_of(leg) for leg in drops}
    each = {leg: mv / (amps[leg] or 1.0) if all(amps.values()) else mv for leg, mv in drops.items()}
    worst = max(each, key=lambda leg: each[leg])
    others = [v for leg, v in each.items() if leg != worst]
    mean = sum(others) / len(others)
    return worst if exceeds(each[worst], scan.limits.value("joints.drop_times") * mean) else None


def _element(scan: Scan, element: str) -> Finding:
    drops = scan.across(element)
    name = name_of(element_of(scan.circuit, element))
    worst = odd_leg(scan, drops)
    verdict, reason = _said(scan, name, drops, worst)
    found = Finding(
        question="contact_drop",
        subject=element,
        part=part_of(scan, element),
        verdict=verdict,
        by=RULES["contact_drop"].by.get(verdict),
        unknown=Unknown.INCOMPLETE if verdict is Verdict.UNKNOWN else None,
        rule="contact_drop",
        reason=reason,
        working=_heat(scan, drops),
    )
    return stand_on_ground(found, _lacks(scan, element, drops))


def _said(scan: Scan, name: str, drops: dict[int, float], worst: int | None) -> tuple[Verdict, Phrase]:
    if worst is not None:
        others = [mv for leg, mv in drops.items() if leg != worst]
        figures = {"v": amount(drops[worst], "mV_drop"), "others": amount(max(others), "mV_drop")}
        return Verdict.ACT, phrase("joints.drop_odd", name=name, leg=leg_word(scan.circuit, worst), **figures)
    top = max(drops, key=lambda leg: drops[leg])
    amps, plate = scan.amps_of(top), scan.motor.amps_a
    if amps is None or plate is None:
        return Verdict.UNKNOWN, phrase("joints.drop_load", name=name)
    full = amount(drops[top] * max(1.0, plate / amps), "mV_drop")
    most = scan.limits.value("joints.drop_good")
    if exceeds(full.value, most):
        return Verdict.WATCH, phrase("joints.drop_high", name=name, v=full, most=amount(most, "mV_drop"))
    return Verdict.GOOD, phrase("joints.drop_alike", name=name, v=full)


def _heat(scan: Scan, drops: dict[int, float]) -> list[Phrase]:
    """The heat and the resistance of each, where its current is known."""
    out = []
    for leg, mv in drops.items():
        amps = scan.amps_of(leg)
        if amps:
            word, heat = leg_word(scan.circuit, leg), amount(watts(mv, amps), "W")
            out.append(phrase("joints.drop_heat", leg=word, heat=heat, ohms=amount(mv / amps / 1000, "ohm")))
    return out


def _lacks(scan: Scan, element: str, drops: dict[int, float]) -> dict[str, Phrase | None]:
    load = scan.load
    wanting = {
        "joints.legs": len(drops) < scan.circuit.conductors,
        "joints.confirmed": scan.kept.version == 0,
        "joints.amps": not scan.all_amps,
        "joints.plate": scan.motor.amps_a is None,
        "joints.light": load is not None and exceeds(scan.limits.value("joints.load") / 100, load),
        "joints.no_drop": min(drops.values()) <= 0,
    }
    ends = [x for s in spans(scan.circuit) if s.id in scan.drops for x in (s.upper, s.lower)]
    idle = load_lacks(scan, [x for x in ends if x.startswith(f"{element}.")])
    return {g: None for g, lacks in wanting.items() if lacks} | idle


def drawn_drops(scan: Scan, findings: list[Finding]) -> list[DropView]:
    """Each drop with the heat that it makes; the one that stands out alone carries the verdict."""
    by_element = {f.subject: f for f in findings if f.question == "contact_drop"}
    out = []
    for span, mv in scan.drops.items():
        element, _, leg = span.rpartition(".")
        amps, f = scan.amps_of(int(leg)), by_element[element]
        odd = odd_leg(scan, scan.across(element))
        verdict = f.verdict if odd is None or odd == int(leg) else Verdict.UNKNOWN
        out.append(
            DropView(
                at=span,
                drop=amount(mv, "mV_drop"),
                heat=amount(watts(mv, amps), "W") if amps else None,
                ohms=amount(mv / amps / 1000, "ohm") if amps else None,
                verdict=verdict.value,
            )
        )
    return out
