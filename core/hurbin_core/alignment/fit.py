"""The coupling itself: gap, hubs tried bare and keyed, who is fixed and who floats, the element and how long
it lasts.
"""

from __future__ import annotations

from datetime import datetime

from ..base import By, Finding, Judged, Limits, Phrase, Unknown, Verdict, amount, exceeds, judge, phrase
from ..logbook import Context
from .passes import entries_of
from .visit import Visit, fold


def elements_before(context: Context) -> list[datetime]:
    """When was an element renewed on this set, newest first?"""
    out = []
    for past in context.earlier:
        if fold(entries_of(past.body, past.taken_at)).said("element_renewed"):
            out.append(past.taken_at)
    return out


def months(a: datetime, b: datetime) -> float:
    return abs((b - a).days) / 30.44


def fit_findings(visit: Visit, context: Context) -> tuple[list[Finding], list[Phrase]]:
    """What the coupling's own facts say, and what is asked before a third element goes in."""
    out: list[Finding] = []
    asks: list[Phrase] = []
    more, ask = _gap(visit, context)
    out += more
    asks += ask
    out += _fixing(visit)
    asks += [phrase("fit.say_which")] if _unsaid_fixing(visit) else []
    if visit.said("keyed_fit") and not visit.said("bare_fit"):
        asks.append(phrase("fit.bare_first"))
    if visit.said("element_renewed"):
        more, root = _elements(visit, context)
        out += more
        asks += root
    if visit.said("halves_as_marked") is False:
        asks.append(phrase("fit.halves"))
    return out, asks


def _gap(visit: Visit, context: Context) -> tuple[list[Finding], list[Phrase]]:
    """The gap between the hubs: nothing is act, under the maker's never good, over it good within what a
    feeler sets.
    """
    gap, maker = visit.typed.value("hub_gap"), visit.typed.value("hub_gap_maker")
    if gap is None:
        return [], []

    def found(verdict: Verdict, by: By | None, reason: Phrase, told: Judged | None = None) -> list[Finding]:
        return [
            Finding(
                question="coupling_fit",
                part="coupling",
                verdict=verdict,
                by=by,
                unknown=Unknown.INCOMPLETE if verdict is Verdict.UNKNOWN else None,
                rule="coupling_fit",
                reason=reason,
                line=told.line if told is not None else None,
                limits=told.limits if told is not None else [],
            )
        ]

    if gap == 0:
        return found(Verdict.ACT, By.NOW, phrase("fit.closed")), []
    if maker is None:
        return found(Verdict.UNKNOWN, By.THIS_WEEK, phrase("fit.no_figure", gap=amount(gap, "mm"))), [
            phrase("fit.no_maker")
        ]
    limits, args = Limits(context.overrides), {"gap": amount(gap, "mm"), "maker": amount(maker, "mm")}
    if exceeds(maker, gap):
        told = judge("coupling_gap_short", amount(maker - gap, "mm"), limits)
        return (
            found(told.verdict, told.by, phrase("fit.short", short=amount(maker - gap, "mm"), **args), told),
            [],
        )
    told = judge("coupling_fit", amount(max(0.0, gap - maker), "mm"), limits)
    return found(told.verdict, told.by, phrase("fit.gap", **args), told), []


def _unsaid_fixing(visit: Visit) -> bool:
    return bool(visit.said("floating_shaft")) and (
        visit.said("screws_pump") is None or visit.said("screws_motor") is None
    )


def _fixing(visit: Visit) -> list[Finding]:
    """Where the pump's shaft has to float, its hub stays without set screws and the motor's is fixed: the
    record says which.
    """
    pump, motor = visit.said("screws_pump"), visit.said("screws_motor")
    if not visit.said("floating_shaft") or pump is None:
        return []
    if pump == "fixed":
        words, verdict = ("fit.both_fixed" if motor == "fixed" else "fit.pump_fixed"), Verdict.STOP
    elif motor == "floating":
        words, verdict = "fit.none_fixed", Verdict.ACT
    else:
        return []
    return [
        Finding(
            question="hub_fixing",
            part="coupling",
            verdict=verdict,
            by=By.NOW,
            rule="hub_fixing",
            reason=phrase(words),
        )
    ]


def _elements(visit: Visit, context: Context) -> tuple[list[Finding], list[Phrase]]:
    before = elements_before(context)
    if not before:
        return [], []
    now = visit.entries[-1].taken_at if visit.entries else context.as_of
    lasted = months(before[0], now)
    words = phrase("fit.lasted", months=f"{lasted:.0f}", before=str(len(before)))
    if len(before) < Limits(context.overrides).count("alignment.elements"):
        return [
            Finding(
                question="coupling_element",
                part="coupling",
                verdict=Verdict.WATCH,
                by=By.NEXT_STOP,
                rule="coupling_element",
                reason=words,
            )
        ], []
    if str(visit.said("root") or "").strip():
        return [
            Finding(
                question="coupling_element",
                part="coupling",
                verdict=Verdict.WATCH,
                by=By.NEXT_STOP,
                rule="coupling_element",
                reason=words,
            )
        ], []
    return [
        Finding(
            question="coupling_element",
            part="coupling",
            verdict=Verdict.ACT,
            by=By.NOW,
            rule="coupling_element",
            reason=words,
            notes=[phrase("fit.root")],
        )
    ], [phrase("fit.root")]
