"""Making safe as a bench: a sheet that several people write on over days, put on record when the set is given
back.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from ..base import (
    Bench,
    DueDate,
    Effect,
    Evaluation,
    Finding,
    HurbinError,
    Limits,
    Missing,
    Needs,
    NoView,
    Phrase,
    Problem,
    TemporaryChange,
    Verdict,
    body_of,
    concluded,
    phrase,
    rules_version,
)
from ..logbook import AnyCase, Entry, in_order
from .entry import MakeSafeEntry
from .isolating import figure_problems, fold
from .isolation import Isolation, scope_words
from .sources import MEANS, TESTERS, SetFacts, check_list
from .steps import rail, wanting_by_step
from .story import story

Sheet = Sequence[Entry[Any]]


@dataclass(slots=True)
class MakingSafe:
    """The sheet as it stands: its isolation, and the entries it was folded from."""

    entries: Sheet
    iso: Isolation


def replay(entries: Sheet, case: AnyCase) -> MakingSafe:
    """How does the set stand after these entries?"""
    return MakingSafe(entries, fold(entries, SetFacts.of(case)))


def judge(sheet: MakingSafe, case: AnyCase) -> Evaluation[NoView]:
    """How does this set stand while it is made safe, and may it be given back?

    `missing` names what the rail still wants. A finding comes only when everything is given back: every lock
    off, guard on, people clear, valves and automatic as found, no temporary change on, the running check on
    record or left with a reason. Until then there is nothing to put on record. Order of steps: see
    `steps.rail`.
    """
    iso, entries = sheet.iso, sheet.entries
    steps = rail(iso, case)
    waits = wanting_by_step(steps)
    raw = [_given_back(iso)] if entries and not waits and iso.scopes else []
    problems = [*figure_problems(entries), *_list_problems(entries)]
    findings, verdict, beside = concluded(raw, _lacking(iso), problems)
    return Evaluation[NoView](
        bench="make_safe",
        rules_version=rules_version(),
        conditions=",".join(sorted(iso.scopes)),
        verdict=verdict if findings else Verdict.STOP if iso.state == "live" else Verdict.UNKNOWN,
        beside=beside,
        findings=findings,
        questions=iso.conflicts,
        cautions=[
            phrase("safety.codes"),
            *(phrase(s.caution) for s in steps if s.state == "now" and s.caution),
        ],
        problems=problems,
        missing=[Missing(field=step, message=f"Before return to service: {words}.") for step, words in waits],
        view=NoView(),
    )


def effects(sheet: MakingSafe, case: AnyCase, recorded: bool) -> list[Effect]:
    """A step that lifts a wire hangs its own tag and takes it off when the source is as found; a set
    given back is looked at again.
    """
    out: list[Effect] = []
    for s in sheet.iso.sources:
        change = MEANS[s.source.means].change if s.source.means in MEANS else ""
        if change:
            at = s.shut.at if s.shut is not None else case.context.as_of
            place = ", ".join(x for x in (s.source.device, s.source.place) if x)
            out.append(
                TemporaryChange(
                    key=s.source.id,
                    change=change,
                    place=place,
                    note="for isolation",
                    on=s.shut is not None,
                    at=at,
                )
            )
    if recorded and sheet.entries:
        given_back = max(e.taken_at for e in sheet.entries)
        due = check_back_due(given_back, Limits(case.context.overrides))
        out.append(DueDate(key="check_back", what="check_back", at=due, why="it was given back after work"))
    return out


def check_back_due(given_back: datetime, limits: Limits) -> datetime:
    """When is a set that was given back looked at again?"""
    return given_back + timedelta(days=limits.value("safety.check_back_days"))


def _list_problems(entries: Sheet) -> list[Problem]:
    for e in entries:
        try:
            check_list(getattr(e.body, "sources", None) or [])
        except HurbinError as error:
            return [Problem.of(error)]
    return []


def _lacking(iso: Isolation) -> dict[str, Phrase | None]:
    wanting = {
        "safe.told": iso.told is None,
        "safe.stopped": iso.stopped is None,
        "safe.tried": iso.tried is None,
    }
    return {ground: None for ground, lacks in wanting.items() if lacks}


def _given_back(iso: Isolation) -> Finding:
    """What the record says of how it was done: good only when it was proved, worked under that proof, each by
    an own lock, and returned in order.
    """
    told = (
        (iso.moved_once, Verdict.ACT, "safety.said_moved"),
        (iso.volts_seen is not None, Verdict.WATCH, "safety.said_live"),
        (iso.proved_once is None, Verdict.WATCH, "safety.said_unproved"),
        (bool(iso.unproved_work), Verdict.WATCH, "safety.said_work"),
        (bool(iso.unlocked_work), Verdict.WATCH, "safety.said_locks"),
        (bool(iso.out_of_order), Verdict.WATCH, "safety.said_order"),
        (True, Verdict.GOOD, "safety.said"),
    )
    verdict, words = next((v, w) for is_so, v, w in told if is_so)
    return Finding(
        question="made_safe",
        part="supply",
        verdict=verdict,
        rule="made_safe",
        reason=phrase(words, scopes=scope_words(iso.scopes)),
        notes=iso.out_of_order,
    )


def facts(entries: Sheet) -> dict[str, Any]:
    """What a record keeps: everything that was said and done, in order, as entered."""
    rows = in_order(entries)
    return {"entries": [{"at": e.taken_at.isoformat(), "by": e.by, **body_of(e.body)} for e in rows]}


MAKE_SAFE = Bench(
    name="make_safe",
    title="Isolation",
    offer="Isolate",
    one="an isolation",
    key="m",
    does="make this set safe",
    place=10,
    part="supply",
    entry=MakeSafeEntry,
    view=NoView,
    needs=Needs(plates=("motor", "control"), extras=(TESTERS,)),
    replay=replay,
    judge=judge,
    effects=effects,
    facts=facts,
    lasting=False,
    many=True,
    single=True,
    story=story,
    files=None,
)
