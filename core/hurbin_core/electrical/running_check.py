"""The running check: three volts and three amps from the meter, judged while they are typed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ..base import (
    Bench,
    By,
    Effect,
    Evaluation,
    Finding,
    Ghost,
    Limits,
    Needs,
    Phrase,
    Quantity,
    Series,
    SeriesPoint,
    Verdict,
    amount,
    concluded,
    phrase,
    read_fields,
    rules_version,
    write,
)
from ..logbook import AnyCase, Conditions, Context, Entry, ghosts_of, newest, newest_body
from ..plant import MotorFacts, motor_facts
from ..safety import guarded, live_evidence
from .cause import advice, supply_ratio
from .conditions import Asked, conditions
from .current import (
    Pattern,
    adjusted_load_pct,
    load_finding,
    load_verdict,
    pattern,
    unbalance_finding,
    usual_sf,
)
from .derating import derating
from .entry import AMPS, VOLTS, RunningCheckEntry, RunningReadings, read_check
from .formulas import extra_rise_pct, mean, true_unbalance_pct, unbalance_pct
from .hand_mode import hand_mode, hand_words
from .own_past import Past, like_checks, own_past_findings
from .standing import lacking
from .view import Mark, PlateView, RunningCheckView
from .voltage import lost_leg, plate_volts_now, voltage_findings

Sheet = Sequence[Entry[RunningCheckEntry]]


@dataclass(slots=True)
class Check:
    """A running check as it stands: what was typed, and what was understood of it."""

    body: RunningCheckEntry
    readings: RunningReadings
    motor: MotorFacts


def replay(entries: Sheet, case: AnyCase) -> Check:
    """Which check do these entries make? The newest by (taken_at, uuid), read once."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else RunningCheckEntry()
    motor = motor_facts(case.context.motor)
    on_drive = case.context.control_kind == "drive"
    return Check(body, read_check(body, motor, on_drive, Limits(case.context.overrides)), motor)


def judge(check: Check, case: AnyCase) -> Evaluation[RunningCheckView]:
    """What does this check say of the supply, the motor and the pump, and what is to be done?

    Figures are metric (V, A, Hz, °C); every field may be missing: what can be judged is, the rest is named in
    `missing`. A `problem` names an impossible field. Rules and limits with their sources: `limits.toml`,
    `rules.toml`.
    """
    readings, motor, context = check.readings, check.motor, case.context
    limits = Limits(context.overrides)
    nothing = not any(v is not None for v in (*readings.volts, *readings.amps))
    past = like_checks(readings, context, limits)
    p = pattern(readings, limits)
    raw, waiting, settled = ([], [], []) if nothing else _findings(readings, p, past, motor, case, limits)
    findings, verdict, beside = concluded(raw, lacking(readings, motor, limits), readings.problems)
    ratio = supply_ratio(p.unbalance, _voltage_unbalance(readings), limits)
    values = _values(readings, motor, past, p, context, limits)
    off = values["line_voltage_off"].value if "line_voltage_off" in values else None
    return Evaluation[RunningCheckView](
        bench="running_check",
        rules_version=rules_version(),
        conditions=readings.key,
        verdict=verdict,
        beside=beside,
        values=values,
        findings=findings,
        settled=settled,
        questions=_questions(readings, motor, limits),
        waiting=[*waiting, *hand_words(check.body, case)],
        points=[] if nothing else _points(readings, motor, p),
        ghosts=_ghosts(readings, context),
        cautions=[phrase("caution.live"), phrase("safety.codes")] if nothing else [],
        problems=readings.problems,
        missing=readings.missing,
        view=RunningCheckView(
            plate=PlateView.of(motor),
            marks=_marks(readings, motor, limits, findings),
            advice=advice(raw, p, motor.amps_a, ratio, limits, readings.phases, off),
        ),
    )


def effects(check: Check, case: AnyCase, recorded: bool) -> list[Effect]:
    """What was read on a set recorded as dead, and how its control was seen to stand."""
    return [*live_evidence(judge)(check, case, recorded), *hand_mode(check.body, case, recorded)]


def _voltage_unbalance(readings: RunningReadings) -> float | None:
    volts = readings.all_volts
    return unbalance_pct(volts)[0] if readings.phases == 3 and volts and min(volts) > 0 else None


