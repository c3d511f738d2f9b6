"""Photos on a set, a part of it or an entry, and documents on a set."""

from __future__ import annotations

from typing import Literal

from django.db import transaction
from django.db.models import prefetch_related_objects

from hurbin_server.base import audit
from hurbin_server.base.asking import rows
from hurbin_server.base.clock import now
from hurbin_server.base.cursors import cursor, read_cursor
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.base.reencoding import jpeg_of, pdf_of
from hurbin_server.plant.access import hold_set, set_for
from hurbin_server.plant.models import Fitting, PumpSet

from ..models import Attachment, Entry
from ..schemas import AttachmentOut, AttachmentsOut

MOST = 400
PAGE = 60


def attach(
    user: User,
    set_id: int,
    uuid: str,
    raw: bytes,
    *,
    title: str = "",
    part: str = "",
    entry: str = "",
) -> Attachment:
    """Keep a photo or a PDF with a set, or with a part or an entry of it. Sent twice it is one.

    Refused: a viewer (403), neither photo nor PDF or too large (422, 413), a part that is not fitted, an
    entry of another set, a document on an entry (422), another file under the id (409), too many (409).
    """
    row = set_for(user, set_id, "technician")
    kind: Literal["photo", "document"] = "document" if raw.lstrip()[:5] == b"%PDF-" else "photo"
    if kind == "document":
        if entry:
            raise Refused(
                422, "document_on_entry", "A document is kept with the set; a photo may go with an entry."
            )
        content, pages = pdf_of(raw)
        width = height = None
    else:
        made = jpeg_of(raw)
        content, width, height, pages = made.content, made.width, made.height, None
    with transaction.atomic():
        hold_set(row.pk)
        said = {
            "pump_set_id": row.pk,
            "component_id": _component(row, part),
            "entry": _entry(row, entry),
            "kind": kind,
            "title": title.strip()[:120],
            "by_id": user.pk,
        }
        if Attachment.objects.filter(pump_set=row).count() >= MOST:
            raise Refused(409, "attachments_full", f"A set takes {MOST} photos and documents.")
        held, fresh = Attachment.objects.get_or_create(
            uuid=uuid,
            defaults={
                **said,
                "content": content,
                "width": width,
                "height": height,
                "pages": pages,
                "at": now(),
            },
        )
        if not fresh and any(getattr(held, k) != v for k, v in said.items()):
            raise Refused(409, "attachment_differs", "Another file is on file under this id. Send this anew.")
        if not fresh and kind == "photo" and bytes(held.content) != content:
            raise Refused(
                409, "attachment_differs", "Another photo is on file under this id. Send this anew."
            )
        if fresh:
            audit.note(user, f"{kind}_attached", f"{row.tag} {title}", pump_set=row, after={"uuid": uuid})
    return held


def _component(row: PumpSet, part: str) -> int | None:
    if not part:
        return None
    found = Fitting.objects.filter(pump_set=row, slot=part, to_at=None).first()
    if found is None:
        raise Refused(422, "nothing_fitted", "Nothing is fitted there.", field="part", value=part)
    return found.component_id


def _entry(row: PumpSet, entry: str) -> str:
    """The entry may come after its photo; one that is there is one of this set."""
    held = Entry.objects.filter(pk=entry).select_related("sheet").first() if entry else None
    if held is not None and held.sheet.pump_set_id != row.pk:
        raise Refused(
            422, "entry_of_another_set", "This entry is of another set.", field="entry", value=entry
        )
    return entry[:64]


def attachment_for(user: User, uuid: str, at_least: str = "viewer") -> Attachment:
    found = Attachment.objects.select_related("pump_set").filter(pk=uuid).first()
    if found is None:
        raise not_found("File")
    set_for(user, found.pump_set_id, at_least)
    return found


def set_attachment_aside(user: User, uuid: str, why: str) -> Attachment:
    """No longer shown with its set; kept. Twice is once. Refused: no reason (422)."""
    if not why.strip():
        raise Refused(422, "reason_missing", "Say why it goes.", field="why", right="wrong set, blurred")
    found = attachment_for(user, uuid, "technician")
    with transaction.atomic():
        hold_set(found.pump_set_id)
        found.refresh_from_db()
        if found.aside_at is None:
            found.aside_at, found.aside_by, found.aside_why = now(), user, why.strip()[:200]
            found.save(update_fields=["aside_at", "aside_by", "aside_why"])
            audit.note(
                user, "attachment_aside", found.pump_set.tag, pump_set=found.pump_set, after={"why": why}
            )
    return found


def attachments(user: User, set_id: int, before: str = "") -> AttachmentsOut:
    """What is attached to a set, its parts and entries, newest first."""
    row = set_for(user, set_id)
    at = read_cursor(before)[0] if before else None
    older = "AND at < %s" if at is not None else ""
    params = [row.pk, *([at] if at is not None else []), PAGE + 1]
    found = rows(Attachment, _OF_SET.format(older=older), params)
    prefetch_related_objects(found, "by", "component")
    with_ = [a.entry for a in found if a.entry]
    benches = dict(Entry.objects.filter(uuid__in=with_).values_list("uuid", "sheet__bench")) if with_ else {}
    return AttachmentsOut(
        items=[attachment_out(a, benches.get(a.entry, "")) for a in found[:PAGE]],
        next=cursor(found[PAGE - 1].at, 0) if len(found) > PAGE else "",
    )


# Everything but what it holds.
_OF_SET = """SELECT uuid, pump_set_id, component_id, entry, kind, title, width, height, pages, by_id, at
FROM logbook_attachment WHERE pump_set_id = %s AND aside_at IS NULL {older} ORDER BY at DESC, uuid LIMIT %s"""


def attachment_out(a: Attachment, bench: str = "") -> AttachmentOut:
    return AttachmentOut(
        uuid=a.uuid,
        kind=a.kind,
        title=a.title,
        part=a.component.label if a.component is not None else "",
        entry=a.entry,
        bench=bench,
        pages=a.pages,
        width=a.width,
        height=a.height,
        by=a.by.full_name,
        at=a.at,
    )
