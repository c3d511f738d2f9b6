"""What the overload says: where it trips, whether its class fits the start, what a lost leg does."""

from __future__ import annotations

from ...base import (
    RULES,
    Bound,
    Certainty,
    Finding,
    Limits,
    Phrase,
    Quantity,
    UsedLimit,
    Verdict,
    amount,
    exceeds,
    judge_steps,
    phrase,
)
from ...plant import MotorFacts
from .formulas import dial_for, start_share, trip_s, wait_s
from .sheet import Guard, answer, lasting

_MOST = "overload_setting"


def ceilings(
    motor: MotorFacts, limits: Limits, *, high: bool | None, hard: bool, drive: bool
) -> list[tuple[UsedLimit, Verdict]]:
    """Up to which share of nameplate current may an overload trip, step by step?

    high: the nameplate grants the higher ceiling; None: it does not say, and between the two nobody knows.
    hard: it does not start with less. Beyond the last step it is to be set lower.
    """
    if drive:
        own = motor.sf_amps_a if motor.sf_on_drive and motor.sf_amps_a and motor.amps_a else None
        if own is None or motor.amps_a is None:
            return [(limits.get("overload.drive"), Verdict.GOOD)]
        pct = 100 * own / motor.amps_a
        granted = limits.get("overload.drive").model_copy(
            update={"value": pct, "standard_value": pct, "certainty": Certainty.MAKER}
        )
        return [(granted, Verdict.GOOD)]
    low, top = limits.get("overload.trip"), limits.get("overload.trip_sf")
    steps = [(top, Verdict.GOOD)] if high else [(low, Verdict.GOOD)]
    if high is None:
        steps.append((top, Verdict.UNKNOWN))
    if hard:
        steps.append((limits.get("overload.hard_sf" if high else "overload.hard"), Verdict.WATCH))
    return sorted(steps, key=lambda s: s[0].value)


def setting_finding(g: Guard) -> Finding | None:
    """Where does it trip, and what does it protect so? Worst state in which good is still said: a dial that
    was turned back after it was read, or a relay that no longer trips where it is set.
    """
    if not g.said:
        return None
    if g.device in ("none", "inside"):
        return _without_dial(g)
    dial, plate = g.got.get("dial"), g.motor.amps_a
    if dial is None:
        return None
    if plate is None:
        return answer(_MOST, Verdict.UNKNOWN, phrase("protection.no_plate"))
    factor = g.multiplier
    bound = Bound.EXACT if factor is not None else Bound.AT_LEAST
    trip = g.in_line(dial * (factor or g.limits.value("overload.multiplier")))
    share = Quantity(value=100 * trip / plate, unit="%", bound=bound)
    steps = ceilings(
        g.motor,
        g.limits,
        high=g.high_ceiling,
        hard=bool(g.body.hard_start),
        drive=g.device == "drive",
    )
    told = judge_steps(RULES[_MOST], share, steps, Verdict.ACT)
    verdict = told.verdict
    low = exceeds(g.limits.value("overload.least"), share.value)
    if bound is Bound.EXACT and verdict is Verdict.GOOD and low:
        verdict = Verdict.WATCH
    figures: dict[str, Quantity | str | Phrase] = {
        "dial": amount(dial, "A"),
        "trip": amount(trip, "A"),
        "pct": Quantity(value=share.value, unit="%"),
    }
    if factor is None and verdict is not Verdict.ACT:
        reason, verdict = phrase("protection.no_multiplier", **figures), Verdict.UNKNOWN
    else:
        words = "protection.trips" if factor is not None else "protection.trips_least"
        reason = phrase(words, **figures, guards=_guards(verdict, low, share.value, g))
    notes = [phrase("protection.due", due=amount(due_of(g), "A"))] if g.path_known else []
    if g.body.inside_delta:
        notes.append(phrase("protection.delta"))
    found = answer(_MOST, verdict, reason, *notes, phrase("protection.table"))
    return found.model_copy(update={"line": told.line, "limits": told.limits})


def _guards(verdict: Verdict, low: bool, share: float, g: Guard) -> Phrase:
    if verdict is Verdict.ACT:
        wire = exceeds(share, g.limits.value("overload.hard_sf"))
        return phrase(f"protection.guards_{'wire' if wire else 'not'}")
    if verdict is Verdict.UNKNOWN:
        return phrase("protection.guards_unsure")
    if verdict is Verdict.WATCH:
        return phrase(f"protection.guards_{'less' if low else 'hard'}")
    return phrase("protection.guards_motor")


def _without_dial(g: Guard) -> Finding:
    """A protector in the winding, or none at all."""
    if g.device == "none":
        return answer(_MOST, Verdict.ACT, phrase("protection.bare"), phrase("protection.table"))
    if not g.body.marked:
        return answer(_MOST, Verdict.UNKNOWN, phrase("protection.sensor_unsure"))
    return answer(_MOST, Verdict.WATCH, phrase("protection.sensor"))


def due_of(g: Guard) -> float:
    """The dial that this nameplate asks for, in A."""
    return dial_for(g.motor.amps_a or 0.0, g.ratio or 1.0, g.loops or 1.0, bool(g.body.inside_delta))


