"""Reads of jobs: what is under way on a site, when a set is back, procedures, anatomy."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.core import signing

from hurbin_core.base import Prefs
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.jobs.anatomy import LOOKS, TREES, tree_of
from hurbin_core.jobs.job.view import JobView
from hurbin_core.jobs.procedure import PROCEDURES
from hurbin_core.jobs.weather import Outlook
from hurbin_server.base.clock import now
from hurbin_server.base.errors import not_found
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Entry, Judgement, Record, Sheet
from hurbin_server.logbook.services.casing import case_for
from hurbin_server.logbook.services.judging import entries_of, raw_of
from hurbin_server.plant.access import require, set_for
from hurbin_server.plant.models import PumpSet
from hurbin_server.safety.models import CheckBack
from hurbin_server.stores.part_schemas import KitLineOut, KitOut

from . import schemas as s
from .known import BENCH
from .models import SiteProcedure, SiteWeather

CLOSED = 20
SALT = "when-is-it-back"


def job_of(sheet: Sheet, at: datetime | None = None) -> Any:
    """How an open job stands: now, or as it stood at a time."""
    bench = find_bench(BENCH)
    rows = Entry.objects.filter(sheet=sheet, late=False).select_related("by")
    entries = entries_of(BENCH, [raw_of(e) for e in rows])
    case, _ = case_for(sheet.pump_set, bench, at or now())
    return bench.evaluate(case, entries)


def work(user: User, site_id: int, prefs: Prefs) -> s.WorkOut:
    """Everything under way on a site: what is stuck first, then what was opened first."""
    role = require(user, site_id)
    sheets = Sheet.objects.filter(pump_set__site_id=site_id, bench=BENCH, closed_at=None)
    told = [(x, job_of(x)) for x in sheets.select_related("pump_set", "opened_by").order_by("opened_at")]
    rows = [_row(x, e.view, e.verdict) for x, e in told]
    rows.sort(key=lambda r: (not r.overdue, not r.short, r.opened_at))
    return s.WorkOut(
        may=role != "viewer",
        jobs=rows,
        checks=_checks(site_id),
        closed=_closed(site_id),
        kits=[k for x, e in told for k in [_kit(x, e.view)] if k is not None],
    )


def _row(sheet: Sheet, v: JobView, verdict: Any) -> s.JobRow:
    p = sheet.pump_set
    at = next((f"{x.n}. {x.title}" for x in v.steps if x.id == v.now), "")
    shop = v.shop if v.shop is not None and v.shop.accepted is None else None
    return s.JobRow(
        set_id=p.pk,
        tag=p.tag,
        name=p.name,
        place=p.place,
        sheet=sheet.pk,
        procedure=v.procedure,
        title=v.title or "Overhaul",
        because=v.reason,
        state=v.state,
        owner=v.owner or sheet.opened_by.full_name,
        opened_at=sheet.opened_at,
        done=v.done,
        count=v.count,
        now=at,
        left=v.left,
        waits=v.waits,
        expected=v.expected,
        changes=len(v.changes),
        verdict=verdict,
        short=[f"{k.title}: {k.short} short" for k in (v.pick.kit if v.pick else []) if k.short],
        shop=shop.shop if shop else "",
        promised=shop.promised if shop else None,
        overdue=bool(shop and shop.overdue),
    )


def _kit(sheet: Sheet, v: JobView) -> KitOut | None:
    if v.pick is None or not v.pick.kit:
        return None
    lines = [
        KitLineOut(
            kind=k.kind,
            title=k.title,
            wanted=k.wanted,
            parts=sorted({x.code for x in k.lots if not x.emergency}),
            free=sum(x.free for x in k.lots if not x.emergency),
            short=k.short,
        )
        for k in v.pick.kit
    ]
    title = f"{sheet.pump_set.tag}: {v.title}"
    short = sum(x.short for x in lines)
    return KitOut(procedure=v.procedure, title=title, kind=sheet.pump_set.kind, lines=lines, short=short)


def _checks(site_id: int) -> list[s.CheckRow]:
    rows = CheckBack.objects.filter(pump_set__site_id=site_id, read_at=None, key__startswith="check.")
    return [
        s.CheckRow(
            id=k.pk, set_id=k.pump_set_id, tag=k.pump_set.tag, due=k.due, why=k.why, overdue=k.due < now()
        )
        for k in rows.select_related("pump_set").order_by("due")[:60]
    ]


def _closed(site_id: int) -> list[s.ClosedJob]:
    rows = Record.objects.filter(pump_set__site_id=site_id, bench=BENCH, live=True).select_related(
        "pump_set", "by"
    )
    found = list(rows.order_by("-taken_at")[:CLOSED])
    told = dict(Judgement.objects.filter(record__in=found, newest=True).values_list("record_id", "verdict"))
    out = []
    for r in found:
        causes = [e.get("cause", "") for e in r.body.get("entries", []) if e.get("kind") == "cause"]
        p = PROCEDURES.get(r.body.get("procedure", ""))
        out.append(
            s.ClosedJob(
                record=r.pk,
                set_id=r.pump_set_id,
                tag=r.pump_set.tag,
                title=p.title if p else r.body.get("procedure", ""),
                at=r.taken_at,
                by=r.by.full_name,
                verdict=told.get(r.pk, "unknown"),
                cause=causes[-1] if causes else "",
            )
        )
    return out


def procedure_codes(site_id: int) -> set[str]:
    """The shipped ones, and those that the site keeps."""
    own = SiteProcedure.objects.filter(site_id=site_id).values_list("code", flat=True)
    return {*PROCEDURES, *own}


def weather(row: SiteWeather) -> s.WeatherOut:
    told = Outlook.model_validate(row.data)
    return s.WeatherOut(
        source=told.source, made_at=told.made_at, until=told.hours[-1].at, by=row.by.full_name
    )


def back(pump_set: PumpSet) -> s.BackOut:
    """When is it back? State, owner and expected time, without the rest."""
    sheet = Sheet.objects.filter(pump_set=pump_set, bench=BENCH, closed_at=None).order_by("opened_at").first()
    told = {"tag": pump_set.tag, "name": pump_set.name, "as_of": now()}
    if sheet is None:
        return s.BackOut(state="no job under way", owner="", expected=None, left="", waits="", **told)
    v: JobView = job_of(sheet).view
    expected = v.expected or (v.shop.promised if v.shop and v.shop.accepted is None else None)
    return s.BackOut(
        state=v.state or "being prepared",
        owner=v.owner,
        expected=expected,
        left=v.left,
        waits=v.waits,
        **told,
    )


def back_of(user: User, set_id: int) -> s.BackOut:
    return back(set_for(user, set_id))


def back_token(set_id: int) -> str:
    """What stands in the code of a set's label: it opens this page and nothing else."""
    return signing.dumps(set_id, salt=SALT)


