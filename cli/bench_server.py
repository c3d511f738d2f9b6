"""`hurbin bench --only server`: what a keystroke, a page and a busy hour cost, each beside what it is held
against in the same run.
"""

from __future__ import annotations

import http.client
import json
import os
import random
import sys
import threading
import time
import uuid
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.core.handlers.wsgi import WSGIHandler
from django.db import connection
from django.http import HttpResponse
from django.test import Client, RequestFactory
from django.urls import clear_url_caches, path as route

from hurbin_core.base import present
from hurbin_core.catalogue import bench
from hurbin_server import urls
from hurbin_server.base import kept
from hurbin_server.base.door import one_moment
from hurbin_server.base.models import User
from hurbin_server.base.prefs import prefs_of
from hurbin_server.logbook.models import Record
from hurbin_server.logbook.plant_page import sentences
from hurbin_server.logbook.services import reads
from hurbin_server.logbook.services.casing import case_for
from hurbin_server.logbook.services.judging import entries_of
from hurbin_server.logbook.services.rolling import roll_long
from hurbin_server.logbook.services.saving import save_record
from hurbin_server.logbook.trends import thinned
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.places import make_service, make_set, make_site

from .bench_data import WORD, entry, many_points, measurer, overload, plant
from .bench_page import HEAD, here, ms, put_section
from .bench_times import Row, line, p95, times, within
from .serving import start_gunicorn, wait_healthy
from .state import LOGS, free_port

BUSY_S = int(os.environ.get("HURBIN_BENCH_BUSY", "120"))
READERS, WRITERS = 20, 5
# What every browser says it takes.
BROWSER = "gzip, deflate, br"
Act = Callable[["Door", random.Random], None]


class Door:
    """A signed-in connection that is kept open, as a browser keeps it."""

    def __init__(self, port: int) -> None:
        self.door = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
        self.head: dict[str, str] = {"Content-Type": "application/json"}
        jar: dict[str, str] = {}
        for method, said in (("GET", None), ("POST", {"username": "bench", "password": WORD})):
            answer, text = self.ask(method, "/session", said)
            jar |= dict(
                c.split(";")[0].split("=", 1)  # type: ignore[misc]
                for c in answer.headers.get_all("Set-Cookie") or []
            )
            self.head["Cookie"] = "; ".join(f"{k}={v}" for k, v in jar.items())
            self.head["X-CSRFToken"] = json.loads(text)["csrf"]

    def ask(self, method: str, path: str, said: Any = None) -> tuple[http.client.HTTPResponse, bytes]:
        words = json.dumps(said) if said is not None else None
        self.door.request(method, f"/api/v1{path}", words, self.head)
        answer = self.door.getresponse()
        return answer, answer.read()


def served(workers: int, do: Callable[[int], Any]) -> Any:
    """Do something against a web host of its own with so many workers."""
    port = free_port()
    pid = start_gunicorn(Path(sys.executable), dict(os.environ), port, LOGS / "bench.log", workers=workers)
    try:
        wait_healthy(port, pid, LOGS / "bench.log")
        return do(port)
    finally:
        os.kill(pid, 15)
        os.waitpid(pid, 0)


def keystroke(row: PumpSet, user: User) -> Row:
    """A keystroke over HTTP on a kept case / the core's evaluate and render of the same sheet."""
    b, prefs = bench("running_check"), prefs_of(user)
    typed = [entry(0)]
    case = case_for(row, b, datetime.now(UTC))[0]
    sheet = entries_of("running_check", typed)
    said = {"set_id": row.pk, "entries": [{**typed[0], "taken_at": typed[0]["taken_at"].isoformat()}]}

    def measured(port: int) -> tuple[list[float], list[float]]:
        door = Door(port)

        def over_http() -> None:
            assert door.ask("POST", "/benches/running_check/evaluate", said)[0].status == 200

        def in_core() -> None:
            present(b.evaluate(case, sheet), prefs).model_dump_json()

        for _ in range(30):
            over_http(), in_core()
        ours, theirs = [], []
        for _ in range(300):
            ours += times(over_http, 1)
            theirs += times(in_core, 1)
        return ours, theirs

    return line("(k) keystroke over HTTP, kept case / core evaluate and render", *served(1, measured), 2.5)


