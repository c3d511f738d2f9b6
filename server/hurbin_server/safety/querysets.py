"""Reads of safety: what hangs on every set of a site, and everything about one set."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from hurbin_core.base import Limits, Prefs, Verdict, phrase, show, write
from hurbin_core.catalogue import bench
from hurbin_core.logbook import AnyCase, InterimLimit
from hurbin_core.safety import (
    CHANGES,
    COMPLAINTS,
    OFFERS,
    SOURCES,
    STATE_WORDS,
    ChangeState,
    Isolation,
    IsolationSource,
    SetFacts,
    SourceState,
    Tag,
    TwinState,
    acts,
    age,
    ask,
    at_source,
    change_words,
    check_back_words,
    deferral_words,
    interim_words,
    isolation_words,
    leading,
    matter_words,
    proposed,
    rail,
    standby_clock,
    stands,
    stop_words,
    threat,
    waiver_words,
    wanting,
    way_back,
)
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Answer
from hurbin_server.logbook.services.casing import case_for, overrides_for
from hurbin_server.plant.access import set_for, site_for
from hurbin_server.plant.known import pair_of, rows_of
from hurbin_server.plant.models import PumpSet

from . import schemas as s
from .models import (
    CheckBack,
    Deferral,
    GateWaiver,
    IsolationList,
    IsolationState,
    Matter,
    TemporaryChange,
    TrialRun,
)
from .services import hanging
from .services.gating import facts_for
from .services.standing import BENCH, isolation_now
from .services.trying import open_trials
from .serving import services_served

CODES = phrase("safety.codes")


@dataclass(slots=True)
class _Held:
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


def _of_site(site_id: int) -> _Held:
    """What hangs on a site's sets: only those are fetched on which something hangs, and their pairs."""
    on: dict[str, Any] = {"pump_set__site_id": site_id}
    matters = Matter.objects.filter(site_id=site_id, ended_at=None)
    held = _Held(
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


def _of_set(row: PumpSet) -> _Held:
    """What hangs on one set and its pair."""
    held = _Held(
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


def _with_sets(held: _Held, sets: list[PumpSet]) -> _Held:
    held.sets = {x.pk: x for x in sets}
    for x in held.sets.values():
        if x.pair:
            held.pairs[(x.service_id, x.pair)].append(x.pk)
    return held


def _tags(held: _Held, prefs: Prefs, matters: list[s.MatterOut], limits: Limits) -> list[Tag]:
    at = now()
    out: list[Tag] = []

    def hang(
        pk: int | None,
        kind: Any,
        key: str,
        title: str,
        says: str,
        verdict: Verdict,
        since: datetime,
        **more: Any,
    ) -> None:
        tag = held.sets[pk].tag if pk is not None else ""
        out.append(
            Tag(
                kind=kind,
                id=key,
                set_id=pk,
                tag=tag,
                title=title,
                says=says,
                verdict=verdict,
                since=since,
                age=age(since, at),
                **more,
            )
        )

    for st in held.states.values():
        names = [w["name"] for w in st.workers]
        verdict, words = isolation_words(st.state, st.scopes, names)  # type: ignore[arg-type]
        kind = "live" if st.state == "live" else "isolation"
        hang(
            st.pump_set_id,
            kind,
            f"iso{st.pk}",
            "Not isolated" if kind == "live" else "Isolation",
            " ".join([write(words, prefs), st.says]).strip(),
            verdict,
            st.since,
            names=names,
            part="supply",
        )
    for m in matters:
        titles = ", ".join(dict.fromkeys(c.title for c in m.calls))
        says = " ".join([*([m.many] if m.many else []), *m.threatens])
        hang(
            m.set_id,
            "call",
            f"call{m.id}",
            titles,
            says,
            m.verdict,
            m.opened_at,
            place=m.where,
            names=[c.by for c in m.calls][:1],
            part="pump",
        )
    for c in held.changes:
        verdict, words = change_words(
            ChangeState(kind=c.kind, since=c.put_at, by=c.put_by.full_name), at, limits
        )
        hang(
            c.pump_set_id,
            "change",
            c.uuid,
            CHANGES[c.kind].title,
            f"{write(words, prefs)} {c.note}".strip(),
            verdict,
            c.put_at,
            names=[c.put_by.full_name],
            place=c.place,
            part=CHANGES[c.kind].part,
        )
    for d in held.deferrals:
        verdict, words = deferral_words(d.what, d.until, at)
        bounds = " ".join(write(interim_words(InterimLimit.model_validate(x)), prefs) for x in d.limits)
        hang(
            d.pump_set_id,
            "deferral",
            d.uuid,
            "Deferred",
            f"{write(words, prefs)} {bounds}",
            verdict,
            d.at,
            names=[d.by.full_name],
            part=d.part,
        )
    for k in held.checks:
        verdict, words = check_back_words(k.due, k.why, at)
        hang(
            k.pump_set_id,
            "checkback",
            f"back{k.pk}",
            "Follow-up check",
            write(words, prefs),
            verdict,
            k.at,
            part="pump",
        )
    for w in held.waivers:
        hang(
            w.pump_set_id,
            "waiver",
            f"gate{w.pk}",
            "Hold point waived",
            write(waiver_words(w.gate, w.reason, w.until, at), prefs),
            Verdict.WATCH,
            w.at,
            names=[w.by.full_name],
            part="supply",
        )
    for group in held.pairs.values():
        gone = [(pk, a) for pk in group if len(group) > 1 and (a := held.against(pk)) is not None]
        for pk, (why, since) in gone[:1]:
            beside = next(x for x in group if x != pk)
            row = held.sets[pk]
            verdict, words = standby_clock(row.tag, why, since, row.service.consequence, at, limits)
            hang(
                beside,
                "clock",
                f"clock{pk}",
                "No standby available",
                write(words, prefs),
                verdict,
                since,
                part="motor",
            )
    return out


def _matter(m: Matter, user: User, prefs: Prefs, held: _Held | None) -> s.MatterOut:
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
    held = _of_site(site_id)
    matters = [_matter(m, user, prefs, held) for m in held.matters]
    tags = _tags(held, prefs, matters, Limits(_site_overrides(held)))
    return s.SiteSafetyOut(
        as_of=now(),
        tags=(every := sorted(tags, key=lambda t: (-t.verdict.rank, t.since))),
        first=leading(every),
        matters=sorted(matters, key=lambda m: (-m.verdict.rank, m.opened_at)),
        served=services_served(site_id, held.against, prefs),
    )


def _site_overrides(held: _Held) -> list[Any]:
    first = next(iter(held.sets.values()), None)
    return overrides_for(first) if first is not None else []


def _said(x: Any) -> s.SaidOut | None:
    return s.SaidOut(by=x.by, at=x.at, words=x.words) if x is not None else None


def _source(x: SourceState, user: User, prefs: Prefs, back: bool) -> s.SourceOut:
    line = x.source
    return s.SourceOut(
        id=line.id,
        kind=line.kind,
        title=x.title,
        family=SOURCES[line.kind].family,
        device=line.device,
        place=line.place,
        means=line.means,
        lock_how=line.lock,
        try_out=line.try_out,
        sister=line.sister,
        feeds=line.feeds,
        tell=line.tell,
        must=x.must,
        why=x.why,
        complaint=write(x.complaint, prefs) if x.complaint else "",
        shut=_said(x.shut),
        locks=[
            s.LockOut(
                id=k.id, by=k.by, at=k.at, number=k.number, mine=k.who == user.username, age=age(k.at, now())
            )
            for k in x.locks
        ],
        release=x.release,
        read=x.read,
        released=_said(x.released),
        left=show(x.left, prefs) if x.left is not None else "",
        counts=x.counts,
        next=at_source(x, user.username, back),
    )


def _isolation(
    case: AnyCase, user: User, prefs: Prefs, sheet: str, iso: Isolation, lines: list[IsolationSource]
) -> s.IsolationOut:
    p, back = iso.proof, way_back(iso)
    at = p.acts.get("live_after") or p.acts.get("dead") or p.acts.get("live_before")
    words = (
        write(isolation_words(iso.state, iso.scopes, [w.name for w in iso.workers])[1], prefs)
        if iso.state == "live"
        else ""
    )
    listed = {x.id: x.model_dump(exclude={"absent"}) for x in lines if not x.absent}
    return s.IsolationOut(
        state=iso.state,
        stands=write(short, prefs) if (short := stands(iso.state)) else "",
        sheet=sheet,
        since=iso.since,
        scopes=iso.scopes,
        sources=[_source(x, user, prefs, back) for x in iso.sources],
        unsaid=[s.UnsaidOut(kind=k, title=SOURCES[k].title) for k in iso.unsaid],
        proof=s.ProofOut(
            state=p.state,
            why=write(p.why, prefs) if p.why else "",
            tester=p.tester,
            point=p.point,
            by=p.by,
            at=at,
            acts=p.acts,
            steps=acts(iso, SetFacts.of(case), user.username),
            readings={k: show(q, prefs) for k, q in p.readings.items()},
        ),
        workers=[
            s.WorkerOut(
                name=w.name,
                since=w.since,
                age=age(w.since, now()),
                locks=w.locks,
                mine=w.who == user.username,
            )
            for w in iso.workers
        ],
        conflicts=[write(c, prefs) for c in iso.conflicts],
        removals=[x for r in iso.removals if (x := _said(r))],
        handovers=[x for h in iso.handovers if (x := _said(h))],
        steps=[
            step.model_copy(
                update={k: write(phrase(v), prefs) for k in ("caution", "under") if (v := getattr(step, k))}
            )
            for step in rail(iso, case)
        ],
        back=back,
        wanting=wanting(iso, case),
        live=words,
        list_differs=bool(iso.scopes)
        and {x.source.id: x.source.model_dump(exclude={"absent"}) for x in iso.sources} != listed,
        codes=write(CODES, prefs),
    )


def set_safety(user: User, set_id: int, prefs: Prefs) -> s.SetSafetyOut:
    """How one set stands, what hangs on it, and what is offered on it now."""
    row = set_for(user, set_id)
    held = _of_set(row)
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
    return s.SetSafetyOut(
        until=min(ends, default=None),
        set_id=row.pk,
        tag=row.tag,
        isolation=_isolation(case, user, prefs, sheet.uuid if sheet else "", iso, lines),
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
        tags=[t for t in _tags(held, prefs, every, limits) if t.set_id == row.pk],
        offers=[ask(act, facts) for act in OFFERS],
        past=_past(row),
        stops=stop_words(facts.stops),
        trials=[_trial(t) for t in trials],
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
    return _matter(m, user, prefs, _of_set(m.pump_set) if m.pump_set is not None else _of_site(m.site_id))


def deferral_out(d: Deferral, prefs: Prefs) -> s.DeferralOut:
    return _deferral(d, prefs)
