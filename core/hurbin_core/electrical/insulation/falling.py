"""A reading that falls while the winding is charged: moisture, tracking, or a breakdown under way."""

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
    judge_steps,
    phrase,
)
from .entry import Reading, Run, leg_word
from .worked import Worked


def _falls(run: Run) -> tuple[Reading, Reading, Quantity] | None:
    """The deepest fall of a run: the earlier reading, the later one, and its share in percent; None with
    fewer than two.

    A reading of at most so much proves no height, one of at least so much no depth."""
    rows = [r for r in run.readings if r.ohms.value > 0 or r.ohms.bound is not Bound.AT_LEAST]
    worst: tuple[Reading, Reading, Quantity] | None = None
    top: Reading | None = None
    for r in rows:
        if top is not None and top.ohms.value > 0 and r.ohms.bound is not Bound.AT_LEAST:
            most = r.ohms.bound is Bound.AT_MOST or top.ohms.bound is Bound.AT_LEAST
            bound = Bound.AT_MOST if most else Bound.EXACT
            share = amount(100 * r.ohms.value / top.ohms.value, "%", bound)
            if worst is None or share.value < worst[2].value:
                worst = top, r, share
        if r.ohms.bound is not Bound.AT_MOST and (top is None or r.ohms.value > top.ohms.value):
            top = r
    return worst


def falling_finding(w: Worked, limits: Limits) -> tuple[Finding | None, bool]:
    """Does any leg fall during the test? The finding, and whether the question was settled with no."""
    told = [(f, run) for run in (r.run for r in w.legs) if (f := _falls(run)) is not None]
    if not told:
        return None, False
    (high, low, share), run = min(told, key=lambda t: t[0][2].value)
    result = judge("insulation_falling", share, limits)
    if result.verdict is not Verdict.ACT:
        return None, result.verdict is Verdict.GOOD
    figures: dict[str, Quantity | str | Phrase] = {
        "leg": "The winding" if run.leg == "all" else leg_word(run.leg),
        "high": amount(high.ohms.value, "MOhm", high.ohms.bound),
        "at": amount(high.seconds, "s"),
        "low": amount(low.ohms.value, "MOhm", low.ohms.bound),
        "then": amount(low.seconds, "s"),
        "least": amount(w.least.value, "MOhm"),
    }
    # Where it ends is held against the minimum itself: a winding that has fallen below it is not run.
    factor = w.correction.factor if w.correction is not None else 1.0
    ends = amount(low.ohms.value * factor, "MOhm", low.ohms.bound)
    under = (
        judge_steps(RULES["insulation"], ends, [(w.least, Verdict.WATCH)], Verdict.STOP).verdict
        is Verdict.STOP
    )
    verdict = Verdict.STOP if under else Verdict.ACT
    figures["share"] = share
    reason = phrase("ins.fell_below" if under else "ins.fell", **figures)
    return Finding(
        question="insulation_falling",
        part="motor",
        verdict=verdict,
        by=RULES["insulation_falling"].by.get(verdict),
        rule="insulation_falling",
        line=result.line,
        limits=result.limits,
        reason=reason,
    ), False
