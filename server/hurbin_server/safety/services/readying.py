"""What is on record of a set on which a fuse blew: for the list of what must be there before power."""

from __future__ import annotations

from datetime import datetime

from hurbin_core.base import Verdict, is_said
from hurbin_core.plant import KINDS, ControlPlate, MotorPlate, motor_facts
from hurbin_core.safety import FAULT, READY, Answered, ReadyFacts, ReadyLine, ready
from hurbin_server.base.clock import now
from hurbin_server.logbook.models import Finding
from hurbin_server.logbook.services.answers import closings_of, fitted_motor
from hurbin_server.plant.known import fitted_now
from hurbin_server.plant.models import PumpSet
from hurbin_server.plant.services.parts import plate_of

from .standing import last_check

_VERDICTS = {v.value for v in Verdict}
_WORKED_ON = ("motor", "control", "supply", "")


def ready_of(pump_set: PumpSet) -> list[ReadyLine]:
    """What must be on record before this set is energised, line by line; nothing where no fuse blew."""
    fault = (
        Finding.objects.filter(pump_set=pump_set, live=True, question=FAULT, verdict="stop")
        .order_by("-taken_at")
        .values_list("taken_at", flat=True)
        .first()
    )
    if fault is None:
        return []
    facts = _facts(pump_set, fault)
    ran = last_check(pump_set, now())
    if ran is not None and ran > fault and all(x.done for x in ready(_then(pump_set, facts, ran))):
        # It ran with everything on record: that fault is over.
        return []
    return ready(_then(pump_set, facts, now()))


def _facts(pump_set: PumpSet, fault: datetime) -> ReadyFacts:
    """What of the set decides which lines are asked, and since when."""
    parts = fitted_now(pump_set)
    motor, control = parts.get("motor"), parts.get("control")
    plate = plate_of(motor) if motor is not None else None
    motor_plate = plate if isinstance(plate, MotorPlate) else None
    starter = plate_of(control) if control is not None else None
    said = starter if isinstance(starter, ControlPlate) else ControlPlate()
    return ReadyFacts(
        fault_at=fault,
        kind=pump_set.kind,
        control_kind=control.kind if control is not None else "",
        phases=motor_facts(motor_plate).phases,
        electronics=KINDS[pump_set.kind].built_in_electronics
        or bool(motor_plate and motor_plate.built_in_electronics),
        fields=[n for n in ControlPlate.model_fields if is_said(getattr(said, n))],
    )


def _then(pump_set: PumpSet, facts: ReadyFacts, at: datetime) -> ReadyFacts:
    """The same as it was on record at that time: the newest answer to each question, the last work."""
    asked = {q for line in READY.values() for q in line.questions}
    found = Finding.objects.filter(
        pump_set=pump_set, live=True, question__in=asked, taken_at__lte=at
    ).order_by("taken_at", "pk")
    answers = {
        f.question: Answered(verdict=Verdict(f.verdict), taken_at=f.taken_at, record=f.record_id)
        for f in found
        if f.verdict in _VERDICTS
    }
    work = [
        c.at
        for c in closings_of(pump_set, fitted_motor(pump_set))
        if (c.repair or c.exchanged) and c.part in _WORKED_ON and c.at <= at
    ]
    return facts.model_copy(update={"answers": answers, "work_at": max(work, default=None)})
