"""What a scan says: each rung leg against leg, scaled to full load; ratings; what was seen."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from ...base import (
    GROUNDS,
    RULES,
    By,
    Finding,
    Phrase,
    Verdict,
    amount,
    exceeds,
    judge,
    phrase,
    stand_on_ground,
)
from ..circuit.points import point, rung_of
from ..circuit.words import element_of, leg_word, rung_title
from .formulas import at_full_load_k, expected_rise_k, true_c
from .reading import Scan

_PARTS = {"contactor": "control", "overload": "control", "relay": "control", "drive": "control"}
_PARTS |= {"soft_starter": "control", "motor": "motor", "windings": "motor", "electronics": "motor"}


@dataclass(slots=True)
class Compared:
    """One rung: the leg that stands out, by how much, and over what its current explains; what that comes to
    at full load by both exponents. K.
    """

    rung: str
    leg: int
    twin: int
    apart_k: float
    over_k: float
    full_k: float | None
    mild_k: float | None


def part_of(scan: Scan, element: str) -> str:
    """On which part of the train does a finding at this element hang?"""
    return _PARTS.get(element_of(scan.circuit, element).kind, "supply")


def compared(scan: Scan, rung: str) -> Compared | None:
    """Which leg of this rung stands out against its like, and by how much? None where two were not read.

    The like one is the leg that is coolest for its current; without currents, the coolest.
    """
    temps, ambient = scan.at(rung), scan.ambient
    if len(temps) < 2:
        return None
    amps = {leg: scan.amps_of(leg) for leg in temps}
    known = ambient is not None and all(amps.values())
    over: dict[int, float] = {}
    twin = min(temps, key=lambda leg: temps[leg])
    if known and ambient is not None:
        rise = {leg: temps[leg] - ambient for leg in temps}
        twin = min(temps, key=lambda leg: rise[leg] / (amps[leg] or 1.0) ** 2)
        for leg in temps:
            over[leg] = rise[leg] - expected_rise_k(rise[twin], amps[leg] or 1.0, amps[twin] or 1.0)
    else:
        over = {leg: temps[leg] - temps[twin] for leg in temps}
    worst = max(over, key=lambda leg: (over[leg], temps[leg]))
    full, mild = None, None
    current, plate = amps[worst], scan.motor.amps_a
    if current and plate:
        # Read over nameplate current it is never scaled down.
        share = min(1.0, current / plate)
        full, mild = (
            at_full_load_k(over[worst], share, scan.limits.value(f"joints.n_{x}"))
            for x in ("cautious", "mild")
        )
    return Compared(rung, worst, twin, temps[worst] - temps[twin], over[worst], full, mild)


def joint_findings(scan: Scan) -> list[Finding]:
    """A finding for each rung that was read, by itself: two on one starter stay two.

    Worst state in which good would still be said: all legs alike bad at one place. Ratings are held against
    each for that; under its rating at full load three equally worn joints look as sound ones do.
    """
    out = [_seen(scan)] if scan.body.seen not in (None, "nothing") else []
    for rung in scan.rungs_read():
        out.append(_rung(scan, rung))
        rated = _rated(scan, rung)
        if rated is not None:
            out.append(rated)
    return out


def _seen(scan: Scan) -> Finding:
    return Finding(
        question="joint_seen",
        part="control",
        verdict=Verdict.STOP,
        by=By.NOW,
        rule="joint_seen",
        reason=phrase(f"joints.seen_{scan.body.seen}"),
    )


def _rung(scan: Scan, rung: str) -> Finding:
    c = compared(scan, rung)
    lacks = rung_lacks(scan, rung)
    if c is None:
        return _alone(scan, rung, lacks)
    value = amount(max(0.0, c.over_k if c.full_k is None else c.full_k), "K")
    result = judge("hot_joint", value, scan.limits)
    where, leg = rung_title(scan.circuit, rung), leg_word(scan.circuit, c.leg)
    good = result.verdict is Verdict.GOOD
    said: dict[str, Phrase | str] = {"where": where, "leg": leg}
    if good:
        reason = phrase("joints.alike", where=where, v=value)
    elif c.full_k is None:
        reason = phrase("joints.over", v=value, **said)
    else:
        mild = amount(c.mild_k or 0.0, "K")
        reason = phrase("joints.over_full", v=amount(c.over_k, "K"), full=value, mild=mild, **said)
    soon = exceeds(value.value, scan.limits.value("joints.now"))
    found = Finding(
        question="hot_joint",
        subject=rung,
        part=part_of(scan, rung.partition(".")[0]),
        verdict=result.verdict,
        by=By.NOW if soon else result.by,
        rule="hot_joint",
        line=result.line,
        limits=[*result.limits, scan.limits.get("joints.now")],
        reason=reason,
        notes=[] if good else _explained(scan, c),
    )
    return stand_on_ground(found, lacks)


def _explained(scan: Scan, c: Compared) -> list[Phrase]:
    """What the leg's own current explains, what a repair takes away and what stays, joint or part."""
    out: list[Phrase] = []
    current = c.apart_k - c.over_k
    if scan.all_amps and scan.ambient is not None and exceeds(current, 0.05):
        out.append(
            phrase(
                "joints.split",
                apart=amount(c.apart_k, "K"),
                current=amount(current, "K"),
                joint=amount(c.over_k, "K"),
            )
        )
        out.append(phrase("joints.repair_leaves", joint=amount(c.over_k, "K"), current=amount(current, "K")))
    element, _, side = c.rung.partition(".")
    other = compared(scan, f"{element}.{'out' if side == 'in' else 'in'}")
    if other is not None:
        share = 100 * other.over_k / c.over_k if other.leg == c.leg and c.over_k > 0 else 0.0
        both = exceeds(share, scan.limits.value("joints.one_end"))
        out.append(phrase("joints.both_ends" if both else "joints.one_end"))
    return out


