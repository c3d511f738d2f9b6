"""Photos and documents, in and out."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Status, UploadedFile

from hurbin_server.base.described import JPEG, PDF, media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS, not_found
from hurbin_server.base.limiting import UPLOAD
from hurbin_server.base.reencoding import MOST

from .schemas import AsideIn, AttachmentOut, AttachmentsOut
from .services import attaching

router = DoorRouter(tags=["attachments"])


@router.post(
    "/sets/{set_id}/attachments",
    response={201: AttachmentOut, **ERRORS},
    operation_id="attach",
    throttle=UPLOAD,
)
def attach(
    request: HttpRequest,
    set_id: int,
    uuid: Form[str],
    file: File[UploadedFile],
    title: Form[str] = "",
    part: Form[str] = "",
    entry: Form[str] = "",
) -> Status:
    raw = file.read(MOST + 1)
    made = attaching.attach(
        request.user, set_id, uuid[:64], raw, title=title, part=part[:20], entry=entry[:64]
    )
    return Status(201, attaching.attachment_out(made))


@router.get(
    "/sets/{set_id}/attachments", response={200: AttachmentsOut, **ERRORS}, operation_id="attachments"
)
def attachments(request: HttpRequest, set_id: int, before: str = Query("", max_length=60)) -> AttachmentsOut:
    return attaching.attachments(request.user, set_id, before)


@router.post(
    "/attachments/{uuid}/aside", response={200: AttachmentOut, **ERRORS}, operation_id="attachment_aside"
)
def aside(request: HttpRequest, uuid: str, body: AsideIn) -> AttachmentOut:
    return attaching.attachment_out(attaching.set_attachment_aside(request.user, uuid, body.why))


def _file(request: HttpRequest, uuid: str, kind: str, media_type: str) -> HttpResponse:
    found = attaching.attachment_for(request.user, uuid)
    if found.kind != kind:
        raise not_found("File")
    answer = HttpResponse(bytes(found.content), content_type=media_type)
    answer["Cache-Control"] = "private, max-age=86400, immutable"
    if kind == "document":
        # Opened by what opens PDFs on this device, never inside of our page.
        answer["Content-Disposition"] = f'attachment; filename="{found.pump_set_id}-{found.uuid[:8]}.pdf"'
    return answer


@router.get(
    "/attachments/{uuid}.jpg",
    response={200: bytes, **ERRORS},
    openapi_extra=media(JPEG),
    operation_id="attached_photo",
)
def photo(request: HttpRequest, uuid: str) -> HttpResponse:
    return _file(request, uuid, "photo", JPEG)


@router.get(
    "/attachments/{uuid}.pdf",
    response={200: bytes, **ERRORS},
    openapi_extra=media(PDF),
    operation_id="attached_document",
)
def document(request: HttpRequest, uuid: str) -> HttpResponse:
    return _file(request, uuid, "document", PDF)
