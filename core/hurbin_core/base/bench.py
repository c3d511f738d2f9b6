"""The one shape of a bench: what it takes, what it wants to know, how it folds, judges, and what its save
performs.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any, Generic, TypeVar

from pydantic import BaseModel

from .effects import Effect
from .errors import HurbinError
from .evaluation import Evaluation, RunClock, StoryLine

S = TypeVar("S")
V = TypeVar("V", bound=BaseModel)


@dataclass(frozen=True)
class Series:
    """The last `last` points of a measurand; `owner`: the slot whose component owns them, empty for the
    position.
    """

    measurand: str
    last: int
    owner: str = "motor"


@dataclass(frozen=True)
class Needs:
    """What a bench wants to know of the set: plates by slot, series, how many earlier sheets, the twin,
    and extras that other rooms registered by name.
    """

    plates: tuple[str, ...] = ()
    series: tuple[Series, ...] = ()
    earlier: int = 0
    twin: bool = False
    extras: tuple[str, ...] = ()


Rows = list[tuple[datetime, dict[str, Any]]]
Authored = list[tuple[datetime, dict[str, Any], str]]


@dataclass(frozen=True)
class Timed:
    """Rows that hold readings at their seconds. kind, place, second, value: what one reading is as an
    entry. places: the prefix of a column and the place it stands for, the usual one first. marks: the
    usual seconds. setup, readings: where a record's facts hold what was said, and what was read.
    """

    kind: str
    place: str
    second: str
    value: str
    unit: str
    places: dict[str, str]
    marks: tuple[int, ...] = ()
    setup: str = "setup"
    readings: str = "readings"

    def body(self, place: str, second: float, typed: dict[str, Any]) -> dict[str, Any]:
        """One reading as an entry's body."""
        return {"kind": self.kind, self.place: place, self.second: second, self.value: typed}

    def value_at(self, facts: dict[str, Any], place: str, second: float) -> Any:
        """What a record read there at that second; None where it did not."""
        rows = facts.get(self.readings, [])
        return next(
            (r[self.value] for r in rows if r[self.place] == place and r[self.second] == second), None
        )


@dataclass(frozen=True)
class Filed:
    """How records go to files and come back. timed: rows hold readings at their seconds. rows: a record
    as the lines of a table. entries: the entries of a record again (when, body, by whom).
    """

    timed: Timed | None = None
    rows: Callable[[dict[str, Any], datetime], Rows] | None = None
    entries: Callable[[dict[str, Any], datetime], Authored] | None = None


# What every bench's answer is held against besides its own rules: rooms beneath the benches add to it.
Holding = Callable[["AnyBench", Evaluation[Any], Any, Sequence[Any]], Evaluation[Any]]
HELD: list[Holding] = []


def _nothing(state: Any, case: Any, recorded: bool) -> list[Effect]:
    return []


@dataclass(frozen=True, kw_only=True)
class Bench(Generic[S, V]):
    """One sheet of work.

    part: the part of the train it hangs on. act: what its gates are asked for. entry: what one entry may be
    (one model, or a union told apart by `kind`). view: its own drawing data. replay: from entries to how the
    sheet stands; judge: from that to the answer; effects: what the save performs once, in its transaction
    (`recorded`: the sheet is on record now). facts: what a record keeps of the entries, as typed.
    evidence: what a record of it proves to the gates by being there (`restart`). routine: it is done again
    and again; a search is not. lasting: its effects come
    with the record alone, not while its sheet is open. many: the sheet stays open and takes entries from
    several devices until it is closed. single: a set has one such sheet at a time. story: a record's facts as
    what happened. clocks: the timed runs of an answer. files: how its records go to files; none: they do not.

    How it is found: records: what several of its records are called. offer: what its door on a set says.
    key, does: the key that leads there from a set, and what it does. slot: what a set must have for it;
    none: every set. kinds: one of these components must be fitted; sets: only sets of
    these kinds have it. place: where it stands among the others,
    lowest first. leads: it is what a set is most often opened for. one: a record of it, with its article.
    gated: what is not offered while its gates are shut, the whole sheet being kept back then; none: the
    bench itself shows what its gates keep back. seen: under what words something that was read all the same
    is written down. read_with: the dimensions that are read with an instrument here.
    """

    name: str
    title: str
    part: str
    act: str = ""
    entry: Any
    view: type[V]
    needs: Needs = Needs()
    replay: Callable[[Sequence[Any], Any], S]
    judge: Callable[[S, Any], Evaluation[V]]
    effects: Callable[[S, Any, bool], list[Effect]] = _nothing
    facts: Callable[[Sequence[Any]], dict[str, Any]]
    evidence: tuple[str, ...] = ()
    lasting: bool = True
    many: bool = False
    single: bool = False
    routine: bool = True
    story: Callable[[dict[str, Any]], list[StoryLine]] | None = None
    clocks: Callable[[Evaluation[V]], list[RunClock]] | None = None
    files: Filed | None = field(default_factory=Filed)
    records: str = ""
    offer: str = ""
    key: str = ""
    does: str = ""
    slot: str = ""
    kinds: tuple[str, ...] = ()
    sets: tuple[str, ...] = ()
    place: int = 50
    leads: bool = False
    one: str = ""
    gated: str = ""
    seen: str = ""
    read_with: tuple[str, ...] = ()

    def evaluate(self, case: Any, entries: Sequence[Any]) -> Evaluation[V]:
        """What do these entries say, with those that are filed already, on a set that stands like this?
        Pure: the same case and entries give the same answer.
        """
        every = self.together(case, entries)
        answer = self.judge(self.replay(every, case), case)
        for held in HELD:
            answer = held(self, answer, case, every)
        return answer

    def performs(self, case: Any, entries: Sequence[Any], recorded: bool) -> list[Effect]:
        """What does keeping these entries bring about besides the record?"""
        return self.effects(self.replay(self.together(case, entries), case), case, recorded)

    def together(self, case: Any, entries: Sequence[Any]) -> list[Any]:
        """The entries that are filed and these, each once; a filed one as it stands on file."""
        held = {e.uuid for e in case.filed}
        return [*case.filed, *(e for e in entries if e.uuid not in held)]


def once(benches: Sequence[Bench[Any, Any]]) -> dict[str, Bench[Any, Any]]:
    """The benches by name. Raises `bench_twice` when two are called the same, or reached by the same key."""
    out: dict[str, Bench[Any, Any]] = {}
    keys: set[str] = set()
    for b in sorted(benches, key=lambda b: b.name):
        if b.name in out:
            raise HurbinError("bench_twice", f"Two benches are called {b.name}.", field="bench", value=b.name)
        if b.key and b.key in keys:
            raise HurbinError("bench_twice", f"{b.name} has another bench's key.", field="key", value=b.key)
        out[b.name] = b
        keys.add(b.key)
    return out


AnyBench = Bench[Any, Any]
