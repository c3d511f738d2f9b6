"""The same Context as `context_for`, from rows read once: for a whole file of readings, taken in the order in which they happened."""

from __future__ import annotations

from bisect import bisect_left, insort
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from hurbin_core.base import Bench, Bound, Evaluation, Override
from hurbin_core.logbook import Context, Cut, HistoryPoint, PastSheet, Twin
from hurbin_core.plant import ControlPlate, MotorPlate
from hurbin_server.base.clock import now
from hurbin_server.plant.models import Component, Event, Fitting, PumpSet

from ..models import Point, Record
from ..signals import CONTEXT, Day
from .context import overrides_for

_BOUND = {b.value: b for b in Bound}
# Oldest first: (when, record, point) and (when, record, sheet).
Points = list[tuple[datetime, int, HistoryPoint]]


def _before(rows: list[Any], at: datetime) -> int:
    """How many of these, oldest first, lie before this time."""
    return bisect_left(rows, at, key=lambda r: r[0])


@dataclass(slots=True)
class _SetMemory:
    pump_set: PumpSet
    overrides: list[Override]
    fittings: list[Fitting]
    cuts: list[Cut]
    sheets: list[tuple[datetime, int, PastSheet]] = field(default_factory=list)
    plates: dict[int, tuple[MotorPlate | None, ControlPlate | None]] = field(default_factory=dict)


