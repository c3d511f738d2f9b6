"""A bearing heated to its seat."""

from .bench import BEARING

__all__ = ["BEARING"]
