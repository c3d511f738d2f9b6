"""The coupling itself: gap, hubs tried bare and keyed, who is fixed and who floats, the element and how long it lasts."""

from __future__ import annotations

from datetime import datetime

from ..base import By, Finding, Limits, Phrase, Verdict, amount, judge, phrase
from ..logbook import Context
from .job import Job, fold
from .passes import entries_of

THIRD = 2  # elements gone before: the next is the third


def elements_before(context: Context) -> list[datetime]:
    """When was an element renewed on this set, newest first?"""
    out = []
    for past in context.earlier:
        if fold(entries_of(past.body, past.taken_at), Context(as_of=past.taken_at)).fit.get("element_renewed"):
            out.append(past.taken_at)
    return out


def months(a: datetime, b: datetime) -> float:
    return abs((b - a).days) / 30.44


def fit_findings(job: Job, context: Context) -> tuple[list[Finding], list[Phrase]]:
    """What the coupling's own facts say, and what is asked before a third element goes in."""
    out: list[Finding] = []
    asks: list[Phrase] = []
    f, gap, maker = job.fit, job.typed.value("hub_gap"), job.typed.value("hub_gap_maker")
    if gap is not None and maker is not None:
        told = judge("coupling_fit", amount(abs(gap - maker), "mm"), Limits(context.overrides))
        words = phrase("fit.gap", gap=amount(gap, "mm"), maker=amount(maker, "mm"))
        out.append(Finding(question="coupling_fit", part="coupling", verdict=told.verdict, by=told.by, rule="coupling_fit", reason=words, line=told.line, limits=told.limits))
    elif gap is not None:
        asks.append(phrase("fit.no_maker"))
    if gap == 0:
        asks.append(phrase("fit.together"))
    asks += _screws(job)
    if f.get("keyed_fit") and not f.get("bare_fit"):
        asks.append(phrase("fit.bare_first"))
    if f.get("element_renewed"):
        more, root = _elements(job, context)
        out += more
        asks += root
    if f.get("halves_as_marked") is False:
        asks.append(phrase("fit.halves"))
    return out, asks


def _screws(job: Job) -> list[Phrase]:
    """Where the pump's shaft has to float, one hub is fixed and the other stays without set screws: the record says which."""
    f = job.fit
    if not f.get("floating_shaft"):
        return []
    pump, motor = f.get("screws_pump"), f.get("screws_motor")
    if pump is None or motor is None:
        return [phrase("fit.say_which")]
    return [phrase("fit.one_floats")] if pump == motor else []


def _elements(job: Job, context: Context) -> tuple[list[Finding], list[Phrase]]:
    before = elements_before(context)
    if not before:
        return [], []
    now = job.entries[-1].taken_at if job.entries else context.as_of
    lasted = months(before[0], now)
    words = phrase("fit.lasted", months=f"{lasted:.0f}", before=str(len(before)))
    if len(before) < THIRD:
        return [Finding(question="coupling_element", part="coupling", verdict=Verdict.WATCH, by=By.NEXT_STOP, rule="coupling_element", reason=words)], []
    if str(job.fit.get("root") or "").strip():
        return [Finding(question="coupling_element", part="coupling", verdict=Verdict.WATCH, by=By.NEXT_STOP, rule="coupling_element", reason=words)], []
    return [Finding(question="coupling_element", part="coupling", verdict=Verdict.ACT, by=By.NOW, rule="coupling_element", reason=words, notes=[phrase("fit.root")])], [phrase("fit.root")]
