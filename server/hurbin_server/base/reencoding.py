"""What people attach, taken apart and made again, so that nothing but what is seen is kept.

It is taken apart in a process of its own, one at a time on this machine, with a ceiling to its memory and
time (`decoding`): whatever is in a file, it ends that process and nothing else.
"""

from __future__ import annotations

import fcntl
import json
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from django.conf import settings

from . import decoding
from .errors import Refused

MOST = 8 * 1024 * 1024
# Longer than its processor time: it may have to wait for the processor.
WALL_S = 40
TURN_S = 3.0


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


@contextmanager
def _turn() -> Iterator[None]:
    """One at a time, over all processes of this machine. Refused (503) when it does not come in a moment: the
    device keeps the file and sends it again.
    """
    until = time.monotonic() + TURN_S
    with Path(settings.DECODING_LOCK).open("w") as mine:
        while True:
            try:
                fcntl.flock(mine, fcntl.LOCK_EX | fcntl.LOCK_NB)
                break
            except BlockingIOError:
                if time.monotonic() > until:
                    said = "Other files are being read. Yours is kept on your device and sent again."
                    raise Refused(503, "reading_files", said, retry_after=2) from None
                time.sleep(0.05)
        yield


def _taken_apart(raw: bytes, what: str) -> tuple[bytes, dict[str, Any]]:
    """What is kept of it and what it was; nothing and a code where it is not taken."""
    with _turn():
        try:
            done = subprocess.run(
                [sys.executable, "-I", decoding.__file__, what],
                input=raw,
                capture_output=True,
                timeout=WALL_S,
                check=False,
            )
        except subprocess.TimeoutExpired:
            return b"", {"code": f"not_a_{what}"}
    if done.returncode:
        return b"", {"code": f"not_a_{what}"}
    told, _, kept = done.stdout.partition(b"\n")
    return kept, json.loads(told)


def jpeg_of(raw: bytes) -> Jpeg:
    """A picture turned upright, at most 1600 pixels long, as JPEG without any of its data fields.

    Refused: larger than 8 MB (413); neither JPEG nor PNG nor WebP by its content, or more than 24 million
    pixels by its header (422); others being read (503).
    """
    _small_enough(raw, "picture")
    kept, told = _taken_apart(raw, "picture")
    if told.get("code") == "picture_too_large":
        most = f"{decoding.MOST_PIXELS // 1_000_000} million or fewer"
        raise Refused(422, "picture_too_large", "Photo has too many pixels.", field="file", right=most)
    if "code" in told:
        right = "JPEG, PNG or WebP"
        said = "This file is not a readable photo."
        raise Refused(422, "not_a_picture", said, field="file", right=right)
    return Jpeg(kept, told["width"], told["height"])


def pdf_of(raw: bytes) -> tuple[bytes, int]:
    """The pages of a PDF in a document of their own: no scripts, no forms, no files inside, no actions. And
    how many they are.

    Refused: larger than 8 MB (413), no PDF, locked, empty or of more than 400 pages (422), others being read
    (503).
    """
    _small_enough(raw, "document")
    kept, told = _taken_apart(raw, "document")
    if "code" not in told:
        return kept, told["pages"]
    said = {
        "document_locked": "It is locked with a password.",
        "document_pages": f"It has {told.get('n')} pages; 1 to {decoding.MOST_PAGES} are taken.",
    }.get(told["code"])
    if said is not None:
        raise Refused(422, "document_refused", said, field="file", right="an open PDF")
    raise Refused(422, "not_a_document", "This file is not a readable PDF.", field="file", right="a PDF")
