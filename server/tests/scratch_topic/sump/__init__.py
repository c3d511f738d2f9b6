"""A sump's level: the smallest whole bench there is, to show what adding one takes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

from pydantic import BaseModel

from ..base import (
    Bench,
    Effect,
    Entered,
    Evaluation,
    Finding,
    Limits,
    Needs,
    PartEvent,
    Quantity,
    Series,
    SeriesPoint,
    amount,
    concluded,
    entered_field,
    judge,
    phrase,
    read_fields,
    rules_version,
    said_field,
)
from ..logbook import AnyCase, Entry, ghosts_of, newest, newest_body


class SumpEntry(BaseModel):
    """One look into the sump."""

    level: Entered | None = entered_field("Water over the float", "length", low=0, high=3000)
    pump: Literal["running", "standing"] | None = said_field("The pump is")
    flooded: bool = said_field("The floor was under water", False)


class SumpView(BaseModel):
    """How full it is drawn, 0 to 1, and the level beside it."""

    filled: float = 0.0
    level: Quantity | None = None


class Looked(BaseModel):
    """What was typed, and the level as read."""

    body: SumpEntry
    level: float | None
    problems: list[Any]


def replay(entries: Sequence[Entry[SumpEntry]], case: AnyCase) -> Looked:
    entry = newest(list(entries))
    body = entry.body if entry is not None else SumpEntry()
    got, problems = read_fields(body)
    return Looked(body=body, level=got["level"].value if "level" in got else None, problems=problems)


def judge_sump(seen: Looked, case: AnyCase) -> Evaluation[SumpView]:
    """Does the water stand lower than the floor can bear?"""
    limits, level = Limits(case.context.overrides), seen.level
    raw: list[Finding] = []
    if level is not None:
        told = judge("sump_level", amount(level, "mm"), limits)
        past = [p.value for p in case.context.history]
        raw.append(
            Finding(
                question="sump_level",
                part="pump",
                verdict=told.verdict,
                by=told.by,
                rule="sump_level",
                line=told.line,
                limits=told.limits,
                reason=phrase("sump.level", level=amount(level, "mm"), n=str(len(past))),
            )
        )
    lacks = {"sump.pump": None} if seen.body.pump is None else {}
    findings, verdict, beside = concluded(raw, lacks, seen.problems)
    points = [SeriesPoint(measurand="sump_level", part="", conditions="", value=level or 0.0, unit="mm")]
    return Evaluation[SumpView](
        bench="sump",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=findings,
        points=points if level is not None else [],
        ghosts=ghosts_of(case.context.last, ["level"]),
        problems=seen.problems,
        view=SumpView(
            filled=min(1.0, (level or 0.0) / limits.value("sump.act")),
            level=amount(level, "mm") if level is not None else None,
        ),
    )


def effects(seen: Looked, case: AnyCase, recorded: bool) -> list[Effect]:
    """Water on the floor befell the whole set: what was said before belongs to another state of it."""
    if not (recorded and seen.body.flooded):
        return []
    return [PartEvent(key="flood", event="flood", at=case.context.as_of, note="the sump ran over")]


BENCHES = (
    Bench(
        name="sump",
        title="Sump",
        part="pump",
        act="open_wet_end",
        entry=SumpEntry,
        view=SumpView,
        needs=Needs(series=(Series("sump_level", 5, owner=""),)),
        replay=replay,
        judge=judge_sump,
        effects=effects,
        facts=newest_body,
    ),
)
