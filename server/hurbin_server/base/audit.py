"""Write one line of the trail, inside the caller's transaction."""

from __future__ import annotations

from typing import Any

from .clock import now
from .models import AuditEntry, User


def note(
    user: User | None,
    action: str,
    what: str,
    *,
    site_id: int | None = None,
    before: Any = None,
    after: Any = None,
) -> None:
    AuditEntry.objects.create(
        at=now(), user=user, site_id=site_id, action=action, what=what[:120], before=before, after=after
    )
