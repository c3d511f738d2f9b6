"""Does a lift pump still move what it did, is it ragging, does the pair share, do the starts fit the well?"""

from __future__ import annotations

from ...base import Finding, Phrase, Unknown, Verdict, amount, exceeds, phrase
from ..answering import answer, judged
from ..formulas import velocity
from .sheet import Draw, band_for, starts_an_hour


def findings(d: Draw) -> list[Finding]:
    """Every question that this sheet can answer."""
    asked = (_flow(d), _sign(d), _main(d), _starts(d), _pair(d), _float(d))
    return [f for f in asked if f is not None]


def _flow(d: Draw) -> Finding | None:
    """The pump's flow against its own best."""
    if not d.body.runs:
        return None
    if not d.runs or d.flow is None:
        return answer("drawdown", Verdict.UNKNOWN, phrase("drawdown.not_whole"))
    said = amount(d.flow * 3.6, "m3/h")
    inflow = amount(d.runs[0].inflow * 3.6, "m3/h")
    if d.doubt is not None:
        return answer("drawdown", Verdict.UNKNOWN, d.doubt, unknown=Unknown.INCONCLUSIVE)
    if d.best is None:
        words = phrase("drawdown.first", flow=said, inflow=inflow)
        return answer("drawdown", Verdict.UNKNOWN, words)
    pct = amount(100 * d.flow / d.best, "%")
    best = amount(d.best * 3.6, "m3/h")
    return judged(
        "drawdown", pct, d.limits, phrase("drawdown.said", flow=said, inflow=inflow, best=best, pct=pct)
    )


def _direction(now: float, was: float, most: float) -> str:
    change = 100 * (now / was - 1)
    if exceeds(change, most):
        return "up"
    return "down" if exceeds(-change, most) else "same"


def _sign(d: Draw) -> Finding | None:
    """Flow and current together say which it is."""
    if d.amps is None:
        return None
    if not d.body.amps_mean:
        return answer("lift_sign", Verdict.UNKNOWN, phrase("drawdown.mean"))
    if d.doubt is not None:
        return answer("lift_sign", Verdict.UNKNOWN, d.doubt, unknown=Unknown.INCONCLUSIVE)
    if d.flow is None or d.best is None or d.best_amps is None:
        return answer("lift_sign", Verdict.UNKNOWN, phrase("drawdown.no_past"))
    idle = d.t.got.get("idle_amps")
    if idle and d.flow < 0.1 * d.best and not exceeds(d.amps, 1.15 * idle):
        return answer("lift_sign", Verdict.ACT, phrase("drawdown.none_idle"))
    flow = _direction(d.flow, d.best, d.limits.value("lift.flow"))
    amps = _direction(d.amps, d.best_amps, d.limits.value("lift.amps"))
    figures = {
        "flow": amount(100 * (d.flow / d.best - 1), "%"),
        "amps": amount(100 * (d.amps / d.best_amps - 1), "%"),
    }
    if flow == "up":
        return answer(
            "lift_sign", Verdict.UNKNOWN, phrase("drawdown.sign_up", **figures), unknown=Unknown.INCONCLUSIVE
        )
    verdict = Verdict.GOOD if (flow, amps) == ("same", "same") else Verdict.ACT
    if flow == "same" and amps != "same":
        verdict = Verdict.WATCH
    return answer("lift_sign", verdict, phrase(f"drawdown.sign_{flow}_{amps}", **figures))


def _main(d: Draw) -> Finding | None:
    """Does the force main keep solids moving?"""
    flow, bore = d.flow, d.t.got.get("main_bore")
    if flow is None or bore is None:
        return None
    if d.doubt is not None:
        return answer("force_main", Verdict.UNKNOWN, d.doubt, unknown=Unknown.INCONCLUSIVE)
    fast = amount(velocity(flow * 3.6, bore), "m/s")
    return judged("force_main", fast, d.limits, phrase("drawdown.main", fast=fast))


def _starts(d: Draw) -> Finding | None:
    """Starts an hour at this inflow, and at the worst one, against those allowed: by the flow that was
    measured where it counts, else by the station's as typed.
    """
    got = d.t.got
    pump = d.sure_flow or (got["station"] / 3.6 if "station" in got else None)
    band, allowed = got.get("band"), got.get("allowed")
    if not band:
        return None
    if not pump:
        words = d.doubt or phrase("drawdown.not_sure")
        return answer("well_starts", Verdict.UNKNOWN, words, unknown=Unknown.INCONCLUSIVE) if d.flow else None
    share = 2.0 if d.body.alternates == "yes" else 1.0
    worst = starts_an_hour(band, pump, pump / 2) / share
    inflow = got["inflow"] / 3.6 if "inflow" in got else d.runs[0].inflow if d.sure_flow else None
    now = starts_an_hour(band, pump, inflow) / share if inflow is not None else None
    figures = {"worst": amount(worst, "1")}
    reason = phrase("drawdown.starts", **figures)
    if now is not None:
        reason = phrase("drawdown.starts_now", now=amount(now, "1"), **figures)
    if not allowed:
        return answer("well_starts", Verdict.UNKNOWN, phrase("drawdown.allowed", said=reason))
    need = amount(band_for(allowed * share, pump), "l")
    notes = [phrase("drawdown.band", need=need, most=f"{allowed:g}")]
    pct = amount(100 * worst / allowed, "%")
    return judged("well_starts", pct, d.limits, reason, *notes)


def _pair(d: Draw) -> Finding | None:
    """Who of the pair is weak: minutes a run."""
    got = d.t.got
    names = ("hours_one", "starts_one", "hours_two", "starts_two")
    if not d.t.has(*names) or not got["starts_one"] or not got["starts_two"]:
        return None
    one, two = 60 * got["hours_one"] / got["starts_one"], 60 * got["hours_two"] / got["starts_two"]
    figures = {"one": amount(one, "min"), "two": amount(two, "min")}
    more, less = max(got["starts_one"], got["starts_two"]), min(got["starts_one"], got["starts_two"])
    off = amount(100 * (max(one, two) / min(one, two) - 1), "%") if min(one, two) > 0 else amount(100, "%")
    alike = not exceeds(off.value, d.limits.value("pair.minutes"))
    if exceeds(100 * (more / less - 1), d.limits.value("pair.starts")):
        words = "drawdown.stuck" if alike else "drawdown.unequal"
        return answer("pair_balance", Verdict.ACT if alike else Verdict.UNKNOWN, phrase(words, **figures))
    weak = phrase("drawdown.weak_this" if one > two else "drawdown.weak_other")
    said: Phrase = phrase("drawdown.pair_alike" if alike else "drawdown.pair", **figures)
    return judged("pair_balance", off, d.limits, said, *([] if alike else [weak]))


def _float(d: Draw) -> Finding | None:
    if not d.body.both_idle:
        return None
    return answer("common_float", Verdict.ACT, phrase("drawdown.float"), part="interlock")
