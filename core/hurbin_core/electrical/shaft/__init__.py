"""The shaft turned by hand: does it turn, and if not, is it the motor, the pump, or what lies between?"""

from .bench import SHAFT, ShaftEntry

__all__ = ["SHAFT", "ShaftEntry"]
