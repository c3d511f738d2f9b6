"""What people attach, taken apart and made again, so that nothing but what is seen is kept."""

from __future__ import annotations

import io
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError
from pypdf import PdfReader, PdfWriter
from pypdf.errors import PyPdfError
from pypdf.generic import DictionaryObject

from .errors import Refused

MOST = 8 * 1024 * 1024
LONG_SIDE = 1600
MOST_PIXELS = 60_000_000
MOST_PAGES = 400
# What a page may do by itself, and what hangs on it besides what is seen.
_ACTS = ("/AA", "/A", "/PA", "/Metadata", "/PieceInfo")


@dataclass(frozen=True, slots=True)
class Jpeg:
    content: bytes
    width: int
    height: int


def _small_enough(raw: bytes, what: str) -> None:
    if len(raw) > MOST:
        raise Refused(
            413,
            f"{what}_too_large",
            f"File too large: {len(raw) / 1e6:.0f} MB, limit 8 MB.",
            field="file",
            right=f"a smaller {what}",
        )


def jpeg_of(raw: bytes) -> Jpeg:
    """A picture turned upright, at most 1600 pixels long, as JPEG without any of its data fields.

    Refused: larger than 8 MB (413), no picture, more pixels than are taken (422).
    """
    _small_enough(raw, "picture")
    try:
        with Image.open(io.BytesIO(raw)) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                raise Refused(
                    422,
                    "picture_too_large",
                    "Photo has too many pixels.",
                    field="file",
                    right="60 million or fewer",
                )
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise Refused(
            422,
            "not_a_picture",
            "This file is not a readable photo.",
            field="file",
            right="JPEG, PNG or WebP",
        ) from None
    upright.thumbnail((LONG_SIDE, LONG_SIDE))
    plain = Image.new("RGB", upright.size)
    plain.paste(upright)
    out = io.BytesIO()
    plain.save(out, "JPEG", quality=82, optimize=True)
    return Jpeg(out.getvalue(), plain.width, plain.height)


def pdf_of(raw: bytes) -> tuple[bytes, int]:
    """The pages of a PDF in a document of their own: no scripts, no forms, no files inside, no actions. And
    how many they are.

    Refused: larger than 8 MB (413), no PDF, locked, empty or of more than 400 pages (422).
    """
    _small_enough(raw, "document")
    try:
        reader = PdfReader(io.BytesIO(raw), strict=False)
        locked = reader.is_encrypted and not reader.decrypt("")
        count = 0 if locked else len(reader.pages)
        if locked or not 0 < count <= MOST_PAGES:
            said = (
                "It is locked with a password."
                if locked
                else f"It has {count} pages; 1 to {MOST_PAGES} are taken."
            )
            raise Refused(422, "document_refused", said, field="file", right="an open PDF")
        writer = PdfWriter()
        for page in reader.pages:
            made = writer.add_page(page)
            for act in _ACTS:
                made.pop(act, None)
            for note in made.get("/Annots", None) or []:
                found = note.get_object()
                if isinstance(found, DictionaryObject):
                    for act in _ACTS:
                        found.pop(act, None)
        out = io.BytesIO()
        writer.write(out)
    except (PyPdfError, OSError, ValueError, KeyError, TypeError, AttributeError, RecursionError):
        raise Refused(
            422,
            "not_a_document",
            "This file is not a readable PDF.",
            field="file",
            right="a PDF",
        ) from None
    return out.getvalue(), count
