"""Vans and their shims: thin."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import File, Status, UploadedFile

from hurbin_core.base import decode
from hurbin_core.stores import write_shelf
from hurbin_server.base.described import CSV, csv_file, media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS, Refused
from hurbin_server.base.limiting import UPLOAD
from hurbin_server.base.prefs import prefs_of

from . import querysets as q, schemas as s
from .services import counting

router = DoorRouter(tags=["stores"])
FILE_MOST = 1_000_000


@router.get("/sites/{site_id}/vans", response={200: s.ShelfOut, **ERRORS}, operation_id="vans")
def vans(request: HttpRequest, site_id: int) -> s.ShelfOut:
    return q.shelf(request.user, site_id, prefs_of(request.user))


@router.post("/sites/{site_id}/vans", response={201: s.ShelfOut, **ERRORS}, operation_id="add_van")
def add_van(request: HttpRequest, site_id: int, body: s.VanIn) -> Status:
    counting.add_van(request.user, site_id, body.name)
    return Status(201, q.shelf(request.user, site_id, prefs_of(request.user)))


@router.put("/vans/{van_id}/shims", response={200: s.ShelfOut, **ERRORS}, operation_id="count_shims")
def count(request: HttpRequest, van_id: int, body: s.CountIn) -> s.ShelfOut:
    lot = counting.count_shims(request.user, van_id, body.size, body.count, body.least)
    return q.shelf(request.user, lot.van.site_id, prefs_of(request.user))


@router.get(
    "/sites/{site_id}/vans.csv",
    response={200: str, **ERRORS},
    openapi_extra=media(CSV),
    operation_id="vans_csv",
)
def out(request: HttpRequest, site_id: int) -> HttpResponse:
    text = write_shelf(q.stock_rows(request.user, site_id))
    return csv_file(text, "van-shims.csv")


@router.post(
    "/sites/{site_id}/vans/file",
    response={200: s.BroughtInOut, **ERRORS},
    operation_id="bring_in_shims",
    throttle=UPLOAD,
)
def bring_in(request: HttpRequest, site_id: int, file: File[UploadedFile]) -> s.BroughtInOut:
    if file.size is not None and file.size > FILE_MOST:
        raise Refused(413, "file_too_large", "File too large for a shim list.", field="file")
    return s.BroughtInOut(lines=len(counting.bring_in(request.user, site_id, decode(file.read()))))
