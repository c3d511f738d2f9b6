"""What follows in the logbook when the plant changes."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.dispatch import receiver

from hurbin_server.base.pruning import PRUNERS
from hurbin_server.instruments.models import Instrument
from hurbin_server.instruments.signals import worth_changed
from hurbin_server.plant.models import Component, Event, PumpSet
from hurbin_server.plant.services.events import add_event
from hurbin_server.plant.signals import event_added, fitting_changed, plate_changed

from .services.answers import answer
from .services.importing import drop_contents
from .services.judging import rejudge_newest
from .signals import PERFORM, Doing

PRUNERS["import_contents"] = drop_contents


@receiver(plate_changed)
def _plate(sender: Any, component: Component, **_: Any) -> None:
    fitting = component.fittings.filter(to_at=None).select_related("pump_set").first()
    if fitting is not None:
        rejudge_newest(fitting.pump_set)


@receiver(fitting_changed)
def _fitted(sender: Any, pump_set: PumpSet, **_: Any) -> None:
    rejudge_newest(pump_set)


@receiver(worth_changed)
def _worth_changed(sender: Any, instrument: Instrument, since: datetime, until: datetime, **_: Any) -> None:
    from .tasks import run_read_with

    run_read_with.enqueue(instrument.pk, since.isoformat(), until.isoformat())


@receiver(event_added)
def _happened(sender: Any, pump_set: PumpSet, **_: Any) -> None:
    answer(pump_set)


def _befell(doing: Doing) -> None:
    """Something that the work itself did to a part: an event of the set, once however often it is
    declared.
    """
    for e in doing.effects:
        there = Event.objects.filter(pump_set=doing.pump_set, kind=e.event, at=e.at)
        if doing.record is not None and not there.exists():
            add_event(doing.user, doing.pump_set.pk, e.event, e.at, e.note or doing.bench.title)


PERFORM["event"] = _befell
