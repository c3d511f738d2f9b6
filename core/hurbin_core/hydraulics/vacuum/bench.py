"""The bench for condensate, vacuum and displacement pumps: flash and starts, pull-down and leak, slip and
relief.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...base import (
    Bench,
    Evaluation,
    Finding,
    Limits,
    Missing,
    Model,
    Needs,
    Phrase,
    Quantity,
    SeriesPoint,
    Unknown,
    Verdict,
    amount,
    concluded,
    exceeds,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...safety import guarded
from ..answering import answer, judged, told_by
from ..drawdown.sheet import starts_an_hour
from ..fluid import air_kpa, vapour_kpa, water_density
from ..formulas import npsh_by_level
from ..lasting import again
from ..paper import Places
from ..reading import Typed, typed_of
from ..roots import meets
from .entry import VacuumEntry
from .formulas import (
    clearance_times,
    flash_pct,
    free_air_l_h,
    leak_pa_m3_s,
    pull_down_s,
    slip_pct,
    suction_m3h,
)

_KINDS = {"condensate_return": "condensate", "vacuum": "vacuum", "positive_displacement": "displacement"}


class VacuumView(Model):
    """What is drawn of it. what: which of the three. pull: pressure over time, 0 to 1, as read and by the
    nameplate; floor: its ultimate; slip: share of the displacement that runs back; level: over the eye.
    """

    what: str = ""
    absolute: list[Quantity] = []
    pull: Places = []
    plate: Places = []
    floor: float | None = None
    slip: float | None = None
    suction: Quantity | None = None
    leak: Quantity | None = None
    flash: Quantity | None = None
    hottest: Quantity | None = None
    fills: Quantity | None = None
    empties: Quantity | None = None
    cycle: Quantity | None = None
    relief: float | None = None


@dataclass(slots=True)
class Sheet:
    """A sheet understood. p: absolute pressures by field, kPa; empty where nobody said which they are."""

    body: VacuumEntry
    t: Typed
    limits: Limits
    what: str
    air: float | None
    p: dict[str, float]
    case: AnyCase


def replay(entries: Sequence[Entry[VacuumEntry]], case: AnyCase) -> Sheet:
    """The newest word on it, read once; pressures brought to absolute."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else VacuumEntry()
    limits = Limits(case.context.overrides)
    t = typed_of(body, limits)
    height = t.got.get("altitude", case.context.altitude_m)
    air = air_kpa(height) if height is not None else None
    s = Sheet(body, t, limits, body.what or _KINDS.get(case.context.kind, ""), air, {}, case)
    for name in ("start", "reached", "blanked", "rise_from", "rise_to"):
        _absolute(s, name)
    return s


def _absolute(s: Sheet, name: str) -> None:
    p = s.t.got.get(name)
    if p is None or s.body.pressures is None:
        return
    if s.body.pressures == "absolute":
        if p < 0:
            words = "An absolute pressure is never below zero: this gauge reads from the atmosphere."
            s.t.refuse(name, words, "choose gauge pressure", "absolute_taken")
            return
        s.p[name] = p
    elif s.air is not None:
        if p < -s.air:
            words = "Below a full vacuum at this altitude. Check sign, unit and altitude."
            s.t.refuse(name, words, f"above {-s.air:.1f} kPa gauge", "absolute_taken")
            return
        s.p[name] = p + s.air


def judge(s: Sheet, case: AnyCase) -> Evaluation[VacuumView]:
    """Does it flash, short-cycle, pull, leak, slip; is its relief in order?

    kPa absolute inside, m³/h, l, percent. A vacuum without its atmosphere, or without gauge or absolute:
    unknown.
    """
    groups = {
        "condensate": (_flash_npsh, _receiver),
        "vacuum": (_pull, _blank, _leak),
        "displacement": (_valve, _slip, _relief),
    }
    raw = [f for ask in groups.get(s.what, ()) if (f := ask(s)) is not None]
    found, verdict, beside = concluded(raw, _lacking(s), s.t.problems)
    return Evaluation[VacuumView](
        bench="vacuum",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        values=_values(s),
        findings=found,
        cautions=[phrase(f"vacuum.caution_{s.what}")] if s.what else [],
        points=_points(s),
        due=again(case),
        problems=s.t.problems,
        missing=_missing(s),
        view=_drawn(s),
    )


