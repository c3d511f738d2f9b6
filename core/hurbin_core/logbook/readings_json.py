"""Records as JSON, in as they went out: a list of objects with `tag`, `taken_at` and `facts`.
`docs/formats.md`.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any
from zoneinfo import ZoneInfo

from pydantic import ValidationError

from ..base import AnyBench, HurbinError, Problem, body_of, entry_of, place_of
from .dates import read_time
from .readings_csv import MOST_ROWS, READ_WITH, FileRow, filed, named_in


def looks_like_json(text: str) -> bool:
    return text.lstrip()[:1] in ("[", "{")


@dataclass(slots=True)
class JsonFile:
    """A file of records opened: rows one by one, `line` counting the records."""

    bench: AnyBench
    items: list[Any]
    zone: ZoneInfo

    @property
    def total(self) -> int:
        return len(self.items)

    def rows(self) -> Iterator[FileRow]:
        for n, item in enumerate(self.items, 1):
            yield self._row(n, item)

    def _row(self, n: int, item: Any) -> FileRow:
        row = FileRow(n, "")
        if not isinstance(item, dict):
            row.problems.append(
                Problem(
                    code="row_wrong",
                    field="row",
                    value="",
                    message="This is not a record: it needs tag, taken_at and facts.",
                )
            )
            return row
        row.tag = str(item.get("tag", ""))[:60]
        bench, facts = item.get("bench", self.bench.name), item.get("facts")
        if not row.tag:
            row.problems.append(
                Problem(code="tag_missing", field="tag", value="", message="No tag in this record.")
            )
        if bench != self.bench.name:
            row.problems.append(
                Problem(
                    code="bench_other",
                    field="bench",
                    value=str(bench)[:60],
                    message=f"This record is of another kind: {str(bench)[:60]}.",
                    right=self.bench.name,
                )
            )
        if not isinstance(facts, dict) or not facts:
            row.problems.append(
                Problem(code="facts_missing", field="facts", value="", message="No facts in this record.")
            )
            return row
        try:
            row.taken_at = read_time(str(item.get("taken_at", "")), self.zone, None)
            made = filed(self.bench).entries
            parts = made(facts, row.taken_at) if made is not None else [(row.taken_at, facts, "")]
            row.bodies = [body_of(entry_of(self.bench.entry, body)) for _, body, _ in parts]
            row.instruments = _named(item.get("instruments"), self.bench)
            row.times, row.authors = [at for at, _, _ in parts], [by for _, _, by in parts]
        except HurbinError as error:
            row.problems.append(Problem.of(error))
        except (ValidationError, KeyError, TypeError, ValueError) as error:
            where = place_of(error.errors()[0]["loc"]) if isinstance(error, ValidationError) else "facts"
            row.problems.append(
                Problem(
                    code="facts_wrong",
                    field=where,
                    value="",
                    message=f"The facts of this record cannot be read: error at {where}.",
                )
            )
        return row


def _named(said: Any, bench: AnyBench) -> dict[str, str]:
    """What read it, by dimension; nothing where it does not say."""
    if said is None:
        return {}
    if not isinstance(said, dict):
        raise HurbinError(
            "instruments_wrong", "The instruments of a record must be an object.", field=READ_WITH
        )
    return named_in("; ".join(f"{k}={v}" for k, v in said.items()), bench)


def open_json(text: str, bench: AnyBench, zone: str) -> JsonFile:
    """What is this file? Raises `json_wrong` for what is no list of records, `file_too_long` past 250,000 of
    them.
    """
    filed(bench)
    try:
        items = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise HurbinError(
            "json_wrong",
            "This file is incomplete: it cannot be read as JSON.",
            field="file",
            right="a file as downloaded from here",
        ) from error
    if not isinstance(items, list):
        raise HurbinError(
            "json_wrong",
            "A file of records must be a list.",
            field="file",
            right='[{"tag": …, "taken_at": …, "facts": …}]',
        )
    if len(items) > MOST_ROWS:
        raise HurbinError(
            "file_too_long",
            f"The file has {len(items)} records. The maximum at a time is {MOST_ROWS}.",
            field="file",
            right="the file in parts",
        )
    return JsonFile(bench, items, ZoneInfo(zone))
