"""Pictures: taken apart and made again, so that nothing but the picture is kept."""

from __future__ import annotations

import io

from PIL import Image, ImageOps, UnidentifiedImageError

from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import require

from ..models import Picture

MOST = 8 * 1024 * 1024
LONG_SIDE = 1600
MOST_PIXELS = 60_000_000


def keep_picture(user: User, site_id: int, uuid: str, raw: bytes) -> Picture:
    """Keep a picture once, turned upright, at most 1600 pixels long, as JPEG without any of its data fields.

    Refused (422): larger than 8 MB, no picture, more pixels than are taken.
    """
    require(user, site_id)
    held = Picture.objects.filter(pk=uuid).first()
    if held is not None:
        if held.site_id != site_id or held.by_id != user.pk:
            raise Refused(409, "picture_id_used", "That picture's id belongs to another picture.")
        return held
    if len(raw) > MOST:
        raise Refused(
            422,
            "picture_too_large",
            f"The picture has {len(raw) / 1e6:.0f} MB; 8 MB are taken.",
            field="file",
            right="a smaller picture",
        )
    try:
        with Image.open(io.BytesIO(raw)) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                raise Refused(
                    422,
                    "picture_too_large",
                    "The picture has too many pixels.",
                    field="file",
                    right="60 million or fewer",
                )
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, Image.DecompressionBombError):
        raise Refused(
            422,
            "not_a_picture",
            "That file is no picture that can be read.",
            field="file",
            right="JPEG, PNG or WebP",
        ) from None
    upright.thumbnail((LONG_SIDE, LONG_SIDE))
    plain = Image.new("RGB", upright.size)
    plain.paste(upright)
    out = io.BytesIO()
    plain.save(out, "JPEG", quality=82, optimize=True)
    return Picture.objects.create(
        uuid=uuid,
        site_id=site_id,
        content=out.getvalue(),
        width=plain.width,
        height=plain.height,
        by=user,
        at=now(),
    )


def picture_for(user: User, uuid: str) -> Picture:
    found = Picture.objects.filter(pk=uuid).first()
    if found is None:
        raise not_found("That picture")
    require(user, found.site_id)
    return found


def own_picture(site_id: int, uuid: str) -> Picture | None:
    """The picture of this site that an entry speaks of."""
    if not uuid:
        return None
    found = Picture.objects.filter(pk=uuid, site_id=site_id).first()
    if found is None:
        raise Refused(422, "picture_unknown", "The picture is not here yet: send it first.", field="picture")
    return found