def _beyond(question: str, reason: Phrase, *why: str) -> Finding:
    """Better than the pump can be: a wrong figure, and no ground for good."""
    notes = [phrase(w) for w in why]
    return answer(question, Verdict.UNKNOWN, reason, *notes, unknown=Unknown.INCONCLUSIVE)


# ---- condensate


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


def _flash_npsh(s: Sheet) -> Finding | None:
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


def _cycle(s: Sheet) -> tuple[float, float, float] | None:
    """(fill s, pump s, starts an hour) of a receiver; None where the pump does not keep up."""
    got = s.t.got
    if not s.t.has("band", "pump_flow", "inflow"):
        return None
    pump, into = got["pump_flow"] / 3.6, got["inflow"] / 3.6
    if not 0 < into < pump:
        return None
    return got["band"] / into, got["band"] / (pump - into), starts_an_hour(got["band"], pump, into)


def _receiver(s: Sheet) -> Finding | None:
    got = s.t.got
    if "starts" not in got:
        return None
    cycle = _cycle(s)
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
        return _beyond("receiver", reason, "vacuum.few")
    found = judged("receiver", times, s.limits, reason)
    return (
        found
        if found.verdict is Verdict.GOOD
        else found.model_copy(update={"notes": [phrase("vacuum.fast")]})
    )


# ---- vacuum


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


def _pull(s: Sheet) -> Finding | None:
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
        return _beyond("suction_flow", reason, "vacuum.above")
    found = judged("suction_flow", pct, s.limits, reason)
    return (
        found
        if found.verdict is Verdict.GOOD
        else found.model_copy(update={"notes": [phrase("vacuum.blank_it")]})
    )


def _blank(s: Sheet) -> Finding | None:
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
        return _beyond("blank_off", reason, "vacuum.below")
    found = judged("blank_off", times, s.limits, reason, *notes)
    more = phrase("vacuum.system_leaks" if found.verdict is Verdict.GOOD else "vacuum.pump_leaks")
    return found.model_copy(update={"notes": [*found.notes, more]})


def leak_now(s: Sheet) -> float | None:
    p, got = s.p, s.t.got
    if not {"rise_from", "rise_to"} <= p.keys() or not s.t.has("volume", "rise_s") or not got["rise_s"]:
        return None
    rise = p["rise_to"] - p["rise_from"]
    return leak_pa_m3_s(got["volume"], rise, got["rise_s"]) if rise >= 0 else None


def _leak(s: Sheet) -> Finding | None:
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
        return _beyond("vacuum_leak", phrase("vacuum.no_rise"))
    plate = got.get("plate_flow")
    if not plate:
        return answer("vacuum_leak", Verdict.UNKNOWN, phrase("vacuum.leak_no_plate", leak=said))
    # At the pressure it is pumped at, the same air takes up more room.
    share = amount(100 * leak / (s.p["rise_from"] * 1000) * 3600 / plate, "%")
    return judged("vacuum_leak", share, s.limits, phrase("vacuum.leak", leak=said, share=share))


# ---- displacement


def _valve(s: Sheet) -> Finding | None:
    if s.body.discharge != "shut":
        return None
    return answer("displacement_valve", Verdict.STOP, phrase("vacuum.shut"))


def slip_now(s: Sheet) -> float | None:
    got = s.t.got
    if not s.t.has("per_rev", "rpm", "flow") or not got["per_rev"] or not got["rpm"]:
        return None
    return slip_pct(got["per_rev"], got["rpm"], got["flow"])


def _slip(s: Sheet) -> Finding | None:
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
        return _beyond("slip", reason, "vacuum.under")
    grew = phrase("vacuum.clearance", times=amount(clearance_times(slip / new), "1"))
    return judged("slip", times, s.limits, reason, grew, phrase("vacuum.thin"))


def _relief(s: Sheet) -> Finding | None:
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


def _lacking(s: Sheet) -> dict[str, Phrase | None]:
    b = s.body
    wanting = {
        "vacuum.absolute": b.pressures is None,
        "suction.air": s.air is None,
        "suction.error": "level_u" not in s.t.got,
        "vacuum.ultimate": "ultimate" not in s.t.got,
        "vacuum.seal": "seal_temp" not in s.t.got,
        "vacuum.shape": b.rise_shape is None,
        "vacuum.same": b.same_liquid != "yes",
        "vacuum.at": "at_pressure" not in s.t.got,
        "vacuum.relief_full": b.relief_full is None,
        "vacuum.relief_to": b.relief_to is None,
    }
    return {n: None for n, lacks in wanting.items() if lacks}


