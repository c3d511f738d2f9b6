"""Spares: entered, counted, moved, brought in as a file, and booked by what a sheet took."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from typing import Any

from django.db import transaction

from hurbin_core.base import PartsBooked
from hurbin_core.stores import PartRow, read_parts
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import require, site_for
from hurbin_server.plant.models import Site

from ..models import Part, PartMove, PartReserved, PartStock

MOST_PARTS = 2000
# What stands in the place of a sheet where a tap on the shelf changed a count.
TAP = "tap:"
FIELDS = ("title", "lines", "fits", "per_year", "lead_days", "price", "day_cost", "least", "most")


def part_for(user: User, part_id: int, at_least: str = "viewer") -> Part:
    found = Part.objects.filter(pk=part_id).first()
    if found is None:
        raise not_found("Part")
    try:
        require(user, found.site_id, at_least)
    except Refused as error:
        raise not_found("Part") if error.status == 404 else error from None
    return found


def add_part(user: User, site_id: int, code: str, said: Mapping[str, Any]) -> Part:
    """A new part. Refused: a code that is taken (409)."""
    site = site_for(user, site_id, "technician")
    with transaction.atomic():
        Site.objects.select_for_update().get(pk=site.pk)
        if Part.objects.filter(site=site, code=code).exists():
            message = f"There is a part with the code “{code}” already."
            raise Refused(409, "code_taken", message, field="code", right="another code")
        if Part.objects.filter(site=site).count() >= MOST_PARTS:
            raise Refused(409, "parts_full", f"Limit reached: {MOST_PARTS} parts per site.")
        part = Part.objects.create(site=site, code=code, **said)
        moved("site", site.pk, site.pk)
        audit.note(user, "part_added", code, site_id=site.pk, after=dict(said))
    return part


def edit_part(user: User, part_id: int, expected: int, said: Mapping[str, Any]) -> Part:
    """What is known of a part, changed. A stale edit is refused and shows what stands now (409)."""
    site_id = part_for(user, part_id, "technician").site_id
    with transaction.atomic():
        part = Part.objects.select_for_update().get(pk=part_id)
        before = {n: getattr(part, n) for n in FIELDS}
        if part.version != expected:
            message = "Changed by someone else while you edited it. Both are shown: choose one."
            raise Refused(409, "stale", message, current={**before, "version": part.version})
        for name, value in said.items():
            setattr(part, name, value)
        part.version += 1
        part.save()
        moved("site", site_id, site_id)
        audit.note(user, "part_edited", part.code, site_id=site_id, before=before, after=dict(said))
    return part


def count_part(user: User, part_id: int, place: str, count: int, emergency: int | None) -> PartStock:
    """Set what was counted in one place. The difference is kept with its reason."""
    part = part_for(user, part_id, "technician")
    with transaction.atomic():
        lot = _set(user, part, place.strip(), count, emergency, "counted")
        _noted(user, part, "part_counted", place=lot.place, count=lot.count, emergency=lot.emergency)
    return lot


def tally_part(user: User, part_id: int, place: str, change: int, key: str) -> PartStock:
    """One more or one less in one place; the same tap sent twice counts once. Refused (409): below zero,
    another tap under an id that is on file.
    """
    part = part_for(user, part_id, "technician")
    with transaction.atomic():
        Part.objects.select_for_update().get(pk=part.pk)
        held = PartMove.objects.filter(part=part, sheet=f"{TAP}{key}").first()
        if held is not None and (held.place, held.change) != (place, change):
            said = "What is on file under this id says something else; it stays as it is. Count again."
            raise Refused(409, "tap_differs", said, field="key")
        if held is not None:
            there = PartStock.objects.filter(part=part, place=place).first()
            return there or PartStock(part=part, place=place)
        lot, _ = PartStock.objects.select_for_update().get_or_create(part=part, place=place)
        if lot.count + change < min(0, lot.count):
            message = f"There are {lot.count} in {place}: none can be taken out."
            raise Refused(409, "not_enough", message, field="change", right=f"at most {max(0, lot.count)}")
        lot.count += change
        lot.counted_at = now()
        lot.save()
        _moved(user, part, place, change, "counted", sheet=f"{TAP}{key}")
        _noted(user, part, "part_counted", place=place, count=lot.count, change=change)
        moved("site", part.site_id, part.site_id)
    return lot


def _noted(user: User, part: Part, action: str, **after: object) -> None:
    audit.note(user, action, part.code, site_id=part.site_id, after=after)


def _set(user: User, part: Part, place: str, count: int, emergency: int | None, why: str) -> PartStock:
    lot, _ = PartStock.objects.select_for_update().get_or_create(part=part, place=place)
    changes = [(False, count - lot.count)]
    lot.count, lot.counted_at = count, now()
    if emergency is not None:
        changes.append((True, emergency - lot.emergency))
        lot.emergency = emergency
    lot.save()
    for kind, change in changes:
        if change:
            _moved(user, part, place, change, why, emergency=kind)
    moved("site", part.site_id, part.site_id)
    return lot


def _moved(
    user: User, part: Part, place: str, change: int, why: str, *, emergency: bool = False, sheet: str = ""
) -> None:
    PartMove.objects.create(
        part=part,
        place=place,
        change=change,
        emergency=emergency,
        why=why[:160],
        sheet=sheet,
        by=user,
        at=now(),
    )


def move_part(user: User, part_id: int, source: str, to: str, n: int) -> Part:
    """From one place to another. Refused where there are not so many (409): two vans never take the same
    one.
    """
    part = part_for(user, part_id, "technician")
    if source == to:
        raise Refused(422, "same_place", "Choose another place.", field="to")
    with transaction.atomic():
        lots = {x.place: x for x in PartStock.objects.select_for_update().filter(part=part).order_by("pk")}
        have = lots[source].count if source in lots else 0
        held = _reserved(part, source)
        if have - held < n:
            free = max(0, have - held)
            message = f"{free} free in {source}: {have} there, {held} reserved. Count it, or take fewer."
            raise Refused(409, "not_enough", message, field="count", value=str(n), right=f"at most {free}")
        lots[source].count -= n
        lots[source].save(update_fields=["count"])
        other = lots.get(to) or PartStock(part=part, place=to)
        # What is taken over was counted where it comes from.
        known = [x.counted_at for x in (other, lots[source]) if x is lots[source] or x.count > 0]
        other.counted_at = None if None in known else min(x for x in known if x is not None)
        other.count += n
        other.save()
        for place, change in ((source, -n), (to, n)):
            _moved(user, part, place, change, f"{source} to {to}")
        _noted(user, part, "part_moved", source=source, to=to, count=n)
        moved("site", part.site_id, part.site_id)
    return part


def _reserved(part: Part, place: str) -> int:
    return sum(PartReserved.objects.filter(part=part, place=place).values_list("count", flat=True))


def bring_parts_in(user: User, site_id: int, text: str) -> list[PartRow]:
    """A parts file, all or nothing: every line sets a part and its count in a place. Refused with every line
    that is wrong (422).
    """
    site = site_for(user, site_id, "technician")
    rows, problems = read_parts(text)
    if problems:
        first = problems[0]
        message = f"{len(problems)} lines are refused; nothing was changed. {first.field}: {first.message}"
        raise Refused(422, "rows_refused", message, problems=problems[:50])
    if not rows:
        raise Refused(422, "file_empty", "The file is empty.", field="file")
    with transaction.atomic():
        Site.objects.select_for_update().get(pk=site.pk)
        for row in rows:
            part, _ = Part.objects.get_or_create(site=site, code=row.code, defaults={"title": row.title})
            part.title = row.title
            for name in FIELDS[1:]:
                value = getattr(row, name)
                if value not in (None, []):
                    setattr(part, name, value)
            part.version += 1
            part.save()
            _set(user, part, row.place, row.count, row.emergency, "file import")
        if Part.objects.filter(site=site).count() > MOST_PARTS:
            raise Refused(409, "parts_full", f"Limit reached: {MOST_PARTS} parts per site.")
        audit.note(user, "parts_brought_in", f"{len(rows)} lines", site_id=site.pk)
    return rows


def book_parts(user: User, site: Site, sheet: str, told: list[PartsBooked], why: str) -> None:
    """Bring counts and reservations to what this sheet says it took and holds back by now. Said twice it is
    booked once; a part that nobody knows here changes no count.
    """
    parts = {p.code: p for p in Part.objects.filter(site=site, code__in=[e.part for e in told])}
    wanted: Counter[tuple[int, str, bool]] = Counter()
    held: Counter[tuple[int, str]] = Counter()
    for e in told:
        part = parts.get(e.part)
        if part is None:
            continue
        wanted[part.pk, e.place, False] -= e.used
        wanted[part.pk, e.place, True] += e.emergency
        held[part.pk, e.place] += e.reserved
    for m in PartMove.objects.filter(sheet=sheet, part__site=site):
        wanted[m.part_id, m.place, m.emergency] -= m.change
    _write_moves(user, site, sheet, wanted, why)
    _write_reserved(site, sheet, held)


def _write_moves(
    user: User, site: Site, sheet: str, wanted: Counter[tuple[int, str, bool]], why: str
) -> None:
    for (part_id, place, emergency), change in sorted(wanted.items()):
        if not change:
            continue
        lot, _ = PartStock.objects.select_for_update().get_or_create(part_id=part_id, place=place)
        if emergency:
            lot.emergency += change
        else:
            lot.count += change
        lot.save()
        part = Part.objects.get(pk=part_id)
        _moved(user, part, place, change, why, emergency=emergency, sheet=sheet)
        moved("site", site.pk, site.pk)


def _write_reserved(site: Site, sheet: str, held: Counter[tuple[int, str]]) -> None:
    mine = {(r.part_id, r.place): r for r in PartReserved.objects.filter(sheet=sheet, part__site=site)}
    for key in {*held, *mine}:
        row, n = mine.get(key), held.get(key, 0)
        if row is not None and row.count == n:
            continue
        if row is None and n:
            PartReserved.objects.create(part_id=key[0], place=key[1], sheet=sheet, count=n)
        elif row is not None and n:
            row.count = n
            row.save(update_fields=["count"])
        elif row is not None:
            row.delete()
        else:
            continue
        moved("site", site.pk, site.pk)