def _findings(
    readings: RunningReadings, p: Pattern, past: Past, motor: MotorFacts, case: AnyCase, limits: Limits
) -> tuple[list[Finding], list[Phrase], list[str]]:
    out: list[Finding] = []
    lost = lost_leg(readings, limits)
    if lost is not None:
        out.append(lost)
    volts = voltage_findings(readings, motor, limits)
    out += volts
    unbalance = _voltage_unbalance(readings)
    ratio = supply_ratio(p.unbalance, unbalance, limits)
    if lost is not None and lost.verdict is Verdict.GOOD:
        lost = None
    if readings.phases == 3 and lost is None and not _standing(readings):
        out.append(unbalance_finding(readings, p, motor, unbalance, ratio is not None, limits))
    even = any(f.question == "voltage_unbalance" and f.verdict is Verdict.GOOD for f in volts)
    said, settled = conditions(Asked(readings, p, motor, case.context, case.state, limits, even))
    out += said
    if _standing(readings):
        standing = Finding(
            question="load",
            part="motor",
            verdict=Verdict.ACT,
            by=By.THIS_SHIFT,
            rule="standing",
            reason=phrase("standing.said"),
        )
        return [*out, standing], [], settled
    plain_legs = p.unbalance is None or not any(
        f.question == "current_unbalance" and f.verdict is not Verdict.GOOD for f in out
    )
    good_volts = not any(f.question == "line_voltage" and f.verdict is not Verdict.GOOD for f in volts)
    shaft = plain_legs and good_volts and lost is None
    off_plate = any(f.question == "line_voltage" and f.verdict.rank >= Verdict.ACT.rank for f in volts)
    load = load_finding(readings, motor, case.context.altitude_m, unbalance, off_plate, shaft, limits)
    if load is not None:
        out.append(load)
    own, waiting = own_past_findings(readings, past, p.unbalance, limits, "pump" if shaft else "motor")
    return out + own, waiting, settled


def _standing(readings: RunningReadings) -> bool:
    amps = readings.all_amps
    return amps is not None and max(amps) == 0


def _values(
    readings: RunningReadings, motor: MotorFacts, past: Past, p: Pattern, context: Context, limits: Limits
) -> dict[str, Quantity]:
    out: dict[str, Quantity] = {}

    def put(name: str, value: float | None, unit: str) -> None:
        if value is not None:
            out[name] = amount(value, unit)

    volts, amps = readings.all_volts, readings.all_amps
    if volts:
        put("voltage_mean", mean(volts), "V")
        unbalance = _voltage_unbalance(readings)
        if unbalance is not None:
            put("voltage_unbalance", unbalance, "%")
            put("voltage_unbalance_true", true_unbalance_pct(volts[0], volts[1], volts[2]), "%")
            put("extra_rise", extra_rise_pct(unbalance), "%")
            share = derating(unbalance)
            put("derating", None if share is None else 100 * share, "%")
        plate_v = plate_volts_now(readings, motor)
        put("line_voltage_off", 100 * (mean(volts) - plate_v) / plate_v if plate_v else None, "%")
    if amps:
        put("current_mean", mean(amps), "A")
        put("current_unbalance", p.unbalance, "%")
        put("load_adjusted", adjusted_load_pct(readings, motor, mean(amps), limits), "%")
    if motor.amps_a:
        for i, a in enumerate(readings.amps[: readings.wanted]):
            put(f"amps_{i + 1}_of_plate", None if a is None else 100 * a / motor.amps_a, "%")
            if motor.sf_amps_a:
                put(f"amps_{i + 1}_of_service_factor", None if a is None else 100 * a / motor.sf_amps_a, "%")
        if amps:
            put("load_mean", 100 * mean(amps) / motor.amps_a, "%")
            put("load_worst", 100 * max(amps) / motor.amps_a, "%")
    put("plate_amps", motor.amps_a, "A")
    put("service_factor_amps", motor.sf_amps_a, "A")
    put("plate_volts", motor.volts_v, "V")
    put("own_median", past.median, "A")
    _estimate(readings, context, put)
    return out


def _estimate(readings: RunningReadings, context: Context, put: Any) -> None:
    """Legs not read, by the ratio of the three at the last check that read them all in this state: pencil,
    never ink.
    """
    missing = [i for i, a in enumerate(readings.amps) if a is None]
    last = context.last
    if readings.phases != 3 or not 0 < len(missing) < 3 or last is None or last.conditions != readings.key:
        return
    before, problems = read_fields(RunningCheckEntry.model_validate({n: last.body.get(n) for n in AMPS}))
    legs = [before[n].value for n in AMPS if n in before]
    then = [legs[i] for i in range(3) if i not in missing] if len(legs) == 3 and not problems else []
    if not then or mean(then) <= 0:
        return
    share = mean([a for a in readings.amps if a is not None]) / mean(then)
    for i in missing:
        put(f"amps_{i + 1}_estimated", legs[i] * share, "A")


def _points(readings: RunningReadings, motor: MotorFacts, p: Pattern) -> list[SeriesPoint]:
    out: list[SeriesPoint] = []

    def put(measurand: str, part: str, value: float | None, unit: str, leg: str = "") -> None:
        if value is not None:
            out.append(
                SeriesPoint(
                    measurand=measurand, part=part, leg=leg, conditions=readings.key, value=value, unit=unit
                )
            )

    for i, v in enumerate(readings.volts[: readings.wanted]):
        put("voltage", "", v, "V", ("12", "23", "31")[i])
    for i, a in enumerate(readings.amps[: readings.wanted]):
        put("current", "motor", a, "A", str(i + 1))
    volts, amps = readings.all_volts, readings.all_amps
    if volts:
        put("voltage_mean", "motor", mean(volts), "V")
        unbalance = _voltage_unbalance(readings)
        put("voltage_unbalance", "", unbalance, "%")
    if amps and max(amps) > 0:
        put("current_mean", "motor", mean(amps), "A")
        put("current_unbalance", "motor", p.unbalance, "%")
        if motor.amps_a and not readings.ahead_of_drive:
            put("load", "motor", 100 * max(amps) / motor.amps_a, "%")
    return out


