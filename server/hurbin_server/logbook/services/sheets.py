"""Open sheets: entries come in from any device, once each; the sheet stays open until it is put on record or
left.
"""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import transaction

from hurbin_core.base import AnyBench, RunClock, body_of
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.instruments import used_for
from hurbin_core.logbook import Context, case_of
from hurbin_server.base import audit
from hurbin_server.base.clock import device_clock, now
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import role_on, set_for, sites_of
from hurbin_server.plant.models import PumpSet

from ..models import Entry, Record, Sheet
from ..signals import entries_coming, entries_written, sheet_leaving
from .casing import overrides_for
from .effects import perform_open
from .judging import entries_of, raw_of

MOST_ENTRIES = 500


def append_entries(user: User, set_id: int, b: AnyBench, sheet_uuid: str, raw: list[dict[str, Any]]) -> Sheet:
    """Add entries to a sheet (made when this is its first). An entry that is there already is not written
    again.

    Entries for a sheet that was closed meanwhile are kept beside its record, marked late: nothing is dropped,
    and nothing changes behind a record's back. Refused: a viewer (403), a time ahead (422), another set's
    sheet (409).
    """
    pump_set = set_for(user, set_id, "technician")
    typed = signed(user, b, entries_of(b.name, raw))
    entries_coming.send(sender=Sheet, user=user, pump_set=pump_set, bench=b, typed=typed)
    if any(e.taken_at > now() + timedelta(minutes=10) for e in typed):
        raise Refused(
            422, "taken_in_future", "Time is in the future. Check the clock of this device.", field="taken_at"
        )
    with transaction.atomic():
        PumpSet.objects.select_for_update().get(pk=pump_set.pk)
        sheet_uuid = the_one(b, pump_set, sheet_uuid)
        sheet, _ = Sheet.objects.get_or_create(
            uuid=sheet_uuid,
            defaults={
                "pump_set": pump_set,
                "bench": b.name,
                "opened_by": user,
                "opened_at": min((e.taken_at for e in typed), default=now()),
            },
        )
        of_this_one(b, pump_set, sheet)
        write_entries(user, sheet, typed, late=sheet.closed_at is not None)
        moved("set", pump_set.pk, pump_set.site_id)
        perform_open(user, sheet)
        entries_written.send(sender=Sheet, user=user, pump_set=pump_set, bench=b, sheet=sheet)
    return sheet


def filed_on(sheet_uuid: str) -> list[Any]:
    """The entries that a sheet holds already, from whichever device, as they stand on file."""
    rows = list(Entry.objects.filter(sheet_id=sheet_uuid, late=False).select_related("sheet", "by"))
    return entries_of(rows[0].sheet.bench, [raw_of(e) for e in rows]) if rows else []


def signed(user: User, b: AnyBench, typed: list[Any]) -> list[Any]:
    """The entries with their author, come in time: who sent them and when, whatever they say themselves; of
    the instruments in hand, those that read anything of it.
    """
    typed = each_once(typed)
    for e in typed:
        e.by, e.who, e.late = user.full_name, user.username, False
        e.instruments = used_for(b, e)
    return typed


def each_once(typed: list[Any]) -> list[Any]:
    """Every entry once. Two different ones under one id are refused: only one of them would be kept."""
    out: dict[str, Any] = {}
    for e in typed:
        before = out.setdefault(e.uuid, e)
        if (before.body, before.instruments, before.taken_at) != (e.body, e.instruments, e.taken_at):
            message = "Two different entries came under one id: nothing was kept. Send each with its own."
            raise Refused(422, "entry_twice", message, field="entries", value=e.uuid)
    return list(out.values())


def with_authors(user: User, b: AnyBench, typed: list[Any]) -> list[Any]:
    """Entries that are only looked at, with their authors: those on file keep theirs, the rest are this
    person's.
    """
    if not b.single:
        return signed(user, b, typed)
    typed = each_once(typed)
    # Of another site's entries nothing is told, not who made them.
    mine = sites_of(user).values("site")
    rows = Entry.objects.filter(uuid__in=[e.uuid for e in typed], sheet__pump_set__site__in=mine)
    rows = rows.select_related("by")
    held = {e.uuid: e for e in rows}
    for e in typed:
        on_file = held.get(e.uuid)
        signed(on_file.by if on_file else user, b, [e])
        e.late = on_file is not None and on_file.late
    return typed


def of_this_one(b: AnyBench, pump_set: PumpSet, sheet: Sheet) -> None:
    """Refuse (409) a sheet of another set or bench."""
    if sheet.pump_set_id != pump_set.pk or sheet.bench != b.name:
        raise Refused(409, "sheet_id_used", "Duplicate id: already used by another sheet.")


def the_one(b: AnyBench, pump_set: PumpSet, sheet_uuid: str) -> str:
    """On a bench with one sheet a set: the one that stands open, whichever id the sender made up for his.
    Refused (409): an id that is a sheet's of another set or bench.
    """
    held = Sheet.objects.filter(pk=sheet_uuid).first()
    if held is not None:
        of_this_one(b, pump_set, held)
    if not b.single or held is not None:
        return sheet_uuid
    open_ = (
        Sheet.objects.filter(pump_set=pump_set, bench=b.name, closed_at=None).order_by("opened_at").first()
    )
    return open_.uuid if open_ is not None else sheet_uuid


