"""Temporary changes on and off, isolation lists, repairs put off, check-backs read."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import transaction

from hurbin_core.plant import PARTS
from hurbin_core.safety import CHANGES, DeferralIn, IsolationSource, check_list, interim
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.logbook.services.answers import answer
from hurbin_server.plant.access import require, set_for
from hurbin_server.plant.models import PumpSet

from ..models import CheckBack, Deferral, IsolationList, TemporaryChange
from .pictures import own_picture


def keep_list(user: User, set_id: int, expected: int, lines: list[IsolationSource]) -> IsolationList:
    """Keep a set's isolation list. A stale edit is refused and shows what stands now (409)."""
    row = set_for(user, set_id, "technician")
    check_list(lines)
    raw = [x.model_dump(mode="json", exclude_defaults=True) for x in lines]
    with transaction.atomic():
        PumpSet.objects.select_for_update().get(pk=row.pk)
        held = IsolationList.objects.filter(pump_set=row).first()
        version = held.version if held else 0
        if version != expected:
            raise Refused(
                409,
                "stale",
                "Somebody else changed this list while you had it open. Both are shown: take what is right.",
                current={"version": version, "lines": held.lines if held else []},
            )
        before = held.lines if held else []
        if held is None:
            held = IsolationList(pump_set=row, version=0)
        held.lines, held.version, held.by, held.at = raw, version + 1, user, now()
        held.save()
        audit.note(user, "isolation_list_kept", row.tag, site_id=row.site_id, before=before, after=raw)
    return held


def put_on(
    user: User,
    set_id: int,
    uuid: str,
    at: datetime,
    *,
    kind: str,
    place: str,
    note: str = "",
    picture: str = "",
) -> TemporaryChange:
    """Put a temporary change on a set. Sent twice it is one."""
    row = set_for(user, set_id, "technician")
    if kind not in CHANGES:
        raise Refused(
            422, "change_unknown", f"“{kind}” is no temporary change.", field="kind", right=", ".join(CHANGES)
        )
    if not place.strip():
        raise Refused(
            422,
            "place_missing",
            "Say where it is, so that the next shift finds it.",
            field="place",
            right="terminal 14 of panel C",
        )
    if at > now() + timedelta(minutes=10):
        raise Refused(
            422, "taken_in_future", "That time lies ahead: check the clock of this device.", field="at"
        )
    with transaction.atomic():
        held, made = TemporaryChange.objects.get_or_create(
            uuid=uuid,
            defaults={
                "pump_set": row,
                "kind": kind,
                "place": place.strip()[:120],
                "note": note.strip()[:300],
                "picture": own_picture(row.site_id, picture),
                "put_at": at,
                "put_by": user,
            },
        )
        if held.pump_set_id != row.pk:
            raise Refused(409, "change_id_used", "That change's id belongs to another one.")
        if made:
            audit.note(
                user, "change_put_on", f"{row.tag}: {kind}", site_id=row.site_id, after={"place": place}
            )
    return held


def take_off(user: User, uuid: str, note: str) -> TemporaryChange:
    """Take a temporary change off, once it is restored. Twice is once."""
    held = TemporaryChange.objects.select_related("pump_set").filter(pk=uuid).first()
    if held is None:
        raise not_found("That temporary change")
    require(user, held.pump_set.site_id, "technician")
    if held.off_at is None:
        with transaction.atomic():
            held.off_at, held.off_by, held.off_note = now(), user, note.strip()[:300]
            held.save(update_fields=["off_at", "off_by", "off_note"])
            audit.note(
                user,
                "change_taken_off",
                f"{held.pump_set.tag}: {held.kind}",
                site_id=held.pump_set.site_id,
                after={"note": note},
            )
    return held


def put_off(user: User, set_id: int, uuid: str, decision: DeferralIn, at: datetime | None = None) -> Deferral:
    """Put a repair off: a lead's or technician's decision with its figures. Sent twice it is one."""
    row = set_for(user, set_id, "technician")
    if decision.part not in PARTS:
        raise Refused(
            422,
            "part_unknown",
            f"“{decision.part}” is no part of a set.",
            field="part",
            right=", ".join(PARTS),
        )
    limits = [x.model_dump(mode="json") for x in interim(decision, now())]
    with transaction.atomic():
        held, made = Deferral.objects.get_or_create(
            uuid=uuid,
            defaults={
                "pump_set": row,
                "limits": limits,
                "by": user,
                "at": at or now(),
                **{
                    f: getattr(decision, f)
                    for f in ("part", "what", "reason", "until", "standby", "changes_mind")
                },
            },
        )
        if held.pump_set_id != row.pk:
            raise Refused(409, "deferral_id_used", "That decision's id belongs to another one.")
        if made:
            audit.note(
                user,
                "repair_put_off",
                f"{row.tag}: {decision.what}",
                site_id=row.site_id,
                after=decision.model_dump(mode="json"),
            )
    return held


def end_deferral(user: User, uuid: str, because: str) -> Deferral:
    held = Deferral.objects.select_related("pump_set").filter(pk=uuid).first()
    if held is None:
        raise not_found("That decision")
    require(user, held.pump_set.site_id, "technician")
    if not because.strip():
        raise Refused(
            422, "reason_missing", "Say why it ends.", field="because", right="repaired, decided anew"
        )
    if held.ended_at is None:
        with transaction.atomic():
            held.ended_at, held.ended_by, held.ended_because = now(), user, because.strip()[:300]
            held.save(update_fields=["ended_at", "ended_by", "ended_because"])
            answer(held.pump_set, ["interim_limit"])
            audit.note(
                user,
                "deferral_ended",
                f"{held.pump_set.tag}: {held.what}",
                site_id=held.pump_set.site_id,
                after={"because": because},
            )
    return held


def read_check_back(user: User, check_id: int, said: str) -> CheckBack:
    """Somebody looked: what was seen takes it off Plant."""
    held = CheckBack.objects.select_related("pump_set").filter(pk=check_id).first()
    if held is None:
        raise not_found("That check-back")
    require(user, held.pump_set.site_id, "technician")
    if not said.strip():
        raise Refused(
            422, "said_missing", "Say what you saw.", field="said", right="dry, quiet, amps as before"
        )
    if held.read_at is None:
        with transaction.atomic():
            held.read_at, held.read_by, held.said = now(), user, said.strip()[:300]
            held.save(update_fields=["read_at", "read_by", "said"])
            audit.note(
                user,
                "check_back_read",
                held.pump_set.tag,
                site_id=held.pump_set.site_id,
                after={"said": said},
            )
    return held
