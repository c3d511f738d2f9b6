"""What follows in the logbook when the plant changes."""

from __future__ import annotations

from typing import Any

from django.dispatch import receiver

from hurbin_server.plant.models import Component, PumpSet
from hurbin_server.plant.signals import event_added, fitting_changed, plate_changed

from .services.answers import answer
from .services.judging import rejudge_newest


@receiver(plate_changed)
def _plate(sender: Any, component: Component, **_: Any) -> None:
    fitting = component.fittings.filter(to_at=None).select_related("pump_set").first()
    if fitting is not None:
        rejudge_newest(fitting.pump_set)


@receiver(fitting_changed)
def _fitted(sender: Any, pump_set: PumpSet, **_: Any) -> None:
    rejudge_newest(pump_set)


@receiver(event_added)
def _happened(sender: Any, pump_set: PumpSet, **_: Any) -> None:
    answer(pump_set)
