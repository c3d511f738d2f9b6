"""A motor's protection: where the overload trips, what it protects, what clears a short circuit."""

from .bench import PROTECTION
from .entry import ProtectionEntry
from .overload import ceilings

__all__ = ["PROTECTION", "ProtectionEntry", "ceilings"]
