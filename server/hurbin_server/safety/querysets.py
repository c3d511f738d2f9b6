"""Reads of safety: what hangs on every set of a site, and everything about one set."""

from __future__ import annotations

from typing import Any

from hurbin_core.base import Limits, Prefs, Verdict, write
from hurbin_core.catalogue import bench
from hurbin_core.logbook import InterimLimit
from hurbin_core.safety import (
    CHANGES,
    COMPLAINTS,
    OFFERS,
    ChangeState,
    IsolationSource,
    SetFacts,
    TwinState,
    age,
    ask,
    change_words,
    check_back_words,
    deferral_words,
    interim_words,
    leading,
    matter_words,
    proposed,
    stop_words,
    threat,
)
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.services.casing import case_for, overrides_for
from hurbin_server.plant.access import set_for, site_for
from hurbin_server.plant.known import rows_of
from hurbin_server.plant.models import PumpSet

from . import schemas as s
from .holding import Held, held_of_set, held_of_site
from .isolation_out import isolation_out
from .models import (
    CheckBack,
    Deferral,
    IsolationList,
    Matter,
    TemporaryChange,
    TrialRun,
)
from .services import hanging
from .services.gating import facts_for
from .services.qualifying import qualified_until
from .services.standing import BENCH, isolation_now
from .services.trying import open_trials
from .serving import services_served
from .tags_out import tags_of


def _matter(m: Matter, user: User, prefs: Prefs, held: Held | None) -> s.MatterOut:
    at = now()
    row = held.sets.get(m.pump_set_id) if held is not None and m.pump_set_id is not None else m.pump_set
    calls = sorted(m.calls.all(), key=lambda c: c.at)
    serves = row.service.serves if row is not None else m.service.serves if m.service is not None else "other"
    twins = (
        [
            TwinState(tag=held.sets[x].tag, against=a[0] if (a := held.against(x)) else "")
            for x in held.twins(row.pk)
        ]
        if held is not None and row is not None
        else []
    )
    top = threat(
        [c.complaint for c in calls],
        serves,
        twins,
        row is not None and not twins,
        row.tag if row is not None else "",
    )
    many = matter_words([c.at for c in calls], at)
    where = ", ".join(
        x
        for x in (
            (row.tag, row.place)
            if row is not None
            else (m.service.name,)
            if m.service is not None
            else (m.room,)
        )
        if x
    )
    return s.MatterOut(
        id=m.pk,
        set_id=m.pump_set_id,
        tag=row.tag if row is not None else "",
        where=where,
        opened_at=m.opened_at,
        age=age(m.opened_at, at),
        ended_at=m.ended_at,
        ended_by=m.ended_by.full_name if m.ended_by else "",
        found=m.found,
        done=m.done,
        verdict=top.verdict,
        threatens=[x if isinstance(x, str) else write(x, prefs) for x in top.says],
        first=top.first,
        many=write(many, prefs) if many else "",
        calls=[
            s.CallOut(
                uuid=c.uuid,
                complaint=c.complaint,
                title=COMPLAINTS[c.complaint].title,
                note=c.note,
                picture=c.picture_id or "",
                by=c.by.full_name,
                at=c.at,
                mine=c.by_id == user.pk,
            )
            for c in calls
        ],
    )


def site_safety(user: User, site_id: int, prefs: Prefs) -> s.SiteSafetyOut:
    """Everything that hangs on the sets of a site, in a fixed number of queries."""
    site_for(user, site_id)
    held = held_of_site(site_id)
    matters = [_matter(m, user, prefs, held) for m in held.matters]
    tags = tags_of(held, prefs, matters, Limits(_site_overrides(held)))
    return s.SiteSafetyOut(
        as_of=now(),
        tags=(every := sorted(tags, key=lambda t: (-t.verdict.rank, t.since))),
        first=leading(every),
        matters=sorted(matters, key=lambda m: (-m.verdict.rank, m.opened_at)),
        served=services_served(site_id, held.against, prefs),
    )


def _site_overrides(held: Held) -> list[Any]:
    first = next(iter(held.sets.values()), None)
    return overrides_for(first) if first is not None else []


