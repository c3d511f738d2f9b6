"""Readings as files, in and out; a test's certificate."""

from __future__ import annotations

import json
from typing import Any

from django.db.models import Q
from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Status
from ninja.files import UploadedFile

from hurbin_core.base import HurbinError
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.logbook import template, write_readings
from hurbin_server.base.cursors import cursor, read_cursor
from hurbin_server.base.described import CSV, PDF, csv_file, media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS, Refused
from hurbin_server.base.limiting import UPLOAD
from hurbin_server.base.prefs import prefs_of
from hurbin_server.plant.access import require, set_for

from .certificate import certificate
from .exporting import record_as_json, records_for, rows_of
from .labels import labels
from .models import ImportRow, ReadingsImport
from .schemas import ImportJobOut, ImportJobsOut, ImportRowOut, ImportRowsOut
from .services import importing

router = DoorRouter(tags=["readings"])
PAGE = 100
FILES = 12


@router.get(
    "/readings/{bench}/template.csv",
    response={200: str, **ERRORS},
    openapi_extra=media(CSV),
    operation_id="readings_template",
)
def readings_template(request: HttpRequest, bench: str) -> HttpResponse:
    return csv_file(template(find_bench(bench)), f"{bench}-template.csv")


@router.get(
    "/sites/{site_id}/readings/{bench}.csv",
    response={200: str, **ERRORS},
    openapi_extra=media(CSV),
    operation_id="site_readings_csv",
)
def site_csv(request: HttpRequest, site_id: int, bench: str) -> HttpResponse:
    require(request.user, site_id)
    b = find_bench(bench)
    return csv_file(write_readings(b, *rows_of(records_for(site_id=site_id, bench=b.name))), f"{bench}.csv")


@router.get(
    "/sites/{site_id}/readings/{bench}.json",
    response={200: list[dict], **ERRORS},
    operation_id="site_readings_json",
)
def site_json(request: HttpRequest, site_id: int, bench: str) -> HttpResponse:
    require(request.user, site_id)
    find_bench(bench)
    return _json([record_as_json(r) for r in records_for(site_id=site_id, bench=bench)], f"{bench}.json")


@router.get(
    "/sets/{set_id}/readings/{bench}.csv",
    response={200: str, **ERRORS},
    openapi_extra=media(CSV),
    operation_id="set_readings_csv",
)
def set_csv(request: HttpRequest, set_id: int, bench: str) -> HttpResponse:
    row, b = set_for(request.user, set_id), find_bench(bench)
    text = write_readings(b, *rows_of(records_for(set_id=row.pk, bench=b.name)))
    return csv_file(text, f"{row.tag}-{bench}.csv")


@router.get(
    "/sets/{set_id}/readings/{bench}.json",
    response={200: list[dict], **ERRORS},
    operation_id="set_readings_json",
)
def set_json(request: HttpRequest, set_id: int, bench: str) -> HttpResponse:
    row = set_for(request.user, set_id)
    find_bench(bench)
    return _json(
        [record_as_json(r) for r in records_for(set_id=row.pk, bench=bench)], f"{row.tag}-{bench}.json"
    )


