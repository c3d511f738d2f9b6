"""A record as a person leaves it: one entry, with what read it, through the save service."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from hurbin_server.base.models import User
from hurbin_server.logbook.services.saving import save_record
from hurbin_server.plant.models import PumpSet

_NAMESPACE = uuid.UUID("0c5e1f9a-52f0-4cc9-9a53-7b1d4a6a9e34")


def on_record(
    who: User, row: PumpSet, bench: str, key: str, at: datetime, body: dict[str, Any], kit: dict[str, str]
) -> None:
    """Save one entry of this person's on this set. key: what makes it this one; kit: what was in hand."""
    entry = {
        "uuid": str(uuid.uuid5(_NAMESPACE, f"entry/{key}")),
        "taken_at": at,
        "device": f"{who.username}'s phone",
        "instruments": kit,
        "body": body,
    }
    save_record(who, row.pk, bench, str(uuid.uuid5(_NAMESPACE, f"sheet/{key}")), [entry])
