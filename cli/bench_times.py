"""How long something takes, and what it is held against."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from typing import Any

from .bench_page import ms

Row = tuple[str, str, str, str, str, str]


def times(fn: Callable[[], Any], n: int) -> list[float]:
    out = []
    for _ in range(n):
        begun = time.perf_counter()
        fn()
        out.append(time.perf_counter() - begun)
    return out


def p95(values: list[float]) -> float:
    return sorted(values)[int(0.95 * (len(values) - 1))]


def line(name: str, ours: list[float], theirs: list[float], aim: float) -> Row:
    ratio = statistics.median(ours) / statistics.median(theirs)
    return (
        name,
        f"{ms(statistics.median(ours))} (p95 {ms(p95(ours))})",
        f"{ms(statistics.median(theirs))} (p95 {ms(p95(theirs))})",
        f"{ratio:.2f}",
        f"≤ {aim:g}",
        "met" if ratio <= aim else "missed",
    )
