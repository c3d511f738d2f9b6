"""A displacement pump: is its discharge open, how much slips back, is its relief valve in order?"""

from __future__ import annotations

from ...base import Finding, Verdict, amount, exceeds, phrase
from ..answering import answer, judged
from .formulas import clearance_times, slip_pct
from .sheet import Sheet, beyond


def valve(s: Sheet) -> Finding | None:
    if s.body.discharge != "shut":
        return None
    return answer("displacement_valve", Verdict.STOP, phrase("vacuum.shut"))


def slip_now(s: Sheet) -> float | None:
    got = s.t.got
    if not s.t.has("per_rev", "rpm", "flow") or not got["per_rev"] or not got["rpm"]:
        return None
    return slip_pct(got["per_rev"], got["rpm"], got["flow"])


def slip(s: Sheet) -> Finding | None:
    slip, new = slip_now(s), s.t.got.get("slip_new")
    if slip is None:
        return None
    if slip < 0:
        s.t.refuse("flow", "More flow than the pump displaces: check turns, displacement and unit.", "less")
        return None
    said = amount(slip, "%")
    if not new:
        return answer("slip", Verdict.UNKNOWN, phrase("vacuum.slip_first", slip=said))
    times = amount(slip / new, "1")
    reason = phrase("vacuum.slip", slip=said, new=amount(new, "%"))
    if exceeds(s.limits.value("slip.under"), times.value):
        return beyond("slip", reason, "vacuum.under")
    grew = phrase("vacuum.clearance", times=amount(clearance_times(slip / new), "1"))
    return judged("slip", times, s.limits, reason, grew, phrase("vacuum.thin"))


def relief(s: Sheet) -> Finding | None:
    """Only a relief valve is quick enough: a rigid pipe rises by bars in a thousandth of a second."""
    got, b = s.t.got, s.body
    if "relief" not in got:
        return None
    if "weakest" not in got:
        return answer("relief", Verdict.UNKNOWN, phrase("vacuum.weakest"))
    if exceeds(got["relief"], got["weakest"]):
        figures = {"relief": amount(got["relief"], "kPa"), "weakest": amount(got["weakest"], "kPa")}
        return answer("relief", Verdict.STOP, phrase("vacuum.relief_high", **figures))
    if b.relief_full == "no":
        return answer("relief", Verdict.ACT, phrase("vacuum.relief_small"))
    if b.relief_to == "suction":
        return answer("relief", Verdict.WATCH, phrase("vacuum.relief_suction"))
    if b.relief_tested is None:
        return answer("relief", Verdict.UNKNOWN, phrase("vacuum.relief_untested"))
    age = (s.case.context.as_of.date() - b.relief_tested).days
    if age < 0:
        s.t.refuse("relief_tested", "The test of the relief valve is in the future.", "today or before")
        return None
    shown = amount(age, "d")
    return judged("relief", shown, s.limits, phrase("vacuum.relief", age=shown))
