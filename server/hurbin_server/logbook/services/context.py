"""The one way to a bench's Context: everything a set's history and plates say at a moment."""

from __future__ import annotations

from datetime import datetime

from hurbin_core.base import Bench, Override
from hurbin_core.logbook import Context, Cut, HistoryPoint, PastSheet, Twin
from hurbin_core.plant import ControlPlate, MotorPlate
from hurbin_server.base.clock import now
from hurbin_server.plant.models import Component, Event, Fitting, PumpSet

from ..models import LimitOverride, Point, Record
from ..signals import CONTEXT, Day


def overrides_for(pump_set: PumpSet) -> list[Override]:
    """The overrides in force: the site's, with the set's own laid over."""
    rows = LimitOverride.objects.filter(site_id=pump_set.site_id, ended_at=None).select_related("by").order_by("at")
    mine = [r for r in rows if r.pump_set_id in (None, pump_set.pk)]
    chosen = {r.limit: r for r in sorted(mine, key=lambda r: (r.pump_set_id is not None, r.at))}
    return [override_of(r) for r in chosen.values()]


def override_of(r: LimitOverride) -> Override:
    return Override(limit=r.limit, value=r.value, unit=r.unit, choice=r.choice, reason=r.reason, by=r.by.full_name, at=r.at)


def fitted_at(pump_set: PumpSet, at: datetime, slots: tuple[str, ...]) -> dict[str, Component]:
    """What stood at these places at that time. Before the first fitting the first one counts: the register
    may be younger than the readings."""
    rows = list(Fitting.objects.filter(pump_set=pump_set, slot__in=slots).select_related("component").order_by("from_at"))
    out: dict[str, Component] = {}
    for f in rows:
        if (f.slot not in out and f.to_at is None and not any(x.slot == f.slot and x is not f for x in rows)) or (f.from_at <= at and (f.to_at is None or at < f.to_at)):
            out[f.slot] = f.component
    for f in rows:
        out.setdefault(f.slot, f.component)
    return out


def context_for(
    pump_set: PumpSet, bench: Bench, as_of: datetime, *, without: Record | None = None, day: Day | None = None
) -> tuple[Context, dict[str, Component]]:
    """The Context of a set for a bench at a time, and the components that stood there. `without` leaves out a
    record (the one being judged again or corrected). `day`: of which it is made; today unless it is said."""
    day = day or Day(known_at=now())
    needs = bench.needs
    parts = fitted_at(pump_set, as_of, needs.slots)
    motor, control = parts.get("motor"), parts.get("control")
    last = _last(pump_set, bench.name, as_of, without)
    return Context(
        as_of=as_of,
        tag=pump_set.tag,
        kind=pump_set.kind,
        serves=pump_set.service.serves,
        altitude_m=pump_set.site.altitude_m,
        motor=MotorPlate.model_validate(motor.plate) if motor and motor.plate_version else None,
        control_kind=control.kind if control else "",
        control=ControlPlate.model_validate(control.plate) if control else None,
        overrides=overrides_for(pump_set),
        history=_history(motor, bench, as_of, without),
        cuts=_cuts(motor, pump_set, as_of),
        last=last,
        earlier=_earlier(pump_set, bench, as_of, without) if bench.needs.earlier else [],
        twin=_twin(pump_set, bench, as_of, day.twin) if needs.twin else None,
        **{k: v for more in CONTEXT for k, v in more.fields(pump_set, bench, as_of, day).items()},
    ), parts


def _history(motor: Component | None, bench: Bench, as_of: datetime, without: Record | None) -> list[HistoryPoint]:
    if motor is None or not bench.needs.series:
        return []
    names = [n for n, _ in bench.needs.series]
    many = max(n for _, n in bench.needs.series) * len(names)
    rows = Point.objects.filter(series__component=motor, series__measurand__in=names, live=True, taken_at__lt=as_of)
    if without is not None:
        rows = rows.exclude(record=without)
    found = rows.order_by("-taken_at", "-pk").values_list(
        "series__measurand", "series__leg", "series__conditions", "value", "bound", "taken_at", "record_id"
    )[:many]
    return [
        HistoryPoint(measurand=m, leg=g, conditions=c, value=v, bound=b, taken_at=t, record=str(r))
        for m, g, c, v, b, t, r in reversed(list(found))
    ]


def _cuts(motor: Component | None, pump_set: PumpSet, as_of: datetime) -> list[Cut]:
    """Events since which this motor at this position is comparable."""
    rows = Event.objects.filter(pump_set=pump_set, at__lte=as_of).values_list("at", "kind", "note")
    cuts = [Cut(at=a, kind=k, note=n) for a, k, n in rows]
    if motor is not None:
        moved = Event.objects.filter(component=motor, at__lte=as_of).exclude(pump_set=pump_set).values_list("at", "kind", "note")
        cuts += [Cut(at=a, kind=k, note=n) for a, k, n in moved]
    return cuts


def _earlier(pump_set: PumpSet, bench: Bench, as_of: datetime, without: Record | None) -> list[PastSheet]:
    rows = Record.objects.filter(pump_set=pump_set, bench=bench.name, live=True, taken_at__lt=as_of)
    if without is not None:
        rows = rows.exclude(pk=without.pk)
    found = rows.order_by("-taken_at", "-pk").values_list("taken_at", "body", "conditions")[: bench.needs.earlier]
    return [PastSheet(taken_at=t, body=b, conditions=c) for t, b, c in found]


def _last(pump_set: PumpSet, bench: str, as_of: datetime, without: Record | None = None) -> PastSheet | None:
    rows = Record.objects.filter(pump_set=pump_set, bench=bench, live=True, taken_at__lt=as_of)
    if without is not None:
        rows = rows.exclude(pk=without.pk)
    row = rows.order_by("-taken_at", "-pk").values_list("taken_at", "body", "conditions").first()
    return PastSheet(taken_at=row[0], body=row[1], conditions=row[2]) if row else None


def _twin(pump_set: PumpSet, bench: Bench, as_of: datetime, then: str | None) -> Twin | None:
    """The other set of the pair, as it stood; `then`: the tag of the one it had on a day of the past."""
    if then is not None:
        twin = PumpSet.objects.filter(site_id=pump_set.site_id, tag=then).first() if then else None
    elif pump_set.pair:
        pair = PumpSet.objects.filter(service_id=pump_set.service_id, pair=pump_set.pair)
        twin = pair.exclude(pk=pump_set.pk).order_by("tag").first()
    else:
        twin = None
    last = _last(twin, bench.name, as_of) if twin is not None else None
    if twin is None or last is None:
        return None
    motor = fitted_at(twin, as_of, ("motor",)).get("motor") if bench.needs.earlier else None
    return Twin(tag=twin.tag, last=last, points=_history(motor, bench, as_of, None)[-12:])
