"""Write one line of the trail, inside the caller's act, and say what it moved."""

from __future__ import annotations

from typing import Any, Protocol

from .clock import now
from .door import moved
from .models import AuditEntry, User


class OnSite(Protocol):
    """A pump set, which this room does not know."""

    pk: int
    site_id: int


def note(
    user: User | None,
    action: str,
    what: str,
    *,
    site_id: int | None = None,
    pump_set: OnSite | None = None,
    before: Any = None,
    after: Any = None,
) -> None:
    if pump_set is not None:
        site_id = pump_set.site_id
    AuditEntry.objects.create(
        at=now(), user=user, site_id=site_id, action=action, what=what[:120], before=before, after=after
    )
    if pump_set is not None:
        moved("set", pump_set.pk, pump_set.site_id)
    elif site_id is not None:
        moved("site", site_id, site_id)
