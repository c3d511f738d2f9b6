"""What every bench's answer is held against as well: a set recorded as isolated, and the limits of a repair
put off.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from functools import wraps
from typing import Any, TypeVar

from pydantic import BaseModel

from ..base import (
    MEASURANDS,
    UNITS,
    By,
    Compared,
    Effect,
    Evaluation,
    Evidence,
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
from ..logbook import AnyCase, InterimLimit

STATE_WORDS = {
    "isolating": "being isolated",
    "isolated": "isolated",
    "proved": "isolated and proved dead",
    "live": "isolated, where voltage was found before",
    "giving_back": "being returned to service",
}
# A set recorded so has no volts: while it is only being isolated, or given back already, they are expected.
DEAD_STATES = ("isolated", "proved", "live")


def volts_seen(e: Evaluation[Any]) -> Quantity | None:
    """The largest voltage this evaluation read on the running circuit; a tester's own dc volts are none of
    it.
    """
    return _most(e, "voltage", Limits().value("safety.dead_below"))


def amps_seen(e: Evaluation[Any]) -> Quantity | None:
    """The largest current this evaluation read, above what a clamp shows of its neighbours."""
    return _most(e, "current", Limits().value("safety.dead_amps"))


def energy_seen(e: Evaluation[Any]) -> Quantity | None:
    """Volts, else amps, that this evaluation read on the running circuit."""
    return volts_seen(e) or amps_seen(e)


def _most(e: Evaluation[Any], dimension: str, limit: float) -> Quantity | None:
    live = [p for p in e.points if _live(p.measurand) and UNITS[p.unit].dimension == dimension]
    top = max(live, key=lambda p: p.value, default=None)
    if top is None or compare(amount(top.value, top.unit), limit) is not Compared.OVER:
        return None
    return amount(top.value, top.unit, top.bound)


def _live(measurand: str) -> bool:
    kind = MEASURANDS.get(measurand)
    return kind is not None and kind.live


def live_finding(e: Evaluation[Any], case: AnyCase, dead_test: bool = False) -> Finding | None:
    """Volts or amps on a set recorded as isolated or proved dead: stop, whatever else was read. A dead test
    entered on a set where volts were seen is a stop as well: nothing was proved since.
    """
    standing = case.state.isolation
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


def interim_findings(e: Evaluation[Any], case: AnyCase) -> list[Finding]:
    """Does this reading hold the figures that were agreed on when a repair was deferred? Each limit answers
    for itself.
    """
    as_of = case.context.as_of
    return [f for limit in case.state.interim if (f := _interim(e, limit, as_of)) is not None]


def _interim(e: Evaluation[Any], limit: InterimLimit, as_of: datetime) -> Finding | None:
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


S = TypeVar("S")
V = TypeVar("V", bound=BaseModel)
Judge = Callable[[S, AnyCase], Evaluation[V]]


def guarded(judge: Judge[S, V], *, dead_test: bool = False) -> Judge[S, V]:
    """The same bench, its answer held against the set's isolation and interim limits as well. Nothing of it
    is left out. `dead_test`: what this bench reads is read on a dead circuit.
    """

    @wraps(judge)
    def held(state: S, case: AnyCase) -> Evaluation[V]:
        e = judge(state, case)
        live = live_finding(e, case, dead_test)
        more = [*([live] if live else []), *interim_findings(e, case)]
        if not more:
            return e
        findings = ordered([*more, *e.findings])
        verdict, beside = whole(findings, e.problems)
        return e.model_copy(update={"findings": findings, "verdict": verdict, "beside": beside})

    return held


def live_evidence(judge: Judge[S, V]) -> Callable[[S, AnyCase, bool], list[Effect]]:
    """What was read on a circuit that is recorded as dead revokes its proof: evidence to the gate, once
    it is on record.
    """

    def shown(state: S, case: AnyCase, recorded: bool) -> list[Effect]:
        standing = case.state.isolation
        if not recorded or standing is None or standing.state not in DEAD_STATES:
            return []
        seen = energy_seen(judge(state, case))
        return (
            [Evidence(key="volts_seen", to="gate", of="prove_dead", value=seen)] if seen is not None else []
        )

    return shown


__all__ = [
    "DEAD_STATES",
    "STATE_WORDS",
    "amps_seen",
    "energy_seen",
    "guarded",
    "interim_findings",
    "live_evidence",
    "live_finding",
    "volts_seen",
]
