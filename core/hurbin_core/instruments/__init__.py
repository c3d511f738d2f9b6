"""What readings are taken with: the register, how an instrument stands, and what its reading is worth."""

from .fitness import LIVE, Shown, Stands, stands, unfit
from .register import (
    INSTRUMENT_KINDS,
    READS,
    Calibration,
    Category,
    Instrument,
    InstrumentKind,
    InstrumentSaid,
    Span,
    SpanSaid,
    instrument_of,
    kind_of,
)
from .register_csv import InstrumentRow, read_register, write_register
from .traced import Doubt, doubts, shown_in, traced, used_for

__all__ = [
    "INSTRUMENT_KINDS",
    "LIVE",
    "READS",
    "Calibration",
    "Category",
    "Doubt",
    "Instrument",
    "InstrumentKind",
    "InstrumentRow",
    "InstrumentSaid",
    "Shown",
    "Span",
    "SpanSaid",
    "Stands",
    "doubts",
    "instrument_of",
    "kind_of",
    "read_register",
    "write_register",
    "shown_in",
    "stands",
    "traced",
    "unfit",
    "used_for",
]
