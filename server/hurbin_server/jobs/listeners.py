"""What a job is told; how the isolation of a set stood from when on; what a job that is left may not
leave.
"""

from __future__ import annotations

from typing import Any

from django.dispatch import receiver

from hurbin_core.base import AnyBench, Evaluation
from hurbin_core.jobs.known import JOB
from hurbin_core.safety import fold
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User
from hurbin_server.logbook.labels import BESIDE
from hurbin_server.logbook.models import Record, Sheet
from hurbin_server.logbook.signals import EXTRAS, entries_written, record_saved, sheet_leaving
from hurbin_server.plant.models import PumpSet
from hurbin_server.safety.models import TemporaryChange
from hurbin_server.safety.services.standing import BENCH as ISOLATION, entries_on, facts_of
from hurbin_server.stores.models import PartMove
from hurbin_server.stores.services.kits import PROCEDURES

from .known import BENCH, known_of
from .models import IsolationMoment
from .reads import back_token, procedure_codes

EXTRAS[JOB] = known_of
PROCEDURES.append(procedure_codes)
BESIDE.append(lambda row: ("When is it back?", f"/back/{back_token(row.pk)}"))


@receiver(entries_written, dispatch_uid="jobs_isolation")
def _stood(sender: Any, user: User, pump_set: PumpSet, bench: AnyBench, sheet: Sheet, **_: Any) -> None:
    """Every change of the isolation, once, at the second of the entry that made it. An entry that came late
    changes what was said of the time after it: the moments of this sheet are written anew.
    """
    if bench.name != ISOLATION:
        return
    entries = sorted(entries_on(sheet), key=lambda e: (e.taken_at, e.uuid))
    facts = facts_of(pump_set, max((e.taken_at for e in entries), default=sheet.opened_at))
    rows: list[IsolationMoment] = []
    stood = ("", list[str]())
    for i, e in enumerate(entries, 1):
        iso = fold(entries[:i], facts)
        now_ = (iso.state, sorted(iso.scopes))
        if now_ != stood:
            told = {"pump_set": pump_set, "at": e.taken_at, "state": iso.state, "scopes": now_[1]}
            rows.append(IsolationMoment(**told))
            stood = now_
    first = entries[0].taken_at if entries else sheet.opened_at
    IsolationMoment.objects.filter(pump_set=pump_set, at__gte=first).delete()
    IsolationMoment.objects.bulk_create(rows)


@receiver(record_saved, dispatch_uid="jobs_given_back")
def _given_back(sender: Any, user: User, record: Record, evaluation: Evaluation[Any], **_: Any) -> None:
    """An isolation on record: the set was given back. A job without its proof is unfinished: it is not put on
    record.
    """
    if record.bench == BENCH and evaluation.missing:
        first = evaluation.missing[0]
        message = f"This job is not finished. {first.message}"
        raise Refused(422, "job_unfinished", message, field=first.field)
    if record.bench == ISOLATION:
        at = record.saved_at
        last = IsolationMoment.objects.filter(pump_set=record.pump_set).order_by("-at").first()
        told = {"pump_set": record.pump_set, "state": "nothing", "scopes": []}
        IsolationMoment.objects.create(at=max(at, last.at) if last else at, **told)


@receiver(sheet_leaving, dispatch_uid="jobs_leaving")
def _leaving(sender: Any, user: User, sheet: Sheet, **_: Any) -> None:
    """A job with something taken off, a change on, or parts used is finished, never left."""
    if sheet.bench != BENCH:
        return
    standing = TemporaryChange.objects.filter(sheet=sheet.pk, off_at=None).count()
    if standing:
        raise Refused(
            409,
            "changes_stand",
            f"{standing} temporary changes of this job are still on. Restore them first.",
        )
    used = PartMove.objects.filter(sheet=sheet.pk, emergency=False)
    if sum(used.values_list("change", flat=True)):
        message = "Parts were used in this job. Finish it, or bring them back first."
        raise Refused(409, "parts_used", message)