def _questions(readings: RunningReadings, motor: MotorFacts, limits: Limits) -> list[Phrase]:
    out: list[Phrase] = []
    amps, volts = readings.all_amps, readings.all_volts
    for legs in (amps, volts):
        if readings.phases == 3 and legs and legs[0] == legs[1] == legs[2] > 0:
            out.append(phrase("ask.equal"))
            break
    if amps and motor.amps_a and max(amps) > limits.value("ask.inrush") * motor.amps_a:
        times = f"{max(amps) / motor.amps_a:.1f}"
        out.append(phrase("ask.inrush", worst=amount(max(amps), "A"), times=times))
    if motor.sf is not None and not usual_sf(motor.sf, limits):
        out.append(phrase("ask.sf", sf=amount(motor.sf, "1")))
    if readings.on_drive and readings.read_at in ("drive_output", "motor_leads"):
        out.append(phrase("ask.rms"))
    if volts and amps and max(volts) > 0 and max(amps) == 0:
        out.append(phrase("ask.idle"))
    plate = plate_volts_now(readings, motor)
    low, high = (limits.value(f"ask.volts_{end}") / 100 for end in ("low", "high"))
    if volts and plate and min(volts) > 0 and not low * plate <= mean(volts) <= high * plate:
        out.append(phrase("ask.volts_plate", mean=amount(mean(volts), "V"), plate=amount(plate, "V")))
    return out


def _ghosts(readings: RunningReadings, context: Context) -> list[Ghost]:
    """The last value and the twin's behind each field, crossed out with the word that differs."""
    out: list[Ghost] = []
    twin = context.twin
    for whose, past in (("last", context.last), *([(twin.tag, twin.last)] if twin is not None else [])):
        other = Conditions.parse(past.conditions).differs(readings.conditions) if past is not None else []
        words = [phrase(f"differs.{n}") for n in _DIFFERS if n in other]
        out += ghosts_of(past, (*VOLTS, *AMPS), whose, write(words[0]) if words else "")
    return out


_DIFFERS = ("at", "valve", "hz", "coupled")


def _marks(
    readings: RunningReadings, motor: MotorFacts, limits: Limits, findings: list[Finding]
) -> list[Mark]:
    """The legs' gauges: 0 is no amps, 1 the stop; plate and service factor as marks between. A leg is drawn
    no better than the load is judged: what stands on no ground is not drawn good.
    """
    unknown = any(f.question == "load" and f.verdict is Verdict.UNKNOWN for f in findings)
    if not motor.amps_a:
        return []
    top = limits.value("load.stop") / 100 * motor.amps_a * 1.1

    def at(amps: float) -> float:
        return round(min(1.0, amps / top), 4)

    out = [Mark(name="plate", at=at(motor.amps_a), verdict=Verdict.GOOD, label="nameplate")]
    if motor.sf_amps_a and (not readings.on_drive or motor.sf_on_drive):
        out.append(
            Mark(name="service_factor", at=at(motor.sf_amps_a), verdict=Verdict.WATCH, label="service factor")
        )
    sf = motor.sf_amps_a if not readings.on_drive or motor.sf_on_drive else None
    for i, a in enumerate(readings.amps[: readings.wanted]):
        if a is not None:
            told = load_verdict(a, motor.amps_a, sf, limits)
            shown = Verdict.UNKNOWN if unknown and told.rank < Verdict.ACT.rank else told
            out.append(Mark(name=AMPS[i], at=at(a), verdict=shown))
    return out


RUNNING_CHECK = Bench(
    name="running_check",
    title="Running check",
    part="motor",
    act="live_test",
    read_with=("voltage", "current", "temperature"),
    entry=RunningCheckEntry,
    view=RunningCheckView,
    needs=Needs(
        plates=("motor", "control"),
        series=(
            *(Series(m, 40) for m in ("current_mean", "voltage_mean", "current_unbalance")),
            Series("overload_trip", 1, owner="control"),
            Series("drive_limit", 1, owner="control"),
        ),
        twin=True,
    ),
    replay=replay,
    judge=guarded(judge),
    effects=effects,
    facts=newest_body,
    evidence=("restart",),
    records="Running checks",
    one="a running check",
    gated="Running check",
    seen="Enter readings already taken",
    key="c",
    does="start a running check",
    place=90,
    leads=True,
)
