"""What the amps say: how far the legs are apart, and how much the shaft asks for."""

from __future__ import annotations

from dataclasses import dataclass

from ..base import (
    Certainty,
    Finding,
    Limits,
    Phrase,
    Quantity,
    Unknown,
    UsedLimit,
    Verdict,
    amount,
    judge,
    judge_steps,
    phrase,
    exceeds,
)
from ..base import RULES
from ..plant import MotorFacts
from .entry import LEGS, RunningReadings
from .derating import derating
from .formulas import load_at_plate_volts_pct, mean, unbalance_pct
from .voltage import plate_volts_now


@dataclass(slots=True)
class Pattern:
    """The shape of the three currents, for the cause."""

    unbalance: float | None = None
    odd_leg: int | None = None
    two_alike: bool = False
    alike_mean: float | None = None


def pattern(readings: RunningReadings, limits: Limits) -> Pattern:
    amps = readings.all_amps
    if readings.phases != 3 or not amps or max(amps) <= 0:
        return Pattern()
    pct, furthest = unbalance_pct(amps)
    others = [a for i, a in enumerate(amps) if i != furthest]
    apart = 100 * abs(others[0] - others[1]) / mean(others) if mean(others) > 0 else 100.0
    alike = not exceeds(apart, limits.value("current_unbalance.alike"))
    return Pattern(pct, furthest, alike, mean(others))


def unbalance_finding(
    readings: RunningReadings,
    p: Pattern,
    motor: MotorFacts,
    voltage_unbalance: float | None,
    supply_makes_it: bool,
    limits: Limits,
) -> Finding:
    """Current unbalance. A light load softens act to watch, never anything to good, never a stop, and not
    while the voltage unbalance is over its own limit.
    """
    if p.unbalance is None or p.odd_leg is None:
        gone = ", ".join(LEGS[i] for i, a in enumerate(readings.amps) if a is None) or "all three legs"
        return Finding(
            question="current_unbalance",
            part="motor",
            verdict=Verdict.UNKNOWN,
            unknown=Unknown.INCOMPLETE,
            rule="current_unbalance",
            reason=phrase("cu.incomplete", missing=gone),
        )
    amps = readings.all_amps or []
    m = mean(amps)
    result = judge("current_unbalance", amount(p.unbalance, "%"), limits)
    verdict, notes = result.verdict, []
    lost = p.two_alike and exceeds(p.unbalance, limits.value("current_unbalance.lost_phase"))
    if lost:
        verdict = Verdict.STOP
    light = motor.amps_a is not None and exceeds(
        limits.value("current_unbalance.light_load"), 100 * m / motor.amps_a
    )
    if light:
        notes.append(phrase("cu.light", light=amount(limits.value("current_unbalance.light_load"), "%")))
        supply_bad = voltage_unbalance is not None and exceeds(
            voltage_unbalance, limits.value("current_unbalance.light_supply")
        )
        if verdict is Verdict.ACT and not supply_bad:
            verdict = Verdict.WATCH
    pct = amount(p.unbalance, "%")
    used = [*result.limits]
    if light:
        used.append(limits.get("current_unbalance.light_load"))
    if lost:
        used.append(limits.get("current_unbalance.lost_phase"))
    return Finding(
        question="current_unbalance",
        part="supply" if supply_makes_it else "motor",
        verdict=verdict,
        by=RULES["current_unbalance"].by.get(verdict),
        rule="current_unbalance",
        line=result.line,
        limits=used,
        notes=notes,
        reason=phrase(
            "cu.lost" if lost else "cu.said",
            pct=pct,
            pct__limit=amount(result.line.limit.value, "%"),
            leg=LEGS[p.odd_leg],
        ),
        working=[
            phrase(
                "cu.working",
                mean=amount(m, "A"),
                leg=LEGS[p.odd_leg],
                deviation=amount(abs(amps[p.odd_leg] - m), "A"),
                pct=pct,
            )
        ],
    )


def service_factor_amps(
    readings: RunningReadings, motor: MotorFacts, altitude_m: float | None, off_plate: bool, limits: Limits
) -> tuple[float | None, Phrase]:
    """How many amps may the service factor add up to here, and why so? None where it is not in hand."""

    def none(why: str) -> tuple[None, Phrase]:
        return None, phrase("load.sf_none", why=why)

    if motor.amps_a is None or motor.sf_amps_a is None or motor.sf_amps_a <= motor.amps_a * (1 + 1e-9):
        return none("none on the nameplate")
    if readings.on_drive and not motor.sf_on_drive:
        return none("on a drive it is 1.0 unless the nameplate says otherwise")
    if readings.ambient_c is not None and exceeds(readings.ambient_c, motor.max_ambient_c):
        return none("ambient is above the nameplate limit")
    if altitude_m is not None and exceeds(altitude_m, limits.value("load.altitude")):
        return none("altitude is above the limit")
    if off_plate:
        return none("voltage is off the nameplate")
    return motor.sf_amps_a, phrase(
        "load.sf_from", amps=amount(motor.sf_amps_a, "A"), source=motor.sf_amps_from
    )