def first_case(row: PumpSet) -> Row:
    """A case that is not kept yet, built and kept."""
    b = bench("running_check")

    def build() -> None:
        reads.cases.clear()
        with one_moment():
            reads.case_now(row, b)

    build()
    return within("(l) first case of a set with three years", times(build, 60), 0.015)


SQL = """select s.id, s.service_id, s.tag, s.name, s.place, s.nickname, s.kind, s.role, s.pair,
p.part, p.verdict, p.beside, p.`by`, p.question, p.reason, p.taken_at, p.due, v.code, v.name, v.note, c.kind
from plant_pumpset s join plant_service v on v.id = s.service_id
left join logbook_partstate p on p.pump_set_id = s.id
left join plant_fitting f on f.pump_set_id = s.id and f.slot = 'control' and f.to_at is null
left join plant_component c on c.id = f.component_id where s.site_id = %s"""


def plant_page(site: Site, user: User, row: PumpSet) -> list[Row]:
    """Plant of 2,000 sets: unchanged beside a view that sends the same bytes; after a save on one of them,
    and as a process first looks at it, beside one cursor query and json.dumps.
    """
    client = Client(HTTP_HOST="localhost")
    client.force_login(user)

    def unchanged() -> bytes:
        answer = client.get(f"/api/v1/sites/{site.pk}/plant")
        assert answer.status_code == 200
        return bytes(answer.content)

    body, factory, handler = unchanged(), RequestFactory(), WSGIHandler()
    cookie = client.cookies["sessionid"].value

    def asked(path: str, accepts: str) -> Any:
        request = factory.get(path, headers={"host": "localhost", "accept-encoding": accepts})
        request.COOKIES["sessionid"] = cookie
        answer = handler.get_response(request)
        assert answer.status_code == 200, answer.content[:200]
        return answer

    def view(request: Any) -> HttpResponse:
        """The same bytes for whoever is signed in, and nothing else."""
        assert request.user.is_authenticated
        return HttpResponse(body, content_type="application/json")

    urls.urlpatterns.insert(0, route("bench-same-bytes", view))
    clear_url_caches()

    def same_bytes(accepts: str = BROWSER) -> None:
        asked("/bench-same-bytes", accepts)

    def through_handler(accepts: str = BROWSER) -> None:
        asked(f"/api/v1/sites/{site.pk}/plant", accepts)

    def changed() -> list[float]:
        save_record(user, row.pk, "running_check", str(uuid.uuid4()), [entry(0)])
        return times(through_handler, 1)

    def first_look() -> list[float]:
        kept.pages.clear()
        sentences.clear()
        return times(through_handler, 1)

    def cursor() -> str:
        with connection.cursor() as found:
            found.execute(SQL, [site.pk])
            return json.dumps(found.fetchall(), default=str)

    for _ in range(3):
        through_handler(), same_bytes(), changed(), cursor()
    a, b_, c, d, e, f, g = [], [], [], [], [], [], []
    for _ in range(40):
        a += times(through_handler, 1)
        b_ += times(same_bytes, 1)
        f += times(lambda: through_handler("identity"), 1)
        g += times(lambda: same_bytes("identity"), 1)
    for _ in range(9):
        c += changed()
        d += times(cursor, 1)
        e += first_look()
    return [
        line("(m) Plant of 2,000 sets, unchanged / a view sending the same bytes", a, b_, 1.3),
        (*line("the same, to a reader that takes nothing deflated / the same", f, g, 2)[:4], "", ""),
        line("(n) Plant of 2,000 sets, one of them changed / cursor and json.dumps", c, d, 2),
        (*line("Plant of 2,000 sets, first look of a process / the same", e, d, 2)[:4], "", ""),
    ]


