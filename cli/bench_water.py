"""Water in the core: every bench on its healthy sheet, two thousand duties beside a scipy loop, the fits."""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable
from random import Random
from typing import Any

from hurbin_core.hydraulics.curve import Curve, Line, System
from hurbin_core.hydraulics.fluid import vapour_kpa, water_density

from .bench_page import here, ms, put_section
from .state import ROOT

FLEET, TURNS = 2000, 5
SHEETS = (
    "pumping",
    "over_plate",
    "flooded",
    "measured",
    "standing_loop",
    "filling",
    "lift",
    "pulled",
    "chosen",
)


def _fleet() -> list[tuple[list[float], list[float], System]]:
    """Curves of many sizes by seven points, each against pipes that it meets."""
    out = []
    for seed in range(FLEET):
        rng = Random(seed)
        top, end = rng.uniform(8, 90), rng.uniform(10, 400)
        q = [end * i / 6 for i in range(7)]
        h = [top * (1 - rng.uniform(0.55, 0.56) * (v / end) ** 2) for v in q]
        static = rng.uniform(0, 0.2) * top
        out.append((q, sorted(h, reverse=True), System(static, (0.7 * top - static) / (0.7 * end) ** 2)))
    return out


def _timed(act: Callable[[], object]) -> float:
    begun = time.perf_counter()
    act()
    return time.perf_counter() - begun


def _duties() -> tuple[float, float]:
    """Seconds for the fleet, ours and a scipy loop's, by turns: an interpolator and brentq for each pump."""
    from scipy.interpolate import PchipInterpolator
    from scipy.optimize import brentq

    fleet = _fleet()

    def ours() -> list[Any]:
        return [Curve(how="points", head=Line.through(q, h)).meet(s) for q, h, s in fleet]

    def theirs() -> list[float]:
        out = []
        for q, h, s in fleet:
            line = PchipInterpolator(q, h)
            out.append(brentq(lambda x, line=line, s=s: float(line(x)) - s.head(x), q[0], q[-1], xtol=1e-9))
        return out

    for mine, other in zip(ours(), theirs(), strict=True):
        assert mine is not None
        assert abs(mine[0] - other) <= 1e-6 * other
    took = [(_timed(ours), _timed(theirs)) for _ in range(TURNS)]
    return statistics.median(t[0] for t in took), statistics.median(t[1] for t in took)


def _benches() -> dict[str, float]:
    """Seconds of each bench on its healthy sheet, the median of many."""
    sys.path.insert(0, str(ROOT / "core" / "tests"))
    import sheet_table

    out: dict[str, float] = {}
    for sheet in sheet_table.sheets():
        name = sheet.raw["bench"]
        if name in out or not sheet.name.startswith(f"{name}/"):
            continue
        if sheet.raw.get("like") not in SHEETS:
            continue
        case, entries = sheet_table.case_and_entries(sheet)
        bench = sheet_table.bench(name)
        bench.evaluate(case, entries)
        out[name] = statistics.median(
            _timed(lambda b=bench, c=case, e=entries: b.evaluate(c, e)) for _ in range(60)
        )
    return out


def _fits() -> tuple[float, float]:
    """The worst of density and of vapour pressure against IAPWS-IF97, in percent, 0 to 120 °C."""
    from iapws import IAPWS97

    worst = [0.0, 0.0]
    for n in range(1, 241):
        t = n / 2
        wet = IAPWS97(T=t + 273.15, x=0)
        worst[0] = max(worst[0], 100 * abs(water_density(t) / wet.rho - 1))
        worst[1] = max(worst[1], 100 * abs(vapour_kpa(t) / (wet.P * 1000) - 1))
    return worst[0], worst[1]


def main() -> None:
    """`hurbin bench --only water`."""
    took = _benches()
    ours, theirs = _duties()
    density, vapour = _fits()
    lines = [
        "| what | measured | aim |",
        "|---|---|---|",
        *(f"| {name}, one evaluation | {ms(s)} | ≤ 10 ms |" for name, s in sorted(took.items())),
        f"| {FLEET} curves of seven points solved for duty, beside an interpolator and brentq each |"
        f" {ms(ours)} beside {ms(theirs)}: {theirs / ours:.1f} × | ≥ 10 × |",
        f"| density of water against IAPWS-IF97, 0 to 120 °C, worst | {density:.3f} % | ≤ 0.1 % |",
        f"| vapour pressure, the same | {vapour:.3f} % | ≤ 0.5 % |",
    ]
    for line in lines:
        print("  " + line)
    put_section("Water", "\n".join([f"By `./hurbin bench --only water` at {here()}.", "", *lines]))
