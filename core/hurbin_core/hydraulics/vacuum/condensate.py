"""A condensate pump: does its water flash in the eye, does its receiver short-cycle?"""

from __future__ import annotations

from ...base import Finding, Verdict, amount, exceeds, phrase
from ..answering import answer, judged, told_by
from ..drawdown.sheet import starts_an_hour
from ..fluid import vapour_kpa, water_density
from ..formulas import npsh_by_level
from ..roots import meets
from .formulas import flash_pct
from .sheet import Sheet, beyond


def flash_now(s: Sheet) -> float | None:
    if s.air is None or not s.t.has("steam", "vent"):
        return None
    return flash_pct(s.air + s.t.got["steam"], s.air + s.t.got["vent"])


def _npsha(s: Sheet, t_c: float) -> float | None:
    """NPSH at the eye of a condensate pump, its receiver at its own pressure, m."""
    got = s.t.got
    if s.air is None or not s.t.has("level", "loss", "vent"):
        return None
    surface = s.air + got["vent"]
    return npsh_by_level(surface, vapour_kpa(t_c), water_density(t_c), got["level"], got["loss"])


def hottest_c(s: Sheet) -> float | None:
    """Up to which condensate temperature does NPSH required hold?"""
    need = s.t.got.get("npshr")
    if need is None or _npsha(s, 20.0) is None:
        return None
    return meets(lambda t: (_npsha(s, t) or 0.0) - need, 0.01, 119.99, 1e-7)


def flash_npsh(s: Sheet) -> Finding | None:
    temp, need = s.t.got.get("temperature"), s.t.got.get("npshr")
    if temp is None:
        return None
    have = _npsha(s, temp)
    if have is None:
        return answer("npsh", Verdict.UNKNOWN, phrase("vacuum.npsh_asks"))
    value = amount(have, "m_head", u=s.t.got.get("level_u", 0.0))
    if need is None:
        return answer("npsh", Verdict.UNKNOWN, phrase("suction.no_required", npsh=value))
    least = need + max(s.limits.value("npsh.margin"), s.limits.value("npsh.share") / 100 * need)
    steps = [
        (s.limits.get("npsh.margin").model_copy(update={"value": least}), Verdict.GOOD),
        (s.limits.get("npsh.required").model_copy(update={"value": need}), Verdict.WATCH),
    ]
    told = told_by("npsh", value, s.limits, steps)
    over = have - need
    reason = phrase(
        "suction.npsh" if over >= 0 else "suction.short",
        npsh=value,
        required=amount(need, "m_head"),
        margin=amount(abs(over), "m_head"),
    )
    hot = hottest_c(s)
    notes = [phrase("vacuum.holds_to", temp=amount(hot, "degC"))] if hot is not None else []
    if told.verdict is not Verdict.GOOD:
        notes.append(phrase("vacuum.traps_first"))
    return answer("npsh", told.verdict, reason, *notes).model_copy(
        update={"line": told.line, "limits": told.limits}
    )


def cycle_of(s: Sheet) -> tuple[float, float, float] | None:
    """(fill s, pump s, starts an hour) of a receiver; None where the pump does not keep up."""
    got = s.t.got
    if not s.t.has("band", "pump_flow", "inflow"):
        return None
    pump, into = got["pump_flow"] / 3.6, got["inflow"] / 3.6
    if not 0 < into < pump:
        return None
    return got["band"] / into, got["band"] / (pump - into), starts_an_hour(got["band"], pump, into)


def receiver(s: Sheet) -> Finding | None:
    got = s.t.got
    if "starts" not in got:
        return None
    cycle = cycle_of(s)
    if cycle is None:
        full = s.t.has("pump_flow", "inflow") and got["inflow"] >= got["pump_flow"]
        return answer(
            "receiver",
            Verdict.ACT if full else Verdict.UNKNOWN,
            phrase("vacuum.never_stops" if full else "vacuum.cycle_asks"),
        )
    times = amount(got["starts"] / cycle[2], "1")
    reason = phrase("vacuum.starts", counted=amount(got["starts"], "1"), due=amount(cycle[2], "1"))
    if exceeds(s.limits.value("receiver.few"), times.value):
        return beyond("receiver", reason, "vacuum.few")
    found = judged("receiver", times, s.limits, reason)
    return (
        found
        if found.verdict is Verdict.GOOD
        else found.model_copy(update={"notes": [phrase("vacuum.fast")]})
    )