def _alone(scan: Scan, rung: str, lacks: dict[str, Phrase | None]) -> Finding:
    """No like part was read: it is held against the air, and never good."""
    ((leg, temp),) = scan.at(rung).items()
    where = rung_title(scan.circuit, rung)
    over = max(0.0, temp - scan.ambient) if scan.ambient is not None else None
    said: dict[str, Phrase | str] = {"where": where, "leg": leg_word(scan.circuit, leg)}
    result = judge("hot_joint_alone", amount(over, "K"), scan.limits) if over is not None else None
    by: By | None
    if result is None or over is None:
        verdict, by, reason = Verdict.UNKNOWN, By.THIS_WEEK, phrase("joints.alone_no_air", **said)
    else:
        now = exceeds(over, scan.limits.value("joints.alone_now"))
        verdict, by = result.verdict, By.NOW if now else result.by
        reason = phrase("joints.alone", v=amount(over, "K"), **said)
    found = Finding(
        question="hot_joint",
        subject=rung,
        part=part_of(scan, rung.partition(".")[0]),
        verdict=verdict,
        by=by,
        rule="hot_joint",
        line=result.line if result is not None else None,
        limits=result.limits if result is not None else [],
        reason=reason,
    )
    return stand_on_ground(found, {"joints.legs": None, **lacks})


