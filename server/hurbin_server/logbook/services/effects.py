"""What keeping a sheet brings about besides the record: performed once, in the transaction of the keeping."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from hurbin_core.base import Effect
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.logbook import AnyCase
from hurbin_server.base.clock import now
from hurbin_server.base.models import User

from ..models import Entry, Record, Sheet
from ..signals import PERFORM, Day, Doing
from .casing import case_for, extras_for
from .judging import entries_of, raw_of


def perform(
    user: User, sheet: Sheet, case: AnyCase, entries: Sequence[Any], record: Record | None = None
) -> None:
    """Perform what these entries of a sheet declare. A kind that nobody performs is an error: nothing
    declared is lost.

    A sheet that was left without a record declares nothing any more: what it had brought about is taken back.
    """
    b = find_bench(sheet.bench)
    left, today = bool(sheet.left_because), Day(known_at=now())
    # What is booked is booked from what is there now, whenever it was laid.
    case = case.model_copy(
        update={"extras": extras_for(sheet.pump_set, b, today.known_at, today), "filed": []}
    )
    effects = [] if left else b.performs(case, entries, record is not None)
    by_kind: dict[str, list[Effect]] = {}
    for e in effects:
        by_kind.setdefault(e.kind, []).append(e)
    strange = by_kind.keys() - PERFORM.keys()
    if strange:
        raise RuntimeError(f"Nobody performs {', '.join(sorted(strange))}.")
    for kind, act in PERFORM.items():
        if kind in by_kind or not b.lasting:
            act(Doing(user, sheet.pump_set, b, sheet, record, by_kind.get(kind, [])))


def perform_open(user: User, sheet: Sheet) -> None:
    """The same for a sheet that is still open, or was just left: only benches whose effects come at once."""
    b = find_bench(sheet.bench)
    if b.lasting:
        return
    rows = Entry.objects.filter(sheet=sheet, late=False).select_related("by")
    entries = entries_of(b.name, [raw_of(e) for e in rows])
    case, _ = case_for(sheet.pump_set, b, now())
    perform(user, sheet, case, entries)
