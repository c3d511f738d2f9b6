"""A procedure copied and extended for a site: checked, versioned, never changed under a job that runs."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from hurbin_core.base import Problem
from hurbin_core.jobs.procedure import PROCEDURES, Procedure, check_procedure, procedure_of
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User
from hurbin_server.plant.access import site_for
from hurbin_server.plant.models import Site

from ..models import SiteProcedure

MOST = 400


def checked(raw: dict[str, Any]) -> tuple[Procedure, list[Problem]]:
    """The procedure of this data and what in it cannot be. Raises where it cannot be read at all."""
    procedure = procedure_of(raw)
    return procedure, check_procedure(procedure)


def keep_procedure(
    user: User, site_id: int, code: str, raw: dict[str, Any], reason: str, expected: int
) -> SiteProcedure:
    """Keep a new version of a procedure of this site. A lead's act.

    Refused where it does not close (422, with every place), or somebody kept another version meanwhile (409,
    both are shown).
    """
    site_for(user, site_id, "lead")
    procedure, problems = checked({**raw, "id": code})
    if problems:
        message = f"This procedure does not close: {problems[0].message}"
        raise Refused(422, "procedure_refused", message, problems=problems[:50])
    with transaction.atomic():
        Site.objects.select_for_update().get(pk=site_id)
        last = SiteProcedure.objects.filter(site_id=site_id, code=code).order_by("-version").first()
        version = last.version if last is not None else 0
        if version != expected:
            message = "Changed by someone else while you edited it. Both are shown: choose one."
            current = {"version": version, "data": last.data if last is not None else {}}
            raise Refused(409, "stale", message, current=current)
        if SiteProcedure.objects.filter(site_id=site_id).count() >= MOST:
            raise Refused(409, "procedures_full", f"Limit reached: {MOST} versions per site.")
        data = procedure.model_dump(mode="json", by_alias=True, exclude_defaults=True)
        before = last.data if last is not None else _shipped(code)
        row = SiteProcedure.objects.create(
            site_id=site_id,
            code=code,
            version=version + 1,
            data=data,
            reason=reason.strip(),
            by=user,
            at=now(),
        )
        moved("site", site_id, site_id)
        audit.note(
            user, "procedure_kept", f"{code} {version + 1}", site_id=site_id, before=before, after=data
        )
    return row


def _shipped(code: str) -> dict[str, Any]:
    found = PROCEDURES.get(code)
    return {} if found is None else found.model_dump(mode="json", by_alias=True, exclude_defaults=True)
