"""A drive's settings read over the wire, beside the library's bare loop, by turns in one run."""

from __future__ import annotations

import asyncio
import statistics
import threading
import time
from collections.abc import Callable

from pymodbus.client import ModbusTcpClient

from hurbin_core.electrical.drive_sheet import MAPS, RegisterMap, decode
from hurbin_server.electrical.modbus import blocks, read_holding
from stand_ins.drive import registers, served

from .bench_page import here, ms, put_section

UNIT, TURNS = 7, 60


def _answering(family: str) -> int:
    """A drive of this family on a port of its own, as long as this process lives."""
    port, ready = [0], threading.Event()

    async def go() -> None:
        port[0], _ = await served({UNIT: registers(family, {})}, 0)
        ready.set()
        await asyncio.Event().wait()

    threading.Thread(target=lambda: asyncio.run(go()), daemon=True).start()
    ready.wait(10)
    return port[0]


def _bare(port: int, asked: list[tuple[int, int]]) -> None:
    """The library as its own examples use it: connect, read, close."""
    client = ModbusTcpClient("127.0.0.1", port=port)
    client.connect()
    for first, count in asked:
        client.read_holding_registers(first, count=count, device_id=UNIT)
    client.close()


def _by_turns(ours: Callable[[], object], theirs: Callable[[], object]) -> tuple[float, float]:
    """Seconds of each, the median of many turns in which both had one."""
    took: tuple[list[float], list[float]] = ([], [])
    for _ in range(TURNS):
        for who, act in enumerate((ours, theirs)):
            begun = time.perf_counter()
            act()
            took[who].append(time.perf_counter() - begun)
    return statistics.median(took[0]), statistics.median(took[1])


def _line(family: RegisterMap) -> list[str]:
    port = _answering(family.id)
    one = [(r.address, family.words) for r in family.registers]
    every = [a + n for a, words in one for n in range(words)]

    def ours() -> object:
        return decode(family, read_holding("127.0.0.1", port, UNIT, every), 400.0)

    out = []
    for how, asked in (("a register at a time", one), ("the same blocks", blocks(every))):
        mine, bare = _by_turns(ours, lambda asked=asked: _bare(port, asked))  # type: ignore[misc]
        met = "met" if mine / bare <= 1.3 else "missed"
        out.append(
            f"| {family.title}, {len(family.registers)} parameters, beside {how} | {ms(mine)} | {ms(bare)}"
            f" | {mine / bare:.2f} | ≤ 1.3 | {met} |"
        )
    return out


def main() -> None:
    """The section of docs/bench.md."""
    head = ["| what | ours, decoded | library | ratio | aim | |", "|---|---|---|---|---|---|"]
    rows = [line for family in MAPS.values() for line in _line(family)]
    put_section("Drives", "\n".join([f"By `./hurbin bench --only drives` at {here()}.", "", *head, *rows]))
