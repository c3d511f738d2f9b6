"""Everything that hangs on the sets of a site, or on one set and its pair, read once."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from hurbin_core.safety import (
    COMPLAINTS,
    STATE_WORDS,
)
from hurbin_server.base.clock import now
from hurbin_server.logbook.models import Answer
from hurbin_server.plant.known import pair_of
from hurbin_server.plant.models import PumpSet

from .models import (
    CheckBack,
    Deferral,
    GateWaiver,
    IsolationState,
    Matter,
    TemporaryChange,
)
from .services import hanging


@dataclass(slots=True)
class Held:
    """Everything of a site (or of one set) that tags are made of, read once."""

    states: dict[int, IsolationState]
    stops: dict[int, datetime]
    matters: list[Matter]
    changes: list[TemporaryChange]
    deferrals: list[Deferral]
    checks: list[CheckBack]
    waivers: list[GateWaiver]
    sets: dict[int, PumpSet]
    pairs: dict[tuple[int, str], list[int]] = field(default_factory=lambda: defaultdict(list))

    def twins(self, pk: int) -> list[int]:
        row = self.sets[pk]
        return [x for x in self.pairs[(row.service_id, row.pair)] if x != pk] if row.pair else []

    def against(self, pk: int) -> tuple[str, datetime] | None:
        """What speaks against this set being run now, and since when."""
        state = self.states.get(pk)
        if state is not None:
            return STATE_WORDS.get(state.state, "not returned to service"), state.since
        out = [
            m
            for m in self.matters
            if m.pump_set_id == pk and any(COMPLAINTS[c.complaint].out for c in m.calls.all())
        ]
        if out:
            return "reported as not running", min(m.opened_at for m in out)
        if pk in self.stops:
            return "on a stop verdict", self.stops[pk]
        return None


def held_of_site(site_id: int) -> Held:
    """What hangs on a site's sets: only those are fetched on which something hangs, and their pairs."""
    on: dict[str, Any] = {"pump_set__site_id": site_id}
    matters = Matter.objects.filter(site_id=site_id, ended_at=None)
    held = Held(
        states={x.pump_set_id: x for x in IsolationState.objects.filter(**on)},
        stops=dict(
            Answer.objects.filter(verdict="stop", **on)
            .order_by("-taken_at")
            .values_list("pump_set_id", "taken_at")
        ),
        matters=list(matters.select_related("service").prefetch_related("calls__by").order_by("opened_at")),
        changes=list(TemporaryChange.objects.filter(off_at=None, **on).select_related("put_by")),
        deferrals=list(Deferral.objects.filter(ended_at=None, **on).select_related("by")),
        checks=list(CheckBack.objects.filter(read_at=None, **on)),
        waivers=list(GateWaiver.objects.filter(until__gt=now(), **on).select_related("by")),
        sets={},
    )
    ids = {
        x.pump_set_id
        for rows in (held.matters, held.changes, held.deferrals, held.checks, held.waivers)
        for x in rows
        if x.pump_set_id is not None
    }
    ids |= {*held.states, *held.stops}
    mine = PumpSet.objects.filter(pk__in=ids).select_related("service")
    theirs = PumpSet.objects.filter(
        site_id=site_id, pair__in=mine.exclude(pair="").values("pair")
    ).select_related("service")
    return _with_sets(held, [*mine, *theirs])


def held_of_set(row: PumpSet) -> Held:
    """What hangs on one set and its pair."""
    held = Held(
        states={x.pump_set_id: x for x in hanging.states_near(row)},
        stops={a.pump_set_id: a.taken_at for a in hanging.stops_near(row)},
        matters=[m for m in hanging.matters_near(row) if m.ended_at is None],
        changes=[c for c in hanging.changes_near(row) if c.off_at is None],
        deferrals=[d for d in hanging.deferrals_near(row) if d.ended_at is None],
        checks=[k for k in hanging.checks_near(row) if k.read_at is None],
        waivers=hanging.waivers_near(row),
        sets={},
    )
    return _with_sets(held, [row, *pair_of(row)])


def _with_sets(held: Held, sets: list[PumpSet]) -> Held:
    held.sets = {x.pk: x for x in sets}
    for x in held.sets.values():
        if x.pair:
            held.pairs[(x.service_id, x.pair)].append(x.pk)
    return held
