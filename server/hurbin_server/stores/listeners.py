"""What the alignment bench is told of the vans."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from hurbin_core.base import Bench
from hurbin_core.logbook import ShimLot, VanShelf
from hurbin_server.logbook.signals import CONTEXT, Adds, Day
from hurbin_server.plant.models import PumpSet

from .models import Van


def shelves(site_id: int) -> list[VanShelf]:
    """Every van of a site with its shims. A count below zero says that it was counted wrong: nothing of that size is planned with."""
    vans = Van.objects.filter(site_id=site_id).order_by("name").prefetch_related("lots")
    return [VanShelf(name=v.name, pieces=[ShimLot(tenths=x.tenths, count=max(0, x.count), least=x.least) for x in sorted(v.lots.all(), key=lambda x: x.tenths)]) for v in vans]


def _context(pump_set: PumpSet, bench: Bench, as_of: datetime, day: Day) -> dict[str, Any]:
    # What a van held then is not known: only the plan of today is made with it.
    if bench.name != "alignment" or as_of < day.known_at - timedelta(hours=12):
        return {}
    return {"vans": shelves(pump_set.site_id)}


CONTEXT.append(Adds(fields=_context, touched=lambda ids: set()))
