"""A site's own limit: laid over with a reason, withdrawn with a name."""

from __future__ import annotations

from django.db import transaction

from hurbin_core.base import LIMITS, check_override, to_metric, unit
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import require, site_for
from hurbin_server.plant.models import PumpSet

from ..models import LimitOverride
from .casing import override_of


def override_limit(
    user: User,
    site_id: int,
    limit: str,
    value: float | None,
    unit_code: str,
    choice: str,
    reason: str,
    set_id: int | None = None,
) -> LimitOverride:
    """Lay a figure over a limit for the site or one set. Records on file keep their judgement until they are
    judged again by command."""
    site = site_for(user, site_id, "lead")
    if not reason.strip():
        raise Refused(422, "reason_missing", "Enter the reason for the site limit.", field="reason")
    pump_set = None
    if set_id is not None:
        pump_set = PumpSet.objects.filter(pk=set_id, site=site).first()
        if pump_set is None:
            raise not_found("Pump set")
    standing = LimitOverride.objects.filter(site=site, ended_at=None).select_related("by")
    metric = value
    if value is not None and limit in LIMITS:
        own = unit(LIMITS[limit].unit)
        used = unit(unit_code or LIMITS[limit].unit)
        if used.dimension != own.dimension:
            raise Refused(
                422,
                "unit_wrong",
                f"{LIMITS[limit].title} cannot be set in {used.symbol}.",
                field="unit",
                right=own.symbol,
            )
        metric = to_metric(value, used.code)
    check_override(
        limit, metric, choice, [override_of(r) for r in standing if r.pump_set_id in (None, set_id)]
    )
    with transaction.atomic():
        standing.filter(limit=limit, pump_set=pump_set).update(ended_at=now(), ended_by=user)
        row = LimitOverride.objects.create(
            site=site,
            pump_set=pump_set,
            limit=limit,
            value=value,
            unit=unit_code,
            choice=choice,
            reason=reason.strip(),
            by=user,
            at=now(),
        )
        audit.note(
            user,
            "limit_overridden",
            limit,
            site_id=site.pk,
            after={"value": value, "choice": choice, "reason": reason},
        )
    return row


def withdraw(user: User, override_id: int) -> None:
    row = LimitOverride.objects.filter(pk=override_id, ended_at=None).first()
    if row is None:
        raise not_found("Site limit")
    require(user, row.site_id, "lead")
    row.ended_at, row.ended_by = now(), user
    row.save(update_fields=["ended_at", "ended_by"])
    audit.note(user, "override_withdrawn", row.limit, site_id=row.site_id)
