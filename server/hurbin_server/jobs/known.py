"""What a job is told of its set: the pair, records, isolation, past jobs, stock, what else is due."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db.models import Q

from hurbin_core.base import RULES, Phrase, write
from hurbin_core.jobs.known import (
    BenchRecord,
    DueThing,
    JobKnown,
    Lot,
    Moment,
    OwnKit,
    Read,
    SiteProcedure as Procedure,
)
from hurbin_core.jobs.weather import Outlook
from hurbin_core.safety import CHANGES, IsolationSource
from hurbin_server.logbook.models import Finding, Judgement, PartState, Record, Sheet
from hurbin_server.logbook.signals import Day
from hurbin_server.plant.known import pair_of
from hurbin_server.plant.models import Fitting, PumpSet
from hurbin_server.safety.models import IsolationList, TemporaryChange
from hurbin_server.stores.models import Kit, Part, PartReserved
from hurbin_server.stores.part_reads import reserved_of

from .models import IsolationMoment, SiteProcedure, SiteWeather
from .past import past_jobs

BENCH = "job"
BACK = timedelta(days=120)
AHEAD = timedelta(days=45)
# More records of one set than this no job stands on.
MOST = 120


def known_of(pump_set: PumpSet, as_of: datetime, day: Day) -> list[JobKnown]:
    """Everything of it, as of then; stock is today's, or nothing on a day of the past."""
    sheet = Sheet.objects.filter(pump_set=pump_set, bench=BENCH, closed_at=None).order_by("opened_at").first()
    fresh = as_of >= day.known_at - timedelta(hours=12)
    return [
        JobKnown(
            pair=next((x.tag for x in pair_of(pump_set)), "") if day.partner is None else day.partner,
            header=_header(pump_set),
            records=_records(pump_set, as_of),
            moments=_moments(pump_set, as_of),
            past=past_jobs(pump_set.site_id, as_of),
            lots=_lots(pump_set, sheet) if fresh else [],
            kits=_kits(pump_set),
            due=_due(pump_set, as_of),
            procedures=_procedures(pump_set.site_id),
            changes=_others(pump_set, sheet, as_of),
            fitted=_fitted(pump_set, as_of),
            bare=_bare(pump_set, as_of),
            weather=_weather(pump_set.site_id) if fresh else None,
            zone=pump_set.site.time_zone,
        )
    ]


def _header(pump_set: PumpSet) -> bool | None:
    """Does it share a header, by its isolation list? None: nobody made one."""
    row = IsolationList.objects.filter(pump_set=pump_set).first()
    if row is None:
        return None
    lines = [IsolationSource.model_validate(x) for x in row.lines]
    told = [x for x in lines if x.kind == "sister_header"]
    return any(not x.absent for x in told) if told else None


def _records(pump_set: PumpSet, as_of: datetime) -> list[BenchRecord]:
    rows = Record.objects.filter(
        pump_set=pump_set, live=True, taken_at__lte=as_of, taken_at__gte=as_of - BACK
    ).exclude(bench=BENCH)
    rows = rows.select_related("by").order_by("-taken_at")[:MOST]
    held = {r.pk: r for r in rows}
    told = {j.record_id: j for j in Judgement.objects.filter(record__in=held, newest=True)}
    leading: dict[int, Finding] = {}
    for f in Finding.objects.filter(record__in=held, live=True).order_by("pk"):
        leading.setdefault(f.record_id, f)
    return [_record(r, told[pk], leading.get(pk)) for pk, r in held.items() if pk in told]


def _record(r: Record, j: Judgement, leading: Finding | None) -> BenchRecord:
    e = j.evaluation
    return BenchRecord(
        bench=r.bench,
        record=r.pk,
        taken_at=r.taken_at,
        by=r.by.full_name,
        verdict=j.verdict,
        says=write(Phrase.model_validate(leading.reason)) if leading is not None else "",
        conditions=e.get("conditions", ""),
        reads=[
            Read(measurand=p["measurand"], leg=p.get("leg", ""), value=p["value"], unit=p["unit"])
            for p in e.get("points", [])
        ],
    )


