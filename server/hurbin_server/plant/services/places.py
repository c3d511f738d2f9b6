"""Make and edit sites, services and pump sets."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo, available_timezones

from django.db import IntegrityError, transaction

from hurbin_core.plant import COMPONENT_KINDS, PARTS, SERVES, kind
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User

from ..access import service_for, set_for, site_for
from ..models import Component, Fitting, Membership, PumpSet, Service, Site

SITE_FIELDS = ("code", "name", "time_zone", "altitude_m")
SERVICE_FIELDS = ("code", "name", "note", "place_in_order", "consequence", "serves", "check_every_days")
SET_FIELDS = ("tag", "name", "place", "nickname", "role", "pair", "service_id")


def _check_zone(name: str) -> None:
    if name not in available_timezones():
        raise Refused(
            422,
            "time_zone_unknown",
            f"“{name}” is not a time zone.",
            field="time_zone",
            right="such as Europe/Paris",
        )
    ZoneInfo(name)


def make_site(user: User, data: dict[str, Any]) -> Site:
    if not user.may_make_sites:
        raise Refused(403, "forbidden", "You have no permission to add sites.")
    _check_zone(data["time_zone"])
    with transaction.atomic():
        try:
            with transaction.atomic():
                site = Site.objects.create(**data)
        except IntegrityError:
            raise Refused(
                409,
                "code_taken",
                f"Site code {data['code']} is already used.",
                field="code",
                value=data["code"],
            ) from None
        Membership.objects.create(user=user, site=site, role=Membership.Role.ADMIN)
        audit.note(user, "site_made", site.code, site_id=site.pk, after=data)
    return site


def _edit(
    row: Site | Service | PumpSet,
    fields: tuple[str, ...],
    user: User,
    expected: int,
    data: dict[str, Any],
    what: str,
) -> None:
    """Change a versioned row. A stale edit is refused and shows what stands now beside what was sent."""
    with transaction.atomic():
        fresh = type(row).objects.select_for_update().get(pk=row.pk)  # type: ignore[attr-defined]
        before = {f: getattr(fresh, f) for f in fields}
        if fresh.version != expected:
            raise Refused(
                409,
                "stale",
                "Changed by someone else while you had it open. Both versions are shown: choose one.",
                current={**before, "version": fresh.version},
            )
        for f in fields:
            if f in data:
                setattr(fresh, f, data[f])
        fresh.version += 1
        try:
            with transaction.atomic():
                fresh.save()
        except IntegrityError:
            key = "tag" if "tag" in data else "code"
            raise Refused(
                409,
                f"{key}_taken",
                f"{data[key]} is already used on this site.",
                field=key,
                value=str(data[key]),
            ) from None
        audit.note(
            user,
            f"{what}_edited",
            str(data.get("tag") or data.get("code") or row.pk),
            site_id=getattr(fresh, "site_id", fresh.pk),
            before=before,
            after=data,
        )
    row.refresh_from_db()


def edit_site(user: User, site_id: int, expected: int, data: dict[str, Any]) -> Site:
    site = site_for(user, site_id, "admin")
    if "time_zone" in data:
        _check_zone(data["time_zone"])
    _edit(site, SITE_FIELDS, user, expected, data, "site")
    return site


def _check_serves(data: dict[str, Any]) -> None:
    if data.get("serves", "other") not in SERVES:
        raise Refused(
            422,
            "serves_unknown",
            f"Unknown service type “{data['serves']}”.",
            field="serves",
            right=", ".join(SERVES),
        )


def make_service(user: User, site_id: int, data: dict[str, Any]) -> Service:
    site = site_for(user, site_id, "admin")
    _check_serves(data)
    try:
        with transaction.atomic():
            service = Service.objects.create(site=site, **data)
            audit.note(user, "service_made", service.code, site_id=site.pk, after=data)
    except IntegrityError:
        raise Refused(
            409,
            "code_taken",
            f"Service code {data['code']} is already used on this site.",
            field="code",
            value=data["code"],
        ) from None
    return service


def edit_service(user: User, service_id: int, expected: int, data: dict[str, Any]) -> Service:
    service = service_for(user, service_id, "admin")
    _check_serves(data)
    _edit(service, SERVICE_FIELDS, user, expected, data, "service")
    return service


def make_set(
    user: User,
    service_id: int,
    data: dict[str, Any],
    control: str = "starter",
    fitted_from: datetime | None = None,
) -> PumpSet:
    """A pump set of a kind, with a component at each place of its train that holds one."""
    service = service_for(user, service_id, "admin")
    kind(data["kind"])
    if COMPONENT_KINDS.get(control) != "control":
        raise Refused(
            422,
            "control_unknown",
            f"Unknown motor control “{control}”.",
            field="control",
            right=", ".join(PARTS["control"].holds),
        )
    since = fitted_from or now() - timedelta(minutes=1)
    try:
        with transaction.atomic():
            row = PumpSet.objects.create(site=service.site, service=service, **data)
            for slot in kind(row.kind).slots:
                holds = PARTS[slot].holds
                if not holds or not PARTS[slot].from_start:
                    continue
                component = Component.objects.create(
                    site=service.site,
                    kind=control if slot == "control" else holds[0],
                    label=f"{row.tag} {PARTS[slot].title.lower()}",
                )
                Fitting.objects.create(component=component, pump_set=row, slot=slot, from_at=since)
            audit.note(user, "set_made", row.tag, site_id=service.site_id, after=data)
    except IntegrityError:
        raise Refused(
            409,
            "tag_taken",
            f"Tag {data['tag']} is already used on this site.",
            field="tag",
            value=data["tag"],
        ) from None
    return row


def edit_set(user: User, set_id: int, expected: int, data: dict[str, Any]) -> PumpSet:
    row = set_for(user, set_id, "admin")
    if "service_id" in data:
        target = service_for(user, data["service_id"], "admin")
        if target.site_id != row.site_id:
            raise Refused(422, "other_site", "This service is on another site.", field="service_id")
    _edit(row, SET_FIELDS, user, expected, data, "set")
    return row
