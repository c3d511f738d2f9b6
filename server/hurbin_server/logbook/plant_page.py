"""The plant as it stands: every set on its lane, who needs a person first."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import Any

from hurbin_core.base import MarginLine, Prefs, Verdict, rules_version, show_line, worst, write
from hurbin_core.catalogue import benches
from hurbin_core.logbook import PartVerdict, attention, behind, never_checked
from hurbin_core.plant import PARTS
from hurbin_server.base.asking import ask
from hurbin_server.base.clock import now
from hurbin_server.base.kept import Kept
from hurbin_server.base.models import User
from hurbin_server.base.prefs import reader
from hurbin_server.plant.access import require, site_for
from hurbin_server.plant.models import Fitting, PumpSet, Service

from .models import PartState
from .part_states import STATE_OF_PART, part_verdict, say
from .schemas import FirstOut, PlantOut, PlantPart, PlantService, PlantSet

FIRST = 6
# What the state of a part says never changes: with every answer it is made anew. Kept by its id, and by who
# reads it.
sentences: Kept[str] = Kept(20_000)


def plant(user: User, site_id: int, prefs: Prefs) -> tuple[PlantOut, datetime | None]:
    """The whole plant in a fixed number of queries, ordered so that what needs a person comes first; and when
    the next answer on it becomes overdue.
    """
    site = site_for(user, site_id)
    as_of = now()
    services = list(Service.objects.filter(site=site))
    sets = list(
        PumpSet.objects.filter(site=site).values_list(
            "id", "service_id", "tag", "name", "place", "nickname", "kind", "role", "pair"
        )
    )
    controls = dict(
        Fitting.objects.filter(pump_set__site=site, slot="control", to_at=None).values_list(
            "pump_set_id", "component__kind"
        )
    )
    states: dict[int, list[PartVerdict]] = defaultdict(list)
    dues: list[datetime] = []
    for row in PartState.objects.filter(pump_set__site=site).values_list(*STATE_OF_PART, "pk"):
        # The reason is a text to be decoded: only the leading one of each set is, and once.
        states[row[0]].append(part_verdict(row[:-1], as_of, row[-1]))
        if row[6] is not None and row[6] >= as_of:
            dues.append(row[6])
    tops = {pk: _top(parts) for pk, parts in states.items()}
    says = _sentences((t.reason for t in tops.values()), prefs, reader(user))
    weight = {s.pk: s.consequence for s in services}
    paired: dict[tuple[int, str], list[int]] = defaultdict(list)
    for s in sets:
        if s[8]:
            paired[(s[1], s[8])].append(s[0])
    lanes: dict[int, list[tuple[tuple[int, ...], PlantSet]]] = defaultdict(list)
    order: list[tuple[tuple[int, ...], str, PlantSet]] = []
    rows: dict[int, PlantSet] = {}
    for pk, service_id, tag, name, place, nickname, kind, role, pair in sets:
        parts = states.get(pk) or [never_checked(as_of)]
        rank = attention(parts, len(paired.get((service_id, pair), ())) > 1, weight[service_id])
        row = _plant_set(
            pk, tag, name, place, nickname, kind, controls.get(pk, ""), role, pair, parts, says, prefs
        )
        lanes[service_id].append((rank, row))
        order.append((rank, tag, row))
        rows[pk] = row
    order.sort(key=lambda o: o[:2])
    partners = {pk: [rows[x] for x in group if x != pk] for group in paired.values() for pk in group}
    by_service = sorted(
        services, key=lambda s: (min((r for r, _ in lanes[s.pk]), default=(9,)), s.place_in_order)
    )
    out = PlantOut.model_construct(
        site=site.pk,
        name=site.name,
        time_zone=site.time_zone,
        role=require(user, site.pk),
        as_of=as_of,
        services=[
            PlantService.model_construct(
                id=s.pk, code=s.code, name=s.name, note=s.note, sets=[row for _, row in lanes[s.pk]]
            )
            for s in by_service
        ],
        first=_first([row for _, _, row in order], partners, tops, prefs),
    )
    # Overdue is who is past his date, not at it.
    return out, min(dues) + timedelta(microseconds=1) if dues else None


def _sentences(reasons: Iterable[Any], prefs: Prefs, who: str) -> dict[int, str]:
    """What the states of these parts say, by their ids."""
    wanted = [pk for pk in reasons if isinstance(pk, int)]
    found = {pk: sentences.good((pk, who), rules_version()) for pk in wanted}
    told = {pk: words for pk, words in found.items() if words is not None}
    anew = [pk for pk in wanted if pk not in told]
    for pk, reason in PartState.objects.filter(pk__in=anew).values_list("pk", "reason") if anew else ():
        told[pk] = say(reason, prefs)
        sentences.put((pk, who), rules_version(), None, told[pk])
    return told


def _top(parts: list[PartVerdict]) -> PartVerdict:
    """The part whose reason stands for the set."""
    verdict = worst(p.verdict for p in parts)[0]
    return min(
        (p for p in parts if p.verdict is verdict),
        key=lambda p: (p.by.rank if p.by else 9, p.question != "load"),
    )


def _plant_set(
    pk: int,
    tag: str,
    name: str,
    place: str,
    nickname: str,
    kind: str,
    control: str,
    role: str,
    pair: str,
    parts: list[PartVerdict],
    says: dict[int, str],
    prefs: Prefs,
) -> PlantSet:
    verdict, beside = worst(p.verdict for p in parts)
    top = _top(parts)
    if beside is None and any(p.beside is Verdict.WATCH for p in parts) and verdict is Verdict.UNKNOWN:
        beside = Verdict.WATCH
    return PlantSet(
        id=pk,
        tag=tag,
        name=name,
        place=place,
        nickname=nickname,
        kind=kind,
        control=control,
        role=role,
        pair=pair,
        verdict=verdict,
        beside=beside,
        by=top.by,
        reason=says[top.reason] if isinstance(top.reason, int) else say(top.reason, prefs),
        parts=[PlantPart(part=p.part, verdict=p.verdict, beside=p.beside) for p in parts],
    )


_NEXT = """SELECT a.pump_set_id, r.bench FROM logbook_answer a
JOIN logbook_finding f ON f.id = a.finding_id JOIN logbook_record r ON r.id = f.record_id
WHERE a.pump_set_id IN %s ORDER BY a.due DESC, a.id"""


def _overdue_check(sets: list[int]) -> dict[int, str]:
    """Which check of each set is the longest overdue; where none was ever done, the one that leads."""
    leads = next(b.name for b in benches() if b.leads)
    found = dict.fromkeys(sets, leads)
    return found | dict(ask(_NEXT, [tuple(sets) or (0,)]))


def _first(
    order: list[PlantSet],
    partners: dict[int, list[PlantSet]],
    tops: dict[int, PartVerdict],
    prefs: Prefs,
) -> list[FirstOut]:
    """Those that need a person first, each with its one action: the check that is overdue, else the part."""
    top = [row for row in order if row.verdict is not Verdict.GOOD][:FIRST]
    lines: dict[int, MarginLine] = {}
    for pk, verdict, line in PartState.objects.filter(pump_set_id__in=[r.id for r in top]).values_list(
        "pump_set_id", "verdict", "line"
    ):
        if line and any(r.id == pk and r.verdict == verdict for r in top):
            lines.setdefault(pk, MarginLine.model_validate(line))
    stale = [r.id for r in top if r.id not in tops or tops[r.id].stale]
    checks = _overdue_check(stale)
    parts = {r.id: tops[r.id].part if r.id in tops else r.parts[0].part for r in top}
    return [
        FirstOut.model_construct(
            set=r.id,
            part=parts[r.id],
            part_title=PARTS[parts[r.id]].title if parts[r.id] in PARTS else "",
            bench=checks.get(r.id, ""),
            line=show_line(lines[r.id], prefs, set()) if r.id in lines else None,
            standing=write(behind((p.tag, p.verdict) for p in partners.get(r.id, [])), prefs),
        )
        for r in top
    ]
