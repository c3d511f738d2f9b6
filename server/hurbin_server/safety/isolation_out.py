"""How far the isolation of one set is, as its page shows it."""

from __future__ import annotations

from typing import Any

from hurbin_core.base import Prefs, phrase, show, write
from hurbin_core.logbook import AnyCase
from hurbin_core.safety import (
    SOURCES,
    Isolation,
    IsolationSource,
    SetFacts,
    SourceState,
    acts,
    age,
    at_source,
    isolation_words,
    rail,
    stands,
    wanting,
    way_back,
)
from hurbin_server.base.clock import now
from hurbin_server.base.models import User

from . import schemas as s

CODES = phrase("safety.codes")


def said_out(x: Any) -> s.SaidOut | None:
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
        shut=said_out(x.shut),
        locks=[
            s.LockOut(
                id=k.id, by=k.by, at=k.at, number=k.number, mine=k.who == user.username, age=age(k.at, now())
            )
            for k in x.locks
        ],
        release=x.release,
        read=x.read,
        released=said_out(x.released),
        left=show(x.left, prefs) if x.left is not None else "",
        counts=x.counts,
        next=at_source(x, user.username, back),
    )


def isolation_out(
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
        removals=[x for r in iso.removals if (x := said_out(r))],
        handovers=[x for h in iso.handovers if (x := said_out(h))],
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