class Memory:
    """What is known of many sets, growing as a file's rows are taken."""

    def __init__(self, sets: Iterable[PumpSet], bench: Bench) -> None:
        self.bench, self.day = bench, Day(known_at=now())
        self.sets: dict[int, _SetMemory] = {}
        self.points: dict[int, Points] = defaultdict(list)
        self.twins: dict[int, int] = {}
        rows = list(sets)
        ids = [s.pk for s in rows]
        fittings: dict[int, list[Fitting]] = defaultdict(list)
        for f in Fitting.objects.filter(pump_set_id__in=ids, slot__in=bench.needs.slots).select_related("component").order_by("from_at"):
            fittings[f.pump_set_id].append(f)
        events = list(Event.objects.filter(pump_set__site_id__in={s.site_id for s in rows}))
        for s in rows:
            motors = {f.component_id for f in fittings[s.pk] if f.slot == "motor"}
            cuts = [Cut(at=e.at, kind=e.kind, note=e.note) for e in events if e.pump_set_id == s.pk or (e.component_id in motors and e.pump_set_id != s.pk)]
            self.sets[s.pk] = _SetMemory(s, overrides_for(s), fittings[s.pk], cuts)
        self.added = {pk: [a for a in CONTEXT if pk in touched[id(a)]] for touched in [{id(a): a.touched(ids) for a in CONTEXT}] for pk in ids}
        self._pair(rows)
        self._recall(ids)

    def _pair(self, rows: list[PumpSet]) -> None:
        groups: dict[tuple[int, str], list[PumpSet]] = defaultdict(list)
        for s in PumpSet.objects.filter(service_id__in={r.service_id for r in rows}).exclude(pair="").order_by("tag"):
            groups[(s.service_id, s.pair)].append(s)
        for s in rows:
            other = next((x for x in groups.get((s.service_id, s.pair), []) if x.pk != s.pk), None) if s.pair else None
            if other is not None:
                self.twins[s.pk] = other.pk
        # A twin that no row of the file is about is still looked at.
        missing = [x for pk in set(self.twins.values()) - set(self.sets) for x in PumpSet.objects.filter(pk=pk).select_related("site")]
        for s in missing:
            found = list(Fitting.objects.filter(pump_set=s, slot__in=self.bench.needs.slots).select_related("component").order_by("from_at"))
            self.sets[s.pk] = _SetMemory(s, [], found, [])

    def _recall(self, ids: list[int]) -> None:
        every = list(self.sets)
        names = [n for n, _ in self.bench.needs.series]
        motors = {f.component_id for m in self.sets.values() for f in m.fittings if f.slot == "motor"}
        found = Point.objects.filter(series__component_id__in=motors, series__measurand__in=names, live=True).order_by("taken_at", "pk")
        for owner, m, g, c, v, b, t, r in found.values_list(
            "series__component_id", "series__measurand", "series__leg", "series__conditions", "value", "bound", "taken_at", "record_id"
        ).iterator(chunk_size=5000):
            self.points[owner].append((t, r, HistoryPoint.model_construct(measurand=m, leg=g, conditions=c, value=v, bound=_BOUND[b], taken_at=t, record=str(r))))
        sheets = Record.objects.filter(pump_set_id__in=every, bench=self.bench.name, live=True).order_by("taken_at", "pk")
        for pk, of, t, body, conditions in sheets.values_list("pk", "pump_set_id", "taken_at", "body", "conditions").iterator(chunk_size=5000):
            self.sets[of].sheets.append((t, pk, PastSheet.model_construct(taken_at=t, body=body, conditions=conditions)))

    def components(self, set_id: int, at: datetime) -> dict[str, Component]:
        out: dict[str, Component] = {}
        for f in self.sets[set_id].fittings:
            if f.from_at <= at and (f.to_at is None or at < f.to_at):
                out[f.slot] = f.component
        for f in self.sets[set_id].fittings:
            out.setdefault(f.slot, f.component)
        return out

    def context(self, set_id: int, at: datetime) -> tuple[Context, dict[str, Component]]:
        """What `context_for` would answer at this time."""
        m, needs = self.sets[set_id], self.bench.needs
        parts = self.components(set_id, at)
        motor, control = parts.get("motor"), parts.get("control")
        plates = self._plates(m, motor, control)
        upto = _before(m.sheets, at)
        before = m.sheets[max(0, upto - max(1, needs.earlier)) : upto]
        twin = self.twins.get(set_id) if needs.twin else None
        return Context.model_construct(
            as_of=at, tag=m.pump_set.tag, kind=m.pump_set.kind, serves=m.pump_set.service.serves, altitude_m=m.pump_set.site.altitude_m, motor=plates[0],
            control_kind=control.kind if control else "", control=plates[1], overrides=m.overrides, history=self._history(motor, at),
            cuts=[c for c in m.cuts if c.at <= at], last=before[-1][2] if before else None,
            earlier=[s[2] for s in reversed(before)][: needs.earlier], twin=self._twin(twin, at) if twin is not None else None,
            **{k: v for more in self.added.get(set_id, ()) for k, v in more.fields(m.pump_set, self.bench, at, self.day).items()},
        ), parts  # fmt: skip

    def _plates(self, m: _SetMemory, motor: Component | None, control: Component | None) -> tuple[MotorPlate | None, ControlPlate | None]:
        key = motor.pk if motor else 0
        if key not in m.plates:
            m.plates[key] = (
                MotorPlate.model_validate(motor.plate) if motor and motor.plate_version else None,
                ControlPlate.model_validate(control.plate) if control else None,
            )
        return m.plates[key]

    def _history(self, motor: Component | None, at: datetime) -> list[HistoryPoint]:
        if motor is None or not self.bench.needs.series:
            return []
        many = max(n for _, n in self.bench.needs.series) * len(self.bench.needs.series)
        rows = self.points[motor.pk]
        upto = _before(rows, at)
        return [p for _, _, p in rows[max(0, upto - many) : upto]]

    def _twin(self, twin: int, at: datetime) -> Twin | None:
        m = self.sets[twin]
        upto = _before(m.sheets, at)
        if upto == 0:
            return None
        last = m.sheets[upto - 1][2]
        motor = self.components(twin, at).get("motor") if self.bench.needs.earlier else None
        return Twin.model_construct(tag=m.pump_set.tag, last=last, points=self._history(motor, at)[-12:])

    def remember(self, set_id: int, at: datetime, record: int, facts: dict[str, Any], evaluation: Evaluation, parts: dict[str, Component]) -> None:
        """Take a judged row along for the rows after it."""
        insort(self.sets[set_id].sheets, (at, record, PastSheet.model_construct(taken_at=at, body=facts, conditions=evaluation.conditions)), key=lambda s: s[:2])
        names = {n for n, _ in self.bench.needs.series}
        for p in evaluation.points:
            owner = parts.get(p.part)
            if owner is not None and p.measurand in names:
                point = HistoryPoint.model_construct(
                    measurand=p.measurand, leg=p.leg, conditions=p.conditions, value=p.value, bound=p.bound, taken_at=at, record=str(record)
                )
                insort(self.points[owner.pk], (at, record, point), key=lambda s: s[:2])
                self._forget(self.points[owner.pk], at)

    def _forget(self, rows: Points, at: datetime) -> None:
        """Rows come in the order of time: what lies further back than a context reaches is never asked for again."""
        reach = max(n for _, n in self.bench.needs.series) * len(self.bench.needs.series)
        spare = _before(rows, at) - reach
        if spare > reach:
            del rows[:spare]
