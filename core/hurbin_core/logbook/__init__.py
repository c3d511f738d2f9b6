"""Sheets, records, judgements, series, trend arithmetic: what is kept of the work and what it says over time."""

from ..base import load_data

load_data(__name__, "texts.toml")

from .context import Context, Cut, Entry, HistoryPoint, PastSheet, Twin, newest, newest_body, since_cut
from .parts import Answer, PartVerdict, attention, behind, fold_parts, never_checked, overdue
from .thin import thin
from .trend import (
    Crossing, Datum, Direction, Forecast, Kendall, PathPoint, Trend, akritas_slope, assess, change_point, crossing, forecast, mann_kendall,
    median, pair_sign, theil_sen,
)  # fmt: skip

__all__ = [
    "Answer", "Context", "Crossing", "Cut", "Datum", "Direction", "Entry", "Forecast", "HistoryPoint", "Kendall", "PartVerdict",
    "PastSheet", "PathPoint", "Trend", "Twin", "akritas_slope", "assess", "attention", "behind", "change_point", "crossing", "fold_parts", "forecast",
    "mann_kendall", "median", "never_checked", "newest", "newest_body", "overdue", "pair_sign", "since_cut", "theil_sen", "thin",
]  # fmt: skip
