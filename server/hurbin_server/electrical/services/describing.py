"""A set's circuit is described anew: who did, when, and what stood there before."""

from __future__ import annotations

from datetime import datetime

from django.db import transaction

from hurbin_core.electrical.circuit import Circuit
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for
from hurbin_server.plant.models import PumpSet

from ..models import CircuitVersion
from ..querysets import newest


def describe(
    user: User, set_id: int, circuit: Circuit, expected: int, at: datetime | None = None
) -> CircuitVersion:
    """Keep this as the set's circuit from then on (now, unless said). A stale edit is refused and shows both
    (409).
    """
    pump_set = set_for(user, set_id, "technician")
    with transaction.atomic():
        PumpSet.objects.select_for_update().get(pk=pump_set.pk)
        last = newest(pump_set)
        version = last.version if last is not None else 0
        if version != expected:
            raise Refused(
                409,
                "stale",
                "Circuit changed by someone else while you edited it. Both are shown: choose one.",
                current={"circuit": last.circuit if last is not None else None, "version": version},
            )
        body = circuit.model_dump(mode="json", exclude_defaults=True)
        row = CircuitVersion.objects.create(
            pump_set=pump_set, version=version + 1, circuit=body, by=user, at=at or now()
        )
        before = last.circuit if last is not None else None
        audit.note(user, "circuit_described", pump_set.tag, pump_set=pump_set, before=before, after=body)
        moved("set", pump_set.pk, pump_set.site_id)
        return row
