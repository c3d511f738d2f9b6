"""A drive is asked for its settings: by the worker, at the address that an admin entered, never another."""

from __future__ import annotations

from datetime import timedelta
from ipaddress import ip_address

from django.conf import settings
from django.db import transaction

from hurbin_core.electrical.drive_sheet import MAPS, decode
from hurbin_core.plant import MotorPlate, motor_facts
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for
from hurbin_server.plant.known import fitted_now
from hurbin_server.plant.models import PumpSet
from hurbin_server.plant.services.parts import plate_of

from ..modbus import NoAnswer, read_holding
from ..models import DriveAddress, DriveReading

# A question older than this was lost with its worker.
LOST = timedelta(seconds=45)
# What was taken over stands in its record; an answer is kept to be looked at again.
KEPT = timedelta(days=30)


def keep_address(user: User, set_id: int, host: str, port: int, unit: int, family: str) -> DriveAddress:
    """Enter where a set's drive answers. An admin's act; only addresses of a plant's own network (422)."""
    row = set_for(user, set_id, "admin")
    _check(host, port, unit, family)
    with transaction.atomic():
        kept, _ = DriveAddress.objects.update_or_create(
            pump_set=row,
            defaults={"host": host, "port": port, "unit": unit, "family": family, "by": user, "at": now()},
        )
        after = {"host": host, "port": port, "unit": unit, "family": family}
        moved("set", row.pk, row.site_id)
        audit.note(user, "drive_address", row.tag, pump_set=row, after=after)
    return kept


def drop_address(user: User, set_id: int) -> None:
    """Take a set's drive off the list."""
    row = set_for(user, set_id, "admin")
    with transaction.atomic():
        DriveAddress.objects.filter(pump_set=row).delete()
        moved("set", row.pk, row.site_id)
        audit.note(user, "drive_address_dropped", row.tag, pump_set=row)


def _check(host: str, port: int, unit: int, family: str) -> None:
    def refuse(field: str, value: str, message: str, right: str) -> None:
        raise Refused(422, "address_refused", message, field=field, value=value, right=right)

    try:
        ip = ip_address(host)
    except ValueError:
        refuse("host", host[:60], "Enter the drive's IP address; a name is not looked up.", "192.168.10.21")
        return
    # A stand-in answers on this very machine; where there is none, nothing here is to be asked.
    inside = settings.DEMO if ip.is_loopback else ip.is_private
    if not inside or ip.is_link_local or ip.is_multicast or ip.is_unspecified:
        own = "Only addresses of the plant's own network are read."
        refuse("host", host, own, "10.x, 172.16.x, 192.168.x")
    if not 1 <= port <= 65535:
        refuse("port", str(port), "A port is 1 to 65535.", "502")
    if not 0 <= unit <= 247:
        refuse("unit", str(unit), "A unit number is 0 to 247.", "1")
    if family not in MAPS:
        refuse("family", family[:40], "No such family of drives is known here.", ", ".join(MAPS))


def ask_drive(user: User, set_id: int) -> DriveReading:
    """Queue a reading of this set's drive. Without an address on the list it is refused (409)."""
    from ..tasks import run_reading

    row = set_for(user, set_id, "technician")
    address = DriveAddress.objects.filter(pump_set=row).first()
    if address is None:
        raise Refused(
            409,
            "no_address",
            "This drive is not on the list of those that are read. An admin enters its address.",
            field="address",
        )
    waiting = DriveReading.objects.filter(pump_set=row, done_at=None, at__gt=now() - LOST).first()
    if waiting is not None:
        return waiting
    DriveReading.objects.filter(pump_set=row, at__lt=now() - KEPT).delete()
    made = DriveReading.objects.create(pump_set=row, family=address.family, by=user, at=now())
    moved("set", row.pk, row.site_id)
    transaction.on_commit(lambda: run_reading.enqueue(made.pk))
    return made


def run(reading_id: int) -> str:
    """Read it. What cannot be is named; half an answer is none."""
    reading = DriveReading.objects.select_related("pump_set").get(pk=reading_id)
    if reading.done_at is not None:
        return "done before"
    address = DriveAddress.objects.filter(pump_set=reading.pump_set).first()
    if address is None:
        return _end(reading, "no_address", "Its address was taken off the list meanwhile.")
    family = MAPS[address.family]
    asked = [r.address + n for r in family.registers for n in range(family.words)]
    try:
        registers = read_holding(address.host, address.port, address.unit, asked)
    except NoAnswer as why:
        return _end(reading, why.code, str(why))
    got = decode(family, registers, _plate_volts(reading.pump_set))
    reading.settings = got.settings
    reading.problems = [p.model_dump() for p in got.problems]
    return _end(reading, "", "")


def _plate_volts(row: PumpSet) -> float | None:
    motor = fitted_now(row).get("motor")
    plate = plate_of(motor) if motor is not None else None
    return motor_facts(plate).volts_v if isinstance(plate, MotorPlate) else None


def _end(reading: DriveReading, code: str, why: str) -> str:
    reading.code, reading.failed, reading.done_at = code, why, now()
    reading.save()
    return code or "read"