def set_pages(user: User) -> list[Row]:
    """The page of a set with three years of monthly checks, and of one with thirty."""
    site = make_site(user, {"code": "YEARS", "name": "Years", "time_zone": "UTC", "altitude_m": None})
    service = make_service(user, site.pk, {"code": "Y", "name": "Years"})
    client = Client(HTTP_HOST="localhost")
    client.force_login(user)
    pages: list[Callable[[], None]] = []
    for years in (3, 30):
        row = make_set(user, service.pk, {"tag": f"Y{years}", "name": "x", "kind": "base_mounted"})
        for month in range(12 * years, 0, -1):
            save_record(user, row.pk, "running_check", str(uuid.uuid4()), [entry(month * 30.4)])

        def page(pk: int = row.pk) -> None:
            kept.pages.clear()
            assert client.get(f"/api/v1/sets/{pk}/page").status_code == 200

        page()
        pages.append(page)
    three, thirty = [], []
    for _ in range(40):
        three += times(pages[0], 1)
        thirty += times(pages[1], 1)
    return [
        within("(o) set page with three years", three, 0.060),
        line("(p) set page with thirty years / with three", thirty, three, 1.15),
    ]


def trend(series: int) -> Row:
    roll_long()

    def ours() -> None:
        thinned(series, 480, rolled=True)

    ours()
    return within("(q) trend of 200,000 points by its days", times(ours, 9), 0.150)


def busy(rows: list[PumpSet], site: Site) -> list[str]:
    """Readers of Plant and sets beside writers, for two minutes; each reader's time beside one alone."""
    errors: list[str] = []
    took: list[float] = []
    wrote = [0]

    def read(door: Door, rng: random.Random) -> None:
        path = f"/sites/{site.pk}/plant" if rng.random() < 0.3 else f"/sets/{rng.choice(rows).pk}/page"
        begun = time.perf_counter()
        answer, text = door.ask("GET", path)
        took.append(time.perf_counter() - begun)
        if answer.status not in (200, 304):
            errors.append(f"{answer.status} {path} {text[:120]!r}")

    def write(door: Door, rng: random.Random) -> None:
        e = entry(rng.uniform(0.01, 20))
        said = {
            "set_id": rng.choice(rows).pk,
            "sheet": str(uuid.uuid4()),
            "entries": [{**e, "taken_at": e["taken_at"].isoformat()}],
        }
        answer, text = door.ask("POST", "/benches/running_check/records", said)
        wrote[0] += 1
        if answer.status != 201:
            errors.append(f"{answer.status} save {text[:120]!r}")

    def going(do: Act, port: int, seed: int, until: float, pause: float) -> None:
        rng, door = random.Random(seed), Door(port)
        while time.monotonic() < until:
            try:
                do(door, rng)
            except (OSError, http.client.HTTPException) as error:
                errors.append(repr(error))
                door = Door(port)
            time.sleep(rng.uniform(0, 2 * pause))

    def measured(port: int) -> tuple[float, float, int]:
        going(read, port, 1, time.monotonic() + 15, 0.2)
        alone, took[:] = p95(list(took)), []
        until = time.monotonic() + BUSY_S
        crowd = [
            threading.Thread(target=going, args=(do, port, seed + n, until, pause))
            for do, seed, many, pause in ((read, 10, READERS, 1.0), (write, 90, WRITERS, 0.5))
            for n in range(many)
        ]
        [t.start() for t in crowd]
        [t.join() for t in crowd]
        return alone, p95(list(took)), len(took)

    alone, crowded, n = served(2, measured)
    return [
        f"(r) {READERS} readers and {WRITERS} writers for {BUSY_S} s against two workers: {n} pages read,"
        f" {wrote[0]} records saved, {len(errors)} errors; p95 of a page {ms(crowded)}, of one reader alone"
        f" {ms(alone)}.",
        *errors[:3],
    ]


def main() -> None:
    user = measurer()
    print("  creating 2,000 sets and 200,000 points")
    site, rows = plant(user)
    series = many_points(rows[0])
    overload(user, rows[1])
    table = [keystroke(rows[0], user), first_case(rows[0]), *plant_page(site, user, rows[0])]
    table += [*set_pages(user), trend(series)]
    said = busy(rows[:200], site)
    text = "\n".join(
        [
            f"By `./hurbin bench --only server` at {here()}. {Record.objects.count()} records.",
            "A machine's pace changes: “pace” is what two million multiplications took just then.",
            "",
            *HEAD,
            *(f"| {' | '.join(r)} |" for r in table),
            "",
            *said,
        ]
    )
    put_section("Server", text)
    print(text)
