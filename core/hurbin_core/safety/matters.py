"""Calls and what they threaten, temporary changes, the clock of a lost standby, repairs put off: judged from
what is on record.
"""

from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta
from typing import Literal

from pydantic import AwareDatetime, ConfigDict, Field

from ..base import (
    MEASURANDS,
    RULEBOOK,
    Entered,
    FieldRule,
    HurbinError,
    Limits,
    Model,
    Phrase,
    Verdict,
    by_id,
    exceeds,
    known,
    phrase,
    read,
)
from ..logbook import InterimLimit
from ..plant import PARTS, SERVES
from .sources import MEANS, Means

Stops = Literal["yes", "look", "no"]


class Complaint(Model):
    """What people say when they call, what is done in the first minute, and whether it takes the set out of
    service.
    """

    id: str
    title: str
    stop: Stops
    first: str
    out: bool = False


class ChangeKind(Model):
    """A kind of temporary change and the part its tag hangs on."""

    id: str
    title: str
    part: str


class _File(Model):
    complaint: list[Complaint]
    change: list[ChangeKind]


_data = RULEBOOK.section("safety/matters.toml", _File)
COMPLAINTS: dict[str, Complaint] = by_id(_data.complaint)
CHANGES: dict[str, ChangeKind] = by_id(_data.change)


def check_changes(changes: Iterable[ChangeKind], means: Iterable[Means]) -> None:
    """Does every temporary change hang on a part, and every means that makes one make one there is?"""
    for change in changes:
        known([change.part], PARTS, change.id, "part")
    for m in means:
        known([m.change] if m.change else [], CHANGES, m.id, "change")


check_changes(CHANGES.values(), MEANS.values())


