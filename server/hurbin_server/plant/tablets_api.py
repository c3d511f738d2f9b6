"""Tablets of several people: who they are, coming in by a PIN, making and ending one."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status
from ninja.utils import check_csrf
from pydantic import BaseModel, Field

from hurbin_core.plant import OneLine
from hurbin_server.base import audit, pins
from hurbin_server.base.address import address_of
from hurbin_server.base.api import SessionOut, session_of
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS, Refused
from hurbin_server.base.limiting import SIGN_IN
from hurbin_server.base.models import Tablet
from hurbin_server.base.tablets import come_in, give_key, share, tablet_of

from .models import Site
from .services import tablets

router = DoorRouter(tags=["tablets"])
# Wrong PINs are counted whatever the request comes to: coming in is no act that could be taken back.
by_pin = Router(tags=["tablets"])


class TabletPersonOut(BaseModel):
    username: str
    full_name: str
    rests: bool


class TabletHereOut(BaseModel):
    """The tablet that asks, and who may come in there by a PIN. title: empty where it is none."""

    title: str = ""
    site: str = ""
    people: list[TabletPersonOut] = []


class TabletIn(BaseModel):
    title: OneLine = Field(min_length=1, max_length=60, title="What this tablet is called")


class TabletOut(BaseModel):
    """One of the site's. here: it is the one that asks."""

    id: int
    title: str
    by: str
    made_at: datetime
    used_at: datetime | None
    ended_at: datetime | None
    here: bool


class ByPinIn(BaseModel):
    username: str = Field(max_length=60)
    pin: str = Field(max_length=20)


def _out(t: Tablet, here: Tablet | None) -> TabletOut:
    return TabletOut(
        id=t.pk,
        title=t.title,
        by=t.made_by.full_name,
        made_at=t.made_at,
        used_at=t.used_at,
        ended_at=t.ended_at,
        here=here is not None and here.pk == t.pk,
    )


@by_pin.get("/tablet", auth=None, response={200: TabletHereOut, 503: ERRORS[503]}, operation_id="tablet_here")
def tablet_here(request: HttpRequest) -> TabletHereOut:
    tablet = tablet_of(request)
    if tablet is None:
        return TabletHereOut()
    return TabletHereOut(
        title=tablet.title,
        site=Site.objects.get(pk=tablet.site).name,
        people=[
            TabletPersonOut(username=p.username, full_name=p.full_name, rests=pins.state_of(p) == "rests")
            for p in tablets.people_of(tablet)
        ],
    )


@by_pin.post(
    "/tablet/session",
    auth=None,
    response={200: SessionOut, **ERRORS},
    operation_id="come_in_by_pin",
    throttle=SIGN_IN,
)
def come_in_by_pin(request: HttpRequest, body: ByPinIn) -> SessionOut:
    """Sign in by PIN, on a tablet of the site alone; whoever was signed in there before is signed out."""
    if check_csrf(request) is not None:
        raise Refused(403, "csrf", "This page has expired. Reload it and sign in.")
    tablet = tablet_of(request)
    if tablet is None:
        raise Refused(409, "no_tablet", "This browser is no shared tablet. Sign in with your password.")
    person = tablets.known_by_pin(tablet, body.username, body.pin)
    come_in(request, person, tablet, by_pin=True)
    audit.note(person, "signed_in", address_of(request), after={"tablet": tablet.title, "by": "PIN"})
    return session_of(request)


@router.get(
    "/sites/{site_id}/tablets", response={200: list[TabletOut], **ERRORS}, operation_id="tablets_on_site"
)
def tablets_on_site(request: HttpRequest, site_id: int) -> list[TabletOut]:
    here = tablet_of(request)
    return [_out(t, here) for t in tablets.tablets_on(request.user, site_id)]


@router.post("/sites/{site_id}/tablets", response={201: TabletOut, **ERRORS}, operation_id="make_tablet")
def make_tablet(request: HttpRequest, response: HttpResponse, site_id: int, body: TabletIn) -> Status:
    """The browser that asks is a shared tablet from here on, this session with it."""
    made, key = tablets.make_tablet(request.user, site_id, body.title)
    share(request, made)
    give_key(response, key)
    return Status(201, _out(made, made))


@router.post("/tablets/{tablet_id}/end", response={200: TabletOut, **ERRORS}, operation_id="end_tablet")
def end_tablet(request: HttpRequest, tablet_id: int) -> TabletOut:
    """Whoever is signed in on it is signed out with it."""
    return _out(tablets.end(request.user, tablet_id), tablet_of(request))
