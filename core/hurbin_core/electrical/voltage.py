"""What the volts say."""

from __future__ import annotations

from ..base import By, Finding, Limits, Unknown, Verdict, amount, judge, phrase
from ..plant import MotorFacts
from .entry import PAIRS, Taken
from .unbalance import derating, extra_rise_pct, mean, true_unbalance_pct, unbalance_pct


def plate_volts_now(taken: Taken, motor: MotorFacts) -> float | None:
    """The volts this motor should see: its plate, in proportion to the frequency behind a drive, never above."""
    if motor.volts_v is None:
        return None
    if taken.on_drive and taken.read_at != "drive_input" and taken.speed_hz and motor.frequency_hz:
        return motor.volts_v * min(1.0, taken.speed_hz / motor.frequency_hz)
    return motor.volts_v


def lost_leg(taken: Taken, limits: Limits) -> Finding | None:
    """Is a leg gone? Zero volts on some pairs only, or amps on a leg under a fifth of the largest: stop at any load."""
    if taken.phases != 3:
        return None
    volts = taken.all_volts
    if volts and max(volts) > 0 and min(volts) == 0:
        leg = ", ".join(PAIRS[i] for i, v in enumerate(volts) if v == 0)
        return Finding(
            question="single_phasing", part="supply", verdict=Verdict.STOP, by=By.NOW, rule="single_phasing",
            reason=phrase("sp.volts", leg=leg),
        )  # fmt: skip
    amps = [(a, i) for i, a in enumerate(taken.amps) if a is not None]
    if len(amps) < 2:
        return None
    low, high = min(amps), max(amps)
    share = limits.get("single_phasing.share")
    if high[0] > 0 and low[0] * 100 < share.value * high[0] * (1 - 1e-9):
        return Finding(
            question="single_phasing", part="supply", verdict=Verdict.STOP, by=By.NOW, rule="single_phasing",
            reason=phrase("sp.amps", leg=f"L{low[1] + 1}", low=amount(low[0], "A"), high=amount(high[0], "A")),
            working=[phrase("sp.working", low=amount(low[0], "A"), high=amount(high[0], "A"),
                            pct=amount(100 * low[0] / high[0], "%"), limit=amount(share.value, "%"))],
            limits=[share],
        )  # fmt: skip
    if len(amps) == 3 and high[0] > 0 and (volts is None or min(volts) > 0):
        return Finding(
            question="single_phasing", part="supply", verdict=Verdict.GOOD, rule="single_phasing",
            reason=phrase("sp.good", share=amount(100 * low[0] / high[0], "%")), limits=[share],
        )  # fmt: skip
    return None


def voltage_findings(taken: Taken, motor: MotorFacts, limits: Limits) -> list[Finding]:
    """Unbalance by the definition the site judges by (both shown), and the mean against the plate."""
    volts = taken.all_volts
    if volts is not None and max(volts) == 0:
        return [
            Finding(question="line_voltage", part="supply", verdict=Verdict.ACT, by=By.NOW, rule="supply_dead", reason=phrase("dead.said"))
        ]
    out: list[Finding] = []
    if taken.phases == 3:
        if volts is None:
            gone = ", ".join(PAIRS[i] for i, v in enumerate(taken.volts) if v is None)
            out.append(
                Finding(
                    question="voltage_unbalance", part="supply", verdict=Verdict.UNKNOWN, unknown=Unknown.INCOMPLETE,
                    rule="voltage_unbalance", reason=phrase("vu.incomplete", missing=gone),
                )
            )  # fmt: skip
        elif min(volts) > 0:
            out.append(_unbalance(volts, limits))
    if volts and min(volts) > 0:
        out.append(_against_plate(taken, mean(volts), motor, limits))
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
        notes.append(phrase("vu.do_not_run"))
    elif share < 1:
        notes.append(phrase("vu.derating", derating=f"{share * 100:.0f}"))
        notes.append(phrase("vu.rise", rise=amount(extra_rise_pct(plain), "%")))
    a, b, c = (amount(v, "V") for v in volts)
    return Finding(
        question="voltage_unbalance", part="supply", verdict=result.verdict, by=result.by, rule=rule, line=result.line,
        limits=result.limits, notes=notes,
        reason=phrase("vu.said_true" if by_true else "vu.said", pct=amount(judged, "%"), pct__limit=limit,
                      other=amount(other, "%")),
        working=[
            phrase("vu.working", mean=amount(m, "V"), leg=PAIRS[furthest], deviation=amount(abs(volts[furthest] - m), "V"),
                   pct=amount(plain, "%")),
            phrase("vu.working_true", a=a, b=b, c=c, pct=amount(true, "%")),
        ],
    )  # fmt: skip


def _against_plate(taken: Taken, m: float, motor: MotorFacts, limits: Limits) -> Finding:
    plate = plate_volts_now(taken, motor)
    if plate is None:
        return Finding(
            question="line_voltage", part="supply", verdict=Verdict.UNKNOWN, unknown=Unknown.INCOMPLETE,
            rule="line_voltage", reason=phrase("lv.incomplete"),
        )  # fmt: skip
    off = 100 * (m - plate) / plate
    result = judge("line_voltage", amount(abs(off), "%"), limits)
    template = "lv.on" if result.verdict is Verdict.GOOD else ("lv.low" if off < 0 else "lv.high")
    figures = {"mean": amount(m, "V"), "plate": amount(plate, "V"), "pct": amount(abs(off), "%"),
               "pct__limit": amount(result.line.limit.value, "%")}  # fmt: skip
    notes = [phrase("lv.connection")] if result.verdict is Verdict.STOP else []
    if plate != motor.volts_v and taken.speed_hz:
        notes.append(phrase("lv.scaled", hz=amount(taken.speed_hz, "Hz")))
    return Finding(
        question="line_voltage", part="supply", verdict=result.verdict, by=result.by, rule="line_voltage", line=result.line,
        limits=result.limits, notes=notes, reason=phrase(template, **figures), working=[phrase("lv.working", **figures)],
    )  # fmt: skip