def _values(s: Sheet) -> dict[str, Quantity]:
    found = {
        "suction": (suction_now(s), "m3/h"),
        "slip": (slip_now(s), "%"),
        "flash": (_flash(s), "%"),
    }
    return {n: amount(v, u) for n, (v, u) in found.items() if v is not None}


def _flash(s: Sheet) -> float | None:
    if s.air is None or not s.t.has("steam", "vent"):
        return None
    return flash_pct(s.air + s.t.got["steam"], s.air + s.t.got["vent"])


def _points(s: Sheet) -> list[SeriesPoint]:
    leak = leak_now(s) if s.body.rise_shape == "straight" else None
    rows = [("suction_flow", suction_now(s), "m3/h"), ("slip", slip_now(s), "%")]
    if leak is not None and s.air is not None:
        rows.append(("vacuum_leak", free_air_l_h(leak, s.air) / 1000, "m3/h"))
    return [
        SeriesPoint(measurand=m, part="pump", conditions="", value=v, unit=u)
        for m, v, u in rows
        if v is not None and v >= 0
    ]


def _missing(s: Sheet) -> list[Missing]:
    if not s.what:
        return [Missing(field="what", message="Choose which pump it is: condensate, vacuum or displacement.")]
    out = []
    if s.what == "vacuum" and s.body.pressures is None:
        words = "Choose whether the pressures are gauge or absolute: a vacuum is nothing without it."
        out.append(Missing(field="pressures", message=words))
    if s.air is None and s.what != "displacement":
        out.append(
            Missing(field="altitude", message="Enter the altitude: the atmosphere is part of the sum.")
        )
    return out


def _drawn(s: Sheet) -> VacuumView:
    cycle, hot, leak = _cycle(s), hottest_c(s) if s.what == "condensate" else None, leak_now(s)
    suction, flash, slip = suction_now(s), _flash(s), slip_now(s)
    view = VacuumView(
        what=s.what,
        absolute=[amount(p, "kPa") for p in s.p.values()],
        slip=min(1.0, max(0.0, slip / 100)) if slip is not None else None,
        suction=amount(suction, "m3/h") if suction is not None else None,
        leak=amount(free_air_l_h(leak, s.air) / 1000, "m3/h") if leak is not None and s.air else None,
        flash=amount(flash, "%") if flash is not None else None,
        hottest=amount(hot, "degC") if hot is not None else None,
    )
    if cycle is not None:
        view.fills, view.empties = amount(cycle[0], "s"), amount(cycle[1], "s")
        view.cycle = amount(cycle[2], "1")
    if s.t.has("relief", "weakest") and s.t.got["weakest"]:
        view.relief = min(1.5, s.t.got["relief"] / s.t.got["weakest"])
    if suction:
        _pulled(s, view, suction)
    return view


def _pulled(s: Sheet, view: VacuumView, suction: float) -> None:
    """The pull-down as a line over time: this pump's, and the nameplate's."""
    got, p = s.t.got, s.p
    low, end = got.get("ultimate", 0.0), got["seconds"]
    plate = got.get("plate_flow")
    marks = [p["start"] + (p["reached"] - p["start"]) * i / 16 for i in range(17)]

    def line(flow: float) -> Places:
        rows = [
            (pull_down_s(got["volume"], flow, p["start"], m, low) if m < p["start"] else 0.0, m)
            for m in marks
        ]
        return [(round(t / end, 4), round(m / p["start"], 4)) for t, m in rows if t <= end * 1.0001]

    view.pull = line(suction)
    view.plate = line(plate) if plate else []
    view.floor = low / p["start"]


VACUUM = Bench(
    name="vacuum",
    title="Condensate, vacuum, displacement",
    records="Condensate, vacuum and displacement checks",
    one="a check of it",
    offer="Check flash, pull-down or slip",
    key=".",
    does="check flash, pull-down or slip",
    place=37,
    part="pump",
    slot="pump",
    sets=("condensate_return", "vacuum", "positive_displacement"),
    entry=VacuumEntry,
    view=VacuumView,
    needs=Needs(plates=("motor", "pump")),
    replay=replay,
    judge=guarded(judge),
    facts=newest_body,
    routine=False,
)
