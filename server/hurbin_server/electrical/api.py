"""Circuits: thin."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse

from hurbin_server.base.described import media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS

from . import querysets as q, schemas as s
from .services import describing

router = DoorRouter(tags=["electrical"])
JSON = "application/json"


@router.get("/sets/{set_id}/circuit", response={200: s.CircuitOut, **ERRORS}, operation_id="circuit")
def circuit(request: HttpRequest, set_id: int) -> s.CircuitOut:
    return q.circuit_for(request.user, set_id)


@router.put("/sets/{set_id}/circuit", response={200: s.CircuitOut, **ERRORS}, operation_id="edit_circuit")
def edit(request: HttpRequest, set_id: int, body: s.CircuitIn) -> s.CircuitOut:
    describing.describe(request.user, set_id, body.circuit, body.expected_version)
    return q.circuit_for(request.user, set_id)


@router.get(
    "/sets/{set_id}/circuit.json",
    response={200: str, **ERRORS},
    openapi_extra=media(JSON),
    operation_id="circuit_json",
)
def out(request: HttpRequest, set_id: int) -> HttpResponse:
    told = q.circuit_for(request.user, set_id)
    return HttpResponse(
        told.circuit.model_dump_json(indent=2, exclude_defaults=True) + "\n",
        content_type=JSON,
        headers={"Content-Disposition": 'attachment; filename="circuit.json"'},
    )
