"""The core alone: how long an answer takes, and how long until the first can be asked for. No database."""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from copy import deepcopy
from typing import Any

from .bench_page import HEAD, here, ms, put_section
from .state import ROOT

sys.path[:0] = [str(ROOT / "core"), str(ROOT / "core" / "tests")]

from sheet_table import LIKE, Sheet, case_and_entries  # noqa: E402

from hurbin_core.base import SI, present  # noqa: E402
from hurbin_core.catalogue import bench  # noqa: E402

MARKS = (15, 30, 45, 60, 120, 180, 240, 300, 360, 420, 480, 540)


def _sheet(like: str, **more: Any) -> tuple[Any, Any, list[Any]]:
    raw = deepcopy(LIKE[like]) | more
    return bench(raw["bench"]), *case_and_entries(Sheet(like, "", raw))


def _median(act: Callable[[], Any], n: int) -> float:
    for _ in range(30):
        act()
    taken = []
    for _ in range(n):
        begun = time.perf_counter()
        act()
        taken.append(time.perf_counter() - begun)
    return statistics.median(taken)


def _load_and_dump(case: Any, entries: list[Any], answer: Any) -> Callable[[], None]:
    """The same models, read from JSON and written again: what no judging can be cheaper than."""
    told = [(type(x), x.model_dump_json()) for x in (case, *entries, answer)]

    def act() -> None:
        for kind, text in told:
            kind.model_validate_json(text).model_dump_json()

    return act


def _beside(name: str, aim: float, like: str, **more: Any) -> list[str]:
    b, case, entries = _sheet(like, **more)
    ours = _median(lambda: b.evaluate(case, entries), 300)
    theirs = _median(_load_and_dump(case, entries, b.evaluate(case, entries)), 300)
    ratio = ours / theirs
    met = "met" if ratio <= aim else "missed"
    return [name, ms(ours), ms(theirs), f"{ratio:.2f}", f"≤ {aim:g}", met]


def _shown(name: str, aim: str, like: str, **more: Any) -> str:
    b, case, entries = _sheet(like, **more)
    took = _median(lambda: present(b.evaluate(case, entries), SI), 300)
    return f"- {name}: {ms(took)}{f' (aim ≤ {aim})' if aim else ''}."


def _import(what: str) -> str:
    """In a new process each time, with its byte code on disk."""
    said = f"import time; t = time.perf_counter(); import {what}; print(time.perf_counter() - t)"
    env = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    env["PYTHONPATH"] = str(ROOT / "core")
    words = [sys.executable, "-c", said]
    taken = [float(subprocess.check_output(words, env=env, text=True)) for _ in range(11)][1:]
    return f"{min(taken) * 1000:.0f} ms (median {statistics.median(taken) * 1000:.0f})"


def main() -> None:
    """The section of docs/bench.md."""
    readings = [[s, f"{500 + s} M"] for s in MARKS]
    alone = _import("pydantic; pydantic.create_model('A', x=(int, 0))")
    row = _beside("(b) core evaluate / pydantic load and dump", 2.5, "line")
    lines = [
        f"By `./hurbin bench --only core` at {here()}.",
        "",
        *HEAD,
        f"| {' | '.join(row)} |",
        "",
        "Evaluate and render, median of 300:",
        "",
        _shown("a running check", "3 ms", "line"),
        _shown("an insulation test of 12 readings", "4 ms", "winding", readings=readings),
        _shown("an alignment", "", "coupling"),
        "",
        f"Import, least of 10: the catalogue {_import('hurbin_core.catalogue')} (aim ≤ 250 ms),"
        f" every room of it {_import('hurbin_core.catalogue as c; c.benches()')},"
        f" a class of pydantic's alone {alone}.",
    ]
    text = "\n".join(lines)
    put_section("Core", text)
    print(text)
