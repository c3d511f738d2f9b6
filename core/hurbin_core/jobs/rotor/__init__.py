"""Rotor and casing."""

from .bench import ROTOR

__all__ = ["ROTOR"]
