"""Filling, purging and venting a loop."""

from .bench import FILL

__all__ = ["FILL"]
