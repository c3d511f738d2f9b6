"""What the legs of one insulation test say against each other."""

from __future__ import annotations

from ...base import (
    Bound,
    By,
    Finding,
    Limits,
    Unknown,
    Verdict,
    amount,
    judge,
    phrase,
)
from .entry import InsulationTest
from .own_past import share_of
from .worked import Figures, Worked


def legs_finding(test: InsulationTest, w: Worked, limits: Limits) -> Finding | None:
    """Legs against each other, only when the phases are apart; leads of one joined winding only against
    disagreement.
    """
    told = [r for r in w.legs if r.minute is not None]
    if len(told) < 2:
        return None
    if test.said("phases") == "together":
        if w.blocked != "leads":
            return None
        figures = [r.minute for r in told if r.minute is not None]
        low, high = min(a.value for a in figures), max(a.value for a in figures)
        result = judge("insulation_leads", amount(high / low if low > 0 else 999.0, "1"), limits)
        return Finding(
            question="insulation_leads",
            part="motor",
            verdict=Verdict.UNKNOWN,
            unknown=Unknown.INCONCLUSIVE,
            by=By.THIS_SHIFT,
            rule="insulation_leads",
            line=result.line,
            limits=result.limits,
            reason=phrase("legs.leads", low=amount(low, "MOhm"), high=amount(high, "MOhm")),
        )
    if test.said("phases") != "apart":
        return None
    worst = w.worst
    if worst is None or worst.minute is None:
        return None
    others = [r.minute for r in told if r is not worst and r.minute is not None]
    mean = sum(a.value for a in others) / len(others)
    bound = Bound.EXACT if all(a.bound is Bound.EXACT for a in others) else Bound.AT_LEAST
    share = share_of(worst.minute.quantity, amount(mean, "MOhm", bound))
    if share is None or mean <= 0:
        return None
    result = judge("insulation_legs", share, limits)
    if result.verdict is Verdict.UNKNOWN:
        return None
    said: Figures = {
        "leg": worst.leg,
        "low": worst.minute.quantity,
        "mean": amount(mean, "MOhm", bound),
        "share": share,
        "share__limit": result.line.limit,
    }
    template = "legs.good" if result.verdict is Verdict.GOOD else "legs.low"
    return Finding(
        question="insulation_legs",
        part="motor",
        verdict=result.verdict,
        by=result.by,
        rule="insulation_legs",
        line=result.line,
        limits=result.limits,
        reason=phrase(template, **said),
        working=[phrase("legs.working", **said)],
    )