def multiple_of(g: Guard, amps: float) -> float | None:
    """A current in the line as a multiple of the dial."""
    own = g.dial_amps
    return amps / own if own else None


def class_finding(g: Guard) -> Finding | None:
    """Does it ride through a start, and stop a locked rotor? Worst state in which good is still said: a start
    that takes longer in winter, with cold oil or a pump that turned backwards.
    """
    if g.device not in ("thermal", "electronic") or not g.seconds:
        return None
    images, edge = g.images, g.limits.value("overload.edge")
    start, stall, amps = (g.got.get(n) for n in ("start_seconds", "stall_seconds", "start_amps"))
    many = multiple_of(g, amps) if amps else None
    if not images or many is None or start is None or stall is None:
        if stall is not None and not exceeds(stall, g.seconds[1]):
            return _slow(g.seconds[1], stall)
        return answer("overload_class", Verdict.UNKNOWN, phrase("protection.class_open"))
    least, most = (trip_s(tau, many, 0.0, edge) for tau in images)
    if least is None or most is None:
        return _slow(None, stall)
    if not exceeds(stall, g.seconds[1]):
        return _slow(g.seconds[1], stall)
    notes = _heat(g, many, start)
    if not exceeds(stall, most):
        reason = phrase(
            "protection.class_late",
            most=lasting(g.seconds[1]),
            trip=lasting(most),
            stall=lasting(stall),
        )
        return answer("overload_class", Verdict.ACT, reason, *notes)
    figures = {"start": lasting(start), "least": lasting(least), "most": lasting(most)}
    if exceeds(start * g.limits.value("overload.start"), least):
        reason = phrase("protection.class_fast", start=figures["start"], trip=figures["least"])
        return answer("overload_class", Verdict.WATCH, reason, *notes)
    reason = phrase("protection.class_fits", **figures, stall=lasting(stall))
    return answer("overload_class", Verdict.GOOD, reason, *notes)


def _slow(trip: float | None, stall: float) -> Finding:
    if trip is None:
        return answer("overload_class", Verdict.ACT, phrase("protection.guards_not"))
    reason = phrase("protection.class_slow", trip=lasting(trip), stall=lasting(stall))
    return answer("overload_class", Verdict.ACT, reason)


def heat_of(g: Guard) -> tuple[float, float | None] | None:
    """The share of a trip that one start takes, and how long it rests until the next fits, by the image that
    is worse for each; None where something of it is not known.
    """
    images, start, amps = g.images, g.got.get("start_seconds"), g.got.get("start_amps")
    many = multiple_of(g, amps) if amps else None
    if not images or start is None or many is None:
        return None
    edge, slower = g.limits.value("overload.edge"), g.limits.value("overload.cooling")
    shares = [start_share(tau, many, start, edge) for tau in images]
    waits = [wait_s(tau, share, slower) for tau, share in zip(images, shares, strict=True)]
    longest = None if None in waits else max(w for w in waits if w is not None)
    return max(shares), longest


def _heat(g: Guard, many: float, start: float) -> list[Phrase]:
    told = heat_of(g)
    if told is None:
        return []
    share, wait = told
    out = [phrase("protection.start_heat", share=amount(100 * share, "%"))]
    if wait is None:
        return [*out, phrase("protection.start_never")]
    return [*out, phrase("protection.start_wait", wait=lasting(wait))]


def lost_leg_finding(g: Guard) -> Finding | None:
    """What does it do when a leg is lost at full load? Said only where it is known; never a good."""
    if g.device not in ("thermal", "electronic") or not g.dial_amps or not g.motor.amps_a:
        return None
    edge, times = g.limits.value("overload.edge"), g.limits.value("overload.lost_leg")
    amps = times * g.motor.amps_a
    many = amps / g.dial_amps
    if not exceeds(many, edge):
        words = phrase("protection.lost_never", amps=amount(amps, "A"), times=f"{many:.2f}")
        return answer("overload_lost_leg", Verdict.ACT, words)
    return None


def lost_times(g: Guard) -> tuple[float, float, float, float] | None:
    """A lost leg at full load: amps in the line, seconds from cold and from warm by the slowest image, and
    the share of full load below which it never trips.
    """
    if not g.images or not g.dial_amps or not g.motor.amps_a:
        return None
    edge, times = g.limits.value("overload.edge"), g.limits.value("overload.lost_leg")
    amps, before = times * g.motor.amps_a, g.motor.amps_a / g.dial_amps
    many = amps / g.dial_amps
    cold, hot = (trip_s(g.images[1], many, p, edge) for p in (0.0, before))
    if cold is None or hot is None:
        return None
    return amps, cold, hot, min(1.0, edge * g.dial_amps / amps)


def reset_finding(g: Guard) -> Finding | None:
    """Does it wait for a person after a trip?"""
    if g.body.reset is None:
        return None
    auto = g.body.reset == "auto"
    verdict = Verdict.WATCH if auto else Verdict.GOOD
    return answer("overload_reset", verdict, phrase(f"protection.reset_{g.body.reset}"))
