"""A program of its own that takes apart what somebody attached, in a process with a ceiling to its memory and
time. In: the file. Out: a line of JSON that says what it was, then what is kept of it.

Nothing of the application is known here: `python decoding.py picture` or `document`.
"""

from __future__ import annotations

import io
import json
import resource
import sys
import warnings

FORMATS = ("JPEG", "PNG", "WEBP")
MOST_PIXELS = 24_000_000
LONG_SIDE = 1600
MOST_PAGES = 400
# A picture of the most pixels, decoded, turned and made smaller, takes about 300 MB.
MEMORY = 768 * 1024 * 1024
CPU_S = 20
# What a page may do by itself, and what hangs on it besides what is seen.
_ACTS = ("/AA", "/A", "/PA", "/Metadata", "/PieceInfo")


class No(Exception):
    """It is not taken: the code of the refusal, and what it was."""


def picture(raw: bytes) -> tuple[bytes, dict[str, int]]:
    """Upright, at most 1600 pixels long, as JPEG without any of its data fields."""
    from PIL import Image, ImageOps, UnidentifiedImageError

    Image.MAX_IMAGE_PIXELS = None  # ours is asked first
    try:
        with Image.open(io.BytesIO(raw), formats=FORMATS) as opened:
            # By the header, before anything is decoded.
            if opened.width * opened.height > MOST_PIXELS:
                raise No("picture_too_large")
            opened.draft("RGB", (LONG_SIDE, LONG_SIDE))
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, MemoryError):
        raise No("not_a_picture") from None
    upright.thumbnail((LONG_SIDE, LONG_SIDE))
    plain = Image.new("RGB", upright.size)
    plain.paste(upright)
    out = io.BytesIO()
    plain.save(out, "JPEG", quality=82, optimize=True)
    return out.getvalue(), {"width": plain.width, "height": plain.height}


def document(raw: bytes) -> tuple[bytes, dict[str, int]]:
    """Its pages in a document of their own: no scripts, no forms, no files inside, no actions."""
    from pypdf import PdfReader, PdfWriter
    from pypdf.errors import PyPdfError
    from pypdf.generic import DictionaryObject

    try:
        reader = PdfReader(io.BytesIO(raw), strict=False)
        if reader.is_encrypted and not reader.decrypt(""):
            raise No("document_locked")
        count = len(reader.pages)
        if not 0 < count <= MOST_PAGES:
            raise No("document_pages", count)
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
    except (
        PyPdfError,
        OSError,
        ValueError,
        KeyError,
        TypeError,
        AttributeError,
        RecursionError,
        MemoryError,
    ):
        raise No("not_a_document") from None
    return out.getvalue(), {"pages": count}


def main(what: str) -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (CPU_S, CPU_S))
    warnings.simplefilter("ignore")
    try:
        kept, told = (picture if what == "picture" else document)(sys.stdin.buffer.read())
    except No as error:
        kept, told = b"", {"code": error.args[0], "n": error.args[-1]}
    sys.stdout.buffer.write(json.dumps(told).encode() + b"\n" + kept)


if __name__ == "__main__":
    main(sys.argv[1])
