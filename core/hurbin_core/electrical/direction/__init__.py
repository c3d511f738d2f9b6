"""Which way it turns: what stands before a bump, what proves a direction, what an exchange turns round."""

from .bench import DIRECTION
from .entry import DirectionEntry

__all__ = ["DIRECTION", "DirectionEntry"]
