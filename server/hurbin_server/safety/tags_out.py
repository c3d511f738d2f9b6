"""What hangs on sets, as the tags that every page shows."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from hurbin_core.base import Limits, Prefs, Verdict, write
from hurbin_core.logbook import InterimLimit
from hurbin_core.safety import (
    CHANGES,
    ChangeState,
    Tag,
    age,
    change_words,
    check_back_words,
    deferral_words,
    interim_words,
    isolation_words,
    standby_clock,
    waiver_words,
)
from hurbin_server.base.clock import now

from . import schemas as s
from .holding import Held


def tags_of(held: Held, prefs: Prefs, matters: list[s.MatterOut], limits: Limits) -> list[Tag]:
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
