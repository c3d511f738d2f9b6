"""A drive that answers over Modbus TCP: holding registers packed by the family's own sheet; it takes no
settings but of a person who starts it with other ones. It can answer late, half, or not at all.

    python -m stand_ins.drive --port 15502 --set 13=wide:motor_amps=67.9,restart=off --set 31=ladder
"""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import struct
import tomllib
from collections.abc import Mapping
from pathlib import Path

from pymodbus.server import ModbusTcpServer
from pymodbus.simulator import DataType, SimData, SimDevice

from hurbin_core.electrical.drive_sheet import MAPS


def registers(family: str, settings: Mapping[str, str]) -> dict[int, int]:
    """The registers of such a drive; what is not said stands as it left the factory."""
    sheet = MAPS[family]
    out: dict[int, int] = {}
    for r in sheet.registers:
        number = r.default
        said = settings.get(r.parameter)
        if said is not None:
            words = {word: int(n) for n, word in r.choices.items()}
            number = words[said] if r.choices else round(float(said) / r.scale)
        packed = struct.pack(">i" if sheet.words == 2 else ">h" if number < 0 else ">H", number)
        out.update(enumerate(struct.unpack(f">{sheet.words}H", packed), r.address))
    return out


def device(unit: int, held: Mapping[int, int]) -> SimDevice:
    """One unit on the wire. Between its first and last register everything answers; outside it refuses."""
    first, last = min(held), max(held)
    values = [held.get(a, 0) for a in range(first, last + 1)]
    return SimDevice(id=unit, simdata=[SimData(first, values=values, datatype=DataType.REGISTERS)])


class Front:
    """What stands before a drive on the wire: passes on, late, half, or nothing. mode: ok, late, half,
    mute.
    """

    def __init__(self, inner: int, mode: str = "ok", late_s: float = 8.0) -> None:
        self.inner, self.mode, self.late_s = inner, mode, late_s
        self.server: asyncio.Server | None = None

    async def start(self, port: int) -> int:
        self.server = await asyncio.start_server(self._taken, "127.0.0.1", port)
        return int(self.server.sockets[0].getsockname()[1])

    async def _taken(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        answered = 0
        with contextlib.suppress(ConnectionError, asyncio.IncompleteReadError):
            back, out = await asyncio.open_connection("127.0.0.1", self.inner)
            while head := await reader.readexactly(6):
                out.write(head + await reader.readexactly(int.from_bytes(head[4:6], "big")))
                head = await back.readexactly(6)
                answer = head + await back.readexactly(int.from_bytes(head[4:6], "big"))
                if self.mode == "late":
                    await asyncio.sleep(self.late_s)
                if self.mode == "mute":
                    continue
                if self.mode == "half" and answered:
                    writer.write(answer[: len(answer) // 2])
                    await writer.drain()
                    break
                writer.write(answer)
                await writer.drain()
                answered += 1
            out.close()
        writer.close()


async def served(
    units: Mapping[int, Mapping[int, int]], port: int, mode: str = "ok", late_s: float = 8.0
) -> tuple[int, ModbusTcpServer]:
    """Drives behind one front on this port (0: any free one): the port, and the server behind it."""
    devices = [device(unit, held) for unit, held in units.items()]
    inner = ModbusTcpServer(devices, address=("127.0.0.1", 0))
    await inner.serve_forever(background=True)
    own = int(inner.transport.sockets[0].getsockname()[1])
    return await Front(own, mode, late_s).start(port), inner


def _told(text: str) -> tuple[int, dict[int, int]]:
    """One drive of the command line: "13=wide:motor_amps=67.9,restart=off"."""
    unit, _, rest = text.partition("=")
    family, _, pairs = rest.partition(":")
    settings = dict(pair.split("=", 1) for pair in pairs.split(",") if pair)
    return int(unit), registers(family, settings)


async def _main(argv: argparse.Namespace) -> None:
    units = dict(_told(x) for x in argv.set)
    if argv.file:
        rows = tomllib.loads(argv.file.read_text())["drive"]
        units |= {d["unit"]: registers(d["family"], d["settings"]) for d in rows}
    port, _ = await served(units, argv.port, argv.mode)
    print(f"drives answer at 127.0.0.1:{port}", flush=True)
    await asyncio.Event().wait()


if __name__ == "__main__":
    parser = argparse.ArgumentParser(
        description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter
    )
    parser.add_argument("--port", type=int, default=0)
    parser.add_argument("--set", action="append", default=[], metavar="UNIT=FAMILY[:PARAMETER=VALUE,...]")
    parser.add_argument("--file", type=Path, help="drives in a TOML file")
    parser.add_argument("--mode", choices=("ok", "late", "half", "mute"), default="ok")
    asyncio.run(_main(parser.parse_args()))
