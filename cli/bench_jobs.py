"""Overhauls in the core: every procedure compiled for every set, and a job of four hundred entries folded."""

from __future__ import annotations

import itertools
import statistics
import sys
import time
from typing import Any

from hurbin_core.base import Limits
from hurbin_core.jobs.compiling import compile_job
from hurbin_core.jobs.procedure import PROCEDURES
from hurbin_core.plant import KINDS

from .bench_page import here, ms, put_section
from .state import ROOT

MARKS = ("hot", "loop", "twin", "drive", "electronics", "outside", "pit", "roof", "header")
ENTRIES, DEVICES, TURNS = 400, 4, 15


def _compiled() -> tuple[int, int, float]:
    """How many compile, how many of them contradict themselves, and the slowest of them, s."""
    count = wrong = 0
    worst, limits = 0.0, Limits()
    for p in PROCEDURES.values():
        for kind in p.kinds:
            for phases, *rest in itertools.product((1, 3), *[(True, False)] * len(MARKS)):
                told: dict[str, Any] = dict(zip(MARKS, rest, strict=True))
                marks = {"kind": kind, "phases": phases, "coupled": KINDS[kind].coupled, **told}
                marks |= {"starter": not told["drive"], "submerged": kind == "submersible"}
                begun = time.perf_counter()
                made = compile_job(p, marks, limits)
                worst = max(worst, time.perf_counter() - begun)
                count, wrong = count + 1, wrong + bool(made.contradictions)
    return count, wrong, worst


def _fold() -> float:
    """A whole job with looks from four devices up to four hundred entries: one evaluation, the median, s."""
    sys.path.insert(0, str(ROOT / "core" / "tests"))
    from job_cases import Told

    job = Told("J05", "close_coupled")
    job.to_end()
    signs = [f"reuse.{i}" for i in range(3)]
    n = 0
    while len(job.entries) < ENTRIES:
        by = f"Hand {n % DEVICES}"
        job.say(by, kind="look", step="J05.6", look="shaft_under_seal", signs=signs[: n % 4])
        n += 1
    took = []
    for _ in range(TURNS):
        begun = time.perf_counter()
        job.evaluate()
        took.append(time.perf_counter() - begun)
    return statistics.median(took)


def main() -> None:
    """`hurbin bench --only jobs`."""
    count, wrong, worst = _compiled()
    fold = _fold()
    lines = [
        "| what | measured | aim |",
        "|---|---|---|",
        f"| every procedure × kind × mark compiled: {count}; with a contradiction | {wrong} | 0 |",
        f"| the slowest of them | {ms(worst)} | ≤ 50 ms |",
        f"| a job of {ENTRIES} entries from {DEVICES} devices, folded and judged | {ms(fold)} | ≤ 40 ms |",
    ]
    for line in lines:
        print("  " + line)
    put_section("Overhauls", "\n".join([f"By `./hurbin bench --only jobs` at {here()}.", "", *lines]))