def age(since: datetime, as_of: datetime) -> str:
    """How long ago, as a person says it: minutes under two hours, hours under two days, then days."""
    minutes = max(0, int((as_of - since).total_seconds() // 60))
    if minutes < 120:
        return f"{minutes} min"
    return f"{minutes // 60} h" if minutes < 2880 else f"{minutes // 1440} days"


class TwinState(Model):
    """The other set of a pair: what speaks against it, in a few words; empty when nothing does."""

    tag: str
    against: str = ""


class Threat(Model):
    """What a call threatens and what is done in the first minute."""

    verdict: Verdict
    says: list[Phrase | str]
    first: list[str]


def threat(
    complaints: Sequence[str], serves: str, twins: Sequence[TwinState], single: bool, tag: str
) -> Threat:
    """What do these complaints about one thing threaten, how urgent is it, and what is done in the first
    minute?

    stop: it may hurt somebody, or nothing stands in and something living or sewage hangs on it. act: the
    service loses its reserve. watch: the rest. Common practice, no source.
    """
    said, s = [COMPLAINTS[c] for c in dict.fromkeys(complaints)], SERVES.get(serves, SERVES["other"])
    ready = [t for t in twins if not t.against]
    says: list[Phrase | str] = []
    if single or not twins:
        says += [phrase("call.no_standby", tag=tag)] if tag else []
    says += [phrase("call.standby_out", tag=t.tag, state=t.against) for t in twins if t.against]
    says += [phrase("call.standby_ok", tag=t.tag) for t in ready]
    alone = bool(tag) and not ready
    if s.threat and (alone or not tag):
        says.insert(0, s.threat[0].upper() + s.threat[1:] + ".")
    grave = alone and s.id in ("animals", "sewage")
    verdict = (
        Verdict.STOP
        if grave or any(c.stop == "yes" for c in said)
        else Verdict.ACT
        if alone or any(c.stop == "look" for c in said)
        else Verdict.WATCH
    )
    first = [c.first for c in said]
    first += (
        [
            (
                f"Start {ready[0].tag} in its place."
                if ready
                else "No standby available: tell everybody affected."
            )
        ]
        if tag
        else []
    )
    first.append(f"Tell {s.tell}.")
    return Threat(verdict=verdict, says=says, first=first)


class ChangeState(Model):
    """A temporary change that stands: since when, by whom, and whether somebody should be reminded."""

    kind: str
    since: datetime
    by: str


def change_words(c: ChangeState, as_of: datetime, limits: Limits) -> tuple[Verdict, Phrase]:
    """How does a temporary change stand after this time? watch while it is fresh, act once it is overdue."""
    late = exceeds((as_of - c.since) / timedelta(days=1), limits.value("safety.change_days"))
    template = "change.late" if late else "change.age"
    return Verdict.ACT if late else Verdict.WATCH, phrase(
        template, title=CHANGES[c.kind].title, age=age(c.since, as_of), by=c.by
    )


def standby_clock(
    tag: str, why: str, since: datetime, consequence: int, as_of: datetime, limits: Limits
) -> tuple[Verdict, Phrase]:
    """How long has this pair been without its standby, and is that longer than was agreed here?"""
    days = limits.value(f"safety.standby_days_{min(3, max(1, consequence))}")
    gone = (as_of - since) / timedelta(days=1)
    if exceeds(gone, days):
        over = age(since + timedelta(days=days), as_of)
        return Verdict.ACT, phrase("clock.over", tag=tag, why=why, age=age(since, as_of), over=over)
    return Verdict.WATCH, phrase("clock.running", tag=tag, why=why, age=age(since, as_of))


def matter_words(calls: Sequence[datetime], as_of: datetime) -> Phrase | None:
    """Several calls on one thing are one matter: how many, in how long. None for a single one."""
    return phrase("call.many", n=str(len(calls)), age=age(min(calls), as_of)) if len(calls) > 1 else None


def check_back_words(due: datetime, why: str, as_of: datetime) -> tuple[Verdict, Phrase]:
    """Is it time to look at a set again that was given back?"""
    if as_of >= due:
        return Verdict.ACT, phrase("checkback.due", why=why)
    return Verdict.WATCH, phrase("checkback.wait", left=age(as_of, due), why=why)


class InterimIn(Model):
    """One figure agreed on while a repair is put off, as typed: “stop it if leg 1 passes 52 A”."""

    model_config = ConfigDict(extra="forbid")
    measurand: str = Field(max_length=40, title="Reading")
    leg: Literal["", "1", "2", "3"] = Field(default="", title="Leg")
    floor: bool = Field(default=False, title="Must not fall below")
    value: Entered = Field(title="Limit")
    does: str = Field(min_length=3, max_length=120, title="Action then")


class DeferralIn(Model):
    """Deferring as a decision: what, why, until when, by which interim limits, on what standby, and what
    would change the mind.
    """

    model_config = ConfigDict(extra="forbid")
    part: str = Field(max_length=20, title="Part")
    what: str = Field(min_length=3, max_length=160, title="Repair to defer")
    reason: str = Field(min_length=3, max_length=300, title="Why")
    until: AwareDatetime = Field(title="Until")
    standby: str = Field(min_length=3, max_length=200, title="Condition of the standby")
    changes_mind: str = Field(min_length=3, max_length=300, title="What would end the deferral early")
    limits: list[InterimIn] = Field(default=[], max_length=8)


# The figures that later records are held against, and their dimension.
WATCHED = {m.id: m.watch for m in MEASURANDS.values() if m.watch}


def interim(d: DeferralIn, as_of: datetime) -> list[InterimLimit]:
    """The limits of a deferral as figures, metric. Refused: no limit at all, a figure nobody reads, a time
    gone by.
    """
    if d.until <= as_of:
        raise HurbinError(
            "until_past", "That date has passed. Enter until when it is deferred.", field="until"
        )
    if not d.limits:
        raise HurbinError(
            "limit_missing",
            "Enter at least one interim limit at which it is stopped. A repair deferred without"
            " one gets forgotten.",
            field="limits",
            right="leg current L1 over 52 A",
        )
    out = []
    for i, x in enumerate(d.limits):
        if x.measurand not in WATCHED:
            raise HurbinError(
                "figure_unknown",
                f"“{x.measurand}” is not a reading taken here.",
                field=f"limits.{i}.measurand",
                right=", ".join(WATCHED),
            )
        rule = FieldRule(
            f"limits.{i}.value", MEASURANDS[x.measurand].title, WATCHED[x.measurand], None, None, (), False
        )
        got = read(x.value, rule)
        if got is None:
            raise HurbinError("limit_missing", "Enter the limit.", field=f"limits.{i}.value")
        out.append(
            InterimLimit(
                measurand=x.measurand,
                leg=x.leg,
                floor=x.floor,
                value=got.value,
                unit=got.unit,
                does=x.does,
                until=d.until,
                why=d.what,
            )
        )
    return out
