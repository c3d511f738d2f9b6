"""What the small benches of this room share: one entry, read once, answered by the same form."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Generic, TypeVar, cast

from pydantic import BaseModel

from ..base import (
    RULES,
    Bench,
    By,
    Evaluation,
    Finding,
    Limits,
    Missing,
    Model,
    Needs,
    Phrase,
    Quantity,
    Unknown,
    UsedLimit,
    Verdict,
    concluded,
    judge_steps,
    rules_version,
)
from ..hydraulics import Typed, again, typed_of
from ..logbook import AnyCase, Entry, newest, newest_body
from ..safety import guarded

B = TypeVar("B", bound=Model)
V = TypeVar("V", bound=BaseModel)


@dataclass(slots=True)
class Tool(Generic[B]):
    """A sheet of one entry, understood: what was said, its figures, the limits that hold here."""

    body: B
    t: Typed
    limits: Limits
    case: AnyCase

    def get(self, name: str) -> float | None:
        return self.t.got.get(name)

    def readings(self, *names: str) -> list[float]:
        """Those of these figures that were read."""
        return [self.t.got[n] for n in names if n in self.t.got]


def tool_of(entries: Sequence[Entry[Any]], model: type[B], case: AnyCase) -> Tool[B]:
    """The newest word on a small sheet, read once."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else model()
    limits = Limits(case.context.overrides)
    return Tool(body, typed_of(body, limits), limits, case)


def judge_tool(
    tool: Tool[Any],
    rule: str,
    figure: Quantity,
    reason: Phrase,
    *notes: Phrase,
    part: str = "pump",
    subject: str = "",
    instead: Mapping[str, UsedLimit] | None = None,
    working: Sequence[Phrase] = (),
) -> Finding:
    """A figure held against its rule; `instead`: a limit that stands in the place of its own on this part."""
    ruled = RULES[rule]
    told = judge_steps(ruled, figure, tool.limits.steps(rule, instead), ruled.beyond)
    unsure = told.verdict is Verdict.UNKNOWN
    return Finding(
        question=rule,
        subject=subject,
        part=part,
        verdict=told.verdict,
        by=told.by if told.by or told.verdict is Verdict.GOOD else By.NOW,
        unknown=Unknown.INCONCLUSIVE if unsure else None,
        rule=rule,
        reason=reason,
        working=list(working),
        notes=list(notes),
        line=told.line,
        limits=told.limits,
    )


def told(
    bench: str,
    tool: Tool[Any],
    raw: Sequence[Finding | None],
    lacking: Mapping[str, Phrase | None],
    view: V,
    *,
    values: Mapping[str, Quantity] | None = None,
    cautions: Sequence[Phrase] = (),
    missing: Sequence[tuple[str, str]] = (),
    waiting: Sequence[Phrase] = (),
) -> Evaluation[V]:
    """The whole answer of a small bench: every finding on its ground."""
    found, verdict, beside = concluded([f for f in raw if f is not None], lacking, tool.t.problems)
    # Told by its own view: the answer that is sent is made for exactly that one.
    made = cast(type[Evaluation[V]], Evaluation.__class_getitem__(type(view)))
    return made(
        bench=bench,
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        values=dict(values or {}),
        findings=found,
        cautions=list(cautions),
        waiting=list(waiting),
        due=again(tool.case),
        problems=tool.t.problems,
        missing=[Missing(field=f, message=m) for f, m in missing],
        view=view,
    )


def lacks(**wanting: bool) -> dict[str, Phrase | None]:
    """Which grounds are wanting: `fits__angles=True` is the ground "fits.angles"."""
    return {n.replace("__", "."): None for n, is_so in wanting.items() if is_so}


def small_bench(
    name: str,
    key: str,
    title: str,
    records: str,
    one: str,
    offer: str,
    does: str,
    place: int,
    part: str,
    entry: type[Any],
    view: type[V],
    replay: Any,
    judge: Any,
    plates: tuple[str, ...] = (),
) -> Bench[Any, V]:
    """A bench of one entry that stands on its own and opens at a step of a job."""
    return Bench(
        name=name,
        title=title,
        records=records,
        one=one,
        offer=offer,
        key=key,
        does=does,
        place=place,
        part=part,
        entry=entry,
        view=view,
        needs=Needs(plates=plates),
        replay=replay,
        judge=guarded(judge),
        facts=newest_body,
        routine=False,
        read_with=("length",),
    )
