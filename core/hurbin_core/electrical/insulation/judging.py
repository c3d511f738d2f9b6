"""What one insulation test says: against the minimum, its own past, its ratios, its legs, and the air of the
room.
"""

from __future__ import annotations

from dataclasses import dataclass

from ...base import (
    RULES,
    Bound,
    By,
    Finding,
    Judged,
    Limits,
    Phrase,
    Quantity,
    Steps,
    Unknown,
    UsedLimit,
    Verdict,
    amount,
    exceeds,
    judge,
    judge_steps,
    nominal,
    phrase,
)
from ...logbook import Conditions, Context, HistoryPoint, cuts_of, median_of, since_cut
from ...plant import EVENT_KINDS, MotorFacts, MotorPlate
from .correction import Correction, correction, minimum
from .entry import At, InsulationTest, Run, leg_word, value_at
from .formulas import dew_point_c, factor_thermoplastic


@dataclass(slots=True)
class LegResult:
    """One leg: its figure after one minute, raw and at 40 °C, and the two ratios' numbers."""

    run: Run
    leg: str
    minute: At | None
    half: At | None
    ten: At | None
    at40: Quantity | None = None


@dataclass(slots=True)
class Worked:
    """Everything that is computed once and judged several times."""

    legs: list[LegResult]
    correction: Correction | None
    winding_c: float | None
    dew_c: float | None
    least: UsedLimit
    least_why: str
    plate: MotorPlate
    facts: MotorFacts
    conditions: Conditions
    comparable: bool
    apart: bool = False
    blocked: str = ""

    @property
    def worst(self) -> LegResult | None:
        """The leg with the least insulation; a bound stands behind a figure of the same size."""
        told = [r for r in self.legs if r.minute is not None]
        return min(told, key=lambda r: (r.minute.value, r.minute.bound is Bound.AT_LEAST), default=None)  # type: ignore[union-attr]


def work_out(
    test: InsulationTest,
    plate: MotorPlate | None,
    facts: MotorFacts,
    conditions: Conditions,
    comparable: bool,
    limits: Limits,
) -> Worked:
    """The arithmetic of the test: corrected figures where a correction is known, the dew point where the air
    was read.
    """
    plate = plate or MotorPlate()
    winding, air, wet = test.figure("winding"), test.figure("ambient"), test.figure("humidity")
    corrected = None
    cold, hot = _band(limits)
    if winding is not None and cold <= winding <= hot:
        corrected = correction(winding, plate.insulation_class, plate.year, limits)
    least, why = minimum(facts, plate.winding, plate.insulation_class, plate.year, limits)
    dew = dew_point_c(air, wet) if air is not None and wet is not None else None
    legs = []
    for run in test.legs:
        result = LegResult(
            run, run.leg, value_at(run, 60, limits), value_at(run, 30, limits), value_at(run, 600, limits)
        )
        if result.minute is not None and corrected is not None:
            result.at40 = amount(result.minute.value * corrected.factor, "MOhm", result.minute.bound)
        legs.append(result)
    out = Worked(
        legs,
        corrected,
        winding,
        dew,
        least,
        why,
        plate,
        facts,
        conditions,
        comparable,
        test.said("phases") == "apart",
    )
    if dew is not None and winding is not None and not exceeds(winding, dew):
        out.blocked = "dew"
    elif test.said("phases") == "together" and not _leads_alike(out, limits):
        out.blocked = "leads"
    return out


def _band(limits: Limits) -> tuple[float, float]:
    """Between which winding temperatures is a reading corrected? A site may narrow the band; outside of the
    published one no factor is known, whatever a site says."""
    cold, hot = limits.get("insulation.coldest"), limits.get("insulation.hottest")
    return max(cold.value, cold.standard_value), min(hot.value, hot.standard_value)


def _leads_alike(w: Worked, limits: Limits) -> bool:
    figures = [r.minute for r in w.legs if r.minute is not None]
    exact = [a.value for a in figures if a.bound is Bound.EXACT]
    if len(figures) < 2 or not exact:
        return True
    top = max(a.value for a in figures)
    if min(exact) <= 0:
        return top <= 0
    return not exceeds(top / min(exact), limits.value("insulation.leads_alike"))


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


Figures = dict[str, Quantity | str | Phrase]


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
    hot = w.winding_c is not None and exceeds(w.winding_c, _band(limits)[1])
    raw_steps = judge_steps(RULES["insulation"], raw, [(w.least, Verdict.WATCH)], Verdict.STOP)
    below, above = raw_steps.verdict is Verdict.STOP, raw_steps.verdict is Verdict.WATCH
    edge = _band(limits)[1 if hot else 0]
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


def dew_finding(w: Worked) -> Finding | None:
    """Was the winding above the dew point? Only said when it was not: then nothing else of the test
    counts.
    """
    if w.blocked != "dew" or w.dew_c is None or w.winding_c is None:
        return None
    figures: Figures = {"winding": amount(w.winding_c, "degC"), "dew": amount(w.dew_c, "degC")}
    return _unknown("dew_point", "dew.below", Unknown.INCONCLUSIVE, figures, rule="dew_point")
