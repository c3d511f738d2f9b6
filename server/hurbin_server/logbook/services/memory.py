"""The same case as `case_for`, from rows read once: for a whole file of readings, taken in the order in
which they happened.
"""

from __future__ import annotations

from bisect import bisect_left, insort
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from django.db.models import Q

from hurbin_core.base import AnyBench, Bound, Evaluation, Override
from hurbin_core.logbook import AnyCase, Case, Context, Cut, HistoryPoint, PastSheet, SetState, Twin
from hurbin_core.plant import FittedPart
from hurbin_server.base.clock import now
from hurbin_server.instruments.known import for_bench, register_of
from hurbin_server.plant.models import Component, Event, Fitting, PumpSet

from ..models import Point, Record
from ..signals import STATE, Day
from .casing import extras_for, overrides_for, owners, part_of, reach

_BOUND = {b.value: b for b in Bound}
# Whose points: a component's, or the position's own.
Owner = tuple[str, int]
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
    parts: dict[int, FittedPart] = field(default_factory=dict)


class Memory:
    """What is known of many sets, growing as a file's rows are taken."""

    def __init__(self, sets: Iterable[PumpSet], bench: AnyBench) -> None:
        self.bench, self.day = bench, Day(known_at=now())
        self.sets: dict[int, _SetMemory] = {}
        self.points: dict[Owner, Points] = defaultdict(list)
        self.twins: dict[int, int] = {}
        rows = list(sets)
        ids = [s.pk for s in rows]
        fittings: dict[int, list[Fitting]] = defaultdict(list)
        for f in (
            Fitting.objects.filter(pump_set_id__in=ids, slot__in=bench.needs.plates)
            .select_related("component")
            .order_by("from_at")
        ):
            fittings[f.pump_set_id].append(f)
        events = list(Event.objects.filter(pump_set__site_id__in={s.site_id for s in rows}))
        for s in rows:
            motors = {f.component_id for f in fittings[s.pk] if f.slot == "motor"}
            cuts = [
                Cut(at=e.at, kind=e.kind, note=e.note)
                for e in events
                if e.pump_set_id == s.pk or (e.component_id in motors and e.pump_set_id != s.pk)
            ]
            self.sets[s.pk] = _SetMemory(s, overrides_for(s), fittings[s.pk], cuts)
        self.added = {
            pk: [a for a in STATE if pk in touched[id(a)]]
            for touched in [{id(a): a.touched(ids) for a in STATE}]
            for pk in ids
        }
        self._pair(rows)
        self._recall(ids)

    def _pair(self, rows: list[PumpSet]) -> None:
        groups: dict[tuple[int, str], list[PumpSet]] = defaultdict(list)
        for s in (
            PumpSet.objects.filter(service_id__in={r.service_id for r in rows})
            .exclude(pair="")
            .order_by("tag")
        ):
            groups[(s.service_id, s.pair)].append(s)
        for s in rows:
            other = (
                next((x for x in groups.get((s.service_id, s.pair), []) if x.pk != s.pk), None)
                if s.pair
                else None
            )
            if other is not None:
                self.twins[s.pk] = other.pk
        # A twin that no row of the file is about is still looked at.
        missing = [
            x
            for pk in set(self.twins.values()) - set(self.sets)
            for x in PumpSet.objects.filter(pk=pk).select_related("site")
        ]
        for s in missing:
            found = list(
                Fitting.objects.filter(pump_set=s, slot__in=self.bench.needs.plates)
                .select_related("component")
                .order_by("from_at")
            )
            self.sets[s.pk] = _SetMemory(s, [], found, [])

    def _recall(self, ids: list[int]) -> None:
        every = list(self.sets)
        names = [x.measurand for x in self.bench.needs.series]
        held = {f.component_id for m in self.sets.values() for f in m.fittings}
        mine = Q(series__component_id__in=held) | Q(series__pump_set_id__in=every)
        found = Point.objects.filter(mine, series__measurand__in=names, live=True).order_by("taken_at", "pk")
        for component, position, m, g, c, v, b, t, r in found.values_list(
            "series__component_id",
            "series__pump_set_id",
            "series__measurand",
            "series__leg",
            "series__conditions",
            "value",
            "bound",
            "taken_at",
            "record_id",
        ).iterator(chunk_size=5000):
            point = HistoryPoint.model_construct(
                measurand=m, leg=g, conditions=c, value=v, bound=_BOUND[b], taken_at=t, record=str(r)
            )
            owner = ("component", component) if component is not None else ("set", position)
            self.points[owner].append((t, r, point))
        sheets = Record.objects.filter(pump_set_id__in=every, bench=self.bench.name, live=True).order_by(
            "taken_at", "pk"
        )
        for pk, of, t, body, conditions in sheets.values_list(
            "pk", "pump_set_id", "taken_at", "body", "conditions"
        ).iterator(chunk_size=5000):
            self.sets[of].sheets.append(
                (t, pk, PastSheet.model_construct(taken_at=t, body=body, conditions=conditions))
            )

    def numbers(self, site_id: int, labels: dict[str, str]) -> tuple[dict[str, str], str]:
        """The numbers of instruments by their labels, and the first label that nobody has here."""
        held = {i.name: i.id for i in register_of(site_id)} if labels else {}
        strange = next((x for x in labels.values() if x not in held), "")
        return {reads: held[x] for reads, x in labels.items() if x in held}, strange

    def components(self, set_id: int, at: datetime) -> dict[str, Component]:
        out: dict[str, Component] = {}
        for f in self.sets[set_id].fittings:
            if f.from_at <= at and (f.to_at is None or at < f.to_at):
                out[f.slot] = f.component
        for f in self.sets[set_id].fittings:
            out.setdefault(f.slot, f.component)
        return out

    def case(self, set_id: int, at: datetime) -> tuple[AnyCase, dict[str, Component]]:
        """What `case_for` would answer at this time."""
        m, needs = self.sets[set_id], self.bench.needs
        parts = self.components(set_id, at)
        upto = _before(m.sheets, at)
        before = m.sheets[max(0, upto - max(1, needs.earlier)) : upto]
        twin = self.twins.get(set_id) if needs.twin else None
        context = Context.model_construct(
            as_of=at,
            tag=m.pump_set.tag,
            kind=m.pump_set.kind,
            serves=m.pump_set.service.serves,
            altitude_m=m.pump_set.site.altitude_m,
            parts={slot: self._part(m, slot, c) for slot, c in parts.items()},
            overrides=m.overrides,
            history=self._history(set_id, parts, at),
            cuts=[c for c in m.cuts if c.at <= at],
            last=before[-1][2] if before else None,
            earlier=[s[2] for s in reversed(before)][: needs.earlier],
            twin=self._twin(twin, at) if twin is not None else None,
        )
        stands = {
            k: v
            for more in self.added.get(set_id, ())
            for k, v in more.fields(m.pump_set, self.bench, at, self.day).items()
        }
        extras = extras_for(m.pump_set, self.bench, at, self.day)
        state = SetState(**stands) if stands else SetState()
        return Case[Any].model_construct(
            context=context,
            state=state,
            instruments=for_bench(m.pump_set.site_id, self.bench, at),
            extras=extras,
            offers={},
            filed=[],
        ), parts

    def _part(self, m: _SetMemory, slot: str, component: Component) -> FittedPart:
        if component.pk not in m.parts:
            m.parts[component.pk] = part_of(slot, component)
        return m.parts[component.pk]

    def _history(self, set_id: int, parts: dict[str, Component], at: datetime) -> list[HistoryPoint]:
        out: list[HistoryPoint] = []
        for slot, wanted in owners(self.bench).items():
            component = parts.get(slot)
            if slot and component is None:
                continue
            rows = self.points[("component", component.pk) if component is not None else ("set", set_id)]
            names = {x.measurand for x in wanted}
            mine = rows if len(owners(self.bench)) == 1 else [r for r in rows if r[2].measurand in names]
            upto = _before(mine, at)
            out += [p for _, _, p in mine[max(0, upto - reach(wanted)) : upto]]
        return out

    def _twin(self, twin: int, at: datetime) -> Twin | None:
        m = self.sets[twin]
        upto = _before(m.sheets, at)
        if upto == 0:
            return None
        last = m.sheets[upto - 1][2]
        parts = self.components(twin, at) if self.bench.needs.earlier else {}
        motor = {slot: c for slot, c in parts.items() if slot == "motor"}
        points = self._history(twin, motor, at)
        return Twin.model_construct(tag=m.pump_set.tag, last=last, points=points[-12:])

    def remember(
        self,
        set_id: int,
        at: datetime,
        record: int,
        facts: dict[str, Any],
        evaluation: Evaluation[Any],
        parts: dict[str, Component],
    ) -> None:
        """Take a judged row along for the rows after it."""
        insort(
            self.sets[set_id].sheets,
            (
                at,
                record,
                PastSheet.model_construct(taken_at=at, body=facts, conditions=evaluation.conditions),
            ),
            key=lambda s: s[:2],
        )
        names = {x.measurand for x in self.bench.needs.series}
        for p in evaluation.points:
            part = parts.get(p.part) if p.part else None
            owner = ("component", part.pk) if part is not None else ("set", set_id)
            if p.measurand in names:
                point = HistoryPoint.model_construct(
                    measurand=p.measurand,
                    leg=p.leg,
                    conditions=p.conditions,
                    value=p.value,
                    bound=p.bound,
                    taken_at=at,
                    record=str(record),
                )
                insort(self.points[owner], (at, record, point), key=lambda s: s[:2])
                self._forget(self.points[owner], at)

    def _forget(self, rows: Points, at: datetime) -> None:
        """Rows come in the order of time: what lies further back than a context reaches is never asked for
        again.
        """
        most = reach(list(self.bench.needs.series))
        spare = _before(rows, at) - most
        if spare > most:
            del rows[:spare]
