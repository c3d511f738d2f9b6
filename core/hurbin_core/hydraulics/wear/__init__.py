"""How worn a pump is."""

from .bench import WEAR

__all__ = ["WEAR"]
