"""The running check: three volts and three amps from the meter, judged while they are typed."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ..base import (
    Bench,
    By,
    Evaluation,
    Finding,
    Ghost,
    Limits,
    Mark,
    Needs,
    Phrase,
    Quantity,
    SeriesPoint,
    Verdict,
    amount,
    concluded,
    phrase,
    read_fields,
    register,
    rules_version,
)  # fmt: skip
from ..logbook import Context, Entry, newest, newest_body
from ..plant import MotorFacts, motor_facts
from ..safety import guarded
from .cause import advice, supply_ratio
from .conditions import Case, conditions
from .current import Pattern, adjusted_load_pct, load_finding, load_verdict, pattern, unbalance_finding, usual_sf
from .entry import AMPS, VOLTS, RunningCheckEntry, Taken, take
from .own_past import Past, like_checks, own_past_findings
from .standing import lacking
from .unbalance import derating, extra_rise_pct, mean, true_unbalance_pct, unbalance_pct
from .voltage import lost_leg, plate_volts_now, voltage_findings

Sheet = Sequence[Entry[RunningCheckEntry]]


def evaluate(entries: Sheet, context: Context) -> Evaluation:
    """What does this check say of the supply, the motor and the pump, and what is to be done?

    Entries fold to the newest by (taken_at, uuid). Figures are metric (V, A, Hz, °C); every field may be
    missing: what can be judged is, the rest is named in `missing`. A `problem` names an impossible field.
    Rules and limits with their sources: `limits.toml`, `rules.toml`.
    """
    entry = newest(list(entries))
    body = entry.body if entry is not None else RunningCheckEntry()
    limits = Limits(context.overrides)
    motor = motor_facts(context.motor)
    on_drive = context.control_kind == "drive"
    taken = take(body, motor, on_drive)
    nothing = not any(v is not None for v in (*taken.volts, *taken.amps))
    past = like_checks(taken, context, limits)
    p = pattern(taken, limits)
    raw, waiting, settled = ([], [], []) if nothing else _findings(taken, p, past, motor, context, limits)
    findings, verdict, beside = concluded(raw, lacking(taken, motor, limits), taken.problems)
    ratio = supply_ratio(p.unbalance, _voltage_unbalance(taken), limits)
    values = _values(taken, motor, past, p, context)
    off = values["line_voltage_off"].value if "line_voltage_off" in values else None
    return Evaluation(
        bench="running_check",
        rules_version=rules_version(),
        conditions=taken.key,
        verdict=verdict,
        beside=beside,
        values=values,
        findings=findings,
        settled=settled,
        advice=advice(raw, p, motor.amps_a, ratio, limits, taken.phases, off),
        questions=_questions(taken, motor),
        waiting=waiting,
        points=[] if nothing else _points(taken, motor, p),
        ghosts=_ghosts(taken, context, body),
        marks=_marks(taken, motor, limits, findings),
        cautions=[phrase("caution.live"), phrase("safety.codes")] if nothing else [],
        problems=taken.problems,
        missing=taken.missing,
    )


def _voltage_unbalance(taken: Taken) -> float | None:
    volts = taken.all_volts
    return unbalance_pct(volts)[0] if taken.phases == 3 and volts and min(volts) > 0 else None


def _findings(
    taken: Taken, p: Pattern, past: Past, motor: MotorFacts, context: Context, limits: Limits
) -> tuple[list[Finding], list[Phrase], list[str]]:
    out: list[Finding] = []
    lost = lost_leg(taken, limits)
    if lost is not None:
        out.append(lost)
    volts = voltage_findings(taken, motor, limits)
    out += volts
    unbalance = _voltage_unbalance(taken)
    ratio = supply_ratio(p.unbalance, unbalance, limits)
    if lost is not None and lost.verdict is Verdict.GOOD:
        lost = None
    if taken.phases == 3 and lost is None and not _standing(taken):
        out.append(unbalance_finding(taken, p, motor, unbalance, ratio is not None, limits))
    even = any(f.question == "voltage_unbalance" and f.verdict is Verdict.GOOD for f in volts)
    said, settled = conditions(Case(taken, p, motor, context, limits, even))
    out += said
    if _standing(taken):
        standing = Finding(
            question="load", part="motor", verdict=Verdict.ACT, by=By.THIS_SHIFT, rule="standing", reason=phrase("standing.said")
        )
        return [*out, standing], [], settled
    plain_legs = p.unbalance is None or not any(
        f.question == "current_unbalance" and f.verdict is not Verdict.GOOD for f in out
    )
    good_volts = not any(f.question == "line_voltage" and f.verdict is not Verdict.GOOD for f in volts)
    shaft = plain_legs and good_volts and lost is None
    off_plate = any(f.question == "line_voltage" and f.verdict.rank >= Verdict.ACT.rank for f in volts)
    load = load_finding(taken, motor, context.altitude_m, unbalance, off_plate, shaft, limits)
    if load is not None:
        out.append(load)
    own, waiting = own_past_findings(taken, past, p.unbalance, limits, "pump" if shaft else "motor")
    return out + own, waiting, settled


def _standing(taken: Taken) -> bool:
    amps = taken.all_amps
    return amps is not None and max(amps) == 0


def _values(taken: Taken, motor: MotorFacts, past: Past, p: Pattern, context: Context) -> dict[str, Quantity]:
    out: dict[str, Quantity] = {}

    def put(name: str, value: float | None, unit: str) -> None:
        if value is not None:
            out[name] = amount(value, unit)

    volts, amps = taken.all_volts, taken.all_amps
    if volts:
        put("voltage_mean", mean(volts), "V")
        unbalance = _voltage_unbalance(taken)
        if unbalance is not None:
            put("voltage_unbalance", unbalance, "%")
            put("voltage_unbalance_true", true_unbalance_pct(volts[0], volts[1], volts[2]), "%")
            put("extra_rise", extra_rise_pct(unbalance), "%")
            share = derating(unbalance)
            put("derating", None if share is None else 100 * share, "%")
        plate_v = plate_volts_now(taken, motor)
        put("line_voltage_off", 100 * (mean(volts) - plate_v) / plate_v if plate_v else None, "%")
    if amps:
        put("current_mean", mean(amps), "A")
        put("current_unbalance", p.unbalance, "%")
        put("load_adjusted", adjusted_load_pct(taken, motor, mean(amps)), "%")
    if motor.amps_a:
        for i, a in enumerate(taken.amps[: taken.wanted]):
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
    _estimate(taken, context, put)
    return out


def _estimate(taken: Taken, context: Context, put: Any) -> None:
    """Legs not read, by the ratio of the three at the last check that read them all in this state: pencil, never ink."""
    missing = [i for i, a in enumerate(taken.amps) if a is None]
    last = context.last
    if taken.phases != 3 or not 0 < len(missing) < 3 or last is None or last.conditions != taken.key:
        return
    before, problems = read_fields(RunningCheckEntry.model_validate({n: last.body.get(n) for n in AMPS}))
    legs = [before[n].value for n in AMPS if n in before]
    then = [legs[i] for i in range(3) if i not in missing] if len(legs) == 3 and not problems else []
    if not then or mean(then) <= 0:
        return
    share = mean([a for a in taken.amps if a is not None]) / mean(then)
    for i in missing:
        put(f"amps_{i + 1}_estimated", legs[i] * share, "A")


def _points(taken: Taken, motor: MotorFacts, p: Pattern) -> list[SeriesPoint]:
    out: list[SeriesPoint] = []

    def put(measurand: str, part: str, value: float | None, unit: str, leg: str = "") -> None:
        if value is not None:
            out.append(SeriesPoint(measurand=measurand, part=part, leg=leg, conditions=taken.key, value=value, unit=unit))

    for i, v in enumerate(taken.volts[: taken.wanted]):
        put("voltage", "", v, "V", ("12", "23", "31")[i])
    for i, a in enumerate(taken.amps[: taken.wanted]):
        put("current", "motor", a, "A", str(i + 1))
    volts, amps = taken.all_volts, taken.all_amps
    if volts:
        put("voltage_mean", "motor", mean(volts), "V")
        unbalance = _voltage_unbalance(taken)
        put("voltage_unbalance", "", unbalance, "%")
    if amps and max(amps) > 0:
        put("current_mean", "motor", mean(amps), "A")
        put("current_unbalance", "motor", p.unbalance, "%")
        if motor.amps_a and not taken.ahead_of_drive:
            put("load", "motor", 100 * max(amps) / motor.amps_a, "%")
    return out


def _questions(taken: Taken, motor: MotorFacts) -> list[Phrase]:
    out: list[Phrase] = []
    amps, volts = taken.all_amps, taken.all_volts
    for legs in (amps, volts):
        if taken.phases == 3 and legs and legs[0] == legs[1] == legs[2] > 0:
            out.append(phrase("ask.equal"))
            break
    if amps and motor.amps_a and 3 * motor.amps_a < max(amps):
        times = f"{max(amps) / motor.amps_a:.1f}"
        out.append(phrase("ask.inrush", worst=amount(max(amps), "A"), times=times))
    if motor.sf is not None and not usual_sf(motor.sf):
        out.append(phrase("ask.sf", sf=amount(motor.sf, "1")))
    if taken.on_drive and taken.read_at in ("drive_output", "motor_leads"):
        out.append(phrase("ask.rms"))
    if volts and amps and max(volts) > 0 and max(amps) == 0:
        out.append(phrase("ask.idle"))
    plate = plate_volts_now(taken, motor)
    if volts and plate and min(volts) > 0 and not 0.75 * plate <= mean(volts) <= 1.25 * plate:
        out.append(phrase("ask.volts_plate", mean=amount(mean(volts), "V"), plate=amount(plate, "V")))
    return out


_DIFFERS = {"at": "read elsewhere", "valve": "other valve", "hz": "other speed", "coupled": "coupled otherwise"}


def _ghosts(taken: Taken, context: Context, body: RunningCheckEntry) -> list[Ghost]:
    """The last value and the twin's behind each field, crossed out with the word that differs."""
    out: list[Ghost] = []
    behind = [("last", context.last)]
    if context.twin is not None:
        behind.append((context.twin.tag, context.twin.last))
    for whose, past in behind:
        if past is None:
            continue
        then = dict(part.split("=", 1) for part in past.conditions.split(";") if "=" in part)
        word = next((w for k, w in _DIFFERS.items() if k in then and k in taken.conditions and then[k] != taken.conditions[k]), "")
        for name in (*VOLTS, *AMPS):
            typed = past.body.get(name)
            if isinstance(typed, dict) and str(typed.get("text", "")).strip():
                out.append(
                    Ghost(field=name, whose=whose, text=str(typed["text"]), unit=str(typed.get("unit", "")),
                          taken_at=past.taken_at.isoformat(), differs=word)
                )  # fmt: skip
    return out


