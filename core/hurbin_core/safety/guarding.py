"""What every bench's answer is held against as well: a set recorded as isolated, and the limits of a repair put off."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime
from functools import wraps
from typing import Any

from ..base import (
    By,
    Compared,
    Evaluation,
    Finding,
    Limits,
    Quantity,
    Verdict,
    amount,
    compare,
    ordered,
    phrase,
    whole,
)
from ..logbook import Context, InterimLimit

STATE_WORDS = {
    "isolating": "being isolated", "isolated": "isolated", "proved": "proved dead", "live": "isolated, where volts were seen before", "giving_back": "being given back",
}  # fmt: skip
# A set recorded so has no volts: while it is only being isolated, or given back already, they are expected.
DEAD_STATES = ("isolated", "proved", "live")


def volts_seen(e: Evaluation) -> Quantity | None:
    """The largest voltage this evaluation read on the running circuit; a tester's own dc volts are none of it."""
    return _most(e, ("voltage", "voltage_mean"), Limits().value("safety.dead_below"))


def amps_seen(e: Evaluation) -> Quantity | None:
    """The largest current this evaluation read, above what a clamp shows of its neighbours."""
    return _most(e, ("current", "current_mean"), Limits().value("safety.dead_amps"))


def energy_seen(e: Evaluation) -> Quantity | None:
    """Volts, else amps, that this evaluation read on the running circuit."""
    return volts_seen(e) or amps_seen(e)


def _most(e: Evaluation, measurands: tuple[str, ...], limit: float) -> Quantity | None:
    top = max((p for p in e.points if p.measurand in measurands), key=lambda p: p.value, default=None)
    if top is None or compare(amount(top.value, top.unit), limit) is not Compared.OVER:
        return None
    return amount(top.value, top.unit, top.bound)


def live_finding(e: Evaluation, context: Context, dead_test: bool = False) -> Finding | None:
    """Volts or amps on a set recorded as isolated or proved dead: stop, whatever else was read. A dead test entered on a
    set where volts were seen is a stop as well: nothing was proved since."""
    standing = context.isolation
    if standing is None or standing.state not in DEAD_STATES:
        return None
    seen = energy_seen(e)
    if seen is not None:
        reason = phrase("live.said", volts=seen, state=STATE_WORDS[standing.state])
    elif standing.state == "live" and dead_test and e.findings:
        reason = phrase("live.dead_test")
    else:
        return None
    return Finding(
        question="live_on_isolated",
        part="supply",
        verdict=Verdict.STOP,
        by=By.NOW,
        rule="live_on_isolated",
        reason=reason,
    )


def interim_findings(e: Evaluation, context: Context) -> list[Finding]:
    """Does this reading hold the figures that were agreed on when a repair was deferred? Each limit answers for itself."""
    return [f for limit in context.interim if (f := _interim(e, limit, context.as_of)) is not None]


def _interim(e: Evaluation, limit: InterimLimit, as_of: datetime) -> Finding | None:
    points = [p for p in e.points if p.measurand == limit.measurand and (not limit.leg or p.leg == limit.leg)]
    if not points:
        return None
    point = (min if limit.floor else max)(points, key=lambda p: p.value)
    value, figure = amount(point.value, point.unit, point.bound), amount(limit.value, limit.unit)
    told = compare(value, limit.value, limit.floor)
    verdict, template = {
        Compared.OVER: (Verdict.STOP, "interim.over"),
        Compared.WITHIN: (Verdict.GOOD, "interim.within"),
        Compared.CANNOT_TELL: (Verdict.UNKNOWN, "interim.cannot"),
    }[told]
    args = {"value": value, "value__limit": figure, "limit": figure} | (
        {"does": limit.does} if told is Compared.OVER else {}
    )
    by = By.NOW if verdict is Verdict.STOP else None
    late = as_of > limit.until
    if late and verdict.rank < Verdict.ACT.rank:
        verdict, by = Verdict.ACT, By.THIS_SHIFT
    notes = (
        [phrase("interim.late", days=amount((as_of - limit.until).total_seconds() / 86400, "d"))]
        if late
        else []
    )
    return Finding(
        question="interim_limit",
        subject=limit.subject,
        part=point.part or "motor",
        verdict=verdict,
        by=by,
        rule="interim_limit",
        reason=phrase(template, **args),
        notes=notes,
        due=None if late else limit.until,
    )


Evaluate = Callable[[Sequence[Any], Context], Evaluation]


def guarded(evaluate: Evaluate, *, dead_test: bool = False) -> Evaluate:
    """The same bench, its answer held against the set's isolation and interim limits as well. Nothing of it is left out.
    `dead_test`: what this bench reads is read on a dead circuit."""

    @wraps(evaluate)
    def held(entries: Sequence[Any], context: Context) -> Evaluation:
        e = evaluate(entries, context)
        live = live_finding(e, context, dead_test)
        more = [*([live] if live else []), *interim_findings(e, context)]
        if not more:
            return e
        findings = ordered([*more, *e.findings])
        verdict, beside = whole(findings, e.problems)
        return e.model_copy(update={"findings": findings, "verdict": verdict, "beside": beside})

    return held


__all__ = [
    "DEAD_STATES",
    "STATE_WORDS",
    "amps_seen",
    "energy_seen",
    "guarded",
    "interim_findings",
    "live_finding",
    "volts_seen",
]
