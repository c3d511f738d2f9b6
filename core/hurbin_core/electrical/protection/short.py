"""What the short-circuit device says: its rating against its share of table current; the panel."""

from __future__ import annotations

from ...base import Finding, Limits, Phrase, Verdict, amount, exceeds, phrase
from .sheet import BREAKERS, FUSES, Guard, answer

KINDS = {"delay": FUSES, "fast": FUSES, "breaker": BREAKERS}


def next_size(amps: float, kind: str) -> float:
    """The next standard rating that is not below these amps; the largest where none is.

    >>> next_size(17.5, "delay"), next_size(528.5, "delay"), next_size(755, "breaker")
    (20.0, 600.0, 800.0)
    """
    sizes = KINDS[kind]
    return next((s for s in sizes if not exceeds(amps, s)), sizes[-1])


def largest(table: float, kind: str, limits: Limits) -> tuple[float, float, float]:
    """Of this kind and table current: its share in percent, the sum in A, the next standard size."""
    share = limits.value(f"short.{kind}")
    return share, table * share / 100, next_size(table * share / 100, kind)


def by_table(g: Guard) -> bool:
    """Does the code's table decide here? In front of a drive, and for gG and aM, the manufacturer does."""
    return g.body.short in KINDS and g.control_kind != "drive"


def short_finding(g: Guard) -> Finding | None:
    """Is the device small enough to clear a fault before the starter welds, and large enough for a start?
    Worst state in which good is still said: a fuse of another class behind the same marking.
    """
    rating = g.got.get("short_amps")
    if g.body.short is None and rating is None:
        return None
    if g.body.short is None or rating is None:
        return answer("short_circuit", Verdict.UNKNOWN, phrase("protection.short_unsaid"), part="supply")
    small = _too_small(g, rating)
    if small is not None:
        return small
    if not by_table(g):
        return _by_maker(g, rating)
    return _by_table(g, rating, g.body.short)


def _too_small(g: Guard, rating: float) -> Finding | None:
    plate = g.motor.amps_a
    if plate is None or not exceeds(plate, rating):
        return None
    words = phrase("protection.short_small", rating=amount(rating, "A"), plate=amount(plate, "A"))
    return answer("short_circuit", Verdict.WATCH, words, part="supply")


def _by_table(g: Guard, rating: float, kind: str) -> Finding:
    table = g.got.get("table_amps")
    if table is None:
        return answer("short_circuit", Verdict.UNKNOWN, phrase("protection.short_no_table"), part="supply")
    share, least, most = largest(table, kind, g.limits)
    figures = {"rating": amount(rating, "A"), "table": amount(table, "A"), "most": amount(most, "A")}
    notes: list[Phrase] = [phrase("protection.table")]
    if g.motor.amps_a == table and not g.body.table_read:
        notes.insert(0, phrase("protection.short_plate"))
    if exceeds(rating, most):
        reason = phrase("protection.short_over", **figures, pct=amount(share, "%"), least=amount(least, "A"))
        return answer("short_circuit", Verdict.ACT, reason, *notes, part="supply")
    reason = phrase("protection.short_within", **figures)
    return answer("short_circuit", Verdict.GOOD, reason, *notes, part="supply")


def _by_maker(g: Guard, rating: float) -> Finding:
    """In front of a drive, and for gG and aM: what the manufacturer of drive or starter allows."""
    most = g.got.get("maker_amps")
    notes = [phrase(f"protection.type_{g.body.coordination}")] if g.body.coordination else []
    if g.body.short == "aM" and g.device in ("", "none"):
        return answer("short_circuit", Verdict.ACT, phrase("protection.short_alone"), *notes, part="supply")
    if most is None:
        reason = phrase("protection.short_ask")
        return answer("short_circuit", Verdict.UNKNOWN, reason, *notes, part="supply")
    figures = {"rating": amount(rating, "A"), "most": amount(most, "A")}
    if exceeds(rating, most):
        reason = phrase("protection.short_maker_over", **figures)
        return answer("short_circuit", Verdict.ACT, reason, *notes, part="supply")
    if g.body.short in ("gG", "aM") and g.control_kind != "drive" and not g.body.coordination:
        return answer("short_circuit", Verdict.UNKNOWN, phrase("protection.short_type"), part="supply")
    return answer(
        "short_circuit", Verdict.GOOD, phrase("protection.short_maker", **figures), *notes, part="supply"
    )


def fault_finding(g: Guard) -> Finding | None:
    """Does the panel hold what this place can feed into a short circuit?"""
    panel, fault = g.got.get("panel_ka"), g.got.get("fault_ka")
    if panel is None and fault is None:
        return None
    if panel is None or fault is None:
        return answer("fault_rating", Verdict.UNKNOWN, phrase("protection.fault_ask"), part="supply")
    over = exceeds(fault, panel)
    words = phrase(
        "protection.fault_over" if over else "protection.fault_within",
        panel=amount(panel, "kA"),
        fault=amount(fault, "kA"),
    )
    return answer("fault_rating", Verdict.ACT if over else Verdict.GOOD, words, part="supply")
