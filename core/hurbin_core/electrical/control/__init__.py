"""The control ladder: where its voltage stops, and whether what is open there is right to be."""

from .bench import CONTROL_BENCH
from .entry import ControlEntry

__all__ = ["CONTROL_BENCH", "ControlEntry"]
