"""Jobs, procedures, anatomy: thin."""

from __future__ import annotations

import re
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import File, Path, Status, UploadedFile

from hurbin_core.base import decode
from hurbin_server.base.described import CSV, csv_file, media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS, Refused
from hurbin_server.base.limiting import UPLOAD
from hurbin_server.base.prefs import prefs_of

from . import reads, report, schemas as s
from .services import procedures as kept, weather

router = DoorRouter(tags=["jobs"])
Code = Annotated[str, Path(pattern=r"^[A-Za-z0-9][A-Za-z0-9-]{0,39}$")]
FORECAST_MOST = 256 * 1024
_NAME = re.compile(r"[^A-Za-z0-9-]+")


@router.get("/sites/{site_id}/work", response={200: s.WorkOut, **ERRORS}, operation_id="work")
def work(request: HttpRequest, site_id: int) -> s.WorkOut:
    return reads.work(request.user, site_id, prefs_of(request.user))


@router.post(
    "/sites/{site_id}/weather/file",
    response={200: s.WeatherOut, **ERRORS},
    operation_id="bring_in_weather",
    throttle=UPLOAD,
)
def bring_weather_in(request: HttpRequest, site_id: int, file: File[UploadedFile]) -> s.WeatherOut:
    if file.size is not None and file.size > FORECAST_MOST:
        raise Refused(413, "file_too_large", "File too large for a forecast.", field="file")
    return reads.weather(weather.bring_weather_in(request.user, site_id, decode(file.read())))


@router.get("/sets/{set_id}/back", response={200: s.BackOut, **ERRORS}, operation_id="when_back")
def when_back(request: HttpRequest, set_id: int) -> s.BackOut:
    return reads.back_of(request.user, set_id)


@router.get("/back/{token}", response={200: s.BackOut, **ERRORS}, operation_id="back_by_label", auth=None)
def back_by_label(request: HttpRequest, token: str) -> s.BackOut:
    return reads.back_by(token)


@router.get(
    "/sites/{site_id}/procedures", response={200: s.ProceduresOut, **ERRORS}, operation_id="procedures"
)
def procedures(request: HttpRequest, site_id: int) -> s.ProceduresOut:
    return reads.procedures(request.user, site_id)


@router.get(
    "/sites/{site_id}/procedures/{code}", response={200: s.ProcedureOut, **ERRORS}, operation_id="procedure"
)
def procedure(request: HttpRequest, site_id: int, code: Code) -> s.ProcedureOut:
    return reads.procedure(request.user, site_id, code)


@router.post(
    "/sites/{site_id}/procedures/{code}",
    response={201: s.ProcedureOut, **ERRORS},
    operation_id="keep_procedure",
)
def keep(request: HttpRequest, site_id: int, code: Code, body: s.ProcedureIn) -> Status:
    kept.keep_procedure(request.user, site_id, code, body.data, body.reason, body.expected_version)
    return Status(201, reads.procedure(request.user, site_id, code))


@router.get("/anatomy/{name}", response={200: s.AnatomyOut, **ERRORS}, operation_id="anatomy")
def anatomy(request: HttpRequest, name: str) -> s.AnatomyOut:
    return reads.anatomy(name)


@router.get(
    "/records/{record_id}/job.csv",
    response={200: str, **ERRORS},
    openapi_extra=media(CSV),
    operation_id="job_csv",
)
def job_csv(request: HttpRequest, record_id: int) -> HttpResponse:
    tag, text = report.as_csv(request.user, record_id)
    name = f"{_NAME.sub('-', tag)}-job.csv"
    return csv_file(text, name)
