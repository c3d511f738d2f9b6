"""What a device sends carries an id: the same parcel is done once and answered alike, another under the same
id is refused.
"""

from __future__ import annotations

import hashlib
import zlib
from dataclasses import dataclass
from typing import Any

from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse
from ninja import Status
from pydantic import TypeAdapter

from .clock import now
from .errors import Refused
from .models import Parcel, User

HEADER = "Idempotency-Key"


@dataclass(frozen=True, slots=True)
class Sent:
    user: User
    key: str
    digest: str


@dataclass(frozen=True, slots=True)
class Told:
    status: int
    body: bytes
    site: int | None


def of(request: HttpRequest) -> Sent | None:
    """The parcel of a request; None where it carries no id. Refused (422): an id that is none."""
    key = request.headers.get(HEADER, "").strip()
    if not key or not request.user.is_authenticated:
        return None
    if not (8 <= len(key) <= 64 and key.isascii() and key.isprintable()):
        raise Refused(
            422,
            "parcel_id_wrong",
            "A parcel's id has 8 to 64 letters and digits.",
            field=HEADER,
            value=key[:64],
        )
    digest = hashlib.sha256(f"{request.method}\n{request.path}\n".encode())
    if (request.content_type or "").startswith("multipart/"):
        # A form is parted by another mark each time it is sent: what it says is its fields and its file.
        for name, values in sorted(request.POST.lists()):
            digest.update(f"{name}={values}\n".encode())
        for file in request.FILES.values():
            for chunk in file.chunks():
                digest.update(chunk)
            file.seek(0)
    else:
        digest.update(request.body)
    return Sent(request.user, key, digest.hexdigest())


def answered(sent: Sent) -> Told | None:
    """How this parcel was answered before; None: it is new, and is ours until the act ends. Another sender of
    the same parcel waits here until then.

    Refused (409): other content under the same id.
    """
    try:
        with transaction.atomic():
            Parcel.objects.create(user=sent.user, key=sent.key, digest=sent.digest, at=now())
        return None
    except IntegrityError:
        held = Parcel.objects.get(user=sent.user, key=sent.key)
    if held.digest != sent.digest:
        message = "Something else was sent under this id before, and is on file. Send this anew."
        raise Refused(409, "parcel_differs", message, field=HEADER, value=sent.key)
    return Told(held.status, zlib.decompress(bytes(held.answer)), held.site)


def keep(sent: Sent, answer: Any, site: int | None) -> None:
    """Keep the answer beside what it speaks of, in the same transaction. `site`: where something moved."""
    status = 200
    if isinstance(answer, Status):
        status, answer = answer.status_code, answer.value
    if isinstance(answer, HttpResponse):
        status, body = answer.status_code, answer.content
    else:
        # What is told once, a new password, is never kept.
        body = TypeAdapter(Any).dump_json(answer, exclude=getattr(answer, "TOLD_ONCE", None))
    held = Parcel.objects.filter(user=sent.user, key=sent.key)
    held.update(status=status, answer=zlib.compress(body), site=site)
