"""What one insulation test says against the minimum of its winding, and in the air of its room."""

from __future__ import annotations

from ...base import (
    RULES,
    By,
    Finding,
    Limits,
    Phrase,
    Quantity,
    Steps,
    Unknown,
    Verdict,
    amount,
    exceeds,
    judge_steps,
    nominal,
    phrase,
)
from .entry import leg_word
from .worked import Figures, Worked, band


def _steps(w: Worked, has_past: bool, limits: Limits) -> Steps:
    """The steps of this winding: its own minimum and so many times that; without a past a baseline above
    both.
    """
    steps = limits.steps("insulation", {"insulation.minimum_low_volt": w.least})
    baseline = limits.get("insulation.baseline")
    three = steps[0][0]
    if not has_past and exceeds(baseline.value, three.value):
        return [(baseline, Verdict.GOOD), (three, Verdict.WATCH), *steps[1:]]
    return steps


def _unknown(
    question: str,
    template: str,
    why: Unknown,
    figures: Figures,
    by: By = By.THIS_WEEK,
    rule: str = "insulation",
) -> Finding:
    return Finding(
        question=question,
        part="motor",
        verdict=Verdict.UNKNOWN,
        unknown=why,
        by=by,
        rule=rule,
        reason=phrase(template, **figures),
    )


def against_minimum(w: Worked, has_past: bool, limits: Limits) -> Finding | None:
    """The one-minute figure at 40 °C against the minimum for this winding. Nothing uncorrected is ever
    good.
    """
    worst = w.worst
    if worst is None or worst.minute is None:
        return None
    raw = worst.minute.quantity
    figures: Figures = {"raw": raw, "leg": leg_word(worst.leg), "least": amount(w.least.value, "MOhm")}
    if w.blocked:
        return _unknown("insulation", f"ins.blocked_{w.blocked}", Unknown.INCONCLUSIVE, figures)
    if w.winding_c is None:
        return _unknown("insulation", "ins.no_temperature", Unknown.INCOMPLETE, figures, By.THIS_SHIFT)
    if w.correction is None or worst.at40 is None:
        return _outside(w, raw, figures, limits)
    result = judge_steps(RULES["insulation"], worst.at40, _steps(w, has_past, limits), Verdict.STOP)
    k = amount(w.correction.factor, "1")
    notes = [
        phrase(w.least_why, least=amount(w.least.value, "MOhm"), volts=amount(w.facts.volts_v or 0, "V")),
        phrase(
            "ins.both",
            setting=_times(raw, w.correction.setting),
            plastic=_times(raw, w.correction.plastic),
            governs=w.correction.governs,
            why=_why(w),
        ),
    ]
    if worst.minute.how != "read":
        notes.append(phrase(f"ins.minute_{worst.minute.how}", at=amount(worst.minute.second, "s")))
    return Finding(
        question="insulation",
        part="motor",
        verdict=result.verdict,
        by=result.by,
        rule="insulation",
        line=result.line,
        limits=result.limits,
        unknown=Unknown.INCONCLUSIVE if result.verdict is Verdict.UNKNOWN else None,
        notes=notes,
        reason=phrase(
            f"ins.{result.verdict.value}",
            r40=worst.at40,
            r40__limit=amount(result.line.limit.value, "MOhm"),
            **figures,
        ),
        working=[phrase("ins.working", raw=raw, k=k, winding=amount(w.winding_c, "degC"), r40=worst.at40)],
    )


def _times(raw: Quantity, k: float) -> Quantity:
    return amount(raw.value * k, "MOhm", raw.bound)


def _why(w: Worked) -> Phrase:
    text = w.correction.why if w.correction else "ins.by_less"
    return phrase(text, cls=w.plate.insulation_class, year=str(w.plate.year or ""))


def _outside(w: Worked, raw: Quantity, figures: Figures, limits: Limits) -> Finding:
    """Too cold or too hot for a correction: what the raw figure alone can say."""
    hot = w.winding_c is not None and exceeds(w.winding_c, band(limits)[1])
    raw_steps = judge_steps(RULES["insulation"], raw, [(w.least, Verdict.WATCH)], Verdict.STOP)
    below, above = raw_steps.verdict is Verdict.STOP, raw_steps.verdict is Verdict.WATCH
    edge = band(limits)[1 if hot else 0]
    figures = {**figures, "winding": amount(w.winding_c or 0.0, "degC"), "edge": nominal(edge, "degC")}
    if hot and above:
        return Finding(
            question="insulation",
            part="motor",
            verdict=Verdict.WATCH,
            by=By.NEXT_STOP,
            rule="insulation",
            line=raw_steps.line,
            limits=raw_steps.limits,
            reason=phrase("ins.hot_meets", **figures),
        )
    if not hot and below:
        return Finding(
            question="insulation",
            part="motor",
            verdict=Verdict.STOP,
            by=By.NOW,
            rule="insulation",
            line=raw_steps.line,
            limits=raw_steps.limits,
            reason=phrase("ins.cold_below", **figures),
        )
    return _unknown("insulation", "ins.hot" if hot else "ins.cold", Unknown.INCONCLUSIVE, figures)


def dew_finding(w: Worked) -> Finding | None:
    """Was the winding above the dew point? Only said when it was not: then nothing else of the test
    counts.
    """
    if w.blocked != "dew" or w.dew_c is None or w.winding_c is None:
        return None
    figures: Figures = {"winding": amount(w.winding_c, "degC"), "dew": amount(w.dew_c, "degC")}
    return _unknown("dew_point", "dew.below", Unknown.INCONCLUSIVE, figures, rule="dew_point")
