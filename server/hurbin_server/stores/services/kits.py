"""Kits of a site: put together, changed, taken apart."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from typing import Any

from django.db import transaction

from hurbin_core.plant import KINDS
from hurbin_server.base import audit
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import require, site_for
from hurbin_server.plant.models import PumpSet, Site

from ..models import Kit, Part

MOST_KITS = 500
# Which procedures a site has; a room above says it.
PROCEDURES: list[Callable[[int], Collection[str]]] = []


def add_kit(user: User, site_id: int, said: Mapping[str, Any]) -> Kit:
    """A new kit. Refused: another one for the same (409), a part or set this site has not (422)."""
    site = site_for(user, site_id, "technician")
    with transaction.atomic():
        Site.objects.select_for_update().get(pk=site.pk)
        told = _checked(site, said)
        same = {n: told[n] for n in ("procedure", "pump_set", "kind")}
        if Kit.objects.filter(site=site, **_where(same)).exists():
            raise Refused(
                409, "kit_taken", "There is a kit for this already. Change that one.", field="procedure"
            )
        if Kit.objects.filter(site=site).count() >= MOST_KITS:
            raise Refused(409, "kits_full", f"Limit reached: {MOST_KITS} kits per site.")
        kit = Kit.objects.create(site=site, **told)
        moved("site", site.pk, site.pk)
        audit.note(user, "kit_added", kit.title, site_id=site.pk, after={"lines": kit.lines})
    return kit


def edit_kit(user: User, kit_id: int, expected: int, said: Mapping[str, Any]) -> Kit:
    """Its title and lines. A stale edit is refused and shows what stands now (409)."""
    kit = _kit_for(user, kit_id)
    with transaction.atomic():
        kit = Kit.objects.select_for_update().get(pk=kit.pk)
        before = {"title": kit.title, "lines": kit.lines, "version": kit.version}
        if kit.version != expected:
            message = "Changed by someone else while you edited it. Both are shown: choose one."
            raise Refused(409, "stale", message, current=before)
        kit.title, kit.lines = said["title"], _lines(kit.site, said["lines"])
        kit.version += 1
        kit.save()
        moved("site", kit.site_id, kit.site_id)
        audit.note(
            user, "kit_edited", kit.title, site_id=kit.site_id, before=before, after={"lines": kit.lines}
        )
    return kit


def drop_kit(user: User, kit_id: int) -> int:
    """Taken apart; gives its site. Its parts stay on their shelves."""
    kit = _kit_for(user, kit_id)
    with transaction.atomic():
        moved("site", kit.site_id, kit.site_id)
        audit.note(user, "kit_dropped", kit.title, site_id=kit.site_id, before={"lines": kit.lines})
        kit.delete()
    return kit.site_id


def _kit_for(user: User, kit_id: int) -> Kit:
    kit = Kit.objects.select_related("site").filter(pk=kit_id).first()
    if kit is None:
        raise not_found("Kit")
    require(user, kit.site_id, "technician")
    return kit


def _where(same: Mapping[str, Any]) -> dict[str, Any]:
    return {
        ("pump_set__isnull" if n == "pump_set" and v is None else n): (v if v is not None else True)
        for n, v in same.items()
    }


def _checked(site: Site, said: Mapping[str, Any]) -> dict[str, Any]:
    procedure, kind, set_id = said["procedure"], said["kind"], said["set_id"]
    if not any(procedure in of(site.pk) for of in PROCEDURES):
        raise Refused(422, "procedure_unknown", f"No procedure {procedure} here.", field="procedure")
    if kind and kind not in KINDS:
        raise Refused(422, "kind_unknown", f"No kind of set {kind}.", field="kind")
    row = PumpSet.objects.filter(site=site, pk=set_id).first() if set_id is not None else None
    if set_id is not None and row is None:
        raise Refused(422, "set_unknown", "This set is not on this site.", field="set_id")
    return {
        "title": said["title"],
        "procedure": procedure,
        "pump_set": row,
        "kind": "" if row is not None else kind,
        "lines": _lines(site, said["lines"]),
    }


def _lines(site: Site, lines: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Each part once; what the site has no part of is refused by its code."""
    wanted: dict[str, int] = {}
    for x in lines:
        wanted[x["code"]] = wanted.get(x["code"], 0) + int(x["wanted"])
    known = set(Part.objects.filter(site=site, code__in=wanted).values_list("code", flat=True))
    lacking = [c for c in wanted if c not in known]
    if lacking:
        message = f"No part with the code {lacking[0]}. Add it to the stores first."
        raise Refused(422, "part_unknown", message, field="lines", value=lacking[0])
    return [{"code": c, "wanted": n} for c, n in wanted.items()]
