"""The leads of a motor in its terminal box: joined rightly for this supply, and if not, which one moves."""

from .bench import LEADS
from .checking import Fit, Move, Repair, fit_of, half_of, repairs
from .entry import LeadsEntry, parsed
from .solving import Driven, driven
from .windings import WINDINGS, Winding, windings_of

__all__ = [
    "LEADS",
    "WINDINGS",
    "Driven",
    "Fit",
    "LeadsEntry",
    "Move",
    "Repair",
    "Winding",
    "driven",
    "fit_of",
    "half_of",
    "parsed",
    "repairs",
    "windings_of",
]