def _moments(pump_set: PumpSet, as_of: datetime) -> list[Moment]:
    rows = IsolationMoment.objects.filter(pump_set=pump_set, at__lte=as_of, at__gte=as_of - BACK)
    return [Moment(at=m.at, state=m.state, scopes=m.scopes) for m in rows.order_by("at", "pk")]


def _kits(pump_set: PumpSet) -> list[OwnKit]:
    """What the site takes to a job of this set, of its kind, or of any."""
    rows = Kit.objects.filter(site_id=pump_set.site_id).filter(
        Q(pump_set=pump_set) | Q(pump_set=None, kind__in=("", pump_set.kind))
    )
    return [
        OwnKit(
            title=k.title,
            procedure=k.procedure,
            tag=pump_set.tag if k.pump_set_id else "",
            kind=k.kind,
            parts={x["code"]: x["wanted"] for x in k.lines},
        )
        for k in rows
    ]


def _lots(pump_set: PumpSet, sheet: Sheet | None) -> list[Lot]:
    """What the stores hold that fits: of this kind of set, or of this one, or of any."""
    parts = list(Part.objects.filter(site_id=pump_set.site_id).prefetch_related("stock"))
    named = {code for k in _kits(pump_set) for code in k.parts}
    mine = {pump_set.kind, pump_set.tag}
    fit = [p for p in parts if not p.fits or mine & {*p.fits} or p.code in named]
    held = reserved_of(fit)
    own = {} if sheet is None else _own(sheet)
    out = []
    for p in fit:
        for x in sorted(p.stock.all(), key=lambda x: x.place):
            others = held.get((p.pk, x.place), 0) - own.get((p.pk, x.place), 0)
            told = {"code": p.code, "kinds": p.lines, "place": x.place, "price": p.price}
            free = max(0, x.count - others)
            out.append(Lot(title=p.title, count=x.count, free=free, **told))
            if x.emergency > 0:
                out.append(Lot(title=p.title, count=x.emergency, free=x.emergency, emergency=True, **told))
    return out


def _own(sheet: Sheet) -> dict[tuple[int, str], int]:
    rows = PartReserved.objects.filter(sheet=sheet.pk)
    return {(r.part_id, r.place): r.count for r in rows}


def _due(pump_set: PumpSet, as_of: datetime) -> list[DueThing]:
    """What else falls due on it while it is open."""
    rows = PartState.objects.filter(pump_set=pump_set, due__isnull=False, due__lte=as_of + AHEAD)
    return [DueThing(title=_asked(r.question), at=r.due) for r in rows.order_by("due") if r.due is not None]


def _asked(question: str) -> str:
    return RULES[question].title if question in RULES else question.replace("_", " ").capitalize()


def _fitted(pump_set: PumpSet, as_of: datetime) -> dict[str, datetime]:
    """Since when what stood on it then stood there."""
    rows = Fitting.objects.filter(pump_set=pump_set, from_at__lte=as_of)
    return {f.slot: f.from_at for f in rows.filter(Q(to_at=None) | Q(to_at__gt=as_of))}


def _bare(pump_set: PumpSet, as_of: datetime) -> dict[str, datetime]:
    """Where something stood and nothing did then: since when."""
    stands = _fitted(pump_set, as_of)
    rows = Fitting.objects.filter(pump_set=pump_set, to_at__lte=as_of).order_by("to_at")
    return {f.slot: f.to_at for f in rows if f.slot not in stands and f.to_at is not None}


def _weather(site_id: int) -> Outlook | None:
    row = SiteWeather.objects.filter(site_id=site_id).first()
    return Outlook.model_validate(row.data) if row is not None else None


def _procedures(site_id: int) -> list[Procedure]:
    rows = SiteProcedure.objects.filter(site_id=site_id).order_by("code", "version")
    return [Procedure(version=r.version, title=r.data.get("title", ""), data=r.data) for r in rows]


def _others(pump_set: PumpSet, sheet: Sheet | None, as_of: datetime) -> list[str]:
    """Temporary changes that this job did not put on."""
    rows = TemporaryChange.objects.filter(pump_set=pump_set, off_at=None, put_at__lte=as_of)
    if sheet is not None:
        rows = rows.exclude(sheet=sheet.pk)
    return [f"{CHANGES[c.kind].title}, {c.place}" for c in rows]
