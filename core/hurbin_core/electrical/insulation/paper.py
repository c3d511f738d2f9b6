"""The curves of a test on log-log paper, over the ghosts of the tests before it. Geometry, not pixels."""

from __future__ import annotations

import math
from typing import Any

from ...base import Quantity, nominal
from ...logbook import Conditions, Context, Entry, PastSheet
from .entry import InsulationTest, fold, insulation_entry
from .view import Curve, CurvePaper, CurvePoint, PaperTick
from .worked import Worked

# Seconds 10 to 700, and resistance by tenfolds.
_X = (10.0, 700.0)


def paper_of(test: InsulationTest, w: Worked, context: Context) -> CurvePaper | None:
    """This test's curves over the ghosts of the last three, on log-log paper, above the minimum (raw
    scale).
    """
    now = [
        (r.leg, 0, None, "", [(x.seconds, x.ohms.quantity, x.uuid) for x in r.readings]) for r in test.legs
    ]
    past = []
    for i, sheet in enumerate(context.earlier[:3], 1):
        differs = Conditions.parse(sheet.conditions).unlike(w.conditions) if w.conditions.said else ""
        past += [(leg, i, sheet.taken_at, differs, rows) for leg, rows in curves_of(sheet)]
    every = [(t, q) for _, _, _, _, rows in (*now, *past) for t, q, _ in rows if q.value > 0]
    if not every:
        return None
    floor = w.least.value / w.correction.factor if w.correction is not None else None
    figures = [q.value for _, q in every] + ([floor] if floor else [])
    low, high = math.floor(math.log10(min(figures))), math.ceil(math.log10(max(figures)) + 1e-9)
    high = max(high, low + 1)

    def x(t: float) -> float:
        return round(
            (math.log10(min(max(t, _X[0]), _X[1])) - math.log10(_X[0]))
            / (math.log10(_X[1]) - math.log10(_X[0])),
            4,
        )

    def y(v: float) -> float:
        return round((math.log10(v) - low) / (high - low), 4)

    lines = [
        Curve(
            name=leg,
            before=n,
            taken_at=at,
            differs=differs,
            points=[
                CurvePoint(x=x(t), y=y(q.value), at=nominal(t, "s"), value=q, entry=e)
                for t, q, e in rows
                if q.value > 0
            ],
        )
        for leg, n, at, differs, rows in (*past, *now)
    ]
    ticks = [PaperTick(at=x(t), value=nominal(t, "s")) for t in (15, 30, 60, 120, 300, 600)]
    decades = [PaperTick(at=y(10.0**d), value=nominal(10.0**d, "MOhm")) for d in range(low, high + 1)]
    return CurvePaper(curves=lines, x_ticks=ticks, y_ticks=decades, floor=y(floor) if floor else None)


def curves_of(sheet: PastSheet) -> list[tuple[str, list[tuple[float, Quantity, str]]]]:
    """An earlier record's readings by leg, as read."""
    at = sheet.taken_at
    bodies = [{"kind": "setup", **sheet.body.get("setup", {})}] + [
        {"kind": "reading", **r} for r in sheet.body.get("readings", [])
    ]
    folded = fold(
        [
            Entry[Any](uuid=f"past-{i:04d}", taken_at=at, body=insulation_entry(**b))
            for i, b in enumerate(bodies)
        ]
    )
    return [(r.leg, [(x.seconds, x.ohms.quantity, "") for x in r.readings]) for r in folded.legs]
