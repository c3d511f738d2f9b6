"""One insulation test worked out: each leg at 40 °C, the minimum of its winding, the dew point of the
room.
"""

from __future__ import annotations

from dataclasses import dataclass

from ...base import (
    Bound,
    Limits,
    Phrase,
    Quantity,
    UsedLimit,
    amount,
    exceeds,
)
from ...logbook import Conditions
from ...plant import MotorFacts, MotorPlate
from .correction import Correction, correction, minimum
from .entry import At, InsulationTest, Run, value_at
from .formulas import dew_point_c

# What a sentence of this bench is filled with.
Figures = dict[str, Quantity | str | Phrase]


@dataclass(slots=True)
class LegResult:
    """One leg: its figure after one minute, raw and at 40 °C, and the two ratios' numbers."""

    run: Run
    leg: str
    minute: At | None
    half: At | None
    ten: At | None
    at40: Quantity | None = None


@dataclass(slots=True)
class Worked:
    """Everything that is computed once and judged several times."""

    legs: list[LegResult]
    correction: Correction | None
    winding_c: float | None
    dew_c: float | None
    least: UsedLimit
    least_why: str
    plate: MotorPlate
    facts: MotorFacts
    conditions: Conditions
    comparable: bool
    apart: bool = False
    blocked: str = ""

    @property
    def worst(self) -> LegResult | None:
        """The leg with the least insulation; a bound stands behind a figure of the same size."""
        told = [r for r in self.legs if r.minute is not None]
        return min(told, key=lambda r: (r.minute.value, r.minute.bound is Bound.AT_LEAST), default=None)  # type: ignore[union-attr]


def work_out(
    test: InsulationTest,
    plate: MotorPlate | None,
    facts: MotorFacts,
    conditions: Conditions,
    comparable: bool,
    limits: Limits,
) -> Worked:
    """The arithmetic of the test: corrected figures where a correction is known, the dew point where the air
    was read.
    """
    plate = plate or MotorPlate()
    winding, air, wet = test.figure("winding"), test.figure("ambient"), test.figure("humidity")
    corrected = None
    cold, hot = band(limits)
    if winding is not None and cold <= winding <= hot:
        corrected = correction(winding, plate.insulation_class, plate.year, limits)
    least, why = minimum(facts, plate.winding, plate.insulation_class, plate.year, limits)
    dew = dew_point_c(air, wet) if air is not None and wet is not None else None
    legs = []
    for run in test.legs:
        result = LegResult(
            run, run.leg, value_at(run, 60, limits), value_at(run, 30, limits), value_at(run, 600, limits)
        )
        if result.minute is not None and corrected is not None:
            result.at40 = amount(result.minute.value * corrected.factor, "MOhm", result.minute.bound)
        legs.append(result)
    out = Worked(
        legs,
        corrected,
        winding,
        dew,
        least,
        why,
        plate,
        facts,
        conditions,
        comparable,
        test.said("phases") == "apart",
    )
    if dew is not None and winding is not None and not exceeds(winding, dew):
        out.blocked = "dew"
    elif test.said("phases") == "together" and not _leads_alike(out, limits):
        out.blocked = "leads"
    return out


def band(limits: Limits) -> tuple[float, float]:
    """Between which winding temperatures is a reading corrected? A site may narrow the band; outside of the
    published one no factor is known, whatever a site says."""
    cold, hot = limits.get("insulation.coldest"), limits.get("insulation.hottest")
    return max(cold.value, cold.standard_value), min(hot.value, hot.standard_value)


def _leads_alike(w: Worked, limits: Limits) -> bool:
    figures = [r.minute for r in w.legs if r.minute is not None]
    exact = [a.value for a in figures if a.bound is Bound.EXACT]
    if len(figures) < 2 or not exact:
        return True
    top = max(a.value for a in figures)
    if min(exact) <= 0:
        return top <= 0
    return not exceeds(top / min(exact), limits.value("insulation.leads_alike"))
