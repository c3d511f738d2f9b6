"""Leak or cooling, is it filled, is its vessel sound, does its glycol still protect, does its pump move
water?
"""

from __future__ import annotations

from ...base import Finding, Phrase, Unknown, Verdict, amount, exceeds, phrase
from ..answering import answer, judged
from ..fluid import by_volume, freezes_c
from ..vessel import precharged
from .sheet import Hold, at_last_temperature, figure_lost, laws


def findings(h: Hold) -> list[Finding]:
    """Every question that this sheet can answer."""
    asked = (_standing(h), _loss(h), _vessel(h), _glycol(h), _moves(h), _make_up(h))
    return [f for f in asked if f is not None]


def _standing(h: Hold) -> Finding | None:
    """Is the highest point still filled?"""
    if not h.used:
        return None
    last = h.used[-1]
    step = h.loop.got.get("gauge_step", 0.0)
    if h.least is None:
        shown = amount(last.kpa, "kPa")
        return answer("standing_pressure", Verdict.UNKNOWN, phrase("loop.no_least", now=shown))
    pct = amount(
        100 * (last.kpa + h.loop.air) / (h.least + h.loop.air), "%", u=50 * step / (h.least + h.loop.air)
    )
    reason = phrase("loop.standing", now=amount(last.kpa, "kPa"), least=amount(h.least, "kPa"))
    return judged("standing_pressure", pct, h.limits, reason)


def _loss(h: Hold) -> Finding | None:
    """Is it leaking, or only cooling?"""
    typed = [r for r in h.body.readings if r.pressure is not None]
    if not typed and len(h.used) < 2:
        return None
    if h.loop.known is None:
        return answer("loop_loss", Verdict.UNKNOWN, phrase("loop.unknown"))
    if len(h.used) < 2:
        first = h.left_out[0] if h.left_out else phrase("loop.one_only")
        return answer("loop_loss", Verdict.UNKNOWN, first, *h.left_out[1:])
    if not h.loop.whole or h.loop.problems:
        return answer("loop_loss", Verdict.UNKNOWN, phrase("loop.not_whole"))
    one, two = h.used[0], h.used[-1]
    off = abs(two.temp - one.temp)
    if h.loop.plate.pipe == "plastic" and exceeds(off, h.limits.value("loop.plastic")):
        words = phrase("loop.plastic", off=amount(off, "K"))
        return answer("loop_loss", Verdict.UNKNOWN, words, unknown=Unknown.INCONCLUSIVE)
    if h.lost is None or h.rate is None or h.expected is None:
        return answer("loop_loss", Verdict.UNKNOWN, phrase("loop.no_cushion"), unknown=Unknown.INCONCLUSIVE)
    return _told(h)


def _told(h: Hold) -> Finding:
    assert h.rate is not None
    assert h.expected is not None
    two = h.used[-1]
    # Litres gained are none lost: a loop that took up water shows a reading that is wrong, or make-up.
    if exceeds(-h.rate, h.u_rate + h.limits.value("loss.good")):
        words = phrase("loop.gained", now=amount(two.kpa, "kPa"), expected=amount(h.expected, "kPa"))
        return answer("loop_loss", Verdict.UNKNOWN, words, unknown=Unknown.INCONCLUSIVE)
    rate = amount(max(0.0, h.rate), "l/d", u=h.u_rate)
    reason = phrase(
        "loop.loss",
        rate=rate,
        now=amount(two.kpa, "kPa"),
        expected=amount(h.expected, "kPa", u=h.u_expected),
    )
    found = judged("loop_loss", rate, h.limits, reason, figure_lost(h), *_where(h))
    named = {Verdict.GOOD: "loop.is_cooling", Verdict.UNKNOWN: "loop.cannot"}.get(
        found.verdict, "loop.is_leak"
    )
    return found.model_copy(update={"reason": phrase(named, said=reason)})


def _where(h: Hold) -> list[Phrase]:
    """Which half to search, by what was isolated; the cheapest look first."""
    ground, machine = h.body.ground_fell, h.body.machine_fell
    if ground is None or machine is None:
        return [phrase("loop.split")]
    name = {("yes", "no"): "ground", ("no", "yes"): "machine", ("yes", "yes"): "both"}.get(
        (ground, machine), "neither"
    )
    return [phrase(f"loop.half_{name}")]


