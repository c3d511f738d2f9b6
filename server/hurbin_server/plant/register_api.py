"""The register as a CSV file, in and out."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse

from hurbin_server.base.described import CSV, media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS
from hurbin_server.base.limiting import UPLOAD

from .schemas import CsvIn
from .services.register import ImportOut, export_register, import_register

router = DoorRouter(tags=["register"])


@router.get(
    "/sites/{site_id}/register.csv",
    response={200: str, **ERRORS},
    openapi_extra=media(CSV),
    operation_id="register_csv",
)
def register_csv(request: HttpRequest, site_id: int) -> HttpResponse:
    text = export_register(request.user, site_id)
    return HttpResponse(
        text,
        content_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="register.csv"'},
    )


@router.post(
    "/sites/{site_id}/register.csv",
    response={200: ImportOut, **ERRORS},
    operation_id="import_register",
    throttle=UPLOAD,
)
def import_csv(request: HttpRequest, site_id: int, body: CsvIn) -> ImportOut:
    return import_register(request.user, site_id, body.text, body.write)
