"""How long a job takes here: from this shop's own past jobs, else the figures of its procedure."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any

from ..known import PastJob

# A step that seems to take longer was interrupted: somebody went home.
LONGEST = timedelta(hours=4)


def past_job(body: Mapping[str, Any], kind: str) -> PastJob:
    """How long did the job of this record take, whole and by step? Minutes between one tick and the next; a
    pause is no work. kind: of its set. Source: common practice, no source.
    """
    entries = body.get("entries", [])
    ticks = [(datetime.fromisoformat(e["at"]), e["step"]) for e in entries if e.get("kind") == "done"]
    before = next((datetime.fromisoformat(e["at"]) for e in entries if e.get("kind", "open") == "open"), None)
    steps: dict[str, float] = {}
    for at, step in ticks:
        if before is not None and timedelta(0) < at - before <= LONGEST:
            steps.setdefault(step, (at - before).total_seconds() / 60)
        before = at
    people = {e.get("by", "") for e in entries if e.get("kind") == "done"} - {""}
    return PastJob(
        procedure=body.get("procedure", ""),
        kind=kind,
        minutes=sum(steps.values()),
        people=max(1, len(people)),
        steps=steps,
    )


def in_words(minutes: float) -> str:
    """Minutes as people say them.

    >>> in_words(130), in_words(50), in_words(60)
    ('2 h 10 min', '50 min', '1 h')
    """
    whole = max(0, round(minutes / 5) * 5) if minutes >= 20 else max(0, round(minutes))
    hours, rest = divmod(whole, 60)
    return " ".join(
        x for x in (f"{hours} h" if hours else "", f"{rest} min" if rest or not hours else "") if x
    )


def own(past: Sequence[PastJob], procedure: str, kind: str) -> list[PastJob]:
    """The past jobs of this procedure, of the same kind of set where there are any."""
    rows = [p for p in past if p.procedure == procedure]
    return [p for p in rows if p.kind == kind] or rows


def step_minutes(rows: Sequence[PastJob], step: str, else_: float) -> tuple[float, bool]:
    """The mean time of a step here, minutes; and whether it is from here."""
    told = [p.steps[step] for p in rows if p.steps.get(step)]
    return (sum(told) / len(told), True) if told else (else_, False)


def span(rows: Sequence[PastJob], shipped: tuple[float, float]) -> tuple[float, float, int]:
    """From least to most, minutes, and of how many jobs here; 0: the procedure's own figures."""
    told = [p.minutes for p in rows if p.minutes > 0]
    return (min(told), max(told), len(told)) if told else (*shipped, 0)
