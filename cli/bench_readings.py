"""The figures of files and forecasts, each beside what it is held against, in one run."""

from __future__ import annotations

import random
import resource
import time
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any

from django.db import connection
from scipy import stats

from hurbin_core.base import Bound
from hurbin_core.catalogue import bench
from hurbin_core.logbook import Datum, forecast
from hurbin_server.base.models import User
from hurbin_server.logbook.models import ReadingsImport
from hurbin_server.logbook.services import importing
from hurbin_server.logbook.services.rows import judge_rows
from hurbin_server.plant.models import PumpSet

from .bench_data import FILE_ROWS, measurer, plant
from .bench_page import HEAD, here, put_section

TABLES = (
    "logbook_sheet",
    "logbook_entry",
    "logbook_record",
    "logbook_judgement",
    "logbook_finding",
    "logbook_point",
)
Figures = tuple[float, float, str]


def file_of(rows: int, sets: list[PumpSet]) -> str:
    """Running checks of twenty sets, a few hours apart, as a person's table would hold them."""
    rng = random.Random(4)
    start = datetime(2001, 1, 1, tzinfo=UTC)
    out = ["tag,taken_at,read_at,valve,coupled,volts_12|V,volts_23|V,volts_31|V,amps_1|A,amps_2|A,amps_3|A"]
    for n in range(rows):
        amps = ",".join(f"{15 + rng.gauss(0, 0.15):.2f}" for _ in range(3))
        out.append(
            f"{sets[n % len(sets)].tag},{(start + timedelta(hours=n * 0.25)).isoformat()},"
            f"motor_leads,open,yes,{400 + rng.gauss(0, 1):.0f},402,399,{amps}"
        )
    return "\n".join(out)


def _timed(real: Callable[..., Any], spent: list[float]) -> Callable[..., Any]:
    def measured(a: Any, b: Any) -> Any:
        begun = time.perf_counter()
        answer = real(a, b)
        spent[0] += time.perf_counter() - begun
        return answer

    return measured


def import_rows(user: User, sets: list[PumpSet], rows: int) -> Figures:
    """(g) A file checked already is written / the core's evaluation of the same rows + executemany of the
    finished rows.
    """
    text = file_of(rows, sets)
    job = importing.start_import(user, sets[0].site_id, "running_check", "old.csv", text.encode(), None)
    ReadingsImport.objects.filter(pk=job.pk).update(state="writing")
    held = {t: _newest(t) for t in TABLES}
    begun = time.perf_counter()
    state = importing.run(job.pk)
    ours = time.perf_counter() - begun
    writing, judging = (
        resource.getrusage(who).ru_maxrss / 1024 for who in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN)
    )
    assert state == "written", state
    finished = {t: _rows(t, held[t]) for t in TABLES}
    with connection.cursor() as cursor:
        # What stands on a set points to what was found: it goes with the findings of this run.
        cursor.execute("delete from logbook_answer where finding_id > %s", [held["logbook_finding"]])
    for table in reversed(TABLES):
        _delete(table, held[table])
    theirs = _evaluating(job.pk, rows) + _inserting(finished)
    return (
        ours,
        theirs,
        (
            f"{rows / ours:.0f} rows a second; peak memory of the process that writes {writing:.0f} MB, of"
            f" the one that judges {judging:.0f} MB; {sum(len(r[1]) for r in finished.values())} rows in six"
            " tables."
        ),
    )


def main() -> None:
    """`hurbin bench --only import`."""
    user = measurer()
    print(f"  making 2,000 sets, a file of {FILE_ROWS:,} rows")
    rows = plant(user)[1]
    ours, theirs, more = import_rows(user, rows[:20], FILE_ROWS)
    ratio, aim = ours / theirs, 1.5
    name = f"(g) import of {FILE_ROWS:,} rows / evaluation + executemany"
    row = (name, f"{ours:.2f} s", f"{theirs:.2f} s", f"{ratio:.2f}", f"≤ {aim:g}")
    text = "\n".join(
        [
            f"By `./hurbin bench --only import` at {here()}.",
            "",
            *HEAD,
            f"| {' | '.join(row)} | {'met' if ratio <= aim else 'missed'} |",
            "",
            more,
        ]
    )
    put_section("Import", text)
    print(text)


