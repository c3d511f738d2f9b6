"""Condensate, vacuum and displacement pumps."""

from .bench import VACUUM

__all__ = ["VACUUM"]
