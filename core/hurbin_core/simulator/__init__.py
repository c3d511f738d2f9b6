"""Simulated physics and instruments for demo, stand-ins, tests and trainer. Shares no formula with a rule."""

from .meter import Meter
from .plant_life import SetLife, fault_from
from .running import Machine, Supply, read_running

__all__ = ["Machine", "Meter", "SetLife", "Supply", "fault_from", "read_running"]
