"""Reads of the stores."""

from __future__ import annotations

from hurbin_core.base import DIMENSIONS, Entered, Prefs, amount, show, show_quantity, write
from hurbin_core.stores import ShimLot as Lot, lot_words
from hurbin_server.base.models import User
from hurbin_server.plant.access import require

from . import schemas as s
from .models import ShimLot, ShimMove, Van

LAST_MOVES = 12


def shelf(user: User, site_id: int, prefs: Prefs) -> s.ShelfOut:
    role = require(user, site_id)
    vans = list(Van.objects.filter(site_id=site_id).order_by("name").prefetch_related("lots"))
    moves: dict[int, list[ShimMove]] = {v.pk: [] for v in vans}
    for m in (
        ShimMove.objects.filter(van__in=vans)
        .select_related("by")
        .order_by("-at", "-pk")[: LAST_MOVES * max(1, len(vans))]
    ):
        moves[m.van_id].append(m)
    return s.ShelfOut(
        may=role != "viewer",
        units=[u.code for u in DIMENSIONS["length"]],
        vans=[
            s.VanOut(
                id=v.pk,
                name=v.name,
                lots=[_lot(x, prefs) for x in sorted(v.lots.all(), key=lambda x: x.tenths)],
                moves=[
                    s.ShimMoveOut(
                        at=m.at,
                        size=show(amount(m.tenths / 10000, "mm"), prefs),
                        change=m.change,
                        why=m.why,
                        by=m.by.full_name,
                    )
                    for m in moves[v.pk][:LAST_MOVES]
                ],
            )
            for v in vans
        ],
    )


def _lot(x: ShimLot, prefs: Prefs) -> s.LotOut:
    verdict, words = lot_words(Lot(tenths=x.tenths, count=x.count, least=x.least))
    return s.LotOut(
        tenths=x.tenths,
        size=show_quantity(amount(x.tenths / 10000, "mm"), prefs),
        typed=Entered(text=f"{x.tenths / 10000:.4f}", unit="mm"),
        count=x.count,
        least=x.least,
        verdict=verdict,
        says=write(words, prefs),
    )


def stock_rows(user: User, site_id: int) -> list[tuple[str, int, int, int]]:
    require(user, site_id)
    return list(
        ShimLot.objects.filter(van__site_id=site_id)
        .order_by("van__name", "tenths")
        .values_list("van__name", "tenths", "count", "least")
    )