def _vessel(h: Hold) -> Finding | None:
    b, got = h.body, h.t.got
    if b.spits == "yes":
        return answer("loop_vessel", Verdict.ACT, phrase("loop.spits"))
    if "precharge_found" not in got:
        return None
    if not b.vessel_drained:
        return answer(
            "loop_vessel", Verdict.UNKNOWN, phrase("loop.not_drained"), unknown=Unknown.INCONCLUSIVE
        )
    return precharged(h.loop, got["precharge_found"], h.limits)


def glycol_after(h: Hold) -> tuple[float, float] | None:
    """Mass share after topping up with water, and litres to exchange for pure to bring it back; None for
    water, and where the loop or the litres are not known.
    """
    volume, w, v = h.loop.got.get("volume"), h.loop.w, h.t.got.get("topped")
    if not volume or not w or v is None or v > volume:
        return None
    now = w * (volume - v) / volume
    return now, volume * (w - now) / (1 - now)


def _glycol(h: Hold) -> Finding | None:
    v, volume = h.t.got.get("topped"), h.loop.got.get("volume")
    if v is not None and volume and exceeds(v, volume):
        h.t.refuse("topped", "More than the loop holds. Check the unit.", "less than the loop's volume")
        return None
    got = glycol_after(h)
    if got is None:
        return None
    now, pure = got
    kind = h.loop.plate.fluid
    assert kind in ("propylene", "ethylene")
    by = h.loop.plate.glycol_by
    said = 100 * (by_volume(kind, now) if by == "volume" else now)  # type: ignore[arg-type]
    reason = phrase("loop.glycol", pct=amount(said, "%"), freezes=amount(freezes_c(kind, now), "degC"))  # type: ignore[arg-type]
    notes = [phrase("loop.exchange", pure=amount(pure, "l"))]
    if "coldest" in h.loop.got and freezes_c(kind, now) > h.loop.got["coldest"]:  # type: ignore[arg-type]
        cold = amount(h.loop.got["coldest"], "degC")
        return answer("loop_glycol", Verdict.ACT, phrase("loop.freezes", said=reason, coldest=cold), *notes)
    return judged("loop_glycol", amount(100 * now, "%"), h.limits, reason, *notes)


def _moves(h: Hold) -> Finding | None:
    """Dead or dry? Both taps of a running circulator at one pressure."""
    if not h.t.has("tap_in", "tap_out"):
        return None
    rise = h.t.got["tap_out"] - h.t.got["tap_in"]
    step = h.loop.got.get("gauge_step", 0.0)
    shown = amount(rise, "kPa")
    if exceeds(rise, h.limits.value("loop.moves") + step):
        return answer("circulator", Verdict.GOOD, phrase("loop.moves", rise=shown))
    if h.body.vent == "nothing":
        return answer("circulator", Verdict.STOP, phrase("loop.dry", rise=shown))
    if h.body.vent == "spits":
        return answer("circulator", Verdict.ACT, phrase("loop.air_bound", rise=shown))
    if h.body.vent == "water" and h.body.shaft is not None:
        words = "loop.dead" if h.body.shaft == "still" else "loop.no_impeller"
        return answer("circulator", Verdict.ACT, phrase(words, rise=shown))
    return answer("circulator", Verdict.UNKNOWN, phrase("loop.look", rise=shown))


def _make_up(h: Hold) -> Finding | None:
    """Water let in to keep a leaking loop alive: metered and dated, or it hides the leak."""
    if h.body.make_up is None:
        return None
    if h.body.make_up == "shut":
        return answer("make_up", Verdict.GOOD, phrase("loop.make_up_shut"))
    if "meter_end" not in h.t.got or h.body.make_up_until is None:
        return answer("make_up", Verdict.ACT, phrase("loop.make_up_bare"))
    if h.body.make_up_until < h.as_of.date():
        h.t.refuse("make_up_until", "The date until which make-up stays open is past.", "a date ahead")
        return None
    return answer("make_up", Verdict.WATCH, phrase("loop.make_up", made=amount(h.made_up, "l")))


def forecast_words(h: Hold, leaking: bool) -> list[Phrase]:
    """When is it at the least standing pressure, as a span between three laws?"""
    if not leaking or h.least is None or h.least <= 0:
        return []
    points = at_last_temperature(h)
    if len(points) < 2:
        return []
    since = points[-1][0]
    left = [x.hours - since for x in laws(points, h.least) if x.hours is not None]
    if not left or min(left) <= 0:
        return []
    early, late = amount(min(left), "h"), amount(max(left), "h")
    return [phrase("loop.empty", early=early, late=late, least=amount(h.least, "kPa"))]
