"""Contradictions and conditions of a running check: each a question that every check answers that can
tell."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ..base import (
    RULES,
    By,
    Finding,
    Limits,
    Phrase,
    Quantity,
    Unknown,
    Verdict,
    amount,
    exceeds,
    field_rules,
    judge,
    phrase,
    read,
)
from ..logbook import Context, SetState
from ..plant import KINDS, ControlPlate, MotorFacts
from .current import Pattern
from .entry import LEGS, RunningReadings
from .protection import ceilings
from .standing import share_of_plate, slow


@dataclass(slots=True)
class Asked:
    """What the conditions are asked of. A set that stands answers nothing that is asked of a running one:
    what was said of that stands until it runs again.
    """

    readings: RunningReadings
    pattern: Pattern
    motor: MotorFacts
    context: Context
    state: SetState
    limits: Limits
    volts_good: bool

    @property
    def running(self) -> bool | None:
        """Does it carry current? None while no leg was read."""
        return None if self.readings.top is None else self.readings.top[0] > 0


# A finding; False: it is not so; None: this check cannot tell.
Told = Finding | bool | None


def _found(
    rule: str,
    part: str,
    verdict: Verdict,
    reason: Phrase,
    *,
    subject: str = "",
    unknown: Unknown | None = None,
) -> Finding:
    by = RULES[rule].by.get(verdict)
    return Finding(
        question=rule,
        part=part,
        subject=subject,
        verdict=verdict,
        by=by,
        unknown=unknown,
        rule=rule,
        reason=reason,
    )


def _worst(case: Asked) -> Quantity:
    assert case.readings.top is not None
    return amount(case.readings.top[0], "A")


def _stalled(case: Asked) -> Told:
    hz = case.readings.speed_hz
    if not case.readings.on_drive or hz is None or not case.running:
        return None
    if exceeds(hz, case.limits.value("drive.still")):
        return False
    return _found(
        "drive_stalled",
        "control",
        Verdict.STOP,
        phrase("stalled.said", worst=_worst(case), hz=amount(hz, "Hz")),
    )


def _shut_valve(case: Asked) -> Told:
    if not case.readings.valve or not case.running or case.readings.coupled is False:
        return None
    if case.readings.valve != "shut":
        return False
    kind = KINDS.get(case.context.kind)
    if kind is not None and kind.positive:
        return _found("shut_valve", "pump", Verdict.STOP, phrase("shut.positive"))
    most = case.limits.get("shut_valve.minutes")
    found = _found(
        "shut_valve",
        "pump",
        Verdict.WATCH,
        phrase("shut.centrifugal", minutes=amount(most.value / 60, "min")),
    )
    return found.model_copy(update={"limits": [most]})


def _guard(case: Asked) -> Told:
    off = case.readings.guard == "off" or "guard_off" in case.state.change_kinds
    if not case.running or not (off or case.readings.guard):
        return None
    if not off:
        return False
    return _found(
        "guard_while_running", "coupling", Verdict.STOP, phrase("guard.running", worst=_worst(case))
    )


def _plate_figure(plate: ControlPlate, name: str) -> float | None:
    got = read(getattr(plate, name), field_rules(ControlPlate)[name])
    return got.value if got is not None else None


def _protection(case: Asked) -> Told:
    """The worst leg against what is known of the starter: its rating, overload setting, a drive's limit."""
    plate, top = case.context.control, case.readings.top
    plate = plate or ControlPlate()
    if top is None or not case.running or case.readings.ahead_of_drive:
        return None
    known = [(n, w, v) for n, w in _RATINGS if (v := _plate_figure(plate, n))]
    for measurand, plate_name, words in _SET:
        value = _last(case, measurand)
        if value is not None:
            known = [k for k in known if k[0] != plate_name]
            known.append((measurand, words, value))
    if not known:
        return None
    over = [(words, value) for _, words, value in known if exceeds(top[0], value)]
    if not over:
        return False
    words, value = over[0]
    figures: dict[str, Quantity | str | Phrase] = {"worst": amount(top[0], "A"), "leg": LEGS[top[1]]}
    reason = phrase(words, **figures, worst__limit=amount(value, "A"), rated=amount(value, "A"))
    found = _found("protection_exceeded", "control", Verdict.ACT, reason)
    more = [phrase(w, **figures, worst__limit=amount(v, "A"), rated=amount(v, "A")) for w, v in over[1:]]
    return found.model_copy(update={"notes": more})


# What was set and read since goes before what the nameplate of the starter holds.
_SET = (
    ("overload_trip", "overload_setting", "protection.trip"),
    ("drive_limit", "current_limit", "protection.limit"),
)


