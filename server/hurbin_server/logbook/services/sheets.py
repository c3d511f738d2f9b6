"""Open sheets: entries come in from any device, once each; the sheet stays open until it is put on record or left."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import transaction

from hurbin_core.base import Bench, RunClock
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.logbook import Context
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import role_on, set_for
from hurbin_server.plant.models import PumpSet

from ..models import Entry, Sheet
from ..signals import entries_coming, entries_written, sheet_leaving
from .context import overrides_for
from .judging import entries_of, raw_of

MOST_ENTRIES = 500


def append_entries(user: User, set_id: int, b: Bench, sheet_uuid: str, raw: list[dict[str, Any]]) -> Sheet:
    """Add entries to a sheet (made when this is its first). An entry that is there already is not written again.

    Entries for a sheet that was closed meanwhile are kept beside its record, marked late: nothing is dropped, and
    nothing changes behind a record's back. Refused: a viewer (403), a time ahead (422), another set's sheet (409).
    """
    pump_set = set_for(user, set_id, "technician")
    typed = signed(user, entries_of(b.name, raw))
    entries_coming.send(sender=Sheet, user=user, pump_set=pump_set, bench=b, typed=typed)
    if any(e.taken_at > now() + timedelta(minutes=10) for e in typed):
        raise Refused(422, "taken_in_future", "That time lies ahead: check the clock of this device.", field="taken_at")
    with transaction.atomic():
        PumpSet.objects.select_for_update().get(pk=pump_set.pk)
        sheet_uuid = the_one(b, pump_set, sheet_uuid)
        sheet, _ = Sheet.objects.get_or_create(
            uuid=sheet_uuid, defaults={"pump_set": pump_set, "bench": b.name, "opened_by": user, "opened_at": min((e.taken_at for e in typed), default=now())}
        )
        if sheet.pump_set_id != pump_set.pk or sheet.bench != b.name:
            raise Refused(409, "sheet_id_used", "That sheet's id belongs to another sheet.")
        write_entries(user, sheet, typed, late=sheet.closed_at is not None)
        entries_written.send(sender=Sheet, user=user, pump_set=pump_set, bench=b, sheet=sheet)
    return sheet


def signed(user: User, typed: list[Any]) -> list[Any]:
    """The entries with their author: who sent them, whatever they say themselves."""
    for e in typed:
        e.by, e.who = user.full_name, user.username
    return typed


def with_authors(user: User, b: Bench, typed: list[Any]) -> list[Any]:
    """Entries that are only looked at, with their authors: those on file keep theirs, the rest are this person's."""
    if not b.single:
        return signed(user, typed)
    held = {e.uuid: e.by for e in Entry.objects.filter(uuid__in=[e.uuid for e in typed]).select_related("by")}
    for e in typed:
        signed(held.get(e.uuid, user), [e])
    return typed


def the_one(b: Bench, pump_set: PumpSet, sheet_uuid: str) -> str:
    """On a bench with one sheet a set: the one that stands open, whichever id the sender made up for his."""
    if not b.single or Sheet.objects.filter(pk=sheet_uuid).exists():
        return sheet_uuid
    open_ = Sheet.objects.filter(pump_set=pump_set, bench=b.name, closed_at=None).order_by("opened_at").first()
    return open_.uuid if open_ is not None else sheet_uuid


def write_entries(user: User, sheet: Sheet, typed: list[Any], late: bool = False) -> None:
    held = dict(Entry.objects.filter(uuid__in=[e.uuid for e in typed]).values_list("uuid", "sheet_id"))
    if any(of != sheet.pk for of in held.values()):
        raise Refused(409, "entry_id_used", "An entry's id belongs to another sheet.")
    fresh = [e for e in typed if e.uuid not in held]
    if sheet.entries.count() + len(fresh) > MOST_ENTRIES:
        raise Refused(422, "sheet_full", f"A sheet takes {MOST_ENTRIES} entries.", field="entries")
    Entry.objects.bulk_create(
        Entry(uuid=e.uuid, sheet=sheet, by=user, device=e.device, taken_at=e.taken_at, received_at=now(), late=late,
              body=e.body.model_dump(mode="json", exclude_defaults=True))
        for e in fresh
    )  # fmt: skip


def sheet_for(user: User, uuid: str, at_least: str = "viewer") -> Sheet:
    sheet = Sheet.objects.select_related("pump_set", "opened_by").filter(pk=uuid).first()
    if sheet is None:
        raise not_found("That sheet")
    set_for(user, sheet.pump_set_id, at_least)
    return sheet


def leave(user: User, uuid: str, reason: str) -> Sheet:
    """Close a sheet without a record. Its entries stay readable."""
    sheet = sheet_for(user, uuid, "technician")
    if sheet.closed_at is not None:
        raise Refused(409, "sheet_closed", "That sheet is closed already.")
    if not reason.strip():
        raise Refused(422, "reason_missing", "Say why the test is left.", field="reason", right="rain, called away, wrong set")
    sheet_leaving.send(sender=Sheet, user=user, sheet=sheet)
    with transaction.atomic():
        sheet.closed_at, sheet.left_because = now(), reason.strip()[:300]
        sheet.save(update_fields=["closed_at", "left_because"])
        entries_written.send(sender=Sheet, user=user, pump_set=sheet.pump_set, bench=find_bench(sheet.bench), sheet=sheet)
        audit.note(user, "sheet_left", f"{sheet.pump_set.tag} {sheet.bench}", site_id=sheet.pump_set.site_id, after={"reason": reason})
    return sheet


def open_sheets(user: User, set_id: int, bench_name: str) -> list[Sheet]:
    row = set_for(user, set_id)
    return list(Sheet.objects.filter(pump_set=row, bench=bench_name, closed_at=None).select_related("pump_set", "opened_by").prefetch_related("entries__by"))


def running(user: User) -> list[tuple[Sheet, list[RunClock]]]:
    """Every timed run that is under way or discharging on a site this person works on."""
    sites = [s for s in user.memberships.filter(active=True).values_list("site_id", flat=True) if role_on(user, s) not in (None, "viewer")]
    since = now() - timedelta(hours=12)
    rows = Sheet.objects.filter(closed_at=None, pump_set__site_id__in=sites, opened_at__gte=since).select_related("pump_set__site", "opened_by").prefetch_related("entries__by")
    out = []
    for sheet in rows:
        b = find_bench(sheet.bench)
        if not b.many:
            continue
        typed = entries_of(b.name, [raw_of(e) for e in sheet.entries.all()])
        clocks = b.evaluate(typed, Context(as_of=now(), overrides=overrides_for(sheet.pump_set))).clocks
        if any(c.discharged_at is None for c in clocks):
            out.append((sheet, clocks))
    return out
