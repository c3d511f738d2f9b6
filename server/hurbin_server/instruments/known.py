"""The register of a site as the core knows it."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime

from hurbin_core.base import AnyBench
from hurbin_core.instruments import (
    Calibration as Calibrated,
    Instrument as Tool,
    InstrumentSaid,
    instrument_of,
)
from hurbin_server.base.door import once

from .models import Calibration, Instrument


def tool_of(row: Instrument, calibrations: list[Calibration]) -> Tool:
    """One row as the core has it."""
    return instrument_of(
        InstrumentSaid.model_validate(row.said),
        id=str(row.pk),
        since=row.since,
        until=row.until,
        calibrations=[Calibrated(done_at=c.done_at, due_at=c.due_at, found=c.found) for c in calibrations],  # type: ignore[arg-type]
    )


def register_of(site_id: int) -> list[Tool]:
    """Every instrument of a site that there ever was, by its label."""
    return once(("instruments", site_id), lambda: _register(site_id))


def _register(site_id: int) -> list[Tool]:
    rows = list(Instrument.objects.filter(site_id=site_id))
    held: dict[int, list[Calibration]] = defaultdict(list)
    for c in Calibration.objects.filter(instrument__in=rows) if rows else ():
        held[c.instrument_id].append(c)
    return [tool_of(row, held[row.pk]) for row in rows]


def for_bench(site_id: int, bench: AnyBench, as_of: datetime) -> list[Tool]:
    """The instruments of a site that measure what this bench reads, with the calibrations around that time:
    the one that counted, and the one that came next.
    """
    if not bench.read_with:
        return []
    return [
        i.model_copy(update={"calibrations": [c for c in (i.calibration(as_of), i.after(as_of)) if c]})
        for i in register_of(site_id)
        if any(i.span(d) is not None for d in bench.read_with)
    ]
