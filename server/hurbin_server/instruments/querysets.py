"""Reads of the register of instruments."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from hurbin_core.base import DIMENSIONS, UNITS, Entered, Limits, Prefs, amount, show_quantity, write
from hurbin_core.instruments import (
    INSTRUMENT_KINDS,
    READS,
    InstrumentRow,
    InstrumentSaid,
    SpanSaid,
    kind_of,
    stands,
)
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.plant.access import require
from hurbin_server.plant.models import Site

from . import schemas as s
from .known import tool_of
from .models import Calibration, InHand, Instrument


def register(user: User, site_id: int, prefs: Prefs) -> s.InstrumentsOut:
    """Every instrument of a site as it stands today, what needs somebody first, and what this person has in
    hand.
    """
    role = require(user, site_id)
    site = Site.objects.get(pk=site_id)
    rows = Instrument.objects.filter(site=site).prefetch_related("calibrations__by")
    held = InHand.objects.filter(user=user, site=site).values_list("reads", "instrument_id")
    told = [_out(r, ZoneInfo(site.time_zone), now(), prefs) for r in rows]
    return s.InstrumentsOut(
        instruments=sorted(told, key=lambda i: (-i.verdict.rank, i.name)),
        kinds=[
            s.InstrumentKindOut(
                id=k.id,
                title=k.title,
                live=k.live,
                calibrated=k.calibrated,
                reads=[
                    s.ReadableOut(reads=d, word=READS[d], units=[u.code for u in DIMENSIONS[d]])
                    for d in k.reads
                ],
            )
            for k in INSTRUMENT_KINDS.values()
        ],
        words=READS,
        in_hand=dict(held),
        may=role in ("lead", "admin"),
    )


def _out(row: Instrument, zone: ZoneInfo, at: datetime, prefs: Prefs) -> s.InstrumentOut:
    calibrations = list(row.calibrations.all())
    tool = tool_of(row, calibrations)
    said = InstrumentSaid.model_validate(row.said)
    told = stands(tool, at, Limits())
    held = tool.calibration(at)
    due = held.due_at if held is not None else None
    return s.InstrumentOut(
        id=row.pk,
        name=tool.name,
        kind=tool.kind,
        title=kind_of(tool.kind).title,
        category=_category(tool.category, tool.category_volts, prefs),
        low=told.low,
        spans=[_span(x) for x in said.spans],
        said=said,
        verdict=told.verdict,
        says=write(told.says, prefs),
        left=told.left,
        due=_last_day(due, zone),
        since=row.since,
        until=row.until,
        until_because=row.until_because,
        calibrations=[_calibration(c, zone) for c in reversed(calibrations)],
        version=row.version,
    )


def _category(category: str, volts: float | None, prefs: Prefs) -> str:
    if not category:
        return ""
    rated = f" {show_quantity(amount(volts, 'V'), prefs).shown}" if volts is not None else ""
    return f"CAT {category}{rated}"


def _span(x: SpanSaid) -> s.InstrumentSpanOut:
    return s.InstrumentSpanOut(reads=x.reads, word=READS[x.reads], top=_typed(x.top), step=_typed(x.step))


def _typed(x: Entered) -> str:
    """As its own scale says it: no figure of a scale is rounded."""
    held = UNITS.get(x.unit)
    return f"{x.text}\u00a0{held.symbol}" if held is not None else x.text


def _last_day(due: datetime | None, zone: ZoneInfo) -> date | None:
    """The last day on which it counts, by the site's calendar."""
    return (due - timedelta(seconds=1)).astimezone(zone).date() if due is not None else None


def _calibration(c: Calibration, zone: ZoneInfo) -> s.CalibrationOut:
    return s.CalibrationOut(
        done=c.done_at.astimezone(zone).date(),
        due=_last_day(c.due_at, zone),
        found=c.found,
        note=c.note,
        by=c.by.full_name,
    )


def rows_for_file(user: User, site_id: int) -> list[InstrumentRow]:
    """The instruments in service, as a file has them."""
    require(user, site_id)
    zone = ZoneInfo(Site.objects.get(pk=site_id).time_zone)
    out = []
    for n, row in enumerate(
        Instrument.objects.filter(site_id=site_id, until=None).prefetch_related("calibrations"), 2
    ):
        last = max(row.calibrations.all(), key=lambda c: c.done_at, default=None)
        out.append(
            InstrumentRow(
                line=n,
                said=InstrumentSaid.model_validate(row.said),
                calibrated=last.done_at.astimezone(zone).date() if last is not None else None,
                due=_last_day(last.due_at, zone) if last is not None else None,
            )
        )
    return out