def _evaluating(job: int, rows: int) -> float:
    """Only the core's own seconds, over the same rows in the same contexts."""
    b = bench("running_check")
    spent = [0.0]
    timed = replace(b, replay=_timed(b.replay, spent), judge=_timed(b.judge, spent))
    row = ReadingsImport.objects.select_related("site", "by").get(pk=job)
    seen = sum(judged is not None for _, judged, _, _ in judge_rows(row, timed, lambda _: None))
    assert seen == rows, seen
    return spent[0]


def _key(table: str) -> str:
    return "uuid" if table in ("logbook_sheet", "logbook_entry") else "id"


def _newest(table: str) -> Any:
    with connection.cursor() as cursor:
        if _key(table) == "uuid":
            column = "uuid"
            cursor.execute(f"select {column} from {table}")
            return {r[0] for r in cursor.fetchall()}
        cursor.execute(f"select coalesce(max(id), 0) from {table}")
        return cursor.fetchone()[0]


def _rows(table: str, before: Any) -> tuple[list[str], list[tuple[Any, ...]]]:
    with connection.cursor() as cursor:
        if isinstance(before, set):
            cursor.execute(f"select * from {table}")
            names = [d[0] for d in cursor.description]
            at = names.index("uuid")
            return names, [r for r in cursor.fetchall() if r[at] not in before]
        cursor.execute(f"select * from {table} where id > %s", [before])
        return [d[0] for d in cursor.description], list(cursor.fetchall())


def _delete(table: str, before: Any) -> None:
    with connection.cursor() as cursor:
        if not isinstance(before, set):
            cursor.execute(f"delete from {table} where id > %s", [before])
        elif table == "logbook_entry":
            cursor.execute("delete from logbook_entry where device = 'file'")
        else:
            cursor.execute(
                "delete s from logbook_sheet s left join logbook_record r on r.sheet_id = s.uuid left join"
                " logbook_entry e on e.sheet_id = s.uuid where r.id is null and e.uuid is null"
            )


def _inserting(finished: dict[str, tuple[list[str], list[tuple[Any, ...]]]]) -> float:
    begun = time.perf_counter()
    from django.db import transaction

    with transaction.atomic(), connection.cursor() as cursor:
        for table, (names, rows) in finished.items():
            columns, marks = ", ".join(f"`{n}`" for n in names), ", ".join(["%s"] * len(names))
            for at in range(0, len(rows), 500):
                cursor.executemany(f"insert into {table} ({columns}) values ({marks})", rows[at : at + 500])
    return time.perf_counter() - begun


def forecasts(series: int = 2000, points: int = 24) -> Figures:
    """(h) Forecasts with bands, one series in four with bounds in it / a plain scipy loop over the exact
    points.
    """
    rng = random.Random(9)
    data = []
    for k in range(series):
        slope = rng.choice([0, -0.0004, -0.001])
        data.append(
            [
                Datum(
                    t=30.0 * i,
                    value=3 + slope * 30 * i + rng.gauss(0, 0.1),
                    bound=Bound.AT_LEAST if k % 4 == 0 and rng.random() < 0.3 else Bound.EXACT,
                )
                for i in range(points)
            ]
        )
    begun = time.perf_counter()
    for d in data:
        forecast(d, 0.7)
    ours = time.perf_counter() - begun
    begun = time.perf_counter()
    for d in data:
        x, y = [p.t for p in d if p.bound is Bound.EXACT], [p.value for p in d if p.bound is Bound.EXACT]
        stats.theilslopes(y, x)
        stats.kendalltau(x, y)
    return ours, time.perf_counter() - begun, f"{1000 * ours / series:.2f} ms a series."


__all__ = ["Figures", "forecasts", "import_rows"]