def set_safety(user: User, set_id: int, prefs: Prefs) -> s.SetSafetyOut:
    """How one set stands, what hangs on it, and what is offered on it now."""
    row = set_for(user, set_id)
    held = held_of_set(row)
    sheet, iso = isolation_now(row, now())
    kept = next(iter(rows_of(IsolationList, row, "id")), None)
    lines = [IsolationSource.model_validate(x) for x in kept.lines] if kept else []
    every = [_matter(m, user, prefs, held) for m in held.matters]
    matters = [m for m in every if m.set_id == row.pk]
    limits = Limits(overrides_for(row))
    facts = facts_for(row, iso, user.username)
    trials = open_trials(row)
    case = case_for(row, bench(BENCH), now())[0]
    ends = [w.until for w in facts.waivers] + [t.until for t in trials]
    ends += qualified_until(user, row.site_id)
    return s.SetSafetyOut(
        until=min(ends, default=None),
        set_id=row.pk,
        tag=row.tag,
        isolation=isolation_out(case, user, prefs, sheet.uuid if sheet else "", iso, lines),
        list=s.ListOut(
            version=kept.version if kept else 0,
            lines=lines,
            by=kept.by.full_name if kept else "",
            at=kept.at if kept else None,
            proposed=proposed(lines, SetFacts.of(case)),
        ),
        changes=[
            _change(c, prefs, limits)
            for c in sorted(held.changes, key=lambda c: c.put_at)
            if c.pump_set_id == row.pk
        ],
        deferrals=[_deferral(d, prefs) for d in held.deferrals if d.pump_set_id == row.pk],
        check_backs=[_check_back(k, prefs) for k in held.checks if k.pump_set_id == row.pk],
        matters=matters,
        tags=[t for t in tags_of(held, prefs, every, limits) if t.set_id == row.pk],
        offers=[ask(act, facts) for act in OFFERS],
        past=_past(row),
        stops=stop_words(facts.stops),
        trials=[_trial(t) for t in trials],
        ready=[
            s.ReadyOut(
                id=x.id,
                list=x.list,
                heading=x.heading,
                blocks=x.blocks,
                title=x.title,
                done=x.done,
                says=write(x.says, prefs),
                bench=x.bench,
                record=x.record,
            )
            for x in facts.ready
        ],
    )


def _trial(t: TrialRun) -> s.TrialOut:
    return s.TrialOut(
        uuid=t.uuid, limits=t.limits, minutes=t.minutes, by=t.by.full_name, at=t.at, until=t.until
    )


def _past(row: PumpSet) -> list[s.PastOut]:
    """What hung on the set and is over, the newest twenty."""
    out = [
        s.PastOut(
            at=m.ended_at,
            title=", ".join(dict.fromkeys(COMPLAINTS[c.complaint].title for c in m.calls.all())),
            says=f"Found: {m.found} Done: {m.done}",
            by=m.ended_by.full_name if m.ended_by else "",
        )
        for m in hanging.matters_near(row)
        if m.ended_at and m.pump_set_id == row.pk
    ]
    out += [
        s.PastOut(
            at=c.off_at,
            title=f"{CHANGES[c.kind].title}, {c.place}",
            says=f"restored. {c.off_note}".strip(),
            by=c.off_by.full_name if c.off_by else "",
        )
        for c in hanging.changes_of(row)
        if c.off_at
    ]
    out += [
        s.PastOut(
            at=d.ended_at,
            title=f"Deferred: {d.what}",
            says=f"deferral ended: {d.ended_because}",
            by=d.ended_by.full_name if d.ended_by else "",
        )
        for d in hanging.deferrals_of(row)
        if d.ended_at
    ]
    out += [
        s.PastOut(
            at=k.read_at, title="Follow-up check", says=k.said, by=k.read_by.full_name if k.read_by else ""
        )
        for k in hanging.checks_near(row)
        if k.read_at and k.pump_set_id == row.pk
    ]
    return sorted(out, key=lambda x: x.at, reverse=True)[:20]


def _change(c: TemporaryChange, prefs: Prefs, limits: Limits) -> s.ChangeOut:
    verdict, words = change_words(
        ChangeState(kind=c.kind, since=c.put_at, by=c.put_by.full_name), now(), limits
    )
    return s.ChangeOut(
        uuid=c.uuid,
        kind=c.kind,
        title=CHANGES[c.kind].title,
        place=c.place,
        note=c.note,
        picture=c.picture_id or "",
        says=write(words, prefs),
        verdict=verdict,
        put_at=c.put_at,
        put_by=c.put_by.full_name,
    )


def _deferral(d: Deferral, prefs: Prefs) -> s.DeferralOut:
    return s.DeferralOut(
        uuid=d.uuid,
        part=d.part,
        what=d.what,
        reason=d.reason,
        until=d.until,
        overdue=deferral_words(d.what, d.until, now())[0] is Verdict.ACT,
        standby=d.standby,
        changes_mind=d.changes_mind,
        limits=[write(interim_words(InterimLimit.model_validate(x)), prefs) for x in d.limits],
        by=d.by.full_name,
        at=d.at,
    )


def _check_back(k: CheckBack, prefs: Prefs) -> s.CheckBackOut:
    verdict, words = check_back_words(k.due, k.why, now())
    return s.CheckBackOut(id=k.pk, due=k.due, says=write(words, prefs), verdict=verdict)


def matter_out(user: User, m: Matter, prefs: Prefs) -> s.MatterOut:
    return _matter(
        m, user, prefs, held_of_set(m.pump_set) if m.pump_set is not None else held_of_site(m.site_id)
    )


def deferral_out(d: Deferral, prefs: Prefs) -> s.DeferralOut:
    return _deferral(d, prefs)
