"""What an insulation test stands on: which grounds of its rules are wanting."""

from __future__ import annotations

from ...base import Limits, Phrase, exceeds
from .correction import test_volts_for
from .entry import InsulationTest
from .worked import Worked

_UNSAID = ("test_point", "links", "phases", "test_volts")


def lacking(test: InsulationTest, w: Worked, unsaid: list[str], limits: Limits) -> dict[str, Phrase | None]:
    """Which grounds are wanting? How it was tested, with what, on which winding."""
    arresters = test.said("arresters_off")
    wanting = {
        **{f"ins.{name}": name in unsaid for name in _UNSAID},
        "ins.volts_far": volts_far(test.figure("test_volts"), w.facts.volts_v, limits),
        "ins.arresters": arresters is None,
        "ins.arresters_on": arresters is False,
        "ins.plate_volts": w.facts.volts_v is None,
        "ins.legs": w.apart and sum(r.minute is not None for r in w.legs) < (1 if w.facts.phases == 1 else 3),
    }
    return {ground: None for ground, lacks in wanting.items() if lacks}


def volts_far(volts: float | None, plate_v: float | None, limits: Limits) -> bool:
    """Is the test voltage further off what goes with the nameplate than any practice takes it?"""
    proposed = test_volts_for(plate_v)
    if volts is None or proposed is None:
        return False
    share = limits.value("insulation.volts_least") / 100
    return exceeds(proposed[0] * share, volts) or exceeds(
        volts, proposed[1] * limits.value("insulation.volts_most")
    )
