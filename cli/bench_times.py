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


def pace() -> float:
    """What this machine does just now: a loop of two million multiplications, in seconds."""

    def loop() -> None:
        total = 0
        for i in range(2_000_000):
            total += i * i

    return statistics.median(times(loop, 5))


def within(name: str, took: list[float], most: float) -> Row:
    """A time by itself, held against the most it may be."""
    found = statistics.median(took)
    return (
        name,
        f"{ms(found)} (p95 {ms(p95(took))})",
        f"pace {ms(pace())}",
        "",
        f"≤ {most * 1000:g} ms",
        "met" if found <= most else "missed",
    )
