"""Ohms of a dead machine: windings, single-phase motors, contacts, capacitors, the diodes of a drive."""

from .bench import OHMS
from .entry import OhmsEntry

__all__ = ["OHMS", "OhmsEntry"]
