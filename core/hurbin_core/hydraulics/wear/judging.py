"""How worn is it: head at a known flow, head at shut-off, what it costs, and the ring once it is in the
hand.
"""

from __future__ import annotations

from ...base import Finding, Phrase, Unknown, Verdict, amount, exceeds, phrase
from ..answering import answer, judged
from ..reading import with_error
from .sheet import Wear, efficiency, plausible_impeller


def findings(w: Wear) -> list[Finding]:
    """Every question that this sheet can answer."""
    asked = (_at_flow(w), _shut_off(w), _efficiency(w), _ring(w))
    return [f for f in asked if f is not None]


def _at_flow(w: Wear) -> Finding | None:
    if w.head is None:
        return None
    q = w.t.got["flow"]
    flow = with_error(q, "m3/h", w.u_q)
    if w.lost is None or w.at is None:
        words = "wear.no_curve" if w.curve is None else "wear.off_points"
        return answer(
            "head_at_flow", Verdict.UNKNOWN, phrase(words, head=amount(w.head, "m_head"), flow=flow)
        )
    pct = amount(100 * w.lost.ratio, "%", u=100 * w.lost.u)
    reason = phrase(
        "wear.at_flow",
        head=amount(w.head, "m_head"),
        flow=flow,
        pct=pct,
        q=amount(w.at[0], "m3/h"),
        h=amount(w.at[1], "m_head"),
    )
    if exceeds(pct.value - pct.u, w.limits.value("worn.above")):
        above = phrase("duty.above_curve")
        return answer("head_at_flow", Verdict.UNKNOWN, reason, above, unknown=Unknown.INCONCLUSIVE)
    return judged("head_at_flow", pct, w.limits, reason, *_explained(w))


def _explained(w: Wear) -> list[Phrase]:
    """What would explain it: by power beside head, and by what runs back inside."""
    out = []
    assert w.lost is not None
    low = exceeds(w.limits.value("worn.watch"), 100 * w.lost.ratio)
    if low and w.lost.inner:
        out.append(phrase("duty.inner", inner=amount(w.lost.inner, "m3/h")))
        if w.clearance is not None:
            new = amount(w.pump.got["ring_new"], "mm")
            out.append(phrase("wear.ring_points", clearance=amount(w.clearance, "mm"), new=new))
        elif "ring_new" in w.pump.got:
            out.append(phrase("wear.ring_not", most=amount(w.limits.value("ring.most"), "mm")))
    curve_kw = w.curve.power.at(w.t.got["flow"]) if w.curve and w.curve.power else None
    if low and curve_kw and w.legs.shaft is not None and w.legs.whole:
        off = w.legs.shaft - curve_kw
        if exceeds(abs(off), w.legs.u):
            out.append(phrase("wear.power_up" if off > 0 else "wear.power_down"))
        else:
            out.append(phrase("wear.power_same"))
    return out


def _shut_off(w: Wear) -> Finding | None:
    typed = w.t.has("shut_suction", "shut_discharge")
    if w.refused:
        return answer("shut_off_head", Verdict.STOP, w.refused[0]) if typed else None
    if not typed:
        return None
    seconds = w.t.got.get("shut_seconds")
    if seconds is not None and exceeds(seconds, w.limits.value("shut_off.seconds")):
        most = amount(w.limits.value("shut_off.seconds"), "s")
        return answer(
            "shut_off_head",
            Verdict.UNKNOWN,
            phrase("wear.too_long", took=amount(seconds, "s"), most=most),
            unknown=Unknown.INCONCLUSIVE,
        )
    if w.shut is None:
        return answer("shut_off_head", Verdict.UNKNOWN, phrase("wear.no_shut_off"))
    ratio, u, head, expected = w.shut
    pct = amount(100 * ratio, "%", u=100 * u)
    reason = phrase(
        "wear.shut_off", head=amount(head, "m_head"), expected=amount(expected, "m_head"), pct=pct
    )
    notes = [phrase("wear.not_rings")]
    trim = plausible_impeller(w)
    if exceeds(w.limits.value("shut_off.plausible"), 100 * ratio) and trim:
        notes.insert(0, phrase("wear.impeller", pct=amount(100 * trim, "%")))
    if exceeds(100 * (ratio - u), w.limits.value("worn.above")):
        above = phrase("duty.above_curve")
        return answer("shut_off_head", Verdict.UNKNOWN, reason, above, *notes, unknown=Unknown.INCONCLUSIVE)
    return judged("shut_off_head", pct, w.limits, reason, *notes)


def _efficiency(w: Wear) -> Finding | None:
    """Efficiency against the curve's at this flow. Money only where both powers were measured."""
    found = efficiency(w)
    if found is None:
        return None
    now, was = found
    if was is None:
        return answer("pump_efficiency", Verdict.UNKNOWN, phrase("wear.no_eff", now=amount(now, "%")))
    q, shaft = w.t.got["flow"], w.legs.shaft or 1.0
    u = 100 * now / was * ((w.u_q / q) ** 2 + (w.legs.u / shaft) ** 2) ** 0.5 if q else 0.0
    pct = amount(100 * now / was, "%", u=u)
    reason = phrase("wear.efficiency", now=amount(now, "%"), was=amount(was, "%"))
    cost = extra_cost(w)
    notes = [phrase("wear.costs", kwh=amount(cost[0], "kWh"), money=amount(cost[1], "1"))] if cost else []
    return judged("pump_efficiency", pct, w.limits, reason, *notes)


def extra_cost(w: Wear) -> tuple[float, float] | None:
    """What it takes more than when it was sound, in kWh and money a year; None where one was not measured."""
    if not w.t.has("sound_kw", "now_kw", "hours", "price"):
        return None
    more = (w.t.got["now_kw"] - w.t.got["sound_kw"]) * w.t.got["hours"]
    return more, more * w.t.got["price"]


def _ring(w: Wear) -> Finding | None:
    """The ring as it was found, against what the figures pointed at."""
    found, new = w.t.got.get("ring_found"), w.pump.got.get("ring_new")
    if not found:
        return None
    if not new:
        return answer(
            "ring_clearance", Verdict.UNKNOWN, phrase("wear.ring_unknown", found=amount(found, "mm"))
        )
    times = amount(found / new, "1")
    reason = phrase("wear.ring", found=amount(found, "mm"), new=amount(new, "mm"))
    notes = []
    if w.clearance is not None:
        near = not exceeds(abs(found - w.clearance), w.limits.value("ring.agrees") / 100 * w.clearance)
        said = amount(w.clearance, "mm")
        notes.append(phrase("wear.ring_confirmed" if near else "wear.ring_denied", said=said))
    return judged("ring_clearance", times, w.limits, reason, *notes)
