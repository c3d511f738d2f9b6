"""What must be on record of a set before it is energised: after a fuse blew, before a motor's first start."""

from __future__ import annotations

from datetime import datetime

from hurbin_core.base import Verdict, is_said
from hurbin_core.plant import EVENT_KINDS, KINDS, ControlPlate, MotorPlate, motor_facts
from hurbin_core.safety import READY, READY_LISTS, Answered, ReadyFacts, ReadyLine, ready
from hurbin_server.base.clock import now
from hurbin_server.logbook.models import Finding
from hurbin_server.logbook.services.answers import closings_of, events_around, fitted_motor, fittings_of
from hurbin_server.plant.known import fitted_now
from hurbin_server.plant.models import PumpSet
from hurbin_server.plant.services.parts import plate_of
from hurbin_server.plant.signals import AGAINST_FITTING

from .standing import last_check

_VERDICTS = {v.value for v in Verdict}
_WORKED_ON = ("motor", "control", "supply", "")


def ready_of(pump_set: PumpSet) -> list[ReadyLine]:
    """What must be on record before this set is energised, line by line; nothing where nothing is asked."""
    begun = {k: at for k in READY_LISTS if (at := _begins(pump_set, k)) is not None}
    if not begun:
        return []
    facts = _facts(pump_set, begun)
    ran = last_check(pump_set, now())
    for k, at in begun.items():
        if ran is None or ran <= at:
            continue
        if _complete(pump_set, facts, k, now() if READY_LISTS[k].after else ran):
            facts.begun.pop(k)
        elif READY_LISTS[k].after:
            facts.ran.append(k)
    return ready(_then(pump_set, facts, now())) if facts.begun else []


def _complete(pump_set: PumpSet, facts: ReadyFacts, kind: str, at: datetime) -> bool:
    """Was everything of a list on record then?"""
    own = facts.model_copy(update={"begun": {kind: facts.begun[kind]}})
    return all(x.done for x in ready(_then(pump_set, own, at)))


def _begins(pump_set: PumpSet, kind: str) -> datetime | None:
    """Since when is this list asked: the newest stop on its question, or the motor that came in or back."""
    question = READY_LISTS[kind].question
    if question:
        return (
            Finding.objects.filter(pump_set=pump_set, live=True, question=question, verdict="stop")
            .order_by("-taken_at")
            .values_list("taken_at", flat=True)
            .first()
        )
    motors = [f for f in fittings_of(pump_set) if f.slot == "motor"]
    came = [f.from_at for f in motors[1:] if f.to_at is None]
    events = events_around(pump_set, fitted_motor(pump_set))
    came += [e.at for e in events if e.kind in EVENT_KINDS and EVENT_KINDS[e.kind].anew]
    return max(came, default=None)


def _facts(pump_set: PumpSet, begun: dict[str, datetime]) -> ReadyFacts:
    """What of the set decides which lines are asked, and since when."""
    parts = fitted_now(pump_set)
    motor, control = parts.get("motor"), parts.get("control")
    plate = plate_of(motor) if motor is not None else None
    motor_plate = plate if isinstance(plate, MotorPlate) else None
    starter = plate_of(control) if control is not None else None
    said = starter if isinstance(starter, ControlPlate) else ControlPlate()
    against = [a for asked in AGAINST_FITTING if motor and (a := asked(pump_set, motor))]
    return ReadyFacts(
        begun=dict(begun),
        kind=pump_set.kind,
        control_kind=control.kind if control is not None else "",
        phases=motor_facts(motor_plate).phases,
        electronics=KINDS[pump_set.kind].built_in_electronics
        or bool(motor_plate and motor_plate.built_in_electronics),
        fields=[n for n in ControlPlate.model_fields if is_said(getattr(said, n))],
        against=against,
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
