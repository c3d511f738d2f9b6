"""A vacuum pump: does it pull, is it the pump or the system that leaks?"""

from __future__ import annotations

from ...base import Finding, Unknown, Verdict, amount, exceeds, phrase
from ..answering import answer, judged
from ..fluid import vapour_kpa
from .formulas import free_air_l_h, leak_pa_m3_s, suction_m3h
from .sheet import Sheet, beyond


def suction_now(s: Sheet) -> float | None:
    """Suction flow by the pull-down, m³/h."""
    p, got = s.p, s.t.got
    if (
        not {"start", "reached"} <= p.keys()
        or not s.t.has("volume", "seconds")
        or not got["seconds"]
        or not got["volume"]
    ):
        return None
    low = got.get("ultimate", 0.0)
    if not low < p["reached"] < p["start"]:
        return None
    return suction_m3h(got["volume"], got["seconds"], p["start"], p["reached"], low)


def pull(s: Sheet) -> Finding | None:
    got, p = s.t.got, s.p
    if "start" not in got or "reached" not in got:
        return None
    if {"start", "reached"} <= p.keys() and p["reached"] >= p["start"]:
        s.t.refuse("reached", "A pull-down ends below where it began.", "a lower absolute pressure")
        return None
    if "reached" in p and p["reached"] <= got.get("ultimate", 0.0):
        s.t.refuse(
            "reached", "Below the pump's ultimate pressure: gauge taken for absolute?", "above the ultimate"
        )
        return None
    now = suction_now(s)
    if now is None:
        return answer("suction_flow", Verdict.UNKNOWN, phrase("vacuum.pull_asks"))
    plate = got.get("plate_flow")
    if not plate:
        return answer("suction_flow", Verdict.UNKNOWN, phrase("vacuum.no_plate", now=amount(now, "m3/h")))
    pct = amount(100 * now / plate, "%")
    reason = phrase("vacuum.pulls", now=amount(now, "m3/h"), plate=amount(plate, "m3/h"), pct=pct)
    if exceeds(pct.value, s.limits.value("suction_flow.above")):
        return beyond("suction_flow", reason, "vacuum.above")
    found = judged("suction_flow", pct, s.limits, reason)
    return (
        found
        if found.verdict is Verdict.GOOD
        else found.model_copy(update={"notes": [phrase("vacuum.blank_it")]})
    )


def blank(s: Sheet) -> Finding | None:
    """Blanked off it parts the pump from the system."""
    got = s.t.got
    if "blanked" not in got or "blanked" not in s.p:
        return None
    if "ultimate" not in got:
        return answer("blank_off", Verdict.UNKNOWN, phrase("vacuum.no_ultimate"))
    floor = vapour_kpa(got["seal_temp"]) if "seal_temp" in got else 0.0
    due = max(got["ultimate"], floor)
    if due <= 0:
        return answer("blank_off", Verdict.UNKNOWN, phrase("vacuum.no_ultimate"))
    times = amount(s.p["blanked"] / due, "1")
    figures = {"reached": amount(s.p["blanked"], "kPa"), "due": amount(due, "kPa")}
    notes = (
        [phrase("vacuum.warm_seal", temp=amount(got["seal_temp"], "degC"))] if floor > got["ultimate"] else []
    )
    reason = phrase("vacuum.blanked", **figures)
    if exceeds(s.limits.value("blank.below"), times.value):
        return beyond("blank_off", reason, "vacuum.below")
    found = judged("blank_off", times, s.limits, reason, *notes)
    more = phrase("vacuum.system_leaks" if found.verdict is Verdict.GOOD else "vacuum.pump_leaks")
    return found.model_copy(update={"notes": [*found.notes, more]})


def leak_now(s: Sheet) -> float | None:
    p, got = s.p, s.t.got
    if not {"rise_from", "rise_to"} <= p.keys() or not s.t.has("volume", "rise_s") or not got["rise_s"]:
        return None
    rise = p["rise_to"] - p["rise_from"]
    return leak_pa_m3_s(got["volume"], rise, got["rise_s"]) if rise >= 0 else None


def leak(s: Sheet) -> Finding | None:
    got = s.t.got
    if "rise_from" not in got or "rise_to" not in got:
        return None
    leak = leak_now(s)
    if leak is None or s.air is None:
        return answer("vacuum_leak", Verdict.UNKNOWN, phrase("vacuum.leak_asks"))
    air = free_air_l_h(leak, s.air)
    said = amount(air / 1000, "m3/h")
    if s.body.rise_shape == "flattens":
        return answer(
            "vacuum_leak", Verdict.UNKNOWN, phrase("vacuum.wet", leak=said), unknown=Unknown.INCONCLUSIVE
        )
    if leak == 0:
        return beyond("vacuum_leak", phrase("vacuum.no_rise"))
    plate = got.get("plate_flow")
    if not plate:
        return answer("vacuum_leak", Verdict.UNKNOWN, phrase("vacuum.leak_no_plate", leak=said))
    # At the pressure it is pumped at, the same air takes up more room.
    share = amount(100 * leak / (s.p["rise_from"] * 1000) * 3600 / plate, "%")
    return judged("vacuum_leak", share, s.limits, phrase("vacuum.leak", leak=said, share=share))
