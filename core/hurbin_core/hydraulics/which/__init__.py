"""Which kind of pump for this liquid."""

from .bench import WHICH

__all__ = ["WHICH"]
