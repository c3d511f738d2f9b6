"""Leads rolled from line to line: does a high current stay with its line, or go with its lead?"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from ...base import (
    By,
    Finding,
    Limits,
    Phrase,
    Unknown,
    Verdict,
    amount,
    exceeds,
    judge,
    phrase,
    stand_on_ground,
)
from ..formulas import unbalance_pct
from .windings import LINES

# Nine currents: of each roll, by line. From one roll to the next each lead goes to the line before.
ROLLED = tuple(f"roll_{roll}_{line}" for roll in (1, 2, 3) for line in (1, 2, 3))
LETTERS = "ABC"


def by_line(amps: Mapping[str, float]) -> list[float]:
    """The mean current of each line over three rolls, A.

    >>> told = (41.0, 38.2, 37.9, 40.8, 38.5, 37.6, 41.3, 38.0, 37.8)
    >>> [round(x, 2) for x in by_line(dict(zip(ROLLED, told)))]
    [41.03, 38.23, 37.77]
    """
    return [sum(amps[f"roll_{roll}_{line}"] for roll in (1, 2, 3)) / 3 for line in (1, 2, 3)]


def by_lead(amps: Mapping[str, float]) -> list[float]:
    """The mean current of each lead over three rolls, A; a lead is called by the line that it was on first.

    >>> told = (41.0, 38.2, 37.9, 40.8, 38.5, 37.6, 41.3, 38.0, 37.8)
    >>> [round(x, 2) for x in by_lead(dict(zip(ROLLED, told)))]
    [38.87, 38.93, 39.23]
    """
    return [
        sum(amps[f"roll_{roll}_{(lead - roll + 1) % 3 + 1}"] for roll in (1, 2, 3)) / 3 for lead in (0, 1, 2)
    ]


def rolled_finding(amps: Mapping[str, float], plate: float | None, limits: Limits) -> Finding | None:
    """What makes the currents unlike: the supply, or the motor? None while nothing of it was read.

    The worst state in which it would still be called good: unlike only at a higher load. At a light one it is
    not said.
    """
    read = [n for n in ROLLED if n in amps]
    if not read:
        return None
    if len(read) < len(ROLLED):
        return _told(Verdict.UNKNOWN, phrase("leads.roll_some", n=str(len(read))), Unknown.INCOMPLETE)
    rolls = [sum(amps[f"roll_{r}_{line}"] for line in (1, 2, 3)) / 3 for r in (1, 2, 3)]
    if min(rolls) <= 0:
        return _told(Verdict.UNKNOWN, phrase("leads.roll_none"), Unknown.INCONCLUSIVE)
    if exceeds(100 * (max(rolls) / min(rolls) - 1), limits.value("leads.roll_load")):
        return _told(Verdict.UNKNOWN, phrase("leads.roll_load"), Unknown.INCONCLUSIVE)
    light = plate is None or exceeds(limits.value("current_unbalance.light_load"), 100 * min(rolls) / plate)
    return stand_on_ground(_weighed(amps, limits), {"leads.roll_light": None} if light else {})


def _weighed(amps: Mapping[str, float], limits: Limits) -> Finding:
    (line, which_line), (lead, which_lead) = unbalance_pct(by_line(amps)), unbalance_pct(by_lead(amps))
    figures = {"line": amount(line, "%"), "lead": amount(lead, "%")}
    if not exceeds(max(line, lead), limits.value("current_unbalance.good")):
        return _told(Verdict.GOOD, phrase("leads.roll_alike", **figures))
    times = limits.value("leads.roll_times")
    if line >= times * lead:
        verdict = judge("current_unbalance", amount(line, "%"), limits).verdict
        return _told(verdict, phrase("leads.roll_supply", name=LINES[which_line], **figures), part="supply")
    if lead >= times * line:
        verdict = judge("current_unbalance", amount(lead, "%"), limits).verdict
        return _told(verdict, phrase("leads.roll_motor", name=LETTERS[which_lead], **figures))
    return _told(Verdict.UNKNOWN, phrase("leads.roll_both", **figures), Unknown.INCONCLUSIVE)


def _told(verdict: Verdict, reason: Phrase, unknown: Unknown | None = None, part: str = "motor") -> Finding:
    by = {Verdict.UNKNOWN: By.THIS_SHIFT, Verdict.WATCH: By.NEXT_STOP, Verdict.ACT: By.THIS_SHIFT}.get(
        verdict
    )
    return Finding(
        question="rolled_leads",
        part=part,
        verdict=verdict,
        by=by,
        unknown=unknown,
        rule="rolled_leads",
        reason=reason,
    )


def means(amps: Mapping[str, float]) -> tuple[Sequence[float], Sequence[float]]:
    """By line and by lead, A; both empty while not all nine were read."""
    whole = all(n in amps for n in ROLLED)
    return (by_line(amps), by_lead(amps)) if whole else ([], [])
