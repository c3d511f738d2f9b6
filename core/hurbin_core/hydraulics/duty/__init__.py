"""Where a pump runs on its curve."""

from .bench import DUTY

__all__ = ["DUTY"]
