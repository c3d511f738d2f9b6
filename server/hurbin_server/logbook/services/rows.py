"""The rows of a file, each judged in the context of everything before it."""

from __future__ import annotations

import hashlib
import json
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pydantic import ValidationError

from hurbin_core.base import SI, AnyBench, Evaluation, decode, place_of, write
from hurbin_core.logbook import (
    FileRow,
    JsonFile,
    ReadingsFile,
    looks_like_json,
    open_json,
    open_readings,
)
from hurbin_server.base.clock import now
from hurbin_server.plant.models import Component, PumpSet

from ..models import ReadingsImport, Record
from .judging import entries_of
from .memory import Memory
from .shares import Share

EVERY = 500
OTHERWISE = (
    "On record at this time with other figures, which stand: correct that record,"
    " or give this row a time of its own."
)
_NAMESPACE = uuid.UUID("0c9e5a34-7f0e-4c1f-9a53-51b7a8e4e6d2")


@dataclass(slots=True)
class Judged:
    """A row of the file, judged in the context of everything before it."""

    row: FileRow
    pump_set: PumpSet
    entries: list[Any]
    facts: dict[str, Any]
    evaluation: Evaluation[Any]
    case: Any
    parts: dict[str, Component]
    sheet: str


def open_file(text: str, b: AnyBench, zone: str, day_first: bool | None) -> ReadingsFile | JsonFile:
    """A table of readings or a list of records, whichever the file is."""
    return open_json(text, b, zone) if looks_like_json(text) else open_readings(text, b, zone, day_first)


def row_key(tag: str, at: datetime, bench: str, facts: dict[str, Any]) -> str:
    """The same facts of the same set at the same time are the same record, whichever file they come in."""
    text = json.dumps(facts, sort_keys=True, ensure_ascii=False)
    return hashlib.sha256(f"{tag}·{at.isoformat()}·{bench}·{text}".encode()).hexdigest()


def judge_rows(
    job: ReadingsImport, b: AnyBench, tell: Callable[[int], None], share: Share | None = None
) -> Iterator[tuple[FileRow, Judged | None, str, str]]:
    """Every row, or every row of a share, with its outcome and a word on it, in the order in which they were
    taken.
    """
    file = open_file(decode(bytes(job.content)), b, job.site.time_zone, job.day_first)
    rows = []
    for n, row in enumerate(file.rows()):
        if n % (10 * EVERY) == 0:
            tell(0)
        if share is None or share.takes(row):
            rows.append(row)
    tags = {r.tag for r in rows if _whole(r.tag)}
    sets = {
        s.tag: s
        for s in PumpSet.objects.filter(site=job.site, tag__in=tags).select_related("site", "service")
    }
    tell(0)
    held = _on_record(sets, b)
    memory = Memory(sets.values(), b)
    seen: dict[str, int] = {}
    rows.sort(key=lambda r: (r.taken_at is None, r.taken_at or now(), r.line))
    for n, row in enumerate(rows, 1):
        if n % EVERY == 0:
            tell(n)
        if row.tag and row.tag not in sets and not row.problems:
            yield row, None, "refused", f"No pump set {row.tag} on this site."
        elif row.problems:
            yield row, None, "refused", " ".join(p.message for p in row.problems)
        else:
            yield _judge(row, sets[row.tag], b, job, memory, held, seen, -n)


@dataclass(frozen=True, slots=True)
class Held:
    """What is on record already: by its facts, and by set and time."""

    keys: set[str]
    times: set[tuple[int, datetime]]


def _on_record(sets: dict[str, PumpSet], b: AnyBench) -> Held:
    tags = {s.pk: s.tag for s in sets.values()}
    rows = Record.objects.filter(pump_set_id__in=tags, bench=b.name).values_list(
        "pump_set_id", "taken_at", "body", "live"
    )
    held = Held(set(), set())
    for pk, at, body, live in rows.iterator(chunk_size=5000):
        held.keys.add(row_key(tags[pk], at, b.name, body))
        if live:
            held.times.add((pk, at))
    return held


def _whole(text: str) -> bool:
    """Is every character of it one? Half a character cannot even be asked for."""
    return text == text.encode("utf-8", "replace").decode()


BY_FILE = " (by a file)"


def _said_by(name: str, sender: str) -> str:
    """Whom a file names is named as the file's word: it signs for nobody but its sender."""
    return name if name in ("", sender) or name.endswith(BY_FILE) else f"{name[:130]}{BY_FILE}"


def _judge(
    row: FileRow,
    pump_set: PumpSet,
    b: AnyBench,
    job: ReadingsImport,
    memory: Memory,
    held: Held,
    seen: dict[str, int],
    number: int,
) -> tuple[FileRow, Judged | None, str, str]:
    at = row.taken_at
    assert at is not None
    if at > now():
        return row, None, "refused", "Date is in the future."
    key = f"{job.site_id}/{pump_set.tag}/{at.isoformat()}/{row.line}"
    times, authors = row.times or [at] * len(row.bodies), row.authors or [""] * len(row.bodies)
    named, strange = memory.numbers(pump_set.site_id, row.instruments)
    if strange:
        return row, None, "refused", f"No instrument {strange} in the register of this site."
    raw = [
        {
            "uuid": str(uuid.uuid5(_NAMESPACE, f"{key}/{i}")),
            "taken_at": when,
            "device": "file",
            "by": by,
            "instruments": named,
            "body": body,
        }
        for i, (body, when, by) in enumerate(zip(row.bodies, times, authors, strict=True))
    ]
    try:
        entries = entries_of(b.name, raw)
        known = row_key(pump_set.tag, at, b.name, b.facts(entries))
        for e in entries:
            e.by = _said_by(e.by, job.by.full_name)
        facts = b.facts(entries)
        same = row_key(pump_set.tag, at, b.name, facts)
    except ValidationError as error:
        where = place_of(error.errors()[0]["loc"][1:]) or "row"
        return row, None, "refused", f"{where}: {error.errors()[0]['msg']}"
    except UnicodeError:
        return row, None, "refused", "There is half a character in this row: it cannot be kept."
    if held.keys & {same, known}:
        return row, None, "there", "Already on record."
    if (pump_set.pk, at) in held.times:
        return row, None, "refused", OTHERWISE
    if same in seen:
        return row, None, "there", f"Duplicate of line {seen[same]}."
    case, parts = memory.case(pump_set.pk, at)
    evaluation = b.evaluate(case, entries)
    if evaluation.problems:
        return row, None, "refused", " ".join(dict.fromkeys(p.message for p in evaluation.problems))
    if not evaluation.findings:
        return row, None, "refused", "No reading in this row."
    seen[same] = row.line
    memory.remember(pump_set.pk, at, number, facts, evaluation, parts)
    judged = Judged(
        row,
        pump_set,
        entries,
        facts,
        evaluation,
        case,
        parts,
        str(uuid.uuid5(_NAMESPACE, f"sheet/{job.site_id}/{same}")),
    )
    asked = [write(p, SI) for p in evaluation.questions]
    return row, judged, "questioned" if asked else "taken", " ".join(asked)
