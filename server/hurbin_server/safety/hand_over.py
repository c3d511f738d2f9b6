"""The hand-over as a sheet of paper for the next shift."""

from __future__ import annotations

import io
from zoneinfo import ZoneInfo

from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas

from hurbin_server.logbook.paper import Page

from .schemas import HandOverOut


def hand_over_pdf(page: HandOverOut) -> bytes:
    """Every chapter with its tags, the codes' line on every sheet, room to sign."""
    zone = ZoneInfo(page.time_zone)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4, pageCompression=1)
    canvas.setTitle(f"Shift handover, {page.site}")
    sheet = Page(canvas, page.codes)
    sheet.text("Shift handover", 17, bold=True)
    sheet.text(
        f"{page.site}. As of {page.as_of.astimezone(zone):%d %B %Y, %H:%M} ({page.time_zone}) by {page.by}.",
        mute=True,
    )
    if not page.chapters:
        sheet.rule()
        sheet.text("No open items: no isolation, no call, no temporary change, nothing deferred.")
    for chapter in page.chapters:
        sheet.rule()
        sheet.text(chapter.title, 12, bold=True)
        for tag in chapter.tags:
            sheet.room(34)
            since = f"{tag.since.astimezone(zone):%d %b, %H:%M}"
            sheet.text(
                f"{tag.tag or tag.place}   {tag.title}   [{tag.verdict.value}]   open {tag.age}, since"
                f" {since}",
                9.5,
                bold=True,
            )
            sheet.text(tag.says, indent=12)
            more = [tag.place if tag.tag and tag.place else "", ", ".join(tag.names)]
            if any(more):
                sheet.text(" · ".join(m for m in more if m), 8.5, mute=True, indent=12)
    sheet.rule()
    sheet.pairs(
        [
            ("Handed over by", "____________________"),
            ("Received by", "____________________"),
            ("At", "____________"),
        ]
    )
    canvas.save()
    return out.getvalue()
