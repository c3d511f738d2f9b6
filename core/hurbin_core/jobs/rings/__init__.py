"""Wear rings."""

from .bench import RINGS

__all__ = ["RINGS"]
