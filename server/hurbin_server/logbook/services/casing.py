"""The one way to a bench's case: a set, its plates, its past and how it stood, as of a moment."""

from __future__ import annotations

import json
from datetime import datetime
from typing import Any

from django.db.models import prefetch_related_objects

from hurbin_core.base import AnyBench, Override, Series
from hurbin_core.logbook import AnyCase, Case, Context, Cut, HistoryPoint, PastSheet, SetState, Twin
from hurbin_core.plant import FittedPart
from hurbin_server.base.asking import ask, rows
from hurbin_server.base.clock import now
from hurbin_server.base.door import once
from hurbin_server.instruments.known import for_bench
from hurbin_server.plant.known import events_around, fitted_at, pair_of
from hurbin_server.plant.models import Component, PumpSet

from ..models import LimitOverride, Record
from ..signals import EXTRAS, STATE, Day

_OVERRIDES = "SELECT * FROM logbook_limitoverride WHERE site_id = %s AND ended_at IS NULL ORDER BY at"


def overrides_for(pump_set: PumpSet) -> list[Override]:
    """The overrides in force: the site's, with the set's own laid over."""
    site = pump_set.site_id

    def ask_all() -> list[LimitOverride]:
        found = rows(LimitOverride, _OVERRIDES, [site])
        prefetch_related_objects(found, "by")
        return found

    mine = [r for r in once(("overrides", site), ask_all) if r.pump_set_id in (None, pump_set.pk)]
    chosen = {r.limit: r for r in sorted(mine, key=lambda r: (r.pump_set_id is not None, r.at))}
    return [override_of(r) for r in chosen.values()]


def override_of(r: LimitOverride) -> Override:
    return Override(
        limit=r.limit,
        value=r.value,
        unit=r.unit,
        choice=r.choice,
        reason=r.reason,
        by=r.by.full_name,
        at=r.at,
    )


def part_of(slot: str, component: Component) -> FittedPart:
    """What stands at a place, for a case. A motor's plate counts from its first version on."""
    plate = None if slot == "motor" and not component.plate_version else component.plate
    return FittedPart.model_validate({"kind": component.kind, "plate": plate})


def case_for(
    pump_set: PumpSet,
    bench: AnyBench,
    as_of: datetime,
    *,
    without: Record | None = None,
    day: Day | None = None,
) -> tuple[AnyCase, dict[str, Component]]:
    """The case of a set for a bench at a time, and the components that stood there. `without` leaves out a
    record (the one being judged again or corrected). `day`: of which it is made; today unless it is said."""
    day = day or Day(known_at=now())
    needs = bench.needs
    parts = fitted_at(pump_set, as_of, needs.plates)
    motor = parts.get("motor")
    earlier = _earlier(pump_set, bench, as_of, without, max(1, needs.earlier))
    context = Context(
        as_of=as_of,
        tag=pump_set.tag,
        kind=pump_set.kind,
        serves=pump_set.service.serves,
        altitude_m=pump_set.site.altitude_m,
        parts={slot: part_of(slot, c) for slot, c in parts.items()},
        overrides=overrides_for(pump_set),
        history=_history(pump_set, parts, bench, as_of, without),
        cuts=_cuts(motor, pump_set, as_of),
        last=earlier[0] if earlier else None,
        earlier=earlier if needs.earlier else [],
        twin=_twin(pump_set, bench, as_of, day.twin) if needs.twin else None,
    )
    stands = {k: v for more in STATE for k, v in more.fields(pump_set, bench, as_of, day).items()}
    return Case[Any](
        context=context,
        state=SetState(**stands),
        instruments=for_bench(pump_set.site_id, bench, as_of),
        extras=extras_for(pump_set, bench, as_of, day),
    ), parts


def extras_for(pump_set: PumpSet, bench: AnyBench, as_of: datetime, day: Day) -> dict[str, Any]:
    """What other rooms add under the names that this bench asks for. Raises KeyError for a name nobody
    registered.
    """
    return {name: EXTRAS[name](pump_set, as_of, day) for name in bench.needs.extras}


def owners(bench: AnyBench) -> dict[str, list[Series]]:
    """The series a bench wants, by who owns them: a slot, or the position itself (no slot)."""
    out: dict[str, list[Series]] = {}
    for s in bench.needs.series:
        out.setdefault(s.owner, []).append(s)
    return out


def _history(
    pump_set: PumpSet,
    parts: dict[str, Component],
    bench: AnyBench,
    as_of: datetime,
    without: Record | None,
) -> list[HistoryPoint]:
    out: list[HistoryPoint] = []
    for slot, wanted in owners(bench).items():
        component = parts.get(slot)
        if slot and component is None:
            continue
        own = "component_id" if slot else "pump_set_id"
        names = tuple(s.measurand for s in wanted)
        pk = component.pk if slot and component is not None else pump_set.pk
        left_out = without.pk if without is not None else 0
        found = ask(_POINTS.format(own=own), [pk, names, as_of, left_out, reach(wanted)])
        out += [
            HistoryPoint(measurand=m, leg=g, conditions=c, value=v, bound=b, taken_at=t, record=str(r))
            for m, g, c, v, b, t, r in reversed(found)
        ]
    return out


_POINTS = """SELECT s.measurand, s.leg, s.conditions, p.value, p.bound, p.taken_at, p.record_id
FROM logbook_point p JOIN logbook_series s ON s.id = p.series_id
WHERE s.{own} = %s AND s.measurand IN %s AND p.live = 1 AND p.taken_at < %s AND p.record_id <> %s
ORDER BY p.taken_at DESC, p.id DESC LIMIT %s"""


def reach(wanted: list[Series]) -> int:
    """How many points back does a case reach, for these series of one owner?"""
    return max(s.last for s in wanted) * len(wanted)


def _cuts(motor: Component | None, pump_set: PumpSet, as_of: datetime) -> list[Cut]:
    """Events since which this motor at this position is comparable."""
    until = [e for e in events_around(pump_set, motor) if e.at <= as_of]
    own = [e for e in until if e.pump_set_id == pump_set.pk]
    elsewhere = [e for e in until if e.pump_set_id != pump_set.pk]
    return [Cut(at=e.at, kind=e.kind, note=e.note) for e in (*own, *elsewhere)]


def _earlier(
    pump_set: PumpSet, bench: AnyBench, as_of: datetime, without: Record | None, most: int
) -> list[PastSheet]:
    left_out = without.pk if without is not None else 0
    found = ask(_EARLIER, [pump_set.pk, bench.name, as_of, left_out, most])
    return [PastSheet(taken_at=t, body=json.loads(b), conditions=c) for t, b, c in found]


_EARLIER = """SELECT taken_at, body, conditions FROM logbook_record
WHERE pump_set_id = %s AND bench = %s AND live = 1 AND taken_at < %s AND id <> %s
ORDER BY taken_at DESC, id DESC LIMIT %s"""


def _twin(pump_set: PumpSet, bench: AnyBench, as_of: datetime, then: str | None) -> Twin | None:
    """The other set of the pair, as it stood; `then`: the tag of the one it had on a day of the past."""
    if then is not None:
        twin = PumpSet.objects.filter(site_id=pump_set.site_id, tag=then).first() if then else None
    else:
        twin = next(iter(pair_of(pump_set)), None)
    found = _earlier(twin, bench, as_of, None, 1) if twin is not None else []
    if twin is None or not found:
        return None
    parts = fitted_at(twin, as_of, ("motor",)) if bench.needs.earlier else {}
    points = _history(twin, parts, bench, as_of, None)
    return Twin(tag=twin.tag, last=found[0], points=points[-12:])
