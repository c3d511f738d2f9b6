"""`hurbin bench`: full-size data of its own, ratios measured in one run, written to docs/bench.md."""

from __future__ import annotations

import gzip
import http.client
import json
import os
import subprocess
import sys
import time
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import django

django.setup()

from django.db import connection, reset_queries  # noqa: E402
from django.test import Client  # noqa: E402

from hurbin_core.catalogue import bench  # noqa: E402
from hurbin_server.base.models import User  # noqa: E402
from hurbin_server.logbook.models import Point, Record  # noqa: E402
from hurbin_server.logbook.services.casing import case_for  # noqa: E402
from hurbin_server.logbook.services.judging import entries_of  # noqa: E402
from hurbin_server.logbook.trends import thinned  # noqa: E402
from hurbin_server.plant.models import PumpSet, Site  # noqa: E402
from hurbin_server.plant.services.parts import new_plate  # noqa: E402
from hurbin_server.plant.services.places import make_service, make_set, make_site  # noqa: E402

from . import (  # noqa: E402
    bench_circuit,
    bench_core,
    bench_drives,
    bench_jobs,
    bench_readings,
    bench_server,
    bench_steps,
    bench_water,
    bench_web,
)
from .bench_data import FILE_ROWS, PLATE, WORD, entry, many_points, measurer, overload, plant  # noqa: E402
from .bench_page import HEAD, here, ms, put_head, put_section  # noqa: E402
from .bench_readings import forecasts, import_rows  # noqa: E402
from .bench_shims import keystrokes, shim_plans  # noqa: E402
from .bench_times import Row, line, times  # noqa: E402
from .serving import start_gunicorn, wait_healthy  # noqa: E402
from .state import LOGS, ROOT, WEB, free_port  # noqa: E402


def endpoints(row: PumpSet) -> Row:
    """(a) One gunicorn worker, one kept-alive connection, interleaved pairs."""
    port = free_port()
    pid = start_gunicorn(Path(sys.executable), dict(os.environ), port, LOGS / "bench.log", workers=1)
    try:
        wait_healthy(port, pid, LOGS / "bench.log")
        http_ = http.client.HTTPConnection("127.0.0.1", port)

        def ask(
            method: str, path: str, data: Any = None, headers: dict[str, str] | None = None
        ) -> tuple[http.client.HTTPResponse, bytes]:
            http_.request(
                method,
                path,
                json.dumps(data) if data is not None else None,
                {"Content-Type": "application/json", **(headers or {})},
            )
            answer = http_.getresponse()
            return answer, answer.read()

        def cookies(answer: http.client.HTTPResponse) -> dict[str, str]:
            return dict(c.split(";")[0].split("=", 1) for c in answer.headers.get_all("Set-Cookie") or [])  # type: ignore[misc]

        answer, text = ask("GET", "/api/v1/session")
        jar = cookies(answer)
        head = {
            "Cookie": "; ".join(f"{k}={v}" for k, v in jar.items()),
            "X-CSRFToken": json.loads(text)["csrf"],
        }
        answer, text = ask("POST", "/api/v1/session", {"username": "bench", "password": WORD}, head)
        jar |= cookies(answer)
        head = {
            "Cookie": "; ".join(f"{k}={v}" for k, v in jar.items()),
            "X-CSRFToken": json.loads(text)["csrf"],
        }
        sheet = {"set_id": row.pk, "entries": [{**entry(0), "taken_at": datetime.now(UTC).isoformat()}]}

        def judged() -> None:
            assert ask("POST", "/api/v1/benches/running_check/evaluate", sheet, head)[0].status == 200

        def unjudged() -> None:
            assert ask("GET", f"/api/v1/benches/running_check/case/{row.pk}", None, head)[0].status == 200

        for _ in range(20):
            judged(), unjudged()
        ours, theirs = [], []
        for _ in range(200):
            ours += times(judged, 1)
            theirs += times(unjudged, 1)
        return line("(a) evaluate endpoint / case endpoint", ours, theirs, 1.5)
    finally:
        os.kill(pid, 15)
        os.waitpid(pid, 0)


def keys_at(row: PumpSet) -> str:
    """The alignment bench in a real browser, on a server of its own with two workers."""
    port = free_port()
    pid = start_gunicorn(Path(sys.executable), dict(os.environ), port, LOGS / "bench.log", workers=2)
    try:
        wait_healthy(port, pid, LOGS / "bench.log")
        return keystrokes(f"http://127.0.0.1:{port}", "bench", WORD, row.pk, ms)
    finally:
        os.kill(pid, 15)
        os.waitpid(pid, 0)


