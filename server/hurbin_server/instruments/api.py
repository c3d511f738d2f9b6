"""The register of instruments: thin."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import File, Status, UploadedFile

from hurbin_core.base import decode
from hurbin_core.instruments import write_register
from hurbin_server.base.described import CSV, csv_file, media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS, Refused
from hurbin_server.base.limiting import UPLOAD
from hurbin_server.base.prefs import prefs_of

from . import querysets as q, schemas as s
from .services import registering

router = DoorRouter(tags=["instruments"])
FILE_MOST = 1_000_000


def _register(request: HttpRequest, site_id: int) -> s.InstrumentsOut:
    return q.register(request.user, site_id, prefs_of(request.user))


@router.get(
    "/sites/{site_id}/instruments", response={200: s.InstrumentsOut, **ERRORS}, operation_id="instruments"
)
def instruments(request: HttpRequest, site_id: int) -> s.InstrumentsOut:
    return _register(request, site_id)


@router.post(
    "/sites/{site_id}/instruments", response={201: s.InstrumentsOut, **ERRORS}, operation_id="add_instrument"
)
def add(request: HttpRequest, site_id: int, body: s.InstrumentIn) -> Status:
    registering.add(request.user, site_id, body, body.since)
    return Status(201, _register(request, site_id))


@router.put("/sites/{site_id}/in-hand", response={200: s.InstrumentsOut, **ERRORS}, operation_id="in_hand")
def in_hand(request: HttpRequest, site_id: int, body: s.InHandIn) -> s.InstrumentsOut:
    registering.take_in_hand(request.user, site_id, body.reads)
    return _register(request, site_id)


@router.put(
    "/instruments/{instrument_id}",
    response={200: s.InstrumentsOut, **ERRORS},
    operation_id="change_instrument",
)
def change(request: HttpRequest, instrument_id: int, body: s.InstrumentEdit) -> s.InstrumentsOut:
    row = registering.change(request.user, instrument_id, body.version, body)
    return _register(request, row.site_id)


@router.post(
    "/instruments/{instrument_id}/calibrations",
    response={201: s.InstrumentsOut, **ERRORS},
    operation_id="calibrate_instrument",
)
def calibrate(request: HttpRequest, instrument_id: int, body: s.CalibrationIn) -> Status:
    made = registering.calibrate(request.user, instrument_id, body.done, body.due, body.found, body.note)
    return Status(201, _register(request, made.instrument.site_id))


@router.post(
    "/instruments/{instrument_id}/retire",
    response={200: s.InstrumentsOut, **ERRORS},
    operation_id="retire_instrument",
)
def retire(request: HttpRequest, instrument_id: int, body: s.RetireIn) -> s.InstrumentsOut:
    row = registering.retire(request.user, instrument_id, body.because)
    return _register(request, row.site_id)


@router.post(
    "/instruments/{instrument_id}/reinstate",
    response={200: s.InstrumentsOut, **ERRORS},
    operation_id="reinstate_instrument",
)
def reinstate(request: HttpRequest, instrument_id: int, body: s.ReinstateIn) -> s.InstrumentsOut:
    row = registering.reinstate(request.user, instrument_id, body.version)
    return _register(request, row.site_id)


@router.get(
    "/sites/{site_id}/instruments.csv",
    response={200: str, **ERRORS},
    openapi_extra=media(CSV),
    operation_id="instruments_csv",
)
def out(request: HttpRequest, site_id: int) -> HttpResponse:
    text = write_register(q.rows_for_file(request.user, site_id))
    return csv_file(text, "instruments.csv")


@router.post(
    "/sites/{site_id}/instruments/file",
    response={200: s.InstrumentsBroughtOut, **ERRORS},
    operation_id="bring_in_instruments",
    throttle=UPLOAD,
)
def bring_in(request: HttpRequest, site_id: int, file: File[UploadedFile]) -> s.InstrumentsBroughtOut:
    if file.size is not None and file.size > FILE_MOST:
        raise Refused(413, "file_too_large", "File too large for a register of instruments.", field="file")
    return s.InstrumentsBroughtOut(
        instruments=registering.bring_in(request.user, site_id, decode(file.read()))
    )
