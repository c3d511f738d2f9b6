"""Sheets, records, judgements, series, trend arithmetic: what is kept of the work and what it says over time."""

from ..base import load_data

load_data(__name__, "texts.toml")

from .context import Context, Cut, Entry, HistoryPoint, InterimLimit, PastSheet, ShimLot, Standing, Twin, VanShelf, newest, newest_body, since_cut
from .parts import Answer, PartVerdict, attention, behind, fold_parts, never_checked, overdue
from .readings_csv import FileRow, ReadingsFile, decode, open_readings, read_time, template, write_readings
from .readings_json import JsonFile, looks_like_json, open_json
from .thin import thin
from .trend import (
    Crossing, Datum, Direction, Forecast, Kendall, PathPoint, Trend, akritas_slope, assess, change_point, crossing, forecast, mann_kendall,
    median, median_of, pair_sign, theil_sen,
)  # fmt: skip

__all__ = [
    "Answer", "Context", "Crossing", "Cut", "Datum", "Direction", "Entry", "FileRow", "Forecast", "HistoryPoint", "InterimLimit", "JsonFile", "Kendall", "PartVerdict",
    "PastSheet", "PathPoint", "ReadingsFile", "ShimLot", "Standing", "Trend", "Twin", "VanShelf", "akritas_slope", "assess", "attention", "behind", "change_point", "crossing", "decode",
    "fold_parts", "forecast", "looks_like_json", "mann_kendall", "median", "median_of", "never_checked", "newest", "newest_body", "open_json", "open_readings", "overdue", "pair_sign",
    "read_time", "since_cut", "template", "theil_sen", "thin", "write_readings",
]  # fmt: skip
