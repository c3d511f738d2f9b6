"""A job as it stands after its entries, in whatever order and from whichever device they came."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from ...base import Entered, FieldRule, HurbinError, Limits, Phrase, Problem, Quantity, amount, read
from ...logbook import Entry, SheetState
from ..anatomy import LOOKS, Tree
from ..compiling import Compiled, JobStep
from ..known import JobKnown
from ..marks import Marks
from ..procedure import Procedure

E_ = Entry[Any]


@dataclass(slots=True)
class Done:
    """A step as it was done or skipped. figure: what was read at it."""

    by: str
    who: str
    at: datetime
    entry: str
    said: str = ""
    figure: Quantity | None = None
    skipped: str = ""


@dataclass(slots=True)
class Change:
    """A temporary change: the step that made it, and the one that restored it."""

    key: str
    change: str
    place: str
    at: datetime
    by: str
    off_at: datetime | None = None


@dataclass(slots=True)
class Said:
    """Anything else that was said: the entry's body with its author."""

    body: Any
    by: str
    who: str
    at: datetime
    entry: str


@dataclass(slots=True)
class Job(SheetState):
    """The whole job. ticked: every done or skip as it came; done: those that count. said: by kind."""

    known: JobKnown = field(default_factory=JobKnown)
    limits: Limits = field(default_factory=Limits)
    procedure: Procedure | None = None
    opened: Said | None = None
    marks: Marks = field(default_factory=dict)
    compiled: Compiled | None = None
    tree: Tree | None = None
    ticked: list[Said] = field(default_factory=list)
    done: dict[str, Done] = field(default_factory=dict)
    waits: dict[str, list[Phrase]] = field(default_factory=dict)
    more: dict[str, list[Said]] = field(default_factory=dict)
    changes: list[Change] = field(default_factory=list)

    def of(self, kind: str) -> list[Said]:
        """What was said of this kind, in order."""
        return self.more.get(kind, [])

    def step(self, name: str) -> JobStep | None:
        steps = self.compiled.steps if self.compiled else []
        return next((s for s in steps if s.id == name), None)

    def is_done(self, name: str) -> bool:
        return name in self.done

    @property
    def standing(self) -> list[Change]:
        """The temporary changes that are still on."""
        return [c for c in self.changes if c.off_at is None]

    @property
    def put_back_at(self) -> datetime | None:
        """When was the last part put back? What is proved is proved after it."""
        at = [
            self.done[s.id].at
            for s in self.steps
            if s.on and s.id in self.done and not self.done[s.id].skipped
        ]
        return max(at, default=None)

    @property
    def steps(self) -> list[JobStep]:
        return self.compiled.steps if self.compiled else []


def figure_of(job: Job, step: JobStep, typed: Entered | None) -> Quantity | None:
    """The figure typed at a step, by the step's own field; a problem under the step where it is none."""
    f = step.figure
    if f is None or typed is None:
        return None
    try:
        got = read(typed, FieldRule(f.name, f.label, f.dimension, f.low, f.high))
    except HurbinError as error:
        job.problems.append(Problem.of(error).model_copy(update={"field": step.id}))
        return None
    return amount(got.value, got.unit, got.bound) if got is not None else None


def look_signs(look: str) -> dict[str, str]:
    """Every sign of a look by its id, in the order in which they are looked for: "reuse.0" and so on."""
    told = LOOKS[look]
    return {
        f"{fate}.{i}": says
        for fate in ("reuse", "mend", "send")
        for i, says in enumerate(getattr(told, fate))
    }
