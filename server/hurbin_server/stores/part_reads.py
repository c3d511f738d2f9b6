"""Reads of the spares."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from datetime import datetime

from hurbin_core.base import Limits, Prefs, write
from hurbin_core.stores import KitPart, PartFigures, PartRow, kit_state, levels_of, stock_words, to_order
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import LimitOverride
from hurbin_server.logbook.services.casing import override_of
from hurbin_server.plant.access import require

from . import part_schemas as s
from .models import Kit, Part, PartMove, PartReserved, PartStock, Van

LAST = 8


def stores(user: User, site_id: int, prefs: Prefs, part_id: int | None = None) -> s.StoresOut:
    """Every part of a site (or one), by title; what needs ordering first."""
    role = require(user, site_id)
    parts = Part.objects.filter(site_id=site_id).order_by("title", "code")
    if part_id is not None:
        parts = parts.filter(pk=part_id)
    rows = list(parts.prefetch_related("stock"))
    held = reserved_of(rows)
    moves: dict[int, list[PartMove]] = defaultdict(list)
    for m in PartMove.objects.filter(part__in=rows).select_related("by").order_by("-at", "-pk")[:400]:
        moves[m.part_id].append(m)
    limits, at = site_limits(site_id), now()
    out = [_part(p, held, moves[p.pk][:LAST], limits, prefs, at) for p in rows]
    out.sort(key=lambda p: -p.verdict.rank)
    kits = _kits(site_id, rows, held, prefs, limits, at) if part_id is None else []
    return s.StoresOut(may=role != "viewer", parts=out, kits=kits, places=places_of(site_id))


def _kits(
    site_id: int,
    parts: list[Part],
    held: dict[tuple[int, str], int],
    prefs: Prefs,
    limits: Limits,
    at: datetime,
) -> list[s.SiteKit]:
    """Every kit of a site, those that are short first."""
    by_code = {p.code: p for p in parts}
    free = {p.code: _free(p, held) for p in parts}
    counted = {p.code: _counted_days(p, at) for p in parts}
    out = []
    for k in Kit.objects.filter(site_id=site_id).select_related("pump_set").order_by("title", "pk"):
        lines = [
            KitPart(
                code=x["code"],
                wanted=x["wanted"],
                free=free.get(x["code"]),
                counted_days=counted.get(x["code"]),
            )
            for x in k.lines
        ]
        state = kit_state(lines, limits)
        told = [
            s.SiteKitPart(
                code=x.code,
                title=by_code[x.code].title if x.code in by_code else x.code,
                wanted=x.wanted,
                free=x.free,
                short=state.short.get(x.code, 0),
            )
            for x in lines
        ]
        out.append(
            s.SiteKit(
                id=k.pk,
                title=k.title,
                procedure=k.procedure,
                set_id=k.pump_set_id,
                tag=k.pump_set.tag if k.pump_set is not None else "",
                kind=k.kind,
                version=k.version,
                parts=told,
                whole=state.whole,
                verdict=state.verdict,
                says=write(state.says, prefs),
            )
        )
    out.sort(key=lambda k: -k.verdict.rank)
    return out


def _free(p: Part, held: dict[tuple[int, str], int]) -> int | None:
    """On all its shelves and not reserved; None where it was never counted anywhere."""
    lots = list(p.stock.all())
    return sum(max(0, x.count - held.get((p.pk, x.place), 0)) for x in lots) if lots else None


def _counted_days(p: Part, at: datetime) -> float | None:
    """Since the oldest count of what lies anywhere (or of its empty places, where nothing does); None: some
    of it was never counted.
    """
    lots = list(p.stock.all())
    told = [x.counted_at for x in lots if x.count > 0] or [x.counted_at for x in lots]
    ages = [(at - t).total_seconds() / 86_400 for t in told if t is not None]
    return max(ages) if ages and len(ages) == len(told) else None


def places_of(site_id: int) -> list[str]:
    """Shelves and vans: every place that holds anything, and the vans."""
    shelves = PartStock.objects.filter(part__site_id=site_id).values_list("place", flat=True).distinct()
    vans = Van.objects.filter(site_id=site_id).values_list("name", flat=True)
    return sorted({*shelves, *vans})


def site_limits(site_id: int) -> Limits:
    rows = LimitOverride.objects.filter(site_id=site_id, pump_set=None, ended_at=None).select_related("by")
    return Limits([override_of(r) for r in rows])


def reserved_of(parts: Iterable[Part]) -> dict[tuple[int, str], int]:
    """What open sheets hold back, by part and place."""
    out: dict[tuple[int, str], int] = defaultdict(int)
    for r in PartReserved.objects.filter(part__in=list(parts)):
        out[r.part_id, r.place] += r.count
    return out


def figures_of(p: Part) -> PartFigures:
    return PartFigures(per_year=p.per_year, lead_days=p.lead_days, price=p.price, day_cost=p.day_cost)


def _part(
    p: Part,
    held: dict[tuple[int, str], int],
    moves: list[PartMove],
    limits: Limits,
    prefs: Prefs,
    at: datetime,
) -> s.SpareOut:
    lots = sorted(p.stock.all(), key=lambda x: x.place)
    count = sum(x.count for x in lots)
    reserved = sum(held.get((p.pk, x.place), 0) for x in lots)
    told = levels_of(figures_of(p), limits)
    least = p.least if p.least is not None else told.least
    most = p.most if p.most is not None else told.most
    verdict, words = stock_words(count, reserved, least, _counted_days(p, at), limits)
    return s.SpareOut(
        id=p.pk,
        code=p.code,
        title=p.title,
        lines=p.lines,
        fits=p.fits,
        per_year=p.per_year,
        lead_days=p.lead_days,
        price=p.price,
        day_cost=p.day_cost,
        least=least,
        most=most,
        least_set=p.least is not None,
        why=write(told.why, prefs) if told.why is not None else "",
        asks=told.asks,
        verdict=verdict,
        says=write(words, prefs),
        order=to_order(count, reserved, least, most),
        version=p.version,
        stock=[
            s.PartStockOut(
                place=x.place,
                count=x.count,
                reserved=held.get((p.pk, x.place), 0),
                emergency=x.emergency,
                counted_at=x.counted_at,
            )
            for x in lots
        ],
        moves=[
            s.PartMoveOut(
                at=m.at, place=m.place, change=m.change, emergency=m.emergency, why=m.why, by=m.by.full_name
            )
            for m in moves
        ],
    )


def part_rows(user: User, site_id: int) -> list[PartRow]:
    """Every part and place of a site, as lines of a file."""
    require(user, site_id)
    out = []
    rows = PartStock.objects.filter(part__site_id=site_id).select_related("part")
    for n, x in enumerate(rows.order_by("part__code", "place"), 2):
        p = x.part
        told = {n_: getattr(p, n_) for n_ in PartRow.model_fields if hasattr(p, n_)}
        told |= {"line": n, "place": x.place, "count": max(0, x.count), "emergency": max(0, x.emergency)}
        out.append(PartRow.model_validate(told))
    return out
