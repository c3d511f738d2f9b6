"""A label for each pump set, to be stuck on it: its tag, what it is, where it stands, and a code that a phone
opens its page with.
"""

from __future__ import annotations

import io
from collections.abc import Callable

from reportlab.graphics import renderPDF
from reportlab.graphics.barcode.qr import QrCodeWidget
from reportlab.graphics.shapes import Drawing
from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit
from reportlab.pdfgen.canvas import Canvas

from hurbin_server.base.errors import not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import site_for
from hurbin_server.plant.models import PumpSet

from .paper import HAIR, HEIGHT, INK, MUTE, WIDTH, faces

# A second, smaller code beside the set's own: what it says, and where it leads; a room above adds it.
BESIDE: list[Callable[[PumpSet], tuple[str, str]]] = []
COLUMNS, ROWS = 2, 6
WIDE, HIGH = 90 * mm, 44 * mm
CODE = 36 * mm


def labels(user: User, site_id: int, set_id: int | None, host: str) -> bytes:
    """Labels of all sets of a site, or of one, by tag, as a PDF of A4 sheets. `host`: where their pages are.

    Raises `not_found` for a site or a set this person may not see.
    """
    site = site_for(user, site_id)
    rows = PumpSet.objects.filter(site=site).order_by("tag")
    chosen = list(rows if set_id is None else rows.filter(pk=set_id))
    if not chosen:
        raise not_found("Pump set")
    out = io.BytesIO()
    sheet = Canvas(out, pagesize=(WIDTH, HEIGHT), invariant=True)
    sheet.setTitle(f"{site.name}: labels")
    left = (WIDTH - COLUMNS * WIDE) / 2
    top = HEIGHT - (HEIGHT - ROWS * HIGH) / 2
    for i, row in enumerate(chosen):
        at = i % (COLUMNS * ROWS)
        if i and at == 0:
            sheet.showPage()
        x, y = left + at % COLUMNS * WIDE, top - (at // COLUMNS + 1) * HIGH
        _label(sheet, row, x, y, f"{host}/sets/{row.pk}")
        for beside in BESIDE:
            words, path = beside(row)
            _second(sheet, x, y, words, f"{host}{path}")
    sheet.save()
    return out.getvalue()


def _label(sheet: Canvas, row: PumpSet, x: float, y: float, address: str) -> None:
    plain, bold = faces()
    sheet.setStrokeColor(HAIR)
    sheet.rect(x, y, WIDE, HIGH)
    _code(sheet, address, x + 3 * mm, y + (HIGH - CODE) / 2, CODE)
    left, room = x + CODE + 6 * mm, WIDE - CODE - 9 * mm
    sheet.setFillColor(INK)
    size = 20.0
    while size > 8 and sheet.stringWidth(row.tag, bold, size) > room:
        size -= 1
    sheet.setFont(bold, size)
    sheet.drawString(left, y + HIGH - 14 * mm, row.tag)
    line = y + HIGH - 20 * mm
    for words, colour in ((row.name, INK), (row.place, MUTE)):
        sheet.setFillColor(colour)
        sheet.setFont(plain, 9)
        for part in simpleSplit(words, plain, 9, room)[:2]:
            sheet.drawString(left, line, part)
            line -= 4.2 * mm


def _code(sheet: Canvas, address: str, x: float, y: float, side: float) -> None:
    code = QrCodeWidget(address, barLevel="M")
    x0, y0, x1, y1 = code.getBounds()
    drawn = Drawing(side, side, transform=[side / (x1 - x0), 0, 0, side / (y1 - y0), 0, 0])
    drawn.add(code)
    renderPDF.draw(drawn, sheet, x, y)


def _second(sheet: Canvas, x: float, y: float, words: str, address: str) -> None:
    """The smaller code in the lower right corner, its words to its left."""
    side = 17 * mm
    _code(sheet, address, x + WIDE - side - 1.5 * mm, y + 1.5 * mm, side)
    sheet.setFillColor(MUTE)
    sheet.setFont(faces()[0], 6.5)
    sheet.drawRightString(x + WIDE - side - 3 * mm, y + 4 * mm, words)
