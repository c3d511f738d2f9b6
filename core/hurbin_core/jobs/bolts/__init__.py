"""Bolts."""

from .bench import BOLTS

__all__ = ["BOLTS"]
