"""Fuses as found and as fitted: which blew, whether they are what the drawing wants, and why they blew."""

from .bench import FUSES
from .entry import FusesEntry

__all__ = ["FUSES", "FusesEntry"]
