"""What one insulation test says against the winding's own past."""

from __future__ import annotations

from ...base import (
    RULES,
    Bound,
    Finding,
    Limits,
    Phrase,
    Quantity,
    Verdict,
    amount,
    judge,
    phrase,
)
from ...logbook import Context, HistoryPoint, cuts_of, median_of, since_cut
from ...plant import EVENT_KINDS
from .worked import Figures, Worked


def like_points(w: Worked, leg: str, context: Context) -> list[HistoryPoint]:
    """Earlier corrected figures of the same leg, point, links, phases and test volts since the last event
    that concerned the winding; oldest first.
    """
    return since_cut(_all_like(w, leg, context), context.cuts, RULES["insulation_past"].concerns)


def _all_like(w: Worked, leg: str, context: Context) -> list[HistoryPoint]:
    if not w.comparable:
        return []
    rows = [
        p
        for p in context.history
        if p.measurand == "insulation_40" and p.leg == leg and p.conditions == w.conditions.key
    ]
    return sorted((p for p in rows if p.taken_at < context.as_of), key=lambda p: p.taken_at)


def before_event(w: Worked, leg: str, context: Context) -> tuple[list[HistoryPoint], str]:
    """The like figures from before the newest event on this winding, and what happened; nothing where nothing
    happened.
    """
    cuts = cuts_of(context.cuts, RULES["insulation_past"].concerns)
    if not cuts:
        return [], ""
    last = max(cuts, key=lambda c: c.at)
    title = EVENT_KINDS[last.kind].title.lower() if last.kind in EVENT_KINDS else last.kind.replace("_", " ")
    return [p for p in _all_like(w, leg, context) if p.taken_at < last.at], title


def against_past(
    w: Worked, past: list[HistoryPoint], limits: Limits, context: Context
) -> tuple[Finding | None, list[Phrase]]:
    """The worst leg against its own median: half gone is watch, a decade gone is act. Two bounds make no
    ratio.

    After an event a winding stands on its new past from the second test on; until then it is held against the
    figures from before as well: a flood or a repair is no amnesty.
    """
    worst = w.worst
    if worst is None or worst.at40 is None or w.blocked:
        return None, []
    older, event = (
        before_event(w, worst.leg if w.apart else "", context)
        if len(past) < limits.count("insulation.settled_tests")
        else ([], "")
    )
    if len(past) < limits.count("insulation.past_tests") and not older:
        return None, [phrase("ins.wait_past")]
    told = [_share(worst.at40, rows, words, limits) for rows, words in ((past, ""), (older, event)) if rows]
    found = [t for t in told if isinstance(t, Finding)]
    said = [t for t in told if isinstance(t, Phrase)]
    return max(found, key=lambda f: f.verdict.rank, default=None), said


def _share(at40: Quantity, past: list[HistoryPoint], event: str, limits: Limits) -> Finding | Phrase | None:
    own, bound = median_of([(p.value, p.bound) for p in past])
    if own <= 0:
        return None
    middle = amount(own, "MOhm", bound)
    share = share_of(at40, middle)
    if share is None:
        return phrase("ins.two_bounds", r40=at40, median=middle)
    result = judge("insulation_past", share, limits)
    figures: Figures = {"r40": at40, "median": middle, "share": share, "n": str(len(past))}
    figures["share__limit"] = amount(result.line.limit.value, "%")
    if result.verdict is Verdict.UNKNOWN:
        return phrase("ins.past_unknown", **figures)
    before = bool(event) and result.verdict is not Verdict.GOOD
    return Finding(
        question="insulation_past",
        part="motor",
        verdict=result.verdict,
        by=result.by,
        rule="insulation_past",
        line=result.line,
        limits=result.limits,
        reason=phrase("ins.past_before", **figures, event=event) if before else phrase("ins.past", **figures),
        working=[phrase("ins.past_working", **figures)],
    )


def share_of(now: Quantity, before: Quantity) -> Quantity | None:
    """`now` in percent of `before`, with the bound that survives; None for two bounds, and beside nothing."""
    turned = {Bound.EXACT: Bound.EXACT, Bound.AT_LEAST: Bound.AT_MOST, Bound.AT_MOST: Bound.AT_LEAST}
    if before.value <= 0 or (now.bound is not Bound.EXACT and before.bound is not Bound.EXACT):
        return None
    return amount(
        100 * now.value / before.value,
        "%",
        now.bound if now.bound is not Bound.EXACT else turned[before.bound],
    )
