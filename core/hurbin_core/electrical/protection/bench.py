"""The bench for a motor's protection: overload, short-circuit device, starts an hour."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta

from ...base import (
    Bench,
    Evaluation,
    Finding,
    Limits,
    Missing,
    Needs,
    Phrase,
    SeriesPoint,
    amount,
    concluded,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...plant import motor_facts
from ...safety import guarded
from ..lasting import again
from .drawn import drawn
from .entry import ProtectionEntry
from .overload import class_finding, lost_leg_finding, lost_times, reset_finding, setting_finding
from .sheet import Guard, lasting, understand
from .short import by_table, fault_finding, short_finding
from .starts import Log, covers, read_log, recent, starts_finding
from .view import ProtectionView


def replay(entries: Sequence[Entry[ProtectionEntry]], case: AnyCase) -> Guard:
    """The newest word on this protection, read once."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else ProtectionEntry()
    context = case.context
    return understand(
        body,
        motor_facts(context.motor),
        context.control,
        context.control_kind,
        Limits(context.overrides),
    )


def judge(g: Guard, case: AnyCase) -> Evaluation[ProtectionView]:
    """Where does the overload trip and what does it protect, does its class fit, is the short-circuit device
    right, does it start too often?

    A, s, kA. Every field may be missing: what hangs on it is then unknown.
    """
    log = read_log(g.body.starts)
    g.problems = [*g.problems, *log.problems]
    asked = (
        setting_finding(g),
        class_finding(g),
        lost_leg_finding(g),
        reset_finding(g),
        short_finding(g),
        fault_finding(g),
        starts_finding(g, log),
    )
    raw = [_until(f, g, case) for f in asked if f is not None]
    found, verdict, beside = concluded(raw, _lacking(g, log, case), g.problems)
    return Evaluation[ProtectionView](
        bench="protection",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=found,
        settled=["overload_lost_leg"] if lost_times(g) is not None else [],
        cautions=[] if raw else [phrase("protection.caution")],
        waiting=_lost(g),
        points=_points(g),
        due=again(case, "lasting.set"),
        problems=g.problems,
        missing=_missing(g),
        view=drawn(g, log),
    )


def _until(found: Finding, g: Guard, case: AnyCase) -> Finding:
    """A log of starts stands no longer than it counts as recent."""
    if found.question != "starts_hour":
        return found
    days = timedelta(days=g.limits.value("starts.old"))
    return found.model_copy(update={"due": case.context.as_of + days})


def _lacking(g: Guard, log: Log, case: AnyCase) -> dict[str, Phrase | None]:
    wanting = {
        "protection.kind": not g.device or (g.device == "drive" and g.control_kind != "drive"),
        "protection.path": not g.path_known,
        "protection.class": g.seconds is None,
        "protection.start": not {"start_amps", "start_seconds"} <= g.got.keys(),
        "protection.stall": "stall_seconds" not in g.got,
        "protection.table": by_table(g) and not g.body.table_read,
        "protection.recent": not recent(g, log, case.context.as_of.date()),
        "protection.log": bool(log.at) and not covers(g, log),
    }
    return {n: None for n, lacks in wanting.items() if lacks}


def _lost(g: Guard) -> list[Phrase]:
    """What a lost leg would do: told, not judged."""
    lost = lost_times(g) if g.device in ("thermal", "electronic") else None
    if lost is None:
        return []
    amps, cold, hot, least = lost
    said = phrase(
        "protection.lost_trips",
        amps=amount(amps, "A"),
        cold=lasting(cold),
        hot=lasting(hot),
    )
    return [said, phrase("protection.lost_below", load=amount(100 * least, "%"))]


def _points(g: Guard) -> list[SeriesPoint]:
    """The trip in the line, where it is one figure: what a running check holds the motor against."""
    dial, factor = g.got.get("dial"), g.multiplier
    if not dial or factor is None or not g.path_known or g.device not in ("thermal", "electronic", "drive"):
        return []
    where = "at=drive_output" if g.device == "drive" else "at=starter"
    value = g.in_line(dial * factor)
    return [SeriesPoint(measurand="overload_trip", part="control", conditions=where, value=value, unit="A")]


def _missing(g: Guard) -> list[Missing]:
    if g.device in ("none", "inside"):
        return []
    if not g.body.overload and "dial" not in g.got and not g.body.short and not g.body.starts:
        return [Missing(field="dial", message="Enter which overload it has and what its dial stands at.")]
    if g.device and "dial" not in g.got and g.body.overload:
        return [Missing(field="dial", message="Enter what the dial stands at.")]
    return []


PROTECTION = Bench(
    name="protection",
    title="Protection",
    records="Protection checks",
    one="a protection check",
    offer="Check the protection",
    key="2",
    does="check its overload and short-circuit device",
    place=84,
    part="control",
    entry=ProtectionEntry,
    view=ProtectionView,
    needs=Needs(plates=("motor", "control")),
    replay=replay,
    judge=guarded(judge),
    facts=newest_body,
    routine=False,
)
