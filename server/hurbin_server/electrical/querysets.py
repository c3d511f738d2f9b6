"""Reads of the circuits."""

from __future__ import annotations

from datetime import datetime

from hurbin_core.electrical.circuit import CIRCUIT_KINDS, Circuit, KeptCircuit, circuit_of, usual_circuit
from hurbin_core.electrical.control.parts import usual_control
from hurbin_core.electrical.drive_sheet import MAPS
from hurbin_core.plant import MotorPlate, motor_facts
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Point, Series
from hurbin_server.plant.access import require, set_for
from hurbin_server.plant.known import fitted_now
from hurbin_server.plant.models import PumpSet

from . import schemas as s
from .models import CircuitVersion, DriveAddress, DriveReading
from .services.reading_drive import LOST


def newest(pump_set: PumpSet, as_of: datetime | None = None) -> CircuitVersion | None:
    """The circuit as it was described last, up to then."""
    rows = CircuitVersion.objects.filter(pump_set=pump_set).select_related("by").order_by("-version")
    return (rows if as_of is None else rows.filter(at__lte=as_of)).first()


def kept(row: CircuitVersion) -> KeptCircuit:
    """A version as the core knows it."""
    return KeptCircuit(
        circuit=Circuit.model_validate(row.circuit),
        version=row.version,
        at=row.at,
        by=row.by.full_name,
    )


def supply_volts(pump_set: PumpSet) -> float | None:
    """How many volts does this position have between its legs: by its confirmed circuit, else as they were
    last read ahead of any drive; None where nobody knows.
    """
    row = newest(pump_set)
    if row is not None:
        return kept(row).circuit.supply.volts
    drive = any(c.kind == "drive" for c in fitted_now(pump_set).values())
    series = Series.objects.filter(pump_set=pump_set, component=None, measurand="voltage")
    if drive:
        series = series.filter(conditions__contains="at=drive_input")
    last = Point.objects.filter(series__in=series, live=True, bound="exact").order_by("-taken_at").first()
    return last.value if last is not None else None


def kinds_of(sets: list[PumpSet]) -> dict[int, str]:
    """Of which kind is the circuit that somebody confirmed for each of these sets?"""
    rows = CircuitVersion.objects.filter(pump_set__in=sets).order_by("version")
    return {x.pump_set_id: str(x.circuit.get("kind", "")) for x in rows}


def usual_of(pump_set: PumpSet, kind: str = "") -> KeptCircuit:
    """The usual circuit of this set's starter, or of this kind, at its nameplate's voltage."""
    fitted = {f.slot: f.component for f in pump_set.fittings.filter(to_at=None).select_related("component")}
    motor = MotorPlate.model_validate(fitted["motor"].plate) if "motor" in fitted else None
    control = fitted["control"].kind if "control" in fitted else ""
    if kind:
        return KeptCircuit(circuit=circuit_of(kind, motor_facts(motor).volts_v))
    return usual_circuit(pump_set.kind, control, motor)


def circuit_for(user: User, set_id: int) -> s.CircuitOut:
    """The circuit of a set, and the usual ones an edit may begin with."""
    pump_set = set_for(user, set_id)
    role = require(user, pump_set.site_id)
    row = newest(pump_set)
    stands = kept(row) if row is not None else usual_of(pump_set)
    return s.CircuitOut(
        circuit=stands.circuit,
        version=stands.version,
        at=row.at if row is not None else None,
        by=stands.by,
        may=role != "viewer",
        usual_control=usual_control(),
        usual=[
            s.UsualCircuit(id=k.id, title=k.title, below=k.below, circuit=usual_of(pump_set, k.id).circuit)
            for k in CIRCUIT_KINDS.values()
        ],
    )


def drives_of_site(user: User, site_id: int) -> s.DrivesOut:
    """The list of the drives that are read: an admin's."""
    require(user, site_id, "admin")
    rows = DriveAddress.objects.filter(pump_set__site_id=site_id).select_related("pump_set", "by")
    drives = [
        s.DriveAddressOut(
            set_id=a.pump_set_id,
            tag=a.pump_set.tag,
            host=a.host,
            port=a.port,
            unit=a.unit,
            family=a.family,
            by=a.by.full_name,
            at=a.at,
        )
        for a in rows.order_by("pump_set__tag")
    ]
    families = [s.FamilyOut(id=m.id, title=m.title) for m in MAPS.values()]
    return s.DrivesOut(drives=drives, families=families)


def drive_of(user: User, set_id: int) -> s.DriveOut:
    """Can this set's drive be read, and what did it answer last? Its address is not told."""
    row = set_for(user, set_id)
    address = DriveAddress.objects.filter(pump_set=row).first()
    last = DriveReading.objects.filter(pump_set=row).select_related("by").order_by("-at", "-pk").first()
    return s.DriveOut(
        listed=address is not None,
        family=address.family if address is not None else "",
        last=reading_out(last) if last is not None else None,
    )


def reading_out(r: DriveReading) -> s.DriveReadingOut:
    lost = r.done_at is None and now() - r.at > LOST
    state = "failed" if r.failed or lost else "read" if r.done_at else "waiting"
    return s.DriveReadingOut(
        id=r.pk,
        at=r.at,
        by=r.by.full_name,
        family=r.family,
        state=state,
        code="lost" if lost else r.code,
        failed="Nobody took up the question. Read it again." if lost else r.failed,
        settings=r.settings,
        problems=r.problems,
    )
