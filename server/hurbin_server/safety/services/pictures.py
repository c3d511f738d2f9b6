"""Pictures of calls and temporary changes."""

from __future__ import annotations

from datetime import datetime, timedelta

from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.base.reencoding import jpeg_of
from hurbin_server.plant.access import require

from ..models import Call, Picture, TemporaryChange


def keep_picture(user: User, site_id: int, uuid: str, raw: bytes) -> Picture:
    """Keep a picture once, re-encoded. Refused: what is no picture or too large (422, 413); another picture
    under an id that is on file (409).
    """
    require(user, site_id)
    made = jpeg_of(raw)
    held, fresh = Picture.objects.get_or_create(
        uuid=uuid,
        defaults={
            "site_id": site_id,
            "content": made.content,
            "width": made.width,
            "height": made.height,
            "by": user,
            "at": now(),
        },
    )
    if not fresh and (held.site_id, held.by_id, bytes(held.content)) != (site_id, user.pk, made.content):
        raise Refused(409, "picture_differs", "Another picture is on file under this id. Send this anew.")
    return held


# A picture waits so long for the call or the change that speaks of it: that device may be out of reach.
WAITS = timedelta(days=60)


def drop_unspoken(at: datetime) -> int:
    """Pictures of which nothing ever spoke; how many."""
    spoken = [m.objects.exclude(picture=None).values("picture") for m in (Call, TemporaryChange)]
    old = Picture.objects.filter(at__lt=at - WAITS)
    for rows in spoken:
        old = old.exclude(pk__in=rows)
    return int(old.delete()[0])


def picture_for(user: User, uuid: str) -> Picture:
    found = Picture.objects.filter(pk=uuid).first()
    if found is None:
        raise not_found("Photo")
    require(user, found.site_id)
    return found


def own_picture(site_id: int, uuid: str) -> Picture | None:
    """The picture of this site that an entry speaks of."""
    if not uuid:
        return None
    found = Picture.objects.filter(pk=uuid, site_id=site_id).first()
    if found is None:
        raise Refused(
            422, "picture_unknown", "Photo not received yet. Send the photo first.", field="picture"
        )
    return found
