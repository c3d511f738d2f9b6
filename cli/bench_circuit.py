"""The walk down a circuit: how long an answer takes, and how many readings name a span. No database."""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable, Iterator
from random import Random

from .bench_page import here, ms, put_section
from .state import ROOT

sys.path[:0] = [str(ROOT / "core"), str(ROOT / "core" / "tests")]

from sheet_table import LIKE, Sheet, case_and_entries  # noqa: E402

from hurbin_core.catalogue import bench  # noqa: E402
from hurbin_core.electrical.circuit import (  # noqa: E402
    Circuit,
    Left,
    Probe,
    Reading,
    Search,
    State,
    circuit_of,
    next_probe,
    rungs,
)
from hurbin_core.electrical.leads import WINDINGS, driven, fit_of, repairs  # noqa: E402
from hurbin_core.simulator import Ladder  # noqa: E402

FAULTS, MOST = 2000, 30
LOW_OHM = 3500.0
IN = State(contactor="in")


def _circuit() -> Circuit:
    return circuit_of("direct", 400.0).model_copy(update={"taps_known": True})


Choose = Callable[[list[Reading], Left], Probe | None]


def _took(search: Search, sim: Ladder, choose: Choose) -> int:
    """Readings until one suspect holds nearly all, each where this chooser says."""
    readings: list[Reading] = []
    while len(readings) < MOST:
        left = search.left(readings)
        probe = None if left.named else choose(readings, left)
        if probe is None:
            break
        one, two = ((p.rpartition(".")[0], int(p[-1])) for p in (probe.one, probe.two))
        volts = sim.reads(one, two, "K", LOW_OHM)
        readings.append(Reading(probe=probe, volts=volts, state=IN))
    return len(readings)


def _walks() -> Iterator[tuple[str, list[int]]]:
    """By the walk itself, by three pairs at every place from the source down, and by chance, on the same
    faults.
    """
    circuit = _circuit()
    search, places = Search(circuit, IN), rungs(circuit)
    pairs = [p for p in search.probes if p.one.rpartition(".")[0] == p.two.rpartition(".")[0]]
    rng = Random(14)
    faults = [(rng.choice(places[:-1]), rng.choice((1, 2, 3))) for _ in range(FAULTS)]

    def best(readings: list[Reading], left: Left) -> Probe | None:
        found = next_probe(search, left, [IN])
        return found.probe if found is not None and found.bits >= 0.02 else None

    def fixed(readings: list[Reading], left: Left) -> Probe | None:
        return pairs[len(readings)] if len(readings) < len(pairs) else None

    def chance(readings: list[Reading], left: Left) -> Probe | None:
        return rng.choice(search.probes)

    for name, choose in (("the next probe", best), ("three pairs at every place", fixed), ("chance", chance)):
        counts: dict[tuple[str, int], list[int]] = {}
        out = []
        for fault in faults:
            # The walk and the fixed order are the same every time; chance is not.
            known = counts.get(fault) if choose is not chance else None
            took = (
                known[0]
                if known
                else _took(search, Ladder(volts=400.0, places=places, broken={fault}), choose)
            )
            counts.setdefault(fault, []).append(took)
            out.append(took)
        yield name, out


def _timed(act: Callable[[], object], n: int) -> float:
    taken = []
    for _ in range(n):
        begun = time.perf_counter()
        act()
        taken.append(time.perf_counter() - begun)
    return statistics.median(taken)


def _crossed() -> list[frozenset[str]]:
    """Twelve leads with two lines crossed on one half."""
    right = WINDINGS["wye12"].right("low")
    turned = {"1": "2", "2": "1"}
    return [frozenset(turned.get(x, x) for x in n) for n in right.box] if right is not None else []


def main() -> None:
    """The section of docs/bench.md."""
    b, (case, entries) = bench("circuit"), case_and_entries(Sheet("ladder", "", LIKE["ladder"]))
    cold = _timed(lambda: Search(_circuit(), IN).tables(IN), 9)
    warm = _timed(lambda: b.evaluate(case, entries), 60)
    search = Search(_circuit(), IN)
    left = search.left([])
    ahead = _timed(lambda: next_probe(search, left, [IN]), 60)
    ring = circuit_of("star_delta", 400.0).model_copy(update={"taps_known": True})
    ringed = _timed(lambda: Search(ring, IN).tables(IN), 9)
    box, wrong = WINDINGS["wye12"], _crossed()
    checked = _timed(lambda: fit_of(box, driven(box, wrong)), 60)
    mended = _timed(lambda: repairs(box, "low", wrong), 20)
    lines = [
        f"- A keystroke on a ladder of {len(search.suspects) - 1} suspects, warm: {ms(warm)} (aim ≤ 15 ms).",
        f"- Its tables in one state, cold: {ms(cold)} (aim ≤ 250 ms).",
        f"- The next probe over all {len(search.probes)} pairs, warm: {ms(ahead)} (aim ≤ 10 ms).",
        f"- A ring of {len(Search(ring, IN).suspects) - 1} suspects, one state, cold: {ms(ringed)}.",
        f"- A box of twelve leads, checked: {ms(checked)} (aim ≤ 20 ms); the nearest right lists, warm:"
        f" {ms(mended)} (aim ≤ 100 ms).",
        "",
        f"Readings until a span is named, {FAULTS} seeded faults read off the simulator's own ladder:",
        "",
        "| by | mean | worst |",
        "|---|---|---|",
    ]
    for name, took in _walks():
        worst = f"over {MOST - 1}" if max(took) >= MOST else str(max(took))
        lines.append(f"| {name} | {statistics.mean(took):.1f} | {worst} |")
    text = "\n".join([f"By `./hurbin bench --only circuit` at {here()}.", "", *lines])
    put_section("Circuit", text)
    print(text)
