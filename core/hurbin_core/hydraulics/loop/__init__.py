"""Leak or only cooling."""

from .bench import LOOP_BENCH

__all__ = ["LOOP_BENCH"]
