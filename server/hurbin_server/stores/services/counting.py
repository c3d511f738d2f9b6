"""Vans and counts: made, counted by hand, brought in by a file, booked by a job."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping

from django.db import transaction

from hurbin_core.base import Entered
from hurbin_core.stores import ShelfRow, read_shelf, size_of
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import require, site_for
from hurbin_server.plant.models import Site

from ..models import ShimLot, ShimMove, Van

MOST_VANS = 40


def van_for(user: User, van_id: int, at_least: str = "viewer") -> Van:
    van = Van.objects.select_related("site").filter(pk=van_id).first()
    if van is None:
        raise not_found("Van")
    require(user, van.site_id, at_least)
    return van


def add_van(user: User, site_id: int, name: str) -> Van:
    """A van of this site. One that is there already is given back as it is."""
    site = site_for(user, site_id, "technician")
    if not name.strip():
        raise Refused(422, "van_missing", "Enter the van name.", field="name", right="Van 2")
    name = name.strip()[:60]
    if site.vans.exclude(name=name).count() >= MOST_VANS:
        raise Refused(409, "vans_full", f"Limit reached: {MOST_VANS} vans per site.")
    van, made = Van.objects.get_or_create(site=site, name=name)
    if made:
        audit.note(user, "van_added", van.name, site_id=site.pk)
    return van


def count_shims(user: User, van_id: int, size: Entered, count: int, least: int | None = None) -> ShimLot:
    """Set what was counted of one size. The difference is kept with its reason."""
    van, tenths = van_for(user, van_id, "technician"), size_of(size)
    with transaction.atomic():
        lot = _set(user, van, tenths, count, least, "counted")
        told = {"tenths": tenths, "count": lot.count, "least": lot.least}
        audit.note(user, "shims_counted", van.name, site_id=van.site_id, after=told)
    return lot


def _set(user: User, van: Van, tenths: int, count: int, least: int | None, why: str) -> ShimLot:
    lot, _ = ShimLot.objects.select_for_update().get_or_create(van=van, tenths=tenths)
    change, lot.count = count - lot.count, count
    if least is not None:
        lot.least = least
    lot.save(update_fields=["count", "least"])
    moved("van", van.pk, van.site_id)
    if change:
        ShimMove.objects.create(van=van, tenths=tenths, change=change, why=why, by=user, at=now())
    return lot


def bring_in(user: User, site_id: int, text: str) -> list[ShelfRow]:
    """A stock file, all or nothing: every line sets a size of a van. Refused with every line that is wrong
    (422).
    """
    site = site_for(user, site_id, "technician")
    rows, problems = read_shelf(text)
    if problems:
        raise Refused(
            422,
            "rows_refused",
            f"{len(problems)} lines are refused; nothing was changed. {problems[0].field}:"
            f" {problems[0].message}",
            problems=problems[:50],
        )
    if not rows:
        raise Refused(422, "file_empty", "The file is empty.", field="file")
    if len({r.van for r in rows} | set(site.vans.values_list("name", flat=True))) > MOST_VANS:
        raise Refused(409, "vans_full", f"Limit reached: {MOST_VANS} vans per site.")
    with transaction.atomic():
        for row in rows:
            van, _ = Van.objects.get_or_create(site=site, name=row.van)
            _set(user, van, row.tenths, row.count, row.least, "file import")
        audit.note(user, "shims_brought_in", f"{len(rows)} lines", site_id=site.pk)
    return rows


def book(
    user: User, site: Site, jobs: Mapping[str, tuple[str, Counter[int]]], known: set[str], why: str
) -> None:
    """Bring the counts to what these entries of a sheet say they took and brought back: entry to van and
    change by size.

    `known`: every entry of the sheet; one that says nothing any more is booked back. Said twice it is booked
    once.
    """
    vans = {v.name: v for v in Van.objects.filter(site=site)}
    booked: dict[str, Counter[tuple[int, int]]] = {}
    for m in ShimMove.objects.filter(entry__in=known):
        booked.setdefault(m.entry, Counter())[m.van_id, m.tenths] += m.change
    for entry in {*jobs, *booked}:
        name, change = jobs.get(entry, ("", Counter()))
        wanted = (
            Counter({(vans[name].pk, t): n for t, n in change.items() if n}) if name in vans else Counter()
        )
        open_ = Counter(wanted)
        open_.subtract(booked.get(entry, Counter()))
        for (van_id, tenths), n in sorted(open_.items()):
            if not n:
                continue
            lot, _ = ShimLot.objects.select_for_update().get_or_create(van_id=van_id, tenths=tenths)
            lot.count += n
            lot.save(update_fields=["count"])
            moved("van", van_id, site.pk)
            ShimMove.objects.create(
                van_id=van_id, tenths=tenths, change=n, why=why[:120], entry=entry, by=user, at=now()
            )