def _marks(taken: Taken, motor: MotorFacts, limits: Limits, findings: list[Finding]) -> list[Mark]:
    """The legs' gauges: 0 is no amps, 1 the stop; plate and service factor as marks between. A leg is drawn no better than
    the load is judged: what stands on no ground is not drawn good."""
    unknown = any(f.question == "load" and f.verdict is Verdict.UNKNOWN for f in findings)
    if not motor.amps_a:
        return []
    top = limits.value("load.stop") / 100 * motor.amps_a * 1.1

    def at(amps: float) -> float:
        return round(min(1.0, amps / top), 4)

    out = [Mark(name="plate", at=at(motor.amps_a), verdict=Verdict.GOOD, label="plate")]
    if motor.sf_amps_a and (not taken.on_drive or motor.sf_on_drive):
        out.append(Mark(name="service_factor", at=at(motor.sf_amps_a), verdict=Verdict.WATCH, label="service factor"))
    sf = motor.sf_amps_a if not taken.on_drive or motor.sf_on_drive else None
    for i, a in enumerate(taken.amps[: taken.wanted]):
        if a is not None:
            told = load_verdict(a, motor.amps_a, sf, limits)
            shown = Verdict.UNKNOWN if unknown and told.rank < Verdict.ACT.rank else told
            out.append(Mark(name=AMPS[i], at=at(a), verdict=shown))
    return out


RUNNING_CHECK = register(
    Bench(
        name="running_check",
        title="Running check",
        entry=RunningCheckEntry,
        context=Context,
        evaluate=guarded(evaluate),
        needs=Needs(
            series=(("current_mean", 40), ("voltage_mean", 40), ("current_unbalance", 40)), twin=True, slots=("motor", "control")
        ),
        facts=newest_body,
    )
)
