"""What moved since the reader last asked: the one poll of the web."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.http import HttpRequest
from ninja import Query
from pydantic import BaseModel

from hurbin_core.logbook import Moment
from hurbin_server.base import versions
from hurbin_server.base.clock import now
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS

from .access import sites_of
from .models import PumpSet

router = DoorRouter(tags=["changes"])
# An act says when it ended a moment before others see it: what is asked for overlaps by more than that.
OVERLAP = timedelta(seconds=30)


class WhatMoved(BaseModel):
    """A set, site or van that is not as it was. `n` grows with every change: the same again is no news.
    `near`: the sets that are read together with it. `at`: when it moved.
    """

    kind: str
    ref: int
    site: int
    n: int
    at: datetime
    near: list[int] = []


class ChangesOut(BaseModel):
    """`now`: the server's clock, to be given back as `since` the next time, and to measure one's own by."""

    now: datetime
    moved: list[WhatMoved]


@router.get("/changes", response={200: ChangesOut, **ERRORS}, operation_id="changes")
def changes(request: HttpRequest, since: Moment | None = Query(None)) -> ChangesOut:
    at = now()
    sites = sites_of(request.user).values_list("site_id", flat=True)
    rows = versions.since(sites, (since or at) - OVERLAP)
    near = _near([v.ref for v in rows if v.kind == "set"])
    return ChangesOut(
        now=at,
        moved=[
            WhatMoved(
                kind=v.kind,
                ref=v.ref,
                site=v.site,
                n=v.n,
                at=v.at,
                near=near.get(v.ref, []) if v.kind == "set" else [],
            )
            for v in rows
        ],
    )


def _near(ids: list[int]) -> dict[int, list[int]]:
    """The mates of these sets on their services."""
    if not ids:
        return {}
    service = dict(PumpSet.objects.filter(pk__in=ids).values_list("pk", "service_id"))
    mates: dict[int, list[int]] = {}
    for pk, s in PumpSet.objects.filter(service_id__in=set(service.values())).values_list("pk", "service_id"):
        mates.setdefault(s, []).append(pk)
    return {pk: [x for x in mates[s] if x != pk] for pk, s in service.items()}