def _rated(scan: Scan, rung: str) -> Finding | None:
    """Against the lowest rating: one over it is to be dealt with, all alike over it are a shared problem."""
    if scan.body.rating is None:
        return None
    rating, temps = float(scan.body.rating), scan.at(rung)
    hot = [leg for leg, t in temps.items() if exceeds(t, rating)]
    where = rung_title(scan.circuit, rung)
    figures = {"rating": amount(rating, "degC"), "v": amount(max(temps.values()), "degC")}
    shared = len(hot) == len(temps) and len(temps) > 1
    if hot:
        names = ", ".join(leg_word(scan.circuit, leg) for leg in hot)
        template = "joints.rating_all" if shared else "joints.rating_over"
        reason = phrase(template, where=where, leg=names, **figures)
        verdict = Verdict.WATCH if shared else Verdict.ACT
    else:
        ahead = _at_full(scan, temps)
        if ahead is None:
            verdict, reason = Verdict.UNKNOWN, phrase("joints.rating_load", where=where, **figures)
        elif exceeds(ahead, rating):
            reason = phrase("joints.rating_ahead", where=where, ahead=amount(ahead, "degC"), **figures)
            verdict = Verdict.WATCH
        else:
            reason = phrase("joints.rating_within", where=where, ahead=amount(ahead, "degC"), **figures)
            verdict = Verdict.GOOD
    found = Finding(
        question="joint_rating",
        subject=rung,
        part=part_of(scan, rung.partition(".")[0]),
        verdict=verdict,
        by=RULES["joint_rating"].by.get(verdict),
        rule="joint_rating",
        reason=reason,
    )
    lacks = rung_lacks(scan, rung)
    return stand_on_ground(found, {g: w for g, w in lacks.items() if g in RULES["joint_rating"].ground})


def _at_full(scan: Scan, temps: dict[int, float]) -> float | None:
    """The hottest of these at full load, by the square of the current; None where that is not known."""
    plate, air = scan.motor.amps_a, scan.ambient
    amps = {leg: scan.amps_of(leg) for leg in temps}
    if plate is None or air is None or not all(amps.values()):
        return None
    n = scan.limits.value("joints.n_cautious")
    return max(
        air + at_full_load_k(max(0.0, t - air), min(1.0, (amps[leg] or plate) / plate), n)
        for leg, t in temps.items()
    )


def load_lacks(scan: Scan, points: Iterable[str]) -> dict[str, Phrase | None]:
    """Did these points carry current while they were read? One that carried none is cold whatever it is."""
    loaded = scan.under_load
    if loaded is None:
        return {"joints.contactor": None}
    return {"joints.idle": None} if any(p not in loaded for p in points) else {}


def rung_lacks(scan: Scan, rung: str) -> dict[str, Phrase | None]:
    """Which grounds are wanting at this rung?"""
    temps, body = scan.at(rung), scan.body
    load, least = scan.load, scan.limits.value("joints.load") / 100
    bare = [p for p in scan.bare if rung_of(p) == rung]
    wide = scan.figures.get("width")
    wanting = {
        "joints.legs": len(temps) < scan.circuit.conductors,
        "joints.confirmed": scan.kept.version == 0,
        "joints.ambient": scan.ambient is None,
        "joints.amps": not scan.all_amps,
        "joints.plate": scan.motor.amps_a is None,
        "joints.light": load is not None and exceeds(least, load),
        "joints.steady": body.steady is None,
        "joints.unsteady": body.steady == "no",
        "joints.surface": body.surface is None,
        "joints.bare": bool(bare),
        "joints.rating": body.rating is None,
        "joints.seen": body.seen is None,
        "joints.spot": scan.spot is None or wide is None,
        "joints.spot_wide": scan.spot is not None and wide is not None and exceeds(scan.spot, wide),
        "joints.unlike": any(rung_of(p) == rung for p in scan.unlike),
        "joints.cold": scan.ambient is not None
        and any(exceeds(scan.ambient - scan.limits.value("joints.colder"), t) for t in temps.values()),
    }
    out: dict[str, Phrase | None] = {g: None for g, lacks in wanting.items() if lacks}
    out |= load_lacks(scan, [point(rung, leg) for leg in temps])
    if bare and scan.ambient is not None:
        seen = max(scan.temps[p] for p in bare)
        if exceeds(seen, scan.ambient):
            setting, e = (scan.limits.value(f"joints.{x}") for x in ("emissivity", "emissivity_bare"))
            could = true_c(seen, e, setting, scan.ambient)
            figures = {"seen": amount(seen, "degC"), "could": amount(could, "degC")}
            out["joints.bare"] = phrase("joints.bare_hides", e=f"{e:g}", **figures)
    return {g: out[g] for g in out if g in GROUNDS}
