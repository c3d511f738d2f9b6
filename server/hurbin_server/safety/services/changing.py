"""Temporary changes on and off, isolation lists, repairs put off, check-backs read."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import TypeVar

from django.db import transaction

from hurbin_core.plant import PARTS
from hurbin_core.safety import CHANGES, DeferralIn, IsolationSource, check_list, interim
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.logbook.services.answers import answer
from hurbin_server.plant.access import hold_set, set_for

from ..models import CheckBack, Deferral, IsolationList, TemporaryChange
from .pictures import own_picture
from .repeated import done_before, the_same

DECIDED = ("part", "what", "reason", "until", "standby", "changes_mind")


def keep_list(user: User, set_id: int, expected: int, lines: list[IsolationSource]) -> IsolationList:
    """Keep a set's isolation list. A stale edit is refused and shows what stands now (409)."""
    row = set_for(user, set_id, "technician")
    check_list(lines)
    raw = [x.model_dump(mode="json", exclude_defaults=True) for x in lines]
    with transaction.atomic():
        hold_set(row.pk)
        held = IsolationList.objects.filter(pump_set=row).first()
        version = held.version if held else 0
        if version != expected:
            raise Refused(
                409,
                "stale",
                "Changed by someone else while you had it open. Both versions are shown: choose one.",
                current={"version": version, "lines": held.lines if held else []},
            )
        before = held.lines if held else []
        if held is None:
            held = IsolationList(pump_set=row, version=0)
        held.lines, held.version, held.by, held.at = raw, version + 1, user, now()
        held.save()
        audit.note(user, "isolation_list_kept", row.tag, pump_set=row, before=before, after=raw)
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
            422,
            "change_unknown",
            f"Unknown temporary change “{kind}”.",
            field="kind",
            right=", ".join(CHANGES),
        )
    if not place.strip():
        raise Refused(
            422,
            "place_missing",
            "Enter the location, so the next shift can find it.",
            field="place",
            right="terminal 14 of panel C",
        )
    if at > now() + timedelta(minutes=10):
        raise Refused(
            422, "taken_in_future", "Time is in the future. Check the clock of this device.", field="at"
        )
    with transaction.atomic():
        hold_set(row.pk)
        said = {"kind": kind, "place": place.strip()[:120], "note": note.strip()[:300], "put_at": at}
        held, made = TemporaryChange.objects.get_or_create(
            uuid=uuid,
            defaults={
                **said,
                "pump_set": row,
                "picture": own_picture(row.site_id, picture),
                "put_by": user,
            },
        )
        the_same("change", held, {**said, "pump_set_id": row.pk, "put_by_id": user.pk}, made)
        if made:
            audit.note(user, "change_put_on", f"{row.tag}: {kind}", pump_set=row, after={"place": place})
    return held


def take_off(user: User, uuid: str, note: str) -> TemporaryChange:
    """Take a temporary change off, once it is restored. Twice is once."""
    with transaction.atomic():
        held = _held(TemporaryChange, "Temporary change", user, uuid)
        if held.off_at is None:
            held.off_at, held.off_by, held.off_note = now(), user, note.strip()[:300]
            held.save(update_fields=["off_at", "off_by", "off_note"])
            audit.note(
                user,
                "change_taken_off",
                f"{held.pump_set.tag}: {held.kind}",
                pump_set=held.pump_set,
                after={"note": note},
            )
        else:
            done_before(user, "took it off", held.off_by, held.off_at, held.off_note, note.strip()[:300])
    return held


def put_off(user: User, set_id: int, uuid: str, decision: DeferralIn, at: datetime | None = None) -> Deferral:
    """Put a repair off: a lead's or technician's decision with its figures. Sent twice it is one."""
    row = set_for(user, set_id, "technician")
    if decision.part not in PARTS:
        raise Refused(
            422,
            "part_unknown",
            f"Unknown part “{decision.part}”.",
            field="part",
            right=", ".join(PARTS),
        )
    limits = [x.model_dump(mode="json") for x in interim(decision, now())]
    with transaction.atomic():
        hold_set(row.pk)
        said = {f: getattr(decision, f) for f in DECIDED}
        held, made = Deferral.objects.get_or_create(
            uuid=uuid,
            defaults={**said, "pump_set": row, "limits": limits, "by": user, "at": at or now()},
        )
        the_same("deferral", held, {**said, "pump_set_id": row.pk, "by_id": user.pk}, made)
        if made:
            audit.note(
                user,
                "repair_put_off",
                f"{row.tag}: {decision.what}",
                pump_set=row,
                after=decision.model_dump(mode="json"),
            )
    return held


def end_deferral(user: User, uuid: str, because: str) -> Deferral:
    if not because.strip():
        raise Refused(
            422,
            "reason_missing",
            "Enter the reason for ending the deferral.",
            field="because",
            right="repaired, decision changed",
        )
    with transaction.atomic():
        held = _held(Deferral, "Deferral", user, uuid)
        if held.ended_at is None:
            held.ended_at, held.ended_by, held.ended_because = now(), user, because.strip()[:300]
            held.save(update_fields=["ended_at", "ended_by", "ended_because"])
            answer(held.pump_set, ["interim_limit"])
            audit.note(
                user,
                "deferral_ended",
                f"{held.pump_set.tag}: {held.what}",
                pump_set=held.pump_set,
                after={"because": because},
            )
        else:
            done_before(
                user, "ended it", held.ended_by, held.ended_at, held.ended_because, because.strip()[:300]
            )
    return held


def read_check_back(user: User, check_id: int, said: str) -> CheckBack:
    """Somebody looked: what was seen takes it off Plant."""
    if not said.strip():
        raise Refused(
            422, "said_missing", "Enter what was seen.", field="said", right="dry, quiet, amps as before"
        )
    with transaction.atomic():
        held = _held(CheckBack, "Follow-up check", user, check_id)
        if held.read_at is None:
            held.read_at, held.read_by, held.said = now(), user, said.strip()[:300]
            held.save(update_fields=["read_at", "read_by", "said"])
            audit.note(
                user,
                "check_back_read",
                held.pump_set.tag,
                pump_set=held.pump_set,
                after={"said": said},
            )
        else:
            done_before(user, "looked", held.read_by, held.read_at, held.said, said.strip()[:300])
    return held


T = TypeVar("T", TemporaryChange, Deferral, CheckBack)


def _held(model: type[T], what: str, user: User, pk: str | int) -> T:
    """One of these as it stands now, under the lock of its set, for a technician of its site."""
    set_id = model.objects.filter(pk=pk).values_list("pump_set_id", flat=True).first()
    if set_id is None:
        raise not_found(what)
    set_for(user, set_id, "technician")
    hold_set(set_id)
    return model.objects.select_related("pump_set").get(pk=pk)
