"""This motor against its own past, like with like only."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

from ..base import RULES, Finding, Limits, Phrase, Verdict, amount, exceeds, judge, phrase
from ..logbook import Context, HistoryPoint, median_of, since_cut
from .entry import RunningReadings, mean_volts, words_for
from .formulas import mean


@dataclass(slots=True)
class Past:
    """Comparable earlier checks, oldest first."""

    amps: list[HistoryPoint]
    unbalance: list[HistoryPoint]
    median: float | None


def like_checks(readings: RunningReadings, context: Context, limits: Limits) -> Past:
    """Which earlier checks compare: same state to the letter, after the last event, at volts within the
    limit.
    """
    volts = mean_volts(readings)
    if readings.unsaid or volts is None:
        return Past([], [], None)
    key, as_of = readings.key, context.as_of
    rows = [
        p
        for p in since_cut(context.history, context.cuts, RULES["own_past"].concerns)
        if p.conditions == key and p.taken_at < as_of
    ]
    near = limits.value("own_past.like_volts")
    like = {
        p.record
        for p in rows
        if p.measurand == "voltage_mean" and not exceeds(100 * abs(p.value - volts), near * volts)
    }

    def of(measurand: str) -> list[HistoryPoint]:
        return sorted(
            (p for p in rows if p.measurand == measurand and p.record in like), key=lambda p: p.taken_at
        )

    amps = of("current_mean")
    middle = None
    if len(amps) >= limits.count("own_past.checks"):
        middle = median_of([(p.value, p.bound) for p in amps])[0]
    return Past(amps, of("current_unbalance"), middle)


def own_past_findings(
    readings: RunningReadings, past: Past, unbalance: float | None, limits: Limits, part: str
) -> tuple[list[Finding], list[Phrase]]:
    """Amps against the motor's own median, a steady rise over four checks, and the unbalance likewise."""
    amps = readings.all_amps
    if not amps or max(amps) <= 0 or readings.ahead_of_drive:
        return [], []
    if readings.unsaid:
        return [], [phrase("wait.state", missing=words_for(readings.unsaid))]
    if past.median is None or past.median <= 0:
        return [], [phrase("wait.checks", n=str(len(past.amps)), wanted=str(limits.count("own_past.checks")))]
    out = [_amps(mean(amps), past, past.median, limits, part)]
    if unbalance is not None and len(past.unbalance) >= limits.count("own_past.checks"):
        out.append(_unbalance(unbalance, past, limits))
    return out, []


def _four(past: list[HistoryPoint], now: float) -> list[float] | None:
    """The last four checks, this one included, if they rise at each."""
    four = [*(p.value for p in past[-3:]), now]
    return four if len(four) == 4 and all(a < b for a, b in pairwise(four)) else None


def _amps(now: float, past: Past, own: float, limits: Limits, part: str) -> Finding:
    change = 100 * (now - own) / own
    rule = "own_past" if change >= 0 else "own_past_fall"
    result = judge(rule, amount(abs(change), "%"), limits)
    shown = amount(change, "%")
    limit = amount(result.line.limit.value if change >= 0 else -result.line.limit.value, "%")
    n = str(len(past.amps))
    verdict, by, used = result.verdict, result.by, list(result.limits)
    reason = phrase("own.said", change=shown, change__limit=limit, n=n)
    if change < 0 and verdict is not Verdict.GOOD:
        reason = phrase("own.fell", change=shown, change__limit=limit, n=n)
    four = _four(past.amps, now)
    if four and change > 0:
        steady = limits.get("own_past.steady_rise")
        rise = 100 * (four[-1] - four[0]) / four[0]
        if exceeds(rise, steady.value):
            used.append(steady)
            reason = phrase("own.rising", rise=amount(rise, "%"), change=shown, change__limit=limit, n=n)
            if verdict is Verdict.GOOD:
                verdict, by = Verdict.WATCH, RULES["own_past"].by[Verdict.WATCH]
    return Finding(
        question="own_past",
        part=part if verdict is not Verdict.GOOD else "motor",
        verdict=verdict,
        by=by,
        rule=rule,
        line=result.line,
        limits=used,
        reason=reason,
        working=[phrase("own.working", mean=amount(now, "A"), median=amount(own, "A"), change=shown)],
    )


def _unbalance(now: float, past: Past, limits: Limits) -> Finding:
    four = _four(past.unbalance, now)
    rise = four[-1] - four[0] if four else 0.0
    result = judge("own_unbalance", amount(rise, "pp"), limits)
    first = four[0] if four else past.unbalance[-1].value
    template = "own_unbalance.said" if result.verdict is not Verdict.GOOD else "own_unbalance.still"
    figures = {"first": amount(first, "%"), "last": amount(now, "%"), "rise": amount(rise, "pp")}
    return Finding(
        question="own_unbalance",
        part="motor",
        verdict=result.verdict,
        by=result.by,
        rule="own_unbalance",
        line=result.line if four else None,
        limits=result.limits,
        reason=phrase(template, **figures),
        working=[phrase("own_unbalance.working", **figures)] if four else [],
    )
