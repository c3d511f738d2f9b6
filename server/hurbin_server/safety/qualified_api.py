"""Qualifications of the people of a site: thin."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Status

from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS
from hurbin_server.base.prefs import prefs_of

from . import qualified_out as q
from .services import qualifying

router = DoorRouter(tags=["safety"])


def _page(request: HttpRequest, site_id: int) -> q.QualificationsOut:
    return q.qualifications(request.user, site_id, prefs_of(request.user))


@router.get(
    "/sites/{site_id}/qualifications",
    response={200: q.QualificationsOut, **ERRORS},
    operation_id="qualifications",
)
def qualifications(request: HttpRequest, site_id: int) -> q.QualificationsOut:
    return _page(request, site_id)


@router.post(
    "/sites/{site_id}/qualifications",
    response={201: q.QualificationsOut, **ERRORS},
    operation_id="qualify",
)
def qualify(request: HttpRequest, site_id: int, body: q.QualifyIn) -> Status:
    qualifying.qualify(request.user, site_id, **body.model_dump())
    return Status(201, _page(request, site_id))


@router.post(
    "/qualifications/{qualification_id}/withdraw",
    response={200: q.QualificationsOut, **ERRORS},
    operation_id="withdraw_qualification",
)
def withdraw(request: HttpRequest, qualification_id: int, body: q.WithdrawIn) -> q.QualificationsOut:
    row = qualifying.withdraw(request.user, qualification_id, body.because)
    return _page(request, row.site_id)
