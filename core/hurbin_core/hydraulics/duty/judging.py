"""What a look at a running pump says: where on its curve, is it enough, do the ways agree, is it worn."""

from __future__ import annotations

from ...base import Finding, Phrase, Unknown, Verdict, amount, exceeds, phrase
from ..answering import answer, judged
from ..curve import System, specific_speed
from ..formulas import least_speed
from ..reading import with_error
from ..worn import Lost, lost_head
from .state import Duty, Way

# Ways that do not rest on the head that was read, nor on the curve.
APART_FROM_CURVE = ("meter", "exchanger", "heat", "valve", "drawdown")


def findings(d: Duty) -> list[Finding]:
    """Every question that this sheet can answer."""
    if d.body.state == "standing":
        return []
    asked = (_moves(d), _agree(d), _place(d), _need(d), _floor(d), _worn(d), _settled_head(d))
    return [f for f in asked if f is not None]


def _at_flow(d: Duty) -> Way | None:
    """The surest flow, unless two ways disagree: then there is none to judge by."""
    return d.flow if d.apart is None else None


def _place(d: Duty) -> Finding | None:
    """Where on its curve does it run?"""
    if d.flow is None:
        return None
    if d.apart is not None:
        one, two = d.apart
        reason = phrase(
            "duty.which", one=with_error(one.q, "m3/h", one.u), two=with_error(two.q, "m3/h", two.u)
        )
        return answer("duty_point", Verdict.UNKNOWN, reason, unknown=Unknown.INCONCLUSIVE)
    flow, bep = d.flow, d.curve.bep if d.curve else None
    if not bep:
        shown = with_error(flow.q, "m3/h", flow.u)
        return answer("duty_point", Verdict.UNKNOWN, phrase("duty.no_bep", flow=shown))
    pct = amount(100 * flow.q / bep, "%", u=100 * flow.u / bep)
    reason = phrase(
        "duty.place", flow=with_error(flow.q, "m3/h", flow.u), pct=pct, way=phrase(f"duty.way_{flow.id}")
    )
    rule = "duty_low" if pct.value < 100 else "duty_high"
    if rule == "duty_high" and _high_ns(d, bep):
        rule = "duty_high_ns"
    return judged("duty_point", pct, d.limits, reason, rule=rule)


def _high_ns(d: Duty, bep: float) -> bool:
    """Is it a pump of high specific speed, whose preferred range is narrower?"""
    curve = d.curve
    head = curve.head.at(bep) if curve else None
    if curve is None or not curve.rpm or not head:
        return False
    return exceeds(specific_speed(curve.rpm, bep, head), d.limits.value("duty.high_ns"))


def _need(d: Duty) -> Finding | None:
    need, flow = d.t.got.get("need"), _at_flow(d)
    if not need or flow is None:
        return None
    pct = amount(100 * flow.q / need, "%", u=100 * flow.u / need)
    reason = phrase("duty.need", flow=with_error(flow.q, "m3/h", flow.u), need=amount(need, "m3/h"))
    return judged("service_flow", pct, d.limits, reason)


def _floor(d: Duty) -> Finding | None:
    """The least flow that a machine, or the pump itself, allows."""
    floor, of = d.t.got.get("floor"), d.body.floor_of or ""
    own = d.pump.got.get("min_flow")
    if own and (floor is None or own > floor):
        floor, of = own, "pump"
    flow = _at_flow(d)
    if not floor or flow is None:
        return None
    pct = amount(100 * flow.q / floor, "%", u=100 * flow.u / floor)
    said = phrase(f"duty.floor_{of}") if of and of != "none" else phrase("duty.floor_pump")
    reason = phrase(
        "duty.floor", flow=with_error(flow.q, "m3/h", flow.u), floor=amount(floor, "m3/h"), of=said
    )
    return judged("least_flow", pct, d.limits, reason)


def _agree(d: Duty) -> Finding | None:
    """Do two ways to know the flow say the same?"""
    if len(d.ways) < 2:
        return None
    if d.apart is None:
        one, two = d.ways[:2]
        told = _both("duty.agree", one, two)
        wide = amount(100 * (one.u**2 + two.u**2) ** 0.5 / one.q, "%") if one.q else None
        if wide is None or exceeds(wide.value, d.limits.value("duty.wide")):
            words = _both("duty.wide", one, two)
            return answer("flow_ways", Verdict.UNKNOWN, words, unknown=Unknown.INCONCLUSIVE)
        return answer("flow_ways", Verdict.GOOD, told)
    one, two = d.apart
    return answer(
        "flow_ways",
        Verdict.UNKNOWN,
        _both("duty.apart", one, two),
        *_explained(d, one, two),
        unknown=Unknown.INCONCLUSIVE,
    )


def _both(template: str, one: Way, two: Way) -> Phrase:
    return phrase(
        template,
        one=with_error(one.q, "m3/h", one.u),
        two=with_error(two.q, "m3/h", two.u),
        way_one=phrase(f"duty.way_{one.id}"),
        way_two=phrase(f"duty.way_{two.id}"),
    )


