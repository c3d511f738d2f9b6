"""Supply, three-phase current and (later) insulation, windings and leads."""

from ..base import load_data

load_data(__name__, "limits.toml", "grounds.toml", "rules.toml", "texts.toml", "series.toml")

from .entry import RunningCheckEntry
from .insulation import INSULATION, MARKS_S
from .running_check import RUNNING_CHECK
from .series import SeriesLimit, path_values, series_forecast, series_limits
from .states import differing_words, state_in_words
from .unbalance import closes_triangle, derating, extra_rise_pct, true_unbalance_pct, unbalance_pct

__all__ = [
    "INSULATION", "MARKS_S", "RUNNING_CHECK", "RunningCheckEntry", "SeriesLimit", "closes_triangle", "derating", "differing_words", "extra_rise_pct", "path_values",
    "series_forecast", "series_limits", "state_in_words", "true_unbalance_pct", "unbalance_pct",
]  # fmt: skip
