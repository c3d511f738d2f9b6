"""Circuits, and thermal pictures as tables: thin."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import File, Status, UploadedFile

from hurbin_core.base import HurbinError, decode
from hurbin_core.electrical.drive_sheet import PARAMETERS, read_settings, write_settings
from hurbin_core.electrical.joints import Grid, read_grid
from hurbin_server.base.described import media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS
from hurbin_server.base.limiting import UPLOAD
from hurbin_server.base.reencoding import MOST

from . import querysets as q, schemas as s
from .services import describing, reading_drive

router = DoorRouter(tags=["electrical"])
JSON = "application/json"
SETTINGS_MOST = 200_000


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


@router.post("/joints/grid", response={200: Grid, **ERRORS}, operation_id="joints_grid", throttle=UPLOAD)
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


@router.get("/sites/{site_id}/drives", response={200: s.DrivesOut, **ERRORS}, operation_id="drives")
def drives(request: HttpRequest, site_id: int) -> s.DrivesOut:
    return q.drives_of_site(request.user, site_id)


@router.put(
    "/sets/{set_id}/drive-address",
    response={200: s.DrivesOut, **ERRORS},
    operation_id="keep_drive_address",
)
def keep_address(request: HttpRequest, set_id: int, body: s.DriveAddressIn) -> s.DrivesOut:
    kept = reading_drive.keep_address(request.user, set_id, body.host, body.port, body.unit, body.family)
    return q.drives_of_site(request.user, kept.pump_set.site_id)


@router.delete(
    "/sets/{set_id}/drive-address", response={204: None, **ERRORS}, operation_id="drop_drive_address"
)
def drop_address(request: HttpRequest, set_id: int) -> Status:
    reading_drive.drop_address(request.user, set_id)
    return Status(204, None)


@router.get("/sets/{set_id}/drive", response={200: s.DriveOut, **ERRORS}, operation_id="drive")
def drive(request: HttpRequest, set_id: int) -> s.DriveOut:
    return q.drive_of(request.user, set_id)


@router.post(
    "/sets/{set_id}/drive-readings",
    response={201: s.DriveReadingOut, **ERRORS},
    operation_id="read_drive",
    throttle=UPLOAD,
)
def read_drive(request: HttpRequest, set_id: int) -> Status:
    return Status(201, q.reading_out(reading_drive.ask_drive(request.user, set_id)))


@router.post(
    "/drives/file",
    response={200: s.SettingsOut, **ERRORS},
    operation_id="drive_settings_file",
    throttle=UPLOAD,
)
def settings_file(request: HttpRequest, file: File[UploadedFile]) -> s.SettingsOut:
    got = read_settings(decode(file.read(SETTINGS_MOST)))
    return s.SettingsOut(settings=got.settings, problems=got.problems)


@router.post("/drives/file.csv", response={200: s.SettingsFile, **ERRORS}, operation_id="settings_csv")
def settings_csv(request: HttpRequest, body: s.SettingsIn) -> s.SettingsFile:
    return s.SettingsFile(text=write_settings({k: v for k, v in body.settings.items() if k in PARAMETERS}))