def _json(rows: list[dict[str, Any]], name: str) -> HttpResponse:
    text = json.dumps(rows, ensure_ascii=False, indent=1)
    return HttpResponse(
        text,
        content_type="application/json; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


@router.get(
    "/sites/{site_id}/labels.pdf",
    response={200: bytes, **ERRORS},
    openapi_extra=media(PDF),
    operation_id="labels",
)
def labels_pdf(request: HttpRequest, site_id: int, set_id: int | None = Query(None)) -> HttpResponse:
    pdf = labels(request.user, site_id, set_id, request.build_absolute_uri("/").rstrip("/"))
    answer = HttpResponse(pdf, content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="labels.pdf"'
    return answer


@router.get(
    "/records/{record_id}/certificate.pdf",
    response={200: str, **ERRORS},
    openapi_extra=media(PDF),
    operation_id="certificate",
)
def certificate_pdf(request: HttpRequest, record_id: int) -> HttpResponse:
    name, pdf = certificate(request.user, record_id, prefs_of(request.user))
    return HttpResponse(
        pdf, content_type="application/pdf", headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )


@router.post(
    "/sites/{site_id}/readings/imports",
    response={201: ImportJobOut, **ERRORS},
    operation_id="start_readings_import",
    throttle=UPLOAD,
)
def start(
    request: HttpRequest, site_id: int, bench: Form[str], file: File[UploadedFile], order: Form[str] = ""
) -> Status:
    require(request.user, site_id, "technician")
    from django.conf import settings

    if file.size is not None and file.size > settings.READINGS_FILE_MOST:
        raise Refused(
            413,
            "file_too_large",
            f"File too large: {file.size // 1_000_000} MB, limit 96 MB.",
            field="file",
            right="split the file",
        )
    if order not in ("", "day", "month"):
        raise HurbinError(
            "order_unknown",
            "Date order must be day first, month first, or empty.",
            field="order",
            value=order,
            right="day or month",
        )
    job = importing.start_import(
        request.user,
        site_id,
        bench,
        file.name or "readings.csv",
        file.read(),
        {"day": True, "month": False}.get(order),
    )
    return Status(201, job_out(job))


@router.get(
    "/sites/{site_id}/readings/imports",
    response={200: ImportJobsOut, **ERRORS},
    operation_id="readings_imports",
)
def imports(request: HttpRequest, site_id: int, before: str = Query("", max_length=60)) -> ImportJobsOut:
    require(request.user, site_id, "technician")
    found = ReadingsImport.objects.defer("content").filter(site_id=site_id).select_related("by")
    if before:
        at, pk = read_cursor(before)
        found = found.filter(Q(at__lt=at) | Q(at=at, pk__lt=pk))
    rows = list(found.order_by("-at", "-pk")[: FILES + 1])
    last = rows[FILES - 1] if len(rows) > FILES else None
    return ImportJobsOut(
        items=[job_out(j) for j in rows[:FILES]], next=cursor(last.at, last.pk) if last else ""
    )


@router.get(
    "/readings/imports/{job_id}", response={200: ImportJobOut, **ERRORS}, operation_id="readings_import"
)
def one(request: HttpRequest, job_id: int) -> ImportJobOut:
    return job_out(importing.import_for(request.user, job_id))


@router.get(
    "/readings/imports/{job_id}/rows",
    response={200: ImportRowsOut, **ERRORS},
    operation_id="readings_import_rows",
)
def rows(
    request: HttpRequest, job_id: int, outcome: str = "", after: int = Query(0, ge=0, le=10_000_000)
) -> ImportRowsOut:
    job = importing.import_for(request.user, job_id)
    found = ImportRow.objects.filter(job=job, line__gt=after).order_by("line")
    if outcome:
        found = found.filter(outcome=outcome[:10])
    part = list(found[: PAGE + 1])
    return ImportRowsOut(
        rows=[ImportRowOut(line=r.line, tag=r.tag, outcome=r.outcome, says=r.says) for r in part[:PAGE]],
        next=part[PAGE - 1].line if len(part) > PAGE else 0,
    )


@router.post(
    "/readings/imports/{job_id}/write",
    response={200: ImportJobOut, **ERRORS},
    operation_id="write_readings_import",
)
def write(request: HttpRequest, job_id: int) -> ImportJobOut:
    return job_out(importing.ask_write(request.user, job_id))


@router.post(
    "/readings/imports/{job_id}/cancel",
    response={200: ImportJobOut, **ERRORS},
    operation_id="cancel_readings_import",
)
def cancel(request: HttpRequest, job_id: int) -> ImportJobOut:
    return job_out(importing.ask_cancel(request.user, job_id))


def job_out(j: ReadingsImport) -> ImportJobOut:
    return ImportJobOut(
        id=j.pk,
        bench=j.bench,
        title=find_bench(j.bench).title,
        name=j.name,
        by=j.by.full_name,
        at=j.at,
        state=j.state,
        done=j.done,
        total=j.total,
        taken=j.taken,
        questioned=j.questioned,
        refused=j.refused,
        there=j.there,
        error=j.error,
        cancel_asked=j.cancel_asked,
        finished_at=j.finished_at,
    )
