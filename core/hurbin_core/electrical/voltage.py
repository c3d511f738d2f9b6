"""What the volts say."""

from __future__ import annotations

import math

from ..base import (
    By,
    Finding,
    Limits,
    Phrase,
    Quantity,
    Unknown,
    Verdict,
    amount,
    exceeds,
    judge,
    nominal,
    phrase,
)
from ..plant import MotorFacts
from .derating import DERATED_TO, derating
from .entry import PAIRS, RunningReadings
from .formulas import extra_rise_pct, mean, true_unbalance_pct, unbalance_pct


def plate_volts_now(readings: RunningReadings, motor: MotorFacts) -> float | None:
    """The volts this motor should see: its plate, in proportion to the frequency behind a drive, never above.
    None where that proportion is not known.
    """
    if motor.volts_v is None:
        return None
    if readings.on_drive and not readings.ahead_of_drive:
        if not readings.speed_hz or not motor.frequency_hz:
            return None
        return motor.volts_v * min(1.0, readings.speed_hz / motor.frequency_hz)
    return motor.volts_v


def other_connection(share: float, limits: Limits) -> bool:
    """Do volts at this share of the plate's fit another connection: star for delta, or the other column of a
    dual plate?
    """
    near = limits.value("line_voltage.other_connection") / 100
    return any(not exceeds(abs(share / r - 1), near) for r in (0.5, 1 / math.sqrt(3), math.sqrt(3), 2.0))


def lost_leg(readings: RunningReadings, limits: Limits) -> Finding | None:
    """Is a leg gone? Zero volts on some pairs only, or amps on a leg under a fifth of the largest: stop at
    any load.
    """
    if readings.phases != 3:
        return None
    volts = readings.all_volts
    pairs = [(v, i) for i, v in enumerate(readings.volts) if v is not None]
    dead = limits.value("single_phasing.share") / 100
    top = max(pairs, default=(0.0, 0))[0]
    # One pair carries volts and another next to none: a leg is gone, whatever the third pair reads.
    if top > 0 and any(exceeds(dead * top, v) for v, _ in pairs):
        leg = ", ".join(PAIRS[i] for v, i in pairs if exceeds(dead * top, v))
        return Finding(
            question="single_phasing",
            part="supply",
            verdict=Verdict.STOP,
            by=By.NOW,
            rule="single_phasing",
            reason=phrase("sp.volts", leg=leg),
        )
    amps = [(a, i) for i, a in enumerate(readings.amps) if a is not None]
    if len(amps) < 2:
        return None
    low, high = min(amps), max(amps)
    share = limits.get("single_phasing.share")
    if high[0] > 0 and exceeds(share.value, 100 * low[0] / high[0]):
        return Finding(
            question="single_phasing",
            part="supply",
            verdict=Verdict.STOP,
            by=By.NOW,
            rule="single_phasing",
            reason=phrase(
                "sp.amps", leg=f"L{low[1] + 1}", low=amount(low[0], "A"), high=amount(high[0], "A")
            ),
            working=[
                phrase(
                    "sp.working",
                    low=amount(low[0], "A"),
                    high=amount(high[0], "A"),
                    pct=amount(100 * low[0] / high[0], "%"),
                    limit=amount(share.value, "%"),
                )
            ],
            limits=[share],
        )
    if len(amps) == 3 and high[0] > 0 and (volts is None or min(volts) > 0):
        return Finding(
            question="single_phasing",
            part="supply",
            verdict=Verdict.GOOD,
            rule="single_phasing",
            reason=phrase("sp.good", share=amount(100 * low[0] / high[0], "%")),
            limits=[share],
        )
    return None


