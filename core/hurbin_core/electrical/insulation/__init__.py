"""Insulation resistance: timed, corrected to 40 °C, bounded, held against the minimum and against its own
past.
"""

from .bench import INSULATION
from .correction import correction, minimum, test_volts_for
from .entry import MARKS_S, InsulationEntry, InsulationTest, fold, insulation_entry, value_at
from .formulas import dew_point_c, factor_thermoplastic, factor_thermosetting, life_share

__all__ = [
    "INSULATION",
    "MARKS_S",
    "InsulationEntry",
    "InsulationTest",
    "insulation_entry",
    "correction",
    "dew_point_c",
    "factor_thermoplastic",
    "factor_thermosetting",
    "fold",
    "life_share",
    "minimum",
    "test_volts_for",
    "value_at",
]
