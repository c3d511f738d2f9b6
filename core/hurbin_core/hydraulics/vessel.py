"""The cushion of a loop: the precharge found in its vessel against that which the register wants."""

from __future__ import annotations

from ..base import Finding, Limits, Unknown, Verdict, amount, exceeds, phrase
from .answering import answer, judged
from .loops import Loop

_COLD_C = 10.0


def column(loop: Loop) -> float | None:
    """What does the water over the gauge weigh while the loop is cold, kPa? None without height or liquid."""
    liquid = loop.liquid(loop.got.get("coldest", _COLD_C))
    if liquid is None or "high_point" not in loop.got:
        return None
    return loop.got["high_point"] * liquid.kpa_per_m


def precharged(loop: Loop, found: float, limits: Limits) -> Finding:
    """Is a precharge found of so many kPa the one wanted?

    Unknown where the register wants none, one that cannot be, or one that does not carry the water over the
    gauge: a vessel as wrong as its register would agree. A vessel that hangs higher than the gauge is not
    told from it. Still good in the worst state: a register without height or liquid, whose precharge nothing
    else confirms. Common practice, no source.
    """
    wanted = loop.got.get("precharge")
    if wanted is None:
        return answer("loop_vessel", Verdict.UNKNOWN, phrase("loop.no_precharge"))
    if any(p.field in ("precharge", "high_point", "relief") for p in loop.problems):
        return answer("loop_vessel", Verdict.UNKNOWN, phrase("loop.precharge_refused"))
    carries = column(loop)
    if carries is not None and exceeds(carries - wanted, limits.value("vessel.off")):
        words = phrase("loop.precharge_short", wanted=amount(wanted, "kPa"), column=amount(carries, "kPa"))
        return answer("loop_vessel", Verdict.UNKNOWN, words, unknown=Unknown.INCONCLUSIVE)
    reason = phrase("loop.vessel", found=amount(found, "kPa"), wanted=amount(wanted, "kPa"))
    return judged("loop_vessel", amount(abs(found - wanted), "kPa"), limits, reason)
