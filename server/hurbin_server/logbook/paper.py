"""A sheet of paper: its frame, its hand, a cursor that goes down it."""

from __future__ import annotations

import io
from pathlib import Path

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

INK, MUTE, LINE, HAIR = HexColor("#17262e"), HexColor("#56666f"), HexColor("#9aa7ab"), HexColor("#d9d6ca")
WIDTH, HEIGHT = A4
LEFT, RIGHT = 48.0, A4[0] - 48.0


def faces() -> tuple[str, str]:
    """Faces that know Ω, ≥ and °; part of the graphics library, so nothing is fetched."""
    if "Sheet" not in pdfmetrics.getRegisteredFontNames():
        import reportlab

        place = Path(reportlab.__file__).parent / "fonts"
        pdfmetrics.registerFont(TTFont("Sheet", str(place / "Vera.ttf")))
        pdfmetrics.registerFont(TTFont("SheetBold", str(place / "VeraBd.ttf")))
    return "Sheet", "SheetBold"


class Page:
    """A cursor that goes down the sheet and turns it over when it is full."""

    def __init__(self, canvas: Canvas, foot: str) -> None:
        self.c, self.foot, self.y = canvas, foot, HEIGHT - 52
        self.plain, self.bold = faces()
        self._frame()

    def _frame(self) -> None:
        self.c.setStrokeColor(LINE)
        self.c.setLineWidth(0.6)
        self.c.rect(24, 24, WIDTH - 48, HEIGHT - 48)
        self.c.setStrokeColor(HAIR)
        self.c.rect(28, 28, WIDTH - 56, HEIGHT - 56)
        self.c.setFillColor(MUTE)
        self.c.setFont(self.plain, 7)
        for i, row in enumerate(simpleSplit(self.foot, self.plain, 7, RIGHT - LEFT)[:3]):
            self.c.drawString(LEFT, 52 - 9 * i, row)

    def room(self, height: float) -> None:
        if self.y - height < 70:
            self.c.showPage()
            self.y = HEIGHT - 52
            self._frame()

    def text(
        self, words: str, size: float = 9.5, bold: bool = False, mute: bool = False, indent: float = 0
    ) -> None:
        font = self.bold if bold else self.plain
        for sign, plain in (("⁴", "^4"), ("β", "beta"), ("→", "to")):  # the face has no such glyphs
            words = words.replace(sign, plain)
        for row in simpleSplit(words, font, size, RIGHT - LEFT - indent):
            self.room(size + 4)
            self.c.setFillColor(MUTE if mute else INK)
            self.c.setFont(font, size)
            self.c.drawString(LEFT + indent, self.y, row)
            self.y -= size + 4

    def rule(self) -> None:
        self.y -= 3
        self.c.setStrokeColor(INK)
        self.c.setLineWidth(0.9)
        self.c.line(LEFT, self.y + 6, RIGHT, self.y + 6)
        self.y -= 8

    def pairs(self, rows: list[tuple[str, str]], columns: int = 3) -> None:
        wide = (RIGHT - LEFT) / columns
        for at in range(0, len(rows), columns):
            self.room(30)
            for i, (label, value) in enumerate(rows[at : at + columns]):
                x = LEFT + i * wide
                self.c.setFillColor(MUTE)
                self.c.setFont(self.plain, 7.5)
                self.c.drawString(x, self.y, label)
                self.c.setFillColor(INK)
                self.c.setFont(self.bold, 10.5)
                self.c.drawString(x, self.y - 12, value[:44])
            self.y -= 29

    def photos(self, row: list[tuple[bytes, str]]) -> None:
        """Up to two photos beside each other, each with its words beneath."""
        wide, high = (RIGHT - LEFT - 14) / 2, 170.0
        self.room(high + 26)
        for i, (content, words) in enumerate(row):
            picture = ImageReader(io.BytesIO(content))
            w, h = picture.getSize()
            k = min(wide / w, high / h)
            x, y = LEFT + i * (wide + 14), self.y - h * k
            self.c.drawImage(picture, x, y, w * k, h * k)
            self.c.setStrokeColor(INK)
            self.c.setLineWidth(0.6)
            self.c.rect(x, y, w * k, h * k)
            self.c.setFillColor(MUTE)
            self.c.setFont(self.plain, 7.5)
            self.c.drawString(x, self.y - high - 10, simpleSplit(words, self.plain, 7.5, wide)[0])
        self.y -= high + 26
