"""Something happened to a set or a part of it: what came before is another state of the machine."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import transaction

from hurbin_core.plant import EVENT_KINDS, PARTS
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User

from ..access import set_for
from ..models import Event, Fitting
from ..signals import event_added


def add_event(user: User, set_id: int, kind: str, at: datetime, note: str) -> Event:
    """Put an event on a set's history. It parts the series of what it happened to, and closes what was said
    of it before.

    Refused: a viewer (403), a kind that is not known, a time ahead, no word on what happened (422).
    """
    row = set_for(user, set_id, "technician")
    known = EVENT_KINDS.get(kind)
    if known is None:
        raise Refused(
            422,
            "event_unknown",
            f"Unknown event “{kind}”.",
            field="kind",
            value=kind,
            right=", ".join(EVENT_KINDS),
        )
    if at > now() + timedelta(minutes=5):
        raise Refused(
            422,
            "event_in_future",
            "Date is in the future. Enter the event after it has happened.",
            field="at",
            value=at.isoformat(),
            right="now or earlier",
        )
    if not note.strip():
        raise Refused(422, "note_missing", "Enter what happened.", field="note")
    with transaction.atomic():
        component = None
        if known.part and PARTS[known.part].holds:
            found = (
                Fitting.objects.filter(pump_set=row, slot=known.part, from_at__lte=at)
                .order_by("-from_at")
                .select_related("component")
                .first()
            )
            if found is None:
                raise Refused(
                    409,
                    "nothing_fitted",
                    f"No {PARTS[known.part].title.lower()} was fitted at that time.",
                    field="at",
                )
            component = found.component
        event = Event.objects.create(
            site=row.site,
            pump_set=row,
            component=component,
            kind=kind,
            at=at,
            note=note.strip()[:300],
            by=user,
        )
        audit.note(user, "event_added", f"{row.tag} {kind}", pump_set=row, after={"note": note})
        event_added.send(sender=Event, pump_set=row)
    return event
