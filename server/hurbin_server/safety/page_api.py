"""Everything a set's page shows, in one answer and of one moment."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest, HttpResponse
from pydantic import BaseModel

from hurbin_server.base.clock import now
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS
from hurbin_server.base.kept import page
from hurbin_server.base.prefs import prefs_of, reader
from hurbin_server.logbook import querysets as logbook, set_state as state, trends as t
from hurbin_server.logbook.schemas import AttachmentsOut, HistoryOut, SetStateOut, TrendOut
from hurbin_server.logbook.services.attaching import attachments
from hurbin_server.logbook.services.reads import FRESH, state_of
from hurbin_server.plant import querysets as plant
from hurbin_server.plant.access import set_for
from hurbin_server.plant.schemas import SetOut

from . import querysets as safety
from .schemas import SetSafetyOut, TimelineOut
from .timeline import timeline

router = DoorRouter(tags=["set page"])


class SetPageOut(BaseModel):
    set: SetOut
    state: SetStateOut
    trends: list[TrendOut]
    history: HistoryOut
    safety: SetSafetyOut
    timeline: TimelineOut
    attachments: AttachmentsOut


@router.get("/sets/{set_id}/timeline", response={200: TimelineOut, **ERRORS}, operation_id="set_timeline")
def set_timeline(request: HttpRequest, set_id: int) -> TimelineOut:
    return timeline(request.user, set_id)


@router.get("/sets/{set_id}/page", response={200: SetPageOut, **ERRORS}, operation_id="set_page")
def set_page(request: HttpRequest, set_id: int) -> HttpResponse:
    user, prefs = request.user, prefs_of(request.user)
    row = set_for(user, set_id)

    def make() -> tuple[SetPageOut, datetime]:
        made = SetPageOut(
            set=plant.set_out(user, set_id, prefs),
            state=state.set_state(user, set_id, prefs),
            trends=t.trends(user, set_id, prefs, whole=False),
            history=logbook.history(user, set_id, prefs, ""),
            safety=safety.set_safety(user, set_id, prefs),
            timeline=timeline(user, set_id),
            attachments=attachments(user, set_id),
        )
        later = now() + FRESH
        return made, min(later, made.safety.until or later)

    return page(request, ("set", set_id, user.pk, reader(user)), state_of(row), make)