def back_by(token: str) -> s.BackOut:
    """The same, for whoever has the label before him. A token that was not made here is not found."""
    try:
        set_id = int(signing.loads(token, salt=SALT))
    except (signing.BadSignature, ValueError, TypeError):
        raise not_found("Pump set") from None
    found = PumpSet.objects.filter(pk=set_id).first()
    if found is None:
        raise not_found("Pump set")
    return back(found)


def procedures(user: User, site_id: int) -> s.ProceduresOut:
    """The procedures of a site, its own newest version before the shipped one."""
    role = require(user, site_id)
    rows = SiteProcedure.objects.filter(site_id=site_id).select_related("by").order_by("code", "-version")
    own: dict[str, s.ProcedureRow] = {}
    for r in rows:
        own.setdefault(r.code, _version(r))
    shipped = {
        p.id: s.ProcedureRow(
            id=p.id,
            title=p.title,
            reason=p.reason,
            kinds=p.kinds,
            version=0,
            by="",
            at=None,
            why="",
            own=False,
        )
        for p in PROCEDURES.values()
    }
    every = sorted((shipped | own).values(), key=lambda x: x.id)
    return s.ProceduresOut(may=role in ("lead", "admin"), procedures=every)


def _version(r: SiteProcedure) -> s.ProcedureRow:
    return s.ProcedureRow(
        id=r.code,
        title=r.data.get("title", ""),
        reason=r.data.get("reason", ""),
        kinds=r.data.get("kinds", []),
        version=r.version,
        by=r.by.full_name,
        at=r.at,
        why=r.reason,
        own=True,
    )


def procedure(user: User, site_id: int, code: str) -> s.ProcedureOut:
    role = require(user, site_id)
    rows = list(
        SiteProcedure.objects.filter(site_id=site_id, code=code).select_related("by").order_by("-version")
    )
    shipped = PROCEDURES.get(code)
    if rows:
        data = rows[0].data
    elif shipped is not None:
        data = shipped.model_dump(mode="json", by_alias=True, exclude_defaults=True)
    else:
        raise not_found("Procedure")
    return s.ProcedureOut(
        id=code,
        version=rows[0].version if rows else 0,
        data=data,
        versions=[_version(r) for r in rows],
        may=role in ("lead", "admin"),
    )


def anatomy(name: str) -> s.AnatomyOut:
    """An assembly whole: by its own name, or a kind of set."""
    tree = TREES.get(name) or tree_of(name)
    if tree is None:
        raise not_found("Assembly")
    parts = tree.by_part
    depth = {p.id: len(tree.before(p.id)) for p in tree.part}
    rows = sorted(tree.part, key=lambda p: (depth[p.id], p.drawn.x))
    used = {p.judged for p in tree.part if p.judged}
    return s.AnatomyOut(
        tree=tree,
        order=[s.OrderRow(part=p, after=[parts[n].title for n in p.needs]) for p in rows],
        looks=[s.LookOut(**LOOKS[x].model_dump()) for x in sorted(used)],
        trees=[s.TreeBrief(id=t.id, title=t.title, kinds=t.kinds, parts=len(t.part)) for t in TREES.values()],
    )
