"""What every bench's answer is held against as well: a set recorded as isolated, and the limits of a repair put off."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import wraps
from typing import Any

from ..base import By, Compared, Evaluation, Finding, Limits, Quantity, Verdict, amount, compare, phrase, worst
from ..logbook import Context, InterimLimit

STATE_WORDS = {
    "isolating": "being isolated", "isolated": "isolated", "proved": "proved dead", "live": "isolated, where volts were seen before", "giving_back": "being given back",
}  # fmt: skip
# A set recorded so has no volts: while it is only being isolated, or given back already, they are expected.
DEAD_STATES = ("isolated", "proved", "live")


def volts_seen(e: Evaluation) -> Quantity | None:
    """The largest voltage this evaluation read on the running circuit; a tester's own dc volts are none of it."""
    volts = [p for p in e.points if p.measurand in ("voltage", "voltage_mean")]
    top = max(volts, key=lambda p: p.value, default=None)
    if top is None or compare(amount(top.value, top.unit), Limits().value("safety.dead_below")) is not Compared.OVER:
        return None
    return amount(top.value, top.unit, top.bound)


def live_finding(e: Evaluation, context: Context) -> Finding | None:
    """Volts on a set recorded as isolated or proved dead: stop, whatever else was read."""
    standing, volts = context.isolation, volts_seen(e)
    if standing is None or standing.state not in DEAD_STATES or volts is None:
        return None
    return Finding(
        question="live_on_isolated", part="supply", verdict=Verdict.STOP, by=By.NOW, rule="live_on_isolated",
        reason=phrase("live.said", volts=volts, state=STATE_WORDS[standing.state]),
    )  # fmt: skip


def interim_findings(e: Evaluation, context: Context) -> list[Finding]:
    """Does this reading hold the figures that were agreed on when a repair was put off?"""
    return [f for limit in context.interim if (f := _interim(e, limit)) is not None]


def _interim(e: Evaluation, limit: InterimLimit) -> Finding | None:
    points = [p for p in e.points if p.measurand == limit.measurand and (not limit.leg or p.leg == limit.leg)]
    if not points:
        return None
    point = (min if limit.floor else max)(points, key=lambda p: p.value)
    value, figure = amount(point.value, point.unit, point.bound), amount(limit.value, limit.unit)
    told = compare(value, limit.value, limit.floor)
    verdict, template = {
        Compared.OVER: (Verdict.STOP, "interim.over"), Compared.WITHIN: (Verdict.GOOD, "interim.within"), Compared.CANNOT_TELL: (Verdict.UNKNOWN, "interim.cannot"),
    }[told]  # fmt: skip
    args = {"value": value, "value__limit": figure, "limit": figure} | ({"does": limit.does} if told is Compared.OVER else {})
    return Finding(question="interim_limit", part=point.part or "motor", verdict=verdict, by=By.NOW if verdict is Verdict.STOP else None,
                   rule="interim_limit", reason=phrase(template, **args))  # fmt: skip


def guarded(evaluate: Callable[[Sequence[Any], Context], Evaluation]) -> Callable[[Sequence[Any], Context], Evaluation]:
    """The same bench, its answer held against the set's isolation and interim limits as well. Nothing of it is left out."""

    @wraps(evaluate)
    def held(entries: Sequence[Any], context: Context) -> Evaluation:
        e = evaluate(entries, context)
        live = live_finding(e, context)
        more = [*([live] if live else []), *interim_findings(e, context)]
        if not more:
            return e
        findings = sorted([*more, *e.findings], key=lambda f: (-f.verdict.rank, f.by.rank if f.by else 9))
        verdict, beside = worst(f.verdict for f in findings)
        return e.model_copy(update={"findings": findings, "verdict": verdict, "beside": beside})

    return held


__all__ = ["DEAD_STATES", "STATE_WORDS", "guarded", "interim_findings", "live_finding", "volts_seen"]
