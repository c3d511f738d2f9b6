"""Insulation resistance: timed, corrected to 40 °C, bounded, held against the minimum and against its own past."""

from ...base import load_data

load_data(__name__, "limits.toml", "grounds.toml", "rules.toml", "texts.toml")

from .bench import INSULATION
from .correction import correction, dew_point_c, factor_thermoplastic, factor_thermosetting, life_share, minimum, test_volts_for
from .entry import MARKS_S, InsulationEntry, fold, value_at
from .heading import forecast_words, log_data

__all__ = [
    "INSULATION", "MARKS_S", "InsulationEntry", "correction", "dew_point_c", "factor_thermoplastic",
    "factor_thermosetting", "fold", "forecast_words", "life_share", "log_data", "minimum", "test_volts_for", "value_at",
]  # fmt: skip
