"""What a job takes along: its kit against the shelves, people and time from here, isolation, weather, what
else is due.
"""

from __future__ import annotations

from datetime import datetime

from ...logbook import AnyCase
from ...safety import SCOPES
from ..known import Lot
from ..weather import spell
from . import view as v
from .sheet import Job
from .times import in_words, own, span

KIT_TITLES = {
    "seal_set": "seal set, both faces",
    "casing_ring": "casing ring",
    "anti_rotation": "anti-rotation washer and nut",
    "mount": "resilient mount",
    "head": "motor head with impeller",
    "o_rings": "O-rings, the set",
}


def kit_title(kind: str) -> str:
    """A kit's line in words."""
    return KIT_TITLES.get(kind, kind.replace("_", " "))


def picked(job: Job, case: AnyCase) -> v.PickView | None:
    """The pick list; None before the job is compiled."""
    c, p = job.compiled, job.procedure
    if c is None or p is None:
        return None
    rows = own(job.known.past, p.id, str(job.marks.get("kind")))
    site_kit = job.known.kit(p.id)
    low, high, n = span(rows, p.minutes)
    return v.PickView(
        kit=[_kit(job, *line) for line in kit_lines(job)],
        kit_title=site_kit.title if site_kit is not None else "",
        tools=p.tools,
        sizes=str(job.said("sizes") or _carried(case, "sizes")),
        consumables=p.consumables,
        lifting=any(s.opens == "lifting" for s in job.steps),
        weather=_weather(job, case.context.as_of, high),
        people=c.people,
        time=f"{in_words(low)} to {in_words(high)}" if high > low else in_words(high),
        time_from=f"{n} of your own jobs" if n else "procedure, no job of it here yet",
        scopes=[SCOPES[s].title for s in p.scopes],
        due=[f"{x.title}, {x.at:%d %b}" for x in job.known.due],
    )


def _weather(job: Job, as_of: datetime, minutes: float) -> v.WeatherView | None:
    """What work in the open needs; None where it is done under a roof."""
    roof = bool(job.marks.get("roof")) or (job.procedure is not None and job.procedure.weather)
    if not roof and not job.marks.get("outside"):
        return None
    known = job.known
    told = spell(known.weather, as_of, minutes, lift=roof, zone=known.zone, limits=job.limits)
    wants = f"dry{', calm' if roof else ''} for {in_words(minutes)} by day"
    return v.WeatherView(wants=wants, verdict=told.verdict, says=told.says)


def _carried(case: AnyCase, name: str) -> str:
    last = case.context.last
    told = last.body.get("about", {}).get(name, "") if last is not None else ""
    return str(told or "")


def kit_lines(job: Job) -> list[tuple[str, str, int, list[Lot]]]:
    """Each line of the kit: its key, its words, how many, what fills it. A kit of the site stands in the
    place of what it fills; what it leaves out of the procedure's own stays on the list.
    """
    c, lots = job.compiled, job.known.lots
    if c is None:
        return []
    own_kit = job.known.kit(c.procedure)
    parts = own_kit.parts if own_kit is not None else {}
    rows = []
    for code, n in parts.items():
        fill = [x for x in lots if x.code == code]
        rows.append((code, fill[0].title if fill else code, n, fill))
    filled = {k for x in lots if x.code in parts for k in x.kinds}
    for kind, n in c.kit.items():
        if kind not in filled:
            rows.append((kind, kit_title(kind), n, [x for x in lots if kind in x.kinds]))
    return rows


def _kit(job: Job, kind: str, title: str, wanted: int, lots: list[Lot]) -> v.KitView:
    """One line. What this job has reserved still lies there: it counts once."""
    codes = {x.code for x in lots}
    said: dict[tuple[str, str], tuple[int, int]] = {}
    for x in job.of("part"):
        if x.body.code in codes:
            said[x.body.code, x.body.place] = (x.body.reserved, x.body.used)
    reserved, used = sum(r for r, _ in said.values()), sum(u for _, u in said.values())
    free = sum(max(0, x.free) for x in lots if not x.emergency)
    left, takes = wanted - max(reserved, used), []
    for lot in lots:
        held, taken = said.get((lot.code, lot.place), (0, 0))
        more = min(left, max(0, lot.free - max(0, held - taken)))
        if not lot.emergency and more > 0:
            takes.append(v.TakeView(code=lot.code, place=lot.place, reserved=held + more, used=taken))
            left -= more
    return v.KitView(
        kind=kind,
        title=title,
        wanted=wanted,
        lots=[_lot(x, *said.get((x.code, x.place), (0, 0))) for x in lots],
        reserved=reserved,
        used=used,
        short=max(0, wanted - used - free),
        takes=takes,
    )


def _lot(lot: Lot, reserved: int, used: int) -> v.LotView:
    """What was said of a place is of its good ones, not of those kept for an emergency."""
    good = not lot.emergency
    return v.LotView(
        code=lot.code,
        title=lot.title,
        place=lot.place,
        free=lot.free,
        emergency=lot.emergency,
        reserved=reserved if good else 0,
        used=used if good else 0,
    )
