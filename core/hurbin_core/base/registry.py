"""One list of benches: HTTP, the command line, imports and tests all come through here."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import Any

from pydantic import BaseModel

from .. import __version__
from .errors import HurbinError
from .evaluation import Evaluation, StoryLine
from .limits import data_files


@dataclass(frozen=True)
class Needs:
    """What a bench wants to know of the set: history per measurand (how many, newest last), earlier sheets, the twin, slots."""

    series: tuple[tuple[str, int], ...] = ()
    earlier: int = 0
    twin: bool = False
    slots: tuple[str, ...] = ()


@dataclass(frozen=True)
class Bench:
    """One sheet of work. `evaluate` folds the entries; `entry` describes one of them; `facts` is what a record keeps
    of them as typed. `many`: the sheet stays open and takes entries from several devices until it is closed. `single`:
    a set has one such sheet at a time; whoever opens another writes on the one that is open. `story` reads a record's facts as what happened, line by line. For files: `timed` says that its rows hold readings at
    their seconds, `rows` parts a record into the lines of a table, `entries` makes a record's entries again (when, body, by whom)."""

    name: str
    title: str
    entry: type[BaseModel]
    context: type[BaseModel]
    evaluate: Callable[[Sequence[Any], Any], Evaluation]
    needs: Needs
    facts: Callable[[Sequence[Any]], dict[str, Any]]
    many: bool = False
    single: bool = False
    story: Callable[[dict[str, Any]], list[StoryLine]] | None = None
    timed: bool = False
    rows: Callable[[dict[str, Any], datetime], list[tuple[datetime, dict[str, Any]]]] | None = None
    entries: Callable[[dict[str, Any], datetime], list[tuple[datetime, dict[str, Any], str]]] | None = None


_BENCHES: dict[str, Bench] = {}


def register(bench: Bench) -> Bench:
    if bench.name in _BENCHES:
        raise HurbinError("bench_twice", f"Two benches are called {bench.name}.", field="bench", value=bench.name)
    _BENCHES[bench.name] = bench
    return bench


def benches() -> list[Bench]:
    return sorted(_BENCHES.values(), key=lambda b: b.name)


def bench(name: str) -> Bench:
    found = _BENCHES.get(name)
    if found is None:
        right = ", ".join(sorted(_BENCHES))
        raise HurbinError("bench_unknown", f"There is no bench “{name}”.", field="bench", value=name, right=right)
    return found


@lru_cache(maxsize=1)
def rules_version() -> str:
    """Package version and a hash of the data files: which rules judged this."""
    digest = hashlib.sha256()
    for name, raw in sorted(data_files().items()):
        digest.update(name.encode() + b"\0" + raw)
    return f"{__version__}+{digest.hexdigest()[:10]}"
