"""What benches are told of the vans, and what their work takes from them and brings back."""

from __future__ import annotations

from collections import Counter
from datetime import datetime, timedelta

from hurbin_core.stores import VANS, ShimLot, VanShelf
from hurbin_server.logbook.models import Entry
from hurbin_server.logbook.signals import EXTRAS, PERFORM, Day, Doing
from hurbin_server.plant.models import PumpSet

from .models import Van
from .services.counting import book
from .services.parts import book_parts


def shelves(site_id: int) -> list[VanShelf]:
    """Every van of a site with its shims. A count below zero says that it was counted wrong: nothing of that
    size is planned with.
    """
    vans = Van.objects.filter(site_id=site_id).order_by("name").prefetch_related("lots")
    return [
        VanShelf(
            name=v.name,
            pieces=[
                ShimLot(tenths=x.tenths, count=max(0, x.count), least=x.least)
                for x in sorted(v.lots.all(), key=lambda x: x.tenths)
            ],
        )
        for v in vans
    ]


def _vans(pump_set: PumpSet, as_of: datetime, day: Day) -> list[VanShelf]:
    # What a van held then is not known: only the plan of today is made with it.
    return [] if as_of < day.known_at - timedelta(hours=12) else shelves(pump_set.site_id)


def _book(doing: Doing) -> None:
    """Shims that were laid come out of the van, those that came out go back to it. Said twice it is
    booked once.
    """
    known = set(Entry.objects.filter(sheet=doing.sheet, late=False).values_list("uuid", flat=True))
    jobs = {e.key: (e.store, Counter(e.change)) for e in doing.effects}
    book(doing.user, doing.pump_set.site, jobs, known, f"{doing.pump_set.tag}, {doing.bench.title.lower()}")


def _parts(doing: Doing) -> None:
    """Parts that a job used leave the stock, those it holds back are reserved, old good ones come in."""
    if doing.bench.many:
        why = f"{doing.pump_set.tag}, {doing.bench.title.lower()}"
        book_parts(doing.user, doing.pump_set.site, doing.sheet.pk, doing.effects, why)


EXTRAS[VANS] = _vans
PERFORM["stock"] = _book
PERFORM["parts"] = _parts