def load_steps(plate: float, sf_amps: float | None, limits: Limits) -> list[tuple[UsedLimit, Verdict]]:
    """The steps of the load in percent of plate: plate, service factor where in hand, stop."""
    (full, good), (stop, before_stop) = limits.steps("load")
    steps = [(full, good)]
    if sf_amps is not None and exceeds(stop.value, 100 * sf_amps / plate):
        pct = 100 * sf_amps / plate
        steps.append(
            (
                UsedLimit(
                    id="load.service_factor",
                    title="Load, service-factor current",
                    label="service factor",
                    value=pct,
                    unit="%",
                    standard_value=pct,
                    source="Motor nameplate",
                    certainty=Certainty.MAKER,
                ),
                Verdict.WATCH,
            )
        )
    steps.append((stop, Verdict.WATCH if sf_amps is not None and len(steps) == 1 else before_stop))
    return steps


def load_verdict(worst: float, plate: float, sf_amps: float | None, limits: Limits) -> Verdict:
    return judge_steps(
        RULES["load"], amount(100 * worst / plate, "%"), load_steps(plate, sf_amps, limits), Verdict.STOP
    ).verdict


def load_finding(
    readings: RunningReadings,
    motor: MotorFacts,
    altitude_m: float | None,
    voltage_unbalance: float | None,
    off_plate: bool,
    asked_by_shaft: bool,
    limits: Limits,
) -> Finding | None:
    """The worst leg against plate and service-factor amps. A missing leg never passes."""
    read = [(a, i) for i, a in enumerate(readings.amps[: readings.wanted]) if a is not None]
    if readings.ahead_of_drive and read:
        return _cannot(
            "cu.input" if readings.read_at == "drive_input" else "load.before_drive", Unknown.INCONCLUSIVE
        )
    if motor.amps_a is None:
        return _cannot("load.no_plate", Unknown.INCOMPLETE)
    if not read:
        return None
    worst, leg = max(read)
    plate = motor.amps_a
    pct = 100 * worst / plate
    sf_amps, sf_words = service_factor_amps(readings, motor, altitude_m, off_plate, limits)
    result = judge_steps(RULES["load"], amount(pct, "%"), load_steps(plate, sf_amps, limits), Verdict.STOP)
    verdict, notes = result.verdict, []
    figures: dict[str, Quantity | str] = {
        "worst": amount(worst, "A"),
        "leg": LEGS[leg],
        "pct": amount(pct, "%"),
        "pct__limit": amount(result.line.limit.value, "%"),
    }
    template = f"load.{verdict.value}"
    share = derating(voltage_unbalance) if voltage_unbalance is not None else None
    if (
        verdict is Verdict.GOOD
        and share is not None
        and share < 1
        and exceeds(pct, result.limits[0].value * share)
    ):
        verdict, template = Verdict.WATCH, "load.derated"
        figures["derating"] = f"{share * 100:.0f}"
    if len(read) < readings.wanted and verdict.rank <= Verdict.UNKNOWN.rank:
        figures["missing"] = ", ".join(LEGS[i] for i, a in enumerate(readings.amps) if a is None)
        return Finding(
            question="load",
            part="motor",
            verdict=Verdict.UNKNOWN,
            unknown=Unknown.INCOMPLETE,
            rule="load",
            line=result.line,
            limits=result.limits,
            reason=phrase("load.partly", **figures),
        )
    m = mean([a for a, _ in read])
    adjusted = adjusted_load_pct(readings, motor, m, limits)
    if adjusted is not None:
        notes.append(phrase("load.adjusted", pct=amount(adjusted, "%")))
    notes.append(sf_words)
    if motor.sf is not None and not usual_sf(motor.sf, limits) and not readings.on_drive:
        either = {
            load_verdict(worst, plate, plate * sf if sf > 1 else None, limits) for sf in usual_sfs(limits)
        }
        notes.append(phrase("load.holds" if either == {verdict} else "load.turns_on"))
    return Finding(
        question="load",
        part="pump" if asked_by_shaft and verdict is not Verdict.GOOD else "motor",
        verdict=verdict,
        by=RULES["load"].by.get(verdict),
        rule="load",
        line=result.line,
        limits=result.limits,
        notes=notes,
        reason=phrase(template, **figures),
        working=[
            phrase(
                "load.working",
                worst=amount(worst, "A"),
                plate=amount(plate, "A"),
                pct=amount(pct, "%"),
                mean_pct=amount(100 * m / plate, "%"),
            )
        ],
    )


def _cannot(template: str, why: Unknown) -> Finding:
    return Finding(
        question="load",
        part="motor",
        verdict=Verdict.UNKNOWN,
        unknown=why,
        rule="load",
        reason=phrase(template),
    )


def usual_sf(sf: float, limits: Limits) -> bool:
    """Is it a service factor that motors of the kind carry? An odd one may be a relay's multiplier."""
    return any(abs(sf - u) < 1e-6 for u in usual_sfs(limits))


def usual_sfs(limits: Limits) -> tuple[float, float]:
    return limits.value("load.sf_none"), limits.value("load.sf_usual")


def adjusted_load_pct(
    readings: RunningReadings, motor: MotorFacts, mean_amps: float, limits: Limits
) -> float | None:
    """Load in percent of plate as it would be at plate volts: on 4 % high volts the same amps mean about 4 %
    more.

    Indicative, within 10 % of the plate's volts only; None elsewhere. Common practice, no source.
    """
    volts, plate = readings.all_volts, plate_volts_now(readings, motor)
    if not volts or not plate or not motor.amps_a:
        return None
    share = mean(volts) / plate
    near = limits.value("load.adjusted") / 100
    if not 1 - near <= share <= 1 + near:
        return None
    return load_at_plate_volts_pct(100 * mean_amps / motor.amps_a, share)
