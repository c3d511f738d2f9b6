"""What the walk down a circuit is told of the set, and what the register file keeps of its circuit."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.dispatch import receiver

from hurbin_core.base import AnyBench, Limits, write
from hurbin_core.electrical import FUSES, against_supply
from hurbin_core.electrical.circuit import CIRCUIT, KeptCircuit, circuit_of
from hurbin_core.plant import MotorPlate
from hurbin_server.base.models import User
from hurbin_server.logbook.services.casing import overrides_for
from hurbin_server.logbook.signals import EXTRAS, Day, entries_coming
from hurbin_server.plant.access import require
from hurbin_server.plant.models import Component, PumpSet
from hurbin_server.plant.services.parts import plate_of
from hurbin_server.plant.signals import AGAINST_FITTING, COLUMNS, RegisterColumn
from hurbin_server.safety.services.qualifying import signs

from .querysets import kept, kinds_of, newest, supply_volts, usual_of
from .services.describing import describe


def _circuit(pump_set: PumpSet, as_of: datetime, day: Day) -> list[KeptCircuit]:
    row = newest(pump_set, as_of)
    return [kept(row)] if row is not None else []


def _kind(cell: str) -> str:
    return circuit_of(cell).kind


def _describe(user: User, pump_set: PumpSet, kind: str) -> None:
    """By its kind alone it is the usual one: its earthing and what hangs beneath stay to be entered."""
    last = newest(pump_set)
    version = last.version if last is not None else 0
    describe(user, pump_set.pk, usual_of(pump_set, kind).circuit, version)


@receiver(entries_coming)
def _signed(sender: Any, user: User, pump_set: PumpSet, bench: AnyBench, typed: list[Any], **_: Any) -> None:
    """A signature that no cause of a blown fuse was found is entered by whoever is licensed, or by a lead,
    who saw who signed.
    """
    if bench.name != FUSES.name or not any(e.body.signed_as or e.body.signed.strip() for e in typed):
        return
    own = all(e.body.signed_as != "manufacturer" for e in typed)
    if not (own and signs(user, pump_set.site_id)):
        require(user, pump_set.site_id, "lead")


def _not_for_supply(pump_set: PumpSet, component: Component) -> str:
    """A motor that none of its nameplate voltages fits to the supply of this position."""
    volts = supply_volts(pump_set) if component.kind == "motor" else None
    plate = plate_of(component)
    if volts is None or not isinstance(plate, MotorPlate):
        return ""
    said = against_supply(plate, volts, Limits(overrides_for(pump_set)))
    return write(said) if said is not None else ""


AGAINST_FITTING.append(_not_for_supply)
EXTRAS[CIRCUIT] = _circuit
COLUMNS["circuit"] = RegisterColumn(check=_kind, read=kinds_of, write=_describe)
