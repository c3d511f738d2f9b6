"""Mechanical seals and O-rings."""

from .bench import SEAL

__all__ = ["SEAL"]
