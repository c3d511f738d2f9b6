"""A drive read over the wire: by the library's own client and by us, late, half, refused and silent."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

import pytest
from conftest import Api
from pymodbus.client import ModbusTcpClient

from hurbin_core.electrical.drive_sheet import MAPS
from hurbin_server.electrical.models import DriveReading
from hurbin_server.electrical.services import reading_drive
from hurbin_server.plant.models import PumpSet, Site
from stand_ins.drive import registers, served

Door = Callable[[str], Api]
SET = {"motor_volts": "400", "motor_amps": "20", "restart": "off", "pid_setpoint": "-3"}


@contextmanager
def answering(held: dict[int, int], mode: str = "ok", unit: int = 7) -> Iterator[int]:
    """A drive with these registers on a port of its own, in a loop of its own."""
    loop, port, ready = asyncio.new_event_loop(), [0], threading.Event()

    async def go() -> None:
        port[0], _ = await served({unit: held}, 0, mode, late_s=1.0)
        ready.set()

    def run() -> None:
        asyncio.set_event_loop(loop)
        loop.create_task(go())
        loop.run_forever()

    thread = threading.Thread(target=run, daemon=True)
    thread.start()
    assert ready.wait(10)
    try:
        yield port[0]
    finally:
        loop.call_soon_threadsafe(loop.stop)
        thread.join(5)


@pytest.fixture(autouse=True)
def _loopback(settings: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    settings.DEMO = True
    monkeypatch.setattr("hurbin_server.electrical.modbus.WAIT_S", 0.5)
    monkeypatch.setattr("hurbin_server.electrical.modbus.SLOW_S", 2.5)


def listed(api: Api, row: PumpSet, **more: Any) -> tuple[int, Any]:
    said = {"host": "127.0.0.1", "port": 502, "unit": 7, "family": "ladder", **more}
    return api("PUT", f"/sets/{row.pk}/drive-address", said)


def read(api: Api, row: PumpSet) -> Any:
    status, told = api("POST", f"/sets/{row.pk}/drive-readings")
    assert status == 201, told
    reading_drive.run(told["id"])
    return api("GET", f"/sets/{row.pk}/drive")[1]["last"]


@pytest.mark.parametrize("family", MAPS)
def test_the_stand_in_is_read_by_us_and_by_the_librarys_own_client(
    api: Door, pump_set: PumpSet, family: str
) -> None:
    held = registers(family, SET)
    with answering(held) as port:
        client = ModbusTcpClient("127.0.0.1", port=port)
        assert client.connect()
        first = MAPS[family].registers[0].address
        count = MAPS[family].words * 10
        told = client.read_holding_registers(first, count=count, device_id=7).registers
        client.close()
        assert told == [held[first + n] for n in range(count)]
        assert listed(api("ada"), pump_set, port=port, family=family)[0] == 200
        last = read(api("tia"), pump_set)
    assert (last["state"], last["problems"]) == ("read", [])
    assert {k: last["settings"][k] for k in SET} == SET
    assert len(last["settings"]) == len(MAPS[family].registers)


@pytest.mark.parametrize(
    ("mode", "code", "says"),
    [
        ("late", "late", "It answers, but later than"),
        ("half", "half", "stopped answering half-way"),
        ("mute", "mute", "never answers"),
    ],
)
def test_late_half_and_mute_are_each_their_own_answer_and_nothing_is_taken(
    api: Door, pump_set: PumpSet, mode: str, code: str, says: str
) -> None:
    with answering(registers("ladder", SET), mode) as port:
        assert listed(api("ada"), pump_set, port=port)[0] == 200
        last = read(api("tia"), pump_set)
    assert (last["state"], last["code"], last["settings"]) == ("failed", code, {})
    assert says in last["failed"]


def test_nobody_there_another_unit_and_another_family(api: Door, pump_set: PumpSet) -> None:
    ada, tia = api("ada"), api("tia")
    with answering(registers("ladder", SET)) as port:
        assert listed(ada, pump_set, port=port, family="wide")[0] == 200
        assert read(tia, pump_set)["code"] == "refused"
        assert listed(ada, pump_set, port=port, unit=9)[0] == 200
        assert read(tia, pump_set)["code"] in ("mute", "refused")
    assert listed(ada, pump_set, port=1)[0] == 200
    last = read(tia, pump_set)
    assert last["code"] == "silent"
    assert "Nothing answers" in last["failed"]


def test_values_scaled_wrong_are_named_and_not_taken(api: Door, pump_set: PumpSet) -> None:
    with answering(registers("ladder", SET | {"motor_volts": "40"})) as port:
        assert listed(api("ada"), pump_set, port=port)[0] == 200
        last = read(api("tia"), pump_set)
    assert last["settings"] == {}
    assert "scaled wrong" in last["problems"][0]["message"]


def test_only_an_admin_lists_an_address_and_only_of_the_plants_own_network(
    api: Door, site: Site, pump_set: PumpSet, settings: Any
) -> None:
    ada, tia = api("ada"), api("tia")
    assert listed(tia, pump_set)[0] == 403
    assert tia("GET", f"/sites/{site.pk}/drives")[0] == 403
    assert api("vic")("POST", f"/sets/{pump_set.pk}/drive-readings")[0] == 403
    assert api("stranger")("GET", f"/sets/{pump_set.pk}/drive")[0] == 404
    assert tia("POST", f"/sets/{pump_set.pk}/drive-readings")[1]["code"] == "no_address"
    for more in (
        {"host": "drive.local"},
        {"host": "8.8.8.8"},
        {"host": "169.254.1.1"},
        {"host": "0.0.0.0"},
        {"port": 0},
        {"unit": 300},
        {"family": "other"},
    ):
        status, told = listed(ada, pump_set, **more)
        assert (status, told["code"]) == (422, "address_refused"), more
    settings.DEMO = False
    assert listed(ada, pump_set)[0] == 422
    assert listed(ada, pump_set, host="192.168.10.21")[1]["drives"][0]["host"] == "192.168.10.21"
    assert "host" not in str(tia("GET", f"/sets/{pump_set.pk}/drive")[1])
    assert ada("DELETE", f"/sets/{pump_set.pk}/drive-address")[0] == 204
    assert tia("GET", f"/sets/{pump_set.pk}/drive")[1]["listed"] is False


def test_a_question_whose_worker_died_is_told_as_lost_and_asked_again(api: Door, pump_set: PumpSet) -> None:
    ada, tia = api("ada"), api("tia")
    assert listed(ada, pump_set, port=1)[0] == 200
    first = tia("POST", f"/sets/{pump_set.pk}/drive-readings")[1]
    assert tia("POST", f"/sets/{pump_set.pk}/drive-readings")[1]["id"] == first["id"]
    row = DriveReading.objects.get(pk=first["id"])
    row.at -= reading_drive.LOST * 2
    row.save()
    assert tia("GET", f"/sets/{pump_set.pk}/drive")[1]["last"]["code"] == "lost"
    assert tia("POST", f"/sets/{pump_set.pk}/drive-readings")[1]["id"] != first["id"]


def test_a_file_of_settings_goes_out_and_comes_in(api: Door) -> None:
    from django.core.files.uploadedfile import SimpleUploadedFile

    tia = api("tia")
    text = b"parameter,value,unit\naccel,20,s\nwarp,9,\n"
    told = tia.client.post("/api/v1/drives/file", {"file": SimpleUploadedFile("x.csv", text)}).json()
    assert told["settings"] == {"accel": "20 s"}
    assert told["problems"][0]["code"] == "parameter_unknown"
