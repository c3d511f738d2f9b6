"""Spares, their places and labels: thin."""

from __future__ import annotations

import io

from django.http import HttpRequest, HttpResponse
from ninja import File, Status, UploadedFile
from reportlab.graphics import renderPDF
from reportlab.graphics.barcode.qr import QrCodeWidget
from reportlab.graphics.shapes import Drawing
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from hurbin_core.base import decode
from hurbin_core.stores import write_parts
from hurbin_server.base.described import CSV, PDF, csv_file, media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS, Refused
from hurbin_server.base.limiting import UPLOAD
from hurbin_server.base.prefs import prefs_of
from hurbin_server.logbook.paper import HAIR, HEIGHT, INK, MUTE, WIDTH, faces
from hurbin_server.plant.access import require

from . import part_reads as reads, part_schemas as s
from .models import Part
from .services import kits, parts as act

router = DoorRouter(tags=["stores"])
FILE_MOST = 2_000_000


@router.get("/sites/{site_id}/stores", response={200: s.StoresOut, **ERRORS}, operation_id="stores")
def stores(request: HttpRequest, site_id: int) -> s.StoresOut:
    return reads.stores(request.user, site_id, prefs_of(request.user))


@router.post("/sites/{site_id}/parts", response={201: s.StoresOut, **ERRORS}, operation_id="add_part")
def add(request: HttpRequest, site_id: int, body: s.NewSpareIn) -> Status:
    act.add_part(request.user, site_id, body.code, body.model_dump(exclude={"code"}))
    return Status(201, reads.stores(request.user, site_id, prefs_of(request.user)))


@router.put("/parts/{part_id}/figures", response={200: s.StoresOut, **ERRORS}, operation_id="edit_part")
def edit(request: HttpRequest, part_id: int, body: s.EditSpareIn) -> s.StoresOut:
    said = body.model_dump(exclude={"expected_version"})
    kept = act.edit_part(request.user, part_id, body.expected_version, said)
    return reads.stores(request.user, kept.site_id, prefs_of(request.user))


@router.put("/parts/{part_id}/count", response={200: s.StoresOut, **ERRORS}, operation_id="count_part")
def count(request: HttpRequest, part_id: int, body: s.CountPartIn) -> s.StoresOut:
    lot = act.count_part(request.user, part_id, body.place, body.count, body.emergency)
    return reads.stores(request.user, lot.part.site_id, prefs_of(request.user))


@router.post("/parts/{part_id}/tally", response={200: s.StoresOut, **ERRORS}, operation_id="tally_part")
def tally(request: HttpRequest, part_id: int, body: s.TallyIn) -> s.StoresOut:
    lot = act.tally_part(request.user, part_id, body.place, body.change, body.key)
    return reads.stores(request.user, lot.part.site_id, prefs_of(request.user))


@router.post("/sites/{site_id}/kits", response={201: s.StoresOut, **ERRORS}, operation_id="add_kit")
def add_kit(request: HttpRequest, site_id: int, body: s.KitIn) -> Status:
    kits.add_kit(request.user, site_id, body.model_dump())
    return Status(201, reads.stores(request.user, site_id, prefs_of(request.user)))


@router.put("/kits/{kit_id}", response={200: s.StoresOut, **ERRORS}, operation_id="edit_kit")
def edit_kit(request: HttpRequest, kit_id: int, body: s.KitEditIn) -> s.StoresOut:
    kit = kits.edit_kit(request.user, kit_id, body.expected_version, body.model_dump())
    return reads.stores(request.user, kit.site_id, prefs_of(request.user))


@router.delete("/kits/{kit_id}", response={200: s.StoresOut, **ERRORS}, operation_id="drop_kit")
def drop_kit(request: HttpRequest, kit_id: int) -> s.StoresOut:
    site_id = kits.drop_kit(request.user, kit_id)
    return reads.stores(request.user, site_id, prefs_of(request.user))


@router.post("/parts/{part_id}/move", response={200: s.StoresOut, **ERRORS}, operation_id="move_part")
def move(request: HttpRequest, part_id: int, body: s.MovePartIn) -> s.StoresOut:
    part = act.move_part(request.user, part_id, body.source, body.to, body.count)
    return reads.stores(request.user, part.site_id, prefs_of(request.user))


@router.get(
    "/sites/{site_id}/parts.csv",
    response={200: str, **ERRORS},
    openapi_extra=media(CSV),
    operation_id="parts_csv",
)
def out(request: HttpRequest, site_id: int) -> HttpResponse:
    text = write_parts(reads.part_rows(request.user, site_id))
    return csv_file(text, "parts.csv")


@router.post(
    "/sites/{site_id}/parts/file",
    response={200: s.StoresOut, **ERRORS},
    operation_id="bring_in_parts",
    throttle=UPLOAD,
)
def bring_in(request: HttpRequest, site_id: int, file: File[UploadedFile]) -> s.StoresOut:
    if file.size is not None and file.size > FILE_MOST:
        raise Refused(413, "file_too_large", "File too large for a parts list.", field="file")
    act.bring_parts_in(request.user, site_id, decode(file.read()))
    return reads.stores(request.user, site_id, prefs_of(request.user))


@router.get(
    "/sites/{site_id}/parts/labels.pdf",
    response={200: bytes, **ERRORS},
    openapi_extra=media(PDF),
    operation_id="part_labels",
)
def labels(request: HttpRequest, site_id: int) -> HttpResponse:
    require(request.user, site_id)
    host = f"{request.scheme}://{request.get_host()}"
    pages = part_labels(list(Part.objects.filter(site_id=site_id).order_by("code")), site_id, host)
    return HttpResponse(pages, content_type="application/pdf")


def part_labels(parts: list[Part], site_id: int, host: str) -> bytes:
    """A label for each part, to be stuck on its box: code, title, and a code that a phone opens its count
    with.
    """
    plain, bold = faces()
    out_, wide, high = io.BytesIO(), 63 * mm, 30 * mm
    sheet = Canvas(out_, pagesize=(WIDTH, HEIGHT), invariant=True)
    left, top = (WIDTH - 3 * wide) / 2, HEIGHT - 14 * mm
    for i, p in enumerate(parts):
        at = i % 27
        if i and at == 0:
            sheet.showPage()
        x, y = left + at % 3 * wide, top - (at // 3 + 1) * high
        sheet.setStrokeColor(HAIR)
        sheet.rect(x, y, wide, high)
        code = QrCodeWidget(f"{host}/stores/{site_id}?part={p.pk}", barLevel="M")
        x0, y0, x1, y1 = code.getBounds()
        drawn = Drawing(24 * mm, 24 * mm, transform=[24 * mm / (x1 - x0), 0, 0, 24 * mm / (y1 - y0), 0, 0])
        drawn.add(code)
        renderPDF.draw(drawn, sheet, x + 2 * mm, y + 3 * mm)
        sheet.setFillColor(INK)
        sheet.setFont(bold, 11)
        sheet.drawString(x + 28 * mm, y + 18 * mm, p.code[:16])
        sheet.setFillColor(MUTE)
        sheet.setFont(plain, 7)
        sheet.drawString(x + 28 * mm, y + 12 * mm, p.title[:28])
    sheet.save()
    return out_.getvalue()
