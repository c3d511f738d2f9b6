"""Lifting."""

from .bench import LIFTING

__all__ = ["LIFTING"]
