"""The suction side of a pump."""

from .bench import SUCTION

__all__ = ["SUCTION"]
