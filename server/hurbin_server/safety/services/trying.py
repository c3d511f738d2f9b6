"""One watched trial run into a stop, after its repair: released by a lead, used up by the answering
record."""

from __future__ import annotations

from django.db import transaction
from django.db.models import prefetch_related_objects

from hurbin_core.base import HurbinError, Phrase, write
from hurbin_core.logbook import repaired_since
from hurbin_core.safety import STARTS_WITHIN, StandingStop, TrialRun as Released, check_trial
from hurbin_server.base import audit
from hurbin_server.base.asking import rows
from hurbin_server.base.clock import now
from hurbin_server.base.door import once
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Record
from hurbin_server.logbook.services.answers import closings_of, fitted_motor
from hurbin_server.plant.access import hold_set, set_for
from hurbin_server.plant.models import PumpSet

from ..models import TrialRun
from . import hanging
from .repeated import the_same


def stops_on(pump_set: PumpSet) -> list[StandingStop]:
    """The stops that stand on a set, and whether a repair of what each concerns is on record since."""
    stops = hanging.stops_of(pump_set)
    closings = closings_of(pump_set, fitted_motor(pump_set)) if stops else []
    out = []
    for a in stops:
        repaired = repaired_since(a.question, a.part, a.taken_at, closings)
        says = write(Phrase.model_validate(a.reason))
        out.append(
            StandingStop(
                question=a.question, subject=a.subject, since=a.taken_at, repaired=repaired, says=says
            )
        )
    return out


def open_trials(pump_set: PumpSet) -> list[TrialRun]:
    """What is released and neither used up nor over."""

    def ask() -> list[TrialRun]:
        found = rows(TrialRun, _OPEN, [pump_set.pk, now()])
        prefetch_related_objects(found, "by")
        return found

    return once(("trials", pump_set.pk), ask)


_OPEN = """SELECT * FROM safety_trialrun WHERE pump_set_id = %s AND used_by_id IS NULL AND until > %s
ORDER BY at"""


def released_on(pump_set: PumpSet) -> list[Released]:
    return [
        Released(questions=t.questions, limits=t.limits, minutes=t.minutes, by=t.by.full_name, until=t.until)
        for t in open_trials(pump_set)
    ]


def release(user: User, set_id: int, uuid: str, limits: str, minutes: int) -> TrialRun:
    """A lead releases one watched run into every standing stop, once the repairs are on record. Twice is
    once.

    Refused: less than a lead (403); a stop that is never tried out, no repair, no limits, no minutes (422);
    nothing to release, or another release under way (409).
    """
    row = set_for(user, set_id, "lead")
    with transaction.atomic():
        hold_set(row.pk)
        held = TrialRun.objects.filter(pk=uuid).first()
        if held is not None:
            said = {"pump_set_id": row.pk, "limits": limits.strip()[:300], "minutes": minutes}
            the_same("trial", held, {**said, "by_id": user.pk})
            return held
        if open_trials(row):
            raise Refused(
                409, "trial_under_way", "One trial run is released already: it is run and recorded first."
            )
        try:
            questions = check_trial(stops_on(row), minutes, limits)
        except HurbinError as error:
            status = 409 if error.code == "no_stop" else 422
            raise Refused(status, error.code, error.message, field=error.field, right=error.right) from None
        at = now()
        made = TrialRun.objects.create(
            uuid=uuid,
            pump_set=row,
            questions=questions,
            limits=limits.strip()[:300],
            minutes=minutes,
            by=user,
            at=at,
            until=at + STARTS_WITHIN,
        )
        after = {"questions": questions, "limits": limits, "minutes": minutes}
        audit.note(user, "trial_released", row.tag, pump_set=row, after=after)
    return made


def use_trials(record: Record, answered: set[str]) -> None:
    """A record that answers what was released uses the release up, whatever it says: there is one run."""
    for t in open_trials(record.pump_set):
        if answered & set(t.questions) and record.taken_at >= t.at:
            t.used_by = record
            t.save(update_fields=["used_by"])
