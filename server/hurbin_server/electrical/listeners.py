"""What the walk down a circuit is told of the set: its circuit, as it was described by then."""

from __future__ import annotations

from datetime import datetime

from hurbin_core.electrical.circuit import CIRCUIT, KeptCircuit
from hurbin_server.logbook.signals import EXTRAS, Day
from hurbin_server.plant.models import PumpSet

from .querysets import kept, newest


def _circuit(pump_set: PumpSet, as_of: datetime, day: Day) -> list[KeptCircuit]:
    row = newest(pump_set, as_of)
    return [kept(row)] if row is not None else []


EXTRAS[CIRCUIT] = _circuit
