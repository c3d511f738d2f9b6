"""From a sheet's entries, in whatever order and from whichever device they came, to how the sheet stands."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, TypeVar

from ..base import (
    Entered,
    FieldRule,
    HurbinError,
    KeptField,
    Phrase,
    Problem,
    Read,
    field_rules,
    is_said,
    kept_fields,
    phrase,
    read,
)
from .case import Entry


@dataclass(slots=True)
class Word:
    """The newest word on a field, and the entry that brought it."""

    value: Any
    entry: Entry[Any]


@dataclass(slots=True)
class SheetState:
    """How a sheet stands: what every bench's own state adds to.

    entries: those that count, in their order. words: the newest word on each field that is kept with the set
    or the visit. read: its figure, where it is one. conflicts: what was said differently, told and never
    dropped. late: what came after the sheet was on record.
    """

    entries: list[Entry[Any]] = field(default_factory=list)
    words: dict[str, Word] = field(default_factory=dict)
    read: dict[str, Read] = field(default_factory=dict)
    conflicts: list[Phrase] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)
    late: list[Entry[Any]] = field(default_factory=list)

    def said(self, name: str) -> Any:
        """The newest word on a field; None where nobody said one."""
        word = self.words.get(name)
        return word.value if word is not None else None

    def figure(self, name: str) -> float | None:
        """The figure of a kept field, metric; None where it was not read, or is none."""
        return self.read[name].value if name in self.read else None


S = TypeVar("S", bound=SheetState)
Handlers = Mapping[str, Callable[[Any, Any], None]]


def in_order(entries: Sequence[Entry[Any]]) -> list[Entry[Any]]:
    """Entries as they count: by the second they were taken, then by their id; each once."""
    return sorted({e.uuid: e for e in entries}.values(), key=lambda e: (e.taken_at, e.uuid))


def replay(
    entries: Sequence[Entry[Any]],
    state: S,
    handlers: Handlers,
    *,
    entry: Any,
    pencil: Collection[str] = (),
    undoable: Collection[str] | None = None,
    begun: Callable[[Any], None] | None = None,
) -> S:
    """How does a sheet stand after these entries? The same entries in any order of arrival give the same
    state.

    entry: the bench's union: its fields say what is kept. pencil: kinds whose words are tried, never kept.
    undoable: the kinds that may be taken back (all, unless said). First every word is gathered and read once,
    then `begun` is called, then each entry goes to its handler.
    """
    counted = in_order(entries)
    undone = {e.body.undoes for e in counted if e.body.kind == "undo"}
    for e in counted:
        back = e.uuid in undone and (undoable is None or e.body.kind in undoable)
        if e.late:
            state.late.append(e)
        elif not back and e.body.kind != "undo":
            state.entries.append(e)
    kept = kept_fields(entry)
    for e in state.entries:
        if e.body.kind not in pencil:
            _gather(state, e, kept)
    _read_words(state, entry)
    if begun is not None:
        begun(state)
    for e in state.entries:
        handle = handlers.get(e.body.kind)
        if handle is not None:
            handle(state, e)
    return state


def _gather(state: SheetState, e: Entry[Any], fields: Mapping[str, KeptField]) -> None:
    said = e.body.__dict__
    for name, kept in fields.items():
        value = said.get(name)
        if not is_said(value):
            continue
        before = state.words.get(name)
        if before is not None and before.entry.device != e.device and before.value != value and not kept.free:
            state.conflicts.append(differ(kept, before.value, value))
        state.words[name] = Word(value, e)


def differ(kept: KeptField, first: Any, second: Any) -> Phrase:
    """Two devices said different things: both are told, the later one counts."""
    return phrase("sheet.two_words", what=kept.title, first=in_words(first), second=in_words(second))


def in_words(value: Any) -> str:
    """A word or a figure as it was entered."""
    if isinstance(value, Entered):
        return f"{value.text} {value.unit}".strip()
    if isinstance(value, bool):
        return "yes" if value else "no"
    return str(value)


def _read_words(state: SheetState, entry: Any) -> None:
    """Each kept figure once, by its newest word; a problem for each that is none."""
    for name, rule in field_rules(entry).items():
        word = state.words.get(name)
        if word is None:
            continue
        got = read_or(state.problems, word.value, rule)
        if got is not None:
            state.read[name] = got


def read_or(
    problems: list[Problem],
    typed: Entered | None,
    rule: FieldRule,
    field: str = "",
    ceiling: Read | None = None,
) -> Read | None:
    """The figure typed here, or a problem under this field; None where nothing was typed, or nothing that
    is one.
    """
    try:
        return read(typed, rule, ceiling)
    except HurbinError as error:
        told = Problem.of(error)
        problems.append(told.model_copy(update={"field": field}) if field else told)
        return None
