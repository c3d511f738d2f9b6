"""What closing a valve would do."""

from .bench import THROTTLE

__all__ = ["THROTTLE"]