def voltage_findings(readings: RunningReadings, motor: MotorFacts, limits: Limits) -> list[Finding]:
    """Unbalance by the definition the site judges by (both shown), and the mean against the plate."""
    volts = readings.all_volts
    if volts is not None and max(volts) == 0:
        return [
            Finding(
                question="line_voltage",
                part="supply",
                verdict=Verdict.ACT,
                by=By.NOW,
                rule="supply_dead",
                reason=phrase("dead.said"),
            )
        ]
    out: list[Finding] = []
    if readings.phases == 3:
        if volts is None:
            gone = ", ".join(PAIRS[i] for i, v in enumerate(readings.volts) if v is None)
            out.append(
                Finding(
                    question="voltage_unbalance",
                    part="supply",
                    verdict=Verdict.UNKNOWN,
                    unknown=Unknown.INCOMPLETE,
                    rule="voltage_unbalance",
                    reason=phrase("vu.incomplete", missing=gone),
                )
            )
        elif min(volts) > 0:
            out.append(_unbalance(volts, limits))
    if volts and min(volts) > 0:
        out.append(_against_plate(readings, mean(volts), motor, limits))
    return out


def _unbalance(volts: list[float], limits: Limits) -> Finding:
    plain, furthest = unbalance_pct(volts)
    true = true_unbalance_pct(volts[0], volts[1], volts[2])
    m = mean(volts)
    by_true = limits.school("school.voltage_unbalance") == "true"
    rule = "voltage_unbalance_true" if by_true else "voltage_unbalance"
    judged, other = (true, plain) if by_true else (plain, true)
    result = judge(rule, amount(judged, "%"), limits)
    limit = amount(result.line.limit.value, "%")
    share, notes = derating(plain), []
    if share is None:
        notes.append(phrase("vu.do_not_run", most=nominal(DERATED_TO, "%")))
    elif share < 1:
        notes.append(phrase("vu.derating", derating=f"{share * 100:.0f}"))
        notes.append(phrase("vu.rise", rise=amount(extra_rise_pct(plain), "%")))
    a, b, c = (amount(v, "V") for v in volts)
    return Finding(
        question="voltage_unbalance",
        part="supply",
        verdict=result.verdict,
        by=result.by,
        rule=rule,
        line=result.line,
        limits=result.limits,
        notes=notes,
        reason=phrase(
            "vu.said_true" if by_true else "vu.said",
            pct=amount(judged, "%"),
            pct__limit=limit,
            other=amount(other, "%"),
        ),
        working=[
            phrase(
                "vu.working",
                mean=amount(m, "V"),
                leg=PAIRS[furthest],
                deviation=amount(abs(volts[furthest] - m), "V"),
                pct=amount(plain, "%"),
            ),
            phrase("vu.working_true", a=a, b=b, c=c, pct=amount(true, "%")),
        ],
    )


def _against_plate(readings: RunningReadings, m: float, motor: MotorFacts, limits: Limits) -> Finding:
    behind = readings.on_drive and not readings.ahead_of_drive
    rule = "line_voltage_drive" if behind else "line_voltage"
    plate = plate_volts_now(readings, motor)
    if plate is None:
        words = phrase("lv.incomplete" if motor.volts_v is None else "lv.no_proportion", mean=amount(m, "V"))
        return Finding(
            question="line_voltage",
            part="supply",
            verdict=Verdict.UNKNOWN,
            unknown=Unknown.INCOMPLETE,
            rule=rule,
            reason=words,
        )
    off = 100 * (m - plate) / plate
    result = judge(rule, amount(abs(off), "%"), limits)
    template = "lv.on" if result.verdict is Verdict.GOOD else ("lv.low" if off < 0 else "lv.high")
    figures: dict[str, Quantity | str | Phrase] = {
        "mean": amount(m, "V"),
        "plate": amount(plate, "V"),
        "pct": amount(abs(off), "%"),
        "pct__limit": amount(result.line.limit.value, "%"),
    }
    notes = []
    if result.verdict is Verdict.STOP:
        notes.append(phrase("lv.connection" if other_connection(m / plate, limits) else "lv.far"))
    if behind and readings.speed_hz:
        notes.append(phrase("lv.scaled", hz=amount(readings.speed_hz, "Hz")))
    elif readings.ahead_of_drive:
        notes.append(phrase("lv.ahead"))
    return Finding(
        question="line_voltage",
        part="supply",
        verdict=result.verdict,
        by=result.by,
        rule=rule,
        line=result.line,
        limits=result.limits,
        notes=notes,
        reason=phrase(template, **figures),
        working=[phrase("lv.working", **figures)],
    )
