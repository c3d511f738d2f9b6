"""Seats, bores, run-out and float."""

from .bench import FITS

__all__ = ["FITS"]