def write_entries(user: User, sheet: Sheet, typed: list[Any], late: bool = False) -> None:
    """Those that are not on file yet. Refused (409): an id that stands for something else."""
    fresh = not_on_file(sheet, typed)
    clocks = {e.uuid: device_clock(e.taken_at) for e in fresh}
    if sheet.entries.count() + len(fresh) > MOST_ENTRIES:
        raise Refused(
            422,
            "sheet_full",
            f"Limit reached: {MOST_ENTRIES} entries. Save the record and start a new one.",
            field="entries",
        )
    Entry.objects.bulk_create(
        Entry(
            uuid=e.uuid,
            sheet=sheet,
            by=user,
            device=e.device,
            taken_at=e.taken_at,
            device_at=clocks[e.uuid][0],
            clock_off_ms=clocks[e.uuid][1],
            received_at=now(),
            late=late,
            instruments=e.instruments,
            body=body_of(e.body),
        )
        for e in fresh
    )


def not_on_file(sheet: Sheet, typed: list[Any]) -> list[Any]:
    """The entries that are new to this sheet. Refused (409): an id that stands for something else."""
    held = {e.uuid: e for e in Entry.objects.filter(uuid__in=[e.uuid for e in typed])}
    for e in typed:
        there = held.get(e.uuid)
        if there is None:
            continue
        if there.sheet_id != sheet.pk:
            raise Refused(409, "entry_id_used", "Duplicate id: already used on another sheet.")
        said, held_said = (body_of(e.body), e.instruments), (there.body, there.instruments)
        if said != held_said or abs(there.taken_at - e.taken_at) > timedelta(milliseconds=1):
            message = "What is on file under this id says something else; it stays as it is. Send this anew."
            raise Refused(409, "entry_differs", message, field="entries", value=e.uuid)
    return [e for e in typed if e.uuid not in held]


def sheet_for(user: User, uuid: str, at_least: str = "viewer") -> Sheet:
    sheet = Sheet.objects.select_related("pump_set", "opened_by").filter(pk=uuid).first()
    if sheet is None:
        raise not_found("Sheet")
    set_for(user, sheet.pump_set_id, at_least)
    return sheet


def closed_before(sheet: Sheet) -> Refused:
    """What happened to a sheet that somebody else closed first (409)."""
    who = sheet.closed_by.full_name if sheet.closed_by is not None else "Somebody"
    at = f"{sheet.closed_at:%Y-%m-%d at %H:%M} UTC" if sheet.closed_at is not None else ""
    record = Record.objects.filter(sheet=sheet).values_list("pk", flat=True).first()
    did = f"left it: “{sheet.left_because}”" if sheet.left_because else "put it on record"
    return Refused(
        409,
        "sheet_closed",
        f"{who} closed this sheet before you, on {at}, and {did}.",
        current={"by": who, "at": at, "left_because": sheet.left_because, "record": record},
    )


def leave(user: User, uuid: str, reason: str) -> Sheet:
    """Close a sheet without a record. Its entries stay readable."""
    set_id = sheet_for(user, uuid, "technician").pump_set_id
    if not reason.strip():
        raise Refused(
            422,
            "reason_missing",
            "Enter the reason for closing without a record.",
            field="reason",
            right="rain, called away, wrong set",
        )
    with transaction.atomic():
        # Nobody adds to the sheet, and no lock goes on, between the look at it and its closing.
        PumpSet.objects.select_for_update().get(pk=set_id)
        sheet = Sheet.objects.select_related("pump_set", "opened_by", "closed_by").get(pk=uuid)
        if sheet.closed_at is not None:
            raise closed_before(sheet)
        sheet_leaving.send(sender=Sheet, user=user, sheet=sheet)
        sheet.closed_at, sheet.closed_by, sheet.left_because = now(), user, reason.strip()[:300]
        sheet.save(update_fields=["closed_at", "closed_by", "left_because"])
        perform_open(user, sheet)
        entries_written.send(
            sender=Sheet, user=user, pump_set=sheet.pump_set, bench=find_bench(sheet.bench), sheet=sheet
        )
        audit.note(
            user,
            "sheet_left",
            f"{sheet.pump_set.tag} {sheet.bench}",
            pump_set=sheet.pump_set,
            after={"reason": reason},
        )
    return sheet


def filed_now(pump_set: PumpSet, b: AnyBench) -> list[Any]:
    """The entries of the sheet that stands open on this set, where a set has one at a time."""
    if not b.single:
        return []
    open_ = (
        Sheet.objects.filter(pump_set=pump_set, bench=b.name, closed_at=None).order_by("opened_at").first()
    )
    return filed_on(open_.uuid) if open_ is not None else []


def open_sheets(user: User, set_id: int, bench_name: str) -> list[Sheet]:
    row = set_for(user, set_id)
    return list(
        Sheet.objects.filter(pump_set=row, bench=bench_name, closed_at=None)
        .select_related("pump_set", "opened_by")
        .prefetch_related("entries__by")
    )


def running(user: User) -> list[tuple[Sheet, list[RunClock]]]:
    """Every timed run that is under way or discharging on a site this person works on."""
    sites = [
        s
        for s in sites_of(user).values_list("site_id", flat=True)
        if role_on(user, s) not in (None, "viewer")
    ]
    since = now() - timedelta(hours=12)
    rows = (
        Sheet.objects.filter(closed_at=None, pump_set__site_id__in=sites, opened_at__gte=since)
        .select_related("pump_set__site", "opened_by")
        .prefetch_related("entries__by")
    )
    out = []
    for sheet in rows:
        b = find_bench(sheet.bench)
        if b.clocks is None:
            continue
        typed = entries_of(b.name, [raw_of(e) for e in sheet.entries.all()])
        case = case_of(Context(as_of=now(), overrides=overrides_for(sheet.pump_set)))
        clocks = b.clocks(b.evaluate(case, typed))
        if any(c.discharged_at is None for c in clocks):
            out.append((sheet, clocks))
    return out
