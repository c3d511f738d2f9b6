"""Circuits, and thermal pictures as tables: thin."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import File, UploadedFile

from hurbin_core.base import HurbinError
from hurbin_core.electrical.joints import Grid, read_grid
from hurbin_server.base.described import media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS
from hurbin_server.base.reencoding import MOST

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


@router.post("/joints/grid", response={200: Grid, **ERRORS}, operation_id="joints_grid")
def grid(request: HttpRequest, file: File[UploadedFile]) -> Grid:
    raw = file.read(MOST + 1)
    if len(raw) > MOST:
        raise HurbinError(
            "file_too_large",
            "This file is too large. Export it in the camera's own resolution.",
            field="file",
            right=f"up to {MOST // 1024 // 1024} MB",
        )
    return read_grid(raw)