def core(row: PumpSet) -> Row:
    """(b) evaluate / load and dump of the same models."""
    b = bench("running_check")
    case = case_for(row, b, datetime.now(UTC))[0]
    sheet = entries_of("running_check", [entry(0)])
    answer = b.evaluate(case, sheet)
    texts = (case.model_dump_json(), sheet[0].model_dump_json(), answer.model_dump_json())
    kinds = (type(case), type(sheet[0]), type(answer))

    def load_and_dump() -> None:
        for kind, text in zip(kinds, texts, strict=True):
            kind.model_validate_json(text).model_dump_json()

    for _ in range(50):
        b.evaluate(case, sheet), load_and_dump()
    return line(
        "(b) core evaluate / pydantic load and dump",
        times(lambda: b.evaluate(case, sheet), 400),
        times(load_and_dump, 400),
        2.5,
    )


SQL = """select s.id, s.service_id, s.tag, s.name, s.place, s.nickname, s.kind, s.role, s.pair,
p.part, p.verdict, p.beside, p.`by`, p.question, p.reason, p.taken_at, p.due, v.code, v.name, v.note, c.kind
from plant_pumpset s join plant_service v on v.id = s.service_id
left join logbook_partstate p on p.pump_set_id = s.id
left join plant_fitting f on f.pump_set_id = s.id and f.slot = 'control' and f.to_at is null
left join plant_component c on c.id = f.component_id where s.site_id = %s"""


def plant_page(site: Site, user: User) -> tuple[Row, str]:
    """(c) the Plant's data for 2,000 sets through the whole view / one cursor query and json.dumps."""
    client = Client(HTTP_HOST="localhost")
    client.force_login(user)
    small = make_site(user, {"code": "SMALL", "name": "Small", "time_zone": "UTC", "altitude_m": None})
    service = make_service(user, small.pk, {"code": "S", "name": "S"})
    for i in range(20):
        made = make_set(user, service.pk, {"tag": f"T{i}", "name": "x", "kind": "base_mounted"})
    overload(user, made)

    def ours(pk: int = site.pk) -> Any:
        answer = client.get(f"/api/v1/sites/{pk}/plant")
        assert answer.status_code == 200, answer.content[:200]
        return answer

    def theirs() -> str:
        with connection.cursor() as cursor:
            cursor.execute(SQL, [site.pk])
            return json.dumps(cursor.fetchall(), default=str)

    ours(small.pk)  # the first call of a client asks for its session once more
    counts = []
    connection.force_debug_cursor = True
    for pk in (small.pk, site.pk):
        reset_queries()
        ours(pk)
        counts.append(len(connection.queries))
    connection.force_debug_cursor = False
    size = len(gzip.compress(ours().content, 6))
    for _ in range(2):
        ours(), theirs()
    row = line("(c) Plant of 2,000 sets / cursor and json.dumps", times(ours, 9), times(theirs, 9), 3)
    return (
        row,
        (
            f"Queries at 20 sets: {counts[0]}, at 2,000 sets: {counts[1]}. Compressed payload:"
            f" {size / 1000:.0f} kB (aim ≤ 200)."
        ),
    )


def trend(series_id: int) -> Row:
    """(d) 200,000 points read and thinned / the same index range fetched as tuples."""

    def theirs() -> int:
        with connection.cursor() as cursor:
            cursor.execute(
                "select taken_at, value from logbook_point where series_id = %s and live = 1 order by"
                " taken_at",
                [series_id],
            )
            return len(cursor.fetchall())

    thinned(series_id, 480), theirs()
    return line(
        "(d) trend of 200,000 points thinned / tuples",
        times(lambda: thinned(series_id, 480), 7),
        times(theirs, 7),
        3,
    )


def first_load() -> str:
    assets = WEB / "dist" / "assets"
    code = sum(len(gzip.compress(p.read_bytes(), 9)) for p in assets.iterdir() if p.suffix in (".js", ".css"))
    fonts = sum(p.stat().st_size for p in assets.iterdir() if p.suffix == ".woff2")
    return (
        f"(e) First load: script and style {code / 1000:.0f} kB after gzip -9 (aim ≤ 250), fonts"
        f" {fonts / 1000:.0f} kB (aim ≤ 150)."
    )


