"""What a bench is told of the loop its set is on; and that a pressure on one set is news for the others."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.dispatch import receiver

from hurbin_core.hydraulics import LOOP, LoopKnown
from hurbin_server.base.door import moved
from hurbin_server.logbook.models import Record
from hurbin_server.logbook.signals import EXTRAS, Day, record_saved
from hurbin_server.plant.models import PumpSet

from .models import LoopMember
from .querysets import loop_of

_READS = ("loop", "fill")


def _loop(pump_set: PumpSet, as_of: datetime, day: Day) -> list[LoopKnown]:
    found = loop_of(pump_set, as_of)
    return [found] if found is not None else []


@receiver(record_saved, dispatch_uid="hydraulics_loop")
def _news(sender: Any, record: Record, **more: Any) -> None:
    if record.bench not in _READS:
        return
    mine = LoopMember.objects.filter(pump_set_id=record.pump_set_id).first()
    if mine is None:
        return
    for m in LoopMember.objects.filter(loop_id=mine.loop_id).exclude(pk=mine.pk).select_related("pump_set"):
        moved("set", m.pump_set_id, m.pump_set.site_id)


EXTRAS[LOOP] = _loop
