"""What records were read with, and their answers anew when the register learns more of an instrument."""

from __future__ import annotations

from collections.abc import Collection
from datetime import datetime
from functools import partial

from django.db.models import Q

from hurbin_core.instruments import READS
from hurbin_server.base.door import act
from hurbin_server.instruments.models import Instrument

from ..models import Entry, Record
from .answers import answer
from .judging import rejudge_live


def named_on(sheets: Collection[str]) -> dict[str, dict[str, str]]:
    """What each of these sheets was read with: by dimension, the instrument's number. What several read is
    not said of one of them.
    """
    every = every_on(sheets)
    return {s: {reads: one[0] for reads, one in by.items() if len(one) == 1} for s, by in every.items()}


def every_on(sheets: Collection[str]) -> dict[str, dict[str, list[str]]]:
    """Every instrument that read anything on each of these sheets, by dimension, in their order."""
    out: dict[str, dict[str, list[str]]] = {}
    rows = Entry.objects.filter(sheet_id__in=sheets, late=False).exclude(instruments={})
    for sheet, named in rows.order_by("taken_at", "uuid").values_list("sheet_id", "instruments"):
        for reads, number in named.items():
            held = out.setdefault(sheet, {}).setdefault(reads, [])
            if number not in held:
                held.append(number)
    return out


def labels_of(site_id: int) -> dict[str, str]:
    """The labels of a site's instruments by their numbers."""
    rows = Instrument.objects.filter(site_id=site_id).values_list("pk", "name")
    return {str(pk): name for pk, name in rows}


def read_between(instrument: Instrument, since: datetime, until: datetime) -> list[Record]:
    """The live records that this instrument took a part in, from one time to the other, oldest first."""
    number = str(instrument.pk)
    named = Q()
    for reads in READS:
        named |= Q(instruments__contains={reads: number})
    sheets = Entry.objects.filter(named, taken_at__gte=since, taken_at__lt=until).values("sheet_id")
    return list(
        Record.objects.filter(live=True, sheet_id__in=sheets)
        .select_related("pump_set__site", "pump_set__service", "sheet")
        .order_by("taken_at", "pk")
    )


def rejudge_read_with(instrument: Instrument, since: datetime, until: datetime) -> int:
    """Every record that it read in this time is evaluated anew, by what is known of it now. How many answers
    changed.
    """
    changed, touched = 0, {}
    for record in read_between(instrument, since, until):
        if act(partial(rejudge_live, record)) is not None:
            changed += 1
            touched[record.pump_set_id] = record.pump_set
    for pump_set in touched.values():
        act(partial(answer, pump_set))
    return changed
