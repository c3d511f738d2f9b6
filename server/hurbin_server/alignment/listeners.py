"""Shims that were laid come out of the van, those that came out go back to it, in the transaction of the entry."""

from __future__ import annotations

from typing import Any

from django.dispatch import receiver

from hurbin_core.alignment import bookings
from hurbin_core.base import Bench
from hurbin_core.logbook import Context
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Entry, Record, Sheet
from hurbin_server.logbook.services.judging import entries_of, raw_of
from hurbin_server.logbook.signals import entries_written, record_saved
from hurbin_server.plant.models import PumpSet
from hurbin_server.stores.listeners import shelves
from hurbin_server.stores.services.counting import book


@receiver(entries_written)
def _entries(sender: Any, user: User, pump_set: PumpSet, bench: Bench, sheet: Sheet, **_: Any) -> None:
    if bench.name == "alignment":
        _book(user, pump_set, sheet)


@receiver(record_saved)
def _record(sender: Any, user: User, record: Record, **_: Any) -> None:
    if record.bench == "alignment":
        _book(user, record.pump_set, record.sheet)


def _book(user: User, pump_set: PumpSet, sheet: Sheet) -> None:
    rows = list(Entry.objects.filter(sheet=sheet, late=False))
    if sheet.left_because:
        jobs = {}
    else:
        typed = entries_of("alignment", [raw_of(e) for e in rows])
        jobs = {b.entry: (b.van, b.booking.change) for b in bookings(typed, Context(as_of=now(), vans=shelves(pump_set.site_id)))}
    book(user, pump_set.site, jobs, {e.uuid for e in rows}, f"{pump_set.tag}, alignment")
