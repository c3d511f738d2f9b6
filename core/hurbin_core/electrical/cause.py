"""From the pattern of the figures to the class of cause, and what each repair will and will not change."""

from __future__ import annotations

from ..base import Finding, Limits, Phrase, Verdict, amount, exceeds, phrase
from .current import Pattern
from .view import Advice


def supply_ratio(current: float | None, voltage: float | None, limits: Limits) -> float | None:
    """Current unbalance over voltage unbalance where that ratio says “supply” (6 to 10 times); else None."""
    if not current or not voltage or not exceeds(current, limits.value("current_unbalance.good")):
        return None
    ratio = current / voltage
    inside = not exceeds(limits.value("cause.ratio_low"), ratio) and not exceeds(
        ratio, limits.value("cause.ratio_high")
    )
    return ratio if inside else None


def _advice(cause: str, says: Phrase | None = None) -> Advice:
    return Advice(
        cause=cause,
        says=says or phrase(f"cause.{cause}"),
        changes=[phrase(f"cause.{cause}.change")],
        leaves=[phrase(f"cause.{cause}.leave")],
    )


def advice(
    findings: list[Finding],
    p: Pattern,
    plate: float | None,
    ratio: float | None,
    limits: Limits,
    phases: int = 3,
    off: float | None = None,
) -> list[Advice]:
    """Which causes does the pattern allow? Two findings on one circuit stay two. A motor that stands is told
    nothing.
    """
    if any(f.rule == "standing" for f in findings):
        return []
    verdict = {f.question: f.verdict for f in findings}
    bad = (Verdict.WATCH, Verdict.ACT, Verdict.STOP)
    if verdict.get("single_phasing") is Verdict.STOP:
        return [_advice("single_phasing")]
    out: list[Advice] = []
    own = next((f for f in findings if f.question == "own_past"), None)
    high = verdict.get("load") in bad or (own is not None and own.rule == "own_past" and own.verdict in bad)
    legs_apart = verdict.get("current_unbalance") in bad or verdict.get("own_unbalance") in bad
    volts = next((f for f in findings if f.question == "line_voltage"), None)
    low_volts = volts is not None and volts.verdict in bad and off is not None and off < 0
    if legs_apart and ratio is not None:
        out.append(_advice("supply", phrase("cause.supply", ratio=amount(ratio, "1"))))
    elif legs_apart:
        one = _advice("one_leg")
        rest = 100 * p.alike_mean / plate if p.alike_mean is not None and plate else None
        if rest is not None and exceeds(rest, limits.value("load.plate")):
            one.leaves.append(phrase("cause.one_leg_and_load", rest=amount(rest, "%")))
        out.append(one)
    if high and low_volts:
        out.append(_advice("low_volts"))
    elif high and not legs_apart and (volts is None or volts.verdict is Verdict.GOOD):
        out.append(_advice("balanced_high" if phases == 3 else "single_high"))
    if own is not None and own.rule == "own_past_fall" and own.verdict in bad and not legs_apart:
        out.append(_advice("falling"))
    return out
