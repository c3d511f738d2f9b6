"""Judged rows as the plain values that are written, made beside the writing by a process of their own."""

from __future__ import annotations

import multiprocessing
import os
import queue
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from django.conf import settings

from hurbin_core.base import AnyBench, HurbinError, TemporaryChange, body_of, kept
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.logbook import note_of

from ..beside import LOOK_S, judge_beside
from ..models import ImportRow, ReadingsImport
from .judging import finding_rows, series_rows
from .rows import Judged, judge_rows
from .shares import Share

AHEAD = 4  # batches that may wait to be written: the judging never runs further ahead than this
# So many processes judge a file of so many rows or more; fewer are judged by one, which begins sooner.
JUDGES, MANY = 2, 5000


@dataclass(slots=True)
class Finished:
    """One row as it will stand in the tables: plain values, nothing of the database in it. context: the case
    it was judged in, as JSON; who writes it deflates it, for who judges has less time. looks: what was
    seen to stand on the set, or not to.
    """

    sheet: str
    context: str
    pump_set: int
    entries: list[dict[str, Any]]
    record: dict[str, Any]
    judgement: dict[str, Any]
    findings: list[dict[str, Any]]
    series: list[dict[str, Any]]
    points: list[tuple[float, str]]
    looks: list[TemporaryChange]


def finished(b: AnyBench, j: Judged) -> Finished:
    at, evaluation, motor = j.row.taken_at, j.evaluation, j.parts.get("motor")
    answer = kept(evaluation).model_dump(mode="json", exclude_defaults=True)
    return Finished(
        sheet=j.sheet,
        context=j.case.model_dump_json(exclude_defaults=True),
        pump_set=j.pump_set.pk,
        entries=[
            {
                "uuid": e.uuid,
                "taken_at": e.taken_at,
                "instruments": e.instruments,
                "body": body_of(e.body),
            }
            for e in j.entries
        ],
        record={
            "taken_at": at,
            "body": j.facts,
            "note": note_of(j.facts),
            "conditions": evaluation.conditions,
            "motor_id": motor.pk if motor else None,
        },
        judgement={
            "rules_version": evaluation.rules_version,
            "evaluation": answer,
            "verdict": str(evaluation.verdict.value),
        },
        findings=[{**row, "taken_at": at} for row in finding_rows(evaluation, answer)],
        series=series_rows(j.pump_set, evaluation, j.parts),
        points=[(p.value, str(p.bound.value)) for p in evaluation.points],
        looks=[
            e for e in b.performs(j.case, j.entries, True) if isinstance(e, TemporaryChange) and e.of == "set"
        ],
    )


def _changed(line: int, says: str) -> HurbinError:
    message = f"Line {line} is not what it was when the file was looked at. {says}".strip()
    return HurbinError("rows_refused", f"{message} Nothing was written: bring it in again.", field="file")


def finish_rows(job: ReadingsImport, share: Share | None = None) -> Iterator[Finished]:
    """Every new row of a checked file, or of a share of it, judged and finished, oldest first; what was
    refused when it was checked stays out. Raises HurbinError when that is no longer what was told.
    """
    out = set(ImportRow.objects.filter(job=job, outcome="refused").values_list("line", flat=True))
    b = find_bench(job.bench)
    for row, judged, outcome, says in judge_rows(job, b, lambda _: None, share):
        if (outcome == "refused") != (row.line in out):
            raise _changed(row.line, says)
        if judged is not None:
            yield finished(b, judged)


def batches(job: ReadingsImport, size: int, waiting: Callable[[], None]) -> Iterator[list[Finished]]:
    """The finished rows in batches, each set's oldest first; `waiting` is called while none has come.
    Processes beside this one judge while this one writes, each its share; inside a test's transaction, which
    no other process can see, all is done here in turn.
    """
    if settings.PROGRESS_DATABASE == "default":
        yield from in_batches(finish_rows(job), size)
        return
    spawn = multiprocessing.get_context("spawn")
    done: Any = spawn.Queue(AHEAD)
    judges = JUDGES if job.total >= MANY else 1
    every = [(job.pk, size, done, os.getpid(), n, judges) for n in range(judges)]
    beside = [spawn.Process(target=judge_beside, args=args, daemon=True) for args in every]
    for process in beside:
        process.start()
    try:
        yield from _arriving(beside, done, waiting)
    finally:
        for process in beside:
            process.terminate()
            process.join()
        done.close()


def in_batches(rows: Iterator[Finished], size: int) -> Iterator[list[Finished]]:
    batch: list[Finished] = []
    for row in rows:
        batch.append(row)
        if len(batch) >= size:
            yield batch
            batch = []
    if batch:
        yield batch


def _arriving(beside: list[Any], done: Any, waiting: Callable[[], None]) -> Iterator[list[Finished]]:
    ended = 0
    while ended < len(beside):
        try:
            kind, what = done.get(timeout=LOOK_S)
        except queue.Empty:
            gone = sum(not process.is_alive() for process in beside)
            if gone > ended and done.empty():
                raise RuntimeError(
                    "The process that judges the rows has ended before its last row."
                ) from None
            waiting()
            continue
        if kind == "end":
            ended += 1
            continue
        if kind == "refused":
            raise HurbinError("rows_refused", what, field="file")
        if kind == "broken":
            raise RuntimeError(what)
        yield what


__all__ = ["Finished", "batches", "finish_rows", "finished", "in_batches"]
