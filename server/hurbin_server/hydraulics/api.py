"""The loops of a site: thin."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Status

from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS

from . import querysets as q, schemas as s
from .services import describing

router = DoorRouter(tags=["hydraulics"])


@router.get("/sites/{site_id}/loops", response={200: s.LoopsOut, **ERRORS}, operation_id="loops")
def loops(request: HttpRequest, site_id: int) -> s.LoopsOut:
    return q.loops_of_site(request.user, site_id)


@router.post("/sites/{site_id}/loops", response={201: s.LoopOut, **ERRORS}, operation_id="add_loop")
def add(request: HttpRequest, site_id: int, body: s.LoopIn) -> Status:
    kept = describing.keep_loop(request.user, site_id, body.name, body.plate, body.set_ids, None, 0)
    return Status(201, q.loop_out(kept))


@router.put("/sites/{site_id}/loops/{loop_id}", response={200: s.LoopOut, **ERRORS}, operation_id="edit_loop")
def edit(request: HttpRequest, site_id: int, loop_id: int, body: s.LoopIn) -> s.LoopOut:
    kept = describing.keep_loop(
        request.user, site_id, body.name, body.plate, body.set_ids, loop_id, body.expected_version
    )
    return q.loop_out(kept)


@router.get("/loops/schema", response={200: dict, **ERRORS}, operation_id="loop_plate_schema")
def plate_schema(request: HttpRequest) -> dict:  # type: ignore[type-arg]
    return s.LoopPlate.model_json_schema()
