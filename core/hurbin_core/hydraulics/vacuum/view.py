"""What is drawn of the three: the pull-down over time, flash, slip, the relief against the weakest part."""

from __future__ import annotations

from ...base import Model, Quantity, amount
from ..paper import Places
from .condensate import cycle_of, flash_now, hottest_c
from .displacement import slip_now
from .formulas import free_air_l_h, pull_down_s
from .pulling import leak_now, suction_now
from .sheet import Sheet


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


def drawn(s: Sheet) -> VacuumView:
    cycle, hot, leak = cycle_of(s), hottest_c(s) if s.what == "condensate" else None, leak_now(s)
    suction, flash, slip = suction_now(s), flash_now(s), slip_now(s)
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