def second_demo() -> str:
    if not (ROOT / ".hurbin" / "demo.json").exists():
        return "(f) A second `./hurbin demo`: not measured here, the demo was not loaded."
    env = {k: v for k, v in os.environ.items() if not k.startswith(("HURBIN_", "DJANGO_"))}
    port = str(free_port())
    subprocess.run([str(ROOT / "hurbin"), "demo", "--port", port], env=env, capture_output=True, check=True)
    subprocess.run([str(ROOT / "hurbin"), "stop"], env=env, capture_output=True, check=True)
    begun = time.perf_counter()
    subprocess.run([str(ROOT / "hurbin"), "demo", "--port", port], env=env, capture_output=True, check=True)
    seconds = time.perf_counter() - begun
    begun = time.perf_counter()
    subprocess.run([str(ROOT / "hurbin"), "demo", "--port", port], env=env, capture_output=True, check=True)
    running = time.perf_counter() - begun
    subprocess.run([str(ROOT / "hurbin"), "stop"], env=env, capture_output=True, check=True)
    return f"(f) A second `./hurbin demo`: {seconds:.1f} s after a stop, {running:.1f} s while it runs."


def alignment() -> None:
    """The figures of the alignment bench alone: a section of docs/bench.md of their own, renewed by
    themselves.
    """
    user = measurer()
    site = make_site(user, {"code": "BENCH", "name": "Bench", "time_zone": "UTC", "altitude_m": None})
    service = make_service(user, site.pk, {"code": "S0", "name": "Service"})
    row = make_set(user, service.pk, {"tag": "S0-0", "name": "Set", "kind": "base_mounted"})
    new_plate(
        user,
        row.fittings.get(slot="motor").component.pk,
        0,
        PLATE | {"speed": {"text": "1475", "unit": "rpm"}},
        "bench",
    )
    plan = shim_plans(ms)
    text = "\n".join(
        [
            f"By `./hurbin bench --only alignment` at {here()}.",
            "",
            *HEAD,
            f"| {' | '.join(plan)} |",
            "",
            f"(j) {keys_at(row)}",
        ]
    )
    put_section("Alignment", text)
    print(text)


def main() -> None:
    user = measurer()
    print("  creating 2,000 sets and 200,000 points")
    site, rows = plant(user)
    series = many_points(rows[0])
    table = [endpoints(rows[0]), core(rows[0])]
    page, said = plant_page(site, user)
    table += [page, trend(series)]
    print(f"  forecasts of 2,000 series, a file of {FILE_ROWS:,} rows")
    words = []
    for name, aim, found in (
        ("(h) forecasts of 2,000 series × 24 / scipy loop on exact ones", 0.5, forecasts()),
        (
            f"(g) import of {FILE_ROWS:,} rows / evaluation + executemany",
            1.5,
            import_rows(user, rows[:20], FILE_ROWS),
        ),
    ):
        ours, theirs, more = found
        ratio = ours / theirs
        table.append(
            (
                name,
                f"{ours:.2f} s",
                f"{theirs:.2f} s",
                f"{ratio:.2f}",
                f"≤ {aim:g}",
                "met" if ratio <= aim else "missed",
            )
        )
        words.append(f"{name.split(' ')[0]} {more}")
    out = [
        "# Figures",
        "",
        f"By `./hurbin bench` at {here()}, MariaDB on the same machine.",
        (
            f"Sizes: {PumpSet.objects.count()} sets, {Record.objects.count()} records,"
            f" {Point.objects.count()} points. Both sides are measured in the same run; a ratio is of"
            " medians."
        ),
        "",
        *HEAD,
        *(f"| {' | '.join(r)} |" for r in table),
        "",
        said,
        "",
        *words,
        "",
        first_load(),
        "",
        second_demo(),
        "",
    ]
    put_head("\n".join(out))
    print("\n".join(out))


if __name__ == "__main__":
    parts = {
        "alignment": alignment,
        "circuit": bench_circuit.main,
        "drives": bench_drives.main,
        "jobs": bench_jobs.main,
        "water": bench_water.main,
        "core": bench_core.main,
        "import": bench_readings.main,
        "server": bench_server.main,
        "steps": lambda: bench_steps.main(measurer()),
        "web": lambda: bench_web.main(measurer()),
    }
    parts.get("".join(sys.argv[1:]), main)()
