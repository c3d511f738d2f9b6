"""Sheets, records, judgements, series, trend arithmetic: what is kept of the work and what it says over time."""

from ..base import load_data

load_data(__name__, "texts.toml")

from .context import Context, Cut, Entry, HistoryPoint, InterimLimit, Moment, PastSheet, ShimLot, Standing, Twin, VanShelf, newest, newest_body, cuts_of, part_of_event, since_cut, within_years
from .parts import Answer, Closing, PartVerdict, attention, behind, concerns_of, fold_parts, never_checked, overdue, repaired_since, still_stands
from .readings_csv import FileRow, ReadingsFile, decode, open_readings, read_time, template, write_readings
from .readings_json import JsonFile, looks_like_json, open_json
from .thin import thin
from .trend import (
    Crossing, Datum, Direction, Forecast, Kendall, PathPoint, Trend, akritas_slope, assess, change_point, crossing, forecast, mann_kendall,
    median, median_of, pair_sign, theil_sen,
)  # fmt: skip

__all__ = [
    "Answer", "Closing", "Context", "Crossing", "Cut", "Datum", "Direction", "Entry", "FileRow", "Forecast", "HistoryPoint", "InterimLimit", "JsonFile", "Kendall", "Moment", "PartVerdict",
    "PastSheet", "PathPoint", "ReadingsFile", "ShimLot", "Standing", "Trend", "Twin", "VanShelf", "akritas_slope", "assess", "attention", "behind", "change_point", "concerns_of", "crossing", "cuts_of", "decode",
    "fold_parts", "forecast", "looks_like_json", "mann_kendall", "median", "median_of", "never_checked", "newest", "newest_body", "open_json", "open_readings", "overdue", "pair_sign", "part_of_event",
    "read_time", "repaired_since", "since_cut", "still_stands", "template", "theil_sen", "thin", "within_years", "write_readings",
]  # fmt: skip