def _last(case: Asked, measurand: str) -> float | None:
    """What was last set, in amps of the line."""
    told = [p for p in case.context.history if p.measurand == measurand]
    return max(told, key=lambda p: p.taken_at).value if told else None


def _dial(case: Asked) -> Told:
    """The overload as it was last set, against this motor: one left from another motor does not protect."""
    plate, control = case.motor.amps_a, case.context.control
    if plate is None:
        return None
    drive = case.context.control_kind == "drive"
    sf, granted = case.motor.sf, case.limits.value("overload.sf_plate")
    high = sf is None or not exceeds(granted, sf)
    steps = ceilings(case.motor, case.limits, high=high, hard=True, drive=drive)
    most = max(limit.value for limit, _ in steps)
    trip = _last(case, "overload_trip")
    if trip is not None:
        if not exceeds(100 * trip / plate, most):
            return False
        words = phrase("protection.dial_old", trip=amount(trip, "A"), pct=amount(100 * trip / plate, "%"))
        return _found("overload_dial", "control", Verdict.ACT, words)
    dial = _plate_figure(control, "overload_setting") if control is not None else None
    if dial is None or not exceeds(100 * dial / plate, most):
        return None
    words = phrase("protection.dial_plate", dial=amount(dial, "A"), pct=amount(100 * dial / plate, "%"))
    return _found("overload_dial", "control", Verdict.UNKNOWN, words, unknown=Unknown.INCOMPLETE)


_RATINGS = (
    ("rated_amps", "protection.starter"),
    ("overload_setting", "protection.overload"),
    ("current_limit", "protection.limit"),
)


def _ambient(case: Asked) -> Told:
    air, most = case.readings.ambient_c, case.motor.max_ambient_c
    if air is None:
        return None
    if not exceeds(air, most):
        return False
    told = judge("ambient", amount(air - most, "K"), case.limits)
    words = phrase(
        "ambient.said", ambient=amount(air, "degC"), over=amount(air - most, "K"), most=amount(most, "degC")
    )
    found = _found("ambient", "motor", told.verdict, words)
    return found.model_copy(update={"line": told.line, "limits": told.limits})


def _altitude(case: Asked) -> Told:
    height = case.context.altitude_m
    if height is None:
        return None
    told = judge("altitude", amount(height, "m"), case.limits)
    if told.verdict is Verdict.GOOD:
        return False
    found = _found("altitude", "motor", told.verdict, phrase("altitude.said", height=amount(height, "m")))
    return found.model_copy(update={"line": told.line, "limits": told.limits})


def _slow_cooling(case: Asked) -> Told:
    pct = share_of_plate(case.readings, case.motor)
    if pct is None or not case.running or (case.readings.on_drive and case.readings.speed_hz is None):
        return None
    if case.motor.cooling != "own_fan" or not slow(case.readings, case.motor, case.limits):
        return False
    told = judge("slow_cooling", amount(pct, "%"), case.limits)
    words = "cooling.within" if told.verdict is Verdict.GOOD else "cooling.said"
    reason = phrase(words, pct=amount(pct, "%"), hz=amount(case.readings.speed_hz or 0.0, "Hz"))
    found = _found("slow_cooling", "motor", told.verdict, reason)
    return found.model_copy(update={"line": told.line, "limits": told.limits})


def _joint(case: Asked) -> Told:
    """One leg off with volts that are alike: at a resolution of a volt that clears nothing."""
    p = case.pattern
    if p.unbalance is None or p.odd_leg is None:
        return None
    if not exceeds(p.unbalance, case.limits.value("current_unbalance.good")):
        return False
    if not case.volts_good:
        return None
    return _found(
        "joint",
        "supply",
        Verdict.UNKNOWN,
        phrase("joint.said", leg=LEGS[p.odd_leg]),
        unknown=Unknown.INCONCLUSIVE,
    ).model_copy(update={"by": By.THIS_WEEK})


_ASKED: dict[str, Callable[[Asked], Told]] = {
    "drive_stalled": _stalled,
    "shut_valve": _shut_valve,
    "guard_while_running": _guard,
    "protection_exceeded": _protection,
    "overload_dial": _dial,
    "ambient": _ambient,
    "altitude": _altitude,
    "slow_cooling": _slow_cooling,
    "joint": _joint,
}


def conditions(case: Asked) -> tuple[list[Finding], list[str]]:
    """The conditions that hold, and the questions that this check settles: asked, and found not to be so."""
    told = {question: ask(case) for question, ask in _ASKED.items()}
    return [f for f in told.values() if isinstance(f, Finding)], [q for q, f in told.items() if f is False]
