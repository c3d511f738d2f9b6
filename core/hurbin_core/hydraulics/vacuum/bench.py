"""The bench for condensate, vacuum and displacement pumps: flash and starts, pull-down and leak, slip and
relief.
"""

from __future__ import annotations

from ...base import (
    Bench,
    Evaluation,
    Missing,
    Needs,
    Phrase,
    Quantity,
    SeriesPoint,
    amount,
    concluded,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, newest_body
from ...safety import guarded
from ..lasting import again
from .condensate import flash_now, flash_npsh, receiver
from .displacement import relief, slip, slip_now, valve
from .entry import VacuumEntry
from .formulas import free_air_l_h
from .pulling import blank, leak, leak_now, pull, suction_now
from .sheet import Sheet, replay
from .view import VacuumView, drawn


def judge(s: Sheet, case: AnyCase) -> Evaluation[VacuumView]:
    """Does it flash, short-cycle, pull, leak, slip; is its relief in order?

    kPa absolute inside, m³/h, l, percent. A vacuum without its atmosphere, or without gauge or absolute:
    unknown.
    """
    groups = {
        "condensate": (flash_npsh, receiver),
        "vacuum": (pull, blank, leak),
        "displacement": (valve, slip, relief),
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
        view=drawn(s),
    )


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
        "flash": (flash_now(s), "%"),
    }
    return {n: amount(v, u) for n, (v, u) in found.items() if v is not None}


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
