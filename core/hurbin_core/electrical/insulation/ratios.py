"""The two ratios of a test, each with the condition under which it means something."""

from __future__ import annotations

from ...base import (
    RULES,
    Bound,
    Finding,
    Judged,
    Limits,
    Phrase,
    Quantity,
    Unknown,
    UsedLimit,
    Verdict,
    amount,
    exceeds,
    judge,
    judge_steps,
    phrase,
)
from .entry import At
from .formulas import factor_thermoplastic
from .own_past import share_of
from .worked import LegResult, Worked


def _ratio(top: At | None, bottom: At | None) -> Quantity | None:
    if top is None or bottom is None or bottom.value <= 0:
        return None
    got = share_of(top.quantity, bottom.quantity)
    return amount(got.value / 100, "1", got.bound) if got is not None else None


def ratios(r: LegResult) -> tuple[Quantity | None, Quantity | None]:
    """Absorption ratio and polarisation index of a leg; None where a reading is missing or both are
    bounds.
    """
    return _ratio(r.minute, r.half), _ratio(r.ten, r.minute)


def _meaningless(r: LegResult, limits: Limits) -> bool:
    return (
        r.at40 is not None
        and r.at40.bound is not Bound.AT_MOST
        and exceeds(r.at40.value, limits.value("ratios.meaningful"))
    )


def _may_be_meaningless(r: LegResult, limits: Limits) -> bool:
    """Without a temperature: could the figure at 40 °C be over the limit? The hottest winding is multiplied
    the most.
    """
    if r.minute is None:
        return True
    return r.minute.bound is Bound.AT_LEAST or exceeds(
        r.minute.value * factor_thermoplastic(limits.get("insulation.hottest").standard_value),
        limits.value("ratios.meaningful"),
    )


def ratio_findings(w: Worked, limits: Limits) -> tuple[list[Finding], list[Phrase]]:
    """The two ratios of the worst leg, each with the condition under which it means something."""
    worst = w.worst
    if worst is None or w.blocked:
        return [], []
    absorption, polarisation = ratios(worst)
    if (
        worst.at40 is None
        and (absorption is not None or polarisation is not None)
        and _may_be_meaningless(worst, limits)
    ):
        return [], [phrase("ins.ratio_needs_temperature")]
    if absorption is None and polarisation is None:
        both = worst.ten is not None and worst.minute is not None
        return [], [phrase("ins.ratio_bounds")] if both else []
    if _meaningless(worst, limits):
        return [], [phrase("ins.ratio_meaningless", limit=amount(limits.value("ratios.meaningful"), "MOhm"))]
    out: list[Finding] = []
    if absorption is not None and worst.minute is not None and worst.half is not None:
        out.append(_absorption(absorption, worst.minute, worst.half, limits))
    if polarisation is not None and worst.ten is not None and worst.minute is not None:
        out.append(_polarisation(polarisation, worst.ten, worst.minute, w, limits))
    # A ratio with a bound in it that does not tell is said, and is not held against the motor.
    return [f for f in out if f.verdict is not Verdict.UNKNOWN], [
        f.reason for f in out if f.verdict is Verdict.UNKNOWN
    ]


def _absorption(ratio: Quantity, minute: At, half: At, limits: Limits) -> Finding:
    result = judge("absorption", ratio, limits)
    fair = limits.get("absorption.fair")
    template = "dar.good" if ratio.bound is Bound.EXACT and exceeds(ratio.value, fair.value) else "dar.fair"
    if result.verdict is not Verdict.GOOD:
        template = "dar.low"
    return _ratio_finding(
        "absorption", "absorption", template, ratio, result, [*result.limits, fair], minute, half, []
    )


def _polarisation(ratio: Quantity, ten: At, minute: At, w: Worked, limits: Limits) -> Finding:
    class_a = {"polarisation.good": limits.get("polarisation.good_a")}
    steps = limits.steps("polarisation", class_a if w.plate.insulation_class == "A" else None)
    result = judge_steps(RULES["polarisation"], ratio, steps, RULES["polarisation"].beyond)
    notes = [] if w.plate.winding == "form" else [phrase("pi.indicative")]
    old = w.plate.year is not None and w.correction is not None and w.correction.governs == "thermoplastic"
    if (
        old
        and ratio.bound is not Bound.AT_MOST
        and exceeds(ratio.value, limits.value("polarisation.brittle"))
    ):
        result = judge("polarisation_brittle", ratio, limits)
        return _ratio_finding(
            "polarisation",
            "polarisation_brittle",
            "pi.brittle",
            ratio,
            result,
            result.limits,
            ten,
            minute,
            notes,
        )
    template = "pi.good" if result.verdict is Verdict.GOOD else "pi.low"
    return _ratio_finding(
        "polarisation", "polarisation", template, ratio, result, result.limits, ten, minute, notes
    )


def _ratio_finding(
    question: str,
    rule: str,
    template: str,
    ratio: Quantity,
    result: Judged,
    limits: list[UsedLimit],
    top: At,
    bottom: At,
    notes: list[Phrase],
) -> Finding:
    unknown = result.verdict is Verdict.UNKNOWN
    figures = {
        "ratio": ratio,
        "ratio__limit": result.line.limit,
        "top": top.quantity,
        "bottom": bottom.quantity,
    }
    return Finding(
        question=question,
        part="motor",
        verdict=result.verdict,
        by=result.by,
        rule=rule,
        line=result.line,
        limits=limits,
        notes=notes,
        unknown=Unknown.INCONCLUSIVE if unknown else None,
        reason=phrase("ratio.unknown" if unknown else template, **figures),
        working=[phrase("ratio.working", **figures)],
    )