def _explained(d: Duty, one: Way, two: Way) -> list[Phrase]:
    """What makes these two ways differ like this."""
    by = {one.id: one.q, two.id: two.q}
    out = []
    head, other = by.get("head"), next((q for n, q in by.items() if n != "head"), 0.0)
    if head is not None:
        out.append(phrase("duty.why_head_low" if head > other else "duty.why_head_high"))
    if "power" in by and head is None:
        low = by["power"] < next(q for n, q in by.items() if n != "power")
        out.append(phrase("duty.why_power_low" if low else "duty.why_power_high"))
    if "meter" in by:
        out.append(phrase("duty.why_meter"))
    return out or [phrase("duty.why_other")]


def lost_here(d: Duty) -> tuple[Way, Lost] | None:
    """Head of the curve at a flow that was known otherwise; None without such a flow."""
    if d.curve is None or d.head is None or d.u_head is None or d.pump.indicative or d.apart is not None:
        return None if not _known_apart(d) else _lost_by(d, _known_apart(d))
    return _lost_by(d, _known_apart(d))


def _known_apart(d: Duty) -> Way | None:
    known = [w for w in d.ways if w.id in APART_FROM_CURVE]
    if not known or any(not a.agrees(b) for i, a in enumerate(known) for b in known[i + 1 :]):
        return None
    return known[0]


def _lost_by(d: Duty, way: Way | None) -> tuple[Way, Lost] | None:
    if way is None or d.curve is None or d.head is None or d.u_head is None or d.pump.indicative:
        return None
    # The catalogue's own error is in the limits already: a new pump may stand that far below it.
    lost = lost_head(d.curve, way.q, way.u, d.head, d.u_head, 0.0)
    return (way, lost) if lost is not None else None


def _worn(d: Duty) -> Finding | None:
    found = lost_here(d)
    if found is None or d.head is None:
        return None
    way, lost = found
    pct = amount(100 * lost.ratio, "%", u=100 * lost.u)
    reason = phrase(
        "duty.worn",
        head=amount(d.head, "m_head"),
        expected=amount(lost.expected, "m_head"),
        flow=with_error(way.q, "m3/h", way.u),
        pct=pct,
    )
    notes = [phrase("duty.inner", inner=amount(lost.inner, "m3/h"))] if lost.inner and lost.ratio < 1 else []
    if exceeds(pct.value - pct.u, d.limits.value("worn.above")):
        above = phrase("duty.above_curve")
        return answer("head_at_flow", Verdict.UNKNOWN, reason, above, unknown=Unknown.INCONCLUSIVE)
    return judged("head_at_flow", pct, d.limits, reason, *notes)


def _moves(d: Duty) -> Finding | None:
    """Does it move anything at all?"""
    if not d.running or d.head is None or d.curve is None or d.pump.displaces:
        return None
    top = d.curve.shut_off
    if not top:
        return None
    share = 100 * d.head / top
    if not exceeds(share, d.limits.value("duty.nothing")):
        return answer("pump_moves", Verdict.ACT, phrase("duty.nothing", head=amount(d.head, "m_head")))
    if exceeds(share, d.limits.value("duty.above")):
        said = phrase("duty.above", head=amount(d.head, "m_head"), top=amount(top, "m_head"))
        return answer("pump_moves", Verdict.UNKNOWN, said, unknown=Unknown.INCONCLUSIVE)
    if d.body.valve == "open" and not exceeds(d.limits.value("duty.closed_in"), share):
        said = phrase("duty.closed_in", head=amount(d.head, "m_head"), top=amount(top, "m_head"))
        return answer("pump_moves", Verdict.ACT, said)
    return None


def told(d: Duty) -> list[Phrase]:
    """What follows for other days: the one that is left of a pair, the slowest speed that still lifts."""
    out = []
    shared = _shared(d)
    one = d.curve.meet(shared) if shared is not None and d.curve is not None else None
    if shared is not None and one is None:
        out.append(phrase("duty.survivor_out"))
    if one is not None and d.curve is not None:
        bep = d.curve.bep
        words = {"flow": amount(one[0], "m3/h")}
        if bep:
            words["pct"] = amount(100 * one[0] / bep, "%")
        out.append(phrase("duty.survivor" if bep else "duty.survivor_bare", **words))
    static, top = d.t.got.get("static"), d.curve.shut_off if d.curve else None
    if static and top and 0 < static < top and not d.body.closed:
        out.append(phrase("duty.least_speed", pct=amount(100 * least_speed(static, top), "%")))
    return out


def _shared(d: Duty) -> System | None:
    """The pipes of a header that two alike are feeding; None where no flow is known, or only one runs. One of
    them left alone meets the same pipes.
    """
    flow, head, body = _at_flow(d), d.head, d.body
    if body.others != "with" or flow is None or head is None or d.curve is None or d.pump.indicative:
        return None
    if not (body.closed or "static" in d.t.got):
        return None
    return System.through(2 * flow.q, head, 0.0 if body.closed else d.t.got["static"])


def _settled_head(d: Duty) -> Finding | None:
    """Head was read, yet no flow: that is a figure, and no verdict."""
    if d.head is None or d.flow is not None or not d.running:
        return None
    return answer(
        "duty_point", Verdict.UNKNOWN, phrase("duty.no_flow", head=amount(d.head, "m_head")), *d.refused
    )
