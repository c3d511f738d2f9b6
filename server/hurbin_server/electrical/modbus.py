"""Holding registers of a drive, read over Modbus TCP and never written."""

from __future__ import annotations

import logging
from collections.abc import Iterable
from typing import Any

from pymodbus.client import ModbusTcpClient
from pymodbus.exceptions import ConnectionException, ModbusException, ModbusIOException

# What goes wrong on the wire is told to the person who asked, not to a log.
logging.getLogger("pymodbus.logging").setLevel(logging.CRITICAL)
WAIT_S = 2.0
# One that let that pass is waited for once more, to tell slow from mute.
SLOW_S = 12.0
# A drive answers up to 125 registers at once; small gaps are cheaper read than asked around.
_MOST, _GAP = 120, 24


class NoAnswer(Exception):
    """Why nothing is taken, as a person is told. code: silent, late, mute, half, refused."""

    def __init__(self, code: str, message: str) -> None:
        super().__init__(message)
        self.code = code


def blocks(addresses: Iterable[int]) -> list[tuple[int, int]]:
    """The registers in as few questions as may be: (first, how many)."""
    out: list[tuple[int, int]] = []
    for a in sorted(set(addresses)):
        if out and a - out[-1][0] < _MOST and a - sum(out[-1]) <= _GAP:
            out[-1] = (out[-1][0], a - out[-1][0] + 1)
        else:
            out.append((a, 1))
    return out


def read_holding(host: str, port: int, unit: int, addresses: Iterable[int]) -> dict[int, int]:
    """What stands in these registers? All of them, or NoAnswer: half an answer is none."""
    client = ModbusTcpClient(host, port=port, timeout=WAIT_S, retries=0)
    asked = blocks(addresses)
    got: dict[int, int] = {}
    try:
        if not client.connect():
            raise NoAnswer("silent", "Nothing answers at this drive's address. Is it on, and on the network?")
        for first, count in asked:
            registers = _ask(client, first, count, unit, bool(got))
            got.update(enumerate(registers, first))
    except NoAnswer as why:
        client.close()
        if why.code == "late" and not _slow(host, port, unit, asked[0][0]):
            mute = "It is on the network and never answers. Is Modbus on, is the unit number right?"
            raise NoAnswer("mute", mute) from None
        raise
    finally:
        client.close()
    return got


def _slow(host: str, port: int, unit: int, first: int) -> bool:
    """Does it answer at all, if only it is waited for long enough?"""
    client = ModbusTcpClient(host, port=port, timeout=SLOW_S, retries=0)
    try:
        return client.connect() and bool(client.read_holding_registers(first, count=1, device_id=unit))
    except ModbusException:
        return False
    finally:
        client.close()


def _ask(client: ModbusTcpClient, first: int, count: int, unit: int, begun: bool) -> list[int]:
    broke = "It stopped answering half-way: nothing of it is taken. Read it again."
    try:
        told: Any = client.read_holding_registers(first, count=count, device_id=unit)
    except ConnectionException:
        raise NoAnswer("half", broke) from None
    except ModbusIOException:
        if begun:
            raise NoAnswer("half", broke) from None
        late = f"It answers, but later than {WAIT_S:g} s: nothing is taken. Is the line overloaded?"
        raise NoAnswer("late", late) from None
    except ModbusException:
        raise NoAnswer("half", broke) from None
    if told.isError():
        refused = "It refuses these registers: another family, or another unit number."
        raise NoAnswer("refused", refused)
    registers = list(told.registers)
    if len(registers) != count:
        raise NoAnswer("half", broke)
    return registers
